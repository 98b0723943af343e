//! shape_jump: a shape moves much farther between two frames than the art it is fitted to.

use crate::actor::Shape;
use crate::art::{LatticeRing, contours};
use crate::finding::Place;
use crate::fit::{Fitting, Selection, selection};
use crate::geometry::{Point, Polygon, deviation};
use crate::lint::facts::{AnimationArt, AnimationFacts};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// A shape that moves this much farther than its art leaps, px.
const LEAST_LEAP: f64 = 3.0;

#[derive(Debug)]
pub(crate) struct ShapeJump;

/// A shape on a frame, what it is fitted to, and the frame's pivot.
struct OnFrame<'a> {
    shape: &'a Shape,
    selection: Selection,
    pivot: Point,
}

impl StillRule for ShapeJump {
    const SPEC: Spec = Spec {
        code: "shape_jump",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A shape moves much farther from one frame of an animation to the next than the art it is fitted to.",
            matters: "Hits land or miss for a frame where nothing is seen to move, and a body that leaps pushes its actor \
                      about.",
            measured: "From frame to frame of an animation, from the pivot: the Hausdorff distance of the shape's two \
                       outlines less that of the two sets of pixels it is fitted to. It counts beyond 3 px.",
            fix: "Share the shape over the animation; or drop what flickers with `min_thickness` or `min_island`; or edit \
                  the frame named by hand.",
            drawing: "   walk 2     walk 3\n    __         ____\n   |o |       |o   |\n   |/|        |/|  |  <- figure\n",
        },
    };

    fn animation(facts: &AnimationArt<'_>, out: &mut Out<'_>) {
        let animation = &facts.actor.animations[facts.animation];
        for shape in &facts.actor.shapes {
            let Some(fitting) = shape.fitting else { continue };
            let leaps: Vec<Leap> = animation
                .frames
                .clone()
                .skip(1)
                .filter_map(|frame| {
                    let shapes = [frame - 1, frame].map(|frame| facts.actor.drawn_shape(animation, frame, shape.name));
                    let [Some(before), Some(now)] = shapes else { return None };
                    // Most shapes stay as they are, and selecting pixels is dear.
                    if before.polygons == now.polygons {
                        return None;
                    }
                    let on = |frame: usize, shape| on_frame(facts, animation, frame, (shape, fitting));
                    let by = leap(&on(frame - 1, before), &on(frame, now)).filter(|by| *by > LEAST_LEAP)?;
                    Some(Leap { by, number: frame - animation.frames.start })
                })
                .collect();
            let worst = leaps.iter().fold(None, |known: Option<&Leap>, leap| match known {
                Some(known) if known.by >= leap.by => Some(known),
                _ => Some(leap),
            });
            let Some(Leap { by, number }) = worst else { continue };
            let times = match leaps.len() {
                1 => String::new(),
                count => format!("; {count} leaps in {}", animation.name),
            };
            out.report(Fault {
                subject: facts.actor.name.to_string(),
                place: Place::Actor(format!("{} {number}", animation.name)),
                figure: *by,
                message: format!(
                    "{} moves {by:.1} px farther than its art from {} {} to {number}{times}",
                    shape.name,
                    animation.name,
                    number - 1
                ),
                fix: format!(
                    "Set `share = \"animation\"` in [shape.{}], or drop what flickers with `min_thickness` or \
                     `min_island`.",
                    shape.table
                ),
            });
        }
    }
}

struct Leap {
    by: f64,
    number: usize,
}

/// The shape with what it is fitted to.
fn on_frame<'a>(
    facts: &AnimationArt<'_>,
    animation: &AnimationFacts<'_>,
    frame: usize,
    (shape, fitting): (&'a Shape, &Fitting),
) -> OnFrame<'a> {
    let art = &facts.art[frame - animation.frames.start];
    OnFrame { shape, selection: selection(art, fitting), pivot: facts.actor.frames[frame].pivot }
}

/// How much farther a shape moves between two frames than the pixels it is fitted to, px from the pivot: the Hausdorff
/// distance of its outlines less that of the pixels'. At or below 0 where the art moves as far. `None` where either frame
/// selects nothing.
///
/// # Complexity
/// As told for [`deviation`].
fn leap(one: &OnFrame<'_>, other: &OnFrame<'_>) -> Option<f64> {
    if one.selection.is_empty() || other.selection.is_empty() {
        return None;
    }
    let rings = |of: &OnFrame<'_>| -> Vec<Vec<Point>> {
        of.shape.polygons.iter().map(|p: &Polygon| p.points().to_vec()).collect()
    };
    let traced = |of: &OnFrame<'_>| -> Vec<Vec<Point>> {
        let by = of.selection.corner() - of.pivot.to_vec2();
        let local = |ring: &LatticeRing| ring.points().into_iter().map(|p| p + by).collect();
        contours(&of.selection.mask).iter().map(local).collect()
    };
    let apart = |one: &[Vec<Point>], other: &[Vec<Point>]| {
        let one: Vec<&[Point]> = one.iter().map(Vec::as_slice).collect();
        let other: Vec<&[Point]> = other.iter().map(Vec::as_slice).collect();
        deviation(&one, &other)
    };
    Some(apart(&rings(one), &rings(other)) - apart(&traced(one), &traced(other)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Pose, Role};
    use crate::art::Picture;
    use crate::fit::{FrameArt, Kind};
    use crate::geometry::Rect;
    use crate::lint::facts::{ActorFacts, ShapeFacts};
    use crate::lint::testing::{facts, frame, of_art};
    use crate::testing::{HERO, actor, shape};

    #[test]
    fn a_shape_moves_no_farther_than_its_art() {
        let fitting = Fitting::of(Kind::Box);
        // Art of 8 by 8 px that stands still, or moves 5 px, under boxes of which the second is `wide` px wider.
        let with = |moves: u32, wide: f64| {
            let art = [0, moves].map(|by| {
                let pixel = |at: u32| {
                    if (4 + by..12 + by).contains(&(at % 24)) && at / 24 >= 4 { [9, 9, 9, 255] } else { [0; 4] }
                };
                FrameArt { picture: Picture::new(24, 12, (0..24 * 12).map(pixel).collect()).unwrap(), parts: None }
            });
            let frames = [(0.0, 0.0), (f64::from(moves), wide)].map(|(by, wide)| Pose {
                shapes: vec![shape("body", Role::Body, Rect::new(-8.0 + by, -8.0, by + wide, 0.0), HERO, None)],
                ..Pose::default()
            });
            let of = actor("hero", vec![("walk", frames.to_vec())]);
            let actor = ActorFacts {
                animations: vec![AnimationFacts { name: "walk", frames: 0..2, must_stand: false, active: None }],
                frames: ["walk 0", "walk 1"].map(|name| frame(name, (12.0, 12.0), (24.0, 12.0))).to_vec(),
                shapes: vec![ShapeFacts {
                    name: "body",
                    table: "body",
                    fitting: Some(&fitting),
                    siblings: None,
                    held: vec![],
                    hand_made: vec![],
                }],
                ..facts(&of)
            };
            of_art::<ShapeJump>(&AnimationArt { actor: &actor, animation: 0, art: &art })
        };
        assert_eq!(with(5, 0.0), [""; 0], "with the art");
        assert_eq!(with(0, 3.0), [""; 0]);
        assert_eq!(
            with(0, 6.0),
            [
                "walk 1: 6: body moves 6.0 px farther than its art from walk 0 to 1. Set `share = \"animation\"` in [shape.body], or drop what flickers with `min_thickness` or `min_island`."
            ]
        );
    }
}
