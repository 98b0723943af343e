//! One-way platforms: when they stop, and when they should not have.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::{Moment, Step};
use super::stops::{Stop, embedded, passage, tunnelled};
use super::words::px;
use super::{Cause, Rule, Worst, caught};
use crate::geometry::{Polygon, TOUCH, Vec2, rects_meet};
use crate::stage::OneWay;

/// How a body stands to a platform it overlaps.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(super) enum Passing {
    /// It does not overlap it, or rests on it.
    #[default]
    No,
    /// It may pass until it has left.
    Yes,
}

/// Faults against all one-way platforms the body sees; `passing` has an entry for each.
pub(super) fn one_ways(
    world: &World<'_>,
    step: &Step<'_>,
    passing: &mut [Passing],
    ledger: &Ledger,
    faults: &mut Vec<Fault>,
) {
    let reach = step.swept_box;
    // What is far off is not being passed.
    for (place, passing) in passing.iter_mut().enumerate().filter(|(_, passing)| **passing == Passing::Yes) {
        if step.near.one_ways.binary_search(&(place as u32)).is_err() {
            *passing = Passing::No;
        }
    }
    for place in step.near.one_ways.iter().map(|place| *place as usize) {
        let (platform, passing) = (&world.stage.one_ways[place], &mut passing[place]);
        let outline = &platform.outline;
        if !rects_meet(reach, outline.bounds) {
            *passing = Passing::No;
            continue;
        }
        if !step.now.body_mask.sees(platform.layer) {
            // What it cannot see it passes, and goes on passing should a state give it sight inside.
            let inside = step.overlap_now(&outline.pieces, outline.bounds).is_some();
            *passing = if inside { Passing::Yes } else { Passing::No };
            continue;
        }
        let stop =
            Stop { name: &platform.name, pieces: &outline.pieces, bounds: outline.bounds, layer: platform.layer };
        let depth = step.overlap_now(&outline.pieces, outline.bounds).map_or(0.0, |(found, ..)| found.depth);
        let thing = (world.stage.name.as_str(), platform.name.as_str());
        let sinking = ledger.is_running(Rule::Embedded, step.label, thing, step.now.tick);
        if !sinking {
            // Coming up out of a platform that failed to carry it is the end of that fault, not another.
            faults.extend(caught::rising(world, step, platform));
        }
        let stopping = sinking || stops(step, platform);
        if *passing == Passing::No && depth > 0.0 && stopping {
            faults.extend(embedded(world, step, ledger, stop));
        } else if depth > step.slack || (depth > 0.0 && !stopping) {
            *passing = Passing::Yes;
        } else {
            *passing = Passing::No;
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
    passing: &[Passing],
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
        if passing[place as usize] != Passing::Yes || dropped.iter().any(|(known, _)| *known == place) || !lay_beyond {
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

/// Tells of the drop where a body fell into a solid with it still on.
pub(super) fn dropped_into(world: &World<'_>, step: &Step<'_>, dropped: &[(u32, u64)], fault: &mut Fault) {
    let Some((place, since)) = dropped.first() else { return };
    let is_begun = fault.cause == Cause::Moved && fault.worst.tick == step.now.tick;
    if let Some(what) =
        fault.message.strip_suffix(": it moved in.").filter(|_| fault.rule == Rule::Embedded && is_begun)
    {
        let platform = &world.stage.one_ways[*place as usize].name;
        let late = step.now.tick - since;
        fault.message =
            format!("{what}: it moved in, its drop through {platform} still on {late} ticks after it got there.");
        fault.remedy = format!("end the drop by tick {}, when the body is in {platform}; {}", since + 1, fault.remedy);
    }
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
