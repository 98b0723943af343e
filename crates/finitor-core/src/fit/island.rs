//! One boundary of a selection and the outline found for it.

use super::FitGoal;
use super::chain::{Boundary, Bounds};
use super::least_area::LeastArea;
use super::refine::refined;
use super::ring::Corner;
use super::shortcuts::Shortcuts;
use crate::art::LatticeRing;
use crate::geometry::{Point, Polygon, ring_area};

/// A boundary and the outline found for it.
pub(super) struct Island {
    boundary: Boundary,
    bounds: Bounds,
    shortcuts: Shortcuts,
    corners: Vec<Corner>,
    /// Whether corners were moved off the lattice.
    moved: bool,
    /// How often they had to go back.
    put_back: u32,
    /// The tolerance that shortcuts are held to, px; it shrinks when too many had to be given up.
    reach: f64,
    /// How often shortcuts were given up.
    given_up: u32,
    /// What its area may be off by, px2.
    allowed: f64,
    is_hole: bool,
}

impl Island {
    /// The boundary with the outline found for it.
    pub(super) fn new(ring: &LatticeRing, bounds: Bounds, allowed_share: f64) -> Island {
        let mut island = Island::traced(ring, bounds, allowed_share);
        island.search();
        island
    }

    /// The boundary without an outline yet.
    pub(super) fn traced(ring: &LatticeRing, bounds: Bounds, allowed_share: f64) -> Island {
        let area = ring.area() as f64;
        let boundary = Boundary::new(ring.points());
        let shortcuts = Shortcuts::new(boundary.ring(), bounds.tolerance, bounds.goal);
        Island {
            boundary,
            bounds,
            shortcuts,
            corners: Vec::new(),
            moved: false,
            put_back: 0,
            reach: bounds.tolerance,
            given_up: 0,
            allowed: allowed_share * area.abs(),
            is_hole: area < 0.0,
        }
    }

    /// Finds the fewest corners, then moves them.
    fn search(&mut self) {
        // Corners that were in the way before would be again.
        const MOST_PUT_BACK: u32 = 2;
        let kept = self.shortcuts.shortest_cycle();
        let may_move = self.put_back < MOST_PUT_BACK;
        let moved = may_move.then(|| refined(&self.boundary, &kept, self.bounds)).flatten();
        self.moved = moved.is_some();
        self.corners = moved.unwrap_or_else(|| self.on_lattice(&kept));
    }

    /// The corners of the boundary that are kept.
    pub(super) fn kept(&self) -> Vec<usize> {
        self.shortcuts.shortest_cycle()
    }

    /// For each number of corners up to `most` its closed way with the least area off.
    pub(super) fn least_area(&self, most: usize, start: usize) -> LeastArea {
        LeastArea::through(start, &self.shortcuts, most)
    }

    /// Takes corners that were moved off the lattice.
    pub(super) fn move_to(&mut self, corners: Vec<Corner>) {
        self.corners = corners;
        self.moved = true;
    }

    fn on_lattice(&self, kept: &[usize]) -> Vec<Corner> {
        kept.iter().map(|&anchor| Corner { anchor, at: self.boundary.corner(anchor) }).collect()
    }

    pub(super) fn boundary(&self) -> &Boundary {
        &self.boundary
    }

    pub(super) fn is_hole(&self) -> bool {
        self.is_hole
    }

    /// Area within the traced boundary, px2.
    pub(super) fn boundary_area(&self) -> f64 {
        ring_area(self.boundary.ring()).abs()
    }

    pub(super) fn corners(&self) -> &[Corner] {
        &self.corners
    }

    pub(super) fn edge(&self, corner: usize) -> (Point, Point) {
        let next = if corner + 1 < self.corners.len() { corner + 1 } else { 0 };
        (self.corners[corner].at, self.corners[next].at)
    }

    /// Steps along the boundary that the edge from a corner stands for.
    pub(super) fn steps(&self, corner: usize) -> usize {
        let next = if corner + 1 < self.corners.len() { corner + 1 } else { 0 };
        self.boundary.steps(self.corners[corner].anchor, self.corners[next].anchor)
    }

    /// Whether an edge is one of the boundary's own.
    pub(super) fn is_own(&self, corner: usize) -> bool {
        !self.moved && self.steps(corner) == 1
    }

    /// Whether the boundary's part of an edge strays from it; see [`Boundary::strays`].
    pub(super) fn strays(&self, corner: usize) -> bool {
        let n = self.corners.len();
        let edges = [(corner + n - 1) % n, corner, (corner + 1) % n].map(|corner| self.edge(corner));
        self.boundary.strays((self.corners[corner].anchor, self.steps(corner)), edges, self.bounds.goal)
    }

    /// Removes the cause of crossings: corners moved go back to the lattice, else these edges are given up.
    pub(super) fn give_way(&mut self, edges: &[usize]) {
        if self.moved {
            let kept = self.shortcuts.shortest_cycle();
            self.corners = self.on_lattice(&kept);
            self.moved = false;
            self.put_back += 1;
        } else {
            let edges: Vec<(usize, usize)> =
                edges.iter().map(|&edge| (self.corners[edge].anchor, self.steps(edge))).collect();
            self.give_up(&edges);
        }
    }

    /// Gives shortcuts up one by one for some rounds, then all that a smaller tolerance rules out, so that rounds are few
    /// however large the tolerance is beside the island.
    fn give_up(&mut self, edges: &[(usize, usize)]) {
        const ROUNDS: u32 = 24;
        const SMALLER: f64 = 0.75;
        const NONE: f64 = 0.1;
        self.given_up += 1;
        if self.given_up.is_multiple_of(ROUNDS) {
            self.reach = if self.reach > NONE { self.reach * SMALLER } else { 0.0 };
            self.shortcuts = Shortcuts::new(self.boundary.ring(), self.reach, self.bounds.goal);
        } else {
            for &(from, steps) in edges {
                self.shortcuts.forbid(from, steps);
            }
        }
        self.search();
    }

    fn area(&self) -> f64 {
        let points: Vec<Point> = self.corners.iter().map(|corner| corner.at).collect();
        ring_area(&points)
    }

    /// Whether the area is as promised, and the outline has not turned over, as thin ones within a large tolerance may.
    pub(super) fn is_right_in_area(&self) -> bool {
        let (own, area) = (ring_area(self.boundary.ring()), self.area());
        own * area > 0.0 && (self.bounds.goal != FitGoal::Balance || (area - own).abs() <= self.allowed)
    }

    /// Gives up the shortcuts that are most off in area.
    pub(super) fn give_up_worst(&mut self) {
        if self.moved {
            self.give_way(&[]);
            return;
        }
        let off = |edge: usize| {
            let (from, steps) = (self.corners[edge].anchor, self.steps(edge));
            let part: Vec<Point> = self.boundary.part(from, self.boundary.ahead(from, steps)).collect();
            (ring_area(&part).abs(), (from, steps))
        };
        let mut edges: Vec<(f64, (usize, usize))> =
            (0..self.corners.len()).filter(|&edge| self.steps(edge) > 1).map(off).collect();
        edges.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.cmp(&b.1)));
        edges.truncate(1 + edges.len() / 8);
        let edges: Vec<(usize, usize)> = edges.into_iter().map(|(_, edge)| edge).collect();
        self.give_up(&edges);
    }

    pub(super) fn polygon(&self) -> Option<Polygon> {
        // The search for crossings left none.
        Polygon::from_simple(self.corners.iter().map(|corner| corner.at).collect())
    }
}
