//! How well a grid explains the art of a sheet.

use super::{Grid, Mask, Run};

/// What lies in a cell.
#[derive(Clone, Copy, Debug)]
struct InCell {
    /// First column and row, and those after the last, cell px.
    x: [u32; 2],
    y: [u32; 2],
    pixels: u64,
}

/// A grid against a sheet's art.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Reading {
    /// Mean IoU of the silhouettes of cells that follow each other.
    pub(super) alike: f64,
    /// How far the middles of the art vary from that of their row, in cells.
    pub(super) astray: f64,
    /// How far the middles of the art are from those of their cells across, and from one height or one foot line down; in cells.
    pub(super) off_middle: f64,
    /// How far the lower ends of the art vary from that of their row, in cells.
    pub(super) off_line: f64,
    /// How far the lines on which rows stand vary, in cells.
    pub(super) lines: f64,
    /// Mean IoU of the silhouettes of cells under one another; 1 for a single row.
    pub(super) rows_alike: f64,
    /// Mean logarithm of how much the art's extent differs from that usual in its row, 1.5 at most each.
    pub(super) sizes: f64,
    /// Share of the cells that are empty with art after them in their row.
    pub(super) holes: f64,
    /// Share of the rows without art that have some below.
    pub(super) unused: f64,
    /// Cells with art.
    pub(super) used: usize,
}

/// Neighbours are compared for this many cells at most.
const COMPARED: usize = 64;

/// Rows of two cells that are compared at most, evenly spread.
const COMPARED_ROWS: u32 = 96;

/// A sheet's art, ready to be read by grids.
pub(super) struct Art<'a> {
    mask: &'a Mask,
    runs: Vec<Run>,
    /// By row: its first run, and at last their number.
    starts: Vec<usize>,
}

impl<'a> Art<'a> {
    pub(super) fn new(mask: &'a Mask) -> Art<'a> {
        let runs = mask.runs();
        let starts = (0..=mask.height()).map(|row| runs.partition_point(|run| run.row < row)).collect();
        Art { mask, runs, starts }
    }

    /// The runs of the art, row by row.
    pub(super) fn runs(&self) -> &[Run] {
        &self.runs
    }

    /// Reads the art by a grid; `None` where fewer than two cells hold any.
    ///
    /// # Complexity
    /// O(runs + cells + compared pixels / 64).
    pub(super) fn read(&self, grid: &Grid) -> Option<Reading> {
        let (columns, rows) = grid.cells_in(self.mask.width(), self.mask.height());
        let cells = self.in_cells(grid, columns, rows);
        let used = cells.iter().flatten().count();
        if used < 2 {
            return None;
        }
        let rows_of: Vec<&[Option<InCell>]> = cells.chunks(columns as usize).collect();
        let (mut astray, mut off_line, mut off_height, mut sizes, mut holes, mut slots) = (0.0, 0.0, 0.0, 0.0, 0, 0);
        let middle = |cell: &InCell| f64::from(cell.x[0] + cell.x[1]) / 2.0 / f64::from(grid.cell.0);
        let mut lines: Vec<f64> = Vec::new();
        for row in &rows_of {
            let held: Vec<&InCell> = row.iter().flatten().collect();
            let Some(last) = row.iter().rposition(Option::is_some) else { continue };
            slots += last + 1;
            holes += last + 1 - held.len();
            let spread = |of: &dyn Fn(&InCell) -> f64| -> f64 {
                let all: Vec<f64> = held.iter().map(|cell| of(cell)).collect();
                let middle = median(all.clone());
                all.iter().map(|at| (at - middle).abs().min(1.5)).sum()
            };
            lines.push(median(held.iter().map(|cell| f64::from(cell.y[1]) / f64::from(grid.cell.1)).collect()));
            astray += spread(&middle);
            off_line += spread(&|cell| f64::from(cell.y[1]) / f64::from(grid.cell.1));
            off_height += spread(&|cell| f64::from(cell.y[0] + cell.y[1]) / 2.0 / f64::from(grid.cell.1));
            sizes += spread(&|cell| (f64::from(cell.x[1] - cell.x[0]) * f64::from(cell.y[1] - cell.y[0])).ln());
        }
        // Head and body of one figure are over one another in the middle, too.
        let aside = |cell: &InCell| if columns > 1 { (middle(cell) - 0.5).abs() } else { 0.5 };
        let aside: f64 = cells.iter().flatten().map(aside).sum();
        // In a single column frames follow each other downward.
        if columns == 1 {
            let all: Vec<f64> = cells.iter().flatten().map(|c| f64::from(c.x[0] + c.x[1]) / 2.0).collect();
            let mean = all.iter().sum::<f64>() / all.len() as f64;
            astray = all.iter().map(|at| (at - mean).abs() / f64::from(grid.cell.0)).sum();
        }
        // Sheets may end before their canvas does.
        let has_art = |row: &&[Option<InCell>]| row.iter().any(Option::is_some);
        let last = rows_of.iter().rposition(has_art).unwrap_or(0);
        let unused = rows_of[..last].iter().filter(|row| !has_art(row)).count();
        let count = used as f64;
        let line = median(lines.clone());
        let lines = lines.iter().map(|at| (at - line).abs()).sum::<f64>() / lines.len() as f64;
        Some(Reading {
            alike: self.alike(grid, columns, &cells, Follows::Beside),
            lines,
            rows_alike: if rows > 1 && columns > 1 { self.alike(grid, columns, &cells, Follows::Under) } else { 1.0 },
            astray: astray / count,
            off_middle: (aside + f64::min(off_line, off_height)) / count,
            off_line: off_line / count,
            sizes: sizes / count,
            holes: holes as f64 / slots.max(1) as f64,
            unused: unused as f64 / rows_of.len().max(1) as f64,
            used,
        })
    }

    /// What lies in each cell; runs that cross a border count on both sides.
    fn in_cells(&self, grid: &Grid, columns: u32, rows: u32) -> Vec<Option<InCell>> {
        let mut cells: Vec<Option<InCell>> = vec![None; columns as usize * rows as usize];
        let pitch = grid.pitch();
        for run in &self.runs {
            let Some(y) = run.row.checked_sub(grid.before.1) else { continue };
            let (row, y) = (y / pitch.1, y % pitch.1);
            if row >= rows || y >= grid.cell.1 {
                continue;
            }
            let mut at = run.start.max(grid.before.0);
            while at < run.end {
                let column = (at - grid.before.0) / pitch.0;
                let start = grid.before.0 + column * pitch.0;
                let end = run.end.min(start + grid.cell.0);
                if column < columns && at < end {
                    let own = [at - start, end - start];
                    let pixels = u64::from(end - at);
                    let cell = &mut cells[(row * columns + column) as usize];
                    *cell = Some(match *cell {
                        None => InCell { x: own, y: [y, y + 1], pixels },
                        Some(of) => InCell {
                            x: [of.x[0].min(own[0]), of.x[1].max(own[1])],
                            y: [of.y[0], y + 1],
                            pixels: of.pixels + pixels,
                        },
                    });
                }
                at = start + pitch.0;
            }
        }
        cells
    }

    fn alike(&self, grid: &Grid, columns: u32, cells: &[Option<InCell>], follows: Follows) -> f64 {
        let before = |index: usize| match follows {
            Follows::Beside if columns > 1 && index.is_multiple_of(columns as usize) => None,
            Follows::Beside => index.checked_sub(1),
            Follows::Under => index.checked_sub(columns as usize),
        };
        let is_used = |index: usize| cells[index].is_some();
        let pair =
            |index: usize| before(index).map(|one| [one, index]).filter(|pair| pair.iter().all(|at| is_used(*at)));
        let pairs: Vec<[usize; 2]> = (0..cells.len()).filter_map(pair).collect();
        // Spread over the sheet where there are many.
        let step = pairs.len().div_ceil(COMPARED).max(1);
        let of = |pair: &[usize; 2]| {
            self.likeness(grid.corner(columns, pair[0] as u32), grid.corner(columns, pair[1] as u32), grid.cell)
        };
        let all: Vec<f64> = pairs.iter().step_by(step).map(of).collect();
        if all.is_empty() { 0.0 } else { all.iter().sum::<f64>() / all.len() as f64 }
    }

    /// IoU of the art in two rectangles of one size.
    fn likeness(&self, one: (u32, u32), other: (u32, u32), size: (u32, u32)) -> f64 {
        let (mut both, mut either) = (0_u32, 0_u32);
        for y in (0..size.1).step_by(size.1.div_ceil(COMPARED_ROWS) as usize) {
            let rows = [one, other].map(|(_, top)| self.mask.words(top + y));
            for from in (0..size.0).step_by(64) {
                let count = (size.0 - from).min(64);
                let [a, b] =
                    [(rows[0], one.0), (rows[1], other.0)].map(|(words, left)| bits(words, left + from, count));
                both += (a & b).count_ones();
                either += (a | b).count_ones();
            }
        }
        f64::from(both) / f64::from(either.max(1))
    }

    /// The share of used cells that clear lines part into several of about one size, times how alike these are.
    ///
    /// # Complexity
    /// O(runs + compared pixels).
    pub(super) fn merged(&self, grid: &Grid) -> f64 {
        let (columns, rows) = grid.cells_in(self.mask.width(), self.mask.height());
        let cells = self.in_cells(grid, columns, rows);
        let used: Vec<usize> = (0..cells.len()).filter(|index| cells[*index].is_some()).collect();
        let step = used.len().div_ceil(COMPARED).max(1);
        let (mut parted, mut looked) = ([0.0; 2], 0);
        for index in used.iter().step_by(step) {
            let (left, top) = grid.corner(columns, *index as u32);
            let (mut across, mut down) = (vec![0_u64; grid.cell.0 as usize], vec![0_u64; grid.cell.1 as usize]);
            for y in 0..grid.cell.1 {
                let row = &self.runs[self.starts[(top + y) as usize]..self.starts[(top + y + 1) as usize]];
                let first = row.partition_point(|run| run.end <= left);
                for run in row[first..].iter().take_while(|run| run.start < left + grid.cell.0) {
                    let (from, to) = (run.start.max(left) - left, run.end.min(left + grid.cell.0) - left);
                    down[y as usize] += u64::from(to - from);
                    across[from as usize..to as usize].iter_mut().for_each(|sum| *sum += 1);
                }
            }
            looked += 1;
            if let Some(parts) = falls_apart(&across) {
                let wide = grid.cell.0 / parts;
                let of = |part: u32| {
                    self.likeness((left + (part - 1) * wide, top), (left + part * wide, top), (wide, grid.cell.1))
                };
                parted[0] += (1..parts).map(of).sum::<f64>() / f64::from(parts - 1);
            }
            if let Some(parts) = falls_apart(&down) {
                let high = grid.cell.1 / parts;
                let of = |part: u32| {
                    self.likeness((left, top + (part - 1) * high), (left, top + part * high), (grid.cell.0, high))
                };
                parted[1] += (1..parts).map(of).sum::<f64>() / f64::from(parts - 1);
            }
        }
        parted[0].max(parted[1]) / f64::from(looked.max(1))
    }
}

/// Which cells are compared.
#[derive(Clone, Copy, PartialEq)]
enum Follows {
    /// Those beside each other; in a single column those under one another.
    Beside,
    /// Those of one column in rows that follow each other.
    Under,
}

/// The middle one, the upper of two.
pub(super) fn median(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of.get(of.len() / 2).copied().unwrap_or(0.0)
}

/// Into how many of about one size empty places part a row of counts, at about equal distances.
fn falls_apart(counts: &[u64]) -> Option<u32> {
    /// Each part holds at least this share of what the largest does.
    const SHARE: f64 = 0.3;
    let is_parted = |parts: usize| {
        let reach = counts.len() / (parts * 5);
        let mut borders = vec![0];
        for part in 1..parts {
            let middle = counts.len() * part / parts;
            let mut near = (0..=reach).flat_map(|by| [middle - by.min(middle), middle + by]);
            match near.find(|at| *at < counts.len() && counts[*at] == 0) {
                Some(at) => borders.push(at),
                None => return false,
            }
        }
        borders.push(counts.len());
        let sums: Vec<u64> = borders.windows(2).map(|pair| counts[pair[0]..pair[1]].iter().sum()).collect();
        let (least, most) = (sums.iter().min().copied().unwrap_or(0), sums.iter().max().copied().unwrap_or(0));
        most > 0 && least as f64 >= SHARE * most as f64
    };
    (2..=4).find(|parts| is_parted(*parts)).map(|parts| parts as u32)
}

/// Up to 64 pixels of a row from a column on.
fn bits(words: &[u64], from: u32, count: u32) -> u64 {
    let (word, shift) = ((from / 64) as usize, from % 64);
    let low = words.get(word).map_or(0, |bits| bits >> shift);
    let high = if shift == 0 { 0 } else { words.get(word + 1).map_or(0, |bits| bits << (64 - shift)) };
    let all = low | high;
    if count >= 64 { all } else { all & ((1 << count) - 1) }
}
