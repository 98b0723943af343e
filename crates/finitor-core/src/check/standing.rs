//! What carries a body on a tick, and how the art of a standing actor lies to it.

use super::level_runs::{LevelRuns, Off};
use super::moment::Moment;
use super::step::Step;
use crate::actor::{Foot, Pose};
use crate::finding::Cause;
use crate::geometry::{Point, Rect, Stretch, TOUCH, Vec2, rects_meet, times_deeper};
use crate::stage::Outline;
use crate::world::{HAIR, Near, OneWayIndex, SolidIndex, Strip, UPWARDS, World, has_surface, highest_surface};

/// How far below a body that stands on air ground is looked for, px.
const FAR_BELOW: f64 = 4096.0;

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
    /// The gap on that tick, px.
    pub(crate) since_gap: f64,
    /// How it came there on that tick.
    pub(crate) arrival: Arrival,
}

/// How a body came to where it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Arrival {
    /// It was there, or was put there.
    Stayed,
    /// It moved there across, or up.
    Moved,
    /// It came down.
    Fell,
}

impl Arrival {
    fn of(step: &Step<'_>) -> Arrival {
        match step.motion() {
            Some(motion) if motion.y > step.touch() => Arrival::Fell,
            Some(motion) if motion.hypot() > step.touch() => Arrival::Moved,
            _ => Arrival::Stayed,
        }
    }
}

/// What the ground is to a body on a tick.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Ground {
    /// Whether the game would feel ground: its strip below, or without one the body itself within the slack, meets something.
    pub(crate) carries: bool,
    /// Whether it does by more than places are rounded: a strip that touches a wall beside it feels nothing.
    pub(crate) is_firm: bool,
    /// How the actor stands; `None` when nothing carries it, or its lowest row is beside what it stands on.
    pub(crate) standing: Option<Standing>,
    /// From the body's bottom to the ground under it, px, where it has art and ground.
    pub(crate) rest: Option<f64>,
}

impl Ground {
    /// The same on another tick.
    pub(crate) fn at(mut self, tick: u64) -> Ground {
        if let Some(standing) = &mut self.standing {
            standing.since = tick;
        }
        self
    }

    /// Whether it is the same but for rounding, on whichever tick.
    fn is_about(&self, other: &Ground) -> bool {
        const ROUNDING: f64 = 1e-6;
        let is_near = |one: Off, other: Off| {
            (one.by - other.by).abs() <= ROUNDING && (one.by <= 0.0 || (one.at - other.at).hypot() <= ROUNDING)
        };
        let are_near = match (self.standing, other.standing) {
            (Some(one), Some(other)) => is_near(one.gap, other.gap) && is_near(one.sunk, other.sunk),
            (one, other) => one.is_none() && other.is_none(),
        };
        let rests = self.rest.zip(other.rest).map_or(self.rest == other.rest, |(a, b)| (a - b).abs() <= ROUNDING);
        are_near && rests && (self.carries, self.is_firm) == (other.carries, other.is_firm)
    }

    /// The same some px to the right.
    fn moved(mut self, by: f64) -> Ground {
        if let Some(Standing { gap, sunk, .. }) = &mut self.standing {
            gap.at.x += by;
            if sunk.by > 0.0 {
                sunk.at.x += by;
            }
        }
        self
    }
}

/// The one solid that was near an instance on a tick, where it was one alone, and the step in which its places were taken to be
/// written.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct OneFloor {
    solid: SolidIndex,
    grain: f64,
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

    /// The solid, where nothing but one is near that could carry the body.
    pub(crate) fn one(&self, step: &Step<'_>) -> Option<OneFloor> {
        match (self.near.solids, self.near.one_ways) {
            ([solid], []) if self.passing.is_empty() => Some(OneFloor { solid: *solid, grain: step.grain }),
            _ => None,
        }
    }

    /// The ground of the tick before, moved along, where the body walks on over that level floor alone in the same frame. `reach` is
    /// what the step may have to do with anything in.
    pub(crate) fn walked_on(&self, step: &Step<'_>, reach: Rect, known: Ground) -> Option<Ground> {
        /// What is further than this from the ends of a floor asks nothing beyond them, px.
        const ASIDE: f64 = 1.0;
        let (motion, before, now) = (step.motion()?, step.before()?, step.now());
        let goes_on = motion.y == 0.0 && Moment { tick: now.tick, at: now.at, ..*before } == *now;
        let [solid] = self.near.solids else { return None };
        let outline = &self.world.solid(*solid).outline;
        let [top] = outline.tops[..] else { return None };
        let aside = ASIDE + motion.x.abs() + step.touch();
        let is_on_it = top.from.x <= reach.x0 - aside && reach.x1 + aside <= top.to.x;
        let is_level = top.from.y == top.to.y && outline.pieces.len() == 1;
        let stands = known.is_firm && known.standing.is_some();
        let found = (goes_on && stands && is_level && is_on_it).then(|| known.moved(motion.x))?;
        debug_assert!(found.is_about(&self.ground(step)), "{found:?}, {:?}", self.ground(step));
        Some(found)
    }

    /// Whether the body itself, lowered by the slack, meets what can carry it.
    pub(crate) fn rests(&self, step: &Step<'_>) -> bool {
        let strip = Strip::new(&step.body.pieces, step.rough());
        self.supports(step).any(|outline| strip.meets(step.now().at, outline))
    }

    /// Whether the body itself, lowered by some px, meets a floor; what lies beside it is none.
    pub(crate) fn bear(&self, step: &Step<'_>, lowered: f64) -> bool {
        let strip = Strip::new(&step.body.pieces, lowered);
        let is_floor =
            |outline: &Outline| strip.overlap(step.now().at, outline).is_some_and(|found| found.push.y < UPWARDS);
        self.supports(step).any(is_floor)
    }

    /// Whether there is a floor under the body, by its strip or by itself; what only lies beside is none.
    pub(crate) fn has_floor_under(&self, step: &Step<'_>) -> bool {
        let at = step.now().at.to_vec2();
        let felt = step.pose().strip_below().is_some_and(|strip| {
            let window = strip.bounds() + at;
            let window = Rect { y0: window.y0 - step.rough(), ..window };
            self.supports(step).any(|outline| has_surface(outline, window))
        });
        let window = about_bottom(step, step.bounds(), step.touch());
        felt || self.supports(step).any(|outline| has_surface(outline, window)) || self.bear(step, step.slack)
    }

    /// Whether a body without a strip, which nothing is known to carry, is so near to an edge that it may rest on it.
    pub(crate) fn is_on_an_edge(&self, step: &Step<'_>) -> bool {
        const NEAR: f64 = 1.0;
        let window = about_bottom(step, step.bounds(), NEAR + step.touch());
        step.pose().strip_below().is_none() && self.supports(step).any(|outline| has_surface(outline, window))
    }

    /// Whether the foot is no further over a surface under the body than allowed, whatever its strip feels.
    pub(crate) fn stands_on_corner(&self, step: &Step<'_>, allowed: f64) -> bool {
        let body = step.bounds().inflate(step.touch(), 0.0);
        let foot = step.foot().map_or(body.y1, |foot| foot.y + step.now().at.y);
        let stretch = Stretch { left: body.x0, right: body.x1 };
        let surfaces = self.supports(step).filter_map(|outline| highest_surface(outline, stretch, body.y0));
        let is_near = surfaces.map(|surface| surface.y - foot).any(|gap| gap.abs() <= allowed);
        is_near && self.over_a_corner(step, None).is_none_or(|by| by <= allowed)
    }

    /// How far the lowest opaque row may go down until the body lies on something, where its sides lie over more than its lowest
    /// points do: a round foot over a corner. `None` where the ground under its lowest points holds it, most likely `felt`.
    fn over_a_corner(&self, step: &Step<'_>, felt: Option<&Outline>) -> Option<f64> {
        const FAR: f64 = 16.0;
        // Up a steep round side a little across is much.
        const COARSE: f64 = 0.1;
        let (at, low) = (step.now().at, step.lowest_points());
        if step.grain > COARSE || low.right - low.left >= step.bounds().width() - 2.0 * step.slack {
            return None;
        }
        let (body, way) = (step.bounds(), Vec2::new(0.0, FAR));
        let is_near = |outline: &&Outline| rects_meet(outline.bounds, Rect { y1: body.y1 + FAR, ..body });
        let holds = |outline: &Outline| {
            highest_surface(outline, low, body.y0).is_some_and(|surface| (surface.y - body.y1).abs() <= step.slack)
        };
        if felt.filter(is_near).is_some_and(holds) || self.supports(step).filter(is_near).any(holds) {
            return None;
        }
        let pairs = self.supports(step).filter(is_near).flat_map(|outline| {
            outline.pieces.iter().flat_map(|other| step.body.pieces.iter().map(move |piece| (piece, other)))
        });
        let met = pairs.filter_map(|(piece, other)| times_deeper(piece, at.to_vec2(), way, other, TOUCH));
        let first = met.map(|(enter, ..)| enter * FAR).reduce(f64::min)?;
        (first > step.slack + 2.0 * step.grain).then(|| first + step.drawn_high())
    }

    /// How far the ground under a body is below it, px; `None` where there is none within `most`.
    pub(crate) fn ground_below(&self, step: &Step<'_>, most: f64) -> Option<Point> {
        let body = step.bounds();
        let (stretch, area) = (Stretch { left: body.x0, right: body.x1 }, Rect { y1: body.y1 + most, ..body });
        let things = self.world.things_in(area);
        let floors = Floors { near: things.all(), ..*self };
        let surfaces = floors.supports(step).filter_map(|outline| highest_surface(outline, stretch, body.y0));
        surfaces.min_by(|a, b| a.y.total_cmp(&b.y))
    }

    /// What carries the body now, and how the actor stands on it.
    pub(crate) fn ground(&self, step: &Step<'_>) -> Ground {
        let at = step.now().at;
        // Without a sensor a strip as deep as the slack under the body stands in for it.
        let sensor = step.pose().strip_below();
        let strip = sensor
            .map_or_else(|| Strip::new(&step.body.pieces, step.rough()), |sensor| Strip::new(&sensor.pieces, 0.0));
        let body = step.bounds();
        let (mut carries, mut is_firm, mut felt) = (false, false, None);
        let mut levels = LevelRuns::default();
        let (mut least, mut rest): (Option<Off>, Option<f64>) = (None, None);
        // Over a floor by less than places are rounded it rests on it; a side that it touches carries nothing.
        let across = sensor.map_or(body, |sensor| sensor.bounds() + at.to_vec2());
        let is_coarse = step.grain > 0.0;
        let window = about_bottom(step, across, if is_coarse { step.touch() } else { 0.0 - HAIR });
        for outline in self.supports(step) {
            let found = strip.overlap(at, outline);
            let is_felt = found.is_some_and(|found| sensor.is_some() || found.push.y < UPWARDS);
            let is_floor = || (found.is_some() || is_coarse) && has_surface(outline, window);
            if !(is_felt || is_floor()) {
                continue;
            }
            is_firm |= sensor.is_none() || found.is_some_and(|found| found.depth > step.touch() + HAIR);
            carries = true;
            felt = Some(outline);
            let Some(foot) = step.foot() else { break };
            let foot_y = foot.y + at.y;
            let runs = || foot.runs.iter().map(|&(left, right)| Stretch { left: left + at.x, right: right + at.x });
            // Where the body itself is too deep, that is the fault.
            let is_in = || {
                step.overlap_now(&outline.pieces, outline.bounds)
                    .is_some_and(|found| found.overlap.depth > step.allowed(&found.overlap))
            };
            levels.add(outline, body, foot_y, is_in);
            // On a slope or at an edge the lowest row may hang over lower ground while the body rests beside it: what
            // lies under the body counts as well.
            let under_body = surface_under(step, outline);
            let above = under_body.map(|surface| surface.y - body.y1);
            rest = above.into_iter().chain(rest).reduce(f64::min);
            let under_art = runs().filter_map(|stretch| highest_surface(outline, stretch, body.y0));
            for surface in under_art.chain(under_body) {
                let gap = surface.y - foot_y;
                if least.is_none_or(|known| gap < known.by) {
                    least = Some(Off { by: gap, at: surface });
                }
            }
        }
        let sunk = levels.sunk(step);
        if let Some(off) = least.filter(|off| off.by <= step.slack) {
            least = Some(self.over_a_corner(step, felt).map_or(off, |by| Off { by, ..off }));
        }
        if carries && least.is_none() && self.has_floor_under(step) {
            // The strip reaches beside the body to what it does not stand on.
            let foot = step.foot().map(|foot| foot.y + at.y);
            let below = || self.ground_below(step, FAR_BELOW);
            least = foot.and_then(|foot| below().map(|surface| Off { by: surface.y - foot, at: surface }));
        }
        let (cause, since) = (Cause::Moved, step.now().tick);
        let standing =
            least.map(|gap| Standing { gap, sunk, cause, since, since_gap: gap.by, arrival: Arrival::Stayed });
        Ground { carries, is_firm, standing, rest }
    }
}

/// The highest surface of an outline under a body; what it only touches with its side is beside it.
fn surface_under(step: &Step<'_>, outline: &Outline) -> Option<Point> {
    let body = step.bounds();
    let within = |inset: f64| {
        let stretch = Stretch { left: body.x0 + inset, right: body.x1 - inset };
        highest_surface(outline, stretch, body.y0)
    };
    let found = within(0.0)?;
    if found.y >= body.y1 - step.rough() {
        return Some(found);
    }
    within((step.touch() + HAIR).min(body.width() / 4.0))
}

/// The box about a body's bottom, as wide as another and some px more to both sides.
fn about_bottom(step: &Step<'_>, across: Rect, aside: f64) -> Rect {
    let bottom = step.bounds().y1;
    Rect { y0: bottom - step.rough(), y1: bottom + step.rough(), ..across }.inflate(aside, 0.0)
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
        let drifted = (before.since_gap - of.gap.by).abs();
        step.is_swept && is_off(before) && apart <= step.slack && drifted <= step.slack
    };
    if let Some(before) = before.filter(is_same) {
        let Standing { cause, since, since_gap, arrival, .. } = before;
        return Standing { cause, since, since_gap, arrival, ..of };
    }
    let cause = step.cause_of_art(|pose: &Pose| {
        let foot = pose.foot.as_ref().map_or(f64::INFINITY, |foot: &Foot| foot.y) + step.now().at.y;
        if of.gap.by > allowed { of.gap.at.y - foot > allowed } else { foot - of.sunk.at.y > allowed }
    });
    Standing { cause, since: step.now().tick, arrival: Arrival::of(step), ..of }
}
