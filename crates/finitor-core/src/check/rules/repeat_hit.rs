//! repeat_hit: one swing struck a target twice.

use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::swings::SwingEvent;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::ticks;
use crate::check::{CheckInput, Settings};
use crate::finding::{Cause, Span};
use crate::geometry::Vec2;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct RepeatHit;

/// The contact before, first and last tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Before {
    first: u64,
    last: u64,
}

impl TakeRule for RepeatHit {
    const SPEC: Spec = Spec {
        code: "repeat_hit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Ticks,
        thresholds: &[],
        text: RuleText {
            means: "One swing struck one target, lost it, and struck it again.",
            matters: "Games that count each contact deal the damage twice, now and then.",
            measured: "A swing lasts while the animation goes on, frame by frame, without starting over. A contact ends on \
                       the first tick on which the hit overlaps no hurt shape of the target that it detects. The figure \
                       is for how many ticks they were apart.",
            fix: "Let a swing hit each target once, or not again within the ticks given.",
            drawing: "   tick 2  --*[ ]\n   tick 3  --  [ ]\n   tick 4  --*[ ]   again\n",
        },
    };
    type Seen = Before;

    fn new(_: &Settings) -> RepeatHit {
        RepeatHit
    }

    fn swings<'a>(&mut self, _: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>], out: &mut Ledger<'a, Before>) {
        for event in events {
            let SwingEvent::Strikes(strike) = event else { continue };
            let Some((first, last)) = strike.before else { continue };
            let way = strike.striker.way;
            let (tick, figure) = (way.now.tick, (way.now.tick - last) as f64);
            let key = Key { instance: way.instance, with: With::Shape(strike.target.instance(), &strike.hurt.name) };
            out.see(key, Span::at(tick), figure, || Sighting {
                tick,
                figure,
                at: strike.at,
                push: Vec2::ZERO,
                cause: Cause::Moved,
                shape: &strike.hit.name,
                way: *way,
                seen: Before { first, last },
            });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Before>) -> Words {
        let Before { first, last } = case.worst.seen;
        let With::Shape(target, _) = case.key.with else {
            return Words { message: String::new(), fix: String::new(), remains: 0.0, end_at: None, change: None };
        };
        let (hit, target) = (scene.subject(case), scene.label(target));
        let apart = ticks(case.worst.figure as u64);
        Words {
            message: format!(
                "{hit} hit {target} twice in one swing: at tick {first}, and again at tick {} after it lost {target} at \
                 tick {last}",
                case.worst.tick
            ),
            fix: format!("Let a swing hit each target once, or not again within {apart} of losing it."),
            // Of two contacts of one swing the second then does nothing.
            remains: 0.0,
            end_at: None,
            change: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::testing::fight::{actors, run, run_as};
    use crate::testing::{at, span};

    #[test]
    fn one_swing_that_strikes_twice_is_told_and_two_swings_are_not() {
        let (near, far) = ((20.0, 0.0), (60.0, 0.0));
        let twice = [("swing", 1, near), ("swing", 1, far), ("swing", 2, near), ("swing", 3, near)];
        let report = run(Facing::Right, &twice);
        let found: Vec<_> =
            report.findings.iter().map(|f| (f.rule.code(), at(f).with.as_str(), span(f), f.figure)).collect();
        assert_eq!(found, [("repeat_hit", "gull:1.chest", (2, 2), 2.0)]);
        assert_eq!(report.hits.iter().map(|hit| hit.tick).collect::<Vec<_>>(), [0, 2]);
        // Where the hit may strike again after some ticks, that is what it does, in contact or not.
        let mut actors = actors();
        for pose in actors[0].animations[0].frames.iter_mut().flatten() {
            pose.shapes.iter_mut().for_each(|shape| shape.carries.again_after = Some(2));
        }
        let long = [("swing", 1, near), ("swing", 1, near), ("swing", 2, near), ("swing", 2, far), ("swing", 3, near)];
        let report = run_as(&actors, Facing::Right, &long);
        assert_eq!((report.findings, report.hits.iter().map(|hit| hit.tick).collect::<Vec<_>>()), (vec![], vec![0, 2]));
        assert_eq!((report.swings.len(), &report.swings[0].struck[..]), (1, &["gull:1".to_string()][..]));
        assert_eq!(report.swings[0].active, crate::finding::Span { first: 0, last: 3 });
        // A new swing may strike again: the animation begins anew, or another came between.
        let anew = [("swing", 1, near), ("swing", 2, far), ("swing", 1, near)];
        assert_eq!(run(Facing::Right, &anew).findings, []);
        let between = [("swing", 1, near), ("idle", 0, near), ("swing", 2, near)];
        assert_eq!(run(Facing::Right, &between).findings, []);
    }
}
