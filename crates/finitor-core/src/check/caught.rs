//! One-way platforms that stop or lift what should have passed.

use super::checker::World;
use super::ledger::Fault;
use super::one_way::extent;
use super::step::{Moment, Step};
use super::words::{place, px};
use super::{Cause, Rule, Worst};
use crate::geometry::{Point, Vec2};
use crate::stage::OneWay;

/// A change of speed beyond this is no gravity, px a tick per tick: 60 ticks a second would make it 3,600 px/s2.
const JOLT: f64 = 1.0;

/// The two boxes of a step against a platform, measured along its pass direction.
struct Measures {
    way: Vec2,
    /// The body's trailing and leading ends before and now.
    old_trailing: f64,
    old_leading: f64,
    trailing: f64,
    leading: f64,
    /// The platform's near and far side.
    near: f64,
    far: f64,
    moved: f64,
    speed: f64,
    /// Middle of what body and platform share across the direction.
    middle: f64,
}

/// The body stopped by the platform's near side, or lifted onto its far side, on this step.
pub(super) fn rising(world: &World<'_>, step: &Step<'_>, platform: &OneWay) -> Option<Fault> {
    let measures = measure(step, platform)?;
    let what = caught(&measures, step.slack)?;
    let Measures { way, old_trailing, near, far, moved, speed, middle, .. } = measures;
    // Had it gone on at its speed.
    let expected = Moment { at: step.now.at - way * (moved - speed), ..step.now.clone() };
    let passed = measure(&Step { now: &expected, ..*step }, platform);
    let is_gone = passed.is_none_or(|passed| caught(&passed, step.slack).is_none());
    let with = format!("{}/{}", world.stage.name, platform.name);
    let across = Vec2::new(way.y.abs(), way.x.abs());
    let at = |along: f64| Point::ZERO + way * along + across * middle;
    let fault = |depth: f64, along: f64, message: String, remedy: String| Fault {
        rule: Rule::CaughtRising,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        worst: Worst { tick: step.now.tick, depth, at: at(along), push: way },
        cause: Cause::Moved,
        message,
        remedy,
        remains: Some(if is_gone { 0.0 } else { depth }),
        with: with.clone(),
    };
    match what {
        Caught::Stopped { lost } => Some(fault(
            lost,
            near,
            format!(
                "{}'s {} rose {} px a tick and was stopped by the underside of {with}: {} px of the step are lost.",
                step.label,
                step.body.name,
                px(speed),
                px(lost)
            ),
            format!(
                "let it pass: {with} may stop it only from {} px further on, when it lay wholly beyond {with} on the \
                 tick before",
                px(far - old_trailing)
            ),
        )),
        Caught::Lifted { below } => Some(fault(
            below,
            far,
            format!(
                "{}'s {} was lifted onto {with}: it was {} px short of the top the tick before and moved {} px, its \
                 speed being {}.",
                step.label,
                step.body.name,
                px(below),
                px(moved),
                px(speed)
            ),
            format!(
                "let it pass until its trailing edge is {} px further on: without the lift its pivot is at {}",
                px(below),
                place(expected.at)
            ),
        )),
    }
}

/// What the platform did to the body.
enum Caught {
    /// It stopped it: how much of its speed is lost.
    Stopped { lost: f64 },
    /// It lifted it: how far it was from the far side.
    Lifted { below: f64 },
}

fn caught(of: &Measures, slack: f64) -> Option<Caught> {
    let lost = of.speed - of.moved;
    let arrived = (of.leading - of.near).abs() <= slack && of.old_leading < of.near - slack;
    if of.speed > JOLT && lost > JOLT && arrived {
        return Some(Caught::Stopped { lost });
    }
    let below = of.far - of.old_trailing;
    let lifted = below > slack && (of.trailing - of.far).abs() <= slack && of.moved > of.speed.max(0.0) + JOLT;
    lifted.then_some(Caught::Lifted { below })
}

fn measure(step: &Step<'_>, platform: &OneWay) -> Option<Measures> {
    let (before, old, motion, last) = (step.before?, step.old_body?, step.motion()?, step.last_move?);
    if step.now.dropping {
        return None;
    }
    let way = platform.passes.direction();
    let across = Vec2::new(way.y.abs(), way.x.abs());
    let outline = std::slice::from_ref(&platform.outline.polygon);
    let at = step.now.at.to_vec2();
    let (own, theirs) = (extent(&step.body.polygons, at, across), extent(outline, Vec2::ZERO, across));
    let (low, high) = (own.0.max(theirs.0), own.1.min(theirs.1));
    if high - low <= step.slack {
        return None;
    }
    let (near, far) = extent(outline, Vec2::ZERO, way);
    let (trailing, leading) = extent(&step.body.polygons, at, way);
    let (old_trailing, old_leading) = extent(&old.polygons, before.at.to_vec2(), way);
    Some(Measures {
        way,
        old_trailing,
        old_leading,
        trailing,
        leading,
        near,
        far,
        moved: motion.dot(way),
        speed: last.dot(way),
        middle: f64::midpoint(low, high),
    })
}
