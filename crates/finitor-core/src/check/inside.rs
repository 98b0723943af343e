//! Bodies deep in something still: what is common to the rules that report it, `embedded`, `no_headroom` and
//! `warp_blocked`.

use super::contacts::{ContactState, Entry};
use super::drops::Dropped;
use super::ledger::{Case, Key, Ledger, Sighting, With};
use super::look::Look;
use super::step::{InstanceIndex, Step};
use super::take_rule::Scene;
use super::words::{edge_against, px, shift};
use crate::finding::{Cause, EndAt, Span};
use crate::geometry::{Convex, Deepest, Overlap, Point, Vec2, overlap_depth, overlap_region};
use crate::world::{Cut, Path, Thing, cut_needed};

/// A body deeper than the slack in a thing that stops it, on a tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Inside {
    pub(crate) thing: Thing,
    pub(crate) found: Deepest,
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
        let ContactState::Inside { found, entry } = contact.state else { continue };
        if entry != wanted {
            continue;
        }
        let (step, thing, overlap) = (look.step, contact.thing, found.overlap);
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
                at: step.now().at,
                push: overlap.push,
                cause,
                shape: &step.body.name,
                way: step.way,
                seen: wrap(Inside { thing, found, dropped, pushed_by }),
            }
        });
    }
}

/// Middle of what overlaps most.
pub(crate) fn middle<S>(scene: &Scene<'_, '_>, seen: &Sighting<'_, S>, inside: &Inside) -> Point {
    let (step, at, Deepest { own, other, .. }) = (scene.step(seen.way), seen.at, inside.found);
    let others = scene.world.pieces(inside.thing);
    let region = overlap_region(&step.body.pieces[own], at.to_vec2(), &others[other]);
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
    /// Whether what must go is a part that sticks out, and no more.
    pub(crate) is_part: bool,
}

/// The edge to move, as the art is drawn.
pub(crate) fn edge_move(scene: &Scene<'_, '_>, step: &Step<'_>, inside: &Inside) -> EdgeMove {
    let push = inside.found.overlap.push;
    let others = scene.world.pieces(inside.thing);
    let Cut { by, remains } = cut_needed(&step.body.pieces, step.now().at.to_vec2(), others, push);
    let now = step.now();
    let shown = step.actor.shown(now.animation, now.frame, now.facing);
    let drawn = if shown.flipped { Vec2::new(0.0 - push.x, push.y) } else { push };
    // A part that is in by so much does not stick out by much more.
    let is_part = by <= 2.0 * inside.found.overlap.depth + step.slack;
    EdgeMove { edge: edge_against(drawn), by: shift(drawn, by), remains, is_part }
}

/// What is left of a depth where the frame of the tick before is kept: all of it where that breaks another rule.
pub(crate) fn left_when_kept(scene: &Scene<'_, '_>, step: &Step<'_>, inside: &Inside, depth: f64) -> f64 {
    if !scene.may_keep_frame(step) {
        return depth;
    }
    let (at, others) = (step.now().at.to_vec2(), scene.world.pieces(inside.thing));
    step.old_body.map_or(0.0, |old| overlap_depth(&old.pieces, at, others))
}

/// What is left of a depth that is no fault within the slack.
pub(crate) fn beyond(depth: f64, slack: f64) -> f64 {
    if depth <= slack { 0.0 } else { depth }
}

/// A place, and its name: `(460.00, 170.00)`.
struct Destination {
    at: Point,
    name: String,
}

/// A move that ends an overlap: where to, by what, and what is left then.
pub(crate) struct WayOut {
    /// Where to; `None` where no place is clear and right.
    to: Option<Destination>,
    /// `2.00 px up`.
    pub(crate) by: String,
    pub(crate) remains: f64,
}

impl WayOut {
    /// `(460.00, 170.00), 2.00 px up`.
    pub(crate) fn words(&self) -> String {
        match &self.to {
            Some(to) => format!("{}, {}", to.name, self.by),
            None => self.no_place(),
        }
    }

    /// `2.00 px up, to (460.00, 170.00)`.
    pub(crate) fn moved(&self) -> String {
        match &self.to {
            Some(to) => format!("{}, to {}", self.by, to.name),
            None => self.no_place(),
        }
    }

    fn no_place(&self) -> String {
        format!("{}, though no place near is clear", self.by)
    }

    /// The end of a step that is to end there.
    pub(crate) fn end_of(&self, step: &Step<'_>) -> Option<EndAt> {
        self.to.as_ref().map(|to| step.end_at(to.at))
    }
}

/// The way out of the thing that a body is in, and of all solids near: the nearest place on the side that it came from,
/// on the stage; else the place at which its step first touched anything, or the one from which it came.
pub(crate) fn way_out(scene: &Scene<'_, '_>, step: &Step<'_>, inside: &Inside) -> WayOut {
    let (world, now) = (scene.world, step.now().at);
    let also = world.pieces(inside.thing);
    let mut near = world.clear_places(step.meeting(), now, also);
    let back = || first_touch(scene, step, also).into_iter().chain(step.motion().map(|motion| now - motion));
    let is_clear = |to: Point| {
        let deepest = world.deepest(step.meeting(), to, also);
        deepest.is_none_or(|found| found.depth <= step.slack) && is_on_stage(scene, step, to)
    };
    let is_right = |to: Point| is_clear(to) && is_reached(scene, step, to, also) && scene.may_end_at(step, to);
    let found = near.find(|to| is_right(*to)).or_else(|| back().find(|to| is_right(*to)));
    let Some(to) = found else {
        let Overlap { push, depth } = inside.found.overlap;
        return WayOut { to: None, by: shift(push, depth), remains: depth };
    };
    let moved = to - now;
    let by = if moved == Vec2::ZERO { px(0.0) } else { shift(moved / moved.hypot(), moved.hypot()) };
    WayOut { to: Some(Destination { at: to, name: scene.place(to) }), by, remains: 0.0 }
}

/// Where a step first touched what it got into, or anything before that.
fn first_touch(scene: &Scene<'_, '_>, step: &Step<'_>, also: &[Convex]) -> Option<Point> {
    let (motion, before, old) = (step.motion()?, step.before()?, step.old_body?);
    let path = Path { pieces: &old.pieces, from: before.at, motion };
    let obstacles = scene.world.obstacles_in(step.swept_box(), step.now().body_mask, also);
    let passages = obstacles.into_iter().filter_map(|pieces| path.through(pieces));
    let enters = passages.filter(|found| found.depth > step.slack).map(|found| found.enter);
    enters.min_by(f64::total_cmp).map(|enter| before.at + motion * enter)
}

/// Whether a body at a place is no further past the stage's left, right and bottom than it was before the step.
fn is_on_stage(scene: &Scene<'_, '_>, step: &Step<'_>, at: Point) -> bool {
    let size = scene.world.stage().size;
    let past = |at: Point| {
        let body = step.body.bounds() + at.to_vec2();
        (0.0 - body.x0).max(body.x1 - size.x).max(body.y1 - size.y).max(0.0)
    };
    past(at) <= step.before().map_or(0.0, |before| past(before.at))
}

/// Whether a body comes to a place from where it was, and through nothing; any place is reached by what was put there.
fn is_reached(scene: &Scene<'_, '_>, step: &Step<'_>, to: Point, also: &[Convex]) -> bool {
    let Some((before, old)) = step.before().zip(step.old_body).filter(|_| step.is_swept) else { return true };
    let path = Path { pieces: &old.pieces, from: before.at, motion: to - before.at };
    let area = old.bounds() + before.at.to_vec2();
    let area = area.union(old.bounds() + to.to_vec2());
    let obstacles = scene.world.obstacles_in(area, step.now().body_mask, also);
    obstacles.into_iter().all(|pieces| path.hidden_crossing(pieces, step.slack).is_none())
}
