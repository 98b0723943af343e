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

/// The directions of vectors, as long as less than half a turn holds them all.
pub(super) struct Sector {
    /// The last clockwise and the last counterclockwise on screen; `None` before there is any.
    ends: Option<[Vec2; 2]>,
    is_wide: bool,
}

impl Sector {
    pub(super) fn new() -> Sector {
        Sector { ends: None, is_wide: false }
    }

    /// Takes in a vector, whose numbers are whole, so that turns are exact.
    pub(super) fn take(&mut self, by: Vec2) {
        if by == Vec2::ZERO || self.is_wide {
            return;
        }
        let Some([right, left]) = &mut self.ends else {
            self.ends = Some([by, by]);
            return;
        };
        let (of_right, of_left) = (by.cross(*right), left.cross(by));
        if of_right >= 0.0 && of_left >= 0.0 {
            // Straight back lies between no two directions.
            self.is_wide = by.dot(*right) < 0.0 && by.dot(*left) < 0.0 && (of_right == 0.0 || of_left == 0.0);
        } else if of_right < 0.0 && by.cross(*left) < 0.0 {
            *right = by;
        } else if of_left < 0.0 && right.cross(by) < 0.0 {
            *left = by;
        } else {
            self.is_wide = true;
        }
    }

    /// Whether all of them lie right of a vector or along it, on the left for a `side` of -1; `None` where half a turn does not
    /// hold them.
    pub(super) fn lies_beside(&self, by: Vec2, side: f64) -> Option<bool> {
        (!self.is_wide).then(|| self.ends.is_none_or(|ends| ends.into_iter().all(|end| side * by.cross(end) >= 0.0)))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_sector_tells_what_looking_at_each_vector_tells() {
        let mut seed = 7_u64;
        let mut next = || {
            seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            f64::from((seed >> 33) as u32 % 7) - 3.0
        };
        let mut known = 0;
        for _ in 0..2_000 {
            let mut sector = Sector::new();
            let mut all: Vec<Vec2> = Vec::new();
            for _ in 0..4 {
                let chord = Vec2::new(next(), next());
                for side in [1.0, -1.0] {
                    let expected = all.iter().all(|by| side * chord.cross(*by) >= 0.0);
                    if let Some(found) = sector.lies_beside(chord, side) {
                        assert_eq!(found, expected, "{chord:?} beside {all:?}");
                        known += 1;
                    }
                }
                let by = Vec2::new(next(), next());
                sector.take(by);
                all.push(by);
            }
        }
        assert!(known > 8_000, "{known}");
    }
}
