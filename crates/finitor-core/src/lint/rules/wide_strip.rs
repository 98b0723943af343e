//! wide_strip: the strip under a body reaches past the body's foot.

use crate::finding::Place;
use crate::fit::foot_of;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::lint::strips::{FrameStrip, STRIP_INSET, worst_strips};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// A strip that reaches no further past the foot is as wide as it, px.
const LEAST: f64 = 0.05;

#[derive(Debug)]
pub(crate) struct WideStrip;

impl StillRule for WideStrip {
    const SPEC: Spec = Spec {
        code: "wide_strip",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The strip that feels for ground reaches past the foot of the body.",
            matters: "The actor stands on air beside a block, and goes on standing past the end of a ledge.",
            measured: "The foot is all of the body that is no higher over its lowest point than the strip is deep. The \
                       figure is how far the strip reaches past it, the larger side, the worst over the frames.",
            fix: "Set `ends = \"shape\"` and `inset = 0.25` on the strip: it then ends with the foot, arms and round \
                  sides left out.",
            drawing: "   |    |__\n   |     __|  an arm\n   |____|\n   -------    strip\n        |<->| figure\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        for worst in worst_strips(actor, |at| past(at).map(|past| past.by)) {
            let Some(Past { by, foot, is_left }) = past(&worst.at) else { continue };
            let (strip, body) = (&worst.at.strip.name, &worst.at.body.name);
            let side = if is_left { "left" } else { "right" };
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(worst.at.place(actor)),
                figure: by,
                message: format!("{strip} reaches {by:.2} px past the foot of {body} on the {side}, as drawn{}", worst.more()),
                fix: format!(
                    "Set `ends = \"shape\"` and `inset = {STRIP_INSET}` on {strip}, or let it reach from {:.2} to {:.2} px of the pivot.",
                    foot[0] + STRIP_INSET,
                    foot[1] - STRIP_INSET
                ),
            });
        }
    }
}

/// How far a strip reaches past a foot.
struct Past {
    by: f64,
    /// The foot's left and right end.
    foot: [f64; 2],
    is_left: bool,
}

fn past(at: &FrameStrip<'_>) -> Option<Past> {
    let foot = foot_of(&at.body.polygons, at.depth())?;
    let strip = at.strip.bounds();
    let (left, right) = (foot.x0 - strip.x0, strip.x1 - foot.x1);
    let by = left.max(right);
    (by > LEAST).then_some(Past { by, foot: [foot.x0, foot.x1], is_left: left > right })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::{facts, of_actor, with_strip};

    #[test]
    fn a_strip_stays_under_the_foot() {
        let with = |from: f64, to: f64| of_actor::<WideStrip>(&facts(&with_strip(Rect::new(from, 0.0, to, 2.0))));
        assert_eq!(with(-5.0, 5.0), [""; 0]);
        assert_eq!(
            with(-5.5, 7.0),
            [
                "stand 0: 2: feet reaches 2.00 px past the foot of body on the right, as drawn, on 2 frames. Set `ends = \"shape\"` and `inset = 0.25` on feet, or let it reach from -4.75 to 4.75 px of the pivot."
            ]
        );
    }
}
