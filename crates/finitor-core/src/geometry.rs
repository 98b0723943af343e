//! Points, polygons and their exact relations. Conventions as in the [crate page](crate).

mod box_tree;
mod convex;
mod decompose;
mod deviation;
mod distance;
mod edge_grid;
mod overlap;
mod polygon;
mod predicates;
mod sweep;

pub(crate) use box_tree::BoxTree;
pub use convex::{Convex, convex_hull};
pub(crate) use decompose::without_holes;
pub use decompose::{convex_pieces, quick_convex_pieces, with_corners_at_most};
pub(crate) use deviation::squared_distance;
pub use deviation::{DEVIATION_PRECISION, deviation};
pub(crate) use distance::{cut_back, distance};
pub(crate) use edge_grid::EdgeGrid;
pub use kurbo::{Point, Rect, Vec2};
pub use overlap::{Overlap, deepest_overlap, near, overlap, overlap_region};
pub(crate) use overlap::{clipped, overlap_depth, separation};
pub use polygon::{Polygon, PolygonError, ring_area};
pub use predicates::{on_segment, segments_cross, segments_meet, turn};
pub(crate) use sweep::times_deeper;
pub use sweep::{Sweep, sweep};

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

/// The smallest rectangle around pieces; `None` where there are none.
pub(crate) fn bounds_of_pieces(pieces: &[Convex]) -> Option<Rect> {
    pieces.iter().map(Convex::bounds).reduce(|a, b| a.union(b))
}

/// Whether the closed rectangles share a point.
pub(crate) fn rects_meet(a: Rect, b: Rect) -> bool {
    a.x0 <= b.x1 && b.x0 <= a.x1 && a.y0 <= b.y1 && b.y0 <= a.y1
}

/// Whether the rectangles share more than a touch. Where they do not, nothing inside them overlaps.
pub(crate) fn rects_overlap(a: Rect, b: Rect) -> bool {
    a.x1 - b.x0 > TOUCH && b.x1 - a.x0 > TOUCH && a.y1 - b.y0 > TOUCH && b.y1 - a.y0 > TOUCH
}
