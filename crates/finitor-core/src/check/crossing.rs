//! Whether a body goes through something within a step, so that neither tick shows an overlap.

use super::ledger::Sighting;
use super::step::Step;
use crate::finding::Cause;
use crate::geometry::{Convex, Point, Vec2};
use crate::world::{Path, Strip, Thing, Through, World};

/// A body through something on a straight way, from a place on.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Crossing {
    pub(crate) through: Through,
    pub(crate) from: Point,
    pub(crate) motion: Vec2,
}

impl Crossing {
    /// What a rule sees of it, the old body on its way.
    pub(crate) fn sighting<'a, S>(&self, step: &Step<'a>, seen: S) -> Sighting<'a, S> {
        let Through { depth, at, push, .. } = self.through;
        let shape = step.old_body.map_or(&step.body.name, |old| &old.name);
        let tick = step.now().tick;
        Sighting { tick, figure: depth, at, push, cause: Cause::Moved, shape, way: step.way, seen }
    }
}

/// The crossing of something still within a step, where no way by which a game may have taken the step keeps clear of it.
pub(crate) fn crossing(world: &World<'_>, step: &Step<'_>, thing: Thing) -> Option<Crossing> {
    let pieces = world.pieces(thing);
    let (motion, before, body) = (step.motion()?, step.before()?, step.old_body?);
    let old = Path { pieces: &body.pieces, from: before.at, motion };
    let new = Path { pieces: &step.body.pieces, ..old };
    let is_same = step.is_same_body();
    let found = match old.hidden_crossing(pieces, step.rough()) {
        // The game may have taken the new frame first: it slides low under a beam, and draws in its arms before it moves.
        Some(_) if !is_same && new.is_clear(pieces, step.rough()) => return None,
        Some(found) => found,
        // The old frame goes into it, and the new one through it.
        None if !is_same && old.goes_into(pieces, step.rough()) => new.hidden_crossing(pieces, step.rough())?,
        None => return None,
    };
    let rise = step.actor.moves.step_height();
    // Along the ground, which may be several things, and only for what begins or ends on it.
    if !is_on_ground(world, step, before.at, rise) && !is_on_ground(world, step, step.now().at, rise) {
        return Some(Crossing { through: found, from: before.at, motion });
    }
    let ground = world.obstacles_in(step.swept_box(), step.now().body_mask, pieces);
    let along_ground = [old, new].iter().any(|path| path.is_clear_along_ground(&ground, step.rough(), rise));
    (!along_ground).then_some(Crossing { through: found, from: before.at, motion })
}

/// Whether the old body at a place, lowered by an edge that it steps down, meets anything that may carry it.
fn is_on_ground(world: &World<'_>, step: &Step<'_>, at: Point, rise: f64) -> bool {
    let Some(body) = step.old_body else { return false };
    let lowered = rise + step.rough();
    let strip = Strip::new(&body.pieces, lowered);
    let things = world.things_in(body.bounds().inflate(0.0, lowered) + at.to_vec2());
    world.supports(things.all(), step.now().body_mask, &[]).any(|outline| strip.meets(at, outline))
}

/// The crossing of some pieces within a step whose turns the take tells, deeper than allowed: in the old frame and in the new
/// one, for it is not known where it changed.
pub(crate) fn crossing_by(step: &Step<'_>, via: &[Point], others: &[Convex], allowed: f64) -> Option<Crossing> {
    step.motion()?;
    let (before, old) = (step.before()?, step.old_body?);
    let deepest = |pieces: &[Convex]| {
        let legs = Path::legs(pieces, before.at, via, step.now().at);
        let crossings = legs.filter_map(|leg| {
            let through = leg.through(others)?;
            Some(Crossing { through, from: leg.from, motion: leg.motion })
        });
        let deep = crossings.filter(|found| found.through.depth > allowed);
        deep.max_by(|a, b| a.through.depth.total_cmp(&b.through.depth))
    };
    deepest(&old.pieces).filter(|_| step.is_same_body() || deepest(&step.body.pieces).is_some())
}
