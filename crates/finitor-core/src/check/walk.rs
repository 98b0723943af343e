//! Walking bodies that lose their speed, and what lies ahead of them.

use super::look::Look;
use super::step::{FINE, Step};
use crate::geometry::{Deepest, Point, Stretch, TOUCH, Vec2, deepest_overlap, overlap_region};
use crate::world::{SolidIndex, highest_surface};

/// What is slower walks into nothing, px a tick.
const WALK: f64 = 1.0;
/// Places written in steps beyond this, px, are written coarsely.
pub(crate) const COARSE: f64 = 0.2;
/// The way out of a side points back, this straight at least: its x part, of 1.
const BACK: f64 = 0.9;
/// The way out of a floor points back less than this.
const BESIDE: f64 = 0.2;
/// As steep as any floor is: 2 in 1.
pub(crate) const STEEPEST: f64 = 2.0;
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

/// Whether a body moved, and has lost most of that on this step; asked first, as most have not.
pub(crate) fn may_have_stopped(step: &Step<'_>) -> bool {
    let Some((motion, last)) = step.motion().zip(step.way.last_move) else { return false };
    let pace = step.way.earlier_move.map_or(0.0, |earlier| earlier.x.abs());
    last.x != 0.0 && motion.x.abs() <= last.x.abs().max(pace) * 0.25
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
    // What came down more steeply than ground is fell, and where it landed is known well only where places are written finely.
    let fell = step.way.last_move.is_some_and(|last| last.y > STEEPEST * last.x.abs() + 2.0 * step.grain);
    let is_walk = step.grain <= COARSE || !fell;
    let walks = is_walk && speed >= step.speed(WALK).max(3.0 * step.grain) && step.may_walk();
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
    let ahead = ahead(look, way, back);
    ahead.filter(|found| found.back >= BACK).map(|found| found.front).collect()
}

/// The same, and the corners that a round body has come to with what is no side of it.
pub(crate) fn sides_and_corners(look: &Look<'_, '_>, way: f64) -> Vec<Front> {
    /// What is lower is the joint of two floors, px.
    const LOW: f64 = 0.1;
    // Where places are written coarsely, a round body's place at a corner is not known well enough.
    let is_fine = look.step.grain <= FINE;
    let is_met = |found: &Ahead| found.back >= BACK || is_fine && found.is_corner && found.front.height > LOW;
    ahead(look, way, 0.0).filter(is_met).map(|found| found.front).collect()
}

/// What a body touches in front.
struct Ahead {
    front: Front,
    /// How straight the way out of it points back: its x part, of 1.
    back: f64,
    /// Whether there is an edge where it touches: on a slope the ground before that is as high, nearly.
    is_corner: bool,
}

fn ahead<'t>(look: &'t Look<'t, '_>, way: f64, back: f64) -> impl Iterator<Item = Ahead> + 't {
    let step = look.step;
    let at = step.now().at.to_vec2() + Vec2::new(way * (step.near() + back), 0.0);
    let body = step.bounds();
    let found = move |solid: SolidIndex| {
        let outline = &look.world().solid(solid).outline;
        let Deepest { overlap: found, own: piece, other } = deepest_overlap(&step.body.pieces, at, &outline.pieces)?;
        let back = 0.0 - found.push.x * way;
        if back < BESIDE {
            return None;
        }
        let (_, middle) = overlap_region(&step.body.pieces[piece], at, &outline.pieces[other])?;
        let surface = |from: f64, to: f64| {
            let (a, b) = (middle.x + way * from, middle.x + way * to);
            highest_surface(outline, Stretch { left: a.min(b), right: a.max(b) }, body.y0)
        };
        let on = surface(0.0, AHEAD);
        let rises = |on: Point| surface(-2.0 * AHEAD, -AHEAD).is_none_or(|before| before.y - on.y > 2.0 * AHEAD);
        let height = on.map_or(f64::INFINITY, |on| body.y1 - on.y);
        Some(Ahead { front: Front { solid, piece, height }, back, is_corner: on.is_some_and(rises) })
    };
    look.solids().filter_map(found)
}
