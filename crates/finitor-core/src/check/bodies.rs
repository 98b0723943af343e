//! Bodies against bodies.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::words::{px, shift};
use super::{Cause, Rule, Worst};
use crate::actor::Shape;
use crate::geometry::{Convex, Vec2, deepest_overlap, overlap_region, rects_meet};

/// Faults between every two bodies that stop each other on this tick.
///
/// # Complexity
/// O(k2), k actors on the tick; a box test decides for most pairs.
pub(super) fn pairs(world: &World<'_>, steps: &[Step<'_>], ledger: &Ledger, faults: &mut Vec<Fault>) {
    for (i, one) in steps.iter().enumerate() {
        for other in &steps[i + 1..] {
            let sees = |a: &Step<'_>, b: &Step<'_>| a.now.body_mask.sees(b.now.body_layer);
            let stop = world.layers.contact.stops(sees(one, other), sees(other, one));
            if !rects_meet(one.bounds(), other.bounds()) {
                continue;
            }
            if stop {
                faults.extend(embedded(one, other, ledger));
            } else {
                faults.extend(ghost_pair(world, one, other));
            }
        }
    }
}

fn embedded(one: &Step<'_>, other: &Step<'_>, ledger: &Ledger) -> Option<Fault> {
    let offset = one.now.at - other.now.at;
    let (found, ..) = deepest_overlap(&one.body.pieces, offset, &other.body.pieces)?;
    if found.depth <= one.slack {
        return None;
    }
    let other_name = |step: &Step<'_>| format!("{}.{}", step.label, step.body.name);
    let running = ledger
        .running(Rule::Embedded, one.label, &other_name(other), one.now.tick)
        .or_else(|| ledger.running(Rule::Embedded, other.label, &other_name(one), one.now.tick));
    let first_to_blame = match running {
        Some(known) => known.actor == one.label,
        None => blame(one, other, found.push),
    };
    let (culprit, victim, push) =
        if first_to_blame { (one, other, found.push) } else { (other, one, Vec2::ZERO - found.push) };
    let cause = running.map_or_else(|| cause(culprit, victim), |known| known.cause);
    let with = other_name(victim);
    let at = deepest_overlap(&culprit.body.pieces, culprit.now.at - victim.now.at, &victim.body.pieces)
        .and_then(|(_, i, j)| region(culprit, victim, i, j))
        .unwrap_or(culprit.now.at);
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
        remedy: format!(
            "hold {} {} of there, or push {} as far",
            culprit.label,
            shift(push, found.depth),
            victim.label
        ),
        with,
    })
}

/// Two bodies in each other that nothing stops. What a state lets through is meant to pass.
fn ghost_pair(world: &World<'_>, one: &Step<'_>, other: &Step<'_>) -> Option<Fault> {
    let sees = |a: &Step<'_>, b: &Step<'_>| a.body.mask.sees(b.body.layer);
    let (asks, asked) = (sees(one, other), sees(other, one));
    if world.layers.contact.stops(asks, asked) {
        return None;
    }
    let (found, i, j) = deepest_overlap(&one.body.pieces, one.now.at - other.now.at, &other.body.pieces)?;
    if found.depth <= one.slack {
        return None;
    }
    let with = format!("{}.{}", other.label, other.body.name);
    let who = if asks || asked { "only one of the masks asks for it" } else { "neither mask asks for it" };
    // The bit that one of them lacks.
    let (looker, target) = if asks { (other, one) } else { (one, other) };
    let bits = world.layers.describe(target.body.layer);
    let actor = |label: &str| label.split(':').next().unwrap_or(label).to_string();
    Some(Fault {
        rule: Rule::GhostPair,
        actor: one.label.to_string(),
        shape: one.body.name.clone(),
        worst: Worst {
            tick: one.now.tick,
            depth: found.depth,
            at: region(one, other, i, j).unwrap_or(one.now.at),
            push: found.push,
        },
        cause: Cause::Moved,
        message: format!(
            "{}'s {} passes through {with}, {} px deep: {who}.",
            one.label,
            one.body.name,
            px(found.depth)
        ),
        remedy: format!(
            "if they should stop each other, add {bits} to the mask of {}.{}; see `finitor layers explain`",
            actor(looker.label),
            looker.body.name
        ),
        with,
    })
}

fn region(one: &Step<'_>, other: &Step<'_>, i: usize, j: usize) -> Option<crate::geometry::Point> {
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
        deepest_overlap(&shape.pieces, culprit.now.at - victim.now.at, &victim_shape.pieces)
            .map_or(0.0, |(found, ..)| found.depth)
    })
}
