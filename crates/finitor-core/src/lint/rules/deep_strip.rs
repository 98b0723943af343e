//! deep_strip: the strip under a body is deeper than a fall in a tick.

use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::lint::strips::worst_strips;
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct DeepStrip;

impl StillRule for DeepStrip {
    const SPEC: Spec = Spec {
        code: "deep_strip",
        severity: Severity::Warn,
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
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(worst.at.place(actor)),
                figure: depth,
                message: format!(
                    "{strip} is {depth:.2} px deep, and the fastest fall is {fastest:.2} px a tick{}",
                    worst.more()
                ),
                fix: format!("Set `depth = {}` on {strip}.", (fastest * 100.0).floor() / 100.0),
            });
        }
    }
}
