//! What carries a body on a tick, and how the art of a standing actor lies to it.

use super::step::Step;
use crate::actor::{Foot, Pose};
use crate::finding::Cause;
use crate::geometry::{Point, TOUCH};
use crate::world::{Near, OneWayIndex, Stretch, Strip, World, highest_surface, level_surface};

/// How far the lowest opaque row is off the ground, px, and where.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Off {
    pub(crate) by: f64,
    pub(crate) at: Point,
}

/// How an actor stands on a tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Standing {
    /// From the lowest opaque row to the surface, px; below 0 when the art is in the ground.
    pub(crate) gap: Off,
    /// How deep the lowest row lies under level ground that it is over; 0 where it does not.
    pub(crate) sunk: Off,
    /// What put the art where it is, where it is off the ground.
    pub(crate) cause: Cause,
    /// Since which tick it has been off it by as much.
    pub(crate) since: u64,
}

/// What the ground is to a body on a tick.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Ground {
    /// Whether anything carries it: its strip below, or without one the body itself within the slack, meets it.
    pub(crate) carries: bool,
    /// How the actor stands; `None` when nothing carries it, or its lowest row is beside what it stands on.
    pub(crate) standing: Option<Standing>,
}

/// The ground of this tick and what is known of that before.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct GroundSeen {
    pub(crate) now: Ground,
    /// How it stood on the tick before.
    pub(crate) stood: Option<Standing>,
    /// Whether anything carried it then.
    pub(crate) was_carried: bool,
}

/// What can carry a body: the stage's things near, and the platforms that it is passing.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Floors<'t, 'a> {
    pub(crate) world: &'t World<'a>,
    pub(crate) near: Near<'t>,
    pub(crate) passing: &'t [OneWayIndex],
}

impl<'a> Floors<'_, 'a> {
    /// The outlines that can carry the body.
    pub(crate) fn supports(&self, step: &Step<'_>) -> impl Iterator<Item = &'a crate::stage::Outline> {
        self.world.supports(self.near, step.now().body_mask, self.passing)
    }

    /// Whether the body itself, lowered by the slack, meets what can carry it.
    pub(crate) fn rests(&self, step: &Step<'_>) -> bool {
        let strip = Strip::new(&step.body.pieces, step.slack);
        self.supports(step).any(|outline| strip.meets(step.now().at, outline))
    }

    /// What carries the body now, and how the actor stands on it.
    pub(crate) fn ground(&self, step: &Step<'_>) -> Ground {
        let at = step.now().at;
        // Without a sensor a strip as deep as the slack under the body stands in for it.
        let strip = step
            .pose()
            .strip_below()
            .map_or_else(|| Strip::new(&step.body.pieces, step.slack), |sensor| Strip::new(&sensor.pieces, 0.0));
        let body = step.bounds();
        let mut carries = false;
        let mut least: Option<Off> = None;
        let mut sunk = Off { by: 0.0, at: Point::ZERO };
        for outline in self.supports(step).filter(|outline| strip.meets(at, outline)) {
            carries = true;
            let Some(foot) = step.foot() else { break };
            let foot_y = foot.y + at.y;
            let runs = || foot.runs.iter().map(|&(left, right)| Stretch { left: left + at.x, right: right + at.x });
            // Where the body itself is too deep, that is the fault.
            let is_in =
                || step.overlap_now(&outline.pieces, outline.bounds).is_some_and(|(o, ..)| o.depth > step.slack);
            for surface in runs().filter_map(|run| level_surface(outline, run, body.y0)) {
                let deep = foot_y - surface.y;
                if deep > sunk.by && deep > TOUCH && !is_in() {
                    sunk = Off { by: deep, at: surface };
                }
            }
            // On a slope or at an edge the lowest row may hang over lower ground while the body rests beside it: what
            // lies under the body counts as well.
            let stretches = runs().chain([Stretch { left: body.x0, right: body.x1 }]);
            for surface in stretches.filter_map(|stretch| highest_surface(outline, stretch, body.y0)) {
                let gap = surface.y - foot_y;
                if least.is_none_or(|known| gap < known.by) {
                    least = Some(Off { by: gap, at: surface });
                }
            }
        }
        let standing = least.map(|gap| Standing { gap, sunk, cause: Cause::Moved, since: step.now().tick });
        Ground { carries, standing }
    }
}

/// How an actor stands, with what put its art where it is if that is further off the ground than allowed: another frame or
/// a turn where the picture of the tick before would not be so far off there.
pub(crate) fn with_cause(step: &Step<'_>, before: Option<Standing>, of: Standing, allowed: f64) -> Standing {
    let is_off = |of: &Standing| of.gap.by > allowed || of.sunk.by > allowed;
    if !is_off(&of) {
        return of;
    }
    // It only goes on.
    let is_same = |before: &Standing| {
        let apart = (before.gap.by - of.gap.by).abs().min((before.sunk.by - of.sunk.by).abs());
        step.is_swept && is_off(before) && apart <= step.slack
    };
    if let Some(before) = before.filter(is_same) {
        return Standing { cause: before.cause, since: before.since, ..of };
    }
    let cause = step.cause_of_art(|pose: &Pose| {
        let foot = pose.foot.as_ref().map_or(f64::INFINITY, |foot: &Foot| foot.y) + step.now().at.y;
        if of.gap.by > allowed { of.gap.at.y - foot > allowed } else { foot - of.sunk.at.y > allowed }
    });
    Standing { cause, since: step.now().tick, ..of }
}
