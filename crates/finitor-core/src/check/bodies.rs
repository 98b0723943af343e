//! Bodies against bodies.

use super::checker::World;
use super::deep::Deep;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::stops::{clear_axis_by_axis, passage};
use super::tries::{beyond, depth_at};
use super::words::{place, px, shift};
use super::{Cause, Rule, Worst};
use crate::actor::Shape;
use crate::geometry::{Convex, Point, Rect, Vec2, deepest_overlap, near, overlap_depth, overlap_region, rects_meet};

/// Faults between every two bodies that stop each other on this tick, `step` giving the steps of so many instances; `boxes` is
/// kept from tick to tick; of what lies in something still it tells which was pushed there.
///
/// # Complexity
/// O(k log k + p) for k bodies, p pairs of them whose swept boxes share a stretch of x: sweep and prune.
///
/// # Source
/// Jonathan D. Cohen, Ming C. Lin, Dinesh Manocha and Madhav K. Ponamgi, "I-COLLIDE", I3D 1995.
pub(super) fn pairs<'s>(
    world: &World<'_>,
    step: impl Fn(usize) -> Option<Step<'s>>,
    boxes: &mut Vec<(Rect, usize)>,
    (count, ledger): (usize, &Ledger),
    (deeps, faults): (&mut [Deep], &mut Vec<Fault>),
) {
    boxes.clear();
    boxes.extend((0..count).filter_map(|index| Some((step(index)?.swept_box, index))));
    boxes.sort_by(|a, b| a.0.x0.total_cmp(&b.0.x0).then(a.1.cmp(&b.1)));
    for (i, (rect, index)) in boxes.iter().enumerate() {
        let beside = boxes[i + 1..].iter().take_while(|(other, _)| other.x0 <= rect.x1);
        for (_, other) in beside.filter(|(other, _)| rects_meet(*rect, *other)) {
            // In the order of the samples, whichever lies further left.
            if let (Some(one), Some(other)) = (step(*index.min(other)), step(*index.max(other))) {
                pair(world, (&one, &other), ledger, deeps, faults);
            }
        }
    }
}

fn pair(
    world: &World<'_>,
    (one, other): (&Step<'_>, &Step<'_>),
    ledger: &Ledger,
    deeps: &mut [Deep],
    faults: &mut Vec<Fault>,
) {
    let sees = |a: &Step<'_>, b: &Step<'_>| a.now.body_mask.sees(b.now.body_layer);
    if world.layers.contact.stops(sees(one, other), sees(other, one)) {
        let found = embedded(world, one, other, ledger).or_else(|| tunnelled(one, other));
        faults.extend(found);
        for (pushed, by) in [(one, other), (other, one)] {
            deeps.iter_mut().filter(|deep| deep.track == pushed.track).for_each(|deep| blame_push(deep, pushed, by));
        }
    } else if rects_meet(one.bounds(), other.bounds()) {
        faults.extend(ghost_pair(world, one, other, ledger));
    }
}

/// Changes the cause of what lies in something still, where another body that touches it from behind went the same way.
fn blame_push(deep: &mut Deep, pushed: &Step<'_>, by: &Step<'_>) {
    let into = Vec2::ZERO - deep.found.push;
    let went = |step: &Step<'_>| step.motion().is_some_and(|motion| motion.dot(into) > step.slack * 0.1);
    let is_behind = (pushed.bounds().center() - by.bounds().center()).dot(into) > 0.0;
    if deep.rule != Rule::Embedded || deep.cause != Cause::Moved || !went(pushed) || !went(by) || !is_behind {
        return;
    }
    let (offset, within) = (pushed.now.at - by.now.at, pushed.slack);
    let touches = |a: &Convex| by.body.pieces.iter().any(|b| near(a, offset, b, within));
    if pushed.body.pieces.iter().any(touches) {
        (deep.cause, deep.pushed_by) = (Cause::Pushed, Some(by.track));
    }
}

fn name_of(step: &Step<'_>) -> String {
    format!("{}.{}", step.label, step.body.name)
}

fn embedded(world: &World<'_>, one: &Step<'_>, other: &Step<'_>, ledger: &Ledger) -> Option<Fault> {
    let offset = one.now.at - other.now.at;
    let (found, i, j) = deepest_overlap(&one.body.pieces, offset, &other.body.pieces)?;
    if found.depth <= one.slack {
        return None;
    }
    let (first, second) = (name_of(one), name_of(other));
    let running = ledger
        .running(Rule::Embedded, one.label, &second, one.now.tick)
        .or_else(|| ledger.running(Rule::Embedded, other.label, &first, one.now.tick));
    let first_to_blame = match running {
        Some(known) => known.actor == one.label,
        None => blame(one, other, found.push),
    };
    let at = region(one, other, i, j).unwrap_or(one.now.at);
    let (culprit, victim, push) =
        if first_to_blame { (one, other, found.push) } else { (other, one, Vec2::ZERO - found.push) };
    if running.is_some_and(|known| found.depth <= known.worst.depth) {
        let worst = Worst { tick: one.now.tick, depth: found.depth, at, push };
        return Some(Fault::going_on(
            Rule::Embedded,
            culprit.label,
            if first_to_blame { &second } else { &first },
            worst,
        ));
    }
    let cause = running.map_or_else(|| cause(culprit, victim), |known| known.cause);
    let by = push * found.depth;
    // Whichever of them has the room.
    let held = depth_at(world, culprit, culprit.now.at + by);
    let pushed = depth_at(world, victim, victim.now.at - by);
    let (held_words, pushed_words) = (
        format!("hold {} {} of there", culprit.label, shift(push, found.depth)),
        format!("push {} {}", victim.label, shift(Vec2::ZERO - push, found.depth)),
    );
    let remedy = match (held <= culprit.slack, pushed <= victim.slack) {
        (true, true) => format!("{held_words}, or push {} as far", victim.label),
        (false, true) => format!("{pushed_words}; {} has no room to give way", culprit.label),
        (true, false) => format!("{held_words}; {} has no room to give way", victim.label),
        (false, false) => format!("{held_words}; neither has room to give way"),
    };
    let with = name_of(victim);
    Some(Fault {
        rule: Rule::Embedded,
        actor: culprit.label.to_string(),
        shape: culprit.body.name.clone(),
        worst: Worst { tick: one.now.tick, depth: found.depth, at, push },
        cause,
        message: format!(
            "{}'s {} is {} px deep in {with}: it {}.",
            culprit.label,
            culprit.body.name,
            px(found.depth),
            cause.name()
        ),
        remedy,
        remains: Some(beyond(held.min(pushed), one.slack)),
        with,
    })
}

/// Two bodies that went through each other between two ticks that both show them apart: the sweep of their motion against each
/// other.
fn tunnelled(one: &Step<'_>, other: &Step<'_>) -> Option<Fault> {
    let ((own, before, old), (theirs, other_before, other_old)) = (way(one)?, way(other)?);
    let (from, motion) = (Point::ZERO + (before - other_before), own - theirs);
    let deep = |offset: Vec2| overlap_depth(&old.pieces, offset, &other_old.pieces) > one.slack;
    if motion == Vec2::ZERO || deep(from.to_vec2()) || deep(from.to_vec2() + motion) {
        return None;
    }
    let found = passage(&old.pieces, from, motion, &other_old.pieces)?;
    if found.depth <= one.slack || clear_axis_by_axis(&old.pieces, from, motion, &other_old.pieces, one.slack) {
        return None;
    }
    let first_to_blame = own.hypot2() >= theirs.hypot2();
    let (culprit, victim, push) =
        if first_to_blame { (one, other, found.push) } else { (other, one, Vec2::ZERO - found.push) };
    let (with, length) = (name_of(victim), motion.hypot());
    let touch = |step: Vec2, start: Point| place(start + step * found.enter);
    let stop = if theirs == Vec2::ZERO || own == Vec2::ZERO {
        let (step, start) = if first_to_blame { (own, before) } else { (theirs, other_before) };
        format!("stop the step at its first touch, pivot at {}", touch(step, start))
    } else {
        let (first, second) = (touch(own, before), touch(theirs, other_before));
        format!("stop both at their first touch: {}'s pivot at {first}, {}'s at {second}", one.label, other.label)
    };
    // With both held at that time nothing of them overlaps.
    let held = overlap_depth(&old.pieces, from.to_vec2() + motion * found.enter, &other_old.pieces);
    Some(Fault {
        rule: Rule::Tunnelled,
        actor: culprit.label.to_string(),
        shape: culprit.body.name.clone(),
        worst: Worst {
            tick: one.now.tick,
            depth: found.depth,
            at: found.at + other_before.to_vec2() + theirs * f64::midpoint(found.enter, found.exit),
            push,
        },
        cause: Cause::Moved,
        message: format!(
            "{}'s {} and {with} went through each other in one step of {} px against each other, up to {} px deep, and no tick \
             shows it.",
            culprit.label,
            culprit.body.name,
            px(length),
            px(found.depth)
        ),
        remedy: format!("{stop} ({} % of the way)", (found.enter * 100.0).round()),
        remains: Some(beyond(held, one.slack)),
        with,
    })
}

/// The motion of a step, where it began, and the body then.
fn way<'s>(step: &Step<'s>) -> Option<(Vec2, Point, &'s Shape)> {
    Some((step.motion()?, step.before?.at, step.old_body?))
}

/// Two bodies in each other that nothing stops. What a state lets through is meant to pass.
fn ghost_pair(world: &World<'_>, one: &Step<'_>, other: &Step<'_>, ledger: &Ledger) -> Option<Fault> {
    let sees = |a: &Step<'_>, b: &Step<'_>| a.body.mask.sees(b.body.layer);
    let (asks, asked) = (sees(one, other), sees(other, one));
    if world.layers.contact.stops(asks, asked) {
        return None;
    }
    let (found, i, j) = deepest_overlap(&one.body.pieces, one.now.at - other.now.at, &other.body.pieces)?;
    if found.depth <= one.slack {
        return None;
    }
    let with = name_of(other);
    let at = region(one, other, i, j).unwrap_or(one.now.at);
    let worst = Worst { tick: one.now.tick, depth: found.depth, at, push: found.push };
    if ledger.is_no_worse(Rule::GhostPair, one.label, &with, (one.now.tick, found.depth)) {
        return Some(Fault::going_on(Rule::GhostPair, one.label, &with, worst));
    }
    let who = if asks || asked { "only one of the masks asks for it" } else { "neither mask asks for it" };
    // The bits that one of them lacks, or both where both must ask.
    let (looker, target) = if asks { (other, one) } else { (one, other) };
    let actor = |label: &str| label.split(':').next().unwrap_or(label).to_string();
    let add = |looker: &Step<'_>, target: &Step<'_>| {
        let bits = world.layers.describe(target.body.layer);
        format!("add {bits} to the mask of {}.{}", actor(looker.label), looker.body.name)
    };
    let one_suffices = world.layers.contact.stops(true, asks || asked);
    let both = if one_suffices { String::new() } else { format!(", and {}", add(target, looker)) };
    Some(Fault {
        rule: Rule::GhostPair,
        actor: one.label.to_string(),
        shape: one.body.name.clone(),
        worst,
        cause: cause(one, other),
        message: format!(
            "{}'s {} passes through {with}, {} px deep: {who}.",
            one.label,
            one.body.name,
            px(found.depth)
        ),
        remedy: format!("if they should stop each other, {}{both}; see `finitor layers explain`", add(looker, target)),
        remains: Some(0.0),
        with,
    })
}

fn region(one: &Step<'_>, other: &Step<'_>, i: usize, j: usize) -> Option<Point> {
    let (own, theirs): (&Convex, &Convex) = (&one.body.pieces[i], &other.body.pieces[j]);
    let (_, middle) = overlap_region(own, one.now.at - other.now.at, theirs)?;
    Some(middle + other.now.at.to_vec2())
}

/// Whether the first of two is to blame: the one that moved further towards the other, or, if neither did, the one
/// that turned, changed its frame or appeared; the first in doubt.
fn blame(one: &Step<'_>, other: &Step<'_>, push: Vec2) -> bool {
    let towards = |step: &Step<'_>, way: Vec2| step.motion().map_or(0.0, |motion| -motion.dot(way));
    let (first, second) = (towards(one, push), towards(other, Vec2::ZERO - push));
    if first.max(second) > 0.0 {
        return first >= second;
    }
    let changed = |step: &Step<'_>| {
        step.before.is_none_or(|before| {
            !step.swept
                || before.facing != step.now.facing
                || (before.animation, before.frame) != (step.now.animation, step.now.frame)
        })
    };
    changed(one) || !changed(other)
}

fn cause(culprit: &Step<'_>, victim: &Step<'_>) -> Cause {
    let victim_shape = victim.old_body.unwrap_or(victim.body);
    culprit.cause_by(true, |shape: &Shape| {
        overlap_depth(&shape.pieces, culprit.now.at - victim.now.at, &victim_shape.pieces)
    })
}
