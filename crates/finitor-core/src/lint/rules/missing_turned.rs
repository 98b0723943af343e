//! missing_turned: frames drawn for the other side are missing.

use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct MissingTurned;

impl StillRule for MissingTurned {
    const SPEC: Spec = Spec {
        code: "missing_turned",
        severity: Severity::Warn,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "An animation drawn for one side stands for another, and has fewer frames than that.",
            matters: "On the frames that are missing the mirror image is shown instead, and details that were redrawn \
                      jump back.",
            measured: "Frames of the animation with `stands_for`, against those of the one that it stands for.",
            fix: "Draw the frames named, or remove `stands_for`.",
            drawing: "   walk       0 1 2 3 4 5\n   walk_left  0 1 2 3\n                      ^ mirrored instead\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        for animation in &actor.animations {
            let Some(other) = animation.turned_by.map(|other| &actor.animations[other]) else { continue };
            let (drawn, all) = (other.frames.len(), animation.frames.len());
            let missing: Vec<String> = (drawn..all).map(|frame| frame.to_string()).collect();
            if missing.is_empty() {
                continue;
            }
            let are = if missing.len() == 1 { "is" } else { "are" };
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(other.name.clone()),
                figure: missing.len() as f64,
                message: format!(
                    "{} stands for {} and has {drawn} of its {all} frames: {} {are} mirrored instead",
                    other.name,
                    animation.name,
                    missing.join(", ")
                ),
                fix: format!("Draw the missing frames of {}, or remove `stands_for`.", other.name),
            });
        }
    }
}
