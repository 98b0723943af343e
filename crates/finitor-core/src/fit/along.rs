//! Strips along a side of another shape.

use super::recipe::{Along, Side};
use super::{FitError, Geometry};
use crate::facing::Facing;
use crate::geometry::Rect;

/// The strip beside a shape's bounding box, in the shape's space, for art drawn facing that way.
///
/// # Errors
/// [`FitError::InsetTooWide`] when the inset eats the whole side, [`FitError::NoSize`] when the depth is not above 0.
pub fn strip_along(bounds: Rect, along: &Along, drawn: Facing) -> Result<Geometry, FitError> {
    let Along { side, depth, inset, .. } = *along;
    let right = Rect::new(bounds.x1, bounds.y0 + inset, bounds.x1 + depth, bounds.y1 - inset);
    let left = Rect::new(bounds.x0 - depth, bounds.y0 + inset, bounds.x0, bounds.y1 - inset);
    let strip = match side {
        Side::Below => Rect::new(bounds.x0 + inset, bounds.y1, bounds.x1 - inset, bounds.y1 + depth),
        Side::Above => Rect::new(bounds.x0 + inset, bounds.y0 - depth, bounds.x1 - inset, bounds.y0),
        Side::Ahead if drawn == Facing::Right => right,
        Side::Behind if drawn == Facing::Left => right,
        Side::Ahead | Side::Behind => left,
    };
    let length = match side {
        Side::Below | Side::Above => bounds.width(),
        Side::Ahead | Side::Behind => bounds.height(),
    };
    if length <= 2.0 * inset {
        return Err(FitError::InsetTooWide { inset, side: length });
    }
    if !(strip.width() > 0.0 && strip.height() > 0.0) {
        return Err(FitError::NoSize);
    }
    Geometry::from_rect(strip)
}
