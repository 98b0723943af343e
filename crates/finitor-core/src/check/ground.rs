//! What carries a body, and how the art of a standing actor lies to it.

use super::Cause;
use super::checker::World;
use super::one_way::Passing;
use super::step::Step;
use crate::actor::{Role, Shape};
use crate::fit::Side;
use crate::geometry::{Point, TOUCH, Vec2, deepest_overlap, rects_meet};
use crate::stage::Outline;

/// How an actor stands on a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Standing {
    /// From the lowest opaque row to the surface, px; below 0 when the art is in the ground.
    pub(super) gap: f64,
    pub(super) at: Point,
    /// How deep the lowest row lies under level ground that it is over, px, and where; 0 where it does not.
    pub(super) sunk: (f64, Point),
    /// What put the art where it is, where it is off the ground.
    pub(super) cause: Cause,
    /// Since which tick it has been off it by as much.
    pub(super) since: u64,
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
                least =
                    Some(Standing { gap, at: Point::new(x, surface), sunk, cause: Cause::Moved, since: step.now.tick });
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
    let solids = step.seen(world).map(|(_, solid)| &solid.outline);
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
