//! Shots: what flies until it meets something or leaves, and is then taken out of the take by the game.

use super::step::{InstanceIndex, Step};

/// On how many ticks a shot may be in what it has met before it is gone.
const LAST_TICKS: u64 = 2;

/// Whether it may be a shot: it cannot walk, and has flown since it is there.
pub(crate) fn may_be_shot(step: &Step<'_>) -> bool {
    step.before().is_some() && step.way.settled.is_none() && !step.may_walk()
}

/// Shots that are in something, until they are out or gone.
#[derive(Clone, Debug, Default)]
pub(crate) struct Arrivals(Vec<Arrived>);

/// One of them.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Arrived {
    pub(crate) instance: InstanceIndex,
    /// The tick on which it went in.
    pub(crate) first: u64,
    last: u64,
}

impl Arrivals {
    /// Takes in a body that is in something: whether it may be a shot on its last ticks.
    pub(crate) fn is_in(&mut self, step: &Step<'_>) -> bool {
        let (instance, tick) = (step.instance(), step.now().tick);
        let Some(known) = self.0.iter_mut().find(|known| known.instance == instance) else {
            let may_be_shot = may_be_shot(step);
            if may_be_shot {
                // Those that are gone say nothing more.
                self.0.retain(|known| known.last + 2 >= tick);
                self.0.push(Arrived { instance, first: tick, last: tick });
            }
            return may_be_shot;
        };
        known.last = tick;
        tick < known.first + LAST_TICKS
    }

    /// Where a body that was in something goes on outside of it, the tick on which it went in: it was no shot on its last ticks. One
    /// that comes back after it was gone is another.
    pub(crate) fn goes_on(&mut self, step: &Step<'_>) -> Option<u64> {
        let is_out = |known: &Arrived| known.instance == step.instance() && known.last + 1 < step.now().tick;
        // As a rule there is none.
        let at = self.0.iter().position(is_out)?;
        let Arrived { first, last, .. } = self.0.swap_remove(at);
        step.before().filter(|before| before.tick > last && before.tick <= last + 1).map(|_| first)
    }

    /// Those that were in something until a take ended: nobody knows whether they would have gone.
    pub(crate) fn until(&self, last: u64) -> impl Iterator<Item = &Arrived> {
        self.0.iter().filter(move |known| known.last + 1 >= last)
    }
}

#[cfg(test)]
mod tests {
    use crate::actor::Actor;
    use crate::testing::*;

    #[test]
    fn a_shot_that_is_gone_in_a_moment_may_be_in_what_it_met() {
        // The wall's side is 4 px before x 100; a crate lies still elsewhere, so that the take goes on.
        let found = |of: Actor, after: &[Option<f64>]| {
            let mut rows: Vec<Option<f64>> = (0..6).map(|k| Some(66.0 + 6.0 * f64::from(k))).collect();
            rows.extend_from_slice(after);
            rows.extend([None; 6]);
            let places: Vec<_> = rows.iter().map(|x| (x.map(|x| (x, 150.0)), (20.0, LEVEL))).collect();
            brief(&check_while_there(&with_wall(), &[of, crate_actor()], &places)).len()
        };
        let (inside, out) = (Some(99.0), Some(90.0));
        assert_eq!(found(shot(), &[inside]), 0);
        assert_eq!(found(shot(), &[inside, Some(102.0)]), 0);
        assert_eq!(found(shot(), &[inside, None, None, out, out, out]), 0, "the next one has its name");
        assert_eq!(found(shot(), &[inside; 3]), 1, "it stays");
        assert_eq!(found(shot(), &[inside, out, out]), 1, "it lives on");
        assert_eq!(found(hero(0), &[inside]), 1, "it walks");
        // Whether it would have gone nobody knows.
        let to_the_end: Vec<_> = (0..7).map(|k| (Some((63.0 + 6.0 * f64::from(k), 150.0)), (20.0, LEVEL))).collect();
        assert_eq!(brief(&check_while_there(&with_wall(), &[shot(), crate_actor()], &to_the_end)).len(), 1);
    }
}
