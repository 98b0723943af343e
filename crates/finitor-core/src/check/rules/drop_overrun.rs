//! drop_overrun: one drop led a body through two platforms.

use crate::check::Settings;
use crate::check::drops::Overrun;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::world::{Approach, Thing, stops};

#[derive(Debug)]
pub(crate) struct DropOverrun;

impl TakeRule for DropOverrun {
    const SPEC: Spec = Spec {
        code: "drop_overrun",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "One drop led a body through more than one one-way platform.",
            matters: "The player wanted one floor down and falls two.",
            measured: "While the state `drop` holds without a break: platforms that the body lay above and now passes. The \
                       figure is how far the second lies below the first.",
            fix: "End the drop by the tick given, when the body is inside the first platform: it passes until it has left \
                  that.",
            drawing: "   ==[ ]== \n      |\n   ===|===   figure\n      v\n",
        },
    };
    type Seen = Overrun;

    fn new(_: &Settings) -> DropOverrun {
        DropOverrun
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Overrun>) {
        let Some(overrun) = look.seat.drop.overrun else { return };
        let (step, world) = (look.step, look.world());
        let (first, second) = (world.one_way(overrun.first.platform), world.one_way(overrun.second));
        let apart = (second.outline.bounds.y0 - first.outline.bounds.y0).abs();
        let key = Key { instance: step.instance(), with: With::Thing(Thing::OneWay(overrun.second)) };
        out.see(key, Span::at(step.now().tick), apart, || Sighting {
            tick: step.now().tick,
            figure: apart,
            at: step.now().at,
            push: second.passes.direction(),
            cause: Cause::Moved,
            shape: &step.body.name,
            way: step.way,
            seen: overrun,
        });
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Overrun>) -> Words {
        let Overrun { first, second } = case.worst.seen;
        let (platform, second) = (scene.world.one_way(first.platform), scene.world.one_way(second));
        let step = scene.step(case.worst.way);
        // With the drop over by then, what is below stops it on this step.
        let let_go = step.motion().zip(step.before()).zip(step.old_body);
        let stopped = let_go.is_some_and(|((motion, before), body)| {
            stops(second, &Approach { body, from: before.at, motion, slack: step.slack, touch: step.touch() })
        });
        Words {
            message: format!(
                "One drop took {} through {} and {}, {} further down",
                scene.label(case.key.instance),
                platform.name,
                second.name,
                px(case.worst.figure)
            ),
            fix: format!("End the drop at tick {}, when the body is inside {}.", first.since + 1, platform.name),
            remains: if stopped { 0.0 } else { case.worst.figure },
            end_at: None,
            change: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::stage::Passes;
    use crate::testing::*;
    use crate::{Facing, Rect};

    #[test]
    fn a_drop_through_two_platforms_is_reported_with_the_tick_to_end_it() {
        let mut stage = floored();
        for (name, y) in [("upper", 100.0), ("lower", 140.0)] {
            stage.one_ways.push(one_way(name, Rect::new(0.0, y, 200.0, y + 4.0), Passes::Up));
        }
        // Stands on the upper one, drops from tick 1 on, and lands where it is stopped.
        let fall = |drops_until: u64, lands: f64| -> Vec<Row> {
            let (mut y, mut speed, mut rows) = (100.0, 0.0, vec![Row(0, (50.0, 100.0), Facing::Right, "stand", "")]);
            for tick in 1..40 {
                speed += 0.4;
                y = f64::min(y + speed, lands);
                let states = if tick <= drops_until { "drop" } else { "" };
                rows.push(Row(tick, (50.0, y), Facing::Right, "stand", states));
            }
            rows
        };
        let report = check(&stage, hero(0), &fall(30, LEVEL));
        let found = report.findings.iter().find(|found| found.rule.code() == "drop_overrun").unwrap();
        assert_eq!((at(found).with.as_str(), found.figure, found.remains), ("yard/lower", 40.0, Some(0.0)));
        let tick = found.fix.split(' ').find_map(|word| word.trim_end_matches(',').parse::<u64>().ok()).unwrap();
        // The drop ended there, the lower one carries it.
        assert_eq!(brief(&check(&stage, hero(0), &fall(tick - 1, 140.0))), [], "{}", found.fix);
    }
}
