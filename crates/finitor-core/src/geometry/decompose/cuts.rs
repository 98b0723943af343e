//! Edges and cuts between the corners of a ring, and which may follow which in a convex piece.

use super::sight::seen;
use crate::geometry::{Point, turn};
use std::ops::Range;

/// A pair of corners, the lower first, joined by an edge or a cut.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cut {
    pub(super) from: u32,
    pub(super) to: u32,
    /// Its place in the list by higher corners.
    pub(super) place: u32,
    /// The place there up to which those to its lower corner turn right into it.
    pub(super) follows: u32,
}

impl Cut {
    /// Whether it is an edge of the ring with nothing behind it.
    pub(super) fn is_edge(&self) -> bool {
        self.to == self.from + 1
    }
}

/// All of them, by lower corner and then by the higher one.
pub(super) struct Cuts {
    pub(super) list: Vec<Cut>,
    /// By corner: where its cuts to higher corners begin in the list, and at last where they end.
    starts: Vec<usize>,
    /// By corner: where the cuts to it begin in a list by higher corners and then by lower ones, and at last where they end.
    pub(super) arrivals: Vec<u32>,
}

impl Cuts {
    /// `None` where the ring is not simple.
    ///
    /// # Complexity
    /// O(c) for c cuts; and finding who sees whom.
    pub(super) fn new(points: &[Point]) -> Option<Cuts> {
        let n = points.len();
        let at = |i: usize| points[i % n];
        let reflex: Vec<bool> = (0..n).map(|i| turn(at(i + n - 1), at(i), at(i + 1)) < 0.0).collect();
        let seen = seen(points, &reflex)?;
        let (mut list, mut starts) = (Vec::with_capacity(6 * n), Vec::with_capacity(n + 1));
        let mut arrivals = vec![0; n + 1];
        for from in 0..n {
            starts.push(list.len());
            for to in seen.after(from) {
                list.push(Cut { from: from as u32, to: to as u32, place: arrivals[to + 1], follows: 0 });
                arrivals[to + 1] += 1;
            }
        }
        starts.push(list.len());
        (0..n).for_each(|corner| arrivals[corner + 1] += arrivals[corner]);
        list.iter_mut().for_each(|cut| cut.place += arrivals[cut.to as usize]);
        let mut cuts = Cuts { list, starts, arrivals };
        cuts.find_what_follows(points);
        Some(cuts)
    }

    /// Both lists of a corner go round it, so each cut may follow all that the one before may, and some of the next.
    fn find_what_follows(&mut self, points: &[Point]) {
        let mut coming = vec![0; self.list.len()];
        self.list.iter().for_each(|cut| coming[cut.place as usize] = cut.from);
        for (corner, at) in points.iter().enumerate() {
            let [mut before, end] = [self.arrivals[corner], self.arrivals[corner + 1]];
            for next in self.onward(corner) {
                let goal = points[self.list[next].to as usize];
                while before < end && turn(points[coming[before as usize] as usize], *at, goal) >= 0.0 {
                    before += 1;
                }
                self.list[next].follows = before;
            }
        }
    }

    /// The cuts from a corner to higher ones, ascending.
    pub(super) fn onward(&self, corner: usize) -> Range<usize> {
        self.starts[corner]..self.starts[corner + 1]
    }

    pub(super) fn find(&self, from: usize, to: usize) -> Option<usize> {
        self.onward(from).find(|cut| self.list[*cut].to as usize == to)
    }
}
