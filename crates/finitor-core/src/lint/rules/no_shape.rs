//! no_shape: an actor, an animation or a frame that nothing can meet.

use crate::facing::Facing;
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct NoShape;

impl StillRule for NoShape {
    const SPEC: Spec = Spec {
        code: "no_shape",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "An actor, an animation or some of its frames have no shape, or the body is missing on some frames of an \
                    animation.",
            matters: "On these frames the actor passes walls, is struck by nothing, and a check of its takes says nothing \
                      about it.",
            measured: "The shapes of every frame by the last fit. A whole animation without a body, whose frames have other \
                       shapes, is a note: a flying spark needs none.",
            fix: "Add a shape, or add the frames to the `animations` or `frames` of one.",
            drawing: "   walk 0   walk 1   walk 2\n    [o]      [o]       o\n    [|]      [|]      /|\\   no shape\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        let name = facts.name;
        let fault = |place: &str, frames: usize, message: String, fix: String| Fault {
            subject: name.to_string(),
            place: Place::Actor(place.to_string()),
            figure: frames as f64,
            message,
            fix,
        };
        let all = count(actor.animations.iter().map(|animation| animation.frames.len()).sum());
        if !actor.has_shapes() {
            let fix = "Add a shape to its file, such as [shape.body] with `role = \"body\"`.".to_string();
            out.report(fault("all", all.frames, format!("{name} has no shape on any of its {}", all.words), fix));
            return;
        }
        let has_body = actor.animations.iter().flat_map(|of| &of.frames).any(|poses| poses[0].body().is_some());
        for animation in &actor.animations {
            let pose = |frame: &usize| &animation.frames[*frame][Facing::Right.index()];
            let (bare, clad): (Vec<usize>, Vec<usize>) =
                (0..animation.frames.len()).partition(|frame| pose(frame).shapes.is_empty());
            let title = &animation.name;
            if !bare.is_empty() {
                let fix = format!("Add {title} to the `animations` of a shape, or the frames to its `frames`.");
                let which = which(title, &bare, animation.frames.len());
                let verb = if bare.len() == 1 || clad.is_empty() { "has" } else { "have" };
                out.report(fault(title, bare.len(), format!("{which} {verb} no shape"), fix));
            }
            let without: Vec<usize> = clad.iter().copied().filter(|frame| pose(frame).body().is_none()).collect();
            if !has_body || without.is_empty() {
                continue;
            }
            let fix = format!("Add {title} to the `animations` of the body, or the frames to its `frames`.");
            let missing = which(title, &without, clad.len());
            let message = format!("The body is missing on {missing}");
            let fault = fault(title, without.len(), message, fix);
            if without.len() == clad.len() { out.note(fault) } else { out.report(fault) }
        }
    }
}

/// Frames by number and in words.
struct Count {
    frames: usize,
    words: String,
}

fn count(frames: usize) -> Count {
    Count { frames, words: if frames == 1 { "1 frame".to_string() } else { format!("{frames} frames") } }
}

/// Some frames of an animation: `walk 1, walk 2`, or `walk` where it is all of them.
fn which(animation: &str, frames: &[usize], of: usize) -> String {
    /// More are counted.
    const NAMED: usize = 4;
    if frames.len() == of {
        return animation.to_string();
    }
    let named: Vec<String> = frames.iter().take(NAMED).map(|frame| format!("{animation} {frame}")).collect();
    match frames.len().checked_sub(NAMED) {
        Some(more) if more > 0 => format!("{} and {more} more", named.join(", ")),
        _ => named.join(", "),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Actor, Pose, Role};
    use crate::check::Settings;
    use crate::lint::testing::facts;
    use crate::lint::{StillFinding, lint_actor};
    use crate::testing::{actor, hero};

    fn told(of: &Actor) -> Vec<(String, Severity, f64)> {
        let found = lint_actor(&facts(of), &Settings::default());
        let own = found.into_iter().filter(|StillFinding { finding, .. }| finding.rule.code() == "no_shape");
        own.map(|found| (found.finding.message, found.finding.severity, found.finding.figure)).collect()
    }

    #[test]
    fn what_nothing_can_meet_is_reported_and_what_needs_no_body_is_a_note() {
        let of = hero(0);
        let clad = of.animations[0].frames[0][0].clone();
        let without = |role: Role| {
            let mut pose = clad.clone();
            pose.shapes.retain(|shape| shape.role != role);
            pose
        };
        let bare = Pose::default;
        assert_eq!(told(&actor("hero", vec![("stand", vec![clad.clone(), clad.clone()])])), []);
        let none = actor("sign", vec![("stand", vec![bare(), bare()]), ("fall", vec![bare()])]);
        assert_eq!(told(&none), [("sign has no shape on any of its 3 frames".into(), Severity::Warn, 3.0)]);
        let some = actor("hero", vec![("stand", vec![clad.clone()]), ("walk", vec![clad.clone(), bare(), bare()])]);
        assert_eq!(told(&some), [("walk 1, walk 2 have no shape".into(), Severity::Warn, 2.0)]);
        let whole = actor("hero", vec![("stand", vec![clad.clone()]), ("fade", vec![bare(); 3])]);
        assert_eq!(told(&whole), [("fade has no shape".into(), Severity::Warn, 3.0)]);
        let gap = actor("hero", vec![("walk", vec![clad.clone(), without(Role::Body), clad.clone()])]);
        assert_eq!(told(&gap), [("The body is missing on walk 1".into(), Severity::Warn, 1.0)]);
        let spark = actor("hero", vec![("stand", vec![clad.clone()]), ("spark", vec![without(Role::Body); 2])]);
        assert_eq!(told(&spark), [("The body is missing on spark".into(), Severity::Note, 2.0)]);
        // What has no body anywhere needs none.
        assert_eq!(told(&actor("gate", vec![("stand", vec![without(Role::Body); 2])])), []);
    }
}
