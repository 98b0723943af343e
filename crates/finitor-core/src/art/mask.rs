//! Sets of pixels.

use super::PixelRect;

/// A set of pixels within a cell.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Mask {
    width: u32,
    height: u32,
    bits: Vec<bool>,
}

/// A run of set pixels in one row: the rectangle [start, end] x [row, row + 1] in cell space.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Run {
    /// The row, from the top.
    pub row: u32,
    /// The first column.
    pub start: u32,
    /// The column after the last.
    pub end: u32,
}

impl Run {
    /// Pixels in it.
    pub fn len(&self) -> u32 {
        self.end - self.start
    }

    /// Whether it holds no pixel; no run of a mask is empty.
    pub fn is_empty(&self) -> bool {
        self.end == self.start
    }
}

impl Mask {
    /// The pixels for which `set(x, y)` holds.
    pub fn from_fn(width: u32, height: u32, mut set: impl FnMut(u32, u32) -> bool) -> Mask {
        let mut bits = Vec::with_capacity(width as usize * height as usize);
        for y in 0..height {
            bits.extend((0..width).map(|x| set(x, y)));
        }
        Mask { width, height, bits }
    }

    /// The mask of `bits`, row by row, `width * height` of them.
    pub(super) fn from_bits(width: u32, height: u32, bits: Vec<bool>) -> Mask {
        debug_assert_eq!(bits.len() as u64, u64::from(width) * u64::from(height));
        Mask { width, height, bits }
    }

    /// Columns of the cell.
    pub fn width(&self) -> u32 {
        self.width
    }

    /// Rows of the cell.
    pub fn height(&self) -> u32 {
        self.height
    }

    /// Whether the pixel is set; outside the cell none is.
    pub fn get(&self, x: i64, y: i64) -> bool {
        let inside = x >= 0 && y >= 0 && x < i64::from(self.width) && y < i64::from(self.height);
        inside && self.bits[y as usize * self.width as usize + x as usize]
    }

    /// One row, left to right.
    ///
    /// # Panics
    /// When `y` is not below the height.
    pub fn row(&self, y: u32) -> &[bool] {
        &self.bits[(y as usize * self.width as usize)..][..self.width as usize]
    }

    /// Number of set pixels.
    pub fn count(&self) -> u64 {
        self.bits.iter().filter(|bit| **bit).count() as u64
    }

    /// Whether no pixel is set.
    pub fn is_empty(&self) -> bool {
        !self.bits.contains(&true)
    }

    /// The smallest rectangle that holds all set pixels; `None` when there are none.
    pub fn bounds(&self) -> Option<PixelRect> {
        let runs = self.runs();
        let (first, last) = (runs.first()?, runs.last()?);
        let x = runs.iter().map(|run| run.start).min()?;
        let right = runs.iter().map(|run| run.end).max()?;
        Some(PixelRect { x, y: first.row, width: right - x, height: last.row + 1 - first.row })
    }

    /// The runs of set pixels, row by row from the top, left to right.
    pub fn runs(&self) -> Vec<Run> {
        let mut runs = Vec::new();
        for row in 0..self.height {
            let mut start = None;
            for (x, set) in self.row(row).iter().copied().chain([false]).enumerate() {
                match (start, set) {
                    (None, true) => start = Some(x as u32),
                    (Some(from), false) => {
                        runs.push(Run { row, start: from, end: x as u32 });
                        start = None;
                    }
                    _ => {}
                }
            }
        }
        runs
    }

    /// Sets every pixel that a pixel of `other` overlaps once that is moved by (dx, dy); a move by whole pixels sets
    /// just the moved ones. What falls outside is left out.
    ///
    /// # Complexity
    /// O(pixels of `other`).
    pub fn stamp(&mut self, other: &Mask, dx: f64, dy: f64) {
        let spans = |at: u32, by: f64, most: u32| {
            let (from, to) = ((f64::from(at) + by).floor(), (f64::from(at) + by + 1.0).ceil());
            from.max(0.0) as u32..to.clamp(0.0, f64::from(most)) as u32
        };
        for run in other.runs() {
            let start = spans(run.start, dx, self.width).start;
            let end = spans(run.end.saturating_sub(1), dx, self.width).end;
            for row in spans(run.row, dy, self.height) {
                if start < end {
                    let line = row as usize * self.width as usize;
                    self.bits[line + start as usize..line + end as usize].fill(true);
                }
            }
        }
    }

    /// The pixels set in both.
    ///
    /// # Panics
    /// When the sizes differ.
    #[must_use]
    pub fn and(&self, other: &Mask) -> Mask {
        self.combined(other, |a, b| a && b)
    }

    /// The pixels set in either.
    ///
    /// # Panics
    /// When the sizes differ.
    #[must_use]
    pub fn or(&self, other: &Mask) -> Mask {
        self.combined(other, |a, b| a || b)
    }

    fn combined(&self, other: &Mask, rule: impl Fn(bool, bool) -> bool) -> Mask {
        assert_eq!((self.width, self.height), (other.width, other.height), "masks of one size");
        let bits = self.bits.iter().zip(&other.bits).map(|(a, b)| rule(*a, *b)).collect();
        Mask { width: self.width, height: self.height, bits }
    }

    /// The pixels inside the rectangle [x0, x1) x [y0, y1), whose sides may lie anywhere.
    #[must_use]
    pub fn within(&self, x0: f64, y0: f64, x1: f64, y1: f64) -> Mask {
        Mask::from_fn(self.width, self.height, |x, y| {
            let (cx, cy) = (f64::from(x) + 0.5, f64::from(y) + 0.5);
            self.get(x.into(), y.into()) && cx >= x0 && cx < x1 && cy >= y0 && cy < y1
        })
    }

    /// The mask with every enclosed hole filled: pixels that no path of side-by-side unset pixels joins to the
    /// outside.
    ///
    /// A hole that reaches the outside only through a corner counts as enclosed. That is the partner of the rule for
    /// [contours](super::contours), that pixels touching only at a corner are apart: with both, no contour of a
    /// filled mask touches itself.
    ///
    /// # Complexity
    /// O(pixels).
    #[must_use]
    pub fn filled(&self) -> Mask {
        let (width, height) = (i64::from(self.width), i64::from(self.height));
        let mut outside = vec![false; self.bits.len()];
        let mut open: Vec<(i64, i64)> = (0..width).flat_map(|x| [(x, 0), (x, height - 1)]).collect();
        open.extend((0..height).flat_map(|y| [(0, y), (width - 1, y)]));
        while let Some((x, y)) = open.pop() {
            if x < 0 || y < 0 || x >= width || y >= height || self.get(x, y) {
                continue;
            }
            let seen = &mut outside[(y * width + x) as usize];
            if !std::mem::replace(seen, true) {
                open.extend([(x - 1, y), (x + 1, y), (x, y - 1), (x, y + 1)]);
            }
        }
        let bits = outside.into_iter().map(|out| !out).collect();
        Mask { width: self.width, height: self.height, bits }
    }
}
