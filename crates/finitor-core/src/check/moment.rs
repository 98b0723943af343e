//! An instance as a take shows it on a tick.

use super::CheckInput;
use crate::actor::Actor;
use crate::facing::Facing;
use crate::geometry::Point;
use crate::layers::LayerSet;
use crate::take::{DROP, OFF_FOOT, Sample, WARPED};

/// An instance on one tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Moment {
    pub(crate) tick: u64,
    pub(crate) at: Point,
    pub(crate) facing: Facing,
    pub(crate) animation: usize,
    pub(crate) frame: usize,
    /// What the body is on during this tick; nothing without a body.
    pub(crate) body_layer: LayerSet,
    /// What the body detects on this tick; nothing without a body.
    pub(crate) body_mask: LayerSet,
    pub(crate) is_dropping: bool,
    pub(crate) is_warped: bool,
    /// Whether the take says that it jumps, dashes, climbs, hangs, swims or flies.
    pub(crate) is_off_foot: bool,
    /// Whether the game held it for grounded, where the take tells.
    pub(crate) grounded: Option<bool>,
    /// How fast it rose by the game's own reckoning, px a tick, where the take tells.
    pub(crate) rise: Option<f64>,
    /// Whether the take says that the picture faces the other way.
    pub(crate) is_split: bool,
}

impl Moment {
    pub(crate) fn new(input: &CheckInput<'_>, tick: u64, sample: &Sample) -> Moment {
        let actor = input.actor(sample.actor);
        let pose = actor.pose(sample.animation, sample.frame, sample.facing);
        let (body_layer, body_mask) = pose.body().map_or((LayerSet::NONE, LayerSet::NONE), |body| {
            input.layers.during(body.layer, body.mask, &sample.states)
        });
        Moment {
            tick,
            at: sample.at,
            facing: sample.facing,
            animation: sample.animation,
            frame: sample.frame,
            body_layer,
            body_mask,
            is_dropping: sample.has_state(DROP),
            is_warped: sample.has_state(WARPED),
            is_off_foot: OFF_FOOT.iter().any(|word| sample.has_state(word)),
            grounded: sample.grounded,
            rise: sample.velocity.map(|velocity| 0.0 - velocity.y),
            is_split: sample.flipped_art.is_some() && actor.shown_facing(sample.drawn_art()) != sample.facing,
        }
    }

    /// Whether nothing but the tick is different.
    pub(crate) fn is_as(&self, other: &Moment) -> bool {
        // What moves is known at once.
        self.at == other.at && Moment { tick: self.tick, ..*other } == *self
    }

    /// `walk 2`.
    pub(crate) fn frame_name(&self, actor: &Actor) -> String {
        format!("{} {}", actor.animations[self.animation].name, self.frame)
    }
}
