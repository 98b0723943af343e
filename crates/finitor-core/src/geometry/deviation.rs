//! The largest distance between two boundaries.

use super::edge_grid::ring_edges;
use super::{Edge, EdgeGrid, Point};
use std::cell::{Cell, OnceCell};

/// [`deviation`] is at most this much below the true value, px.
pub const DEVIATION_PRECISION: f64 = 1e-4;

/// The Hausdorff distance between the boundaries of two sets of rings, px: how far one has to go at most from a point of
/// either boundary to reach the other. Infinite when exactly one of them is empty.
///
/// The distance to a segment is a convex function along an edge, so between two points of an edge it is at most the
/// larger of its values at both, whatever the segment. Edges are halved until that bound, taken for the segments nearest
/// to the two points and to the middle, closes on the largest value found, to within [`DEVIATION_PRECISION`]. A part of an
/// edge is not searched where the other boundary runs along it within the largest distance: each of its points lies level with one of
/// that way, or before or behind all of it.
///
/// # Complexity
/// O(n + m) for n and m edges whose neighbours are near to neighbours, with a search in a grid where the distance grows and
/// some tens more where it peaks.
pub fn deviation(one: &[&[Point]], other: &[&[Point]]) -> f64 {
    let (one, other) = (Edges::of(one), Edges::of(other));
    // What has more edges has the shorter ones, so that its own distance is quickly found, and bounds that of the other.
    let (fine, coarse) = if one.list.len() > other.list.len() { (&one, &other) } else { (&other, &one) };
    directed(coarse, fine, directed(fine, coarse, 0.0))
}

/// The edges of rings, one ring after another.
struct Edges {
    list: Vec<Edge>,
    /// Made when there were some searches: often there are few.
    grid: OnceCell<EdgeGrid>,
    searches: Cell<u32>,
}

/// Searches that look at all edges, before a grid of them is made.
const WITHOUT_GRID: u32 = 16;

impl Edges {
    fn of(rings: &[&[Point]]) -> Edges {
        Edges { list: ring_edges(rings.iter().copied()).collect(), grid: OnceCell::new(), searches: Cell::new(0) }
    }

    /// The edge nearest to a point, the first of equals.
    fn known(&self, at: Point) -> Known {
        let nearest = if self.searches.get() < WITHOUT_GRID {
            self.searches.set(self.searches.get() + 1);
            let distances = self.list.iter().enumerate().map(|(index, edge)| (squared_distance(at, *edge), index));
            let nearest = distances.min_by(|a, b| a.0.total_cmp(&b.0));
            nearest.map(|(distance, index)| (distance.sqrt(), index))
        } else {
            self.grid.get_or_init(|| EdgeGrid::new(self.list.clone())).nearest(at)
        };
        let (distance, segment) = nearest.unwrap_or((f64::INFINITY, 0));
        Known { at, distance, segment }
    }
}

/// The larger of a value and the largest distance from one boundary to the other.
fn directed(from: &Edges, to: &Edges, least: f64) -> f64 {
    let (parts, open) = (Vec::new(), Vec::new());
    let mut walk = Walk { goal: to, largest: least, last: None, segment: 0, near: None, parts, open };
    from.list.iter().for_each(|edge| walk.along(*edge));
    walk.largest
}

/// A point with its distance to the goal and the segment there.
#[derive(Clone, Copy)]
struct Known {
    at: Point,
    distance: f64,
    segment: usize,
}

/// A way along the edges of one boundary, with the largest distance to the other so far.
struct Walk<'g> {
    goal: &'g Edges,
    largest: f64,
    /// The end of the edge before, where it was looked up.
    last: Option<Known>,
    /// The segment that the edge before ended near: the next one begins near it or its neighbours as a rule.
    segment: usize,
    /// The end of the edge before, where that segment is within the largest distance of it.
    near: Option<Point>,
    /// Parts of the edge that are still to be looked at, the first one last.
    parts: Vec<Edge>,
    open: Vec<(Known, Known)>,
}

/// Parts of edges that are longer than this are halved before the nearest segment is searched, px.
const LONG: f64 = 0.5;

impl Walk<'_> {
    fn along(&mut self, edge: Edge) {
        if self.goal.list.is_empty() {
            self.largest = f64::INFINITY;
            return;
        }
        self.parts.push(edge);
        while let Some(part) = self.parts.pop() {
            if let Some(last) = self.alongside(part) {
                (self.segment, self.near) = (last, Some(part.1));
            } else if part.0.distance_squared(part.1) > LONG * LONG {
                let middle = part.0.midpoint(part.1);
                self.parts.extend([(middle, part.1), (part.0, middle)]);
            } else {
                self.search(part);
            }
        }
    }

    /// The segment at the end of a way along the goal that begins near one end of a part, ends near the other, and is nowhere
    /// farther from the part's line than the largest distance: so no point of the part is farther from the goal.
    fn alongside(&self, (a, b): Edge) -> Option<usize> {
        let segments = &self.goal.list;
        let count = segments.len();
        let allowed = self.largest * self.largest;
        let is_near = |point: Point, on: usize| squared_distance(point, segments[on]) <= allowed;
        // Both run the same way round, as a rule.
        let beside = [0, 1, 2, 3, count - 1].into_iter();
        let wrapped = |on: usize| if on < count { on } else { on % count };
        let mut on = match self.near == Some(a) {
            true => self.segment,
            false => beside.map(|steps| wrapped(self.segment + steps)).find(|near| is_near(a, *near))?,
        };
        let along = b - a;
        let length = along.hypot2();
        for _ in 0..count {
            if is_near(b, on) {
                return Some(on);
            }
            let corner = segments[on].1;
            let past = (corner - a).dot(along) - length;
            let off = along.cross(corner - a);
            on = wrapped(on + 1);
            // Behind the end of a ring another one begins.
            if off * off > allowed * length
                || (past > 0.0 && past * past > allowed * length)
                || segments[on].0 != corner
            {
                return None;
            }
        }
        None
    }

    /// Halves a part until its distance is known.
    fn search(&mut self, part: Edge) {
        let start = self.last.filter(|last| last.at == part.0).unwrap_or_else(|| self.goal.known(part.0));
        let end = self.goal.known(part.1);
        (self.segment, self.near, self.last) = (end.segment, Some(part.1), Some(end));
        self.largest = self.largest.max(start.distance).max(end.distance);
        self.open.push((start, end));
        while let Some((a, b)) = self.open.pop() {
            let part = (a.at, b.at);
            let reach = self.reach(part, a.segment).min(self.reach(part, b.segment));
            if reach <= self.largest + DEVIATION_PRECISION {
                continue;
            }
            let middle = self.goal.known(a.at.midpoint(b.at));
            self.largest = self.largest.max(middle.distance);
            if self.reach(part, middle.segment) > self.largest + DEVIATION_PRECISION {
                self.open.extend([(a, middle), (middle, b)]);
            }
        }
    }

    /// The farther end of a part of an edge from a segment of the goal: no point of the part is farther from the goal.
    fn reach(&self, (a, b): Edge, segment: usize) -> f64 {
        let segment = self.goal.list[segment];
        squared_distance(a, segment).max(squared_distance(b, segment)).sqrt()
    }
}

pub(crate) fn squared_distance(point: Point, edge: Edge) -> f64 {
    nearest_on(point, edge).distance_squared(point)
}

/// The point of an edge that is nearest to a point.
pub(super) fn nearest_on(point: Point, (a, b): Edge) -> Point {
    let along = b - a;
    let length = along.hypot2();
    let share = if length > 0.0 { ((point - a).dot(along) / length).clamp(0.0, 1.0) } else { 0.0 };
    a + along * share
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::{Polygon, Rect, Vec2};
    use crate::testing::dice::Dice;

    #[test]
    fn boundary_distance_peaks_between_corners_too() {
        // A box around a box with a dent: the farthest point of the outer boundary faces the dent's mouth.
        let outer = Polygon::from_rect(Rect::new(0.0, 0.0, 10.0, 10.0)).unwrap();
        let dented: Vec<Point> = [(0, 0), (3, 0), (3, 8), (7, 8), (7, 0), (10, 0), (10, 10), (0, 10)]
            .map(|(x, y)| Point::new(x.into(), y.into()))
            .to_vec();
        let dented = Polygon::new(dented).unwrap();
        // From the dent's floor, (5, 8), the nearest outer edge is the one below, 2 px off; its corners are 2 px
        // off too; from the middle of its side (3, 5) the outer left side is 3 px off, at (3, 3) 3 px as well.
        let found = deviation(&[outer.points()], &[dented.points()]);
        assert!((found - 3.0).abs() <= DEVIATION_PRECISION, "{found}");
        assert_eq!(deviation(&[outer.points()], &[outer.points()]), 0.0);
        assert_eq!(deviation(&[outer.points()], &[]), f64::INFINITY);
    }

    #[test]
    fn the_distance_is_that_of_points_all_along_both_boundaries() {
        let mut dice = Dice::new(3);
        for round in 0..150 {
            // A ring of steps with folds and spikes; the other one skips corners of it, and may be moved.
            let count = 24 + dice.below(40);
            let corner = |dice: &mut Dice, k: u64| {
                let angle = k as f64 / count as f64 * std::f64::consts::TAU;
                let reach = 20.0 + if dice.below(5) == 0 { dice.between(-14.0, 14.0) } else { dice.between(-1.0, 1.0) };
                Point::new((angle.cos() * reach).round(), (angle.sin() * reach).round())
            };
            let fine: Vec<Point> = (0..count).map(|k| corner(&mut dice, k)).collect();
            let moved = Vec2::new(dice.between(-1.0, 1.0), dice.between(-1.0, 1.0)) * f64::from(round % 2);
            let coarse: Vec<Point> = fine.iter().filter(|_| dice.below(3) == 0).map(|p| *p + moved).collect();
            if coarse.len() < 2 {
                continue;
            }
            let steps = 400;
            let along = |ring: &[Point], other: &[Point]| {
                let points = ring_edges([ring])
                    .flat_map(|(a, b)| (0..steps).map(move |k| a.lerp(b, f64::from(k) / f64::from(steps))));
                let apart = |at: Point| {
                    ring_edges([other]).map(|edge| squared_distance(at, edge)).fold(f64::INFINITY, f64::min)
                };
                points.map(apart).fold(0.0, f64::max).sqrt()
            };
            let expected = f64::max(along(&fine, &coarse), along(&coarse, &fine));
            let longest = ring_edges([&fine[..]])
                .chain(ring_edges([&coarse[..]]))
                .map(|(a, b)| a.distance(b))
                .fold(0.0, f64::max);
            let found = deviation(&[&fine], &[&coarse]);
            let between = longest / f64::from(steps);
            assert!(
                found >= expected - DEVIATION_PRECISION && found <= expected + between,
                "{found} {expected}: {fine:?} {coarse:?}"
            );
        }
    }
}
