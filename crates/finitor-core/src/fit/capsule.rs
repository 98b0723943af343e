//! Capsules: upright, lying, or at any angle.

mod balance;
mod cover;
mod inside;

use super::{Angle, FitError, FitGoal, Geometry, Sides};
use crate::art::Mask;

/// Sides and radii are found to this, px.
const PRECISION: f64 = 1.0 / 16.0;

/// The capsule for a selection, which is not empty. What is fixed stays.
pub(super) fn fit(selection: &Mask, sides: Sides, angle: Angle, goal: FitGoal) -> Result<Geometry, FitError> {
    match goal {
        FitGoal::Cover => cover::covering(selection, sides, angle),
        FitGoal::Inside => inside::inside(selection, sides, angle),
        FitGoal::Balance => balance::balanced(selection, sides, angle),
    }
}

/// Moves of a rectangle's sides or of a spine's ends, in steps: each number alone, both ends together, and apart.
const MOVES: [[f64; 4]; 8] = [
    [1.0, 0.0, 0.0, 0.0],
    [0.0, 1.0, 0.0, 0.0],
    [0.0, 0.0, 1.0, 0.0],
    [0.0, 0.0, 0.0, 1.0],
    [1.0, 0.0, 1.0, 0.0],
    [0.0, 1.0, 0.0, 1.0],
    [1.0, 0.0, -1.0, 0.0],
    [0.0, 1.0, 0.0, -1.0],
];
