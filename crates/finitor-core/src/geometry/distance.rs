//! How far convex pieces are apart.

use super::deviation::squared_distance;
use super::{Convex, Point, Vec2, clipped, convex_hull, overlap};

/// How far two convex pieces are apart, the first moved by `offset`, and the way in which it must move to touch; `None` when they
/// overlap or touch.
///
/// # Complexity
/// O(n m), n and m points.
pub(crate) fn distance(first: &Convex, offset: Vec2, second: &Convex) -> Option<(f64, Vec2)> {
    if overlap(first, offset, second).is_some() {
        return None;
    }
    // The nearest of two convex polygons is a corner of one and a side of the other.
    let own = first.points().iter().map(|p| (*p + offset, second, 1.0, Vec2::ZERO));
    let theirs = second.points().iter().map(|p| (*p, first, -1.0, offset));
    let nearest = own.chain(theirs).map(|(point, other, sign, by)| {
        let on = other.nearest(point - by) + by;
        ((on - point) * sign, (on - point).hypot())
    });
    let (way, apart) = nearest.min_by(|a, b| a.1.total_cmp(&b.1))?;
    (apart > 0.0).then(|| (apart, way / apart))
}

impl Convex {
    /// The distance of a point from the piece, squared; 0 inside.
    pub(crate) fn squared_distance(&self, point: Point) -> f64 {
        let beyond = |(normal, on_edge): (&Vec2, &Point)| (point - *on_edge).dot(*normal) > 0.0;
        if !self.normals().iter().zip(self.points()).any(beyond) {
            return 0.0;
        }
        self.sides().map(|side| squared_distance(point, side)).fold(f64::INFINITY, f64::min)
    }

    /// The point of its boundary that is nearest.
    fn nearest(&self, point: Point) -> Point {
        let on = |(a, b): (Point, Point)| {
            let along = b - a;
            a + along * ((point - a).dot(along) / along.hypot2()).clamp(0.0, 1.0)
        };
        let nearest =
            self.sides().map(on).min_by(|a, b| a.distance_squared(point).total_cmp(&b.distance_squared(point)));
        nearest.unwrap_or(point)
    }

    fn sides(&self) -> impl Iterator<Item = (Point, Point)> + '_ {
        let points = self.points();
        (0..points.len()).map(|i| (points[i], points[(i + 1) % points.len()]))
    }

    /// What is left when all that lies past `end` along a direction is cut off; `None` when nothing is.
    pub(crate) fn cut_back(&self, way: Vec2, end: f64) -> Option<Convex> {
        let ring = convex_hull(&clipped(self.points(), way, end));
        (ring.len() >= 3).then(|| Convex::from_clockwise(ring))
    }
}
