//! facing_split: the picture faces one way and the shapes the other.

use crate::actor::{Pose, Shape};
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::step::Way;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::check::{CheckInput, Settings};
use crate::finding::{Cause, Span};
use crate::geometry::Vec2;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct FacingSplit;

impl TakeRule for FacingSplit {
    const SPEC: Spec = Spec {
        code: "facing_split",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "The picture faces one way and the shapes the other.",
            matters: "What is seen and what collides are mirror images: the pole strikes behind the actor.",
            measured: "The take's column flipped_art says on which ticks the game drew the picture mirrored; on those, \
                       and only those, the facing must not be the one the frame is drawn for. The figure is how far the \
                       sides of the frame's shapes are from where they would be on the side that the picture shows.",
            fix: "Turn picture and shapes on the same tick: take both from one value.",
            drawing: "    picture ->    <- shapes\n       |/           \\|\n       |             |\n",
        },
    };
    type Seen = ();

    fn new(_: &Settings) -> FacingSplit {
        FacingSplit
    }

    fn pose<'a>(&mut self, input: &CheckInput<'a>, way: &Way, out: &mut Ledger<'a, ()>) {
        let now = &way.now;
        if !now.is_split {
            return;
        }
        let actor = input.actor(way.actor);
        let pose = actor.pose(now.animation, now.frame, now.facing);
        let apart = sides_apart(pose, actor.pose(now.animation, now.frame, now.facing.turned()));
        let key = Key { instance: way.instance, with: With::Picture };
        out.see(key, Span::at(now.tick), apart, || Sighting {
            tick: now.tick,
            figure: apart,
            at: now.at,
            push: Vec2::ZERO,
            cause: if way.before.is_none() { Cause::Spawned } else { Cause::Turned },
            shape: pose.body().or_else(|| pose.shapes.first()).map_or("shapes", |shape| &shape.name),
            way: *way,
            seen: (),
        });
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, ()>) -> Words {
        let now = &case.worst.way.now;
        let (facing, seen) = (now.facing, now.facing.turned());
        let actor = scene.input.actor(case.worst.way.actor);
        let pose = actor.pose(now.animation, now.frame, facing);
        Words {
            message: format!(
                "The art of {} faces {seen}, its shapes face {facing} on {}: their sides are up to {} apart",
                scene.label(case.key.instance),
                now.frame_name(actor),
                px(case.worst.figure)
            ),
            fix: who_turned(&case.first.way),
            // With both on one side the sides lie on each other.
            remains: sides_apart(pose, pose),
            end_at: None,
            change: None,
        }
    }
}

/// How far the sides of a pose's shapes are from those of the other facing, the farthest.
fn sides_apart(pose: &Pose, other: &Pose) -> f64 {
    let apart = |shape: &Shape| {
        let twin = other.shapes.iter().find(|twin| twin.name == shape.name)?;
        let (a, b) = (shape.bounds(), twin.bounds());
        Some((a.x0 - b.x0).abs().max((a.x1 - b.x1).abs()))
    };
    pose.shapes.iter().filter_map(apart).fold(0.0, f64::max)
}

fn who_turned(way: &Way) -> String {
    let now = &way.now;
    let (facing, seen) = (now.facing, now.facing.turned());
    match way.before {
        Some(before) if before.facing != facing => {
            format!("Flip the art too on tick {}: the shapes turned {facing}, the art stayed {seen}.", now.tick)
        }
        Some(before) if !before.is_split => {
            format!("Flip the shapes too on tick {}: the art turned {seen}, the shapes stayed {facing}.", now.tick)
        }
        _ => format!("Flip both on the same tick ({}): take both from one value.", now.tick),
    }
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::check::{CheckInput, Checker, Settings};
    use crate::testing::*;

    #[test]
    fn art_that_faces_away_from_the_shapes_is_reported_with_the_side_that_did_not_turn() {
        // Facing, and whether the picture was drawn mirrored; the art is drawn facing right.
        let told = |rows: &[(Facing, Option<bool>)]| {
            let (actors, layers, settings, stage) = ([hero(0)], layers(), Settings::default(), floored());
            let mut checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
            for (tick, (facing, flipped)) in rows.iter().enumerate() {
                let mut sample = sample(&actors, "hero", ((50.0, LEVEL), *facing), "stand", "");
                sample.flipped_art = *flipped;
                checker.tick(tick as u64, &[sample]);
            }
            checker.finish()
        };
        let (right, left) = (Facing::Right, Facing::Left);
        let late = told(&[(right, Some(false)), (left, Some(false)), (left, Some(true))]);
        // 4 px ahead and 6 behind: turned, each side is 2 px off.
        assert_eq!(short(&late), [found("facing_split", "its picture", (1, 1), 2.0, "turned")]);
        assert!(late.findings[0].fix.starts_with("Flip the art too on tick 1"), "{}", late.findings[0].fix);
        let alone = told(&[(right, Some(false)), (right, Some(true)), (right, Some(false))]);
        assert!(alone.findings[0].fix.starts_with("Flip the shapes too on tick 1"), "{}", alone.findings[0].fix);
        // Both at once, and a take that does not say.
        assert_eq!(brief(&told(&[(right, Some(false)), (left, Some(true))])), []);
        assert_eq!(brief(&told(&[(right, None), (left, None)])), []);
    }
}
