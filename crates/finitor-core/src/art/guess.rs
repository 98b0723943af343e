//! Guessing the grid of a sheet from what is drawn on it.

use super::axis_cuts::{Along, Axis, AxisCut};
use super::patches::Patches;
use super::reading::{Art, Reading};
use super::{Grid, Mask};

/// A grid that explains a sheet, and why.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GridGuess {
    /// The grid.
    pub grid: Grid,
    /// Share of the cells' borders that art crosses, 0 to 1.
    pub crossed: f64,
    /// What speaks for it beside that.
    pub evidence: GridEvidence,
    /// What speaks against it; 0 is a sheet of equal silhouettes without any doubt.
    pub doubt: f64,
}

/// What speaks for a grid.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum GridEvidence {
    /// Silhouettes in neighbouring cells agree to this mean IoU.
    Alike(f64),
    /// Colours change this many times as much across the borders as elsewhere.
    Edges(f64),
    /// Lines are drawn between them.
    Lines,
}

/// Doubt that a picture of equal sides is one frame.
const WHOLE: f64 = 0.8;
/// Cells whose silhouettes say little by how alike they are.
const FEW: usize = 4;
/// The best readings whose cells are looked into, whether they fall apart.
const LOOKED_INTO: usize = 120;
/// Of these with one number of columns and rows.
const OF_ONE_COUNT: usize = 4;
/// Pairs of cuts that are read against the art.
const MOST_READ: usize = 1500;
/// Doubt more that parting the cells of a grid may bring.
const PARTED: f64 = 0.4;
/// Readings with at most this much more doubt than the best are listed beside it.
const NEAR: f64 = 0.12;
/// A grid with at most this much more doubt than one picture is named beside it.
const NEAR_WHOLE: f64 = 0.25;
/// Readings told beside the best.
const MOST_TOLD: usize = 3;

/// A grid that may explain a sheet.
#[derive(Clone, Copy)]
struct Candidate {
    guess: GridGuess,
    /// Columns and rows.
    counts: [u32; 2],
    /// Cells with art.
    used: usize,
    /// Doubt that goes where art keeps to the middle of its cells: a coin that turns differs from frame to frame, but stays there.
    steady: f64,
}

/// What explains a sheet's art.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum Explained {
    /// Grids, best first: the first is the one to take, and others follow that explain it about as well.
    ByGrids(Vec<GridGuess>),
    /// One single picture, rather than any grid; one that explains it nearly as well, if there is one.
    AsOne(Option<GridGuess>),
}

impl Explained {
    /// What speaks against it, of one picture what speaks against it without its sides and pieces.
    pub(super) fn doubt(&self) -> f64 {
        match self {
            Explained::ByGrids(grids) => grids.first().map_or(WHOLE, |best| best.doubt),
            Explained::AsOne(_) => WHOLE,
        }
    }
}

/// The grids that explain the sheet's art, best first; none when it is one single picture, or no grid does.
///
/// # Complexity
/// O(pixels / 64 + pairs of cuts * (runs + compared pixels / 64)).
pub fn guess_grid(art: &Mask) -> Vec<GridGuess> {
    match explained(art) {
        Explained::ByGrids(grids) => grids,
        Explained::AsOne(_) => Vec::new(),
    }
}

/// What explains the sheet's art.
///
/// Along each axis those cuts are followed up whose borders hardly any art crosses and in whose cells art lies most evenly.
/// Pairs of them are read against the art: how alike neighbours are, whether they stand on one line and in the middle of
/// their row, whether cells in between are empty, and whether cells fall into several of one size.
pub(super) fn explained(art: &Mask) -> Explained {
    explained_by(art, &|_| true)
}

/// The same by grids of some sort alone.
pub(super) fn explained_by(art: &Mask, may_be: &dyn Fn(&Grid) -> bool) -> Explained {
    let read = Art::new(art);
    let mut found = readings(art, &read, may_be);
    found.iter_mut().for_each(|of| of.guess.doubt += 0.8 * read.merged(&of.guess.grid));
    let by_doubt = |a: &Candidate, b: &Candidate| a.guess.doubt.total_cmp(&b.guess.doubt);
    found.sort_by(by_doubt);
    let whole = whole_doubt(art);
    if let Some(best) = found.first().copied() {
        // In place of one picture any few cells will do, and in place of few cells those that part them.
        let is_finer = |of: &Candidate| best.guess.doubt > whole || parts(&of.guess.grid, &best.guess.grid);
        let few = found.iter_mut().filter(|of| of.used <= FEW && is_finer(of));
        few.for_each(|of| of.guess.doubt -= of.steady);
        found.sort_by(by_doubt);
    }
    let mut found: Vec<GridGuess> = found.into_iter().map(|of| of.guess).collect();
    if found.first().is_none_or(|best| best.doubt > whole) {
        return Explained::AsOne(found.first().copied().filter(|best| best.doubt <= whole + NEAR_WHOLE));
    }
    found = refined(found);
    let most = found.first().map_or(0.0, |best| best.doubt + NEAR);
    found.retain(|guess| guess.doubt <= most);
    let mut told: Vec<GridGuess> = Vec::new();
    found.into_iter().for_each(|guess| list(&mut told, guess));
    Explained::ByGrids(told)
}

/// Adds a grid to those that are named, where there are few and none has its pitch: those of one pitch cut the same frames.
pub(super) fn list(told: &mut Vec<GridGuess>, guess: GridGuess) {
    if told.len() < MOST_TOLD && told.iter().all(|known| known.grid.pitch() != guess.grid.pitch()) {
        told.push(guess);
    }
}

/// Pairs of cuts read against the art, the likeliest of each number of columns and rows.
fn readings(art: &Mask, read: &Art<'_>, may_be: &dyn Fn(&Grid) -> bool) -> Vec<Candidate> {
    let [across, down] = [Along::Columns, Along::Rows].map(|along| Axis::new(art, read.runs(), along));
    let with_whole = |axis: &Axis| {
        let mut cuts = axis.cuts();
        cuts.push(vec![axis.whole()]);
        cuts
    };
    let (columns, rows) = (with_whole(&across), with_whole(&down));
    let pairs = columns.iter().flat_map(|columns| rows.iter().map(move |rows| of_one_layout(columns, rows)));
    let mut pairs: Vec<(AxisCut, AxisCut)> = pairs.collect();
    // Plain ones first, then the even ones.
    let is_plain = |(x, y): &(AxisCut, AxisCut)| x.is_plain() && y.is_plain();
    pairs.sort_by(|a, b| {
        is_plain(b).cmp(&is_plain(a)).then((a.0.uneven + a.1.uneven).total_cmp(&(b.0.uneven + b.1.uneven)))
    });
    let mut found: Vec<Candidate> = Vec::new();
    for (x, y) in pairs.into_iter().take(MOST_READ) {
        // A single row or column has the margin of the other direction, if it has the room.
        let x = if x.count == 1 { across.whole_within(y.before) } else { x };
        let y = if y.count == 1 { down.whole_within(x.before) } else { y };
        let cells = u64::from(x.count) * u64::from(y.count);
        if (x.cell > 5 * y.cell || y.cell > 5 * x.cell) || !(2..=10_000).contains(&cells) {
            continue;
        }
        let grid = Grid {
            cell: (x.cell, y.cell),
            before: (x.before, y.before),
            after: (x.after, y.after),
            gap: (x.gap, y.gap),
        };
        if let Some(reading) = may_be(&grid).then(|| read.read(&grid)).flatten() {
            let crossed = x.crossed.max(y.crossed);
            let doubt = doubt(&reading) + 2.0 * crossed + layout(&x, &y) + slender(&grid);
            let evidence = GridEvidence::Alike(reading.alike);
            let guess = GridGuess { grid, crossed, evidence, doubt };
            found.push(Candidate { guess, counts: [x.count, y.count], used: reading.used, steady: steady(&reading) });
        }
    }
    found.sort_by(|a, b| a.guess.doubt.total_cmp(&b.guess.doubt));
    let mut kept: Vec<Candidate> = Vec::new();
    for of in found {
        if kept.len() < LOOKED_INTO && kept.iter().filter(|known| known.counts == of.counts).count() < OF_ONE_COUNT {
            kept.push(of);
        }
    }
    kept
}

fn doubt(of: &Reading) -> f64 {
    let few = if of.used == 2 { 0.1 } else { 0.0 };
    (1.0 - of.alike)
        + 1.5 * of.astray
        + of.off_line
        + 2.0 * of.lines
        + 0.3 * (1.0 - of.rows_alike)
        + 0.3 * of.sizes
        + 1.5 * of.holes
        + of.unused
        + few
}

/// How much less doubt there is as art keeps to the middle of its cells, though it is not alike.
fn steady(of: &Reading) -> f64 {
    (1.0 - of.alike) * (0.6 - 10.0 * of.off_middle).max(0.0)
}

/// Doubt that the picture is one frame: strips are long, and a figure hangs together.
fn whole_doubt(art: &Mask) -> f64 {
    let sides = (f64::from(art.width()) / f64::from(art.height().max(1))).ln().abs();
    WHOLE + 0.35 * sides + 0.7 * (0.4 - largest_share(art))
}

/// The share of the art that the largest piece of it has.
fn largest_share(art: &Mask) -> f64 {
    let largest = Patches::of(art).runs().map(|(_, patch)| patch.pixels).max().unwrap_or(0);
    largest as f64 / art.count().max(1) as f64
}

/// Puts grids that part the cells of the best one further in front of it, where they explain the art nearly as well: two
/// figures are one cell only where nothing else fits.
fn refined(mut found: Vec<GridGuess>) -> Vec<GridGuess> {
    let mut at = 0;
    while let Some(best) = found.get(at).copied() {
        let finer = (0..found.len()).filter(|index| parts(&found[*index].grid, &best.grid));
        let allowed =
            |guess: &GridGuess| best.doubt + PARTED + 0.5 * (squareness(&best.grid) - squareness(&guess.grid));
        let finer = finer.filter(|index| found[*index].doubt <= allowed(&found[*index]));
        match finer.min_by(|a, b| found[*a].doubt.total_cmp(&found[*b].doubt)) {
            Some(index) if index != at => at = index,
            _ => break,
        }
    }
    if at > 0 {
        found[..=at].rotate_right(1);
    }
    found
}

/// Whether the first grid parts the cells of the second into several, each the same.
fn parts(fine: &Grid, coarse: &Grid) -> bool {
    let times = |fine: u32, coarse: u32| -> Option<u32> {
        let count = (f64::from(coarse) / f64::from(fine)).round();
        // The last gap may be part of the coarse cell, or not.
        let off = (f64::from(fine) * count - f64::from(coarse)).abs();
        (off <= (f64::from(fine) / 2.0).min(16.0) && count >= 1.0).then_some(count as u32)
    };
    let (f, c) = (fine.pitch(), coarse.pitch());
    match (times(f.0, c.0), times(f.1, c.1)) {
        (Some(x), Some(y)) => x * y > 1 && 3 * f.0 * f.1 < 2 * c.0 * c.1,
        _ => false,
    }
}

/// How much longer one side of the cells is than the other, as a logarithm.
fn squareness(grid: &Grid) -> f64 {
    (f64::from(grid.cell.0) / f64::from(grid.cell.1)).ln().abs()
}

/// Of the layouts of two axes a pair with one margin and one gap, where there is one; else the plainest of each.
fn of_one_layout(columns: &[AxisCut], rows: &[AxisCut]) -> (AxisCut, AxisCut) {
    let same = |x: &AxisCut| rows.iter().find(|y| (x.before, x.gap) == (y.before, y.gap)).map(|y| (*x, *y));
    columns.iter().find_map(same).unwrap_or((columns[0], rows[0]))
}

/// The plainer the likelier, and margins and gaps are most often the same across and down. Where a rest leaves the size of cells open they
/// are likelier square, and of a size that people choose.
fn layout(x: &AxisCut, y: &AxisCut) -> f64 {
    let of = |cut: &AxisCut| {
        let spaced = if cut.gap + cut.before > 0 { 0.03 } else { 0.0 };
        spaced + if cut.rest > 0 { 0.03 + seldom_chosen(cut.cell) } else { 0.0 }
    };
    let differ = x.count > 1 && y.count > 1 && (x.before, x.gap) != (y.before, y.gap);
    let is_odd = x.rest + y.rest > 0 && x.count > 1 && y.count > 1 && x.cell != y.cell;
    of(x) + of(y) + if differ { 0.12 } else { 0.0 } + if is_odd { 0.04 } else { 0.0 }
}

/// Doubt of a side that people seldom choose, where nothing but the art tells how long it is.
pub(super) fn seldom_chosen(side: u32) -> f64 {
    match side {
        side if side.is_multiple_of(8) => 0.0,
        side if side.is_multiple_of(2) => 0.03,
        _ => 0.05,
    }
}

/// Cells are seldom much wider than high, or higher than wide.
fn slender(grid: &Grid) -> f64 {
    0.1 * squareness(grid)
}
