//! Where a line across runs through a shape.

use super::Point;

/// From x to x.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Stretch {
    pub(crate) left: f64,
    pub(crate) right: f64,
}

impl Stretch {
    /// Whether a place lies in it; its ends do.
    pub(crate) fn contains(&self, x: f64) -> bool {
        self.left <= x && x <= self.right
    }
}

/// Adds the stretches of the line at height `y` that lie in a shape: its rings, holes among them, with their edges. Stretches may
/// overlap.
///
/// # Complexity
/// O(n + k log k), n corners, k edges that cross the line.
pub(crate) fn add_stretches<'r>(rings: impl IntoIterator<Item = &'r [Point]>, y: f64, into: &mut Vec<Stretch>) {
    let mut crossings: Vec<f64> = Vec::new();
    for ring in rings {
        let Some(mut a) = ring.last().copied() else { continue };
        for &b in ring {
            if (a.y <= y) != (b.y <= y) {
                crossings.push(a.x + (y - a.y) * (b.x - a.x) / (b.y - a.y));
            }
            // What only touches the line crosses nothing.
            if b.y == y {
                let from = if a.y == y { a.x } else { b.x };
                into.push(Stretch { left: from.min(b.x), right: from.max(b.x) });
            }
            a = b;
        }
    }
    crossings.sort_unstable_by(f64::total_cmp);
    into.extend(crossings.chunks_exact(2).map(|ends| Stretch { left: ends[0], right: ends[1] }));
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::{Polygon, on_segment};
    use crate::testing::dice::Dice;

    #[test]
    fn a_point_is_in_a_stretch_if_the_polygon_holds_it_or_an_edge_runs_through_it() {
        let mut dice = Dice::new(5);
        let mut tried = 0;
        for _ in 0..4_000 {
            let points = (0..3 + dice.below(4)).map(|_| Point::new(dice.below(9) as f64, dice.below(9) as f64));
            let Ok(polygon) = Polygon::new(points.collect()) else { continue };
            // Whole and half places: on corners, on edges and beside them.
            for row in 0..18_u32 {
                let y = f64::from(row) / 2.0;
                let mut stretches = Vec::new();
                add_stretches([polygon.points()], y, &mut stretches);
                for column in 0..18_u32 {
                    let at = Point::new(f64::from(column) / 2.0, y);
                    let is_on = polygon.edges().any(|(a, b)| on_segment(at, a, b));
                    // An edge's crossing is rounded.
                    let is_near =
                        |stretch: &Stretch| (stretch.left - at.x).abs() < 1e-9 || (stretch.right - at.x).abs() < 1e-9;
                    let expected = polygon.contains(at) || is_on;
                    let found = stretches.iter().any(|stretch| stretch.contains(at.x));
                    assert!(found == expected || stretches.iter().any(is_near), "{at:?} in {polygon:?}: {stretches:?}");
                    assert!(found || !expected || is_on, "{at:?} in {polygon:?}: {stretches:?}");
                    tried += 1;
                }
            }
        }
        assert!(tried > 100_000, "{tried}");
    }
}
