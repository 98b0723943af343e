//! A recording, tick by tick, as values.

use crate::facing::Facing;
use crate::geometry::Point;

/// The state word of an actor that lets itself drop through one-way platforms.
pub const DROP: &str = "drop";

/// The state word of an actor that was put elsewhere on this tick, by a warp or the game.
pub const WARPED: &str = "warped";

/// Where one actor instance is at the end of a tick.
#[derive(Clone, Debug, PartialEq)]
pub struct Sample {
    /// The instance: the actor's name, or `name:number`.
    pub label: String,
    /// Index of the actor among those of the [`crate::check::World`].
    pub actor: usize,
    /// The pivot, world space.
    pub at: Point,
    /// Where it looks.
    pub facing: Facing,
    /// Index of the animation.
    pub animation: usize,
    /// Index of the frame in it.
    pub frame: usize,
    /// The words that hold on this tick.
    pub states: Vec<String>,
    /// Whether the game drew the picture flipped, where the take tells.
    pub flipped_art: Option<bool>,
}

impl Sample {
    /// Whether a state holds.
    pub fn has_state(&self, word: &str) -> bool {
        self.states.iter().any(|state| state == word)
    }
}
