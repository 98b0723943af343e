//! The largest distance between two boundaries.

use super::{Point, Polygon};

/// [`deviation`] is at most this much below the true value, px.
pub const DEVIATION_PRECISION: f64 = 1e-4;

/// The Hausdorff distance between the boundaries of two sets of polygons, px: how far one has to go at most from a
/// point of either boundary to reach the other. Infinite when exactly one of them is empty.
///
/// The distance to a segment is a convex function along an edge, so between two points of an edge it is at most the
/// larger of its values at both, whatever the segment. Edges are halved until that bound closes on the largest value
/// found, to within [`DEVIATION_PRECISION`].
///
/// # Complexity
/// O(n m) for n and m edges, times the halvings, which few edges need.
pub fn deviation(one: &[Polygon], other: &[Polygon]) -> f64 {
    directed(one, other).max(directed(other, one))
}

type Edge = (Point, Point);

fn directed(from: &[Polygon], to: &[Polygon]) -> f64 {
    let goal: Vec<Edge> = to.iter().flat_map(Polygon::edges).collect();
    let mut largest: f64 = 0.0;
    for edge in from.iter().flat_map(Polygon::edges) {
        largest = along_edge(edge, &goal, largest);
    }
    largest
}

fn along_edge(edge: Edge, goal: &[Edge], mut largest: f64) -> f64 {
    largest = largest.max(nearest(edge.0, goal));
    let mut open = vec![edge];
    while let Some((a, b)) = open.pop() {
        let bound = goal
            .iter()
            .map(|&segment| squared_distance(a, segment).max(squared_distance(b, segment)))
            .fold(f64::INFINITY, f64::min)
            .sqrt();
        if bound <= largest + DEVIATION_PRECISION || !bound.is_finite() {
            continue;
        }
        let middle = a.midpoint(b);
        largest = largest.max(nearest(middle, goal));
        open.push((a, middle));
        open.push((middle, b));
    }
    largest
}

fn nearest(point: Point, goal: &[Edge]) -> f64 {
    goal.iter().map(|&segment| squared_distance(point, segment)).fold(f64::INFINITY, f64::min).sqrt()
}

pub(crate) fn squared_distance(point: Point, (a, b): Edge) -> f64 {
    let along = b - a;
    let length = along.hypot2();
    let share = if length > 0.0 { ((point - a).dot(along) / length).clamp(0.0, 1.0) } else { 0.0 };
    (a + along * share).distance_squared(point)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;

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
        let found = deviation(std::slice::from_ref(&outer), std::slice::from_ref(&dented));
        assert!((found - 3.0).abs() <= DEVIATION_PRECISION, "{found}");
        assert_eq!(deviation(std::slice::from_ref(&outer), std::slice::from_ref(&outer)), 0.0);
        assert_eq!(deviation(&[outer], &[]), f64::INFINITY);
    }
}
