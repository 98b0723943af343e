//! Attacks before any take: when they strike, and at which distances.
//!
//! Distances are from the attacker's pivot to the target's, along the attacker's facing: above 0 the target is ahead. Heights are world
//! space, y down.

mod attack;
mod encounter;
mod interval;
mod moves;
mod reach;
mod settle;

pub use attack::{Attack, Timing, attacks, part_name};
pub use encounter::Encounter;
pub use interval::{Interval, Intervals};
pub use moves::{ActiveFrame, Move, MoveTarget, moves};
pub(crate) use reach::struck;
pub use reach::{AttackReach, Duel, FrameReach, Meeting, PartReach, Reached, Stance, Way, reach};
pub use settle::{Settle, Struck, Touched, settled, touched};
