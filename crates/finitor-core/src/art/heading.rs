//! Words above the frames of a sheet.

use super::Mask;
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
/// O(pixels / 64 + runs).
pub(super) fn heading(art: &Mask) -> Option<Range<u32>> {
    let bands = bands(art.height(), |y| art.words(y).iter().any(|word| *word != 0));
    let (first, below) = bands.split_first()?;
    let high = below.iter().map(|band| band.end - band.start).max()?;
    let own = first.end - first.start;
    let mut filled = vec![false; art.width() as usize];
    for run in art.runs().iter().take_while(|run| run.row < first.end) {
        filled[run.start as usize..run.end as usize].fill(true);
    }
    let letters = self::bands(art.width(), |x| filled[x as usize]);
    let span = letters.last()?.end - letters.first()?.start;
    // Frames are about as wide as they are high.
    let beside = (span.div_ceil(high.max(1)) as usize).max(1);
    let is_heading = own <= HIGHEST && own * HIGHER <= high && letters.len() >= LETTERS.max(2 * beside);
    is_heading.then(|| first.clone())
}

/// The stretches of an axis in which something holds.
fn bands(length: u32, holds: impl Fn(u32) -> bool) -> Vec<Range<u32>> {
    let mut found: Vec<Range<u32>> = Vec::new();
    for at in (0..length).filter(|at| holds(*at)) {
        match found.last_mut() {
            Some(last) if last.end == at => last.end += 1,
            _ => found.push(at..at + 1),
        }
    }
    found
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
