//! A frame's pixels in few letters, to tell later what became of them.

mod letters;

use super::{Mask, Run, View};

/// What is kept of a frame: its opaque pixels, and a mark of each one's colour. Held as runs of pixels with one mark, over
/// all rows one after another.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Imprint {
    width: u32,
    height: u32,
    /// Lengths and marks; runs that follow each other differ in their marks, and the last has one.
    runs: Vec<(u32, u16)>,
}

/// Pixels that differ between two imprints of one size.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct ImprintChange {
    /// Opaque now, not before.
    pub came: u64,
    /// Opaque before, not now.
    pub went: u64,
    /// Opaque before and now, in another colour or body part; `None` when the colours were not kept.
    pub recoloured: Option<u64>,
}

impl ImprintChange {
    /// All pixels that are known to differ.
    pub fn pixels(&self) -> u64 {
        self.came + self.went + self.recoloured.unwrap_or(0)
    }
}

/// The mark of pixels that are not opaque.
const NOTHING: u16 = 0;
/// The mark of opaque pixels whose colour is not kept.
const SOME: u16 = 1;
/// Marks of colours are from 2 to below this: two letters.
const MARKS: u32 = 1 << 12;

/// Imprints of more runs keep no colours: those of painted art would fill memory and file. Pixel art of 64 x 64 px stays
/// below it.
const MOST_RUNS: usize = 1024;

/// The mark of a colour and its body part's: one in 4094 other colours has the same.
fn mark(pixel: [u8; 4], part: [u8; 4]) -> u16 {
    let both = u64::from(u32::from_le_bytes(pixel)) << 32 | u64::from(u32::from_le_bytes(part));
    // The finaliser of splitmix64 (Steele, Lea and Flood, 2014) spreads every bit over the word.
    let mut z = both ^ (both >> 30);
    z = z.wrapping_mul(0xbf58_476d_1ce4_e5b9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
    2 + ((z >> 32) as u32 % (MARKS - 2)) as u16
}

impl Imprint {
    /// The imprint of a frame and its part map, whose pixels count as opaque from `alpha` on. `opaque` are the runs of
    /// those pixels.
    ///
    /// # Complexity
    /// O(opaque pixels).
    pub fn new(picture: View<'_>, parts: Option<View<'_>>, opaque: &[Run]) -> Imprint {
        let mut imprint = Imprint { width: picture.width(), height: picture.height(), runs: Vec::new() };
        let mut at = 0;
        for run in opaque {
            let start = run.row * imprint.width + run.start;
            imprint.add(start - at, NOTHING);
            at = start + run.len();
            let seen = run.start as usize..run.end as usize;
            let row = &picture.row(run.row)[seen.clone()];
            match parts.as_ref().map(|parts| &parts.row(run.row)[seen.clone()]) {
                None => {
                    let alike = row.chunk_by(|one, next| one == next);
                    alike.for_each(|alike| imprint.add(alike.len() as u32, mark(alike[0], [0; 4])));
                }
                Some(parts) => row.iter().zip(parts).for_each(|(pixel, part)| imprint.add(1, mark(*pixel, *part))),
            }
            if imprint.runs.len() > MOST_RUNS {
                return Imprint::bare(picture.width(), picture.height(), opaque);
            }
        }
        imprint.runs.shrink_to_fit();
        imprint
    }

    /// The opaque pixels without their colours.
    fn bare(width: u32, height: u32, opaque: &[Run]) -> Imprint {
        let mut imprint = Imprint { width, height, runs: Vec::with_capacity(2 * opaque.len()) };
        let mut at = 0;
        for run in opaque {
            let start = run.row * width + run.start;
            imprint.add(start - at, NOTHING);
            imprint.add(run.len(), SOME);
            at = start + run.len();
        }
        imprint
    }

    fn add(&mut self, length: u32, mark: u16) {
        match self.runs.last_mut() {
            _ if length == 0 => {}
            Some((last, known)) if *known == mark => *last += length,
            _ => self.runs.push((length, mark)),
        }
    }

    /// Size of the frame, px.
    pub fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    /// Number of opaque pixels.
    pub fn count(&self) -> u64 {
        self.runs.iter().filter(|(_, mark)| *mark != NOTHING).map(|(length, _)| u64::from(*length)).sum()
    }

    /// The opaque pixels.
    pub fn opaque(&self) -> Mask {
        Mask::from_runs(self.width, self.height, self.opaque_runs())
    }

    /// The runs of opaque pixels, row by row, left to right.
    pub fn opaque_runs(&self) -> Vec<Run> {
        let width = self.width.max(1);
        let mut found: Vec<Run> = Vec::new();
        let mut at = 0;
        for (length, mark) in &self.runs {
            let (mut start, end) = (at, at + length);
            at = end;
            while *mark != NOTHING && start < end {
                let row = start / width;
                let stop = end.min((row + 1) * width);
                let (from, to) = (start - row * width, stop - row * width);
                match found.last_mut() {
                    Some(last) if last.row == row && last.end == from => last.end = to,
                    _ => found.push(Run { row, start: from, end: to }),
                }
                start = stop;
            }
        }
        found
    }

    /// What came, went and changed its colour since `before`; `None` when the sizes differ.
    ///
    /// # Complexity
    /// O(runs).
    pub fn since(&self, before: &Imprint) -> Option<ImprintChange> {
        if self.size() != before.size() {
            return None;
        }
        let mut change = ImprintChange { recoloured: Some(0), ..ImprintChange::default() };
        // Behind its last run an imprint is empty.
        let rest = (u32::MAX, NOTHING);
        let (mut ours, mut theirs) = (self.runs.iter().copied(), before.runs.iter().copied());
        let (mut a, mut b) = (ours.next().unwrap_or(rest), theirs.next().unwrap_or(rest));
        while a != rest || b != rest {
            let shared = a.0.min(b.0);
            let pixels = u64::from(shared);
            match (a.1, b.1) {
                (SOME, SOME) => change.recoloured = None,
                (one, other) if one == other => {}
                (_, NOTHING) => change.came += pixels,
                (NOTHING, _) => change.went += pixels,
                (SOME, _) | (_, SOME) => change.recoloured = None,
                _ => change.recoloured = change.recoloured.map(|count| count + pixels),
            }
            for (run, runs) in [(&mut a, &mut ours), (&mut b, &mut theirs)] {
                // The end without a run has no length to use up.
                if *run != rest {
                    run.0 -= shared;
                    if run.0 == 0 {
                        *run = runs.next().unwrap_or(rest);
                    }
                }
            }
        }
        Some(change)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::art::Picture;
    use crate::testing::dice::Dice;

    /// A small picture, full and empty ones among them.
    fn picture(dice: &mut Dice, width: u32, height: u32, share: u64) -> Picture {
        let pixels = (0..width * height).map(|_| {
            let alpha = if dice.below(10) < share { 128 } else { 127 };
            [dice.below(3) as u8, 0, 0, alpha]
        });
        Picture::new(width, height, pixels.collect()).expect("as many pixels as its size")
    }

    fn imprint(picture: &Picture) -> Imprint {
        let view = picture.whole();
        Imprint::new(view, None, &view.opaque_runs(128))
    }

    #[test]
    fn letters_give_back_the_pixels_and_the_change_is_an_exact_count() {
        let mut dice = Dice::new(7);
        for round in 0..300 {
            let (width, height) = (1 + dice.below(140) as u32, 1 + dice.below(9) as u32);
            let share = [0, 10, 5, 9][round % 4];
            let (one, other) = (picture(&mut dice, width, height, share), picture(&mut dice, width, height, share));
            let (a, b) = (imprint(&one), imprint(&other));
            assert_eq!(Imprint::parse(&a.to_text(), width, height), Some(a.clone()));
            assert_eq!(a.opaque_runs(), one.opaque(128).runs());
            assert_eq!(one.whole().opaque_runs(128), one.opaque(128).runs());
            let count = |rule: fn(&[u8; 4], &[u8; 4]) -> bool| {
                one.pixels().iter().zip(other.pixels()).filter(|(a, b)| rule(a, b)).count() as u64
            };
            let expected = ImprintChange {
                came: count(|a, b| a[3] > 127 && b[3] < 128),
                went: count(|a, b| a[3] < 128 && b[3] > 127),
                recoloured: Some(count(|a, b| a[3] > 127 && b[3] > 127 && a != b)),
            };
            assert_eq!(a.since(&b), Some(expected), "{width} x {height}, round {round}");
        }
    }

    #[test]
    fn whatever_else_is_read_gives_no_imprint_or_one_that_fits() {
        let mut dice = Dice::new(11);
        let art = picture(&mut dice, 40, 12, 5);
        let text = imprint(&art).to_text();
        for _ in 0..20_000 {
            let mut letters: Vec<u8> = text.bytes().collect();
            match dice.below(3) {
                0 => letters.truncate(dice.below(text.len() as u64) as usize),
                1 => letters.push(b'A'),
                _ => {
                    let at = dice.below(text.len() as u64) as usize;
                    letters[at] = b'!' + dice.below(90) as u8;
                }
            }
            let wrong = String::from_utf8(letters).expect("plain letters");
            if let Some(read) = Imprint::parse(&wrong, 40, 12) {
                assert!(read.opaque_runs().iter().all(|run| run.row < 12 && run.end <= 40), "{wrong}");
            }
        }
        assert!(Imprint::parse(&text, 39, 12) != Some(imprint(&art)));
    }

    #[test]
    fn art_of_too_many_colours_keeps_its_silhouette() {
        let noise = Picture::new(100, 100, (0..10_000).map(|i| [i as u8, (i >> 8) as u8, 7, 255]).collect());
        let noise = noise.expect("as many pixels as its size");
        let kept = imprint(&noise);
        assert!(kept.to_text().len() < 10, "{}", kept.to_text());
        let mirrored = imprint(&noise.mirrored());
        assert_eq!((kept.count(), kept.opaque_runs().len()), (10_000, 100));
        let other = imprint(&Picture::new(100, 100, vec![[9, 9, 9, 255]; 10_000]).expect("as many pixels as its size"));
        for changed in [mirrored, other] {
            assert_eq!(kept.since(&changed), Some(ImprintChange { recoloured: None, ..ImprintChange::default() }));
        }
    }
}
