//! Outlines of few corners that cover or lie inside: from the corners of the boundary with the least area off.

use super::FitGoal;
use super::brought_down::BroughtDown;
use super::chain::Bounds;
use super::island::Island;
use super::least_area::LeastArea;
use crate::art::Mask;
use crate::geometry::Point;

/// Corners of any ring, at least.
pub(super) const LEAST_CORNERS: usize = 3;

/// How far ways between corners go from the boundary of a selection, px: those of small figures need not go far.
fn farthest(selection: &Mask) -> f64 {
    const SHARE: f64 = 1.0 / 24.0;
    const LEAST: f64 = 3.0;
    /// Beyond nearly every corner sees every other.
    const FARTHEST: f64 = 16.0;
    let size = selection.bounds().map_or(0.0, |bounds| f64::from(bounds.width).hypot(f64::from(bounds.height)));
    (SHARE * size).clamp(LEAST, FARTHEST)
}

/// The boundaries of a selection, each with its outlines of least area.
pub(super) struct ByArea {
    outlines: BroughtDown,
    curves: Vec<LeastArea>,
}

impl ByArea {
    /// Of a selection, for outlines with at most `most` corners altogether that cover or lie inside. In balance area gained would make
    /// up for area lost.
    ///
    /// # Complexity
    /// O(m k), m ways between corners of the boundary, k corners at most.
    pub(super) fn new(selection: &Mask, goal: FitGoal, most: usize) -> ByArea {
        let outlines = BroughtDown::traced(selection, Bounds { tolerance: farthest(selection), goal });
        // The highest corner, and of those the leftmost, is one of every outline that covers.
        let order = |p: &Point, q: &Point| p.y.total_cmp(&q.y).then(p.x.total_cmp(&q.x));
        let curve = |island: &Island| {
            let ring = island.boundary().ring();
            let start = (0..ring.len()).min_by(|&i, &j| order(&ring[i], &ring[j])).unwrap_or(0);
            island.least_area(most, start)
        };
        let curves = outlines.islands().iter().map(curve).collect();
        ByArea { outlines, curves }
    }

    /// The islands with their outlines brought down, corner by corner, from `from` corners of least area to `most`, where edges
    /// may leave the lattice; from the fewest where those are more. `None` where they cross or cannot be.
    pub(super) fn outline(&mut self, from: usize, most: usize) -> Option<&[Island]> {
        let kept = match self.split(from).or_else(|| self.split(usize::MAX)) {
            Some(own) => self.curves.iter().zip(own).map(|(curve, own)| curve.cycle(own)).collect(),
            None => self.outlines.islands().iter().map(Island::kept).collect(),
        };
        self.outlines.from(kept, most)
    }

    /// How a number of corners is shared among the boundaries so that all area off is least.
    fn split(&self, corners: usize) -> Option<Vec<usize>> {
        let corners = corners.min(self.curves.iter().map(LeastArea::most).sum());
        // By number of corners given away: the least area off, and how many the last boundary got.
        let mut tables: Vec<Vec<(f64, usize)>> = Vec::with_capacity(self.curves.len());
        let mut so_far = vec![f64::INFINITY; corners + 1];
        so_far[0] = 0.0;
        for curve in &self.curves {
            let best = |used: usize| {
                let own = LEAST_CORNERS..=used.min(curve.most());
                let each = own.map(|own| (so_far[used - own] + curve.twice_area(own), own));
                each.reduce(|best, other| if other.0 < best.0 { other } else { best }).unwrap_or((f64::INFINITY, 0))
            };
            let table: Vec<(f64, usize)> = (0..=corners).map(best).collect();
            so_far = table.iter().map(|(area, _)| *area).collect();
            tables.push(table);
        }
        let mut used = (0..=corners).min_by(|&i, &j| so_far[i].total_cmp(&so_far[j]))?;
        if so_far[used].is_infinite() {
            return None;
        }
        let mut split = Vec::with_capacity(tables.len());
        for table in tables.iter().rev() {
            split.push(table[used].1);
            used -= table[used].1;
        }
        split.reverse();
        Some(split)
    }
}
