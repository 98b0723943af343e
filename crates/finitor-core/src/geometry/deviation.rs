//! The largest distance between two boundaries.

use super::{EdgeGrid, Point};

/// [`deviation`] is at most this much below the true value, px.
pub const DEVIATION_PRECISION: f64 = 1e-4;

/// The Hausdorff distance between the boundaries of two sets of rings, px: how far one has to go at most from a point of
/// either boundary to reach the other. Infinite when exactly one of them is empty.
///
/// The distance to a segment is a convex function along an edge, so between two points of an edge it is at most the
/// larger of its values at both, whatever the segment. Edges are halved until that bound, taken for the segments nearest
/// to the two points and to the middle, closes on the largest value found, to within [`DEVIATION_PRECISION`]. A part of an
/// edge that is no farther than that from the segment which the part before was near to, or from its neighbours, is not searched.
///
/// # Complexity
/// O(n + m) for n and m edges whose neighbours are near to neighbours, with a search in a grid where the distance grows and
/// some tens more where it peaks.
pub fn deviation(one: &[&[Point]], other: &[&[Point]]) -> f64 {
    let (one, other) = (EdgeGrid::of_rings(one.iter().copied()), EdgeGrid::of_rings(other.iter().copied()));
    // What has more edges has the shorter ones, so that its own distance is quickly found, and bounds that of the other.
    let (fine, coarse) = if one.edges().len() > other.edges().len() { (&one, &other) } else { (&other, &one) };
    directed(coarse, fine, directed(fine, coarse, 0.0))
}

type Edge = (Point, Point);

/// The larger of a value and the largest distance from one boundary to the other.
fn directed(from: &EdgeGrid, to: &EdgeGrid, least: f64) -> f64 {
    let (parts, open) = (Vec::new(), Vec::new());
    let mut walk = Walk { goal: to, largest: least, last: None, segment: 0, parts, open };
    from.edges().iter().for_each(|edge| walk.along(*edge));
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
    goal: &'g EdgeGrid,
    largest: f64,
    /// The end of the edge before, where it was looked up.
    last: Option<Known>,
    /// The segment that the edge before was near to: the next one is as a rule near to it or to its neighbours.
    segment: usize,
    /// Parts of the edge that are still to be looked at, the first one last.
    parts: Vec<Edge>,
    open: Vec<(Known, Known)>,
}

/// Parts of edges that are longer than this are halved before the nearest segment is searched, px.
const LONG: f64 = 0.5;

impl Walk<'_> {
    fn along(&mut self, edge: Edge) {
        let count = self.goal.edges().len();
        if count == 0 {
            self.largest = f64::INFINITY;
            return;
        }
        self.parts.push(edge);
        while let Some(part) = self.parts.pop() {
            let on = |steps: usize| (self.segment + steps) % count;
            // Both run the same way round, as a rule.
            let beside = [0, 1, 2, 3, count - 1];
            if let Some(near) = beside.into_iter().map(on).find(|near| self.reach(part, *near) <= self.largest) {
                self.segment = near;
            } else if part.0.distance_squared(part.1) > LONG * LONG {
                let middle = part.0.midpoint(part.1);
                self.parts.extend([(middle, part.1), (part.0, middle)]);
            } else {
                self.search(part);
            }
        }
    }

    /// Halves a part until its distance is known.
    fn search(&mut self, part: Edge) {
        let start = self.last.filter(|last| last.at == part.0).unwrap_or_else(|| self.known(part.0));
        let end = self.known(part.1);
        (self.segment, self.last) = (end.segment, Some(end));
        self.largest = self.largest.max(start.distance).max(end.distance);
        self.open.push((start, end));
        while let Some((a, b)) = self.open.pop() {
            let part = (a.at, b.at);
            let reach = self.reach(part, a.segment).min(self.reach(part, b.segment));
            if reach <= self.largest + DEVIATION_PRECISION {
                continue;
            }
            let middle = self.known(a.at.midpoint(b.at));
            self.largest = self.largest.max(middle.distance);
            if self.reach(part, middle.segment) > self.largest + DEVIATION_PRECISION {
                self.open.extend([(a, middle), (middle, b)]);
            }
        }
    }

    /// The farther end of a part of an edge from a segment of the goal: no point of the part is farther from the goal.
    fn reach(&self, (a, b): Edge, segment: usize) -> f64 {
        let segment = self.goal.edge(segment);
        squared_distance(a, segment).max(squared_distance(b, segment)).sqrt()
    }

    fn known(&self, at: Point) -> Known {
        let (distance, segment) = self.goal.nearest(at).unwrap_or((f64::INFINITY, 0));
        Known { at, distance, segment }
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
    use crate::geometry::{Polygon, Rect};

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
}
