//! Pauses: some games hold everything still for a moment where a blow lands, and go on then as before. What lost its speed on a
//! tick may have been held.

use super::step::Step;
use crate::geometry::{TOUCH, Vec2};

/// The longest, ticks at 60 ticks a second.
const LONGEST: f64 = 20.0;

/// By how many ticks a rule is late that waits for the end of one.
pub(crate) const LATE: u64 = LONGEST as u64;

/// Whether a motion is known, and none.
pub(crate) fn stays(motion: Option<Vec2>) -> bool {
    // What moves is known at once.
    motion.is_some_and(|motion| motion.x.abs() <= TOUCH && motion.hypot() <= TOUCH)
}

/// For how many ticks something must last that counts after these: longer than a pause where the body stays in place.
pub(crate) fn outlasting(step: &Step<'_>, ticks: u64) -> u64 {
    let is_held = stays(step.motion()) && stays(step.way.last_move);
    if is_held { ticks.max((LONGEST / step.pace).ceil() as u64) } else { ticks }
}

/// For how many ticks a body has stayed in place.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Rests {
    ticks: u64,
}

/// What a tick adds to that.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Rest {
    /// It moves.
    Over,
    /// It stays, and may be held.
    Paused,
    /// It has stayed for longer than any pause.
    Stuck,
}

impl Rests {
    /// Takes in a tick.
    pub(crate) fn see(&mut self, step: &Step<'_>) -> Rest {
        if !stays(step.motion()) {
            return Rest::Over;
        }
        self.ticks += 1;
        if (self.ticks as f64) * step.pace < LONGEST { Rest::Paused } else { Rest::Stuck }
    }

    /// So far.
    pub(crate) fn ticks(&self) -> u64 {
        self.ticks
    }
}
