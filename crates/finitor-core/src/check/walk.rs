//! Walking bodies that lose their speed, and what lies ahead of them.

use super::look::Look;
use super::step::Step;
use crate::geometry::{Rect, TOUCH, Vec2, deepest_overlap};
use crate::stage::{Outline, Solid};
use crate::world::{SolidIndex, Stretch, highest_surface};

/// What is slower walks into nothing, px a tick.
const WALK: f64 = 1.0;
/// How far ahead a stop is felt for, px.
pub(crate) const AHEAD: f64 = 0.5;

/// How a body walks and what is left of that on this step.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Walk {
    /// 1 to the right, -1 to the left.
    pub(crate) way: f64,
    /// Px a tick.
    pub(crate) speed: f64,
    /// How much of it is lost, px a tick.
    pub(crate) lost: f64,
}

/// The walk of a body that has lost three quarters of its speed on this step, and did not turn. How far it went two steps ago
/// counts too, for the step that meets an edge may be a short one.
pub(crate) fn stopped(step: &Step<'_>) -> Option<Walk> {
    let motion = step.motion()?;
    let last = step.way.last_move?.x;
    let pace = step.way.earlier_move.map_or(0.0, |earlier| earlier.x);
    let speed = if pace * last > 0.0 { last.abs().max(pace.abs()) } else { last.abs() };
    let slow = speed * 0.25;
    let is_stopped = motion.x.abs() <= slow && last.abs() > slow && step.now().facing == step.before()?.facing;
    (speed >= WALK && is_stopped).then(|| Walk { way: last.signum(), speed, lost: speed - motion.x.abs() })
}

/// The solids that the body would get into half a px ahead, and is not in.
pub(crate) fn ahead<'t, 'a>(
    look: &'t Look<'t, 'a>,
    way: f64,
) -> impl Iterator<Item = (SolidIndex, &'a Solid)> + use<'t, 'a> {
    let (body, now) = (&look.step.body.pieces, look.step.now().at.to_vec2());
    let meets = move |at: Vec2, solid: &Solid| deepest_overlap(body, at, &solid.outline.pieces).is_some();
    let world = look.world();
    let solids = look.solids().map(move |index| (index, world.solid(index)));
    solids.filter(move |(_, solid)| meets(now + Vec2::new(way * AHEAD, 0.0), solid) && !meets(now, solid))
}

/// What a solid is to a body half a px further on.
pub(crate) enum Obstacle {
    /// A floor that goes on upwards, as steep as any floor is.
    Slope,
    /// A side this many px higher than the body's bottom; without end where it reaches over the body.
    Edge(f64),
}

/// What lies in front of a body whose box, half a px further on, is given.
pub(crate) fn obstacle(outline: &Outline, body: Rect, way: f64) -> Obstacle {
    const PARTS: u32 = 10;
    /// As steep as 2 in 1 is a floor, as for a rise.
    const STEEPEST: f64 = 2.0;
    let part = AHEAD / f64::from(PARTS);
    let height = |from: f64, to: f64| {
        let (left, right) = if way > 0.0 {
            (body.x1 - AHEAD + from, body.x1 - AHEAD + to)
        } else {
            (body.x0 + AHEAD - to, body.x0 + AHEAD - from)
        };
        highest_surface(outline, Stretch { left, right }, body.y0).map(|surface| body.y1 - surface.y)
    };
    let Some(whole) = height(0.0, AHEAD).filter(|height| *height > 0.0) else { return Obstacle::Edge(f64::INFINITY) };
    let (mut before, mut steepest) = (0.0, 0.0_f64);
    for index in 0..PARTS {
        let now = height(f64::from(index) * part, f64::from(index + 1) * part).unwrap_or(0.0).max(0.0);
        steepest = steepest.max(now - before);
        before = now;
    }
    if steepest <= part * STEEPEST + TOUCH { Obstacle::Slope } else { Obstacle::Edge(whole) }
}
