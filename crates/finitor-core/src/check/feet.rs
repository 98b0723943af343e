//! Standing actors whose art is off the ground, over it or under it.

use super::checker::World;
use super::ground::{Standing, ground, supports};
use super::ledger::{Fault, Ledger};
use super::one_way::Passing;
use super::step::{Moment, Step};
use super::words::px;
use super::{Rule, Worst};
use crate::actor::{Foot, Pose};
use crate::geometry::{Point, Vec2, cut_back, overlap_depth};
use crate::stage::Outline;

/// A change of speed beyond this is a fall, px a tick per tick; games with little gravity have twice as much.
const STEADY: f64 = 0.05;

/// Art must be off the ground for so many ticks more than one: walks bob, and games that log whole px stay as high for some ticks
/// at the top of a hop.
const HELD: u64 = 6;

/// How far the lowest opaque row is off the ground, on one tick, and where that is.
type Off = (f64, Point);

/// The art off the ground on this tick and the one before, at the same height.
pub(super) fn feet(
    world: &World<'_>,
    step: &Step<'_>,
    (passing, ledger): (&Passing, &Ledger),
    (before, now): (Standing, Standing),
    faults: &mut Vec<Fault>,
) {
    let allowed = world.settings.hover;
    // A body in the air falls faster and faster: the top of a hop is no standing.
    let steady = step.motion().zip(step.last_move).is_some_and(|(motion, last)| (motion.y - last.y).abs() <= STEADY);
    let held = |of: &Standing| of.since + HELD <= step.now.tick;
    let both = |a: f64, b: f64| steady && held(&before) && a > allowed && b > allowed && (b - a).abs() <= step.slack;
    if both(before.gap, now.gap) {
        let left = || lowered(world, step, passing, now.gap);
        let offs = [(before.gap, before.at), (now.gap, now.at)];
        told(world, (step, ledger), (Rule::Hover, before), offs, left, faults);
    }
    if both(before.sunk.0, now.sunk.0) {
        let left = || {
            let raised = Moment { at: step.now.at - Vec2::new(0.0, now.sunk.0), ..step.now.clone() };
            ground(world, &Step { now: &raised, ..*step }, passing).standing.map_or(0.0, |standing| standing.sunk.0)
        };
        told(world, (step, ledger), (Rule::SunkFeet, before), [before.sunk, now.sunk], left, faults);
    }
}

/// Adds the faults of this tick and of those before since when it was so; where it only goes on, without words.
fn told(
    world: &World<'_>,
    (step, ledger): (&Step<'_>, &Ledger),
    (rule, of): (Rule, Standing),
    [before, now]: [Off; 2],
    left: impl Fn() -> f64,
    faults: &mut Vec<Fault>,
) {
    let tick = step.now.tick;
    let push = Vec2::new(0.0, if rule == Rule::Hover { 1.0 } else { -1.0 });
    let worst = |tick: u64, (depth, at): Off| Worst { tick, depth, at, push };
    if ledger.is_no_worse(rule, step.label, &world.stage.name, (tick, now.0)) {
        faults.push(Fault::going_on(rule, step.label, &world.stage.name, worst(tick, now)));
        return;
    }
    let left = left();
    let fault = |tick: u64, off: Off| {
        let (message, remedy) = words(step, rule, off.0);
        Fault {
            rule,
            actor: step.label.to_string(),
            shape: step.body.name.clone(),
            with: world.stage.name.clone(),
            worst: worst(tick, off),
            cause: of.cause,
            message,
            remedy,
            remains: Some(left),
        }
    };
    // Where it is told already, the ticks before were told in their turn.
    let first = if ledger.running(rule, step.label, &world.stage.name, tick).is_some() { tick } else { of.since };
    faults.extend((first..tick).map(|since| fault(since, before)).chain([fault(tick, now)]));
}

/// How an actor stands, with what put its art where it is if that is off the ground: another frame or a turn where the picture
/// of the tick before would not be so far off there. `before` is how it stood then.
pub(super) fn with_cause(world: &World<'_>, step: &Step<'_>, before: Option<Standing>, of: Standing) -> Standing {
    let allowed = world.settings.hover;
    let is_off = |of: &Standing| of.gap > allowed || of.sunk.0 > allowed;
    if !is_off(&of) {
        return of;
    }
    // It only goes on.
    let is_same = |before: &Standing| {
        step.swept && is_off(before) && (before.gap - of.gap).abs().min((before.sunk.0 - of.sunk.0).abs()) <= step.slack
    };
    if let Some(before) = before.filter(is_same) {
        return Standing { cause: before.cause, since: before.since, ..of };
    }
    let cause = step.cause_of_art(|pose: &Pose| {
        let foot = pose.foot.as_ref().map_or(f64::INFINITY, |foot: &Foot| foot.y) + step.now.at.y;
        if of.gap > allowed { of.at.y - foot > allowed } else { foot - of.sunk.1.y > allowed }
    });
    Standing { cause, since: step.now.tick, ..of }
}

fn words(step: &Step<'_>, rule: Rule, off: f64) -> (String, String) {
    let animation = &step.actor.animations[step.now.animation].name;
    let (who, figure) = (step.label, px(off));
    let drawn_high = drawn_high(step);
    if rule == Rule::Hover {
        let mend = if drawn_high >= off - step.slack {
            format!(
                "on {animation} the art ends {} px above the body's bottom; move the pivot up or the body's bottom by that",
                px(drawn_high)
            )
        } else {
            format!("end the fall at y {}", px(step.now.at.y + off))
        };
        let message = format!("{who} stands, but the lowest row of its art floats {figure} px above the ground.");
        return (message, format!("lower it by {figure} px: {mend}"));
    }
    let drawn_low = 0.0 - drawn_high;
    let mend = if drawn_low >= off - step.slack {
        format!(
            "on {animation} the art ends {} px under the body's bottom; move the pivot down or the body's bottom by that",
            px(drawn_low)
        )
    } else {
        format!("end the fall at y {}", px(step.now.at.y - off))
    };
    let message = format!("{who} stands, and the lowest row of its art is {figure} px under the ground.");
    (message, format!("raise it by {figure} px: {mend}"))
}

/// How far the art ends above the body's bottom.
fn drawn_high(step: &Step<'_>) -> f64 {
    step.body.bounds().y1 - step.foot().map_or(0.0, |foot| foot.y)
}

/// What is left of a gap when the actor is lowered by it, its body's bottom drawn up to the art where that is higher.
fn lowered(world: &World<'_>, step: &Step<'_>, passing: &Passing, gap: f64) -> f64 {
    let at = step.now.at + Vec2::new(0.0, gap);
    let bottom = step.body.bounds().y1 - drawn_high(step).max(0.0);
    let body = cut_back(&step.body.pieces, Vec2::new(0.0, 1.0), bottom);
    let is_deep = |outline: &Outline| overlap_depth(&body, at.to_vec2(), &outline.pieces) > step.slack;
    if supports(world, step, passing).any(is_deep) {
        return gap;
    }
    let moved = Moment { at, ..step.now.clone() };
    ground(world, &Step { now: &moved, ..*step }, passing).standing.map_or(gap, |standing| standing.gap.max(0.0))
}
