//! missing_anchor: an anchor is not found on a frame that ought to have it.

use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct MissingAnchor;

impl StillRule for MissingAnchor {
    const SPEC: Spec = Spec {
        code: "missing_anchor",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "An anchor that is looked for in the art is not there on a frame that ought to have it.",
            matters: "Whatever the game puts at the anchor jumps to nowhere on that frame.",
            measured: "On every frame of the anchor's animations, or of all: whether any opaque pixel has the colour in the \
                       part map, or any pixel is opaque at all.",
            fix: "Paint the colour on the frame's part map; or name the `animations` that have the anchor; or set `at` to \
                  the place where nothing is found.",
            drawing: "   walk 0   walk 1   walk 2\n     *                 *\n    /|\\      /|\\      /|\\\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        for missing in &facts.missing_anchors {
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(missing.animation.clone()),
                figure: missing.frames as f64,
                message: missing.message.clone(),
                fix: format!(
                    "Paint it on the part map, or name the `animations` that have it in [anchor.{}], or set its `at`.",
                    missing.anchor
                ),
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::MissingAnchorFacts;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::hero;

    #[test]
    fn each_anchor_that_is_not_found_is_named() {
        let of = hero(0);
        let missing = MissingAnchorFacts {
            anchor: "tip".into(),
            animation: "stand".into(),
            frames: 2,
            message: "tip is not found on 2 of 3 frames of stand".into(),
        };
        let all = ActorFacts { missing_anchors: vec![missing], ..facts(&of) };
        assert_eq!(
            of_actor::<MissingAnchor>(&all),
            [
                "stand: 2: tip is not found on 2 of 3 frames of stand. Paint it on the part map, or name the `animations` that have it in [anchor.tip], or set its `at`."
            ]
        );
        assert_eq!(of_actor::<MissingAnchor>(&facts(&of)), [""; 0]);
    }
}
