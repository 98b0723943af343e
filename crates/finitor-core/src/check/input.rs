//! What a take is checked against.

use super::Settings;
use crate::actor::{Actor, ActorIndex};
use crate::layers::Layers;
use crate::stage::Stage;

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
}

impl<'a> CheckInput<'a> {
    /// An actor.
    pub fn actor(&self, index: ActorIndex) -> &'a Actor {
        &self.actors[index.0]
    }
}
