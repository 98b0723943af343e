//! sweep_gap: a hit jumps over what lies between two active frames.

use crate::actor::{Pose, Shape};
use crate::finding::Place;
use crate::geometry::{Convex, Point, TOUCH, Vec2, distance};
use crate::hits::{Attack, attacks};
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// What is narrower lets nothing through, px.
const LEAST_GAP: f64 = 1.0;

#[derive(Debug)]
pub(crate) struct SweepGap;

impl StillRule for SweepGap {
    const SPEC: Spec = Spec {
        code: "sweep_gap",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "From one active frame of an attack to the next the hit moves further than its own size, so that what \
                    lies between is struck by neither.",
            matters: "A small or thin target in the middle of the swing is not hit, now and then.",
            measured: "The distance between the hit's shapes on two frames that follow each other, as drawn. It counts \
                       beyond 1 px. Gaps across the actor's own body do not count, nor hits with `again_after`, which \
                       strike several times.",
            fix: "Extend the hit on one of the two frames by the figure, or add an active frame between them.",
            drawing: "   [2]  <-gap->  [3]\n          o\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        for attack in attacks(actor) {
            let animation = &actor.animations[attack.animation];
            for pair in attack.frames.windows(2).filter(|pair| pair[1] == pair[0] + 1) {
                let poses = [pair[0], pair[1]].map(|frame| actor.drawn_pose(attack.animation, frame));
                let Some(gap) = gap(&attack, poses) else { continue };
                let [before, after] = [pair[0], pair[1]].map(|frame| format!("{} {frame}", animation.name));
                let hit = &attack.shape;
                out.report(Fault {
                    subject: facts.name.to_string(),
                    place: Place::Actor(before.clone()),
                    figure: gap.wide,
                    message: format!(
                        "{hit} moves from {before} to {after} over {:.2} px that neither of the two strikes",
                        gap.wide
                    ),
                    fix: format!(
                        "Extend {hit} on {before} by {}, or add a frame between the two with the hit there.",
                        toward(gap.way * gap.wide)
                    ),
                });
            }
        }
    }
}

/// What lies between the shapes of two frames.
struct Gap {
    wide: f64,
    /// From the first to the second.
    way: Vec2,
}

fn gap(attack: &Attack, poses: [&Pose; 2]) -> Option<Gap> {
    let hit = |pose: &'_ Pose| pose.shapes.iter().position(|shape| shape.name == attack.shape);
    let shapes: [&Shape; 2] = [&poses[0].shapes[hit(poses[0])?], &poses[1].shapes[hit(poses[1])?]];
    if shapes[0].carries.again_after.is_some() {
        return None;
    }
    let mut nearest: Option<(Gap, Point)> = None;
    for one in &shapes[0].pieces {
        for other in &shapes[1].pieces {
            // Pieces that touch or overlap leave nothing between them.
            let (wide, way) = distance(one, Vec2::ZERO, other)?;
            if nearest.as_ref().is_none_or(|(known, _)| wide < known.wide) {
                nearest = Some((Gap { wide, way }, foremost(one, way) + way * (wide / 2.0)));
            }
        }
    }
    let (gap, middle) = nearest.filter(|(gap, _)| gap.wide > LEAST_GAP)?;
    let is_own = |pose: &Pose| pose.body().is_some_and(|body| body.bounds().contains(middle));
    (!poses.into_iter().any(is_own)).then_some(gap)
}

/// The middle of a piece's corners that lie farthest along a way.
fn foremost(piece: &Convex, way: Vec2) -> Point {
    let end = piece.extent(way).1 - TOUCH;
    let corners: Vec<Vec2> = piece.points().iter().map(|point| point.to_vec2()).collect();
    let foremost = corners.iter().filter(|corner| corner.dot(way) >= end);
    let count = foremost.clone().count().max(1) as f64;
    (foremost.fold(Vec2::ZERO, |sum, corner| sum + *corner) / count).to_point()
}

/// A way in words, of an actor as it is drawn to face.
fn toward(by: Vec2) -> String {
    let side = |px: f64, words: [&str; 2]| match px {
        _ if px.abs() < 0.005 => None,
        px => Some(format!("{:.2} px {}", px.abs(), words[usize::from(px < 0.0)])),
    };
    let words: Vec<String> =
        [side(by.x, ["to the right", "to the left"]), side(by.y, ["down", "up"])].into_iter().flatten().collect();
    words.join(" and ")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Carried, Role};
    use crate::geometry::Rect;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::fight::{actor, shape};

    fn beak(x: f64, y: f64) -> Shape {
        shape("beak", Role::Hit, Rect::new(x, y, x + 6.0, y + 6.0), 0, Carried::default())
    }

    fn found(frames: Vec<Vec<Shape>>) -> Vec<String> {
        of_actor::<SweepGap>(&facts(&actor("gull", vec![("peck", frames)])))
    }

    #[test]
    fn what_lies_between_two_active_frames_is_told_and_mended_by_the_figure() {
        let gap = [
            "peck 1: 8: beak moves from peck 1 to peck 2 over 8.00 px that neither of the two strikes. Extend beak on peck 1 by 8.00 px down, or add a frame between the two with the hit there.",
        ];
        assert_eq!(found(vec![vec![], vec![beak(10.0, -20.0)], vec![beak(10.0, -6.0)], vec![]]), gap);
        // The two mends.
        let longer = shape("beak", Role::Hit, Rect::new(10.0, -20.0, 16.0, -6.0), 0, Carried::default());
        assert_eq!(found(vec![vec![longer], vec![beak(10.0, -6.0)]]), [""; 0]);
        assert_eq!(found(vec![vec![beak(10.0, -20.0)], vec![beak(10.0, -13.0)], vec![beak(10.0, -6.0)]]), [""; 0]);
        // No gap: frames between that strike nothing are meant, and a swing round the body has the body between.
        assert_eq!(found(vec![vec![beak(10.0, -20.0)], vec![], vec![beak(10.0, -6.0)]]), [""; 0]);
        let body = || shape("body", Role::Body, Rect::new(-6.0, -30.0, 6.0, 0.0), 0, Carried::default());
        assert_eq!(found(vec![vec![beak(12.0, -20.0), body()], vec![beak(-18.0, -20.0), body()]]), [""; 0]);
        // Strikes of their own are no sweep.
        let mut again = [beak(10.0, -20.0), beak(10.0, -6.0)];
        again.iter_mut().for_each(|beak| beak.carries.again_after = Some(1));
        assert_eq!(found(again.into_iter().map(|beak| vec![beak]).collect()), [""; 0]);
    }
}
