//! What an actor can do.

use crate::geometry::Vec2;

/// How an actor moves, as far as that is known: the game decides, the files may tell.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Moves {
    /// The longest step in a tick, sideways and upright, px.
    pub fastest: Option<Vec2>,
    /// The greatest height it rises in a jump, px.
    pub jump: Option<f64>,
    /// The highest edge it walks up without a jump, px.
    pub step: Option<f64>,
    /// The steepest slope it walks on, degrees.
    pub slope: Option<f64>,
    /// How much faster it falls from tick to tick, px per tick.
    pub gravity: Option<f64>,
}

/// The highest edge that an actor steps up when its file says nothing, px.
const DEFAULT_STEP: f64 = 4.0;

impl Moves {
    /// The highest edge that the actor steps up, px: what its file says, else 4.
    pub fn step_height(&self) -> f64 {
        self.step.unwrap_or(DEFAULT_STEP)
    }

    /// Whether the file says how the actor walks.
    pub fn walks(&self) -> bool {
        self.jump.or(self.step).or(self.slope).is_some()
    }
}
