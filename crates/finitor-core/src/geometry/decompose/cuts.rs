//! Which corners of a ring see each other, and which cuts between them may follow which in a convex piece.

use crate::geometry::predicates::TURN_DOUBT;
use crate::geometry::{Point, segments_meet, turn};
use std::ops::Range;

/// A pair of corners, the lower first, joined by an edge or a cut.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cut {
    pub(super) from: u32,
    pub(super) to: u32,
    /// Whether it is an edge of the ring with nothing behind it.
    pub(super) is_edge: bool,
}

/// All of them, by lower corner and then by the higher one.
pub(super) struct Cuts {
    pub(super) list: Vec<Cut>,
    /// Words of a bit set of the cuts that come to a corner.
    pub(super) words: usize,
    /// By corner: where its cuts to higher corners begin in the list, and at last where they end.
    starts: Vec<usize>,
    /// The cuts by their higher corner and then by the lower one.
    coming: Vec<u32>,
    /// By corner: where the cuts from lower corners to it begin in `coming`, and at last where they end.
    coming_starts: Vec<usize>,
    /// By cut: its place among those that come to its higher corner.
    slots: Vec<u32>,
    /// By cut: the cuts to its lower corner that it turns on from without a reflex corner, as a bit set.
    convex: Vec<u64>,
}

impl Cuts {
    /// # Complexity
    /// O(r n2), n corners, r of them reflex; and O(c d), c cuts, d of them a corner.
    pub(super) fn new(points: &[Point]) -> Cuts {
        let n = points.len();
        let at = |i: usize| points[i % n];
        let reflex: Vec<bool> = (0..n).map(|i| turn(at(i + n - 1), at(i), at(i + 1)) < 0.0).collect();
        let (mut list, mut starts) = (Vec::with_capacity(4 * n), Vec::with_capacity(n + 1));
        let mut slots = Vec::with_capacity(4 * n);
        // By corner, one further on: how many come to it.
        let mut coming_starts = vec![0; n + 1];
        let mut ring = Ring::new(points);
        for from in 0..n {
            starts.push(list.len());
            for to in from + 1..n {
                let is_edge = to == from + 1;
                let closing = from == 0 && to == n - 1;
                let mut seen = || {
                    (reflex[from] || reflex[to])
                        && opens(points, &reflex, from, to)
                        && opens(points, &reflex, to, from)
                        && ring.is_clear(from, to)
                };
                if is_edge || closing || seen() {
                    slots.push(coming_starts[to + 1] as u32);
                    coming_starts[to + 1] += 1;
                    list.push(Cut { from: from as u32, to: to as u32, is_edge });
                }
            }
        }
        starts.push(list.len());
        let words = coming_starts.iter().max().map_or(0, |most: &usize| most.div_ceil(64));
        (0..n).for_each(|corner| coming_starts[corner + 1] += coming_starts[corner]);
        let mut coming = vec![0; list.len()];
        for (cut, Cut { to, .. }) in list.iter().enumerate() {
            coming[coming_starts[*to as usize] + slots[cut] as usize] = cut as u32;
        }
        let mut cuts = Cuts { list, words, starts, coming, coming_starts, slots, convex: Vec::new() };
        cuts.convex = cuts.found_convex(points);
        cuts
    }

    fn found_convex(&self, points: &[Point]) -> Vec<u64> {
        let mut convex = vec![0; self.list.len() * self.words];
        for (next, Cut { from, to, .. }) in self.list.iter().enumerate() {
            let (at, goal) = (points[*from as usize], points[*to as usize]);
            for (slot, before) in self.coming(*from as usize).iter().enumerate() {
                if turn(points[self.list[*before as usize].from as usize], at, goal) >= 0.0 {
                    convex[next * self.words + slot / 64] |= 1 << (slot % 64);
                }
            }
        }
        convex
    }

    /// The cuts from a corner to higher ones, ascending.
    pub(super) fn onward(&self, corner: usize) -> Range<usize> {
        self.starts[corner]..self.starts[corner + 1]
    }

    /// The cuts from lower corners to a corner, ascending.
    pub(super) fn coming(&self, corner: usize) -> &[u32] {
        &self.coming[self.coming_starts[corner]..self.coming_starts[corner + 1]]
    }

    /// The place of a cut among those that come to its higher corner.
    pub(super) fn slot(&self, cut: usize) -> usize {
        self.slots[cut] as usize
    }

    /// The cuts that a cut may follow.
    pub(super) fn convex_with(&self, cut: usize) -> &[u64] {
        &self.convex[cut * self.words..(cut + 1) * self.words]
    }

    pub(super) fn find(&self, from: usize, to: usize) -> Option<usize> {
        self.onward(from).find(|cut| self.list[*cut].to as usize == to)
    }

    /// Chains to look at, at most.
    pub(super) fn work(&self) -> usize {
        let corners = 0..self.starts.len() - 1;
        let steps: usize = corners.map(|corner| self.coming(corner).len() * self.onward(corner).len()).sum();
        steps.saturating_mul(self.list.len())
    }
}

/// Whether the way from a corner to another starts into the inside.
fn opens(points: &[Point], reflex: &[bool], corner: usize, to: usize) -> bool {
    let n = points.len();
    let (before, at, after) = (points[(corner + n - 1) % n], points[corner], points[(corner + 1) % n]);
    let (one, other) = (turn(before, at, points[to]) > 0.0, turn(at, after, points[to]) > 0.0);
    if reflex[corner] { one || other } else { one && other }
}

/// The corners of a ring, for the question what lies in the way between two of them.
struct Ring<'p> {
    points: &'p [Point],
    xs: Vec<f64>,
    ys: Vec<f64>,
    /// By corner: 1 right of the way that was asked for last, -1 left of it, 0 on it or near it.
    sides: Vec<i8>,
}

impl<'p> Ring<'p> {
    fn new(points: &'p [Point]) -> Ring<'p> {
        let (xs, ys) = points.iter().map(|point| (point.x, point.y)).unzip();
        Ring { points, xs, ys, sides: vec![0; points.len()] }
    }

    /// Whether the way between two corners touches no edge but at its ends.
    ///
    /// # Complexity
    /// O(n), n corners, in a loop without branches; and an exact test for each edge that has not both ends on one side.
    fn is_clear(&mut self, from: usize, to: usize) -> bool {
        let points = self.points;
        let (a, b) = (points[from], points[to]);
        let n = points.len();
        let (xs, ys, sides) = (&self.xs[..n], &self.ys[..n], &mut self.sides[..n]);
        for corner in 0..n {
            let (x, y) = (xs[corner], ys[corner]);
            let (left, right) = ((a.x - x) * (b.y - y), (a.y - y) * (b.x - x));
            let (by, doubt) = (left - right, TURN_DOUBT * (left.abs() + right.abs()));
            sides[corner] = i8::from(by > doubt) - i8::from(by < 0.0 - doubt);
        }
        let is_end = |corner: usize| corner == from || corner == to;
        let is_in_the_way = |corner: usize, next: usize| {
            let (c, d) = (points[corner], points[next]);
            match self.sides[corner] * self.sides[next] {
                // An edge that lies on one side of the way is not in it.
                1 => false,
                _ if is_end(corner) || is_end(next) => false,
                // It crosses the line of the way.
                -1 => !same_side(turn(c, d, a), turn(c, d, b)),
                _ => segments_meet(a, b, c, d),
            }
        };
        let last = points.len() - 1;
        !is_in_the_way(last, 0) && (0..last).all(|corner| !is_in_the_way(corner, corner + 1))
    }
}

fn same_side(one: f64, other: f64) -> bool {
    (one > 0.0 && other > 0.0) || (one < 0.0 && other < 0.0)
}
