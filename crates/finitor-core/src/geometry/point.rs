//! Points, boxes and what counts as a touch.

pub use kurbo::{Point, Rect, Vec2};

/// Overlaps no deeper than this count as a touch. Positions in takes are decimal numbers, so two edges meant to be
/// flush may differ by rounding; a billionth of a pixel is far below anything a game can show and far above the
/// rounding of coordinates up to a million pixels.
pub const TOUCH: f64 = 1e-9;

/// The smallest rectangle that holds all points.
pub(crate) fn bounds_of(points: &[Point]) -> Rect {
    let mut rect = Rect::new(f64::INFINITY, f64::INFINITY, f64::NEG_INFINITY, f64::NEG_INFINITY);
    for point in points {
        rect.x0 = rect.x0.min(point.x);
        rect.y0 = rect.y0.min(point.y);
        rect.x1 = rect.x1.max(point.x);
        rect.y1 = rect.y1.max(point.y);
    }
    rect
}

/// The mirror image of a point in local space about the pivot's upright line. 0 stays 0, not -0, so that mirroring
/// twice gives the same bits.
#[must_use]
pub fn mirrored_point(point: Point) -> Point {
    Point::new(0.0 - point.x, point.y)
}

/// Whether the closed rectangles share a point.
pub(crate) fn rects_meet(a: Rect, b: Rect) -> bool {
    a.x0 <= b.x1 && b.x0 <= a.x1 && a.y0 <= b.y1 && b.y0 <= a.y1
}

/// Whether the rectangles share more than a touch. Where they do not, nothing inside them overlaps.
pub(crate) fn rects_overlap(a: Rect, b: Rect) -> bool {
    a.x1 - b.x0 > TOUCH && b.x1 - a.x0 > TOUCH && a.y1 - b.y0 > TOUCH && b.y1 - a.y0 > TOUCH
}
