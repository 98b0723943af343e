//! Remedies applied in memory and measured again: what is left of a fault.

use super::checker::World;
use super::step::Step;
use crate::geometry::{Convex, Point, Vec2, cut_back, deepest_overlap};

/// What is left of a depth that is no fault within the slack.
pub(super) fn beyond(depth: f64, slack: f64) -> f64 {
    if depth <= slack { 0.0 } else { depth }
}

/// How deep the body would be in the deepest of the solids it sees, with its pivot at a place; 0 where it is clear.
///
/// # Complexity
/// O(log s + n), s solids, n of them near.
pub(super) fn depth_at(world: &World<'_>, step: &Step<'_>, at: Point) -> f64 {
    deepest_at(world, step, at, &[]).map_or(0.0, |(depth, _)| depth)
}

/// The pieces of all solids near a place that the body sees, and of something that is no solid.
fn around<'p>(world: &World<'p>, step: &Step<'_>, at: Point, other: &'p [Convex]) -> Vec<&'p [Convex]> {
    let mut near = Vec::new();
    step.near.tree.find(step.body.bounds() + at.to_vec2(), &mut near);
    let solids = near.iter().map(|place| &world.stage.solids[*place as usize]);
    let seen = solids.filter(|solid| step.now.body_mask.sees(solid.layer));
    seen.map(|solid| solid.outline.pieces.as_slice()).chain([other]).collect()
}

/// The same, with the way out, also counting something that is no solid.
pub(super) fn deepest_at(world: &World<'_>, step: &Step<'_>, at: Point, other: &[Convex]) -> Option<(f64, Vec2)> {
    let met = around(world, step, at, other);
    let found = met
        .iter()
        .filter_map(|pieces| deepest_overlap(&step.body.pieces, at.to_vec2(), pieces))
        .map(|(found, ..)| (found.depth, found.push));
    found.max_by(|a, b| a.0.total_cmp(&b.0))
}

/// How far along a way, an axis, the body must go from a place to have passed what it is deepest in there, of the solids it sees and
/// something that is no solid; `None` where it is clear.
pub(super) fn way_out(world: &World<'_>, step: &Step<'_>, at: Point, other: &[Convex], way: Vec2) -> Option<f64> {
    let met = around(world, step, at, other);
    let needed = met.iter().filter_map(|pieces| {
        let (_, own, theirs) = deepest_overlap(&step.body.pieces, at.to_vec2(), pieces)?;
        let end = step.body.pieces[own].extent(way).0 + at.to_vec2().dot(way);
        Some(pieces[theirs].extent(way).1 - end)
    });
    needed.max_by(f64::total_cmp)
}

/// How many px of a body's side, seen from its pivot, must go so that it is clear of something, `way` pointing out of it; and how
/// deep it is in then: 0 as a rule.
pub(super) fn cut_needed(body: &[Convex], at: Vec2, others: &[Convex], way: Vec2) -> (f64, f64) {
    let side = Vec2::ZERO - way;
    let end = body.iter().map(|piece| piece.extent(side).1).fold(f64::NEG_INFINITY, f64::max);
    let (mut by, mut left) = (0.0, 0.0);
    for _ in 0..8 {
        let rest = cut_back(body, side, end - by);
        let Some((found, i, j)) = deepest_overlap(&rest, at, others) else { return (by, 0.0) };
        left = found.depth;
        // Along the way out as far as the piece that is deepest lies in the other.
        let own = rest[i].extent(side).1 + at.dot(side);
        by += own - others[j].extent(side).0;
    }
    (by, left)
}

/// Whether a box that goes through a stretch in steps of a length shows inside on one tick at least, wherever it begins.
pub(super) fn is_always_shown(body: f64, thick: f64, step: f64) -> bool {
    const PHASES: u32 = 64;
    if step <= 0.0 {
        return true;
    }
    (0..PHASES).all(|phase| {
        let start = -body - step * f64::from(phase) / f64::from(PHASES);
        let inside = |tick: u32| {
            let place = start + step * f64::from(tick);
            place + body > 0.0 && place < thick
        };
        (0..=(body + thick + step) as u32 / (step as u32).max(1) + 2).any(inside)
    })
}
