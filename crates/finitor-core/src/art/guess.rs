//! Guessing the grid of a sheet from what is drawn on it.

use super::summed::SummedArea;
use super::{Grid, Mask, Picture, PixelRect};

/// A grid that explains a sheet, and why.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GridGuess {
    /// The grid.
    pub grid: Grid,
    /// Share of the cells' borders that art crosses, 0 to 1.
    pub crossed: f64,
    /// What speaks for it beside that.
    pub evidence: GridEvidence,
}

/// What speaks for a grid.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum GridEvidence {
    /// Silhouettes in neighbouring cells agree to this mean IoU.
    Alike(f64),
    /// Colours change this many times as much across the borders as elsewhere.
    Edges(f64),
}

/// Cells are at least this wide and high, px; smaller ones cannot be told from details of the art.
const LEAST_CELL: u32 = 4;
/// Art may cross at most this share of the borders' length that it would cross by chance.
const CROSSED: f64 = 0.1;
/// Margins and gaps up to this are tried, px.
const MOST_GAP: u32 = 16;
/// Of grids whose neighbours agree this share as well as the best one's, or agree this much anyhow, the one of the
/// smallest cells is taken: several frames taken as one agree as well as each alone, or better where a cycle repeats.
const AS_GOOD: f64 = 0.8;
const GOOD: f64 = 0.4;
/// Neighbours must agree this much where cells leave a strip over: without that, any loose pieces make a grid.
const GOOD_WITH_REST: f64 = 0.6;
/// Colours must change this many times as much at the borders of filled cells as elsewhere.
const LEAST_CONTRAST: f64 = 1.5;
/// Neighbours are compared for this many cells at most.
const COMPARED: usize = 64;

/// The grid that best explains the sheet's art; `None` when it is one single picture or no grid does.
///
/// Along each axis those periods are kept whose borders hardly any art crosses: cells side by side; cells with equal
/// margins and gaps where art fills every one; and at last such as leave an empty strip over. Of all pairs of them the smallest cells win whose
/// neighbours' silhouettes agree about as well as those of any pair.
///
/// # Complexity
/// O(pixels + pairs of periods * compared pixels).
pub fn guess_grid(art: &Mask) -> Option<GridGuess> {
    let sums = SummedArea::new(art);
    let across = Axis::new(art, &sums, true);
    let down = Axis::new(art, &sums, false);
    let (gaps_across, gaps_down) = (across.with_gaps(), down.with_gaps());
    let both = !gaps_across.is_empty() && !gaps_down.is_empty();
    let (columns, rows) = (across.periods(gaps_across, both), down.periods(gaps_down, both));
    let mut found: Vec<(Grid, f64, f64)> = Vec::new();
    for x in &columns {
        for y in &rows {
            // A single row or column has the margin of the other direction, if it has the room.
            let (x, y) = (&across.within_margin(x, y.before), &down.within_margin(y, x.before));
            let grid = Grid {
                cell: (x.cell, y.cell),
                before: (x.before, y.before),
                after: (x.after, y.after),
                gap: (x.gap, y.gap),
            };
            let slender = x.cell > 4 * y.cell || y.cell > 4 * x.cell;
            let cells = grid.rects(art.width(), art.height());
            if slender || cells.len() < 2 || cells.len() > 10_000 {
                continue;
            }
            let rest = x.rest || y.rest;
            let alike = agreement(art, &sums, &grid, &cells);
            if let Some(alike) = alike.filter(|alike| !rest || *alike >= GOOD_WITH_REST) {
                found.push((grid, x.crossed.max(y.crossed), alike));
            }
        }
    }
    let best = found.iter().map(|(.., alike)| *alike).fold(0.0, f64::max);
    let area = |grid: &Grid| u64::from(grid.cell.0) * u64::from(grid.cell.1);
    let enough = (best * AS_GOOD).min(GOOD);
    let (grid, crossed, alike) =
        found.into_iter().filter(|(.., alike)| *alike >= enough).min_by_key(|(grid, ..)| area(grid))?;
    Some(GridGuess { grid, crossed, evidence: GridEvidence::Alike(alike) })
}

/// The grid of a sheet whose cells are filled, such as a tile set: square cells of a usual size at whose borders colours
/// change most; `None` when none stands out.
pub fn guess_tiles(picture: &Picture) -> Option<GridGuess> {
    let (width, height) = (picture.width(), picture.height());
    // Colours as far as they are seen: what is transparent is all alike.
    let seen = |p: [u8; 4]| {
        [0, 1, 2, 3].map(|i| if i == 3 { u32::from(p[3]) } else { u32::from(p[i]) * u32::from(p[3]) / 255 })
    };
    let change = |a: [u8; 4], b: [u8; 4]| seen(a).iter().zip(seen(b)).map(|(a, b)| a.abs_diff(b)).sum::<u32>() as f64;
    // Mean change into each column and each row.
    let mut columns = vec![0.0; width as usize];
    let mut rows = vec![0.0; height as usize];
    for y in 0..height {
        let row = picture.row(y);
        for x in 1..row.len() {
            columns[x] += change(row[x - 1], row[x]) / f64::from(height);
        }
        if y > 0 {
            let above = picture.row(y - 1);
            rows[y as usize] += row.iter().zip(above).map(|(a, b)| change(*a, *b)).sum::<f64>() / f64::from(width);
        }
    }
    let mut best: Option<(u32, f64)> = None;
    for side in [8, 16, 24, 32, 48, 64, 96, 128] {
        if width % side != 0 || height % side != 0 || (width == side && height == side) {
            continue;
        }
        let (mut on, mut off) = ((0.0, 0_u32), (0.0, 0_u32));
        for line in [&columns, &rows] {
            for (at, change) in line.iter().enumerate().skip(1) {
                let (sum, count) = if at % side as usize == 0 { &mut on } else { &mut off };
                *sum += change;
                *count += 1;
            }
        }
        let mean = |(sum, count): (f64, u32)| sum / f64::from(count.max(1));
        let contrast = mean(on) / mean(off).max(1e-9);
        // Larger cells on the same lines stand out as much; take them only when clearly better.
        if contrast > LEAST_CONTRAST && best.is_none_or(|(_, known)| contrast > known * 1.15) {
            best = Some((side, contrast));
        }
    }
    let (side, contrast) = best?;
    Some(GridGuess { grid: Grid::plain(side, side), crossed: 1.0, evidence: GridEvidence::Edges(contrast) })
}

/// One way of cutting an axis.
#[derive(Clone, Copy, Debug)]
struct Period {
    cell: u32,
    before: u32,
    after: u32,
    gap: u32,
    crossed: f64,
    /// Whether an empty strip is left over at the end.
    rest: bool,
}

/// What lies along one axis of the sheet.
struct Axis {
    length: u32,
    /// Art pixels in each column or row.
    filled: Vec<u32>,
    /// Rows or columns in which both the pixel before a border and the one after it are art.
    crossing: Vec<u32>,
}

impl Axis {
    fn new(art: &Mask, sums: &SummedArea, across: bool) -> Axis {
        let (length, breadth) = if across { (art.width(), art.height()) } else { (art.height(), art.width()) };
        let slice = |at: u32| {
            if across {
                PixelRect { x: at, y: 0, width: 1, height: breadth }
            } else {
                PixelRect { x: 0, y: at, width: breadth, height: 1 }
            }
        };
        let filled = (0..length).map(|at| sums.count(slice(at))).collect();
        let mut crossing = vec![0; length as usize];
        for y in 0..art.height() {
            if across {
                let pairs = art.row(y).zip(art.row(y).skip(1));
                crossing[1..].iter_mut().zip(pairs).for_each(|(sum, (a, b))| *sum += u32::from(a && b));
            } else if y > 0 {
                let both = art.words(y).iter().zip(art.words(y - 1)).map(|(a, b)| (a & b).count_ones());
                crossing[y as usize] = both.sum();
            }
        }
        Axis { length, filled, crossing }
    }

    /// Cuts whose borders hardly any art crosses; the axis in one piece is always one. Figures of one size look like filled
    /// cells with gaps along one axis; `gapped` counts when `both` axes have gaps, or when no cells side by side explain the
    /// art as finely.
    fn periods(&self, gapped: Vec<Period>, both: bool) -> Vec<Period> {
        let whole = Period { cell: self.length, before: 0, after: 0, gap: 0, crossed: 0.0, rest: false };
        let divisors = (LEAST_CELL..self.length).filter(|cell| self.length.is_multiple_of(*cell));
        let plain: Vec<Period> = divisors.filter_map(|cell| self.plain(cell)).collect();
        let finest = gapped.iter().map(|period| period.cell + period.gap).min();
        let as_fine = plain.iter().any(|period| finest.is_none_or(|finest| period.cell <= finest));
        let mut found = if !gapped.is_empty() && (both || !as_fine) { gapped } else { plain };
        if found.is_empty() {
            let rest = (LEAST_CELL..=self.length / 3).filter_map(|cell| self.plain(cell));
            found = rest.collect();
        }
        found.push(whole);
        found
    }

    /// The axis in one piece within a margin, where that is empty at both ends; other periods as they are.
    fn within_margin(&self, period: &Period, margin: u32) -> Period {
        let room = self.length.saturating_sub(2 * margin);
        let ends = self.filled.iter().take(margin as usize).chain(self.filled.iter().rev().take(margin as usize));
        if period.cell != self.length || room < LEAST_CELL || ends.into_iter().any(|filled| *filled > 0) {
            return *period;
        }
        Period { cell: room, before: margin, after: margin, ..*period }
    }

    /// Cells side by side; what is left over at the end must be empty.
    fn plain(&self, cell: u32) -> Option<Period> {
        let count = self.length / cell;
        let rest = &self.filled[(count * cell) as usize..];
        if rest.iter().any(|filled| *filled > 0) || self.is_sparse(cell) {
            return None;
        }
        let crossed = self.crossed(0, cell, count);
        (count > 1 && crossed <= CROSSED).then_some(Period {
            cell,
            before: 0,
            after: 0,
            gap: 0,
            crossed,
            rest: !self.length.is_multiple_of(cell),
        })
    }

    /// How often art crosses the borders of cells side by side, against as many borders anywhere.
    fn crossed(&self, before: u32, cell: u32, count: u32) -> f64 {
        let total: u32 = (1..count).map(|line| self.crossing[(before + line * cell) as usize]).sum();
        let by_chance = self.crossing.iter().map(|c| f64::from(*c)).sum::<f64>() / f64::from(self.length.max(1));
        f64::from(total) / (by_chance * f64::from(count.saturating_sub(1))).max(1.0)
    }

    /// Whether, of two, three or four cells in turn, one is never used: then several of them make one cell.
    fn is_sparse(&self, cell: u32) -> bool {
        let used: Vec<bool> =
            self.filled.chunks_exact(cell as usize).map(|part| part.iter().any(|filled| *filled > 0)).collect();
        (2..=4).any(|turn| {
            used.len() >= 2 * turn
                && (0..turn).any(|first| !used.iter().skip(first).step_by(turn).any(|used| *used))
                && used.iter().any(|used| *used)
        })
    }

    /// Cells with equal margins and gaps, all of them empty and every cell used.
    fn with_gaps(&self) -> Vec<Period> {
        let mut sums = vec![0_u64];
        for filled in &self.filled {
            sums.push(sums.last().copied().unwrap_or(0) + u64::from(*filled));
        }
        let empty = |from: u32, to: u32| sums[from as usize] == sums[to as usize];
        let mut layouts: Vec<(u32, u32)> = (0..=MOST_GAP)
            .flat_map(|margin| (0..=MOST_GAP).map(move |gap| (margin, gap)))
            .filter(|l| *l != (0, 0))
            .collect();
        layouts.sort_by_key(|(margin, gap)| (margin + gap, *margin != 0 && margin != gap, *margin));
        for (margin, gap) in layouts {
            let Some(room) = (self.length + gap).checked_sub(2 * margin) else {
                continue;
            };
            let fits = |count: u32| {
                let step = room / count;
                let cell = step.checked_sub(gap).filter(|cell| room % count == 0 && *cell >= LEAST_CELL)?;
                let edges = empty(0, margin) && empty(self.length - margin, self.length);
                let each = (0..count).all(|n| {
                    let start = margin + n * step;
                    // Art at both sides of every cell: without it the room around the figures is no gap.
                    let ends = self.filled[start as usize] > 0 && self.filled[(start + cell - 1) as usize] > 0;
                    ends && (n == 0 || empty(start - gap, start))
                });
                let crossed = if gap == 0 { self.crossed(margin, cell, count) } else { 0.0 };
                (edges && each && crossed <= CROSSED).then_some(Period {
                    cell,
                    before: margin,
                    after: margin,
                    gap,
                    crossed,
                    rest: false,
                })
            };
            let found: Vec<Period> = (2..=room / (LEAST_CELL + gap).max(1)).filter_map(fits).collect();
            if !found.is_empty() {
                return found;
            }
        }
        Vec::new()
    }
}

/// Mean IoU of the silhouettes of cells that follow each other, left to right or, in a single column, downward.
fn agreement(art: &Mask, sums: &SummedArea, grid: &Grid, cells: &[PixelRect]) -> Option<f64> {
    let columns = grid.cells_in(art.width(), art.height()).0 as usize;
    let used: Vec<bool> = cells.iter().map(|cell| sums.count(*cell) > 0).collect();
    let mut total = 0.0;
    let mut count = 0;
    for index in 1..cells.len() {
        let same_row = index % columns != 0 || columns == 1;
        if same_row && used[index - 1] && used[index] && count < COMPARED {
            total += likeness(art, cells[index - 1], cells[index]);
            count += 1;
        }
    }
    (count > 0).then(|| total / count as f64)
}

/// IoU of the art in two rectangles of one size.
fn likeness(art: &Mask, one: PixelRect, other: PixelRect) -> f64 {
    let (mut both, mut either) = (0_u32, 0_u32);
    for y in 0..one.height {
        let row = |rect: PixelRect| art.row(rect.y + y).skip(rect.x as usize).take(rect.width as usize);
        for (a, b) in row(one).zip(row(other)) {
            both += u32::from(a && b);
            either += u32::from(a || b);
        }
    }
    f64::from(both) / f64::from(either.max(1))
}
