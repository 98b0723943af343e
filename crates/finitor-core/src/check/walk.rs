//! Walking bodies that lose their speed, and what lies ahead of them.

use super::look::Look;
use super::step::Step;
use crate::geometry::{Deepest, TOUCH, Vec2, deepest_overlap, overlap_region};
use crate::world::{SolidIndex, Stretch, highest_surface};

/// What is slower walks into nothing, px a tick.
const WALK: f64 = 1.0;
/// Places written in steps beyond this, px, are written coarsely.
pub(crate) const COARSE: f64 = 0.2;
/// How far past a side its top is looked for, px.
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
///
/// In whole px a slow walk is steps of 1 and 0: what is slower than three of the steps in which places are written is no walk.
pub(crate) fn stopped(step: &Step<'_>) -> Option<Walk> {
    let motion = step.motion()?;
    let last = step.way.last_move?.x;
    let pace = step.way.earlier_move.map_or(0.0, |earlier| earlier.x);
    let speed = if pace * last > 0.0 { last.abs().max(pace.abs()) } else { last.abs() };
    let slow = speed * 0.25;
    let is_stopped = motion.x.abs() <= slow && last.abs() > slow && step.now().facing == step.before()?.facing;
    let walks = speed >= (WALK * step.pace).max(3.0 * step.grain) && step.may_walk();
    (walks && is_stopped).then(|| Walk { way: last.signum(), speed, lost: speed - motion.x.abs() })
}

/// Whether a step was cut short, the mark of a stop: whoever lets go of the key does so after a whole one.
pub(crate) fn is_cut_short(step: &Step<'_>, walk: Walk, by: f64) -> bool {
    let across = [step.way.last_move.map_or(0.0, |last| last.x), step.motion().map_or(0.0, |motion| motion.x)];
    across.into_iter().any(|across| across.abs() > TOUCH && across.abs() < walk.speed - by)
}

/// The side of a solid that a body's front touches.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Front {
    pub(crate) solid: SolidIndex,
    /// The piece of the body that touches it.
    pub(crate) piece: usize,
    /// How much higher than the body's bottom it is there; without end where it reaches over the body.
    pub(crate) height: f64,
}

/// The sides that a body touches in front, or from which it has just gone back by so much; slopes and what it stands on are none.
pub(crate) fn fronts(look: &Look<'_, '_>, way: f64, back: f64) -> Vec<Front> {
    /// The way out of a side points back, this straight at least: its x part, of 1.
    const BACK: f64 = 0.9;
    let step = look.step;
    let at = step.now().at.to_vec2() + Vec2::new(way * (step.near() + back), 0.0);
    let body = step.bounds();
    let front = |solid: SolidIndex| {
        let outline = &look.world().solid(solid).outline;
        let Deepest { overlap: found, own: piece, other } = deepest_overlap(&step.body.pieces, at, &outline.pieces)?;
        if found.push.x * way > 0.0 - BACK {
            return None;
        }
        let (_, middle) = overlap_region(&step.body.pieces[piece], at, &outline.pieces[other])?;
        let (a, b) = (middle.x, middle.x + way * AHEAD);
        let surface = highest_surface(outline, Stretch { left: a.min(b), right: a.max(b) }, body.y0);
        let height = surface.map_or(f64::INFINITY, |surface| body.y1 - surface.y);
        Some(Front { solid, piece, height })
    };
    look.solids().filter_map(front).collect()
}
