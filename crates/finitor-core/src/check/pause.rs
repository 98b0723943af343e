//! Pauses: some games hold everything still for a moment where a blow lands, and go on then as before. What lost its speed on a
//! tick may have been held.

use super::step::Step;
use crate::geometry::TOUCH;

/// The longest, ticks at 60 ticks a second.
const LONGEST: f64 = 20.0;

/// By how many ticks a rule is late that waits for the end of one, up to 240 ticks a second.
pub(crate) const LATE: u64 = 4 * LONGEST as u64;

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
        if step.motion().is_none_or(|motion| motion.hypot() > TOUCH) {
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
