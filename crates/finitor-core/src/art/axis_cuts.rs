//! The ways to cut one axis of a sheet into equal cells that its art allows.

use super::reading::median;
use super::{Mask, Run};

/// Cells are at least this long, px; smaller ones cannot be told from details of the art.
const LEAST_CELL: u32 = 4;
/// Margins and gaps up to this are tried, px.
const MOST_GAP: u32 = 16;
/// Art may cross at most this share of the borders' length that it would cross by chance.
const CROSSED: f64 = 0.25;
/// Ways that are followed up, beside the axis in one piece.
const KEPT: usize = 48;
/// Of these with one number of cells.
const OF_ONE_COUNT: usize = 6;

/// One way of cutting an axis.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct AxisCut {
    pub(super) cell: u32,
    pub(super) before: u32,
    pub(super) after: u32,
    pub(super) gap: u32,
    pub(super) count: u32,
    /// Share of the borders that art crosses, against as many anywhere.
    pub(super) crossed: f64,
    /// Empty px that are left over at the end.
    pub(super) rest: u32,
    /// How unevenly art lies in the cells; 0 for the axis in one piece.
    pub(super) uneven: f64,
}

impl AxisCut {
    /// From the start of a cell to that of the next.
    pub(super) fn pitch(&self) -> u32 {
        self.cell + self.gap
    }

    /// Whether it has neither margin nor gap nor rest.
    pub(super) fn is_plain(&self) -> bool {
        self.before + self.gap + self.rest == 0
    }
}

/// What lies along one axis of the sheet.
pub(super) struct Axis {
    length: u32,
    /// Where art ends.
    used: u32,
    /// Art pixels before each column, or row.
    sums: Vec<u64>,
    /// Rows or columns in which both the pixel before a border and the one after it are art.
    crossing: Vec<u32>,
    crossing_mean: f64,
}

/// Which way an axis runs.
#[derive(Clone, Copy, PartialEq)]
pub(super) enum Along {
    Columns,
    Rows,
}

impl Axis {
    /// An axis of the art, whose runs are known.
    pub(super) fn new(art: &Mask, runs: &[Run], along: Along) -> Axis {
        let length = if along == Along::Columns { art.width() } else { art.height() };
        let mut filled = vec![0_u64; length as usize];
        let mut crossing = vec![0; length as usize];
        for run in runs {
            match along {
                Along::Columns => {
                    filled[run.start as usize..run.end as usize].iter_mut().for_each(|sum| *sum += 1);
                    crossing[run.start as usize + 1..run.end as usize].iter_mut().for_each(|sum| *sum += 1);
                }
                Along::Rows => filled[run.row as usize] += u64::from(run.len()),
            }
        }
        if along == Along::Rows {
            for y in 1..art.height() {
                let both = art.words(y).iter().zip(art.words(y - 1)).map(|(a, b)| (a & b).count_ones());
                crossing[y as usize] = both.sum();
            }
        }
        let mut sums = vec![0];
        for filled in filled {
            sums.push(sums.last().copied().unwrap_or(0) + filled);
        }
        let crossing_mean = crossing.iter().map(|c| f64::from(*c)).sum::<f64>() / f64::from(length.max(1));
        let used = sums.partition_point(|sum| Some(sum) < sums.last()) as u32;
        Axis { length, used, sums, crossing, crossing_mean }
    }

    /// The axis in one piece.
    pub(super) fn whole(&self) -> AxisCut {
        AxisCut { cell: self.length, before: 0, after: 0, gap: 0, count: 1, crossed: 0.0, rest: 0, uneven: 0.0 }
    }

    /// The axis in one piece within a margin, where that is empty at both ends.
    pub(super) fn whole_within(&self, margin: u32) -> AxisCut {
        let room = self.length.saturating_sub(2 * margin);
        if room < LEAST_CELL || !self.is_empty(0, margin) || !self.is_empty(self.length - margin, self.length) {
            return self.whole();
        }
        AxisCut { cell: room, before: margin, after: margin, ..self.whole() }
    }

    fn is_empty(&self, from: u32, to: u32) -> bool {
        self.sums[from as usize] == self.sums[to as usize]
    }

    /// The cuts whose borders hardly any art crosses: those without any margin, gap or rest, and the most regular of others.
    /// Each comes with all layouts of its pitch and count, the plainest first.
    ///
    /// # Complexity
    /// O(length log length) borders looked at.
    pub(super) fn cuts(&self) -> Vec<Vec<AxisCut>> {
        let mut found: Vec<(f64, Vec<AxisCut>)> = Vec::new();
        for pitch in LEAST_CELL..=self.length / 2 + MOST_GAP {
            let most = (self.length + MOST_GAP) / pitch;
            let least = (self.length / pitch).saturating_sub(2 * MOST_GAP / pitch + 1).max(2);
            // Behind the art a canvas may go on for more than a cell.
            let holds_art = Some(self.used.div_ceil(pitch)).filter(|count| (2..least).contains(count));
            for count in holds_art.into_iter().chain(least..=most) {
                let layouts = self.layouts(pitch, count);
                let uneven = layouts.first().and_then(|cut| self.unevenness(cut));
                let layouts = |uneven: f64| layouts.iter().map(|cut| AxisCut { uneven, ..*cut }).collect();
                found.extend(uneven.map(|uneven| (uneven, layouts(uneven))));
            }
        }
        found.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1[0].cell.cmp(&b.1[0].cell)));
        let mut kept: Vec<Vec<AxisCut>> = Vec::new();
        for (_, cuts) in found {
            let alike = kept.iter().filter(|known| known[0].count == cuts[0].count).count();
            if cuts[0].is_plain() || (kept.len() < KEPT && alike < OF_ONE_COUNT) {
                kept.push(cuts);
            }
        }
        kept
    }

    /// The layouts of a pitch and a count: cells side by side, else with a margin and a gap, and with a rest.
    fn layouts(&self, pitch: u32, count: u32) -> Vec<AxisCut> {
        let taken = pitch * count;
        let of = |before: u32, after: u32, gap: u32, rest: u32| AxisCut {
            cell: pitch - gap,
            before,
            after,
            gap,
            count,
            crossed: 0.0,
            rest,
            uneven: 0.0,
        };
        let mut found: Vec<AxisCut> = Vec::new();
        if taken == self.length {
            found.extend(self.allowed(of(0, 0, 0, 0)));
        }
        // Twice the margin and all cells and gaps are the length.
        for margin in 0..=MOST_GAP {
            let Some(gap) = (2 * margin + taken).checked_sub(self.length).filter(|gap| *gap <= MOST_GAP) else {
                continue;
            };
            if pitch >= gap + LEAST_CELL && (margin, gap) != (0, 0) {
                found.extend(self.allowed(of(margin, margin, gap, 0)));
            }
        }
        // Filled cells show where they end.
        found.sort_by_key(|cut| (!self.fills_cells(cut), !cut.is_plain(), cut.gap + cut.before));
        let rest = self.length.saturating_sub(taken);
        if rest > 0 && (rest < pitch || count == self.used.div_ceil(pitch)) {
            found.extend(self.allowed(of(0, 0, 0, rest)));
        }
        found
    }

    /// Whether margins, gaps and the rest are empty, and hardly any art crosses.
    fn allowed(&self, cut: AxisCut) -> Option<AxisCut> {
        let end = self.length - cut.after - cut.rest;
        if !self.is_empty(0, cut.before) || !self.is_empty(end, self.length) {
            return None;
        }
        let starts = (1..cut.count).map(|n| cut.before + n * cut.pitch());
        if cut.gap > 0 {
            let is_clear = starts.into_iter().all(|start| self.is_empty(start - cut.gap, start));
            return is_clear.then_some(cut);
        }
        let total: u32 = starts.map(|start| self.crossing[start as usize]).sum();
        let crossed = f64::from(total) / (self.crossing_mean * f64::from(cut.count - 1)).max(1.0);
        (crossed <= CROSSED).then_some(AxisCut { crossed, ..cut })
    }

    /// Whether art touches both ends of every cell.
    fn fills_cells(&self, cut: &AxisCut) -> bool {
        (0..cut.count).all(|n| {
            let start = cut.before + n * cut.pitch();
            !self.is_empty(start, start + 1) && !self.is_empty(start + cut.cell - 1, start + cut.cell)
        })
    }

    /// How unevenly art lies in the cells: how far its middle and its extent vary, in cells, and how much of the axis is
    /// unused. `None` where fewer than two cells are used.
    fn unevenness(&self, cut: &AxisCut) -> Option<f64> {
        let extents: Vec<Option<[f64; 2]>> = (0..cut.count)
            .map(|n| {
                let start = cut.before + n * cut.pitch();
                let end = start + cut.cell;
                let first = (start..end).find(|at| !self.is_empty(*at, at + 1))?;
                let last = (start..end).rev().find(|at| !self.is_empty(*at, at + 1))? + 1;
                Some([f64::from(first - start), f64::from(last - start)])
            })
            .collect();
        let used: Vec<[f64; 2]> = extents.iter().flatten().copied().collect();
        if used.len() < 2 {
            return None;
        }
        let spread = |of: &dyn Fn(&[f64; 2]) -> f64| {
            let all: Vec<f64> = used.iter().map(of).collect();
            let middle = median(all.clone());
            all.iter().map(|at| (at - middle).abs()).sum::<f64>() / all.len() as f64 / f64::from(cut.pitch())
        };
        let holes = (extents.len() - used.len()) as f64 / extents.len() as f64;
        let uneven = spread(&|of| (of[0] + of[1]) / 2.0) + 0.3 * spread(&|of| of[1] - of[0]);
        Some(2.0 * uneven + holes + 2.0 * cut.crossed + if cut.rest > 0 { 0.03 } else { 0.0 })
    }
}
