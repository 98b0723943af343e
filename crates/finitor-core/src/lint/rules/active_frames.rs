//! active_frames: what an animation says of its active frames is not what its hit shapes are on.

use crate::actor::Role;
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct ActiveFrames;

impl StillRule for ActiveFrames {
    const SPEC: Spec = Spec {
        code: "active_frames",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "An animation says on which frames it strikes, and a frame of these has no hit shape, or another one \
                    has.",
            matters: "A blow is seen and does nothing, or strikes before it is seen.",
            measured: "The frames of the animation's `active` against those that have a hit shape in the fits. The figure \
                       is the number of frames on which the two differ.",
            fix: "Name the frames in `frames` of the hit shape, or correct `active`.",
            drawing: "   active   -  x  x  -\n   hit      -  -  x  x\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        for animation in &facts.animations {
            let (Some(active), Some(index)) = (animation.active, actor.find(animation.name)) else { continue };
            let strikes = |frame: usize| actor.drawn_pose(index, frame).shapes.iter().any(|of| of.role == Role::Hit);
            let is_active = |frame: usize| active.contains(&(frame as u32));
            let all = 0..actor.animations[index].frames.len();
            let without: Vec<usize> = all.clone().filter(|frame| is_active(*frame) && !strikes(*frame)).collect();
            let beside: Vec<usize> = all.filter(|frame| !is_active(*frame) && strikes(*frame)).collect();
            if without.is_empty() && beside.is_empty() {
                continue;
            }
            let mut words = Vec::new();
            if !without.is_empty() {
                words.push(format!("active, without a hit shape: {}", list(&without)));
            }
            if !beside.is_empty() {
                words.push(format!("a hit shape, not active: {}", list(&beside)));
            }
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(animation.name.to_string()),
                figure: (without.len() + beside.len()) as f64,
                message: format!("Frames of {}: {}", animation.name, words.join("; ")),
                fix: "Correct `frames` of the hit shape, or `active` of the animation.".to_string(),
            });
        }
    }
}

fn list(frames: &[usize]) -> String {
    frames.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::AnimationFacts;
    use crate::lint::testing::{facts, frame, of_actor};
    use crate::testing::fight::actors;

    #[test]
    fn frames_that_are_active_and_those_that_strike_are_compared_both_ways() {
        // The pole is out on frames 1 and 2 of 4.
        let fighters = actors();
        let with = |active: &[u32]| {
            let active = Some(active);
            let swing = AnimationFacts { name: "swing", frames: 0..4, must_stand: false, active };
            let frames = vec![frame("swing", (0.0, 0.0), (1.0, 1.0)); 4];
            of_actor::<ActiveFrames>(&ActorFacts { animations: vec![swing], frames, ..facts(&fighters[0]) })
        };
        assert_eq!(with(&[1, 2]), [""; 0]);
        assert_eq!(
            with(&[0, 1]),
            [
                "swing: 2: Frames of swing: active, without a hit shape: 0; a hit shape, not active: 2. Correct `frames` of the hit shape, or `active` of the animation."
            ]
        );
    }
}
