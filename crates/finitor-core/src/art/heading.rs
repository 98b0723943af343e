//! Words above the frames of a sheet, and between their rows.

use super::axis_cuts::{Along, Axis};
use super::gaps::{Way, parted};
use super::guess::{Explained, GridGuess, explained_by, list, seldom_chosen};
use super::summed::SummedArea;
use super::{Grid, Mask, PixelRect, Run};
use std::ops::Range;

/// Words are at most this high, px.
const HIGHEST: u32 = 24;
/// What is below them is at least this many times as high, where that alone tells.
const HIGHER: u32 = 2;
/// Words have at least this many letters.
const LETTERS: usize = 4;
/// From letter to letter it is at most this many times as far as letters are high.
const APART: f64 = 1.3;
/// Doubt that has to go with the words where it alone tells.
const GAINED: f64 = 0.15;
/// Doubt that cells are not square.
const NOT_SQUARE: f64 = 0.04;
/// A reading that begins elsewhere is listed with at most this much more doubt.
const NEAR: f64 = 0.03;
/// Doubt for each px that frames begin below words.
const PER_PX: f64 = 0.008;
/// So large may all be that is asked below words, px.
const PIXELS: u64 = 2_500_000;
/// Frames begin at most this far below words, px.
const TOPS: u32 = 24;

/// Rows of a sheet that may be words.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(super) struct Heading {
    /// The first at the top, and others like it above more rows of frames.
    pub(super) lines: Vec<Range<u32>>,
    /// Whether there are more letters than frames could be beside each other.
    pub(super) is_sure: bool,
    /// Whether letters stand close, and there are more than there are pieces of art in any band of rows below.
    pub(super) is_dense: bool,
}

impl Heading {
    /// From one line to the next, where rows have lines of their own.
    fn pitch(&self) -> Option<u32> {
        self.lines.windows(2).map(|pair| pair[1].start - pair[0].start).min()
    }
}

/// The pieces of a low band.
struct Letters {
    count: usize,
    left: u32,
    /// From the first to the last.
    span: u32,
    /// The usual gap between two.
    gap: u32,
}

impl Letters {
    fn of(sums: &SummedArea, band: PixelRect) -> Option<Letters> {
        let letters = parted(sums, band, Way::Columns, 1);
        let (left, right) = (letters.first()?, letters.last()?);
        let mut gaps: Vec<u32> = letters.windows(2).map(|pair| pair[1].x - pair[0].x - pair[0].width).collect();
        gaps.sort_unstable();
        let is_low = band.height <= HIGHEST && letters.len() >= LETTERS;
        let gap = *gaps.get(gaps.len() / 2)?;
        is_low.then_some(Letters { count: letters.len(), left: left.x, span: right.x + right.width - left.x, gap })
    }

    /// Whether from letter to letter is hardly more than they are high.
    fn is_close(&self, high: u32) -> bool {
        f64::from(self.span) <= APART * f64::from(high) * self.count as f64
    }
}

/// The rows at the top of a sheet that may be words, a low band of small pieces close to each other, and those like it between rows.
///
/// # Complexity
/// O(pixels).
pub(super) fn heading(art: &Mask) -> Option<Heading> {
    let sums = SummedArea::new(art);
    let whole = PixelRect { x: 0, y: 0, width: art.width(), height: art.height() };
    let bands = parted(&sums, whole, Way::Rows, 1);
    let (first, below) = bands.split_first()?;
    let high = below.iter().map(|band| band.height).max()?;
    let words = Letters::of(&sums, *first)?;
    // Frames are about as wide as they are high.
    let beside = words.span.div_ceil(high) as usize;
    let is_sure = first.height * HIGHER <= high && words.count >= 2 * beside;
    if !is_sure && !words.is_close(first.height) {
        return None;
    }
    let figures = below.iter().map(|band| parted(&sums, *band, Way::Columns, 1).len()).max()?;
    let is_dense = 2 * words.count >= 3 * figures && 3 * words.gap <= first.height;
    // Names of rows are in one font and begin in one column.
    let is_like = |band: &PixelRect, under: &PixelRect| {
        let is_line = band.height.abs_diff(first.height) <= 3 && under.height > band.height;
        is_line
            && Letters::of(&sums, *band).is_some_and(|of| of.left.abs_diff(words.left) <= 3 && of.is_close(band.height))
    };
    let more = below.windows(2).filter(|pair| is_like(&pair[0], &pair[1])).map(|pair| &pair[0]);
    let lines = std::iter::once(first).chain(more).map(PixelRect::rows).collect();
    Some(Heading { lines, is_sure, is_dense })
}

/// Whether two bands of rows share any.
pub(super) fn rows_meet(one: &Range<u32>, other: &Range<u32>) -> bool {
    one.start < other.end && other.start < one.end
}

/// What is below words.
pub(super) struct Below {
    /// The art without them, where it is on the sheet.
    pub(super) art: Mask,
    /// The grids that explain it, best first; they begin where the best does.
    pub(super) grids: Vec<GridGuess>,
}

impl Below {
    /// Looks below a heading; `None` where nothing speaks for words but small pieces, and the art is explained as well with them.
    ///
    /// # Complexity
    /// That of [`super::guess_grid`] times the empty rows below the heading, of which the first [`TOPS`] are asked; on sheets of more than
    /// 0.1 Mpx fewer, those that part the rows most evenly.
    pub(super) fn new(art: &Mask, heading: &Heading, with_it: &Explained) -> Option<Below> {
        let is_word = |run: &Run| heading.lines.iter().any(|rows| rows.contains(&run.row));
        let bare = art.runs().into_iter().filter(|run| !is_word(run));
        let art = Mask::from_runs(art.width(), art.height(), bare);
        let grids = heading.grids_below(&art)?;
        let is_better = grids.first().is_some_and(|best| heading.is_worth(best, with_it));
        is_better.then_some(Below { art, grids })
    }
}

impl Heading {
    /// The grids that explain the art without words, best first: those of the likeliest beginning, and the best of others that are about as likely.
    fn grids_below(&self, art: &Mask) -> Option<Vec<GridGuess>> {
        let grids_from = |top: u32| {
            let lowered = |grid: &Grid| Grid { before: (grid.before.0, grid.before.1 + top), ..*grid };
            let may_be = |grid: &Grid| self.allows(&lowered(grid), art);
            let Explained::ByGrids(mut grids) = explained_by(&without_top(art, top), &may_be) else { return None };
            grids.iter_mut().for_each(|of| of.grid = lowered(&of.grid));
            Some(grids)
        };
        let doubt = |grids: &Vec<GridGuess>| grids.iter().map(|of| self.doubt(of, art)).fold(f64::INFINITY, f64::min);
        let mut all: Vec<Vec<GridGuess>> = self.tops(art).into_iter().filter_map(grids_from).collect();
        all.sort_by(|a, b| doubt(a).total_cmp(&doubt(b)));
        let (mut grids, least) = (all.first()?.clone(), doubt(&all[0]));
        // Cells that are a little higher or lower begin elsewhere.
        let others = all.iter().take_while(|of| doubt(of) <= least + NEAR).filter_map(|of| of.first());
        others.for_each(|other| list(&mut grids, *other));
        Some(grids)
    }

    /// Where frames may begin.
    fn tops(&self, art: &Mask) -> Vec<u32> {
        let end = self.lines[0].end;
        let first = art.bounds().map_or(end, |bounds| bounds.y).min(end + TOPS);
        let mut tops: Vec<u32> = (end..=first).collect();
        let most = (PIXELS / (u64::from(art.width()) * u64::from(art.height()))).max(4) as usize;
        if tops.len() > most {
            let uneven = |top: u32| {
                let art = without_top(art, top);
                let cuts = Axis::new(&art, &art.runs(), Along::Rows).cuts();
                cuts.iter().flatten().filter(|cut| cut.is_plain()).map(|cut| cut.uneven).fold(f64::INFINITY, f64::min)
            };
            let mut ranked: Vec<(f64, u32)> = tops.iter().map(|top| (uneven(*top), *top)).collect();
            ranked.sort_by(|a, b| a.0.total_cmp(&b.0));
            tops = ranked[..most].iter().map(|(_, top)| *top).collect();
        }
        tops
    }

    /// Whether a grid's cells hold no words, and are as far apart as these.
    fn allows(&self, grid: &Grid, art: &Mask) -> bool {
        let (pitch, rows) = (grid.pitch().1, grid.cells_in(art.width(), art.height()).1);
        let mut tops = (0..rows).map(|row| grid.before.1 + row * pitch);
        self.pitch().is_none_or(|apart| apart == pitch)
            && !tops.any(|top| self.lines.iter().any(|rows| rows_meet(rows, &(top..top + grid.cell.1))))
    }

    /// What speaks against a grid. How high the room above the frames is, little but their cells' height tells.
    fn doubt(&self, of: &GridGuess, art: &Mask) -> f64 {
        let (cell, rows) = (of.grid.cell, of.grid.cells_in(art.width(), art.height()).1);
        let odd = seldom_chosen(cell.1) + if cell.0 == cell.1 { 0.0 } else { NOT_SQUARE };
        let room = of.grid.before.1.saturating_sub(self.lines[0].end);
        of.doubt + odd / f64::from(rows.max(1)) + PER_PX * f64::from(room)
    }

    /// Whether the best grid without words is to be taken rather than what explains the art with them.
    fn is_worth(&self, best: &GridGuess, with_it: &Explained) -> bool {
        let pitch = best.grid.pitch();
        // Where a row of cells has room above them, what is there may be one.
        let has_room = 4 * best.grid.before.1 >= 3 * pitch.0.min(pitch.1);
        let least = if self.lines.len() > 1 { 0.0 } else { GAINED };
        let gains = best.doubt + least < with_it.doubt();
        if self.is_sure { gains || !has_room } else { gains && (self.is_dense || !has_room) }
    }
}

/// The art from a row on.
fn without_top(art: &Mask, top: u32) -> Mask {
    let below = art.runs().into_iter().map(|run| Run { row: run.row - top, ..run });
    Mask::from_runs(art.width(), art.height() - top, below)
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
        let found = heading(&sheet(&letter)).expect("there are letters");
        assert_eq!((found.lines.len(), found.lines[0].clone(), found.is_sure, found.is_dense), (1, 3..11, true, true));
        // Sparks, one a frame, and one low thing alone.
        assert_eq!(heading(&sheet(&|x, y| (x % 48).abs_diff(24) < 3 && (4..10).contains(&y))), None);
        assert_eq!(heading(&sheet(&|x, y| x < 60 && (4..10).contains(&y))), None);
        assert_eq!(heading(&sheet(&|_, _| false)), None);
        assert_eq!(heading(&Mask::empty(9, 9)), None);
    }
}
