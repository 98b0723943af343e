//! unlisted_part: an anchor that says what is struck stands for no part.

use crate::actor::{PartAnchor, Role};
use crate::change::{Change, ChangeOf, NewValue, Owned};
use crate::finding::Place;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct UnlistedPart;

impl StillRule for UnlistedPart {
    const SPEC: Spec = Spec {
        code: "unlisted_part",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Frames,
        thresholds: &[],
        text: RuleText {
            means: "A hurt shape lists an anchor in `anchors`, and the anchor has no `part`.",
            matters: "Where that anchor is the nearest to a hit, no part is struck: a hit on the head counts as one on the \
                      body, because a name is missing.",
            measured: "The anchors of each hurt shape. The figure is the number of frames that have the anchor.",
            fix: "Add `part` to the anchor, and `factor` if it has one; or take it out of `anchors`.",
            drawing: "    * skull   part = \"head\"\n    |\n    * hip     -\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        let mut found: Vec<(&str, &PartAnchor, usize)> = Vec::new();
        for index in 0..actor.animations.len() {
            for pose in (0..actor.animations[index].frames.len()).map(|frame| actor.drawn_pose(index, frame)) {
                for hurt in pose.shapes.iter().filter(|shape| shape.role == Role::Hurt) {
                    let nameless = hurt.carries.anchors.iter().filter(|anchor| anchor.part.name.is_none());
                    for anchor in nameless.filter(|anchor| pose.anchor(&anchor.anchor).is_some()) {
                        match found.iter_mut().find(|(shape, known, _)| *shape == hurt.name && *known == anchor) {
                            Some((.., frames)) => *frames += 1,
                            None => found.push((&hurt.name, anchor, 1)),
                        }
                    }
                }
            }
        }
        for (shape, PartAnchor { anchor, .. }, frames) in found {
            let of = ChangeOf::Anchor(Owned::new(facts.name, anchor));
            let change = Change { of, key: "part", value: NewValue::Word(anchor.clone()) };
            out.report_with(
                Some(change),
                Fault {
                    subject: facts.name.to_string(),
                    place: Place::Actor(format!("anchor.{anchor}")),
                    figure: frames as f64,
                    message: format!(
                        "Anchor {anchor} of {shape} has no part: hits nearest to {anchor} count as hits on {shape}"
                    ),
                    fix: format!("Add `part = \"{anchor}\"` to [anchor.{anchor}], or the part that it stands for."),
                },
            );
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::Part;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::fight::actors;

    #[test]
    fn an_anchor_without_a_part_is_reported_where_frames_have_it() {
        let mut gull = actors().remove(1);
        let with = |gull: &mut crate::actor::Actor, part: Option<&str>, at: &[&str]| {
            for pose in gull.animations[0].frames.iter_mut().flatten() {
                let part = Part { name: part.map(Into::into), ..Part::default() };
                pose.shapes[0].carries.anchors = vec![PartAnchor { anchor: "beak".into(), part }];
                pose.anchors = at.iter().map(|name| (name.to_string(), (0.0, 0.0).into())).collect();
            }
            of_actor::<UnlistedPart>(&facts(gull))
        };
        assert_eq!(
            with(&mut gull, None, &["beak"]),
            [
                "anchor.beak: 1: Anchor beak of crown has no part: hits nearest to beak count as hits on crown. Add `part = \"beak\"` to [anchor.beak], or the part that it stands for."
            ]
        );
        assert_eq!(with(&mut gull, Some("head"), &["beak"]), [""; 0]);
        assert_eq!(with(&mut gull, None, &["tail"]), [""; 0], "no frame has the anchor");
    }
}
