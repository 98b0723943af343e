//! How a body stands from tick to tick: ground that comes and goes, leaps onto what stands in the way, edges that stop it.

use super::checker::World;
use super::ground::{highest_surface, supports};
use super::ledger::Fault;
use super::step::Step;
use super::tries::depth_at;
use super::words::{place, px};
use super::{Cause, Rule, Worst};
use crate::geometry::{Point, Vec2, deepest_overlap};
use crate::stage::Outline;

/// The highest edge that is stepped up where nothing else is known, px.
const USUAL_STEP: f64 = 4.0;
/// Ticks over which losses of the ground on a slope count together, by that many of `check.flicker`.
const TOGETHER: u64 = 4;

/// What was seen of a body's footing so far.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Footing {
    grounded: bool,
    /// When and where it lost the ground last, falling or level; none after a jump.
    left: Option<(u64, Point)>,
    /// When it last got the ground back lower down after a few ticks.
    slipped: Option<u64>,
}

impl Footing {
    /// Takes in a step, and whether anything carries the body now.
    pub(super) fn step(&mut self, world: &World<'_>, step: &Step<'_>, now: bool, faults: &mut Vec<Fault>) {
        let was = *self;
        let Some((motion, before)) = step.motion().zip(step.before) else {
            *self = Footing { grounded: now, left: None, slipped: None };
            return;
        };
        self.grounded = now;
        match (was.grounded, now) {
            (true, false) => {
                let jumped = motion.y < 0.0 - step.slack || step.now.dropping;
                self.left = (!jumped).then_some((before.tick, before.at));
            }
            (false, true) => {
                if let Some(fault) = was.left.and_then(|left| self.regained(world, step, left)) {
                    faults.push(fault);
                }
                self.left = None;
            }
            (true, true) => {
                faults.extend(leapt(world, step, motion));
                faults.extend(snagged(world, step, motion));
            }
            // A rise in the air is no flicker of the ground.
            (false, false) if motion.y < 0.0 - step.slack => self.left = None,
            (false, false) => {}
        }
    }

    /// Ground lost and had again within a few ticks: at once where it is level, the second time where it goes down.
    fn regained(&mut self, world: &World<'_>, step: &Step<'_>, (tick, at): (u64, Point)) -> Option<Fault> {
        let most = u64::from(world.settings.flicker);
        let lost = step.now.tick - tick - 1;
        if lost == 0 || lost > most {
            return None;
        }
        let down = step.now.at.y - at.y;
        let is_level = down.abs() <= step.slack;
        let again = self.slipped.is_some_and(|last| step.now.tick - last <= TOGETHER * most);
        if !is_level {
            self.slipped = Some(step.now.tick);
        }
        (is_level || again).then(|| Fault {
            rule: Rule::Flicker,
            actor: step.label.to_string(),
            shape: step.body.name.clone(),
            with: world.stage.name.clone(),
            worst: Worst { tick: step.now.tick, depth: lost as f64, at: step.now.at, push: Vec2::ZERO },
            cause: Cause::Moved,
            message: format!(
                "{} lost the ground for {lost} ticks without a jump and had it again {} px {}.",
                step.label,
                px(down.abs()),
                if down < 0.0 { "higher" } else { "lower" }
            ),
            remedy: format!(
                "let it count as grounded for {lost} ticks after it loses the ground, or hold it down on the way"
            ),
            // Grounded on all of those ticks it has lost nothing.
            remains: Some(0.0),
        })
    }
}

/// A body that stands before and after and is higher by more than it steps, walks up or moved before.
fn leapt(world: &World<'_>, step: &Step<'_>, motion: Vec2) -> Option<Fault> {
    let rise = 0.0 - motion.y;
    let own = step.actor.moves.step.unwrap_or(USUAL_STEP);
    let speed = step.last_move.map_or(0.0, |last| 0.0 - last.y).max(0.0);
    // As steep as any floor is.
    let slope = motion.x.abs() * 2.0;
    let explained_by = |own: f64| own.max(slope).max(speed + own) + step.slack;
    let explained = explained_by(own);
    // Coming up out of something is the end of that fault, and no other.
    let was_in = |outline: &Outline| {
        let old = step.old_body.zip(step.before);
        old.and_then(|(body, before)| deepest_overlap(&body.pieces, before.at.to_vec2(), &outline.pieces))
            .is_some_and(|(found, ..)| found.depth > step.slack)
    };
    (rise > explained && !supports(world, step).any(was_in)).then(|| Fault {
        rule: Rule::Popped,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: world.stage.name.clone(),
        worst: Worst { tick: step.now.tick, depth: rise, at: step.now.at, push: Vec2::new(0.0, -1.0) },
        cause: Cause::Moved,
        message: format!(
            "{} stood, and stood {} px higher a tick later: a step of {} px, or its speed, does not explain that.",
            step.label,
            px(rise),
            px(own)
        ),
        remedy: format!(
            "stop it at the edge instead of lifting it, or say [moves] step = {} if it may climb so high",
            px(rise)
        ),
        remains: Some((rise - explained_by(rise)).max(0.0)),
    })
}

/// A walking body stopped by an edge that it would step up.
fn snagged(world: &World<'_>, step: &Step<'_>, motion: Vec2) -> Option<Fault> {
    /// What is slower walks into nothing, px a tick.
    const WALK: f64 = 1.0;
    /// How far ahead an edge is felt for, px.
    const AHEAD: f64 = 0.5;
    let last = step.last_move.filter(|last| last.x.abs() >= WALK)?;
    if motion.x.abs() > last.x.abs() * 0.25 || step.now.facing != step.before?.facing {
        return None;
    }
    let way = last.x.signum();
    let own = step.actor.moves.step.unwrap_or(USUAL_STEP);
    let at = step.now.at.to_vec2() + Vec2::new(way * AHEAD, 0.0);
    let body = step.body.bounds() + at;
    let solids = step.near.solids.iter().map(|place| &world.stage.solids[*place as usize]);
    let ahead = solids.filter(|solid| step.now.body_mask.sees(solid.layer)).filter(|solid| {
        deepest_overlap(&step.body.pieces, at, &solid.outline.pieces).is_some()
            && deepest_overlap(&step.body.pieces, step.now.at.to_vec2(), &solid.outline.pieces).is_none()
    });
    let edge = |outline: &Outline| {
        let front = if way > 0.0 { (body.x1 - AHEAD, body.x1) } else { (body.x0, body.x0 + AHEAD) };
        highest_surface(outline, front, body.y0).map(|(_, y)| body.y1 - y)
    };
    let found = ahead.filter_map(|solid| Some((edge(&solid.outline)?, solid)));
    // Every edge ahead must be low: what is stopped by a wall is stopped by right.
    let (height, solid) = found.max_by(|a, b| a.0.total_cmp(&b.0))?;
    if height <= 0.0 || height > own {
        return None;
    }
    let lost = last.x.abs() - motion.x.abs();
    let lifted = step.now.at - Vec2::new(0.0, height);
    let left = depth_at(world, step, lifted + Vec2::new(way * lost, 0.0));
    let corner = Point::new(if way > 0.0 { body.x1 - AHEAD } else { body.x0 + AHEAD }, body.y1 - height);
    Some(Fault {
        rule: Rule::Snagged,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        with: format!("{}/{}", world.stage.name, solid.name),
        worst: Worst { tick: step.now.tick, depth: height, at: corner, push: Vec2::new(0.0 - way, 0.0) },
        cause: Cause::Moved,
        message: format!(
            "{} walked {} px a tick and was stopped by an edge of {} that is only {} px high.",
            step.label,
            px(last.x.abs()),
            solid.name,
            px(height)
        ),
        remedy: format!(
            "lift it by {} px to {} and go on {} px, or lower the edge by that",
            px(height),
            place(lifted),
            px(lost)
        ),
        remains: Some(if left > step.slack { height } else { 0.0 }),
    })
}
