//! In which steps a take's numbers are written.

use crate::geometry::{Point, Vec2};

/// The steps that games write, px, the coarsest first: whole px, halves, quarters, and decimals.
const STEPS: [f64; 7] = [1.0, 0.5, 0.25, 0.1, 0.01, 0.001, 0.0001];

/// A number is a multiple of a step where it is this near to one, in steps.
const SAME: f64 = 1e-6;

/// Finds the coarsest step that all places seen so far are multiples of.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct GrainFinder {
    /// Those of [`STEPS`] that are still possible.
    possible: [bool; STEPS.len()],
}

impl Default for GrainFinder {
    fn default() -> GrainFinder {
        GrainFinder { possible: [true; STEPS.len()] }
    }
}

impl GrainFinder {
    /// Takes in a place.
    pub(crate) fn see(&mut self, at: Point) {
        let is_in = |step: f64| is_multiple(at.x, step) && is_multiple(at.y, step);
        // What is a multiple of the coarsest is one of all that divide it; 0.1 does not divide 0.25.
        let Some(coarsest) = self.possible.iter().position(|possible| *possible) else { return };
        if is_in(STEPS[coarsest]) && (STEPS[coarsest] != 0.25 || !self.possible[coarsest + 1]) {
            return;
        }
        for (possible, step) in self.possible.iter_mut().zip(STEPS) {
            *possible = *possible && is_in(step);
        }
    }

    /// The step, px; 0 where numbers are as exact as they can be.
    pub(crate) fn grain(&self) -> f64 {
        self.possible.iter().zip(STEPS).find(|(possible, _)| **possible).map_or(0.0, |(_, step)| step)
    }
}

/// In which steps the places of one instance are written. Where a game moves some of its actors in whole px and others by fractions,
/// each has its own.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct InstanceGrain {
    finder: GrainFinder,
    last: Option<Point>,
    motion: Vec2,
    /// On how many ticks its speed up or down was another than on the tick before.
    changes: u32,
}

impl InstanceGrain {
    /// This many changes of a fall or a rise are no chance: gravity makes fractions. What walks on a floor may well come to whole px alone.
    const SURE: u32 = 8;

    /// Takes in its next place, which the whole take's finder has seen; its step, px.
    pub(crate) fn see(&mut self, at: Point, take: &GrainFinder) -> f64 {
        let motion = self.last.map_or(Vec2::ZERO, |last| at - last);
        // A place is a multiple of all steps of the take: most instances have the same ones.
        if self.finder != *take && (self.last.is_none() || motion != Vec2::ZERO) {
            self.finder.see(at);
            self.changes += u32::from(motion.y != 0.0 && motion.y != self.motion.y);
        }
        (self.last, self.motion) = (Some(at), motion);
        if self.finder == *take || self.changes < Self::SURE { take.grain() } else { self.finder.grain() }
    }
}

/// Whether a length is a whole number of steps.
pub(crate) fn is_multiple(length: f64, step: f64) -> bool {
    let steps = length / step;
    (steps - steps.round()).abs() <= SAME * steps.abs().max(1.0)
}

#[cfg(test)]
mod tests {
    use super::{GrainFinder, InstanceGrain, Point};

    #[test]
    fn the_coarsest_step_of_all_numbers_is_found() {
        let grain = |places: &[(f64, f64)]| {
            let mut finder = GrainFinder::default();
            places.iter().for_each(|at| finder.see(Point::from(*at)));
            finder.grain()
        };
        assert_eq!(grain(&[(96.0, 200.0), (-3.0, 0.0)]), 1.0);
        assert_eq!(grain(&[(96.0, 200.0), (96.5, 200.0)]), 0.5);
        assert_eq!(grain(&[(96.25, 200.5)]), 0.25);
        assert_eq!(grain(&[(96.3, 200.0)]), 0.1);
        assert_eq!(grain(&[(96.25, 200.1)]), 0.01);
        assert_eq!(grain(&[(1_000_000.37, 240.0 - 33.21)]), 0.01);
        assert_eq!(grain(&[(96.25, 200.0), (96.25, 200.3)]), 0.01);
        assert_eq!(grain(&[(1.0 / 3.0, 2.0)]), 0.0);
    }

    #[test]
    fn what_falls_in_whole_px_in_a_take_of_fractions_has_a_step_of_its_own() {
        let last = |fall: &dyn Fn(f64) -> f64| {
            let (mut grain, mut take) = (InstanceGrain::default(), GrainFinder::default());
            take.see(Point::new(1.37, 2.0));
            let mut see = |at: Point| {
                take.see(at);
                grain.see(at, &take)
            };
            (0..20).map(|tick| see(Point::new(40.0 + f64::from(tick), fall(f64::from(tick))))).last()
        };
        assert_eq!(last(&|tick| (0.2 * tick * tick).floor()), Some(1.0));
        assert_eq!(last(&|tick| 0.2131 * tick * tick), Some(0.0001));
        // A walk, and a lift, may come to whole px by chance.
        assert_eq!(last(&|_| 200.0), Some(0.01));
        assert_eq!(last(&|tick| 200.0 - 2.0 * tick), Some(0.01));
    }
}
