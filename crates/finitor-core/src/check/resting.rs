//! The gap that a game keeps between resting bodies and the ground, found in a take.

use crate::geometry::Vec2;

/// Two gaps no further apart are one, px.
const SAME: f64 = 0.005;

/// For how long a body must rest before anything is said of its gap, ticks of a game with 60 a second.
const LEAST: f64 = 30.0;

/// A wider gap is no small one, px.
const WIDEST: f64 = 1.0;

/// The share of these that must have one gap.
const MOST: f64 = 0.8;

/// How far from the ground an instance rests as a rule.
///
/// # Source
/// Robert S. Boyer and J Strother Moore, "MJRTY: A Fast Majority Vote Algorithm", 1981.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct RestingGap {
    candidate: f64,
    lead: u64,
    /// Ticks since it is the candidate on which the gap was this one.
    same: u64,
    rested: u64,
}

impl RestingGap {
    /// Takes in how far above the ground an instance is on a tick, where ground is under it, and its last two motions.
    pub(crate) fn see(&mut self, above: Option<f64>, motions: [Option<Vec2>; 2]) {
        let still = |motion: Option<Vec2>| motion.is_some_and(|motion| motion.y.abs() <= SAME);
        let Some(gap) = above.filter(|_| motions.into_iter().all(still)) else { return };
        self.rested += 1;
        let is_same = (gap - self.candidate).abs() <= SAME;
        if self.lead == 0 && !is_same {
            (self.candidate, self.same) = (gap, 0);
        }
        if self.lead == 0 || is_same {
            self.lead += 1;
            self.same += 1;
        } else {
            self.lead -= 1;
        }
    }

    /// The gap, px, where the instance rested for long and mostly with one that is beyond `least`.
    pub(crate) fn found(&self, least: f64, pace: f64) -> Option<f64> {
        let is_long = self.rested as f64 >= LEAST / pace;
        let is_rule = self.same as f64 >= MOST * self.rested as f64;
        let is_small = (least.max(SAME)..=WIDEST).contains(&self.candidate.abs());
        (is_long && is_rule && is_small).then_some(self.candidate)
    }
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::check::Gap;
    use crate::testing::{check, hero, path, solid, stage};

    #[test]
    fn the_gap_that_a_body_keeps_is_found_and_one_of_a_hop_is_not() {
        let mut yard = stage();
        yard.solids.push(solid("floor", Rect::new(0.0, 200.0, 400.0, 220.0)));
        let gaps = |height: &dyn Fn(usize) -> f64| {
            let places: Vec<_> = (0..60).map(|tick| (50.13 + 1.7 * tick as f64, height(tick))).collect();
            check(&yard, hero(0), &path(&places)).written.gaps
        };
        let found = gaps(&|tick| if tick % 11 == 0 { 197.0 } else { 199.95 });
        assert_eq!(found.len(), 1, "{found:?}");
        assert!(matches!(&found[0], Gap { actor, px } if actor == "hero" && (px - 0.05).abs() < 1e-9), "{found:?}");
        assert_eq!(gaps(&|_| 200.0), []);
        assert_eq!(gaps(&|tick| if tick < 30 { 199.95 } else { 199.8 }), [], "no gap is the rule");
        assert_eq!(gaps(&|tick| if tick < 12 { 199.95 } else { 150.0 }), [], "too short");
    }
}
