//! missing_turned: frames drawn for the other side are missing.

use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct MissingTurned;

impl StillRule for MissingTurned {
    const SPEC: Spec = Spec {
        code: "missing_turned",
        severity: Severity::Warn,
        views: Views::All,
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Facing;
    use crate::actor::{Actor, DrawnAnimation, Pose};
    use crate::lint::testing::{facts, of_actor};

    #[test]
    fn art_for_the_other_side_has_all_frames() {
        let of = |drawn: usize| {
            let walk = |name: &str, faces, frames, stands_for| DrawnAnimation {
                name: name.into(),
                faces,
                frames: vec![Pose::default(); frames],
                stands_for,
            };
            let both = vec![walk("walk", Facing::Right, 4, None), walk("walk_left", Facing::Left, drawn, Some(0))];
            of_actor::<MissingTurned>(&facts(&Actor::new("hero".into(), both, vec![])))
        };
        assert_eq!(of(4), [""; 0]);
        assert_eq!(
            of(2),
            [
                "walk_left: 2: walk_left stands for walk and has 2 of its 4 frames: 2, 3 are mirrored instead. Draw the missing frames of walk_left, or remove `stands_for`."
            ]
        );
    }
}
