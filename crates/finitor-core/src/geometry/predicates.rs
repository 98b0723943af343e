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
pub fn turn(a: Point, b: Point, c: Point) -> f64 {
    orient2d(coord(a), coord(b), coord(c))
}

/// Whether `p` lies on the closed segment `a`-`b`.
pub fn on_segment(p: Point, a: Point, b: Point) -> bool {
    turn(a, b, p) == 0.0 && p.x >= a.x.min(b.x) && p.x <= a.x.max(b.x) && p.y >= a.y.min(b.y) && p.y <= a.y.max(b.y)
}

/// Whether the two segments cross at a point inside both of them. A touch at an end is no crossing, nor is lying on
/// the same line.
pub fn segments_cross(a: Point, b: Point, c: Point, d: Point) -> bool {
    let boxes_apart = a.x.max(b.x) < c.x.min(d.x)
        || c.x.max(d.x) < a.x.min(b.x)
        || a.y.max(b.y) < c.y.min(d.y)
        || c.y.max(d.y) < a.y.min(b.y);
    !boxes_apart && opposite(turn(a, b, c), turn(a, b, d)) && opposite(turn(c, d, a), turn(c, d, b))
}

/// Whether the two closed segments share a point.
pub fn segments_meet(a: Point, b: Point, c: Point, d: Point) -> bool {
    segments_cross(a, b, c, d)
        || on_segment(c, a, b)
        || on_segment(d, a, b)
        || on_segment(a, c, d)
        || on_segment(b, c, d)
}

fn opposite(one: f64, other: f64) -> bool {
    (one > 0.0 && other < 0.0) || (one < 0.0 && other > 0.0)
}
