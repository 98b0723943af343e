//! How far convex pieces are apart.

use super::deviation::nearest_on;
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
        self.nearest(point).distance_squared(point)
    }

    /// The point of its boundary that is nearest.
    fn nearest(&self, point: Point) -> Point {
        let points = self.points();
        let sides = (0..points.len()).map(|i| (points[i], points[(i + 1) % points.len()]));
        let nearest = sides
            .map(|side| nearest_on(point, side))
            .min_by(|a, b| a.distance_squared(point).total_cmp(&b.distance_squared(point)));
        nearest.unwrap_or(point)
    }
}

/// What is left of pieces when all that lies past `end` along a direction is cut off.
pub(crate) fn cut_back(pieces: &[Convex], way: Vec2, end: f64) -> Vec<Convex> {
    let rings = pieces.iter().map(|piece| convex_hull(&clipped(piece.points(), way, end)));
    rings.filter(|ring| ring.len() >= 3).map(Convex::from_clockwise).collect()
}
