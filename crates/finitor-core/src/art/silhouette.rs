//! A frame's opaque pixels in a few letters, to tell later what became of them.

use super::Run;

/// The opaque pixels of a frame as lengths of alternating runs, unset first, over all rows one after another.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Silhouette {
    width: u32,
    height: u32,
    lengths: Vec<u32>,
}

/// Pixels that came and went between two silhouettes of one size.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct SilhouetteChange {
    /// Opaque now, not before.
    pub came: u64,
    /// Opaque before, not now.
    pub went: u64,
}

/// Five bits a letter, the sixth says that more follow.
const LETTERS: &[u8; 64] = b"ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_";

impl Silhouette {
    /// The silhouette of a frame of `width` x `height` px from the runs of its opaque pixels, row by row, left to right.
    pub fn new(width: u32, height: u32, runs: &[Run]) -> Silhouette {
        let mut lengths = Vec::with_capacity(2 * runs.len());
        let mut at = 0;
        for run in runs {
            let start = run.row * width + run.start;
            if start == at && !lengths.is_empty() {
                // The run goes on from the end of the row before.
                if let Some(last) = lengths.last_mut() {
                    *last += run.len();
                }
            } else {
                lengths.extend([start - at, run.len()]);
            }
            at = start + run.len();
        }
        Silhouette { width, height, lengths }
    }

    /// Size of the frame, px.
    pub fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    /// Number of opaque pixels.
    pub fn count(&self) -> u64 {
        self.lengths.iter().skip(1).step_by(2).map(|length| u64::from(*length)).sum()
    }

    /// Start and end of the opaque stretches in the order of the pixels.
    fn stretches(&self) -> impl Iterator<Item = (u64, u64)> + '_ {
        let mut at = 0;
        self.lengths.chunks(2).map(move |pair| {
            let start = at + u64::from(pair[0]);
            at = start + u64::from(pair.get(1).copied().unwrap_or(0));
            (start, at)
        })
    }

    /// The runs of opaque pixels, row by row, left to right.
    pub fn runs(&self) -> Vec<Run> {
        let width = u64::from(self.width).max(1);
        let mut runs = Vec::new();
        for (mut start, end) in self.stretches() {
            while start < end {
                let row = start / width;
                let stop = end.min((row + 1) * width);
                let column = |at: u64| (at - row * width) as u32;
                runs.push(Run { row: row as u32, start: column(start), end: column(stop) });
                start = stop;
            }
        }
        runs
    }

    /// What came and what went since `before`; `None` when the sizes differ.
    ///
    /// # Complexity
    /// O(runs).
    pub fn since(&self, before: &Silhouette) -> Option<SilhouetteChange> {
        if self.size() != before.size() {
            return None;
        }
        let mut shared = 0;
        let (mut ours, mut theirs) = (self.stretches().peekable(), before.stretches().peekable());
        while let (Some(&(a0, a1)), Some(&(b0, b1))) = (ours.peek(), theirs.peek()) {
            shared += a1.min(b1).saturating_sub(a0.max(b0));
            if a1 <= b1 {
                ours.next();
            } else {
                theirs.next();
            }
        }
        Some(SilhouetteChange { came: self.count() - shared, went: before.count() - shared })
    }

    /// The runs in letters.
    pub fn to_text(&self) -> String {
        let mut text = String::new();
        for length in &self.lengths {
            let mut rest = *length;
            loop {
                let (low, high) = (rest & 31, rest >> 5);
                let more = if high > 0 { 32 } else { 0 };
                text.push(char::from(LETTERS[(low | more) as usize]));
                if high == 0 {
                    break;
                }
                rest = high;
            }
        }
        text
    }

    /// Reads what [`Silhouette::to_text`] wrote; `None` for anything else, or where the runs do not fit into the size.
    pub fn parse(text: &str, width: u32, height: u32) -> Option<Silhouette> {
        let mut lengths = Vec::new();
        let (mut value, mut shift) = (0_u32, 0);
        for letter in text.bytes() {
            let bits = LETTERS.iter().position(|known| *known == letter)? as u32;
            value |= (bits & 31).checked_shl(shift).filter(|_| shift <= 25)?;
            shift += 5;
            if bits < 32 {
                lengths.push(value);
                (value, shift) = (0, 0);
            }
        }
        let total: u64 = lengths.iter().map(|length| u64::from(*length)).sum();
        let room = u64::from(width) * u64::from(height);
        (shift == 0 && lengths.len() % 2 == 0 && total <= room).then_some(Silhouette { width, height, lengths })
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::art::{Mask, Picture};

    #[test]
    fn letters_give_back_the_pixels_and_the_change_is_an_exact_count() {
        // A few hundred small masks from a linear congruential generator, full and empty ones among them.
        let mut state = 7_u64;
        let mut next = |below: u64| {
            state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (state >> 33) % below
        };
        for round in 0..300 {
            let (width, height) = (1 + next(70) as u32, 1 + next(9) as u32);
            let share = [0, 10, 5, 9][round % 4];
            let mut mask = || Mask::from_fn(width, height, |_, _| next(10) < share);
            let (one, other) = (mask(), mask());
            let silhouette = |mask: &Mask| Silhouette::new(width, height, &mask.runs());
            let (a, b) = (silhouette(&one), silhouette(&other));
            let pixels =
                (0..height).flat_map(|y| one.row(y)).map(|set| [0, 0, 0, if *set { 128 } else { 127 }]).collect();
            let picture = Picture::new(width, height, pixels).expect("as many pixels");
            assert_eq!(picture.whole().opaque_runs(128), one.runs());
            assert_eq!(Silhouette::parse(&a.to_text(), width, height), Some(a.clone()));
            assert_eq!(a.runs(), one.runs());
            let count = |rule: fn(bool, bool) -> bool| {
                let all = (0..i64::from(height)).flat_map(|y| (0..i64::from(width)).map(move |x| (x, y)));
                all.filter(|&(x, y)| rule(one.get(x, y), other.get(x, y))).count() as u64
            };
            let expected = SilhouetteChange { came: count(|a, b| a && !b), went: count(|a, b| !a && b) };
            assert_eq!(a.since(&b), Some(expected), "{width} x {height}, round {round}");
        }
        assert_eq!(Silhouette::parse("AB", 1, 1).map(|s| s.count()), Some(1));
        assert!(Silhouette::parse("AC", 1, 1).is_none() && Silhouette::parse("A", 9, 9).is_none());
        assert!(Silhouette::parse("A!", 9, 9).is_none() && Silhouette::parse("A________", 9, 9).is_none());
    }
}
