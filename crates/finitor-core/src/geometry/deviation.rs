//! The largest distance between two boundaries.

use super::{EdgeGrid, Point};

/// [`deviation`] is at most this much below the true value, px.
pub const DEVIATION_PRECISION: f64 = 1e-4;

/// The Hausdorff distance between the boundaries of two sets of rings, px: how far one has to go at most from a point of
/// either boundary to reach the other. Infinite when exactly one of them is empty.
///
/// The distance to a segment is a convex function along an edge, so between two points of an edge it is at most the
/// larger of its values at both, whatever the segment. Edges are halved until that bound, taken for the segments nearest
/// to the two points and to the middle, closes on the largest value found, to within [`DEVIATION_PRECISION`].
///
/// # Complexity
/// O(n + m) searches in a grid for n and m edges, and some tens more where the distance peaks.
pub fn deviation(one: &[&[Point]], other: &[&[Point]]) -> f64 {
    let (one, other) = (EdgeGrid::of_rings(one.iter().copied()), EdgeGrid::of_rings(other.iter().copied()));
    directed(&one, &other).max(directed(&other, &one))
}

type Edge = (Point, Point);

fn directed(from: &EdgeGrid, to: &EdgeGrid) -> f64 {
    from.edges().iter().fold(0.0, |largest, &edge| along_edge(edge, to, largest))
}

/// A point with its distance to the goal and the segment there.
type Known = (Point, f64, usize);

fn along_edge(edge: Edge, goal: &EdgeGrid, mut largest: f64) -> f64 {
    let known = |point: Point| goal.nearest(point).map(|(distance, segment)| (point, distance, segment));
    let (Some(start), Some(end)) = (known(edge.0), known(edge.1)) else { return f64::INFINITY };
    largest = largest.max(start.1).max(end.1);
    let mut open: Vec<(Known, Known)> = vec![(start, end)];
    while let Some((a, b)) = open.pop() {
        let reach = |segment: usize| {
            let segment = goal.edge(segment);
            squared_distance(a.0, segment).max(squared_distance(b.0, segment))
        };
        if reach(a.2).min(reach(b.2)).sqrt() <= largest + DEVIATION_PRECISION {
            continue;
        }
        let Some(middle) = known(a.0.midpoint(b.0)) else { continue };
        largest = largest.max(middle.1);
        if reach(middle.2).sqrt() > largest + DEVIATION_PRECISION {
            open.push((a, middle));
            open.push((middle, b));
        }
    }
    largest
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
