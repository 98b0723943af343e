//! flush_strip: the strip under a body is as wide as the body.

use crate::change::{Change, NewValue};
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::lint::strips::{FrameStrip, STRIP_INSET, worst_strips};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// A strip that ends this near to a side of the body is flush with it, px: solvers leave bodies a hair in walls.
const LEAST: f64 = 0.1;

#[derive(Debug)]
pub(crate) struct FlushStrip;

impl StillRule for FlushStrip {
    const SPEC: Spec = Spec {
        code: "flush_strip",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The strip that feels for ground ends flush with a side of the body.",
            matters: "A wall beside the body touches the strip, and an actor that falls along it counts as standing.",
            measured: "From the strip's end to the side of the body, the nearer side, the worst over the frames. It \
                       counts below 0.1 px; what reaches past the body is wide_strip.",
            fix: "Set `inset = 0.25` on the strip.",
            drawing: "   |    |##\n   |____|##\n   ------##  touches the wall\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        // The nearest is the worst.
        for worst in worst_strips(actor, |at| gap(at).map(|gap| 0.0 - gap)) {
            let (strip, body, gap) = (&worst.at.strip.name, &worst.at.body.name, 0.0 - worst.figure);
            let change = Change::shape(facts.name, strip, "inset", NewValue::Number(STRIP_INSET));
            out.report_with(
                Some(change),
                Fault {
                    subject: facts.name.to_string(),
                    place: Place::Actor(worst.at.place(actor)),
                    figure: gap,
                    message: format!(
                        "{strip} ends {gap:.2} px from the side of {body}: walls beside it touch it{}",
                        worst.more()
                    ),
                    fix: format!("Set `inset = {STRIP_INSET}` on {strip}."),
                },
            );
        }
    }
}

/// From a strip's end to the nearer side of the body, where that is hardly anything.
fn gap(at: &FrameStrip<'_>) -> Option<f64> {
    let (strip, body) = (at.strip.bounds(), at.body.bounds());
    let gap = (strip.x0 - body.x0).min(body.x1 - strip.x1);
    (0.0 - LEAST..LEAST).contains(&gap).then(|| gap.max(0.0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::{facts, of_actor, with_strip};

    #[test]
    fn a_strip_ends_short_of_the_sides() {
        let with = |from: f64, to: f64| of_actor::<FlushStrip>(&facts(&with_strip(Rect::new(from, 0.0, to, 2.0))));
        assert_eq!(with(-4.75, 4.75), [""; 0], "a quarter px is what is recommended");
        assert_eq!(
            with(-4.96, 4.0),
            [
                "stand 0: 0.04: feet ends 0.04 px from the side of body: walls beside it touch it, on 2 frames. Set `inset = 0.25` on feet."
            ]
        );
        assert_eq!(with(-5.0, 5.0).len(), 1);
    }
}
