//! empty_frame: a frame shows nothing.

use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct EmptyFrame;

impl StillRule for EmptyFrame {
    const SPEC: Spec = Spec {
        code: "empty_frame",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "A frame of an animation has no opaque pixel.",
            matters: "The actor vanishes for a moment, and nothing can be fitted to the frame: most often `cells` counts one \
                      cell too many.",
            measured: "The pixels of every frame at the project's `alpha`. The figure is the number of such frames in the \
                       animation.",
            fix: "Leave the frame out, or correct `cells`, `cell`, `key` or `alpha`.",
            drawing: "   walk 0   walk 1   walk 2\n     o        o\n    /|\\      /|\\      (none)\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        for animation in &facts.animations {
            let frames = &facts.frames[animation.frames.clone()];
            let empty: Vec<&str> =
                frames.iter().filter(|frame| frame.foot.is_none()).map(|frame| frame.name.as_str()).collect();
            let Some(first) = empty.first() else { continue };
            let more = empty.len() - 1;
            let what = match more {
                0 => format!("{first} has no opaque pixel"),
                _ => format!("{first} and {more} more of {} have no opaque pixel", animation.name),
            };
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(animation.name.to_string()),
                figure: empty.len() as f64,
                message: what,
                fix: "Leave such frames out of `cells`, or correct `cell`, `key` or `alpha`.".to_string(),
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::actor::Foot;
    use crate::check::Settings;
    use crate::geometry::Point;
    use crate::lint::{ActorFacts, AnimationFacts, FitState, FrameFacts, lint_actor};

    #[test]
    fn frames_without_a_pixel_are_counted_animation_by_animation() {
        let frame = |name: &str, is_empty: bool| FrameFacts {
            name: name.to_string(),
            pivot: Point::new(8.0, 16.0),
            foot: (!is_empty).then(|| Foot { y: 0.0, runs: vec![(-4.0, 4.0)] }),
            width: 16.0,
            height: 16.0,
            drift: 0.0,
            opaque: vec![],
            sheet: None,
        };
        let frames = [("idle 0", false), ("walk 0", false), ("walk 1", true), ("walk 2", true), ("fall 0", true)];
        let of = |name, frames| AnimationFacts { name, frames, must_stand: false, active: None };
        let facts = ActorFacts {
            name: "hero",
            animations: vec![of("idle", 0..1), of("walk", 1..4), of("fall", 4..5)],
            frames: frames.into_iter().map(|(name, is_empty)| frame(name, is_empty)).collect(),
            shapes: vec![],
            parts: vec![],
            missing_anchors: vec![],
            fits: FitState::Current,
            fitted: None,
        };
        let found = lint_actor(&facts, &Settings::default());
        let told: Vec<_> = found.iter().map(|found| (found.finding.message.as_str(), found.finding.figure)).collect();
        assert_eq!(
            told,
            [("walk 1 and 1 more of walk have no opaque pixel", 2.0), ("fall 0 has no opaque pixel", 1.0)]
        );
    }
}
