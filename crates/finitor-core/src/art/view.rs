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
            let (blocks, rest) = self.row(y).as_chunks::<64>();
            words.extend(blocks.iter().map(|block| bits(block, alpha)));
            if !rest.is_empty() {
                words.push(bits(&filled_up(rest), alpha));
            }
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
            let mut add = |first: usize, block: Option<&[[u8; 4]; 64]>| {
                let mut any = true;
                for n in 0..N {
                    // Where no pixel reaches an alpha none reaches a higher one.
                    let set = block.filter(|_| any).map_or(0, |block| bits(block, alphas[n].max(1)));
                    any = set != 0;
                    open[n].add(first, set, y, &mut runs[n]);
                }
            };
            let (blocks, rest) = self.row(y).as_chunks::<64>();
            for (index, block) in blocks.iter().enumerate() {
                add(index * 64, Some(block));
            }
            if rest.is_empty() {
                // Nothing follows: that ends a run that reaches the row's end.
                add(blocks.len() * 64, None);
            } else {
                add(blocks.len() * 64, Some(&filled_up(rest)));
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

/// The rest of a row, filled up with pixels that no alpha counts, which end its last run too.
fn filled_up(rest: &[[u8; 4]]) -> [[u8; 4]; 64] {
    let mut block = [[0; 4]; 64];
    block[..rest.len()].copy_from_slice(rest);
    block
}

/// Which of 64 pixels are set, the first in the lowest bit. Eight at a time and kept apart from its caller, so that
/// compilers make vector code of it.
#[inline(never)]
fn bits(pixels: &[[u8; 4]; 64], alpha: u8) -> u64 {
    const WEIGHTS: [u32; 8] = [1, 2, 4, 8, 16, 32, 64, 128];
    // Alpha is the highest byte, so the others do not matter to the comparison.
    let least = u32::from(alpha) << 24;
    let mut bytes = [0; 8];
    for (byte, eight) in bytes.iter_mut().zip(pixels.as_chunks::<8>().0) {
        let mut set = [0; 8];
        for i in 0..8 {
            set[i] = if u32::from_le_bytes(eight[i]) >= least { WEIGHTS[i] } else { 0 };
        }
        *byte = set.iter().sum::<u32>() as u8;
    }
    u64::from_le_bytes(bytes)
}
