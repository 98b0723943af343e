//! Bodies against what stops them: deep in it, or through it.

use super::checker::World;
use super::deep::{Deep, Deeps, Still};
use super::ledger::Fault;
use super::step::Step;
use super::tries::{beyond, deepest_at};
use super::words::{place, px};
use super::{Cause, Rule, Worst};
use crate::geometry::{
    Convex, Overlap, Point, Rect, Sweep, Vec2, overlap_depth, overlap_region, rects_meet, rects_overlap, sweep,
    times_deeper,
};
use crate::layers::LayerSet;
use crate::stage::Stage;

/// Something still that stops a body.
#[derive(Clone, Copy)]
pub(super) struct Stop<'a> {
    pub(super) name: &'a str,
    pub(super) pieces: &'a [Convex],
    pub(super) bounds: Rect,
    pub(super) layer: LayerSet,
}

impl<'a> Stop<'a> {
    /// The thing of a stage.
    pub(super) fn of(stage: &'a Stage, thing: Still) -> Stop<'a> {
        let (name, outline, layer) = match thing {
            Still::Solid(place) => {
                let solid = &stage.solids[place as usize];
                (&solid.name, &solid.outline, solid.layer)
            }
            Still::OneWay(place) => {
                let platform = &stage.one_ways[place as usize];
                (&platform.name, &platform.outline, platform.layer)
            }
        };
        Stop { name, pieces: &outline.pieces, bounds: outline.bounds, layer }
    }
}

/// Faults against all solids the body sees.
pub(super) fn solids(
    world: &World<'_>,
    step: &Step<'_>,
    deeps: &Deeps,
    found: &mut Vec<Deep>,
    faults: &mut Vec<Fault>,
) {
    let reach = step.swept_box;
    for (place, _) in step.seen(world).filter(|(_, solid)| rects_meet(reach, solid.outline.bounds)) {
        let thing = Still::Solid(place);
        let stop = Stop::of(world.stage, thing);
        if let Some(deep) = embedded(step, deeps, thing, stop) {
            found.push(deep);
        } else if let Some(fault) = tunnelled(world, step, stop) {
            faults.push(fault);
        }
    }
}

/// The body deeper than the slack in something that stops it.
pub(super) fn embedded(step: &Step<'_>, deeps: &Deeps, thing: Still, stop: Stop<'_>) -> Option<Deep> {
    let (found, ..) = step.overlap_now(stop.pieces, stop.bounds)?;
    if found.depth <= step.slack {
        return None;
    }
    let known = deeps.running(step.track, thing, step.now.tick);
    let cause = match known.filter(|known| found.depth <= known.worst.found.depth) {
        // It only goes on: the words are those of a worse tick.
        Some(known) => known.worst.cause,
        None => step.cause(stop.pieces, stop.layer),
    };
    let rule = known.map_or_else(|| kind(step, cause, found), |known| known.worst.rule);
    let (before, now) = (step.before.cloned(), step.now.clone());
    let (track, actor) = (step.track, step.place);
    Some(Deep { track, actor, thing, rule, cause, found, before, now, dropped: None, pushed_by: None })
}

/// Which of them it is, by what first made it: a taller frame under a ceiling, a warp, or anything else.
fn kind(step: &Step<'_>, cause: Cause, found: Overlap) -> Rule {
    let taller = || step.old_body.is_some_and(|old| step.body.bounds().y0 < old.bounds().y0 - step.slack);
    match cause {
        Cause::Warped => Rule::WarpBlocked,
        Cause::Reshaped if found.push.y > 0.7 && taller() => Rule::NoHeadroom,
        _ => Rule::Embedded,
    }
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
    let depth_at = |at: Point| overlap_depth(&body.pieces, at.to_vec2(), stop.pieces);
    let ends = depth_at(before.at).max(depth_at(step.now.at));
    if ends > step.slack {
        return None;
    }
    let found = passage(&body.pieces, before.at, motion, stop.pieces)?;
    // What slides along within the slack, a hair more or less, goes through nothing.
    if found.depth <= ends + step.slack || clear_axis_by_axis(&body.pieces, before.at, motion, stop.pieces, step.slack)
    {
        return None;
    }
    let length = motion.hypot();
    let with = format!("{}/{}", world.stage.name, stop.name);
    // Whatever else stops it first, it is stopped there.
    let others = step.seen(world);
    let passages = others.filter_map(|(_, solid)| passage(&body.pieces, before.at, motion, &solid.outline.pieces));
    let enter = passages.filter(|p| p.depth > step.slack).map(|p| p.enter).fold(found.enter, f64::min);
    let touch = before.at + motion * enter;
    let there = Step { body, ..*step };
    let left = deepest_at(world, &there, touch, stop.pieces).map_or(0.0, |(depth, _)| depth);
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
            (enter * 100.0).round(),
            px(shown * length)
        ),
        remains: Some(beyond(left, step.slack)),
        with,
    })
}
