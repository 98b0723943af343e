//! What a take is checked against.

use super::Settings;
use crate::actor::{Actor, ActorIndex};
use crate::layers::Layers;
use crate::stage::Stage;
use crate::take::YAxis;

/// What a take is checked against.
#[derive(Clone, Copy, Debug)]
pub struct CheckInput<'a> {
    /// The still world.
    pub stage: &'a Stage,
    /// The actors; samples name them by index.
    pub actors: &'a [Actor],
    /// Layers and masks.
    pub layers: &'a Layers,
    /// The project's figures for checks.
    pub settings: &'a Settings,
    /// The project's stages, for the question whether the take is of another one.
    pub stages: &'a [Stage],
    /// The way in which y counted in the recording; samples have y down.
    pub y_axis: YAxis,
    /// Ticks a second.
    pub tick_rate: f64,
    /// The step in which places are written, px, as far as it is known; 0 where they are exact. The checker finds it in the take.
    pub grain: f64,
    /// How many times as large as small figures the game's are, at least 1: speeds are as much greater.
    pub size: f64,
}

/// Figures up to this height are small, px.
const SMALL: f64 = 40.0;

/// Ticks a second where nothing else is said.
const USUAL_TICK_RATE: f64 = 60.0;

impl<'a> CheckInput<'a> {
    /// One stage, and takes whose y counts down.
    pub fn new(stage: &'a Stage, actors: &'a [Actor], layers: &'a Layers, settings: &'a Settings) -> CheckInput<'a> {
        CheckInput {
            stage,
            actors,
            layers,
            settings,
            stages: &[],
            y_axis: YAxis::Down,
            tick_rate: USUAL_TICK_RATE,
            grain: 0.0,
            size: size_of(actors),
        }
    }

    /// How much longer a tick is than one of a game with 60 a second: speeds a tick are as much greater, and accelerations as
    /// that squared.
    pub(crate) fn pace(&self) -> f64 {
        USUAL_TICK_RATE / self.tick_rate
    }

    /// A longer step is a warp, px.
    pub(crate) fn teleport(&self) -> f64 {
        self.settings.teleport_of(self.size)
    }

    /// An actor.
    pub fn actor(&self, index: ActorIndex) -> &'a Actor {
        &self.actors[index.0]
    }
}

/// How many times as large as small figures these are: those of middle height count.
fn size_of(actors: &[Actor]) -> f64 {
    let mut heights: Vec<f64> = actors.iter().map(|actor| actor.height).filter(|height| *height > 0.0).collect();
    heights.sort_by(f64::total_cmp);
    heights.get(heights.len() / 2).map_or(1.0, |middle| (middle / SMALL).max(1.0))
}
