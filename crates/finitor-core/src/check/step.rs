//! One actor's way from one tick to the next, taken apart.

use super::Cause;
use super::checker::World;
use super::ground::below;
use super::hits::shown_facing;
use crate::actor::{Actor, Foot, PixelRuns, Pose, Shape};
use crate::facing::Facing;
use crate::geometry::{BoxTree, Convex, Overlap, Point, Rect, Vec2, deepest_overlap, overlap_depth, rects_meet};
use crate::layers::LayerSet;
use crate::stage::Solid;
use crate::take::{DROP, Sample, WARPED};

/// An actor instance at one tick.
#[derive(Clone, Debug)]
pub(super) struct Moment {
    pub(super) tick: u64,
    pub(super) at: Point,
    pub(super) facing: Facing,
    pub(super) animation: usize,
    pub(super) frame: usize,
    /// What the body is on during this tick; nothing without a body.
    pub(super) body_layer: LayerSet,
    /// What the body looks for on this tick; nothing without a body.
    pub(super) body_mask: LayerSet,
    pub(super) dropping: bool,
    pub(super) warped: bool,
    /// Whether the take says that the picture looks to the other side.
    pub(super) is_split: bool,
}

impl Moment {
    pub(super) fn new(world: &World<'_>, tick: u64, sample: &Sample) -> Moment {
        let pose = world.actors[sample.actor].pose(sample.animation, sample.frame, sample.facing);
        let (body_layer, body_mask) = pose.body().map_or((LayerSet::NONE, LayerSet::NONE), |body| {
            world.layers.during(body.layer, body.mask, &sample.states)
        });
        Moment {
            tick,
            at: sample.at,
            facing: sample.facing,
            animation: sample.animation,
            frame: sample.frame,
            body_layer,
            body_mask,
            dropping: sample.has_state(DROP),
            warped: sample.has_state(WARPED),
            is_split: sample.flipped_art.is_some() && shown_facing(world, sample) != sample.facing,
        }
    }
}

/// The way from the moment before to now.
#[derive(Clone, Copy, Debug)]
pub(super) struct Step<'a> {
    pub(super) label: &'a str,
    pub(super) actor: &'a Actor,
    /// Which instance it is, among those met.
    pub(super) track: usize,
    /// Which of the world's actors it is one of.
    pub(super) place: usize,
    pub(super) slack: f64,
    /// The moment before, however many ticks ago.
    pub(super) before: Option<&'a Moment>,
    pub(super) now: &'a Moment,
    /// The body now.
    pub(super) body: &'a Shape,
    /// The body before; `None` when there was no moment before or its frame had no body.
    pub(super) old_body: Option<&'a Shape>,
    /// Whether the way between the two moments is known to be straight: they are one tick apart, and the actor was
    /// not put elsewhere.
    pub(super) swept: bool,
    /// The step of the tick before, where that was swept.
    pub(super) last_move: Option<Vec2>,
    /// The stage's things near the way.
    pub(super) near: Near<'a>,
    /// The box around the old body on its way to the new place, and the new body there.
    pub(super) swept_box: Rect,
}

/// The things of a stage that a step may have to do with, by their places in it: all that meet its swept box, those below the
/// feet included.
#[derive(Clone, Copy, Debug)]
pub(super) struct Near<'a> {
    /// All solids, for places that are not on the way.
    pub(super) tree: &'a BoxTree,
    pub(super) solids: &'a [u32],
    pub(super) one_ways: &'a [u32],
    pub(super) zones: &'a [u32],
}

impl<'a> Step<'a> {
    /// The step to `now`; `None` when the frame now has no body. The box of the way is found where it is not known.
    pub(super) fn new(
        world: &World<'a>,
        (label, actor, track, place): (&'a str, &'a Actor, usize, usize),
        moments: (Option<&'a Moment>, &'a Moment),
        last_move: Option<Vec2>,
        near: Near<'a>,
        swept_box: Option<Rect>,
    ) -> Option<Step<'a>> {
        let (before, now) = moments;
        let body = actor.pose(now.animation, now.frame, now.facing).body()?;
        let old_body = before.and_then(|b| actor.pose(b.animation, b.frame, b.facing).body());
        let swept = before.is_some_and(|b| {
            b.tick + 1 == now.tick && !now.warped && (now.at - b.at).hypot() <= world.settings.teleport
        });
        let slack = world.settings.slack;
        let bounds = body.bounds() + now.at.to_vec2();
        let swept_box = swept_box.unwrap_or_else(|| match (before, old_body) {
            (Some(before), Some(old)) if swept => {
                let way = Rect::from_points(before.at, now.at);
                let old = old.bounds();
                bounds.union(Rect::new(way.x0 + old.x0, way.y0 + old.y0, way.x1 + old.x1, way.y1 + old.y1))
            }
            _ => bounds,
        });
        Some(Step { label, actor, track, place, slack, before, now, body, old_body, swept, last_move, near, swept_box })
    }

    /// The pose now.
    pub(super) fn pose(&self) -> &'a Pose {
        self.actor.pose(self.now.animation, self.now.frame, self.now.facing)
    }

    /// The foot of the art as it is seen.
    pub(super) fn foot(&self) -> Option<&'a Foot> {
        self.seen_pose(self.now).foot.as_ref()
    }

    /// Whether it was put where it is: by a warp, or in one step too long to be one.
    pub(super) fn was_put(&self) -> bool {
        self.now.warped || self.before.is_some_and(|before| before.tick + 1 == self.now.tick && !self.swept)
    }

    /// The art's opaque pixels as they are seen.
    pub(super) fn pixels(&self) -> &'a PixelRuns {
        &self.seen_pose(self.now).pixels
    }

    /// The pose whose art is seen at a moment.
    fn seen_pose(&self, at: &Moment) -> &'a Pose {
        let facing = if at.is_split { at.facing.turned() } else { at.facing };
        self.actor.pose(at.animation, at.frame, facing)
    }

    /// What put the art where it is off: the first of move, turn and new frame after which it was.
    pub(super) fn cause_of_art(&self, is_off: impl Fn(&Pose) -> bool) -> Cause {
        let Some(before) = self.before else { return Cause::Spawned };
        if self.was_put() {
            return Cause::Warped;
        }
        let turned = Moment { facing: self.now.facing, is_split: self.now.is_split, ..before.clone() };
        if is_off(self.seen_pose(before)) {
            Cause::Moved
        } else if before.facing != self.now.facing && is_off(self.seen_pose(&turned)) {
            Cause::Turned
        } else {
            Cause::Reshaped
        }
    }

    /// The solids near that the body sees, with their places on the stage.
    pub(super) fn seen<'s>(&self, world: &World<'s>) -> impl Iterator<Item = (u32, &'s Solid)> + use<'s, 'a> {
        let (mask, solids) = (self.now.body_mask, &world.stage.solids);
        let near = self.near.solids.iter().map(move |&place| (place, &solids[place as usize]));
        near.filter(move |(_, solid)| mask.sees(solid.layer))
    }

    /// The motion since the tick before; `None` where it is not known to be straight.
    pub(super) fn motion(&self) -> Option<Vec2> {
        self.before.filter(|_| self.swept).map(|before| self.now.at - before.at)
    }

    /// The body's bounding box in the world.
    pub(super) fn bounds(&self) -> Rect {
        self.body.bounds() + self.now.at.to_vec2()
    }

    /// What the step may have to do with anything in: the swept box, and the strip under the feet.
    pub(super) fn reach(&self) -> Rect {
        let below = below(self);
        let swept = self.swept_box;
        let all = below.map_or(swept, |below| swept.union(below.bounds() + self.now.at.to_vec2()));
        let art = self.pixels();
        let all = if art.runs().is_empty() { all } else { all.union(art.bounds() + self.now.at.to_vec2()) };
        all.inflate(0.0, self.slack)
    }

    /// The body's overlap now with something still.
    pub(super) fn overlap_now(&self, pieces: &[Convex], bounds: Rect) -> Option<(Overlap, usize, usize)> {
        if !rects_meet(self.bounds(), bounds) {
            return None;
        }
        deepest_overlap(&self.body.pieces, self.now.at.to_vec2(), pieces)
    }

    /// The first step after which an overlap with something still was deeper than the slack: the actor moves with
    /// its old shape, then turns, then takes its new frame, then its new mask.
    pub(super) fn cause(&self, pieces: &[Convex], layer: LayerSet) -> Cause {
        let saw = self.before.is_some_and(|before| before.body_mask.sees(layer));
        self.cause_by(saw, |shape| overlap_depth(&shape.pieces, self.now.at.to_vec2(), pieces))
    }

    /// The same for any measure of depth of a shape of this actor at its new place; `saw` tells whether the other
    /// thing stopped it before as well.
    pub(super) fn cause_by(&self, saw: bool, depth: impl Fn(&Shape) -> f64) -> Cause {
        let Some(before) = self.before else {
            return Cause::Spawned;
        };
        if self.now.warped || (!self.swept && before.tick + 1 == self.now.tick) {
            return Cause::Warped;
        }
        if self.old_body.is_some() && !saw {
            return Cause::State;
        }
        let deep = |shape: Option<&Shape>| shape.is_some_and(|shape| depth(shape) > self.slack);
        let turned = self.actor.pose(before.animation, before.frame, self.now.facing).body();
        if deep(self.old_body) {
            Cause::Moved
        } else if before.facing != self.now.facing && deep(turned) {
            Cause::Turned
        } else {
            Cause::Reshaped
        }
    }
}
