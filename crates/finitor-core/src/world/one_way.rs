//! What a one-way platform does with a step.

use super::Path;
use crate::actor::Shape;
use crate::geometry::{Point, Stretch, TOUCH, Vec2, extent_along};
use crate::stage::OneWay;

/// What is computed along a way is off by less, px.
const HAIR: f64 = 1e-6;

/// How a body comes to a platform within one step.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Approach<'a> {
    /// The body on the tick before.
    pub(crate) body: &'a Shape,
    /// Its pivot then.
    pub(crate) from: Point,
    pub(crate) motion: Vec2,
    /// How far it may be short of the far side where it is over the platform, px. Below 0 by how much it must be past it at least
    /// to be known to have been past.
    pub(crate) slack: f64,
    /// The same where it is not over it.
    pub(crate) touch: f64,
}

/// What a body and a platform share across the platform's direction; where they lie beside each other the left end is right of
/// the right one.
pub(crate) fn shared_across(platform: &OneWay, body: &Shape, at: Point) -> Stretch {
    let across = platform.passes.across();
    let own = extent_along(&body.polygons, at.to_vec2(), across);
    let theirs = extent_along(std::slice::from_ref(&platform.outline.polygon), Vec2::ZERO, across);
    Stretch { left: own.0.max(theirs.0), right: own.1.min(theirs.1) }
}

/// Whether what a body has furthest back is over a platform: a round foot past the platform's end lies on its corner, and games
/// that ask for the body's bottom let it slide off.
pub(crate) fn stands_over(platform: &OneWay, body: &Shape, at: Point) -> bool {
    /// What is no further ahead is as far back, px.
    const SAME: f64 = 0.01;
    let (way, across) = (platform.passes.direction(), platform.passes.across());
    let corners =
        || body.polygons.iter().flat_map(|polygon| polygon.points()).map(|corner| corner.to_vec2() + at.to_vec2());
    let back = corners().map(|corner| corner.dot(way)).fold(f64::INFINITY, f64::min);
    let foot = corners().filter(|corner| corner.dot(way) <= back + SAME).map(|corner| corner.dot(across));
    let (left, right) = foot.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), x| (low.min(x), high.max(x)));
    let (from, to) = extent_along(std::slice::from_ref(&platform.outline.polygon), Vec2::ZERO, across);
    left < to + SAME && right > from - SAME
}

/// Whether a platform stops a body that is not dropping: on the tick before it lay wholly on the far side, and it does not
/// move along the pass direction.
///
/// The slack is for a body that rested on the platform: one that was beside it must have been past the far side by all
/// means, and come in over it. Games that move axis by axis let such a body pass from the side, and so does this.
pub(crate) fn stops(platform: &OneWay, approach: &Approach<'_>) -> bool {
    let Approach { body, from, motion, slack, touch } = *approach;
    let way = platform.passes.direction();
    if motion.dot(way) > TOUCH {
        return false;
    }
    let outline = std::slice::from_ref(&platform.outline.polygon);
    let (at, shared) = (from.to_vec2(), shared_across(platform, body, from));
    let over_it = shared.left < shared.right - TOUCH;
    let allowed = if over_it { slack } else { touch };
    let past = extent_along(&body.polygons, at, way).0 >= extent_along(outline, Vec2::ZERO, way).1 - allowed;
    if !past {
        return false;
    }
    let path = Path { pieces: &body.pieces, from, motion };
    let Some(found) = path.through(&platform.outline.pieces) else { return true };
    if !stands_over(platform, body, from + motion * found.enter) {
        return false;
    }
    // A round foot beside the platform's end is under its top when it touches it.
    let trailing = extent_along(&body.polygons, at + motion * found.enter, way).0;
    // Where places are written coarsely it is not known well when it got over the platform's end, and how low it was then.
    let across = motion.dot(platform.passes.across()).abs();
    let coarse = (0.0 - touch).max(0.0);
    let was_over = stands_over(platform, body, from);
    let doubt = if was_over { 0.0 } else { coarse * (1.0 + motion.dot(way).abs() / across.max(TOUCH)) };
    let is_above = trailing >= extent_along(outline, Vec2::ZERO, way).1 - allowed.max(HAIR) + doubt;
    is_above && (over_it || found.push.dot(way) > 0.5)
}

#[cfg(test)]
mod tests {
    use crate::stage::Passes;
    use crate::testing::*;
    use crate::{Point, Polygon, Rect, Vec2};

    #[test]
    fn a_platform_at_an_angle_stops_from_its_far_side_alone() {
        // A board that rises to the right at 45 degrees and lets pass up and to the left, at right angles to itself.
        let mut stage = stage();
        let mut board = one_way("board", Rect::new(0.0, 0.0, 1.0, 1.0), Passes::Angle(315.0));
        let polygon =
            Polygon::new([(100.0, 200.0), (200.0, 100.0), (203.0, 103.0), (103.0, 203.0)].map(Point::from).to_vec());
        board.outline = polygon.unwrap().into();
        stage.one_ways.push(board);
        let way = stage.one_ways[0].passes.direction();
        assert!((way - Vec2::new(-1.0, -1.0) / 2.0_f64.sqrt()).hypot() < 1e-12);
        let along = |from: (f64, f64), by: (f64, f64), count: u32| -> Vec<Row> {
            let at = |k: u32| (from.0 + by.0 * f64::from(k), from.1 + by.1 * f64::from(k));
            path(&(0..count).map(at).collect::<Vec<_>>())
        };
        // Through it along its pass direction, from below right: nothing. Against it, from above left: into it.
        assert_eq!(brief(&check(&stage, hero(0), &along((190.0, 200.0), (-3.0, -3.0), 30))), []);
        let found = check(&stage, hero(0), &along((120.0, 130.0), (2.0, 2.0), 16));
        assert_eq!(
            found.findings.iter().map(|f| f.rule.code()).collect::<Vec<_>>(),
            ["embedded"],
            "{:?}",
            brief(&found)
        );
        // Resting on it, its lower right corner 4 px ahead on the board, is a touch.
        assert_eq!(brief(&check(&stage, hero(0), &path(&[(146.0, 150.0); 4]))), []);
    }
}
