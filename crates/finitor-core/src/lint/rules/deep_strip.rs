//! deep_strip: the strip under a body is deeper than a fall in a tick.

use crate::change::{Change, NewValue};
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::lint::strips::worst_strips;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct DeepStrip;

impl StillRule for DeepStrip {
    const SPEC: Spec = Spec {
        code: "deep_strip",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The strip that feels for ground is deeper than the actor falls in a tick.",
            matters: "It stands a tick or more before it lands: it stops short over the ground, and jumps off air.",
            measured: "From the body's bottom to the strip's, the worst over the frames, against the upright part of \
                       [moves] fastest, or of `lint --takes`.",
            fix: "Set `depth` on the strip to no more than the fastest fall.",
            drawing: "   |____|\n   |    |  figure\n   |____|\n   #######\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some((actor, fastest)) = facts.fitted.and_then(|actor| Some((actor, actor.moves.fastest?.y))) else {
            return;
        };
        for worst in worst_strips(actor, |at| Some(at.depth()).filter(|depth| *depth > fastest)) {
            let (strip, depth) = (&worst.at.strip.name, worst.figure);
            let most = (fastest * 100.0).floor() / 100.0;
            let change = Change::shape(facts.name, strip, "depth", NewValue::Number(most));
            out.report_with(
                Some(change),
                Fault {
                    subject: facts.name.to_string(),
                    place: Place::Actor(worst.at.place(actor)),
                    figure: depth,
                    message: format!(
                        "{strip} is {depth:.2} px deep, and the fastest fall is {fastest:.2} px a tick{}",
                        worst.more()
                    ),
                    fix: format!("Set `depth = {most}` on {strip}."),
                },
            );
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Vec2;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::hero;

    #[test]
    fn a_strip_is_no_deeper_than_a_fall_of_one_tick() {
        let with = |fastest: Option<f64>| {
            let mut of = hero(0);
            of.moves.fastest = fastest.map(|y| Vec2::new(3.0, y));
            of_actor::<DeepStrip>(&facts(&of))
        };
        assert_eq!(
            with(Some(1.5)),
            [
                "stand 0: 2: feet is 2.00 px deep, and the fastest fall is 1.50 px a tick, on 2 frames. Set `depth = 1.5` on feet."
            ],
            "2 px deep on two animations, and bare on the third"
        );
        assert_eq!(with(Some(2.0)), [""; 0]);
        assert_eq!(with(None), [""; 0], "nobody said how fast it falls");
    }
}
