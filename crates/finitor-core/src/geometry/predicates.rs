//! Decisions about points and segments that rounding cannot turn.

use kurbo::Point;
use robust::{Coord, orient2d};

fn coord(point: Point) -> Coord<f64> {
    Coord { x: point.x, y: point.y }
}

/// The side of `c` as seen when going from `a` to `b`: positive for a clockwise turn on screen (right), negative for
/// an anticlockwise one, 0 exactly when the three lie on one line.
///
/// # Source
/// Jonathan Richard Shewchuk, "Adaptive Precision Floating-Point Arithmetic and Fast Robust Geometric Predicates",
/// Discrete & Computational Geometry 18 (1997), by way of the crate `robust`.
#[inline]
pub fn turn(a: Point, b: Point, c: Point) -> f64 {
    // As a rule it is beyond doubt, and nothing is called.
    let (left, right) = ((a.x - c.x) * (b.y - c.y), (a.y - c.y) * (b.x - c.x));
    let plain = left - right;
    if plain.abs() >= TURN_DOUBT * (left.abs() + right.abs()) { plain } else { orient2d(coord(a), coord(b), coord(c)) }
}

/// Half of the distance from 1 to the next number.
const ROUND_OFF: f64 = f64::EPSILON / 2.0;

/// How far rounding may have moved the plain determinant of a turn, as a share of the sum of its two products: Shewchuk's first bound.
pub(crate) const TURN_DOUBT: f64 = (3.0 + 16.0 * ROUND_OFF) * ROUND_OFF;

/// Whether `p` lies on the closed segment `a`-`b`.
pub fn on_segment(p: Point, a: Point, b: Point) -> bool {
    turn(a, b, p) == 0.0 && p.x >= a.x.min(b.x) && p.x <= a.x.max(b.x) && p.y >= a.y.min(b.y) && p.y <= a.y.max(b.y)
}

/// Whether the two segments cross at a point inside both of them. A touch at an end is no crossing, nor is lying on
/// the same line.
pub fn segments_cross(a: Point, b: Point, c: Point, d: Point) -> bool {
    !boxes_apart(a, b, c, d) && opposite(turn(a, b, c), turn(a, b, d)) && opposite(turn(c, d, a), turn(c, d, b))
}

/// Whether the two closed segments share a point.
pub fn segments_meet(a: Point, b: Point, c: Point, d: Point) -> bool {
    // Most are apart, and nothing exact is asked of them.
    !boxes_apart(a, b, c, d)
        && (segments_cross(a, b, c, d)
            || on_segment(c, a, b)
            || on_segment(d, a, b)
            || on_segment(a, c, d)
            || on_segment(b, c, d))
}

fn boxes_apart(a: Point, b: Point, c: Point, d: Point) -> bool {
    a.x.max(b.x) < c.x.min(d.x)
        || c.x.max(d.x) < a.x.min(b.x)
        || a.y.max(b.y) < c.y.min(d.y)
        || c.y.max(d.y) < a.y.min(b.y)
}

fn opposite(one: f64, other: f64) -> bool {
    (one > 0.0 && other < 0.0) || (one < 0.0 && other > 0.0)
}
