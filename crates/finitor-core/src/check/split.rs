//! Pictures that look to one side while their shapes look to the other.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Moment;
use super::words::px;
use super::{Cause, Rule, Worst};
use crate::actor::{Actor, Pose, Shape};
use crate::facing::Facing;
use crate::geometry::Vec2;
use crate::take::Sample;

/// The art of the other thing in a finding.
const PICTURE: &str = "its picture";

/// The fault of a tick on which the game drew the picture the other way than the facing says.
pub(super) fn facing_split(
    world: &World<'_>,
    sample: &Sample,
    (before, now): (Option<&Moment>, &Moment),
    ledger: &Ledger,
) -> Option<Fault> {
    if !now.is_split {
        return None;
    }
    let actor = &world.actors[sample.actor];
    let (facing, seen) = (now.facing, now.facing.turned());
    let pose = actor.pose(now.animation, now.frame, facing);
    let apart = sides_apart(pose, actor.pose(now.animation, now.frame, seen));
    let shape = pose.body().or_else(|| pose.shapes.first()).map_or("shapes", |shape| &shape.name);
    let running = ledger.running(Rule::FacingSplit, &sample.label, PICTURE, now.tick);
    let remedy = running.map_or_else(|| who_turned(before, now, seen), |known| known.remedy.clone());
    let cause = running.map_or(if before.is_none() { Cause::Spawned } else { Cause::Turned }, |known| known.cause);
    Some(Fault {
        rule: Rule::FacingSplit,
        actor: sample.label.clone(),
        shape: shape.to_string(),
        with: PICTURE.to_string(),
        worst: Worst { tick: now.tick, depth: apart, at: now.at, push: Vec2::ZERO },
        cause,
        message: format!(
            "{}'s picture looks {seen} and its shapes look {facing} on {}: their sides are up to {} px apart.",
            sample.label,
            frame_name(actor, now),
            px(apart)
        ),
        remedy,
        // With both to the same side the sides lie on each other.
        remains: Some(sides_apart(pose, pose)),
    })
}

fn frame_name(actor: &Actor, now: &Moment) -> String {
    format!("{} {}", actor.animations[now.animation].name, now.frame)
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

fn who_turned(before: Option<&Moment>, now: &Moment, seen: Facing) -> String {
    let facing = now.facing;
    match before {
        Some(before) if before.facing != facing => {
            format!("flip the picture as well: at tick {} the shapes turned {facing} and it stayed {seen}", now.tick)
        }
        Some(before) if !before.is_split => {
            format!("turn the shapes as well: at tick {} the picture turned {seen} and they stayed {facing}", now.tick)
        }
        _ => "take the facing and the flip of the picture from one value".to_string(),
    }
}
