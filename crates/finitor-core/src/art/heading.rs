//! Words above the frames of a sheet.

use super::gaps::{Way, parted};
use super::summed::SummedArea;
use super::{Mask, PixelRect};
use std::ops::Range;

/// Words are at most this high, px.
const HIGHEST: u32 = 24;
/// What is below them is at least this many times as high.
const HIGHER: u32 = 2;
/// Words have at least this many letters.
const LETTERS: usize = 4;

/// The rows at the top of a sheet that look like words: a low band of art in more pieces than the frames below could be beside each
/// other.
///
/// # Complexity
/// O(pixels).
pub(super) fn heading(art: &Mask) -> Option<Range<u32>> {
    let sums = SummedArea::new(art);
    let whole = PixelRect { x: 0, y: 0, width: art.width(), height: art.height() };
    let bands = parted(&sums, whole, Way::Rows, 1);
    let (first, below) = bands.split_first()?;
    let high = below.iter().map(|band| band.height).max()?;
    let letters = parted(&sums, *first, Way::Columns, 1);
    let (left, right) = (letters.first()?, letters.last()?);
    // Frames are about as wide as they are high.
    let beside = (right.x + right.width - left.x).div_ceil(high) as usize;
    let is_low = first.height <= HIGHEST && first.height * HIGHER <= high;
    (is_low && letters.len() >= LETTERS.max(2 * beside)).then_some(first.y..first.y + first.height)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_over_frames_are_seen_and_a_row_of_small_frames_is_none() {
        let figure = |x: u32, y: u32| (x % 48).abs_diff(24) < 12 && (y % 48) > 8;
        let letter = |x: u32, y: u32| {
            (4..90).contains(&x) && x % 6 < 4 && (3..11).contains(&y) && !(x * 7 + y * 5).is_multiple_of(3)
        };
        let sheet = |top: &dyn Fn(u32, u32) -> bool| {
            Mask::from_fn(192, 110, |x, y| if y < 14 { top(x, y) } else { figure(x, y - 14) })
        };
        assert_eq!(heading(&sheet(&letter)), Some(3..11));
        // Sparks, one a frame, and one low thing alone.
        assert_eq!(heading(&sheet(&|x, y| (x % 48).abs_diff(24) < 3 && (4..10).contains(&y))), None);
        assert_eq!(heading(&sheet(&|x, y| x < 60 && (4..10).contains(&y))), None);
        assert_eq!(heading(&sheet(&|_, _| false)), None);
        assert_eq!(heading(&Mask::empty(9, 9)), None);
    }
}
