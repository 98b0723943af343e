//! Bodies against bodies.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::words::{px, shift};
use super::{Cause, Rule, Worst};
use crate::actor::Shape;
use crate::geometry::{Convex, Vec2, deepest_overlap, overlap_region, rects_meet};
use crate::layers::Contact;

/// Faults between every two bodies that stop each other on this tick.
///
/// # Complexity
/// O(k2), k actors on the tick; a box test decides for most pairs.
pub(super) fn pairs(world: &World<'_>, steps: &[Step<'_>], ledger: &Ledger, faults: &mut Vec<Fault>) {
    for (i, one) in steps.iter().enumerate() {
        for other in &steps[i + 1..] {
            let (sees, seen) = (one.now.body_mask.sees(other.body.layer), other.now.body_mask.sees(one.body.layer));
            let stop = match world.layers.contact {
                Contact::Either => sees || seen,
                Contact::Both => sees && seen,
            };
            if stop && rects_meet(one.bounds(), other.bounds()) {
                faults.extend(embedded(one, other, ledger));
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
