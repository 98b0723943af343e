//! How a body stands from tick to tick: ground that comes and goes, leaps onto what stands in the way, edges that stop it.

use super::checker::World;
use super::ground::{below, rests, supports};
use super::ledger::Fault;
use super::one_way::Passing;
use super::snag::{AtJoint, at_joint, snagged, stopped, stuck_at_joint};
use super::step::Step;
use super::words::px;
use super::{Cause, Rule, Worst};
use crate::geometry::{Point, Vec2, deepest_overlap};
use crate::stage::Outline;

/// What goes up by more in a tick has jumped, px.
const RISE: f64 = 0.1;
/// The highest edge that is stepped up where nothing else is known, px.
pub(super) const USUAL_STEP: f64 = 4.0;
/// Ticks over which losses of the ground on a slope count together, by that many of `check.flicker`.
const TOGETHER: u64 = 4;

/// What was seen of a body's footing so far.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Footing {
    grounded: bool,
    /// When and where it lost the ground last, falling or level; none after a jump.
    left: Option<(u64, Point)>,
    /// Whether the body itself rested on something on each tick since.
    rested: bool,
    /// When it last got the ground back lower down after a few ticks.
    slipped: Option<u64>,
    /// How far it went sideways two steps ago, as the next step sees it.
    pace: f64,
    /// Where it stopped on this tick at a joint of the floor, with nothing ahead.
    at_joint: Option<AtJoint>,
}

impl Footing {
    /// Takes in a step, and whether anything carries the body now.
    pub(super) fn step(
        &mut self,
        world: &World<'_>,
        step: &Step<'_>,
        passing: &Passing,
        now: bool,
        faults: &mut Vec<Fault>,
    ) {
        let was = *self;
        let Some((motion, before)) = step.motion().zip(step.before) else {
            *self = Footing { grounded: now, ..Footing::default() };
            return;
        };
        self.grounded = now;
        self.at_joint = None;
        self.pace = step.last_move.map_or(0.0, |last| last.x);
        match (was.grounded, now) {
            (true, false) => {
                // However low: a ceiling may end it at once.
                let jumped = motion.y < 0.0 - RISE || step.now.dropping;
                self.left = (!jumped).then_some((before.tick, before.at));
                self.rested = self.left.is_some() && rests(world, step, passing);
            }
            (false, true) => {
                if let Some(fault) = was.left.and_then(|left| self.regained(world, step, left)) {
                    faults.push(fault);
                }
                self.left = None;
            }
            (true, true) => {
                if let Some(joint) = was.at_joint {
                    faults.extend(stuck_at_joint(world, step, joint));
                }
                if motion.y < 0.0 - step.slack {
                    faults.extend(leapt(world, step, passing, motion));
                }
                if let Some(walk) = stopped(step, motion, was.pace) {
                    faults.extend(snagged(world, step, walk));
                    self.at_joint = at_joint(world, step, walk);
                }
            }
            // A rise in the air is no flicker of the ground.
            (false, false) if motion.y < 0.0 - step.slack => self.left = None,
            (false, false) => self.rested = self.rested && rests(world, step, passing),
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
            remedy: match narrow_by(step).filter(|_| self.rested) {
                Some(by) => format!("widen the strip below by {} px: the body itself still rested on the edge", px(by)),
                None => format!(
                    "let it count as grounded for {lost} ticks after it loses the ground, or hold it down on the way"
                ),
            },
            // Grounded on all of those ticks it has lost nothing.
            remains: Some(0.0),
        })
    }
}

/// By how much the strip below leaves out the body's sides, the side of the two where it is more.
fn narrow_by(step: &Step<'_>) -> Option<f64> {
    let (strip, body) = (below(step)?.bounds(), step.body.bounds());
    Some((body.x1 - strip.x1).max(strip.x0 - body.x0)).filter(|by| *by > 0.0)
}

/// A body that stands before and after and is higher by more than it steps, walks up or moved before.
fn leapt(world: &World<'_>, step: &Step<'_>, passing: &Passing, motion: Vec2) -> Option<Fault> {
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
    (rise > explained && !supports(world, step, passing).any(was_in)).then(|| Fault {
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
