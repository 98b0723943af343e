//! What lies between two places.

use crate::geometry::{Convex, Point, TOUCH};
use crate::layers::LayerSet;
use crate::stage::{Solid, Stage};

/// The solid on one of some layers that a straight way goes through first; a way along an edge or over a corner goes through
/// nothing.
///
/// # Complexity
/// O(solids), a box test for most.
///
/// # Source
/// Mike Cyrus and Jay Beck, "Generalized two- and three-dimensional clipping", Computers and Graphics 3 (1978).
pub(crate) fn first_between(stage: &Stage, layers: LayerSet, from: Point, to: Point) -> Option<&Solid> {
    let enters = |solid: &Solid| {
        let way = solid.outline.pieces.iter().filter_map(|piece| inside(piece, from, to));
        way.reduce(f64::min)
    };
    let seen = stage.solids.iter().filter(|solid| layers.sees(solid.layer));
    let met = seen.filter_map(|solid| Some((enters(solid)?, solid)));
    met.min_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, solid)| solid)
}

/// Which share of a way lies before it is inside a piece; `None` where it never is.
fn inside(piece: &Convex, from: Point, to: Point) -> Option<f64> {
    let way = to - from;
    let (mut first, mut last) = (0.0_f64, 1.0_f64);
    for (normal, on_edge) in piece.normals().iter().zip(piece.points()) {
        // Inside is where the way's place along the normal is below the edge's.
        let (place, speed) = ((from - *on_edge).dot(*normal), way.dot(*normal));
        if speed.abs() < TOUCH {
            if place >= -TOUCH {
                return None;
            }
        } else if speed > 0.0 {
            last = last.min((0.0 - place) / speed);
        } else {
            first = first.max((0.0 - place) / speed);
        }
    }
    ((last - first) * way.hypot() > TOUCH).then_some(first)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Rect;
    use crate::testing::{GROUND, LEDGE, floored, solid};

    #[test]
    fn the_first_solid_on_the_way_is_named_and_edges_are_let_pass() {
        let mut stage = floored();
        stage.solids.push(solid("far", Rect::new(200.0, 100.0, 210.0, 200.0)));
        stage.solids.push(solid("near", Rect::new(100.0, 100.0, 110.0, 200.0)));
        let glass = solid("glass", Rect::new(50.0, 100.0, 60.0, 200.0));
        stage.solids.push(Solid { layer: LayerSet::of(LEDGE), ..glass });
        let between = |from: (f64, f64), to: (f64, f64)| {
            first_between(&stage, LayerSet::of(GROUND), from.into(), to.into()).map(|solid| solid.name.clone())
        };
        assert_eq!(between((40.0, 150.0), (300.0, 150.0)).as_deref(), Some("near"));
        assert_eq!(between((300.0, 150.0), (40.0, 150.0)).as_deref(), Some("far"));
        assert_eq!(between((40.0, 150.0), (90.0, 150.0)), None, "glass is on another layer");
        assert_eq!(between((40.0, 100.0), (300.0, 100.0)), None, "along their top edges");
        assert_eq!(between((90.0, 110.0), (110.0, 90.0)), None, "over a corner");
        assert_eq!(between((105.0, 150.0), (120.0, 150.0)).as_deref(), Some("near"), "out of it");
        // A way that ends inside, or just touches it.
        assert_eq!(between((90.0, 150.0), (101.0, 150.0)).as_deref(), Some("near"));
        assert_eq!(between((90.0, 150.0), (100.0, 150.0)), None);
    }
}
