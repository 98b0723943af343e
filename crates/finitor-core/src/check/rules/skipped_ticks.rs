//! skipped_ticks: the rows of an instance do not follow each other, so that its steps are not checked.

use crate::check::ledger::{Case, Key, Ledger, With};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::step::Way;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::and_more_instances;
use crate::check::{CheckInput, Settings};
use crate::finding::Span;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// An instance with fewer rows is not judged.
const MANY: u64 = 30;

#[derive(Debug, Default)]
pub(crate) struct SkippedTicks {
    known: PerInstance<Option<Known>>,
    last_row: Option<u64>,
    /// Whether some tick of the take has two rows, or does not follow the one before.
    is_out_of_turn: bool,
}

/// How far apart the rows of an instance are.
#[derive(Clone, Copy, Debug)]
struct Known {
    first: Way,
    last: u64,
    rows: u64,
    /// Rows that do not follow the one before.
    apart: u64,
    least: u64,
    most: u64,
}

/// What was found of the instance with the most rows of those that have them apart.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Apart {
    known: Known,
    /// How many other instances are as it is.
    others: usize,
    /// Whether each tick of the take has one row.
    is_in_turn: bool,
}

impl TakeRule for SkippedTicks {
    const SPEC: Spec = Spec {
        code: "skipped_ticks",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Ticks,
        thresholds: &[],
        text: RuleText {
            means: "At least half of an instance's rows are on ticks that do not follow each other: the recording leaves \
                    ticks out, or writes something else to `tick`.",
            matters: "What happens between two rows is known only where they are one tick apart. All else is called clean \
                      unseen: nothing is swept, and no rule that follows a motion looks at it.",
            measured: "Instances with a body on at least 30 rows. The figure is the number of rows that are more than one \
                       tick after the one before. All instances of a take are one finding.",
            fix: "Write the number of the game's step to `tick`, for every actor on every step.",
            drawing: "   tick  0    17    33    50\n        [ ]   [ ]   [ ]   [ ]\n            ?     ?     ?\n",
        },
    };
    type Seen = Apart;

    fn new(_: &Settings) -> SkippedTicks {
        SkippedTicks::default()
    }

    fn pose<'a>(&mut self, _: &CheckInput<'a>, way: &Way, _: &mut Ledger<'a, Apart>) {
        let tick = way.now.tick;
        self.is_out_of_turn |= self.last_row.replace(tick).is_some_and(|last| tick != last + 1);
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Apart>) {
        self.step(look, out);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, _: &mut Ledger<'a, Apart>) {
        let step = look.step;
        let tick = step.now().tick;
        let known = self.known.of(step.instance());
        let Some(known) = known else {
            *known = Some(Known { first: step.way, last: tick, rows: 0, apart: 0, least: u64::MAX, most: 0 });
            return;
        };
        let by = tick - known.last;
        known.last = tick;
        known.rows += 1;
        known.apart += u64::from(by > 1);
        (known.least, known.most) = (known.least.min(by), known.most.max(by));
    }

    fn finish<'a>(&mut self, scene: &Scene<'_, 'a>, _: u64, out: &mut Ledger<'a, Apart>) {
        let is_apart = |known: &Known| known.rows + 1 >= MANY && known.apart * 2 >= known.rows;
        let all: Vec<Known> = self.known.iter().filter_map(|(_, known)| known.filter(is_apart)).collect();
        // The first of those with the most rows.
        let Some(&known) = all.iter().rev().max_by_key(|known| known.apart) else { return };
        let Known { first, last, apart, .. } = known;
        let seen = Apart { known, others: all.len() - 1, is_in_turn: !self.is_out_of_turn };
        let key = Key { instance: first.instance, with: With::Stage };
        let (ticks, figure) = (Span { first: first.now.tick, last }, apart as f64);
        out.see(key, ticks, figure, || scene.of_take(first, figure, seen));
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Apart>) -> Words {
        let Apart { known, others, is_in_turn } = case.worst.seen;
        let Known { first, last, rows, apart, least, most } = known;
        let (by, how_many) = if least == most {
            (format!("{least}"), format!("all {rows}"))
        } else {
            (format!("{least} to {most}"), format!("more than one on {apart} of {rows}"))
        };
        let and_others = and_more_instances("those of ", others);
        let message = format!(
            "{}'s rows are {by} ticks apart, {how_many}{and_others}: what happens between is not checked",
            scene.label(case.key.instance)
        );
        let mean = (last - first.now.tick) as f64 / rows as f64;
        let rate = scene.input.tick_rate;
        let fix = if is_in_turn && others > 0 {
            "Write to `tick` how many steps the game has taken, not how many rows: all actors of a step have the same."
                .into()
        } else if (mean * rate / 1000.0 - 1.0).abs() < 0.05 {
            "Write to `tick` how many steps the game has taken, 0, 1, 2: these look like milliseconds.".into()
        } else if least == most {
            let slower = format!("{:.3}", rate / least as f64);
            let slower = slower.trim_end_matches('0').trim_end_matches('.');
            format!("Record every tick, or count the rows, 0, 1, 2, and set `tick_rate = {slower}` in [project].")
        } else {
            "Record every tick while an actor is there, also where nothing moves.".into()
        };
        Words { message, fix, remains: 0.0, end_at: None, change: None }
    }
}

#[cfg(test)]
mod tests {
    use crate::testing::*;

    /// What a recording writes for a tick.
    type Numbers = fn(u64) -> u64;

    /// A walk whose rows have other ticks.
    fn numbered(count: u32, tick: impl Fn(u64) -> u64) -> Vec<Row> {
        let walk: Vec<(f64, f64)> = (0..count).map(|k| (20.0 + f64::from(k), LEVEL)).collect();
        path(&walk)
            .into_iter()
            .map(|Row(k, at, facing, animation, states)| Row(tick(k), at, facing, animation, states))
            .collect()
    }

    #[test]
    fn rows_that_do_not_follow_each_other_are_told_with_what_they_look_like() {
        let stage = floored();
        let told = |rows: &[Row]| check(&stage, hero(0), rows).findings;
        let cases: [(Numbers, &str, &str); 4] = [
            (|k| 2 * k, "hero's rows are 2 ticks apart, all 59", "`tick_rate = 30`"),
            (|k| (k * 1000 + 30) / 60, "16 to 17 ticks apart", "look like milliseconds"),
            (|k| 2 * k + k / 7, "2 to 3 ticks apart, more than one on 59 of 59", "Record every tick while"),
            (|k| 8 * k, "8 ticks apart", "`tick_rate = 7.5`"),
        ];
        for (tick, message, fix) in cases {
            let found = told(&numbered(60, tick));
            let [finding] = &found[..] else { panic!("{message}: {found:?}") };
            assert_eq!(finding.rule.code(), "skipped_ticks");
            assert!(
                finding.message.contains(message) && finding.fix.contains(fix),
                "{} {}",
                finding.message,
                finding.fix
            );
        }
        // A few rows far apart, one that left out every third tick, and one that went and came.
        assert_eq!(told(&numbered(29, |k| 100 * k)), []);
        assert_eq!(told(&numbered(60, |k| k * 3 / 2)), []);
        assert_eq!(told(&numbered(60, |k| k + 500 * (k / 10))), []);
    }
}
