//! A polygon that the rest of the program need not check again.

use super::{Point, Rect, Vec2, bounds_of, mirrored_point, on_segment, segments_meet, turn};
use thiserror::Error;

/// A simple polygon.
///
/// # Guarantees
/// * at least three points, all finite;
/// * no repeated points, no three consecutive points on one line;
/// * edges meet only where they follow one another;
/// * clockwise as seen on screen, so the area is positive.
#[derive(Clone, Debug, PartialEq)]
pub struct Polygon {
    points: Vec<Point>,
}

/// Why a list of points is no polygon.
#[derive(Clone, Debug, PartialEq, Error)]
pub enum PolygonError {
    /// A coordinate is infinite or not a number.
    #[error("point {index} is not a finite number")]
    NotFinite {
        /// Index in the list given.
        index: usize,
    },
    /// Fewer than three points once repeated and in-line ones are dropped.
    #[error("{distinct} corners are left after dropping repeated points and points on a line, at least 3 are needed")]
    TooFewPoints {
        /// Corners left.
        distinct: usize,
    },
    /// Two edges that do not follow one another touch or cross.
    #[error("the edge from {first:?} meets the edge from {second:?}")]
    SelfTouching {
        /// Start of the one edge.
        first: (f64, f64),
        /// Start of the other edge.
        second: (f64, f64),
    },
}

impl Polygon {
    /// A polygon from a ring of points in either direction; repeated points and points inside a straight run are
    /// dropped, and the direction is made clockwise. The first point stays first where it is a corner.
    ///
    /// # Errors
    /// [`PolygonError`] names the guarantee that cannot be kept.
    ///
    /// # Complexity
    /// O(n2), n points: every pair of edges is tested.
    pub fn new(points: Vec<Point>) -> Result<Polygon, PolygonError> {
        if let Some(index) = points.iter().position(|p| !(p.x.is_finite() && p.y.is_finite())) {
            return Err(PolygonError::NotFinite { index });
        }
        let mut points = corners_only(points);
        if points.len() < 3 {
            return Err(PolygonError::TooFewPoints { distinct: points.len() });
        }
        if let Some((i, j)) = first_self_touch(&points) {
            let pair = |p: Point| (p.x, p.y);
            return Err(PolygonError::SelfTouching { first: pair(points[i]), second: pair(points[j]) });
        }
        if ring_area(&points) < 0.0 {
            points[1..].reverse();
        }
        Ok(Polygon { points })
    }

    /// A polygon from a ring that is known not to touch itself; otherwise as by [`Polygon::new`].
    pub(crate) fn from_simple(points: Vec<Point>) -> Option<Polygon> {
        let mut points = corners_only(points);
        if points.len() < 3 {
            return None;
        }
        debug_assert_eq!(first_self_touch(&points), None);
        if ring_area(&points) < 0.0 {
            points[1..].reverse();
        }
        Some(Polygon { points })
    }

    /// The rectangle as a polygon, starting at its top left.
    ///
    /// # Errors
    /// [`PolygonError`] when it has no area or is not finite.
    pub fn from_rect(rect: Rect) -> Result<Polygon, PolygonError> {
        Polygon::new(vec![
            Point::new(rect.x0, rect.y0),
            Point::new(rect.x1, rect.y0),
            Point::new(rect.x1, rect.y1),
            Point::new(rect.x0, rect.y1),
        ])
    }

    /// How many corners turn inwards.
    pub(crate) fn reflex_corners(&self) -> usize {
        let n = self.points.len();
        let at = |i: usize| self.points[i % n];
        (0..n).filter(|&i| turn(at(i + n - 1), at(i), at(i + 1)) < 0.0).count()
    }

    /// The corners, clockwise on screen.
    pub fn points(&self) -> &[Point] {
        &self.points
    }

    /// The edges, as pairs of start and end.
    pub fn edges(&self) -> impl Iterator<Item = (Point, Point)> + '_ {
        let shifted = self.points.iter().skip(1).chain(self.points.first());
        self.points.iter().copied().zip(shifted.copied())
    }

    /// Area in px2, above 0.
    pub fn area(&self) -> f64 {
        ring_area(&self.points)
    }

    /// The smallest rectangle around it.
    pub fn bounds(&self) -> Rect {
        bounds_of(&self.points)
    }

    /// Whether the point lies inside or on the boundary. Exact.
    pub fn contains(&self, point: Point) -> bool {
        let mut inside = false;
        for (a, b) in self.edges() {
            if on_segment(point, a, b) {
                return true;
            }
            if (a.y > point.y) != (b.y > point.y) {
                let (top, bottom) = if a.y < b.y { (a, b) } else { (b, a) };
                inside ^= turn(top, bottom, point) > 0.0;
            }
        }
        inside
    }

    /// Whether every corner turns clockwise.
    pub fn is_convex(&self) -> bool {
        let n = self.points.len();
        (0..n).all(|i| turn(self.points[i], self.points[(i + 1) % n], self.points[(i + 2) % n]) > 0.0)
    }

    /// The polygon moved by `by`.
    #[must_use]
    pub fn translated(&self, by: Vec2) -> Polygon {
        Polygon { points: self.points.iter().map(|p| *p + by).collect() }
    }

    /// The mirror image about the line x = 0, clockwise again and with the same first point, so that mirroring
    /// twice gives the same bits.
    #[must_use]
    pub fn mirrored(&self) -> Polygon {
        let mut points: Vec<Point> = self.points.iter().copied().map(mirrored_point).collect();
        points[1..].reverse();
        Polygon { points }
    }
}

/// The signed area of a ring: positive when it runs clockwise on screen.
pub fn ring_area(points: &[Point]) -> f64 {
    let Some(origin) = points.first() else {
        return 0.0;
    };
    // Relative to the first point, so that far-away rings keep their precision.
    let twice: f64 = points.windows(2).map(|pair| (pair[0] - *origin).cross(pair[1] - *origin)).sum();
    twice / 2.0
}

fn corners_only(mut points: Vec<Point>) -> Vec<Point> {
    loop {
        let n = points.len();
        let flat = (0..n).find(|&i| {
            let (before, at, after) = (points[(i + n - 1) % n], points[i], points[(i + 1) % n]);
            at == after || turn(before, at, after) == 0.0
        });
        match flat {
            Some(i) if n > 2 => drop(points.remove(i)),
            _ => return points,
        }
    }
}

fn first_self_touch(points: &[Point]) -> Option<(usize, usize)> {
    let n = points.len();
    for i in 0..n {
        let (a, b) = (points[i], points[(i + 1) % n]);
        for j in i + 1..n {
            let (c, d) = (points[j], points[(j + 1) % n]);
            // Neighbours share one point by right; they are not on one line, so they share no more.
            let neighbours = j == i + 1 || (i == 0 && j == n - 1);
            if !neighbours && segments_meet(a, b, c, d) {
                return Some((i, j));
            }
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ring(points: &[(f64, f64)]) -> Vec<Point> {
        points.iter().map(|&p| Point::from(p)).collect()
    }

    #[test]
    fn direction_and_idle_points_do_not_matter() {
        let clockwise = Polygon::new(ring(&[(0.0, 0.0), (4.0, 0.0), (4.0, 2.0), (0.0, 2.0)])).unwrap();
        let other = Polygon::new(ring(&[(0.0, 0.0), (0.0, 2.0), (2.0, 2.0), (4.0, 2.0), (4.0, 2.0), (4.0, 0.0)]));
        assert_eq!(other.unwrap(), clockwise);
        assert_eq!(clockwise.area(), 8.0);
    }

    #[test]
    fn what_is_no_polygon_is_named() {
        let bow = Polygon::new(ring(&[(0.0, 0.0), (4.0, 4.0), (4.0, 0.0), (0.0, 4.0)]));
        assert!(matches!(bow, Err(PolygonError::SelfTouching { .. })));
        let line = Polygon::new(ring(&[(0.0, 0.0), (4.0, 4.0), (2.0, 2.0)]));
        assert!(matches!(line, Err(PolygonError::TooFewPoints { .. })));
        let nan = Polygon::new(ring(&[(0.0, 0.0), (4.0, f64::NAN), (2.0, 2.0)]));
        assert_eq!(nan, Err(PolygonError::NotFinite { index: 1 }));
        assert!(matches!(Polygon::new(vec![]), Err(PolygonError::TooFewPoints { distinct: 0 })));
    }

    #[test]
    fn mirroring_twice_gives_the_same_bits_and_stays_clockwise() {
        let shape = Polygon::new(ring(&[(0.0, -3.5), (7.25, 0.1), (0.3, 9.0), (-2.0, 1.0)])).unwrap();
        let mirrored = shape.mirrored();
        assert!(mirrored.area() > 0.0);
        let bits = |p: &Polygon| p.points().iter().flat_map(|p| [p.x.to_bits(), p.y.to_bits()]).collect::<Vec<_>>();
        assert_eq!(bits(&mirrored.mirrored()), bits(&shape));
    }

    #[test]
    fn corners_edges_and_the_outside_are_told_apart() {
        let notch = Polygon::new(ring(&[(0.0, 0.0), (8.0, 0.0), (8.0, 8.0), (4.0, 2.0), (0.0, 8.0)])).unwrap();
        for inside in [(4.0, 2.0), (0.0, 4.0), (1.0, 1.0), (8.0, 8.0)] {
            assert!(notch.contains(inside.into()), "{inside:?}");
        }
        for outside in [(4.0, 2.1), (8.1, 4.0), (-1.0, 0.0), (4.0, 8.0)] {
            assert!(!notch.contains(outside.into()), "{outside:?}");
        }
        assert!(!notch.is_convex());
    }
}
