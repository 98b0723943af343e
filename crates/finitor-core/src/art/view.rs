//! A part of a picture, looked at where it is.

use super::{Mask, Picture, PixelRect, Run};

/// A cell of a picture, not copied. Its coordinates are those of the cell.
#[derive(Clone, Copy, Debug)]
pub struct View<'a> {
    picture: &'a Picture,
    rect: PixelRect,
}

impl Picture {
    /// The part inside `rect`, or `None` when the rectangle reaches past the picture.
    pub fn view(&self, rect: PixelRect) -> Option<View<'_>> {
        let right = rect.x.checked_add(rect.width)?;
        let bottom = rect.y.checked_add(rect.height)?;
        (right <= self.width && bottom <= self.height).then_some(View { picture: self, rect })
    }

    /// All of it.
    pub fn whole(&self) -> View<'_> {
        View { picture: self, rect: PixelRect { x: 0, y: 0, width: self.width, height: self.height } }
    }
}

impl View<'_> {
    /// Columns.
    pub fn width(&self) -> u32 {
        self.rect.width
    }

    /// Rows.
    pub fn height(&self) -> u32 {
        self.rect.height
    }

    /// One row of pixels, left to right.
    ///
    /// # Panics
    /// When `y` is not below the height.
    pub fn row(&self, y: u32) -> &[[u8; 4]] {
        &self.picture.row(self.rect.y + y)[self.rect.x as usize..][..self.rect.width as usize]
    }

    /// The part as a picture of its own.
    pub fn to_picture(&self) -> Picture {
        let mut pixels = Vec::with_capacity(self.rect.width as usize * self.rect.height as usize);
        for y in 0..self.rect.height {
            pixels.extend_from_slice(self.row(y));
        }
        Picture { width: self.rect.width, height: self.rect.height, pixels }
    }

    /// The pixels whose alpha is at least `alpha`, and not 0.
    pub fn opaque(&self, alpha: u8) -> Mask {
        let alpha = alpha.max(1);
        let mut words = Vec::with_capacity(self.rect.width.div_ceil(64) as usize * self.rect.height as usize);
        for y in 0..self.rect.height {
            words.extend(self.row(y).chunks(64).map(|block| bits(block, alpha)));
        }
        Mask::from_words(self.rect.width, self.rect.height, words)
    }

    /// The pixels of [`View::opaque`] as runs, row by row, left to right.
    pub fn opaque_runs(&self, alpha: u8) -> Vec<Run> {
        self.runs([alpha]).into_iter().next().unwrap_or_default()
    }

    /// The same for several alphas at once, from the lowest up.
    pub fn runs<const N: usize>(&self, alphas: [u8; N]) -> [Vec<Run>; N] {
        let mut runs = [const { Vec::new() }; N];
        for runs in &mut runs {
            runs.reserve(2 * self.rect.height as usize);
        }
        for y in 0..self.rect.height {
            let mut open = [const { Open { start: 0, before: 0 } }; N];
            // Behind the last pixel nothing is set, which ends a run that reaches the row's end: a block of none where the last is full.
            let row = self.row(y);
            let blocks = (0..=row.len() / 64).map(|index| &row[index * 64..row.len().min(index * 64 + 64)]);
            for (index, block) in blocks.enumerate() {
                let mut any = true;
                for n in 0..N {
                    // Where no pixel reaches an alpha none reaches a higher one.
                    let set = if any { bits(block, alphas[n].max(1)) } else { 0 };
                    any = set != 0;
                    open[n].add(index * 64, set, y, &mut runs[n]);
                }
            }
        }
        runs
    }
}

/// A run of a row that has not ended yet. Rows are looked at 64 pixels at a time: runs begin and end where the bits of a
/// word change.
struct Open {
    start: u32,
    /// Whether the pixel before is set, as a word of one bit.
    before: u64,
}

impl Open {
    fn add(&mut self, first: usize, set: u64, row: u32, runs: &mut Vec<Run>) {
        let mut edges = set ^ (set << 1 | self.before);
        while edges != 0 {
            let bit = edges.trailing_zeros();
            let at = first as u32 + bit;
            if set >> bit & 1 == 1 {
                self.start = at;
            } else {
                runs.push(Run { row, start: self.start, end: at });
            }
            edges &= edges - 1;
        }
        self.before = set >> 63;
    }
}

/// Which of at most 64 pixels are set, the first in the lowest bit. Eight at a time and kept apart from its caller, so that
/// compilers make vector code of it.
#[inline(never)]
fn bits(pixels: &[[u8; 4]], alpha: u8) -> u64 {
    const WEIGHTS: [u32; 8] = [1, 2, 4, 8, 16, 32, 64, 128];
    // Alpha is the highest byte, so the others do not matter to the comparison.
    let least = u32::from(alpha) << 24;
    let is_set = |pixel: [u8; 4]| u32::from_le_bytes(pixel) >= least;
    let (eights, rest) = pixels.as_chunks::<8>();
    let mut bytes = [0; 8];
    for (byte, eight) in bytes.iter_mut().zip(eights) {
        let mut set = [0; 8];
        for i in 0..8 {
            set[i] = if is_set(eight[i]) { WEIGHTS[i] } else { 0 };
        }
        *byte = set.iter().sum::<u32>() as u8;
    }
    let of_rest = rest.iter().enumerate().map(|(at, pixel)| u64::from(is_set(*pixel)) << (eights.len() * 8 + at));
    u64::from_le_bytes(bytes) | of_rest.sum::<u64>()
}
