//! What is said of a body that lies in something still.

use super::checker::World;
use super::deep::{Deep, Spell};
use super::finding::{Finding, Severity};
use super::step::Step;
use super::stops::Stop;
use super::tries::{beyond, cut_needed, deepest_at, way_out};
use super::words::{edge_against, place, px, shift};
use super::{Cause, Rule, Worst};
use crate::actor::Shape;
use crate::facing::Facing;
use crate::geometry::{Overlap, Point, Vec2, deepest_overlap, overlap_depth, overlap_region};

/// What happened and what to change, and what is left of the depth then.
pub(super) fn tell(world: &World<'_>, step: &Step<'_>, deep: &Deep, pushed_by: Option<&str>) -> (String, String, f64) {
    let Deep { found, cause, thing, .. } = *deep;
    let stop = Stop::of(world.stage, thing);
    let dropped = deep.dropped.filter(|_| cause == Cause::Moved && deep.rule == Rule::Embedded);
    let drop = dropped.map(|(place, since)| (world.stage.one_ways[place as usize].name.as_str(), since));
    let why = match (drop, pushed_by) {
        (Some((platform, since)), _) => format!(
            ": it moved in, its drop through {platform} still on {} ticks after it got there.",
            step.now.tick - since
        ),
        (None, Some(by)) if cause == Cause::Pushed => format!(": {by} pushed it in."),
        _ => because(step, cause),
    };
    let with = with(world, stop);
    let message = format!("{}'s {} is {} px deep in {with}{why}", step.label, step.body.name, px(found.depth));
    let (remedy, left) = remedy(world, step, cause, found, stop);
    let remedy = match (drop, pushed_by) {
        (Some((platform, since)), _) => {
            format!("end the drop by tick {}, when the body is in {platform}; {remedy}", since + 1)
        }
        (None, Some(by)) if cause == Cause::Pushed => format!("stop {by} as well: {remedy}"),
        _ => remedy,
    };
    (message, remedy, beyond(left, step.slack))
}

fn with(world: &World<'_>, stop: Stop<'_>) -> String {
    format!("{}/{}", world.stage.name, stop.name)
}

/// The finding of a spell, its words given.
pub(super) fn finding(
    world: &World<'_>,
    spell: &Spell,
    (severity, label, body): (Severity, &str, &Shape),
    (message, remedy, remains): (String, String, f64),
) -> Finding {
    let (worst, (ticks, cause)) = (&spell.worst, (spell.ticks, spell.cause));
    let stop = Stop::of(world.stage, worst.thing);
    let at = worst.now.at.to_vec2();
    let region = deepest_overlap(&body.pieces, at, stop.pieces)
        .and_then(|(_, own, other)| overlap_region(&body.pieces[own], at, &stop.pieces[other]));
    let place = region.map_or(worst.now.at, |(_, middle)| middle);
    Finding {
        rule: worst.rule,
        severity,
        actor: label.to_string(),
        shape: body.name.clone(),
        with: with(world, stop),
        ticks,
        worst: Worst { tick: worst.now.tick, depth: worst.found.depth, at: place, push: worst.found.push },
        cause,
        message,
        remedy,
        remains: Some(remains),
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
        let moved = at - step.now.at;
        // Where the shortest way out of this leads into another thing, the way that was found instead.
        let by = if left <= step.slack && (moved - found.push * found.depth).hypot() > step.slack {
            shift(moved / moved.hypot(), moved.hypot())
        } else {
            by.clone()
        };
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
            let kept = step.old_body.map_or(0.0, |old| overlap_depth(&old.pieces, step.now.at.to_vec2(), stop.pieces));
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

/// The nearest place found where the body is clear of every solid it sees and of this stop, by pushing out of the deepest overlap
/// again and again; between a floor and a ceiling that is no way out, and the nearest along one of the axes is it. And how
/// deep it is in there, where neither gets out.
fn clear_place(world: &World<'_>, step: &Step<'_>, stop: Stop<'_>) -> (Point, f64) {
    /// Pushes that are tried.
    const TRIES: usize = 8;
    let deepest = |at: Point| deepest_at(world, step, at, stop.pieces);
    let mut at = step.now.at;
    for _ in 0..TRIES {
        match deepest(at) {
            Some((depth, push)) => at += push * depth,
            None => return (at, 0.0),
        }
    }
    let axes = [Vec2::new(0.0, -1.0), Vec2::new(-1.0, 0.0), Vec2::new(1.0, 0.0), Vec2::new(0.0, 1.0)];
    let along = |way: Vec2| {
        let mut by = 0.0;
        for _ in 0..4 * TRIES {
            let Some(needed) = way_out(world, step, step.now.at + way * by, stop.pieces, way) else { return Some(by) };
            by += needed;
        }
        None
    };
    let found = axes.into_iter().filter_map(|way| Some((along(way)?, way)));
    match found.min_by(|a, b| a.0.total_cmp(&b.0)) {
        Some((by, way)) => (step.now.at + way * by, 0.0),
        None => (at, deepest(at).map_or(0.0, |(depth, _)| depth)),
    }
}
