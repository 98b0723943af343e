//! Bodies against what stops them: deep in it, or through it.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::tries::{beyond, cut_needed, deepest_at, depth_at};
use super::words::{edge_against, place, px, shift};
use super::{Cause, Rule, Worst};
use crate::facing::Facing;
use crate::geometry::{
    Convex, Overlap, Point, Rect, Sweep, Vec2, deepest_overlap, overlap_region, rects_meet, rects_overlap, sweep,
    times_deeper,
};
use crate::layers::LayerSet;

/// Something still that stops a body.
#[derive(Clone, Copy)]
pub(super) struct Stop<'a> {
    pub(super) name: &'a str,
    pub(super) pieces: &'a [Convex],
    pub(super) bounds: Rect,
    pub(super) layer: LayerSet,
}

/// Faults against all solids the body sees.
pub(super) fn solids(world: &World<'_>, step: &Step<'_>, ledger: &Ledger, faults: &mut Vec<Fault>) {
    let reach = step.swept_box;
    for solid in step.near.solids.iter().map(|place| &world.stage.solids[*place as usize]) {
        let outline = &solid.outline;
        if !step.now.body_mask.sees(solid.layer) || !rects_meet(reach, outline.bounds) {
            continue;
        }
        let stop = Stop { name: &solid.name, pieces: &outline.pieces, bounds: outline.bounds, layer: solid.layer };
        if let Some(fault) = embedded(world, step, ledger, stop).or_else(|| tunnelled(world, step, stop)) {
            faults.push(fault);
        }
    }
}

/// The body deeper than the slack in something that stops it.
pub(super) fn embedded(world: &World<'_>, step: &Step<'_>, ledger: &Ledger, stop: Stop<'_>) -> Option<Fault> {
    let (found, own, other) = step.overlap_now(stop.pieces, stop.bounds)?;
    if found.depth <= step.slack {
        return None;
    }
    let with = format!("{}/{}", world.stage.name, stop.name);
    let running = |rule: Rule| ledger.running(rule, step.label, &with, step.now.tick);
    let known = KINDS.into_iter().find_map(running);
    if let Some(known) = known.filter(|known| found.depth <= known.worst.depth) {
        // It only goes on: the words are those of a worse tick.
        return Some(going_on(step, known.rule, known.cause, found, with));
    }
    let region = overlap_region(&step.body.pieces[own], step.now.at.to_vec2(), &stop.pieces[other]);
    let at = region.map_or(step.now.at, |(_, middle)| middle);
    let cause = step.cause(stop.pieces, stop.layer);
    let rule = known.map_or_else(|| kind(step, cause, found), |known| known.rule);
    let message =
        format!("{}'s {} is {} px deep in {with}{}", step.label, step.body.name, px(found.depth), because(step, cause));
    let (remedy, left) = remedy(world, step, cause, found, stop);
    Some(Fault {
        rule,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        worst: Worst { tick: step.now.tick, depth: found.depth, at, push: found.push },
        cause,
        message,
        remedy,
        remains: Some(beyond(left, step.slack)),
        with,
    })
}

/// The rules for a body in something that stops it.
const KINDS: [Rule; 3] = [Rule::Embedded, Rule::NoHeadroom, Rule::WarpBlocked];

/// Which of them it is, by what first made it: a taller frame under a ceiling, a warp, or anything else.
fn kind(step: &Step<'_>, cause: Cause, found: Overlap) -> Rule {
    let taller = || step.old_body.is_some_and(|old| step.body.bounds().y0 < old.bounds().y0 - step.slack);
    match cause {
        Cause::Warped => Rule::WarpBlocked,
        Cause::Reshaped if found.push.y > 0.7 && taller() => Rule::NoHeadroom,
        _ => Rule::Embedded,
    }
}

/// One more tick of a finding, no worse than it was.
fn going_on(step: &Step<'_>, rule: Rule, cause: Cause, found: Overlap, with: String) -> Fault {
    Fault {
        rule,
        actor: step.label.to_string(),
        shape: String::new(),
        worst: Worst { tick: step.now.tick, depth: found.depth, at: step.now.at, push: found.push },
        cause,
        message: String::new(),
        remedy: String::new(),
        remains: None,
        with,
    }
}

fn frame_name(step: &Step<'_>, animation: usize, frame: usize) -> String {
    format!("{} {frame}", step.actor.animations[animation].name)
}

fn because(step: &Step<'_>, cause: Cause) -> String {
    let now = frame_name(step, step.now.animation, step.now.frame);
    match (cause, step.before) {
        (Cause::Moved | Cause::Pushed, _) => ": it moved in.".to_string(),
        (Cause::Turned, _) => format!(": it turned to face {}.", step.now.facing),
        (Cause::Reshaped, Some(before)) => {
            format!(": its frame changed from {} to {now}.", frame_name(step, before.animation, before.frame))
        }
        (Cause::Reshaped, None) => format!(": its frame changed to {now}."),
        (Cause::State, _) => ": a state made it look for what it was already in.".to_string(),
        (Cause::Spawned, _) => ": it appeared there.".to_string(),
        (Cause::Warped, _) => ": it was put there.".to_string(),
    }
}

/// What to change, and what is left of the depth then.
fn remedy(world: &World<'_>, step: &Step<'_>, cause: Cause, found: Overlap, stop: Stop<'_>) -> (String, f64) {
    let by = shift(found.push, found.depth);
    let put = |lead: &str| {
        let (at, left) = clear_place(world, step, stop);
        let clear = if left <= step.slack { format!(", pivot at {}", place(at)) } else { String::new() };
        (format!("{lead} {by}{clear}"), left)
    };
    match cause {
        Cause::Moved | Cause::Pushed => put("end the step"),
        Cause::Turned => {
            let (words, left) = even_out(step, found, stop);
            let (shifted, rest) = put(", or shift the turn");
            (format!("{words}{shifted}"), left.min(rest))
        }
        Cause::Reshaped => {
            let (words, left) = move_edge(step, found, stop);
            let now = frame_name(step, step.now.animation, step.now.frame);
            let old = step.old_body.and_then(|old| deepest_overlap(&old.pieces, step.now.at.to_vec2(), stop.pieces));
            let kept = old.map_or(0.0, |(found, ..)| found.depth);
            (format!("{words} on {now}, or keep the old frame until there is room"), left.min(kept))
        }
        Cause::State => put("change the state only where there is room, or shift"),
        Cause::Spawned | Cause::Warped => put("put it"),
    }
}

/// The push as the art is drawn.
fn as_drawn(step: &Step<'_>, push: Vec2) -> Vec2 {
    let shown = step.actor.shown(step.now.animation, step.now.frame, step.now.facing);
    if shown.flipped { Vec2::new(0.0 - push.x, push.y) } else { push }
}

fn move_edge(step: &Step<'_>, found: Overlap, stop: Stop<'_>) -> (String, f64) {
    let (by, left) = cut_needed(&step.body.pieces, step.now.at.to_vec2(), stop.pieces, found.push);
    let push = as_drawn(step, found.push);
    (format!("move {}'s {} edge {} as drawn", step.body.name, edge_against(push), shift(push, by)), left)
}

fn even_out(step: &Step<'_>, found: Overlap, stop: Stop<'_>) -> (String, f64) {
    let bounds = step.body.bounds();
    let (ahead, behind) = match step.now.facing {
        Facing::Right => (bounds.x1, -bounds.x0),
        Facing::Left => (-bounds.x0, bounds.x1),
    };
    let (edge, left) = move_edge(step, found, stop);
    let words = format!("{edge} (it reaches {} px ahead of the pivot and {} px behind it)", px(ahead), px(behind));
    (words, left)
}

/// The nearest place found, by pushing out of the deepest overlap again and again, where the body is clear of every
/// solid it sees and of this stop; and how deep it is in there, where eight pushes do not get out.
fn clear_place(world: &World<'_>, step: &Step<'_>, stop: Stop<'_>) -> (Point, f64) {
    let mut at = step.now.at;
    for _ in 0..8 {
        match deepest_at(world, step, at, stop.pieces) {
            Some((depth, push)) => at += push * depth,
            None => return (at, 0.0),
        }
    }
    (at, deepest_at(world, step, at, stop.pieces).map_or(0.0, |(depth, _)| depth))
}

/// The passage of a whole body through a whole thing.
#[derive(Clone, Copy, Debug)]
pub(super) struct Passage {
    pub(super) enter: f64,
    pub(super) exit: f64,
    pub(super) push: Vec2,
    pub(super) depth: f64,
    /// Middle of what overlaps when it is deepest.
    pub(super) at: Point,
}

/// The passage of pieces from a place along a motion; `None` when no interiors meet on the way.
pub(super) fn passage(pieces: &[Convex], from: Point, motion: Vec2, others: &[Convex]) -> Option<Passage> {
    let mut whole: Option<Passage> = None;
    for (one, other) in pieces.iter().flat_map(|one| others.iter().map(move |other| (one, other))) {
        let start = one.bounds() + from.to_vec2();
        if !rects_overlap(start.union(start + motion), other.bounds()) {
            continue;
        }
        let Some(found) = sweep(one, from.to_vec2(), motion, other) else {
            continue;
        };
        let Sweep { enter, exit, push, deepest_time, depth } = found;
        let place = from.to_vec2() + motion * deepest_time;
        let at = overlap_region(one, place, other).map_or(from, |(_, middle)| middle);
        let piece = Passage { enter, exit, push, depth, at };
        whole = Some(match whole {
            None => piece,
            Some(known) => {
                let first = if piece.enter < known.enter { piece } else { known };
                let deep = if piece.depth > known.depth { piece } else { known };
                Passage {
                    enter: first.enter,
                    push: first.push,
                    exit: known.exit.max(piece.exit),
                    depth: deep.depth,
                    at: deep.at,
                }
            }
        });
    }
    whole
}

/// Whether the step taken axis by axis, in one order or the other, keeps clear of the thing within the slack.
pub(super) fn clear_axis_by_axis(pieces: &[Convex], from: Point, motion: Vec2, others: &[Convex], slack: f64) -> bool {
    let (across, down) = (Vec2::new(motion.x, 0.0), Vec2::new(0.0, motion.y));
    let clear = |first: Vec2, second: Vec2| {
        [(from, first), (from + first, second)]
            .into_iter()
            .all(|(at, by)| passage(pieces, at, by, others).is_none_or(|p| p.depth <= slack))
    };
    clear(across, down) || clear(down, across)
}

/// The body through something that stops it between two ticks that both show it clear.
pub(super) fn tunnelled(world: &World<'_>, step: &Step<'_>, stop: Stop<'_>) -> Option<Fault> {
    let (motion, before, body) = (step.motion()?, step.before?, step.old_body?);
    let deep_at = |at: Point| {
        deepest_overlap(&body.pieces, at.to_vec2(), stop.pieces).is_some_and(|(o, ..)| o.depth > step.slack)
    };
    if deep_at(before.at) || deep_at(step.now.at) {
        return None;
    }
    let found = passage(&body.pieces, before.at, motion, stop.pieces)?;
    if found.depth <= step.slack || clear_axis_by_axis(&body.pieces, before.at, motion, stop.pieces, step.slack) {
        return None;
    }
    let length = motion.hypot();
    let with = format!("{}/{}", world.stage.name, stop.name);
    let touch = before.at + motion * found.enter;
    let deepest_there = deepest_overlap(&body.pieces, touch.to_vec2(), stop.pieces);
    // For how much of the way it is deeper than the slack.
    let pairs = body.pieces.iter().flat_map(|one| stop.pieces.iter().map(move |other| (one, other)));
    let times = pairs.filter_map(|(one, other)| times_deeper(one, before.at.to_vec2(), motion, other, step.slack));
    let shown = times.map(|(from, to, _)| to - from).fold(0.0, f64::max);
    Some(Fault {
        rule: Rule::Tunnelled,
        actor: step.label.to_string(),
        shape: body.name.clone(),
        worst: Worst { tick: step.now.tick, depth: found.depth, at: found.at, push: found.push },
        cause: Cause::Moved,
        message: format!(
            "{}'s {} went through {with} in one step of {} px, up to {} px deep, and no tick shows it.",
            step.label,
            body.name,
            px(length),
            px(found.depth)
        ),
        remedy: format!(
            "stop the step at its first touch, pivot at {} ({} % of the way); steps under {} px would show it",
            place(touch),
            (found.enter * 100.0).round(),
            px(shown * length)
        ),
        remains: Some(beyond(
            depth_at(world, step, touch).max(deepest_there.map_or(0.0, |(found, ..)| found.depth)),
            step.slack,
        )),
        with,
    })
}
