//! Whether an instance is as it was on the tick before, so that what was found then need not be found again; and whether nothing has
//! happened to it for so long that nobody need ask.

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

/// Once nothing has happened on this many ticks no rule waits for anything any more, at 60 ticks a second or less.
pub(crate) const CALM_AFTER: f64 = 40.0;

/// For how long nothing has happened to an instance: it stayed where it was, or nothing was near it.
#[derive(Clone, Copy, Debug)]
pub(crate) struct CalmMemory {
    /// How many such ticks are long, at 60 ticks a second.
    after: f64,
    since: Option<u64>,
    is_calm: bool,
}

impl CalmMemory {
    /// Of an instance that is calm after some ticks.
    pub(crate) fn new(after: f64) -> CalmMemory {
        CalmMemory { after, since: None, is_calm: false }
    }

    /// Takes in a tick. Whether it is one of many on which nothing happened and no rule tells of anything; that is asked once they are
    /// many.
    pub(crate) fn see(&mut self, step: &Step<'_>, nothing_happens: bool, is_silent: impl FnOnce(u64) -> bool) -> bool {
        if !nothing_happens {
            self.disturb();
            return false;
        }
        let tick = step.now().tick;
        let since = *self.since.get_or_insert(tick);
        if !self.is_calm && (tick - since) as f64 * step.pace.min(1.0) >= self.after {
            self.is_calm = is_silent(since);
            // What is reported goes on; it is asked again when as many have passed.
            self.since = Some(tick);
        }
        self.is_calm
    }

    /// Something happens.
    pub(crate) fn disturb(&mut self) {
        (self.since, self.is_calm) = (None, false);
    }
}

#[cfg(test)]
mod tests {
    use crate::check::{CheckInput, Checker, Report, Settings};
    use crate::stage::{Effect, Passes, Stage};
    use crate::testing::dice::Dice;
    use crate::testing::*;
    use crate::{Facing, Rect};

    fn yard() -> Stage {
        let mut yard = with_wall();
        yard.one_ways.push(one_way("ledge", Rect::new(200.0, 150.0, 300.0, 156.0), Passes::Up));
        yard.zones.push(zone("bell", Rect::new(320.0, 100.0, 340.0, 200.0), Effect::Event));
        yard
    }

    /// Moves of every sort with long rests and flights between them, right and wrong ones.
    fn rows(dice: &mut Dice) -> Vec<Row> {
        let (mut rows, mut at, mut facing) = (Vec::new(), (60.0, LEVEL), Facing::Right);
        for _ in 0..14 {
            let long = dice.whole(1, 130) as usize;
            let mut move_on = |ticks: usize, by: (f64, f64), states: &'static str, animation: &'static str| {
                for _ in 0..ticks {
                    at = (at.0 + by.0, at.1 + by.1);
                    rows.push(Row(rows.len() as u64, at, facing, animation, states));
                }
            };
            match dice.below(9) {
                0 | 1 => move_on(long, (0.0, 0.0), "", "stand"),
                2 => move_on(long, (0.0, 0.0), "drop", "duck"),
                3 => move_on(long.min(20), (1.9, 0.0), "", "stand"),
                4 => move_on(long.min(20), (-1.9, -2.3), "", "stand"),
                5 => move_on(long.min(30), (0.4, 3.1), "", "stand"),
                6 => move_on(3, (0.0, 0.0), "", "none"),
                7 => {
                    at = (dice.between(10.0, 390.0), dice.between(20.0, 210.0));
                    rows.push(Row(rows.len() as u64, at, facing, "stand", "warped"));
                }
                _ => facing = facing.turned(),
            }
        }
        rows
    }

    #[test]
    fn calm_ticks_are_told_of_as_all_others() {
        let (yard, layers, settings) = (yard(), layers(), Settings::default());
        let actors = [hero(2), crate_actor()];
        let mut found = 0;
        for seed in 0..400 {
            let mut dice = Dice::new(seed);
            let rows = rows(&mut dice);
            let checker = || Checker::new(CheckInput::new(&yard, &actors, &layers, &settings));
            let (mut some, mut all) = (checker(), checker());
            all.ask_always();
            for Row(tick, at, facing, animation, states) in &rows {
                // Now and then the crate is beside it.
                let beside = (at.0 + 12.0, at.1.min(LEVEL));
                let other = if tick / 60 % 5 == 0 { beside } else { (380.0, LEVEL) };
                let samples = [
                    sample(&actors, "hero", (*at, *facing), animation, states),
                    sample(&actors, "crate", (other, Facing::Right), "rest", ""),
                ];
                some.tick(*tick, &samples);
                all.tick(*tick, &samples);
            }
            let (some, all): (Report, Report) = (some.finish(), all.finish());
            assert_eq!(some, all, "seed {seed}");
            found += all.findings.len();
        }
        assert!(found > 400, "{found}");
    }
}
