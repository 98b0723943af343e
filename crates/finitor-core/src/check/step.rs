//! One instance's way from one tick to the next, taken apart.

use super::CheckInput;
use super::moment::Moment;
use crate::actor::{Actor, ActorIndex, Foot, PixelRuns, Pose, Shape};
use crate::finding::{Cause, EndAt};
use crate::geometry::{
    Convex, Deepest, Overlap, Point, Rect, Stretch, TOUCH, Vec2, deepest_overlap, overlap_depth, rects_meet,
};
use crate::layers::LayerSet;
use crate::take::is_multiple;
use crate::world::{Approach, Body};

/// Places written in steps no longer than this, px, are as good as exact.
pub(crate) const FINE: f64 = 0.01;

/// What is faster across dashes, px a tick at 60 ticks a second.
const RUN: f64 = 5.0;

/// Which of the instances met in a take.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) struct InstanceIndex(pub(crate) usize);

/// The way of an instance to where it is now, as plain values.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Way {
    pub(crate) instance: InstanceIndex,
    pub(crate) actor: ActorIndex,
    /// The moment before, however many ticks ago.
    pub(crate) before: Option<Moment>,
    pub(crate) now: Moment,
    /// The step of the tick before, where that is known to be straight.
    pub(crate) last_move: Option<Vec2>,
    /// The step of the tick before that.
    pub(crate) earlier_move: Option<Vec2>,
    /// The last tick before now on which it stood, clear of everything still, or was put somewhere.
    pub(crate) settled: Option<u64>,
    /// The step in which its places are written, px.
    pub(crate) grain: f64,
}

impl Way {
    /// The way of the tick before, as far as it is known.
    pub(crate) fn one_before(&self) -> Option<Way> {
        let now = self.before?;
        let before = self.last_move.map(|last| Moment { tick: now.tick.saturating_sub(1), at: now.at - last, ..now });
        Some(Way { before, now, last_move: self.earlier_move, earlier_move: None, ..*self })
    }
}

/// A way with the bodies at its ends.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Step<'a> {
    pub(crate) way: Way,
    pub(crate) actor: &'a Actor,
    pub(crate) slack: f64,
    /// The step in which places are written, px.
    pub(crate) grain: f64,
    /// See [`CheckInput::pace`].
    pub(crate) pace: f64,
    /// See [`CheckInput::size`].
    size: f64,
    /// The body now.
    pub(crate) body: &'a Shape,
    /// The body before; `None` when there was no moment before or its frame had no body.
    pub(crate) old_body: Option<&'a Shape>,
    /// The body's bounding box in the world now.
    around: Rect,
    /// Whether the way between the two moments is known to be straight: they are one tick apart, and the actor was
    /// not put elsewhere.
    pub(crate) is_swept: bool,
}

impl<'a> Step<'a> {
    /// The step to now; `None` when the frame now has no body.
    pub(crate) fn new(input: &CheckInput<'a>, way: Way) -> Option<Step<'a>> {
        let actor = input.actor(way.actor);
        let Way { before, now, .. } = way;
        let body = actor.pose(now.animation, now.frame, now.facing).body()?;
        let old_body = before.and_then(|b| actor.pose(b.animation, b.frame, b.facing).body());
        let is_swept = before.is_some_and(|b| {
            let (way, most) = (now.at - b.at, input.teleport());
            // Most steps are so short that no root is needed.
            let is_short = way.x.abs() + way.y.abs() <= most || way.hypot() <= most;
            b.tick + 1 == now.tick && !now.is_warped && is_short
        });
        Some(Step {
            way,
            actor,
            slack: input.settings.slack(),
            grain: way.grain,
            pace: input.pace(),
            size: input.size,
            body,
            old_body,
            around: body.bounds() + now.at.to_vec2(),
            is_swept,
        })
    }

    /// Whether nothing in the take says that it does not stand: no state, not `grounded`, and no velocity of a jump.
    pub(crate) fn may_stand(&self) -> bool {
        /// Games that hold bodies down give them a speed of theirs; none that stands goes up so fast, px a tick.
        const LEAPS: f64 = 1.0;
        let now = &self.way.now;
        let rises = now.rise.is_some_and(|rise| rise > self.speed(LEAPS));
        !now.is_off_foot && now.grounded != Some(false) && !(rises && now.grounded.is_none())
    }

    /// A change of speed that gravity does not make in a tick, px.
    pub(crate) fn jolt(&self) -> f64 {
        /// Games with twice the usual gravity have half of it.
        const JOLT: f64 = 1.0;
        let usual = JOLT * self.size * self.pace.max(1.0).powi(2);
        self.actor.moves.gravity.map_or(usual, |gravity| usual.max(2.0 * gravity))
    }

    /// Whether it goes no faster across than things walk and run: what is faster dashes, and a dash holds its height.
    pub(crate) fn is_on_foot(&self) -> bool {
        let across = self.motion().map_or(0.0, |motion| motion.x.abs());
        self.may_stand() && across <= self.run()
    }

    /// What is faster across dashes, px a tick.
    pub(crate) fn run(&self) -> f64 {
        self.speed(RUN)
    }

    /// A length of small figures, px: what it is in this game.
    pub(crate) fn far(&self, usual: f64) -> f64 {
        usual * self.size
    }

    /// A speed of small figures in a game of 60 ticks a second, px a tick: what it is in this one.
    pub(crate) fn speed(&self, usual: f64) -> f64 {
        usual * self.pace * self.size
    }

    /// The same of a change of speed, px a tick per tick.
    pub(crate) fn change_of_speed(&self, usual: f64) -> f64 {
        usual * self.pace * self.pace * self.size
    }

    /// How far two things may be apart, or in each other, that touch: places are no nearer than they are written.
    pub(crate) fn touch(&self) -> f64 {
        TOUCH + self.grain
    }

    /// How near a body that is stopped comes to what stops it; games keep a small gap.
    pub(crate) fn near(&self) -> f64 {
        const GAP: f64 = 0.05;
        self.touch() + GAP
    }

    /// Whether the actor walks by itself: it feels for ground, or its file says how it moves. What is pushed does not.
    pub(crate) fn may_walk(&self) -> bool {
        self.actor.moves.walks() || self.pose().strip_below().is_some()
    }

    /// How deep an overlap may be that is none.
    ///
    /// Places are rounded. Along an axis that keeps the order of things: what rests against a side a whole number of steps away
    /// is never in it by more than 0. Against anything else each axis is off by up to a step.
    pub(crate) fn allowed(&self, overlap: &Overlap) -> f64 {
        let across = overlap.push.x.abs() + overlap.push.y.abs();
        let is_along_axis = across <= 1.0 + TOUCH;
        if self.grain <= 0.0 || (is_along_axis && is_multiple(overlap.depth, self.grain)) {
            return self.slack;
        }
        self.slack.max(self.grain * across)
    }

    /// The same for an overlap of any direction.
    pub(crate) fn rough(&self) -> f64 {
        self.slack.max(self.grain * std::f64::consts::SQRT_2)
    }

    pub(crate) fn now(&self) -> &Moment {
        &self.way.now
    }

    pub(crate) fn before(&self) -> Option<&Moment> {
        self.way.before.as_ref()
    }

    pub(crate) fn instance(&self) -> InstanceIndex {
        self.way.instance
    }

    /// The end of this step elsewhere, as a fix has it.
    pub(crate) fn end_at(&self, at: Point) -> EndAt {
        EndAt { tick: self.way.now.tick, at }
    }

    /// The same step with its end elsewhere, for the question what would be then.
    #[must_use]
    pub(crate) fn ending_at(mut self, at: Point) -> Step<'a> {
        self.around = self.body.bounds() + at.to_vec2();
        self.way.now.at = at;
        self
    }

    /// The box around the old body on its way to the new place, and the new body there.
    pub(crate) fn swept_box(&self) -> Rect {
        let bounds = self.bounds();
        match (self.way.before, self.old_body) {
            (Some(before), Some(old)) if self.is_swept => {
                let way = Rect::from_points(before.at, self.way.now.at);
                let old = old.bounds();
                bounds.union(Rect::new(way.x0 + old.x0, way.y0 + old.y0, way.x1 + old.x1, way.y1 + old.y1))
            }
            _ => bounds,
        }
    }

    /// The same around a way with turns.
    pub(crate) fn swept_by(&self, via: &[Point]) -> Rect {
        if via.is_empty() {
            return self.swept_box();
        }
        let old = self.old_body.unwrap_or(self.body).bounds().union(self.body.bounds());
        via.iter().fold(self.swept_box(), |swept, at| swept.union(old + at.to_vec2()))
    }

    /// The body as the still world meets it now.
    pub(crate) fn meeting(&self) -> Body<'a> {
        Body::new(self.body, self.way.now.body_mask)
    }

    /// The pose now.
    pub(crate) fn pose(&self) -> &'a Pose {
        self.actor.pose(self.way.now.animation, self.way.now.frame, self.way.now.facing)
    }

    /// The foot of the art as it is seen.
    pub(crate) fn foot(&self) -> Option<&'a Foot> {
        self.seen_pose(&self.way.now).foot.as_ref()
    }

    /// Whether it was put where it is: by a warp, or in one step too long to be one.
    pub(crate) fn was_put(&self) -> bool {
        self.way.now.is_warped
            || self.way.before.is_some_and(|before| before.tick + 1 == self.way.now.tick && !self.is_swept)
    }

    /// The art's opaque pixels as they are seen.
    pub(crate) fn pixels(&self) -> &'a PixelRuns {
        &self.seen_pose(&self.way.now).pixels
    }

    /// The pose whose art is seen at a moment.
    fn seen_pose(&self, at: &Moment) -> &'a Pose {
        let facing = if at.is_split { at.facing.turned() } else { at.facing };
        self.actor.pose(at.animation, at.frame, facing)
    }

    /// The motion since the tick before; `None` where it is not known to be straight.
    pub(crate) fn motion(&self) -> Option<Vec2> {
        self.way.before.filter(|_| self.is_swept).map(|before| self.way.now.at - before.at)
    }

    /// The body's bounding box in the world.
    pub(crate) fn bounds(&self) -> Rect {
        self.around
    }

    /// Whether the body is the one of the moment before.
    pub(crate) fn is_same_body(&self) -> bool {
        // As a rule it is the same frame: most are not compared.
        self.old_body.is_some_and(|old| std::ptr::eq(old, self.body) || old.pieces == self.body.pieces)
    }

    /// How far the art ends above the body's bottom; below 0 where it reaches under it.
    pub(crate) fn drawn_high(&self) -> f64 {
        self.around.y1 - self.way.now.at.y - self.foot().map_or(0.0, |foot| foot.y)
    }

    /// From the leftmost to the rightmost of the body's lowest points, in the world, and a little more.
    pub(crate) fn lowest_points(&self) -> Stretch {
        const MORE: f64 = 0.5;
        let at = self.way.now.at;
        let bottom = self.around.y1 - at.y - self.slack;
        let low = self.body.polygons.iter().flat_map(|polygon| polygon.points()).filter(|point| point.y >= bottom);
        let (left, right) =
            low.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), point| (a.min(point.x), b.max(point.x)));
        Stretch { left: left + at.x - MORE, right: right + at.x + MORE }
    }

    /// What the step may have to do with anything in: the swept box, the strip under the feet, and the art.
    pub(crate) fn reach(&self, swept: Rect) -> Rect {
        let at = self.way.now.at.to_vec2();
        let all = self.pose().strip_below().map_or(swept, |strip| swept.union(strip.bounds() + at));
        let art = self.pixels();
        let all = if art.runs().is_empty() { all } else { all.union(art.bounds() + at) };
        all.inflate(self.near(), self.slack)
    }

    /// The body's overlap now with something still.
    pub(crate) fn overlap_now(&self, pieces: &[Convex], bounds: Rect) -> Option<Deepest> {
        if !rects_meet(self.bounds(), bounds) {
            return None;
        }
        deepest_overlap(&self.body.pieces, self.way.now.at.to_vec2(), pieces)
    }

    /// How the body comes to a one-way platform, from where it last turned if the take tells; `None` where the way is not known,
    /// or it drops.
    pub(crate) fn approach(&self, turned: Option<Point>) -> Option<Approach<'a>> {
        let (motion, before, body) = (self.motion()?, self.way.before?, self.old_body?);
        let from = turned.unwrap_or(before.at);
        let motion = turned.map_or(motion, |turned| self.way.now.at - turned);
        // What rested may be a little in; anything else must have been past it, by more than places are rounded.
        let rested = self.way.last_move.is_none_or(|last| last.y.abs() <= self.touch());
        let (slack, touch) = match (self.grain <= FINE, rested) {
            (true, true) => (self.slack, self.touch()),
            (true, false) => (self.touch(), self.touch()),
            (false, _) => (0.0 - self.grain, 0.0 - self.grain),
        };
        (!self.way.now.is_dropping).then_some(Approach { body, from, motion, slack, touch })
    }

    /// The first change after which an overlap with something still was deeper than the slack: the actor moves with
    /// its old shape, then turns, then takes its new frame, then its new mask.
    pub(crate) fn cause(&self, pieces: &[Convex], layer: LayerSet) -> Cause {
        let saw = self.way.before.is_some_and(|before| before.body_mask.sees(layer));
        let sight = if saw { Sight::Before } else { Sight::New };
        self.cause_by(sight, |shape| overlap_depth(&shape.pieces, self.way.now.at.to_vec2(), pieces))
    }

    /// The same for any measure of depth of a shape of this actor at its new place.
    pub(crate) fn cause_by(&self, sight: Sight, depth: impl Fn(&Shape) -> f64) -> Cause {
        let Some(before) = self.way.before else {
            return Cause::Spawned;
        };
        if self.way.now.is_warped || (!self.is_swept && before.tick + 1 == self.way.now.tick) {
            return Cause::Warped;
        }
        if self.old_body.is_some() && sight == Sight::New {
            return Cause::State;
        }
        let deep = |shape: Option<&Shape>| shape.is_some_and(|shape| depth(shape) > self.slack);
        let turned = self.actor.pose(before.animation, before.frame, self.way.now.facing).body();
        if deep(self.old_body) {
            Cause::Moved
        } else if before.facing != self.way.now.facing && deep(turned) {
            Cause::Turned
        } else {
            Cause::Reshaped
        }
    }

    /// What put the art where it is off: the first of move, turn and new frame after which it was.
    pub(crate) fn cause_of_art(&self, is_off: impl Fn(&Pose) -> bool) -> Cause {
        let Some(before) = self.way.before else { return Cause::Spawned };
        if self.was_put() {
            return Cause::Warped;
        }
        let turned = Moment { facing: self.way.now.facing, is_split: self.way.now.is_split, ..before };
        if is_off(self.seen_pose(&before)) {
            Cause::Moved
        } else if before.facing != self.way.now.facing && is_off(self.seen_pose(&turned)) {
            Cause::Turned
        } else {
            Cause::Reshaped
        }
    }
}

/// Since when a body detects what it is in.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Sight {
    /// On the tick before, too.
    Before,
    /// Only now.
    New,
}
