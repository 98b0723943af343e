//! Whether an instance is as it was on the tick before, so that what was found then need not be found again.

use super::step::Step;
use crate::geometry::Rect;

/// The tick of an instance that was observed last.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct StillMemory(Option<Observed>);

#[derive(Clone, Copy, Debug, PartialEq)]
struct Observed {
    tick: u64,
    /// What the step might have to do with anything in.
    reach: Rect,
    /// The step in which places were taken to be written, px.
    grain: f64,
}

impl StillMemory {
    /// Takes in a tick. Whether the one before was observed, and neither the instance nor what is near it is different.
    pub(crate) fn see(&mut self, step: &Step<'_>, reach: Rect) -> bool {
        let (now, grain) = (step.now(), step.grain);
        let observed = |tick| Observed { tick, reach, grain };
        let known = self.0.replace(observed(now.tick));
        let is_as_before = || step.before().is_some_and(|before| before.is_as(now));
        step.is_swept && is_as_before() && known == Some(observed(now.tick - 1))
    }
}
