//! The strips of a space with what leads from one to the next, and runs of low places in them.

use crate::geometry::{Convex, Rect};
use crate::world::{Column, Gap, Space};
use std::collections::HashMap;

/// What is thinner than this is a seam between two pieces and no passage, px.
pub(super) const SEAM: f64 = 1e-6;

/// A gap of a strip: column and place in it.
pub(super) type Cell = (usize, usize);

/// A space without its lines.
pub(super) struct Strips {
    space: Space,
    /// By column and gap: the gaps beside it in the strip before, and in the one after.
    beside: Vec<Vec<[Vec<usize>; 2]>>,
}

/// The least height of a gap.
pub(super) fn height(gap: &Gap) -> f64 {
    (gap.bottom[0] - gap.top[0]).min(gap.bottom[1] - gap.top[1])
}

fn is_open(gap: &Gap) -> bool {
    gap.bottom[0] - gap.top[0] + gap.bottom[1] - gap.top[1] > SEAM
}

impl Strips {
    /// The strips that obstacles leave of an area.
    pub(super) fn new(obstacles: &[Convex], area: Rect) -> Strips {
        let space = Space::new(obstacles, area);
        let columns = space.columns();
        let mut beside: Vec<Vec<[Vec<usize>; 2]>> =
            columns.iter().map(|column| vec![[Vec::new(), Vec::new()]; column.gaps.len()]).collect();
        for left in (1..columns.len()).step_by(2).filter(|left| left + 2 < columns.len()) {
            // Both lists run from the top down: what ends first has no more neighbours.
            let (from, to) = (&columns[left].gaps, &columns[left + 2].gaps);
            let (mut i, mut j) = (0, 0);
            while let (Some(a), Some(b)) = (from.get(i), to.get(j)) {
                if a.bottom[1].min(b.bottom[0]) - a.top[1].max(b.top[0]) > SEAM && is_open(a) && is_open(b) {
                    beside[left][i][1].push(j);
                    beside[left + 2][j][0].push(i);
                }
                if a.bottom[1] < b.bottom[0] { i += 1 } else { j += 1 }
            }
        }
        Strips { space, beside }
    }

    pub(super) fn gap(&self, (column, place): Cell) -> &Gap {
        &self.space.columns()[column].gaps[place]
    }

    pub(super) fn column(&self, cell: Cell) -> &Column {
        &self.space.columns()[cell.0]
    }

    /// The gaps beside one, to its left or its right.
    pub(super) fn beside(&self, (column, place): Cell, to_right: bool) -> impl ExactSizeIterator<Item = Cell> + '_ {
        let next = if to_right { column + 2 } else { column.wrapping_sub(2) };
        self.beside[column][place][usize::from(to_right)].iter().map(move |other| (next, *other))
    }

    /// Runs of gaps no higher than `most` between two obstacles, each leading to one and coming from one.
    pub(super) fn low_runs(&self, most: f64) -> Vec<Vec<Cell>> {
        let is_low = |gap: &Gap| is_open(gap) && gap.above.is_some() && gap.below.is_some() && height(gap) <= most;
        let mut runs: Vec<Vec<Cell>> = Vec::new();
        let mut ending_in: HashMap<Cell, usize> = HashMap::new();
        for column in (1..self.space.columns().len()).step_by(2) {
            for (place, _) in self.space.columns()[column].gaps.iter().enumerate().filter(|(_, gap)| is_low(gap)) {
                let cell = (column, place);
                let mut before = self.beside(cell, false);
                let only = before.next().filter(|only| before.next().is_none() && self.beside(*only, true).len() == 1);
                let run = match only.and_then(|only| ending_in.remove(&only)) {
                    Some(run) => run,
                    None => {
                        runs.push(Vec::new());
                        runs.len() - 1
                    }
                };
                runs[run].push(cell);
                ending_in.insert(cell, run);
            }
        }
        runs
    }

    /// What lies beyond a gap to one side, the highest of several, as far as `reach` px.
    pub(super) fn beyond(&self, from: Cell, to_right: bool, reach: f64) -> Vec<Cell> {
        let (mut at, mut found) = (from, Vec::new());
        let (x0, x1) = (self.column(from).x0, self.column(from).x1);
        while let Some(next) =
            self.beside(at, to_right).max_by(|a, b| height(self.gap(*a)).total_cmp(&height(self.gap(*b))))
        {
            let column = self.column(next);
            if (if to_right { column.x0 - x1 } else { x0 - column.x1 }) > reach {
                break;
            }
            found.push(next);
            at = next;
        }
        found
    }
}
