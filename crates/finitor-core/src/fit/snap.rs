//! Shapes on a grid from the pivot.

use super::arcs::{Lies, capsule_between, circle_on};
use super::{Exact, FitError, FitGoal, Geometry};
use crate::art::{Mask, contours};
use crate::geometry::{Point, Polygon, Rect, Vec2, convex_hull};

/// A local geometry on a grid of `grid` px from the pivot: corners of polygons; sides of boxes; middles, ends and radii of
/// round shapes. What covers moves outward and what is inside moves inward, so both stay so.
///
/// # Errors
/// Where no shape is left, or a promise could not be kept: an outline or a hull with its corners moved may no longer cover.
pub(super) fn snapped(
    geometry: &Geometry,
    grid: f64,
    goal: FitGoal,
    selection: &Mask,
    corner: Vec2,
) -> Result<Geometry, FitError> {
    let near = |value: f64| (value / grid).round() * grid;
    let outward = |value: f64| (value / grid - SAME).ceil() * grid;
    let inward = |value: f64| (value / grid + SAME).floor() * grid;
    match geometry.exact {
        Some(Exact::Box([x, y, width, height])) => {
            let rect = Rect::new(x, y, x + width, y + height);
            let rect = match goal {
                FitGoal::Cover => Rect::new(inward(rect.x0), inward(rect.y0), outward(rect.x1), outward(rect.y1)),
                FitGoal::Inside => Rect::new(outward(rect.x0), outward(rect.y0), inward(rect.x1), inward(rect.y1)),
                FitGoal::Balance => Rect::new(near(rect.x0), near(rect.y0), near(rect.x1), near(rect.y1)),
            };
            let some = rect.width() > 0.0 && rect.height() > 0.0;
            if some { Geometry::from_rect(rect) } else { Err(FitError::SnapTooCoarse { grid }) }
        }
        Some(Exact::Circle([x, y, radius])) => {
            let middle = Point::new(near(x), near(y));
            let moved = middle.distance(Point::new(x, y));
            let (radius, lies) = radius_on_grid(radius, moved, goal, outward, inward);
            circle_on([middle.x, middle.y, radius.max(0.0)], lies).map_err(|_| FitError::SnapTooCoarse { grid })
        }
        Some(Exact::Capsule([x1, y1, x2, y2, radius])) => {
            let (a, b) = (Point::new(near(x1), near(y1)), Point::new(near(x2), near(y2)));
            let moved = a.distance(Point::new(x1, y1)).max(b.distance(Point::new(x2, y2)));
            let (radius, lies) = radius_on_grid(radius, moved, goal, outward, inward);
            capsule_between([a.x, a.y, b.x, b.y, radius], lies).map_err(|_| FitError::SnapTooCoarse { grid })
        }
        None if goal == FitGoal::Balance => {
            let ring = |polygon: &Polygon| {
                let points = polygon.points().iter().map(|p| Point::new(near(p.x), near(p.y))).collect();
                Polygon::new(points).map_err(|_| FitError::SnapTooCoarse { grid })
            };
            let rings = |of: &[Polygon]| of.iter().map(ring).collect::<Result<Vec<Polygon>, FitError>>();
            Ok(Geometry { polygons: rings(&geometry.polygons)?, holes: rings(&geometry.holes)?, exact: None })
        }
        None if goal == FitGoal::Cover && geometry.polygons.iter().all(Polygon::is_convex) => {
            // The hull of the squares of the grid that the pixels meet.
            let rings = contours(selection);
            let cells = rings.iter().flat_map(|ring| ring.points()).flat_map(|p| {
                let at = p + corner;
                [
                    (inward(at.x), inward(at.y)),
                    (outward(at.x), inward(at.y)),
                    (inward(at.x), outward(at.y)),
                    (outward(at.x), outward(at.y)),
                ]
            });
            let corners: Vec<Point> = cells.map(Point::from).collect();
            Ok(Geometry::new(vec![Polygon::new(convex_hull(&corners))?], None))
        }
        None => Err(FitError::SnapBreaksPromise),
    }
}

/// What is this near to a line of the grid is on it, in steps of the grid.
const SAME: f64 = 1e-9;

/// The radius for a middle moved so far.
fn radius_on_grid(
    radius: f64,
    moved: f64,
    goal: FitGoal,
    outward: impl Fn(f64) -> f64,
    inward: impl Fn(f64) -> f64,
) -> (f64, Lies) {
    match goal {
        FitGoal::Cover => (outward(radius + moved), Lies::Outside),
        FitGoal::Inside => (inward(radius - moved), Lies::Inside),
        FitGoal::Balance => {
            let (low, high) = (inward(radius), outward(radius));
            (if radius - low < high - radius && low > 0.0 { low } else { high }, Lies::Inside)
        }
    }
}
