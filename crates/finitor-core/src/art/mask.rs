//! Sets of pixels.

use super::patches::Patches;
use super::{PixelRect, Run};

/// A set of pixels within a cell.
///
/// Held as bits, 64 pixels of a row in a word, so that sets are joined, counted and searched a word at a time.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Mask {
    width: u32,
    height: u32,
    /// Words of a row.
    stride: usize,
    /// Row by row; the lowest bit is the leftmost pixel, and bits past the width are unset.
    words: Vec<u64>,
}

const WORD: u32 = u64::BITS;

impl Mask {
    /// A mask with no pixel set.
    pub fn empty(width: u32, height: u32) -> Mask {
        let stride = width.div_ceil(WORD) as usize;
        Mask { width, height, stride, words: vec![0; stride * height as usize] }
    }

    /// The pixels for which `set(x, y)` holds.
    pub fn from_fn(width: u32, height: u32, mut set: impl FnMut(u32, u32) -> bool) -> Mask {
        let mut mask = Mask::empty(width, height);
        for y in 0..height {
            for x in 0..width {
                if set(x, y) {
                    mask.words[y as usize * mask.stride + (x / WORD) as usize] |= 1 << (x % WORD);
                }
            }
        }
        mask
    }

    /// The mask whose rows have these words; bits past the width must be unset.
    pub(super) fn from_words(width: u32, height: u32, words: Vec<u64>) -> Mask {
        let stride = width.div_ceil(WORD) as usize;
        debug_assert_eq!(words.len(), stride * height as usize);
        Mask { width, height, stride, words }
    }

    /// The mask of runs, in any order.
    pub(crate) fn from_runs(width: u32, height: u32, runs: impl IntoIterator<Item = Run>) -> Mask {
        let mut mask = Mask::empty(width, height);
        runs.into_iter().for_each(|run| mask.set_run(run));
        mask
    }

    fn set_run(&mut self, run: Run) {
        if run.start >= run.end {
            return;
        }
        let row = &mut self.words[run.row as usize * self.stride..][..self.stride];
        let (first, last) = ((run.start / WORD) as usize, ((run.end - 1) / WORD) as usize);
        let from = u64::MAX << (run.start % WORD);
        let to = u64::MAX >> (WORD - 1 - (run.end - 1) % WORD);
        if first == last {
            row[first] |= from & to;
        } else {
            row[first] |= from;
            row[first + 1..last].fill(u64::MAX);
            row[last] |= to;
        }
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
    #[inline]
    pub fn get(&self, x: i64, y: i64) -> bool {
        // Below 0 they are more than any size.
        let inside = (x as u64) < u64::from(self.width) && (y as u64) < u64::from(self.height);
        inside && self.words[y as usize * self.stride + (x as u32 / WORD) as usize] >> (x as u32 % WORD) & 1 == 1
    }

    /// One row, 64 pixels a word, the leftmost in the lowest bit of the first.
    pub(crate) fn words(&self, y: u32) -> &[u64] {
        &self.words[y as usize * self.stride..][..self.stride]
    }

    /// One row, left to right.
    pub fn row(&self, y: u32) -> impl Iterator<Item = bool> + '_ {
        let words = self.words(y);
        (0..self.width).map(move |x| words[(x / WORD) as usize] >> (x % WORD) & 1 == 1)
    }

    /// Number of set pixels.
    pub fn count(&self) -> u64 {
        self.words.iter().map(|word| u64::from(word.count_ones())).sum()
    }

    /// Whether no pixel is set.
    pub fn is_empty(&self) -> bool {
        self.words.iter().all(|word| *word == 0)
    }

    /// The smallest rectangle that holds all set pixels; `None` when there are none.
    pub fn bounds(&self) -> Option<PixelRect> {
        let used = |y: &u32| self.words(*y).iter().any(|word| *word != 0);
        let (first, last) = ((0..self.height).find(used)?, (0..self.height).rev().find(used)?);
        let mut columns = vec![0; self.stride];
        for y in first..=last {
            columns.iter_mut().zip(self.words(y)).for_each(|(all, word)| *all |= word);
        }
        let left = columns.iter().position(|word| *word != 0)?;
        let right = columns.iter().rposition(|word| *word != 0)?;
        let x = left as u32 * WORD + columns[left].trailing_zeros();
        let end = (right as u32 + 1) * WORD - columns[right].leading_zeros();
        Some(PixelRect { x, y: first, width: end - x, height: last + 1 - first })
    }

    /// The runs of set pixels, row by row from the top, left to right.
    pub fn runs(&self) -> Vec<Run> {
        let mut runs = Vec::with_capacity(2 * self.height as usize);
        for row in 0..self.height {
            let mut open = None;
            let mut before = 0;
            for (index, &set) in self.words(row).iter().enumerate() {
                // Runs begin and end where a bit differs from the one before it.
                let mut edges = set ^ (set << 1 | before);
                while edges != 0 {
                    let at = index as u32 * WORD + edges.trailing_zeros();
                    match open.take() {
                        None => open = Some(at),
                        Some(start) => runs.push(Run { row, start, end: at }),
                    }
                    edges &= edges - 1;
                }
                before = set >> (WORD - 1);
            }
            // Only a run that reaches the right side of a cell of whole words is open still.
            runs.extend(open.map(|start| Run { row, start, end: self.width }));
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
                self.set_run(Run { row, start, end });
            }
        }
    }

    /// The pixels set in both.
    ///
    /// # Panics
    /// When the sizes differ.
    #[must_use]
    pub fn and(&self, other: &Mask) -> Mask {
        self.combined(other, |a, b| a & b)
    }

    /// The pixels set in either.
    ///
    /// # Panics
    /// When the sizes differ.
    #[must_use]
    pub fn or(&self, other: &Mask) -> Mask {
        self.combined(other, |a, b| a | b)
    }

    /// The pixels set here and not in `other`.
    ///
    /// # Panics
    /// When the sizes differ.
    #[must_use]
    pub fn without(&self, other: &Mask) -> Mask {
        self.combined(other, |a, b| a & !b)
    }

    fn combined(&self, other: &Mask, rule: impl Fn(u64, u64) -> u64) -> Mask {
        assert_eq!((self.width, self.height), (other.width, other.height), "masks of one size");
        let words = self.words.iter().zip(&other.words).map(|(a, b)| rule(*a, *b)).collect();
        Mask { words, ..*self }
    }

    /// The pixels of the cell that are not set.
    #[must_use]
    pub fn inverted(&self) -> Mask {
        Mask::cell(self.width, self.height).without(self)
    }

    /// All pixels of a cell.
    fn cell(width: u32, height: u32) -> Mask {
        Mask::from_runs(width, height, (0..height).map(|row| Run { row, start: 0, end: width }))
    }

    /// The pixels inside the rectangle [x0, x1) x [y0, y1), whose sides may lie anywhere: those whose middle is inside.
    #[must_use]
    pub fn within(&self, x0: f64, y0: f64, x1: f64, y1: f64) -> Mask {
        // Middles at or past a side: the first pixel at least that far, and one at least for what is not a number.
        let first = |side: f64, most: u32| (side - 0.5).ceil().clamp(0.0, f64::from(most)) as u32;
        let (start, end) = (first(x0, self.width), first(x1, self.width));
        let rows = first(y0, self.height)..first(y1, self.height);
        self.and(&Mask::from_runs(self.width, self.height, rows.map(|row| Run { row, start, end })))
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
        self.filled_below(u64::MAX)
    }

    /// The mask with the enclosed holes of fewer than `pixels` pixels filled; see [`Mask::filled`].
    ///
    /// # Complexity
    /// O(pixels).
    #[must_use]
    pub fn filled_below(&self, pixels: u64) -> Mask {
        let unset = Patches::of(&self.inverted());
        let mut filled = self.clone();
        let holes = unset.runs().filter(|(_, patch)| !patch.at_border && patch.pixels < pixels);
        holes.for_each(|(run, _)| filled.set_run(run));
        filled
    }
}
