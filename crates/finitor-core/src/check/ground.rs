//! Standing actors whose art is off the ground.

use super::checker::World;
use super::ledger::Fault;
use super::one_way::Passing;
use super::step::{Moment, Step};
use super::words::px;
use super::{Cause, Rule, Worst};
use crate::actor::{Role, Shape};
use crate::fit::Side;
use crate::geometry::{Convex, Point, TOUCH, Vec2, deepest_overlap, rects_meet};
use crate::stage::Outline;

/// How an actor stands on a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Standing {
    /// From the lowest opaque row to the surface, px; below 0 when the art is in the ground.
    pub(super) gap: f64,
    at: Point,
    /// How deep the lowest row lies under level ground that it is over, px, and where; 0 where it does not.
    sunk: (f64, Point),
}

/// What the ground is to a body on a tick.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Ground {
    /// Whether anything carries it: its strip below, or lacking one the body itself within the slack, meets it.
    pub(super) carries: bool,
    /// How the actor stands; `None` when nothing carries it, or its lowest row is beside what it stands on.
    pub(super) standing: Option<Standing>,
}

/// What carries the body now, and how the actor stands on it.
pub(super) fn ground(world: &World<'_>, step: &Step<'_>, passing: &Passing) -> Ground {
    let at = step.now.at.to_vec2();
    let (feeler, reach) = feeler(step);
    let feeler_bounds = (feeler.bounds() + at).inflate(0.0, reach);
    let carriers = supports(world, step, passing).filter(|outline| {
        rects_meet(feeler_bounds, outline.bounds)
            && deepest_overlap(&feeler.pieces, at + Vec2::new(0.0, reach), &outline.pieces).is_some()
    });
    let body = step.body.bounds() + at;
    let mut carries = false;
    let mut least: Option<Standing> = None;
    let mut sunk = (0.0, Point::ZERO);
    for outline in carriers {
        carries = true;
        let Some(foot) = step.foot() else { break };
        let runs = || foot.runs.iter().map(|&(left, right)| (left + at.x, right + at.x));
        // Where the body itself is too deep, that is the fault.
        let is_in = || step.overlap_now(&outline.pieces, outline.bounds).is_some_and(|(o, ..)| o.depth > step.slack);
        for (x, surface) in runs().filter_map(|run| level_surface(outline, run, body.y0)) {
            let deep = foot.y + at.y - surface;
            if deep > sunk.0 && deep > TOUCH && !is_in() {
                sunk = (deep, Point::new(x, surface));
            }
        }
        // On a slope or at an edge the lowest row may hang over lower ground while the body rests beside it: what lies
        // under the body counts as well.
        let ranges = runs().chain([(body.x0, body.x1)]);
        for (x, surface) in ranges.filter_map(|range| highest_surface(outline, range, body.y0)) {
            let gap = surface - (foot.y + at.y);
            if least.is_none_or(|known| gap < known.gap) {
                least = Some(Standing { gap, at: Point::new(x, surface), sunk });
            }
        }
    }
    Ground { carries, standing: least.map(|standing| Standing { sunk, ..standing }) }
}

/// The strip below the body, where the frame has one.
pub(super) fn below<'a>(step: &Step<'a>) -> Option<&'a Shape> {
    step.pose().shapes.iter().find(|shape| shape.role == Role::Sensor && shape.side == Some(Side::Below))
}

/// What feels for the ground, and how far below it.
fn feeler<'a>(step: &Step<'a>) -> (&'a Shape, f64) {
    // Without a sensor a strip as deep as the slack under the body stands in for it.
    below(step).map_or((step.body, step.slack), |sensor| (sensor, 0.0))
}

/// Whether the body itself, lowered by the slack, meets what can carry it.
pub(super) fn rests(world: &World<'_>, step: &Step<'_>, passing: &Passing) -> bool {
    let at = step.now.at.to_vec2() + Vec2::new(0.0, step.slack);
    supports(world, step, passing).any(|outline| deepest_overlap(&step.body.pieces, at, &outline.pieces).is_some())
}

/// What can carry the body: the solids it sees and the one-way platforms that stop it from above and that it is not passing;
/// `passing` has an entry for each of these.
pub(super) fn supports<'a>(
    world: &World<'a>,
    step: &Step<'a>,
    passing: &'a Passing,
) -> impl Iterator<Item = &'a Outline> {
    let mask = step.now.body_mask;
    let stage = world.stage;
    let solids = step.near.solids.iter().map(|place| &stage.solids[*place as usize]);
    let solids = solids.filter(move |s| mask.sees(s.layer)).map(|s| &s.outline);
    let platforms = step
        .near
        .one_ways
        .iter()
        .filter(|place| !passing.is(**place))
        .map(|place| &stage.one_ways[*place as usize])
        .filter(move |o| mask.sees(o.layer) && o.passes.is_upward());
    solids.chain(platforms.map(|o| &o.outline))
}

/// The highest point of the polygon's upper edges over a stretch of x, below `ceiling`, as x and y.
pub(super) fn highest_surface(outline: &Outline, (left, right): (f64, f64), ceiling: f64) -> Option<(f64, f64)> {
    let mut highest: Option<(f64, f64)> = None;
    for (a, b) in outline.edges() {
        // Clockwise on screen, upper edges run to the right.
        let (from, to) = (a.x.max(left), b.x.min(right));
        if a.x >= b.x || from >= to {
            continue;
        }
        let y_at = |x: f64| a.y + (b.y - a.y) * ((x - a.x) / (b.x - a.x));
        for x in [from, to] {
            let y = y_at(x);
            if y > ceiling && highest.is_none_or(|(_, known)| y < known) {
                highest = Some((if a.y == b.y { f64::midpoint(from, to) } else { x }, y));
            }
        }
    }
    highest
}

/// The highest level floor of an outline that lies under all of a stretch of x, below `ceiling`, as x and y.
fn level_surface(outline: &Outline, (left, right): (f64, f64), ceiling: f64) -> Option<(f64, f64)> {
    let level = outline.edges().filter(|(a, b)| a.y == b.y && a.x <= left && right <= b.x && a.y > ceiling);
    level.map(|(a, _)| (f64::midpoint(left, right), a.y)).min_by(|a, b| a.1.total_cmp(&b.1))
}

/// The art under level ground on this tick and the one before, as deep.
pub(super) fn sunk_feet(
    world: &World<'_>,
    step: &Step<'_>,
    passing: &Passing,
    (before, now): (Standing, Standing),
    faults: &mut Vec<Fault>,
) {
    let (before, now) = (before.sunk, now.sunk);
    let allowed = world.settings.hover;
    if now.0 <= allowed || before.0 <= allowed || (now.0 - before.0).abs() > step.slack || !step.swept {
        return;
    }
    let raised = Moment { at: step.now.at - Vec2::new(0.0, now.0), ..step.now.clone() };
    let fault = |tick: u64, (deep, at): (f64, Point)| Fault {
        rule: Rule::SunkFeet,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: world.stage.name.clone(),
        worst: Worst { tick, depth: deep, at, push: Vec2::new(0.0, -1.0) },
        cause: Cause::Moved,
        message: format!("{} stands, and the lowest row of its art is {} px under the ground.", step.label, px(deep)),
        remedy: format!("raise it by {} px: {}", px(deep), raise(step, deep)),
        remains: Some(
            ground(world, &Step { now: &raised, ..*step }, passing).standing.map_or(0.0, |standing| standing.sunk.0),
        ),
    };
    faults.extend([fault(step.now.tick - 1, before), fault(step.now.tick, now)]);
}

fn raise(step: &Step<'_>, deep: f64) -> String {
    let animation = &step.actor.animations[step.now.animation].name;
    let drawn_low = step.foot().map_or(0.0, |foot| foot.y) - step.body.bounds().y1;
    if drawn_low >= deep - step.slack {
        format!(
            "on {animation} the art ends {} px under the body's bottom; move the pivot down or the body's bottom by that",
            px(drawn_low)
        )
    } else {
        format!("end the fall at y {}", px(step.now.at.y - deep))
    }
}

/// The art off the ground on this tick and the one before, at the same height.
pub(super) fn hover(
    world: &World<'_>,
    step: &Step<'_>,
    passing: &Passing,
    (before, now): (Standing, Standing),
    faults: &mut Vec<Fault>,
) {
    let allowed = world.settings.hover;
    if now.gap <= allowed || before.gap <= allowed || (now.gap - before.gap).abs() > step.slack || !step.swept {
        return;
    }
    let left = lowered(world, step, passing, now.gap);
    let fault = |tick: u64, standing: Standing| Fault {
        rule: Rule::Hover,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: world.stage.name.clone(),
        worst: Worst { tick, depth: standing.gap, at: standing.at, push: Vec2::new(0.0, 1.0) },
        cause: Cause::Moved,
        message: format!(
            "{} stands, but the lowest row of its art floats {} px above the ground.",
            step.label,
            px(standing.gap)
        ),
        remedy: format!("lower it by {} px: {}", px(standing.gap), lower(step, standing.gap)),
        remains: Some(left),
    };
    faults.extend([fault(step.now.tick - 1, before), fault(step.now.tick, now)]);
}

/// How far the art ends above the body's bottom.
fn drawn_high(step: &Step<'_>) -> f64 {
    step.body.bounds().y1 - step.foot().map_or(0.0, |foot| foot.y)
}

/// What is left of a gap when the actor is lowered by it, its body's bottom drawn up to the art where that is higher.
fn lowered(world: &World<'_>, step: &Step<'_>, passing: &Passing, gap: f64) -> f64 {
    let at = step.now.at + Vec2::new(0.0, gap);
    let bottom = step.body.bounds().y1 - drawn_high(step).max(0.0);
    let body: Vec<Convex> =
        step.body.pieces.iter().filter_map(|piece| piece.cut_back(Vec2::new(0.0, 1.0), bottom)).collect();
    let is_deep = |outline: &Outline| {
        deepest_overlap(&body, at.to_vec2(), &outline.pieces).is_some_and(|(found, ..)| found.depth > step.slack)
    };
    if supports(world, step, passing).any(is_deep) {
        return gap;
    }
    let moved = Moment { at, ..step.now.clone() };
    ground(world, &Step { now: &moved, ..*step }, passing).standing.map_or(gap, |standing| standing.gap.max(0.0))
}

fn lower(step: &Step<'_>, gap: f64) -> String {
    let animation = &step.actor.animations[step.now.animation].name;
    let drawn_high = drawn_high(step);
    if drawn_high >= gap - step.slack {
        format!(
            "on {animation} the art ends {} px above the body's bottom; move the pivot up or the body's bottom by that",
            px(drawn_high)
        )
    } else {
        format!("end the fall at y {}", px(step.now.at.y + gap))
    }
}
