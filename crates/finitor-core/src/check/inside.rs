//! Bodies deep in something still: what is common to the rules that report it, `embedded`, `no_headroom` and
//! `warp_blocked`.

use super::contacts::{ContactState, Entry};
use super::drops::Dropped;
use super::ledger::{Case, Key, Ledger, Sighting, With};
use super::look::Look;
use super::step::{InstanceIndex, Step};
use super::take_rule::Scene;
use super::words::{edge_against, place, px, shift};
use crate::finding::{Cause, Span};
use crate::geometry::{Overlap, Point, Vec2, deepest_overlap, overlap_region};
use crate::world::{Cut, Thing, cut_needed};

/// A body deeper than the slack in a thing that stops it, on a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Inside {
    pub(crate) thing: Thing,
    pub(crate) overlap: Overlap,
    /// The platform that a drop, still on, led it through first.
    pub(crate) dropped: Option<Dropped>,
    /// The instance that pushed it.
    pub(crate) pushed_by: Option<InstanceIndex>,
}

/// Reports the bodies that got in this way.
pub(crate) fn see<'a, S: Clone>(
    look: &Look<'_, 'a>,
    wanted: Entry,
    out: &mut Ledger<'a, S>,
    wrap: impl Fn(Inside) -> S,
) {
    for contact in look.contacts {
        let ContactState::Inside { overlap, entry } = contact.state else { continue };
        if entry != wanted {
            continue;
        }
        let (step, thing) = (look.step, contact.thing);
        let key = Key { instance: step.instance(), with: With::Thing(thing) };
        out.see(key, Span::at(step.now().tick), overlap.depth, || {
            let (world, is_solid) = (look.world(), matches!(thing, Thing::Solid(_)));
            let cause = step.cause(world.pieces(thing), world.layer(thing));
            let pushed_by = (entry == Entry::Other && cause == Cause::Moved).then(|| look.pushed_by(overlap)).flatten();
            let cause = if pushed_by.is_some() { Cause::Pushed } else { cause };
            let dropped = look.seat.drop.through.filter(|_| is_solid && entry == Entry::Other && cause == Cause::Moved);
            Sighting {
                tick: step.now().tick,
                figure: overlap.depth,
                at: middle(look, step, thing),
                push: overlap.push,
                cause,
                shape: &step.body.name,
                way: step.way,
                seen: wrap(Inside { thing, overlap, dropped, pushed_by }),
            }
        });
    }
}

/// Middle of what overlaps most.
fn middle(look: &Look<'_, '_>, step: &Step<'_>, thing: Thing) -> Point {
    let (at, pieces) = (step.now().at, look.world().pieces(thing));
    let deepest = deepest_overlap(&step.body.pieces, at.to_vec2(), pieces);
    let region =
        deepest.and_then(|(_, own, other)| overlap_region(&step.body.pieces[own], at.to_vec2(), &pieces[other]));
    region.map_or(at, |(_, middle)| middle)
}

/// How deep it was when it went in, where that is not the worst of it: `; it went in by 1.00 px at tick 112`.
pub(crate) fn how_it_began<S>(case: &Case<'_, S>) -> String {
    let (first, worst) = (&case.first, &case.worst);
    if worst.tick == first.tick {
        return String::new();
    }
    format!(" at tick {}; it went in by {} at tick {}", worst.tick, px(first.figure), first.tick)
}

/// How far an edge of the body must move so that it is clear: `the top of body by 12.31 px down`.
pub(crate) struct EdgeMove {
    pub(crate) edge: &'static str,
    pub(crate) by: String,
    pub(crate) remains: f64,
}

/// The edge to move, as the art is drawn.
pub(crate) fn edge_move(scene: &Scene<'_, '_>, step: &Step<'_>, inside: &Inside) -> EdgeMove {
    let push = inside.overlap.push;
    let others = scene.world.pieces(inside.thing);
    let Cut { by, remains } = cut_needed(&step.body.pieces, step.now().at.to_vec2(), others, push);
    let now = step.now();
    let shown = step.actor.shown(now.animation, now.frame, now.facing);
    let drawn = if shown.flipped { Vec2::new(0.0 - push.x, push.y) } else { push };
    EdgeMove { edge: edge_against(drawn), by: shift(drawn, by), remains }
}

/// What is left of a depth that is no fault within the slack.
pub(crate) fn beyond(depth: f64, slack: f64) -> f64 {
    if depth <= slack { 0.0 } else { depth }
}

/// A move that ends an overlap: where to, by what, and what is left then.
pub(crate) struct WayOut {
    pub(crate) to: Point,
    /// `2.00 px up`.
    pub(crate) by: String,
    pub(crate) remains: f64,
}

impl WayOut {
    /// `(460.00, 170.00), 2.00 px up`, without the place where the move does not clear the body.
    pub(crate) fn words(&self) -> String {
        if self.remains > 0.0 { self.by.clone() } else { format!("{}, {}", place(self.to), self.by) }
    }
}

/// The way out of the thing that a body is in, and of all solids near.
pub(crate) fn way_out(scene: &Scene<'_, '_>, step: &Step<'_>, inside: &Inside) -> WayOut {
    let (push, depth) = (inside.overlap.push, inside.overlap.depth);
    let clear = scene.world.clear_place(step.meeting(), step.now().at, scene.world.pieces(inside.thing));
    let moved = clear.at - step.now().at;
    let is_clear = clear.depth <= step.slack;
    // Where the shortest way out of this leads into another thing, the way that was found instead.
    let by = if is_clear && (moved - push * depth).hypot() > step.slack {
        shift(moved / moved.hypot(), moved.hypot())
    } else {
        shift(push, depth)
    };
    WayOut { to: clear.at, by, remains: if is_clear { 0.0 } else { clear.depth } }
}
