//! A shape for a selection, from its pivot: the whole way from pixels to local coordinates.

use super::snap::snapped;
use super::symmetric::{mirrored_halves, symmetric};
use super::{Exact, FitError, FitGoal, Fitting, Geometry, Kind, Selection, Sides, auto, fit_shape};
use crate::facing::Facing;
use crate::geometry::{Point, Rect};

/// A shape as it was fitted.
#[derive(Clone, Debug, PartialEq)]
pub struct Fitted {
    /// Local space.
    pub geometry: Geometry,
    /// Its kind: the one asked for, or the one chosen.
    pub kind: Kind,
    /// Why it is of that kind, where it was chosen.
    pub why: Option<String>,
}

/// Fits a shape to a selection of a frame with that pivot and drawn that way. Sides given by hand are in cell space.
///
/// Art drawn for the left is fitted as its mirror image and the shape mirrored back, so that the shape of a mirrored picture
/// is the mirrored shape to the bit.
///
/// # Errors
/// [`FitError`] when nothing is selected or the options contradict one another.
pub fn fit_selection(
    selection: &Selection,
    fitting: &Fitting,
    pivot: Point,
    drawn: Facing,
) -> Result<Fitted, FitError> {
    if selection.is_empty() {
        return Err(FitError::NothingSelected);
    }
    if drawn == Facing::Left {
        let turned = Fitting { sides: fitting.sides.mirrored(), ..fitting.clone() };
        let at = Point::new(0.0 - pivot.x, pivot.y);
        let found = fit_selection(&selection.mirrored(), &turned, at, Facing::Right)?;
        return Ok(Fitted { geometry: found.geometry.mirrored(), ..found });
    }
    let axis = fitting.symmetric.then_some(pivot.x);
    // A box, circle or capsule that balances is held to the axis by its numbers and goes by the pixels as they are.
    let by_numbers =
        matches!(fitting.kind, Kind::Box | Kind::Circle | Kind::Capsule) && fitting.goal == FitGoal::Balance;
    let even = match axis {
        Some(axis) if !by_numbers => Some(symmetric(selection, axis, fitting.goal)),
        _ => None,
    };
    let used = even.as_ref().unwrap_or(selection);
    let corner = used.corner();
    let bottom = if fitting.grounded { Some(pivot.y) } else { fitting.sides.bottom };
    let sides = Sides { axis, bottom, ..fitting.sides }.moved(-corner.x, -corner.y);
    let wanted = Fitting { sides, ..fitting.clone() };
    let (geometry, kind, why) = if fitting.kind == Kind::Auto {
        let chosen = auto::fit(&used.mask, &wanted)?;
        (chosen.geometry, chosen.kind, Some(chosen.why))
    } else {
        (fit_shape(&used.mask, &wanted)?, fitting.kind, None)
    };
    let mut geometry = geometry.translated(corner.x - pivot.x, corner.y - pivot.y);
    if axis.is_some() && !matches!(geometry.exact, Some(Exact::Box(_))) {
        // Sines and cosines of angles on both sides differ by a hair.
        let exact = geometry.exact;
        geometry = Geometry { exact, ..mirrored_halves(&geometry, 0.0, fitting.tidying.min_hole != u64::MAX)? };
    }
    geometry = forgiving(geometry, fitting)?;
    if let Some(grid) = fitting.snap {
        let local = used.corner() - pivot.to_vec2();
        geometry = snapped(&geometry, grid, fitting.goal, &used.mask, local)?;
    }
    Ok(Fitted { geometry, kind, why })
}

/// A box with its sides moved in as asked; it faces right.
fn forgiving(geometry: Geometry, fitting: &Fitting) -> Result<Geometry, FitError> {
    let (by, Some(Exact::Box([x, y, width, height]))) = (fitting.forgiving, geometry.exact) else {
        return Ok(geometry);
    };
    if by == super::Forgiving::default() {
        return Ok(geometry);
    }
    let mut rect = Rect::new(x, y + by.top, x + width, y + height);
    if fitting.symmetric {
        // One front for either facing.
        (rect.x0, rect.x1) = (rect.x0 + by.front / 2.0, rect.x1 - by.front / 2.0);
    } else {
        rect.x1 -= by.front;
    }
    if rect.width() <= 0.0 || rect.height() <= 0.0 {
        return Ok(geometry);
    }
    Geometry::from_rect(rect)
}
