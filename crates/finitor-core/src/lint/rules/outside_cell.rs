//! outside_cell: a pivot or a box that does not go with the picture.

use crate::actor::Role;
use crate::facing::Facing;
use crate::finding::Place;
use crate::geometry::Rect;
use crate::lint::facts::{ActorFacts, FrameFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct OutsideCell;

impl StillRule for OutsideCell {
    const SPEC: Spec = Spec {
        code: "outside_cell",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A pivot lies far outside of its frame's cell, or a body or hurt box reaches beyond the cell.",
            matters: "Numbers of another picture, or corners in place of width and height: the shape stands beside the art.",
            measured: "Cell px: left, top, width, height, counted from the cell's top left. A pivot may lie up to half a \
                       cell outside, as that of a thing in the air does. Only boxes that the file gives are looked at; hits and \
                       sensors may reach where they like. The figure is by how much it is outside.",
            fix: "Correct the numbers: `pivot` is a place in the cell, `box` is left, top, width, height.",
            drawing: "   +--------+\n   |   o  [ |   ]\n   |  /|\\ [ |   ]   figure\n   +--------+\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        for animation in &facts.animations {
            let frames = facts.frames[animation.frames.clone()].iter();
            let outside = frames.map(|frame| (frame, pivot_outside(frame))).max_by(|a, b| a.1.total_cmp(&b.1));
            let Some((frame, by)) = outside.filter(|(_, by)| *by > 0.0) else { continue };
            let FrameFacts { name, pivot, width, height, .. } = frame;
            out.report(Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(name.clone()),
                figure: by,
                message: format!(
                    "The pivot ({:.2}, {:.2}) of {name} lies {by:.2} px outside of its cell of {width:.0} x {height:.0} px",
                    pivot.x, pivot.y
                ),
                fix: "Give `pivot` as a place in the cell, counted from its top left; the feet, as a rule.".to_string(),
            });
        }
        boxes_outside(facts, out);
    }
}

/// How far the pivot lies outside of the cell, where that is more than half of it; else 0.
fn pivot_outside(frame: &FrameFacts) -> f64 {
    let beyond = |at: f64, size: f64| (0.0 - at).max(at - size).max(0.0);
    let (x, y) = (beyond(frame.pivot.x, frame.width), beyond(frame.pivot.y, frame.height));
    if x > frame.width / 2.0 || y > frame.height / 2.0 { x.max(y) } else { 0.0 }
}

/// Boxes that the file gives, where they reach furthest beyond their cells.
fn boxes_outside(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
    let Some(actor) = facts.fitted else { return };
    for shape in facts.shapes.iter().filter(|shape| shape.fitting.is_none()) {
        let mut worst: Option<Reach<'_>> = None;
        for (animation, of) in facts.animations.iter().filter_map(|of| Some((actor.find(of.name)?, of))) {
            for (poses, frame) in actor.animations[animation].frames.iter().zip(&facts.frames[of.frames.clone()]) {
                let facing = actor.animations[animation].faces;
                let on = poses[facing.index()].shapes.iter().find(|on| on.name == shape.name && is_given(on.role));
                let Some(on) = on.filter(|on| on.side.is_none()) else { continue };
                // Local space counts from the pivot, towards where the art is drawn to look.
                let seen = if facing == Facing::Right { on.bounds() } else { on.mirrored().bounds() };
                let rect = seen + frame.pivot.to_vec2();
                let by = (0.0 - rect.x0).max(0.0 - rect.y0).max(rect.x1 - frame.width).max(rect.y1 - frame.height);
                if by > 1.0 && worst.as_ref().is_none_or(|known| by > known.by) {
                    worst = Some(Reach { frame, rect, by });
                }
            }
        }
        let Some(Reach { frame, rect, by }) = worst else { continue };
        let FrameFacts { name, width, height, .. } = frame;
        out.report(Fault {
            subject: facts.name.to_string(),
            place: Place::Actor(name.clone()),
            figure: by,
            message: format!(
                "{} reaches {by:.2} px beyond the cell of {name}, {width:.0} x {height:.0} px",
                shape.name
            ),
            fix: as_corners(rect, frame).unwrap_or_else(|| {
                format!("Give `box` in [shape.{}] as left, top, width, height, inside the cell.", shape.table)
            }),
        });
    }
}

struct Reach<'f> {
    frame: &'f FrameFacts,
    /// The box, cell px.
    rect: Rect,
    by: f64,
}

fn is_given(role: Role) -> bool {
    matches!(role, Role::Body | Role::Hurt)
}

/// The box that was meant if the four numbers are two corners.
fn as_corners(rect: Rect, frame: &FrameFacts) -> Option<String> {
    let (right, bottom) = (rect.width(), rect.height());
    let is_inside = rect.x0 >= 0.0 && rect.y0 >= 0.0 && right <= frame.width && bottom <= frame.height;
    (is_inside && right > rect.x0 && bottom > rect.y0).then(|| {
        let [x, y, wide, high] = [rect.x0, rect.y0, right - rect.x0, bottom - rect.y0];
        format!("Set `box = [{x}, {y}, {wide}, {high}]` if these are corners: left, top, width, height.")
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Actor, Pose, Role};
    use crate::geometry::Point;
    use crate::lint::facts::{AnimationFacts, ShapeFacts};
    use crate::lint::testing::{facts, frame, of_actor};
    use crate::testing::{HERO, actor, shape};

    #[test]
    fn pivots_and_boxes_lie_in_the_cell() {
        let with = |pivot: (f64, f64), rect: [f64; 4]| {
            let [x, y, wide, high] = rect;
            let local = Rect::new(x, y, x + wide, y + high) - Point::from(pivot).to_vec2();
            let body = shape("body", Role::Body, local, HERO, None);
            let of: Actor = actor("hero", vec![("stand", vec![Pose { shapes: vec![body], ..Pose::default() }])]);
            of_actor::<OutsideCell>(&ActorFacts {
                animations: vec![AnimationFacts { name: "stand", frames: 0..1, must_stand: false, active: None }],
                frames: vec![frame("stand 0", pivot, (40.0, 30.0))],
                shapes: vec![ShapeFacts {
                    name: "body",
                    table: "body",
                    fitting: None,
                    siblings: None,
                    held: vec![],
                    hand_made: vec![],
                }],
                ..facts(&of)
            })
        };
        assert_eq!(with((20.0, 30.0), [10.0, 5.0, 20.0, 25.0]), [""; 0]);
        assert_eq!(
            with((20.0, 46.0), [10.0, 5.0, 20.0, 25.0]),
            [
                "stand 0: 16: The pivot (20.00, 46.00) of stand 0 lies 16.00 px outside of its cell of 40 x 30 px. Give `pivot` as a place in the cell, counted from its top left; the feet, as a rule."
            ]
        );
        assert_eq!(
            with((20.0, 30.0), [12.0, 5.0, 32.0, 29.0]),
            [
                "stand 0: 4: body reaches 4.00 px beyond the cell of stand 0, 40 x 30 px. Set `box = [12, 5, 20, 24]` if these are corners: left, top, width, height."
            ]
        );
    }
}
