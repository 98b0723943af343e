//! Outlines brought down to few corners.

use super::chain::{Boundary, Bounds};
use super::crossings::Crossings;
use super::island::Island;
use super::reduce::reduced;
use crate::art::{LatticeRing, Mask, contours};

/// The boundaries of a selection, whose outlines are brought down to few corners.
pub(super) struct BroughtDown {
    islands: Vec<Island>,
    crossings: Crossings,
}

impl BroughtDown {
    /// The boundaries without outlines yet, with the ways between their corners that keep to the bounds.
    pub(super) fn traced(selection: &Mask, bounds: Bounds) -> BroughtDown {
        let trace = |ring: &LatticeRing| Island::traced(ring, bounds, f64::INFINITY);
        let islands: Vec<Island> = contours(selection).iter().map(trace).collect();
        let crossings = Crossings::new(bounds.goal, &islands);
        BroughtDown { islands, crossings }
    }

    /// The boundaries, with the outlines found last.
    pub(super) fn islands(&self) -> &[Island] {
        &self.islands
    }

    /// The outlines with `most` corners that are left of some, corner by corner, each time without the corner or edge that costs
    /// the least area; edges may leave the lattice. `None` where they cross or cannot be.
    pub(super) fn from(&mut self, kept: Vec<Vec<usize>>, most: usize) -> Option<&[Island]> {
        let outlines: Vec<(&Boundary, Vec<usize>)> = self.islands.iter().map(Island::boundary).zip(kept).collect();
        let found = reduced(&outlines, &self.crossings, most)?;
        for (island, corners) in self.islands.iter_mut().zip(found) {
            island.move_to(corners);
        }
        let right = self.islands.iter().all(Island::is_right_in_area)
            && self.crossings.find(&self.islands, |_| true).is_empty();
        right.then_some(self.islands.as_slice())
    }
}
