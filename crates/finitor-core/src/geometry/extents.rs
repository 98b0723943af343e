//! How far several polygons or pieces reach.

use super::{Convex, Polygon, Rect, Vec2};

/// The smallest rectangle around pieces; `None` where there are none.
pub(crate) fn bounds_of_pieces(pieces: &[Convex]) -> Option<Rect> {
    pieces.iter().map(Convex::bounds).reduce(|a, b| a.union(b))
}

/// The lowest and highest value of `p . way` over polygons moved by `at`.
pub(crate) fn extent_along(polygons: &[Polygon], at: Vec2, way: Vec2) -> (f64, f64) {
    let ends = polygons.iter().flat_map(Polygon::points).map(|p| (p.to_vec2() + at).dot(way));
    ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), end| (low.min(end), high.max(end)))
}
