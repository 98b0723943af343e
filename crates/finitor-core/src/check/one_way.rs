//! One-way platforms: when they stop, and when they should not have.

use super::checker::World;
use super::deep::{Deep, Deeps, Still};
use super::ledger::Fault;
use super::step::{Moment, Step};
use super::stops::{Stop, embedded, passage, tunnelled};
use super::words::px;
use super::{Cause, Rule, Worst, caught};
use crate::geometry::{Polygon, TOUCH, Vec2, rects_meet};
use crate::stage::OneWay;

/// The platforms, by their places, that a body overlaps and may pass until it has left them.
#[derive(Clone, Debug, Default)]
pub(super) struct Passing(Vec<u32>);

impl Passing {
    /// Whether it is passing a platform.
    pub(super) fn is(&self, place: u32) -> bool {
        self.0.contains(&place)
    }

    fn set(&mut self, place: u32, passes: bool) {
        match self.0.iter().position(|known| *known == place) {
            Some(at) if !passes => drop(self.0.swap_remove(at)),
            None if passes => self.0.push(place),
            _ => {}
        }
    }

    /// It is passing none.
    pub(super) fn clear(&mut self) {
        self.0.clear();
    }
}

/// Faults against all one-way platforms the body sees.
pub(super) fn one_ways(
    world: &World<'_>,
    step: &Step<'_>,
    passing: &mut Passing,
    deeps: &Deeps,
    found: &mut Vec<Deep>,
    faults: &mut Vec<Fault>,
) {
    let reach = step.swept_box;
    // What is far off is not being passed.
    passing.0.retain(|place| step.near.one_ways.binary_search(place).is_ok());
    for &place in step.near.one_ways {
        let platform = &world.stage.one_ways[place as usize];
        let outline = &platform.outline;
        if !rects_meet(reach, outline.bounds) {
            passing.set(place, false);
            continue;
        }
        if !step.now.body_mask.sees(platform.layer) {
            // What it cannot see it passes, and goes on passing should a state give it sight inside.
            passing.set(place, step.overlap_now(&outline.pieces, outline.bounds).is_some());
            continue;
        }
        let thing = Still::OneWay(place);
        let stop = Stop::of(world.stage, thing);
        let depth = step.overlap_now(&outline.pieces, outline.bounds).map_or(0.0, |(found, ..)| found.depth);
        let sinking = deeps.running(step.track, thing, step.now.tick).is_some();
        if !sinking {
            // Coming up out of a platform that failed to carry it is the end of that fault, not another.
            faults.extend(caught::rising(world, step, platform));
        }
        let stopping = sinking || stops(step, platform);
        if !passing.is(place) && depth > 0.0 && stopping {
            found.extend(embedded(step, deeps, thing, stop));
        } else if depth > step.slack || (depth > 0.0 && !stopping) {
            passing.set(place, true);
        } else {
            passing.set(place, false);
            if stopping {
                faults.extend(tunnelled(world, step, stop));
            }
        }
    }
}

/// A second platform that one drop lets the body through: it was asked to drop, once, and falls on.
///
/// `dropped` holds the places of those that the drop under way has led through, with the ticks on which it began to.
pub(super) fn drop_overrun(
    world: &World<'_>,
    step: &Step<'_>,
    passing: &Passing,
    dropped: &mut Vec<(u32, u64)>,
) -> Option<Fault> {
    if !step.now.dropping {
        dropped.clear();
        return None;
    }
    let (before, old) = step.before.zip(step.old_body)?;
    let mut overrun = None;
    for &place in step.near.one_ways {
        let platform = &world.stage.one_ways[place as usize];
        let way = platform.passes.direction();
        let far = extent(std::slice::from_ref(&platform.outline.polygon), Vec2::ZERO, way).1;
        let lay_beyond = extent(&old.polygons, before.at.to_vec2(), way).0 >= far - step.slack;
        if !passing.is(place) || dropped.iter().any(|(known, _)| *known == place) || !lay_beyond {
            continue;
        }
        dropped.push((place, step.now.tick));
        let [(first, since), _, ..] = dropped[..] else { continue };
        let top = &world.stage.one_ways[first as usize];
        // Side by side they are one floor.
        if far > extent(std::slice::from_ref(&top.outline.polygon), Vec2::ZERO, way).0 + TOUCH {
            continue;
        }
        let let_go = Moment { dropping: false, ..step.now.clone() };
        let apart = (platform.outline.bounds.y0 - top.outline.bounds.y0).abs();
        let with = format!("{}/{}", world.stage.name, platform.name);
        overrun = Some(Fault {
            rule: Rule::DropOverrun,
            actor: step.label.to_string(),
            shape: step.body.name.clone(),
            worst: Worst { tick: step.now.tick, depth: apart, at: step.now.at, push: way },
            cause: Cause::Moved,
            message: format!(
                "{} dropped through {} and, in the same drop, through {} {} px further down.",
                step.label,
                top.name,
                platform.name,
                px(apart)
            ),
            remedy: format!(
                "end the drop by tick {}, when the body is in {}: it passes on until it has left it",
                since + 1,
                top.name
            ),
            // With the drop over by then, what is below stops it on this step.
            remains: Some(if stops(&Step { now: &let_go, ..*step }, platform) { 0.0 } else { apart }),
            with,
        });
    }
    overrun
}

/// Whether the platform stops the body on this step: on the tick before it lay wholly on the far side, it does not move
/// along the pass direction, and it is not dropping. Without a known way from the tick before it passes.
///
/// The slack is for a body that rested on the platform: one that was beside it must have been past the far side by all
/// means, and come in over it. Games that move axis by axis let such a body pass from the side, and so does this.
fn stops(step: &Step<'_>, platform: &OneWay) -> bool {
    let (Some(motion), Some(before), Some(old)) = (step.motion(), step.before, step.old_body) else {
        return false;
    };
    let way = platform.passes.direction();
    if motion.dot(way) > TOUCH || step.now.dropping {
        return false;
    }
    let outline = std::slice::from_ref(&platform.outline.polygon);
    let across = Vec2::new(way.y.abs(), way.x.abs());
    let at = before.at.to_vec2();
    let (own, theirs) = (extent(&old.polygons, at, across), extent(outline, Vec2::ZERO, across));
    let over_it = own.0.max(theirs.0) < own.1.min(theirs.1) - TOUCH;
    let allowed = if over_it { step.slack } else { TOUCH };
    let past = extent(&old.polygons, at, way).0 >= extent(outline, Vec2::ZERO, way).1 - allowed;
    past && (over_it
        || passage(&old.pieces, before.at, motion, &platform.outline.pieces)
            .is_none_or(|found| found.push.dot(way) > 0.5))
}

/// The extent of a body's polygons along a direction, with the pivot at `at`.
pub(super) fn extent(polygons: &[Polygon], at: Vec2, way: Vec2) -> (f64, f64) {
    let ends = polygons.iter().flat_map(|p| p.points()).map(|p| (p.to_vec2() + at).dot(way));
    ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), end| (low.min(end), high.max(end)))
}
