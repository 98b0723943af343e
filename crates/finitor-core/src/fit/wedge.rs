//! Which straight ways from a point pass a chain of others closely enough.

use crate::geometry::Vec2;

/// The directions in which a ray from the origin passes every point so far within the tolerance: a cone, held as its
/// two bounds, clockwise on screen from `low` to `high`. No angle is ever computed.
///
/// # Source
/// W. S. Chan and F. Chin, "Approximation of polygonal curves with minimum number of line segments or minimum error",
/// IJCGA 6 (1996).
pub(super) struct Wedge {
    tolerance2: f64,
    tolerance: f64,
    bounds: Option<(Vec2, Vec2)>,
}

impl Wedge {
    pub(super) fn new(tolerance: f64) -> Wedge {
        Wedge { tolerance2: tolerance * tolerance, tolerance, bounds: None }
    }

    /// Whether the way to a point is among the directions left.
    #[inline]
    pub(super) fn admits(&self, to: Vec2) -> bool {
        self.bounds.is_none_or(|(low, high)| {
            low.cross(to) >= 0.0 && to.cross(high) >= 0.0 && (low.dot(to) > 0.0 || high.dot(to) > 0.0)
        })
    }

    /// Adds a point to pass; false when no direction is left.
    #[inline]
    pub(super) fn narrow(&mut self, past: Vec2) -> bool {
        let far = past.hypot2() - self.tolerance2;
        if far <= 0.0 {
            return true;
        }
        // The tangents from the origin to the circle round the point, at the point's distance times its cosine.
        let (along, across) = (far.sqrt(), self.tolerance);
        let (x, y) = (past.x * along, past.y * along);
        let (dx, dy) = (past.x * across, past.y * across);
        let (first, last) = (Vec2::new(x + dy, y - dx), Vec2::new(x - dy, y + dx));
        let Some((low, high)) = &mut self.bounds else {
            self.bounds = Some((first, last));
            return true;
        };
        // Both cones are narrower than half a turn, so one behind the other cannot meet it, and elsewhere the bounds
        // compared are less than half a turn apart.
        if low.dot(past) < 0.0 && high.dot(past) < 0.0 {
            return false;
        }
        if low.cross(first) > 0.0 {
            *low = first;
        }
        if last.cross(*high) > 0.0 {
            *high = last;
        }
        low.cross(*high) >= 0.0
    }
}
