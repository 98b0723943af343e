//! lone_edit: a shape that is one over several frames is another one on a few of them.

use crate::actor::Shape;
use crate::finding::Place;
use crate::geometry::{Point, deviation};
use crate::lint::facts::{ActorFacts, ShapeFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct LoneEdit;

impl StillRule for LoneEdit {
    const SPEC: Spec = Spec {
        code: "lone_edit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A shape that is held over several frames was moved by hand on one of them, or a few.",
            matters: "The actor changes its outline on that frame alone, and catches on what it passes on all others.",
            measured: "The outlines of a shape with `share = \"animation\"` or `\"actor\"` are compared from the pivot. The \
                       figure is the Hausdorff distance of a frame's outline from the one that most frames have.",
            fix: "Run `finitor fit --everywhere` to copy the edit to all frames over which the shape is held, or `finitor \
                  fit --unlock --only SHAPE` to drop it.",
            drawing: "   walk 0   walk 1   walk 2\n    +--+     +---+    +--+\n    |  |     |   |    |  |\n    +--+     +---+    +--+\n               ^ figure\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        for (shape, frames) in facts.shapes.iter().flat_map(|shape| shape.held.iter().map(move |held| (shape, held))) {
            let drawn = |frame: usize| {
                let animation = facts.animations.iter().find(|animation| animation.frames.contains(&frame))?;
                facts.drawn_shape(animation, frame, shape.name)
            };
            let on: Vec<(usize, &Shape)> = frames.iter().filter_map(|frame| Some((*frame, drawn(*frame)?))).collect();
            let Some(usual) = usual(&on) else { continue };
            let odd: Vec<&(usize, &Shape)> = on.iter().filter(|(_, one)| one.polygons != usual.polygons).collect();
            if odd.len() * 2 >= on.len() {
                continue;
            }
            for (frame, one) in &odd {
                report(facts, shape, Edit { frame: *frame, one, usual, others: on.len() - odd.len() }, out);
            }
        }
    }
}

/// The shape that more than half of the frames have, where any is.
///
/// # Source
/// Robert S. Boyer and J Strother Moore, "MJRTY: A Fast Majority Vote Algorithm", 1981.
fn usual<'a>(on: &[(usize, &'a Shape)]) -> Option<&'a Shape> {
    let vote = on.iter().fold(None, |known: Option<(&'a Shape, usize)>, (_, one)| match known {
        Some((shape, lead)) if shape.polygons == one.polygons => Some((shape, lead + 1)),
        Some((shape, lead)) if lead > 1 => Some((shape, lead - 1)),
        Some(_) => None,
        None => Some((one, 1)),
    });
    vote.map(|(shape, _)| shape)
}

/// A frame on which a shape is another one.
struct Edit<'e> {
    frame: usize,
    one: &'e Shape,
    usual: &'e Shape,
    /// Frames that have the usual one.
    others: usize,
}

fn report(facts: &ActorFacts<'_>, shape: &ShapeFacts<'_>, edit: Edit<'_>, out: &mut Out<'_>) {
    fn rings(of: &Shape) -> Vec<&[Point]> {
        of.polygons.iter().map(|polygon| polygon.points()).collect()
    }
    let by = deviation(&rings(edit.one), &rings(edit.usual));
    let (name, actor, frame) = (shape.name, facts.name, &facts.frames[edit.frame].name);
    out.report(Fault {
        subject: actor.to_string(),
        place: Place::Actor(frame.clone()),
        figure: by,
        message: format!("{name} was moved by {by:.2} px on {frame}, and not on the {} other frames it is held over", edit.others),
        fix: format!(
            "Run `finitor fit {actor} --everywhere --only {name}` to move it there too, or `finitor fit {actor} --unlock --only {name}` to drop the edit."
        ),
    });
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Rect;
    use crate::geometry::Polygon;
    use crate::lint::AnimationFacts;
    use crate::lint::testing::{facts, frame, of_actor};
    use crate::testing::{actor, hero};

    #[test]
    fn a_frame_that_was_moved_alone_is_told_and_frames_that_all_differ_are_not() {
        let with = |rights: [f64; 4]| {
            let pose = |right: f64| {
                let mut pose = hero(0).animations[0].frames[0][0].clone();
                let body = &mut pose.shapes[0];
                body.polygons = vec![Polygon::from_rect(Rect::new(-6.0, -20.0, right, 0.0)).unwrap()];
                pose
            };
            let of = actor("hero", vec![("walk", rights.map(pose).to_vec())]);
            let held = ShapeFacts {
                name: "body",
                table: "body",
                fitting: None,
                siblings: None,
                held: vec![vec![0, 1, 2, 3]],
                hand_made: vec![],
            };
            let walk = AnimationFacts { name: "walk", frames: 0..4, must_stand: false, active: None };
            let frames = (0..4).map(|number| frame(&format!("walk {number}"), (0.0, 0.0), (20.0, 24.0)));
            let frames = frames.collect();
            of_actor::<LoneEdit>(&ActorFacts { animations: vec![walk], frames, shapes: vec![held], ..facts(&of) })
        };
        assert_eq!(with([4.0; 4]), [""; 0]);
        assert_eq!(with([4.0, 4.0, 7.5, 4.0]).len(), 1);
        assert!(
            with([4.0, 4.0, 7.5, 4.0])[0]
                .starts_with("walk 2: 3.5: body was moved by 3.50 px on walk 2, and not on the 3 other")
        );
        assert_eq!(with([4.0, 5.0, 4.0, 5.0]), [""; 0]);
        assert_eq!(with([4.0, 5.0, 6.0, 7.0]), [""; 0]);
    }
}
