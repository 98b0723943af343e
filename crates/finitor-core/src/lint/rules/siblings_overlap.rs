//! siblings_overlap: shapes of one table, a part each, overlap.

use crate::finding::Place;
use crate::geometry::shared_area;
use crate::lint::facts::{ActorFacts, ShapeFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// Siblings that share less than this only touch, px2.
const LEAST_SHARED: f64 = 0.5;

#[derive(Debug)]
pub(crate) struct SiblingsOverlap;

impl StillRule for SiblingsOverlap {
    const SPEC: Spec = Spec {
        code: "siblings_overlap",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px2,
        thresholds: &[],
        text: RuleText {
            means: "Two shapes of one table that makes a shape a part overlap on a frame.",
            matters: "A strike there counts as both parts, and the game takes whichever it finds first.",
            measured: "The area both share, frame by frame; it counts from half a px² on. Fits are cut where parts meet, so \
                       it comes from hand edits.",
            fix: "Move the edited points apart, or run `finitor fit --unlock --only PART`; or set `siblings_overlap = \
                  true`.",
            drawing: "    ____\n   | head\n   |__##__   both\n    |##  torso\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let parted: Vec<&ShapeFacts<'_>> = facts.shapes.iter().filter(|shape| shape.siblings.is_some()).collect();
        for (i, one) in parted.iter().enumerate() {
            for other in parted[i + 1..].iter().filter(|other| other.siblings == one.siblings) {
                if let Some(fault) = overlap(facts, one.name, other.name) {
                    out.report(fault);
                }
            }
        }
    }
}

fn overlap(facts: &ActorFacts<'_>, one: &str, other: &str) -> Option<Fault> {
    let fitted = facts.fitted?;
    let mut over: Vec<(f64, usize)> = Vec::new();
    for animation in &facts.animations {
        let Some(index) = fitted.find(animation.name) else { continue };
        for frame in animation.frames.clone() {
            let pose = fitted.drawn_pose(index, frame - animation.frames.start);
            let find = |name: &str| pose.shapes.iter().find(|shape| shape.name == name);
            let Some((a, b)) = find(one).zip(find(other)) else { continue };
            let area = shared_area(&a.pieces, &b.pieces);
            if area >= LEAST_SHARED {
                over.push((area, frame));
            }
        }
    }
    let &(area, frame) = over.iter().max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.cmp(&a.1)))?;
    let name = &facts.frames[frame].name;
    let count = if over.len() == 1 { "1 frame".to_string() } else { format!("{} frames", over.len()) };
    Some(Fault {
        subject: facts.name.to_string(),
        place: Place::Actor(name.clone()),
        figure: area,
        message: format!("{one} and {other} share {area:.1} px² on {name}, and overlap on {count}"),
        fix: format!(
            "Move the points of either apart, or run `finitor fit {} --unlock --only {one} {other}`.",
            facts.name
        ),
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Actor, Pose, Role};
    use crate::geometry::Rect;
    use crate::lint::facts::AnimationFacts;
    use crate::lint::testing::{facts, frame, of_actor};
    use crate::testing::{HERO, actor, shape};

    #[test]
    fn parts_of_one_figure_share_nothing() {
        let with = |high: f64| {
            let [head, trunk] = [("head", [-20.0, -12.0]), ("trunk", [0.0 - 12.0 - high, 0.0])]
                .map(|(name, [top, bottom])| shape(name, Role::Hurt, Rect::new(-4.0, top, 4.0, bottom), HERO, None));
            let of: Actor = actor("hero", vec![("stand", vec![Pose { shapes: vec![head, trunk], ..Pose::default() }])]);
            let part = |name| ShapeFacts {
                name,
                table: "parts",
                fitting: None,
                siblings: Some("parts"),
                held: vec![],
                hand_made: vec![],
            };
            of_actor::<SiblingsOverlap>(&ActorFacts {
                animations: vec![AnimationFacts { name: "stand", frames: 0..1, must_stand: false, active: None }],
                frames: vec![frame("stand 0", (10.0, 24.0), (20.0, 24.0))],
                shapes: vec![part("head"), part("trunk")],
                ..facts(&of)
            })
        };
        assert_eq!(with(0.0), [""; 0]);
        assert_eq!(
            with(2.0),
            [
                "stand 0: 16: head and trunk share 16.0 px² on stand 0, and overlap on 1 frame. Move the points of either apart, or run `finitor fit hero --unlock --only head trunk`."
            ],
            "2 px of 8"
        );
    }
}
