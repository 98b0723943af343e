//! flip_drift: art and shapes flip about different lines.

use crate::change::{Change, ChangeOf, NewValue, Owned};
use crate::finding::Place;
use crate::lint::facts::{ActorFacts, FrameFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// What is less than half a pixel off cannot be seen off.
const LEAST_DRIFT: f64 = 0.5;

#[derive(Debug)]
pub(crate) struct FlipDrift;

impl StillRule for FlipDrift {
    const SPEC: Spec = Spec {
        code: "flip_drift",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The game flips the art about the middle of its cell, and the shapes turn about the pivot, which is \
                    elsewhere.",
            matters: "Facing the other way, art and shapes are apart by the same number of px on every frame.",
            measured: "With flip_about = \"cell\": the cell's width less twice the pivot's x; the flipped art lands \
                       that far to the right of the shapes. It counts from half a pixel on.",
            fix: "Put the pivot's x at the middle of the cell; or draw flipped art at the offset given; or flip about \
                  the pivot.",
            drawing: "   |  o |        | o  |\n   | /|\\|   ->   |/|\\ |\n   |  |p|        |  |p|   art moved, pivot not\n",
        },
    };

    /// Frames whose art flips about another line than their shapes, those of one width and pivot together.
    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let mut seen: Vec<(&FrameFacts, usize)> = Vec::new();
        for frame in facts.frames.iter().filter(|frame| frame.drift.abs() >= LEAST_DRIFT) {
            match seen.iter_mut().find(|(known, _)| (known.width, known.pivot.x) == (frame.width, frame.pivot.x)) {
                Some((_, count)) => *count += 1,
                None => seen.push((frame, 1)),
            }
        }
        for (FrameFacts { name, width, pivot, drift, .. }, count) in seen {
            let side = if *drift > 0.0 { "right" } else { "left" };
            let more = match count {
                1 => String::new(),
                2 => ", as on 1 more frame".to_string(),
                count => format!(", as on {} more frames", count - 1),
            };
            let owned = Owned::new(facts.name, name.rsplit_once(' ').map_or(name, |(animation, _)| animation));
            let value = NewValue::Numbers(vec![width / 2.0, pivot.y]);
            let change = Change { of: ChangeOf::Pivot(owned), key: "pivot", value };
            out.report_with(Some(change), Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(name.clone()),
                figure: drift.abs(),
                message: format!(
                    "Flipped about the middle of its {width} px cell, the art lies {} px {side} of its shapes, which turn \
                     about the pivot at x {}{more}",
                    drift.abs(),
                    pivot.x
                ),
                fix: format!(
                    "Set `pivot = [{}, {}]`; or draw flipped art at an x offset of {} px; or flip it about the pivot.",
                    width / 2.0,
                    pivot.y,
                    0.0 - drift
                ),
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::testing::{facts, frame, of_actor};
    use crate::testing::hero;

    #[test]
    fn frames_of_one_width_and_pivot_are_one_finding() {
        let frame = |name: &str, x: f64| FrameFacts { drift: 20.0 - 2.0 * x, ..frame(name, (x, 24.0), (20.0, 24.0)) };
        let of = hero(0);
        let all = ActorFacts {
            frames: vec![frame("stand 0", 10.0), frame("duck 0", 9.0), frame("duck 1", 9.0)],
            ..facts(&of)
        };
        assert_eq!(
            of_actor::<FlipDrift>(&all),
            [
                "duck 0: 2: Flipped about the middle of its 20 px cell, the art lies 2 px right of its shapes, which turn about the pivot at x 9, as on 1 more frame. Set `pivot = [10, 24]`; or draw flipped art at an x offset of -2 px; or flip it about the pivot."
            ]
        );
        let slight = ActorFacts { frames: vec![frame("stand 0", 9.8)], ..facts(&of) };
        assert_eq!(of_actor::<FlipDrift>(&slight), [""; 0]);
    }
}
