//! Outlines along the pixels' edges, with as few corners as the tolerance allows.

use super::chain::{Boundary, Bounds};
use super::crossings::Crossings;
use super::refine::{Corner, refined};
use super::shortcuts::Shortcuts;
use super::{Geometry, Keep};
use crate::art::{LatticeRing, Mask, contours};
use crate::geometry::{Point, Polygon, Rect, ring_area, turn};

/// The area of a balanced outline is off by at most this share of the selection's.
const AREA_SHARE: f64 = 0.02;
/// ... or by this, px2, where that is more.
const AREA_LEAST: f64 = 1.0;

/// The outline of a selection: one polygon an island, and one a hole. Each has the fewest corners among those of its
/// traced boundary that keep within `tolerance` of it, and of these the closest in area; its corners are then moved off
/// the lattice, and some dropped, where that brings it closer within the same bounds.
///
/// # Guarantees
/// * every polygon is simple, and no two islands' interiors meet;
/// * the distance between outline and traced boundary is at most the tolerance, both ways, but for islands that
///   another island's covering outline has taken in;
/// * with [`Keep::Cover`] every selected pixel lies inside; with [`Keep::Inside`] nothing outside the selection does;
/// * with [`Keep::Balance`] its area is off by at most 2 % or 1 px2, whichever is more.
///
/// Where an outline would cross itself or another's, or its area is off by too much, its corners go back to the lattice;
/// and where that is not enough the longest shortcuts involved are given up and the search repeated. With none left the
/// traced boundary itself remains, which crosses nothing.
///
/// # Complexity
/// As told for [`Shortcuts`] and [`refined`], times the rounds that crossings take; as a rule one to three.
pub(super) fn fit(selection: &Mask, tolerance: f64, keep: Keep) -> Geometry {
    let bounds = Bounds { tolerance, keep };
    let total = selection.count() as f64;
    let mut islands: Vec<Island> = contours(selection).iter().map(|ring| Island::new(ring, bounds, total)).collect();
    let crossings = Crossings::new(keep, &islands);
    loop {
        let found = crossings.find(&islands);
        if !found.is_empty() {
            for (island, edges) in found {
                islands[island].give_way(&edges);
            }
            continue;
        }
        let off: Vec<usize> = (0..islands.len()).filter(|&i| !islands[i].is_near_in_area()).collect();
        if off.is_empty() {
            break;
        }
        off.into_iter().for_each(|island| islands[island].give_up_worst());
    }
    let (holes, islands): (Vec<&Island>, Vec<&Island>) = islands.iter().partition(|island| island.is_hole);
    let polygons = |of: Vec<&Island>| -> Vec<Polygon> { of.into_iter().filter_map(Island::polygon).collect() };
    Geometry { polygons: drop_contained(polygons(islands)), holes: polygons(holes), exact: None }
}

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
    /// What its area may be off by, px2.
    allowed: f64,
    is_hole: bool,
}

impl Island {
    fn new(ring: &LatticeRing, bounds: Bounds, total: f64) -> Island {
        let area = ring.area() as f64;
        let boundary = Boundary::new(ring.points());
        let shortcuts = Shortcuts::new(boundary.ring(), bounds.tolerance, bounds.keep);
        let mut island = Island {
            boundary,
            bounds,
            shortcuts,
            corners: Vec::new(),
            moved: false,
            put_back: 0,
            allowed: f64::max(AREA_SHARE, AREA_LEAST / total) * area.abs(),
            is_hole: area < 0.0,
        };
        island.search();
        island
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

    fn on_lattice(&self, kept: &[usize]) -> Vec<Corner> {
        kept.iter().map(|&anchor| Corner { anchor, at: self.boundary.corner(anchor) }).collect()
    }

    pub(super) fn boundary(&self) -> &Boundary {
        &self.boundary
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

    /// Whether the boundary's part of an edge reaches past an end of the edge to the wrong side of the next one, which
    /// [`Boundary::between`] cannot see.
    pub(super) fn strays(&self, corner: usize) -> bool {
        let n = self.corners.len();
        let (before, after) = (self.edge((corner + n - 1) % n), self.edge((corner + 1) % n));
        let edge = self.edge(corner);
        let (along, from) = (edge.1 - edge.0, self.corners[corner].anchor);
        let right = |(a, b): (Point, Point), p: Point| turn(a, b, p);
        // Where two edges meet, the inside is right of both at a corner that turns right, else of either.
        let wrong = |first: (Point, Point), second: (Point, Point), p: Point| {
            let convex = turn(first.0, first.1, second.1) > 0.0;
            let (one, other) = (right(first, p), right(second, p));
            match self.bounds.keep {
                Keep::Balance => false,
                Keep::Cover if convex => one < 0.0 || other < 0.0,
                Keep::Cover => one < 0.0 && other < 0.0,
                Keep::Inside if convex => one > 0.0 && other > 0.0,
                Keep::Inside => one > 0.0 || other > 0.0,
            }
        };
        self.bounds.keep != Keep::Balance
            && (0..=self.steps(corner)).any(|steps| {
                let p = self.boundary.corner(self.boundary.ahead(from, steps));
                ((p - edge.0).dot(along) < 0.0 && wrong(before, edge, p))
                    || ((p - edge.1).dot(along) > 0.0 && wrong(edge, after, p))
            })
    }

    /// Removes the cause of crossings: corners moved go back to the lattice, else these edges are given up.
    fn give_way(&mut self, edges: &[usize]) {
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

    fn give_up(&mut self, edges: &[(usize, usize)]) {
        for &(from, steps) in edges {
            self.shortcuts.forbid(from, steps);
        }
        self.search();
    }

    fn area(&self) -> f64 {
        let points: Vec<Point> = self.corners.iter().map(|corner| corner.at).collect();
        ring_area(&points)
    }

    fn is_near_in_area(&self) -> bool {
        let own = ring_area(self.boundary.ring());
        self.bounds.keep != Keep::Balance || (self.area() - own).abs() <= self.allowed
    }

    /// Gives up the shortcuts that are most off in area.
    fn give_up_worst(&mut self) {
        if self.moved {
            self.give_way(&[]);
            return;
        }
        let off = |edge: usize| {
            let (from, steps) = (self.corners[edge].anchor, self.steps(edge));
            let part: Vec<Point> = (0..=steps).map(|k| self.boundary.corner(self.boundary.ahead(from, k))).collect();
            (ring_area(&part).abs(), (from, steps))
        };
        let mut edges: Vec<(f64, (usize, usize))> =
            (0..self.corners.len()).filter(|&edge| self.steps(edge) > 1).map(off).collect();
        edges.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.cmp(&b.1)));
        edges.truncate(1 + edges.len() / 8);
        let edges: Vec<(usize, usize)> = edges.into_iter().map(|(_, edge)| edge).collect();
        self.give_up(&edges);
    }

    fn polygon(&self) -> Option<Polygon> {
        Polygon::new(self.corners.iter().map(|corner| corner.at).collect()).ok()
    }
}

/// Without the polygons that lie inside another; no two cross.
fn drop_contained(polygons: Vec<Polygon>) -> Vec<Polygon> {
    let bounds: Vec<Rect> = polygons.iter().map(Polygon::bounds).collect();
    let areas: Vec<f64> = polygons.iter().map(Polygon::area).collect();
    let inside = |i: usize, j: usize| {
        i != j
            && bounds[j].contains_rect(bounds[i])
            && (areas[i] < areas[j] || (areas[i] == areas[j] && i > j))
            && polygons[i].points().iter().all(|&p| polygons[j].contains(p))
            // An island may touch another's outline with every corner and lie outside.
            && polygons[i].pieces().first().is_some_and(|piece| polygons[j].contains(piece.middle()))
    };
    let contained: Vec<bool> = (0..polygons.len()).map(|i| (0..polygons.len()).any(|j| inside(i, j))).collect();
    polygons.into_iter().zip(contained).filter(|(_, gone)| !gone).map(|(polygon, _)| polygon).collect()
}
