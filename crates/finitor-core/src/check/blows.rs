//! Hits as they look: shapes and art of the two sides of a blow.

use super::CheckInput;
use super::step::Way;
use crate::actor::{Band, PixelRuns, Pose, Shape};
use crate::geometry::{Convex, Vec2, cut_back};

/// A hit or hurt shape of an instance on a tick.
#[derive(Clone, Copy)]
pub(crate) struct Limb<'a> {
    pub(crate) way: Way,
    pub(crate) shape: &'a Shape,
}

/// The pose whose art is seen.
pub(crate) fn seen_pose<'a>(input: &CheckInput<'a>, of: &Way) -> &'a Pose {
    let now = &of.now;
    let facing = if now.is_split { now.facing.turned() } else { now.facing };
    input.actor(of.actor).pose(now.animation, now.frame, facing)
}

/// The opaque pixels as they are seen.
pub(crate) fn art<'a>(input: &CheckInput<'a>, of: &Way) -> &'a PixelRuns {
    &seen_pose(input, of).pixels
}

impl<'a> Limb<'a> {
    /// The named shape of an instance.
    pub(crate) fn named(input: &CheckInput<'a>, way: Way, name: &str) -> Option<Limb<'a>> {
        let pose = input.actor(way.actor).pose(way.now.animation, way.now.frame, way.now.facing);
        let shape = pose.shapes.iter().find(|shape| shape.name == name)?;
        Some(Limb { way, shape })
    }

    /// The extent of its pieces along a direction, seen from its own pivot.
    fn extent(&self, way: Vec2) -> (f64, f64) {
        let ends = self.shape.pieces.iter().map(|piece| piece.extent(way));
        ends.fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), (a, b)| (low.min(a), high.max(b)))
    }

    /// How far it reaches past the art along a direction, within a band of it as [`PixelRuns::reach`] takes it, both seen
    /// from its pivot; `None` where there is no art in that band.
    pub(crate) fn past_art(&self, art: &PixelRuns, way: Vec2, band: Band) -> Option<f64> {
        Some((self.extent(way).1 - art.reach(way, band)?).max(0.0))
    }

    /// Its pieces without what is past its art along a direction.
    pub(crate) fn without(&self, past: Option<f64>, way: Vec2) -> Vec<Convex> {
        let end = self.extent(way).1 - past.unwrap_or(0.0);
        cut_back(&self.shape.pieces, way, end)
    }
}
