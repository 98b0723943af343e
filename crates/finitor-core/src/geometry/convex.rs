//! Convex polygons with their edge normals, ready for overlap tests.

use super::{Point, Polygon, Rect, bounds_of, mirrored_point, turn};
use kurbo::Vec2;

/// A convex polygon, clockwise on screen, with one outward unit normal an edge.
#[derive(Clone, Debug, PartialEq)]
pub struct Convex {
    points: Vec<Point>,
    normals: Vec<Vec2>,
    bounds: Rect,
    is_box: bool,
}

impl Convex {
    /// The polygon as a convex piece, or `None` when a corner turns the other way.
    pub fn new(polygon: &Polygon) -> Option<Convex> {
        polygon.is_convex().then(|| Convex::from_clockwise(polygon.points().to_vec()))
    }

    /// Points must be convex and clockwise; flat corners do no harm.
    pub(crate) fn from_clockwise(points: Vec<Point>) -> Convex {
        let next = points.iter().cycle().skip(1);
        let normals: Vec<Vec2> = points
            .iter()
            .zip(next)
            .map(|(a, b)| {
                let along = *b - *a;
                // Clockwise with y down: the outside lies to the left of the way, (dy, -dx).
                Vec2::new(along.y, 0.0 - along.x) / along.hypot()
            })
            .collect();
        let bounds = bounds_of(&points);
        let is_box = points.len() == 4 && normals.iter().all(|normal| normal.x == 0.0 || normal.y == 0.0);
        Convex { points, normals, bounds, is_box }
    }

    /// The corners, clockwise on screen.
    pub fn points(&self) -> &[Point] {
        &self.points
    }

    /// Outward unit normals; number `i` belongs to the edge from point `i` to point `i + 1`.
    pub fn normals(&self) -> &[Vec2] {
        &self.normals
    }

    /// Whether it is a box with upright sides.
    pub(super) fn is_box(&self) -> bool {
        self.is_box
    }

    /// The smallest rectangle around it.
    pub fn bounds(&self) -> Rect {
        self.bounds
    }

    /// The piece moved.
    #[must_use]
    pub fn translated(&self, by: Vec2) -> Convex {
        Convex {
            points: self.points.iter().map(|p| *p + by).collect(),
            normals: self.normals.clone(),
            bounds: self.bounds + by,
            is_box: self.is_box,
        }
    }

    /// The mirror image about the line x = 0, clockwise again and with the same first corner.
    #[must_use]
    pub fn mirrored(&self) -> Convex {
        let mut points: Vec<Point> = self.points.iter().copied().map(mirrored_point).collect();
        points[1..].reverse();
        Convex::from_clockwise(points)
    }

    /// The mean of the corners, a point inside.
    pub(crate) fn middle(&self) -> Point {
        let sum: Vec2 = self.points.iter().map(|p| p.to_vec2()).sum();
        (sum / self.points.len() as f64).to_point()
    }

    /// How far it extends along that of its edges' normals along which it extends least, px.
    pub(crate) fn thickness(&self) -> f64 {
        self.normals().iter().map(|axis| self.breadth(*axis)).fold(f64::INFINITY, f64::min)
    }

    /// How far it extends along a unit vector, px.
    pub(crate) fn breadth(&self, axis: Vec2) -> f64 {
        let (low, high) = self.extent(axis);
        high - low
    }

    /// The lowest value of `p . axis` over the polygon.
    pub(super) fn lowest(&self, axis: Vec2) -> f64 {
        // Most solids are boxes: along a coordinate the bounds tell.
        if axis.y == 0.0 && axis.x.abs() == 1.0 {
            return if axis.x > 0.0 { self.bounds.x0 } else { 0.0 - self.bounds.x1 };
        }
        if axis.x == 0.0 && axis.y.abs() == 1.0 {
            return if axis.y > 0.0 { self.bounds.y0 } else { 0.0 - self.bounds.y1 };
        }
        let mut lowest = f64::INFINITY;
        for point in &self.points {
            let along = point.x * axis.x + point.y * axis.y;
            if along < lowest {
                lowest = along;
            }
        }
        lowest
    }

    /// The lowest and highest value of `p . axis` over the polygon.
    pub fn extent(&self, axis: Vec2) -> (f64, f64) {
        let mut extent = (f64::INFINITY, f64::NEG_INFINITY);
        for point in &self.points {
            let along = point.to_vec2().dot(axis);
            extent = (extent.0.min(along), extent.1.max(along));
        }
        extent
    }
}

/// The convex hull of the points, clockwise on screen and without points on its edges; fewer than three points come
/// back when all lie on one line.
///
/// # Complexity
/// O(n log n), n points.
///
/// # Source
/// A. M. Andrew, "Another efficient algorithm for convex hulls in two dimensions", Information Processing Letters 9
/// (1979).
pub fn convex_hull(points: &[Point]) -> Vec<Point> {
    // 0 and -0 are one place, but would be sorted apart.
    let mut sorted: Vec<Point> = points.iter().map(|p| Point::new(p.x + 0.0, p.y + 0.0)).collect();
    sorted.sort_by(|a, b| a.x.total_cmp(&b.x).then(a.y.total_cmp(&b.y)));
    sorted.dedup();
    if sorted.len() < 3 {
        return sorted;
    }
    let upper = half_hull(sorted.iter().copied());
    let lower = half_hull(sorted.iter().rev().copied());
    let mut hull = upper;
    hull.pop();
    hull.extend(lower);
    hull.pop();
    hull
}

fn half_hull(points: impl Iterator<Item = Point>) -> Vec<Point> {
    let mut chain: Vec<Point> = Vec::new();
    for point in points {
        while let [.., a, b] = chain[..]
            && turn(a, b, point) <= 0.0
        {
            chain.pop();
        }
        chain.push(point);
    }
    chain
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn hull_is_clockwise_and_drops_points_on_its_edges() {
        let grid: Vec<Point> = (0..5).flat_map(|x| (0..4).map(move |y| Point::new(x.into(), y.into()))).collect();
        let hull = Polygon::new(convex_hull(&grid)).unwrap();
        assert_eq!(hull.points().len(), 4);
        assert_eq!(hull.area(), 12.0);
        assert!(super::super::ring_area(&convex_hull(&grid)) > 0.0);
        assert!(convex_hull(&[Point::ZERO, Point::new(1.0, 1.0), Point::new(2.0, 2.0)]).len() < 3);
    }

    #[test]
    fn normals_point_outward() {
        let square = Polygon::from_rect(Rect::new(0.0, 0.0, 2.0, 2.0)).unwrap();
        let convex = Convex::new(&square).unwrap();
        let normals: Vec<(f64, f64)> = convex.normals().iter().map(|n| (n.x, n.y)).collect();
        assert_eq!(normals, [(0.0, -1.0), (1.0, 0.0), (0.0, 1.0), (-1.0, 0.0)]);
    }
}
