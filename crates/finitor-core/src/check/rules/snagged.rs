//! snagged: a walking body was stopped by what ought not to stop it.

use crate::change::{Change, NewValue};
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::seams::{AtSeam, at_seam, is_braking};
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::thin_parts::{THIN, ThinParts};
use crate::check::walk::{
    AHEAD, COARSE, Front, Walk, fronts, is_cut_short, may_have_stopped, sides_and_corners, stopped,
};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::geometry::{Convex, Point, Vec2, bounds_of_pieces, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Solid;
use crate::world::{SolidIndex, Thing};

/// For how many more ticks a stop must last.
const STILL: u64 = 2;

#[derive(Debug, Default)]
pub(crate) struct Snagged {
    /// What stopped each instance, until it is known that it stays there.
    stops: PerInstance<Option<Stop>>,
    /// How far each went across three steps ago, px.
    across: PerInstance<f64>,
}

/// A stop that may be a snag.
#[derive(Debug)]
struct Stop {
    snag: Snag,
    way: Way,
    /// Whether it counts only while it stays there: what drops, or comes to a corner, may have met the ground again.
    must_stay: bool,
}

/// What stopped the body.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Seen {
    Edge { walk: Walk, height: f64 },
    Seam { walk: Walk, floor: SolidIndex, went_on: Point },
    ThinPart { thick: f64, past: f64 },
}

/// A snag: the solid, when, where, and the rule's figure.
#[derive(Clone, Copy, Debug)]
struct Snag {
    solid: SolidIndex,
    tick: u64,
    figure: f64,
    at: Point,
    way: f64,
    seen: Seen,
}

impl TakeRule for Snagged {
    const SPEC: Spec = Spec {
        code: "snagged",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A walking body was stopped by an edge that is no higher than it steps, by the seam of two solids of \
                    one height, or by a thin part of its own.",
            matters: "It sticks at what looks like level ground, most often at the seams of tiles.",
            measured: "It was grounded, moved at 1 px a tick or more, lost three quarters of that and stayed there for two \
                       ticks more with its animation going on. Edge: all sides that its front touches are no higher \
                       than [moves] step (4 px by default), slopes left out; the figure is the height. Seam: it \
                       touches none, and its step was cut short within 0.02 px of where the next solid begins; the \
                       figure is how far it did not go. Thin part: \
                       only pieces thinner than 4 px meet what is ahead and the rest has room for the step; the figure \
                       is how thin.",
            fix: "Step up the edge or lower it, merge solids that meet in a floor (`finitor lint` lists both), or drop \
                  thin parts with `min_thickness`.",
            drawing: "   [ ]\n   [ ]->__###   figure\n   ##########\n",
        },
    };
    const LATE: u64 = STILL;
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "warp_blocked"];
    type Seen = Seen;

    fn new(_: &Settings) -> Snagged {
        Snagged::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.stops.forget(instance);
        self.across.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let (step, ground) = (look.step, &look.seat.ground);
        let known = self.stops.of(step.instance());
        let earlier = step.way.earlier_move.map_or(0.0, |earlier| earlier.x);
        let before = std::mem::replace(self.across.of(step.instance()), earlier);
        // As a rule it goes on, and nothing else is asked.
        if known.is_none() && !may_have_stopped(step) {
            return;
        }
        let climbs = risen(step) > 0.0;
        let is_grounded = match known {
            Some(stop) if stop.must_stay => step.motion().is_some_and(|motion| motion.hypot() <= step.touch()),
            _ => ground.was_carried && (ground.now.is_firm || climbs),
        };
        if step.motion().is_none() || !is_grounded || !step.may_stand() {
            *known = None;
            return;
        }
        if let Some(stop) = known.take_if(|stop| !stop.goes_on(step) || stop.is_over(step))
            && (stop.goes_on(step) || !stop.must_stay && stop.resumes(step))
        {
            report(look, &stop, out);
        }
        if known.is_some() {
            return;
        }
        let by_none = |walk: &Walk| !look.is_held_by_body(Vec2::new(walk.way, 0.0));
        if let Some(walk) = stopped(step).filter(by_none) {
            let is_dropping = step.now().is_dropping;
            let edge = if is_dropping { None } else { at_edge(look, walk) };
            let seam = || at_seam(look, walk).filter(|_| !is_braking(step, before));
            let snag = edge.or_else(|| seam().map(Snag::from));
            *known = snag.map(|snag| Stop { snag, way: step.way, must_stay: climbs || is_dropping });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let step = scene.step(case.to_fix.way);
        let label = scene.label(case.key.instance);
        let thing = scene.name(case.key.with);
        let figure = px(case.worst.figure);
        match case.to_fix.seen {
            Seen::Edge { walk, height } => {
                let lifted = step.now().at - Vec2::new(0.0, height);
                let on = lifted + Vec2::new(walk.way * walk.lost, 0.0);
                let is_free = scene.has_room_at(&step, on);
                Words {
                    message: format!("A {figure} edge of {thing} stopped {label}"),
                    fix: match is_free {
                        true => format!(
                            "Step up to {} and go on {}, or lower the edge by {}.",
                            scene.place(lifted),
                            px(walk.lost),
                            px(case.to_fix.figure)
                        ),
                        false => format!("Lower the edge by {}.", px(case.to_fix.figure)),
                    },
                    remains: if is_free { 0.0 } else { case.to_fix.figure },
                    end_at: is_free.then(|| step.end_at(on)),
                    change: None,
                }
            }
            Seen::Seam { walk, floor, went_on } => {
                let is_free = scene.has_room_at(&step, went_on);
                Words {
                    message: format!(
                        "The seam between {} and {thing} stopped {label} on level ground, {figure} short",
                        scene.world.solid(floor).name
                    ),
                    fix: format!("Merge the two solids, or go on {} to {}.", px(walk.lost), scene.place(went_on)),
                    remains: if is_free { 0.0 } else { case.to_fix.figure },
                    end_at: is_free.then(|| step.end_at(went_on)),
                    change: None,
                }
            }
            Seen::ThinPart { thick, past } => {
                let shape = case.to_fix.shape;
                let least = NewValue::Number(thick.floor() + 1.0);
                Words {
                    message: format!("A {figure} thin part of {shape} caught {label} on {thing}"),
                    fix: format!(
                        "Set `min_thickness = {}` on {shape}, or move that part {} back: the rest has room.",
                        thick.floor() + 1.0,
                        px(past)
                    ),
                    remains: 0.0,
                    end_at: None,
                    change: Some(Change::shape(&step.actor.name, shape, "min_thickness", least)),
                }
            }
        }
    }
}

impl Stop {
    /// Whether the actor is still there, and still turned that way: what stops by itself turns, or goes on.
    fn goes_on(&self, step: &Step<'_>) -> bool {
        let (then, now) = (&self.way.now, step.now());
        let room = step.touch() + 0.25 * WALK_ON;
        now.facing == then.facing && now.animation == then.animation && (now.at - then.at).hypot() <= room
    }

    /// Whether it walks on as it did before: a key is not let go for a tick.
    fn resumes(&self, step: &Step<'_>) -> bool {
        let (then, now) = (&self.way.now, step.now());
        let (Seen::Seam { walk, .. } | Seen::Edge { walk, .. }) = self.snag.seen else { return false };
        let moved = step.motion().map_or(0.0, |motion| motion.x * walk.way);
        now.facing == then.facing && now.animation == then.animation && moved >= 0.75 * walk.speed
    }

    fn is_over(&self, step: &Step<'_>) -> bool {
        step.now().tick >= self.snag.tick + STILL
    }
}

/// A body that moves on by less has not gone on, px.
const WALK_ON: f64 = 1.0;

fn report<'a>(look: &Look<'_, 'a>, stop: &Stop, out: &mut Ledger<'a, Seen>) {
    let Stop { snag, way, .. } = stop;
    let Some(step) = Step::new(look.input(), *way) else { return };
    let key = Key { instance: way.instance, with: With::Thing(Thing::Solid(snag.solid)) };
    out.see(key, Span::at(snag.tick), snag.figure, || Sighting {
        tick: snag.tick,
        figure: snag.figure,
        at: snag.at,
        push: Vec2::new(0.0 - snag.way, 0.0),
        cause: Cause::Moved,
        shape: &step.body.name,
        way: *way,
        seen: snag.seen,
    });
}

/// How far a body that walked on level ground rose on this step or the one before, as round bodies do at an edge; 0 where it did not.
fn risen(step: &Step<'_>) -> f64 {
    let is_level = |motion: Option<Vec2>| motion.is_some_and(|motion| motion.y.abs() <= step.touch());
    let (now, last, earlier) = (step.motion(), step.way.last_move, step.way.earlier_move);
    let rise = if is_level(last) {
        now
    } else if is_level(now) && is_level(earlier) {
        last
    } else {
        None
    };
    rise.map(|motion| 0.0 - motion.y).filter(|rise| *rise > step.touch()).unwrap_or(0.0)
}

/// Stopped by an edge that it would step up, or by a thin part of its own outline.
fn at_edge(look: &Look<'_, '_>, walk: Walk) -> Option<Snag> {
    let step = look.step;
    let own = step.actor.moves.step_height();
    // Where places are written coarsely a stop by itself is near to an edge now and then.
    if step.grain > COARSE && !is_cut_short(step, walk, step.grain) {
        return None;
    }
    // What dashes over the ground by a little is in the air, whatever its strip feels, and steps up nothing.
    if walk.speed > step.run() && !look.floors().bear(step, step.near()) {
        return None;
    }
    let found = if risen(step) > 0.0 { sides_and_corners(look, walk.way) } else { fronts(look, walk.way, 0.0) };
    // Every side must be low: what is stopped by a wall is stopped by right.
    if found.iter().any(|front| front.height > own + step.touch()) {
        return thin_part(look, walk, &found);
    }
    let front = found.into_iter().max_by(|a, b| a.height.total_cmp(&b.height))?;
    // Under a beam it has no room to step up: games lift the body by the edge, or by all that it may step.
    let on = Vec2::new(walk.way * AHEAD.max(step.touch()), 0.0);
    let lifted = [front.height, own].map(|by| step.now().at - Vec2::new(0.0, by));
    if !lifted.iter().all(|at| look.has_room(*at + on) && look.has_room(*at)) {
        return None;
    }
    let body = step.bounds();
    let x = if walk.way > 0.0 { body.x1 } else { body.x0 };
    // The edge is as high as what is left of it and what a round body has gone up.
    Some(Snag {
        solid: front.solid,
        tick: step.now().tick,
        figure: front.height + risen(step),
        at: Point::new(x, body.y1 - front.height),
        way: walk.way,
        seen: Seen::Edge { walk, height: front.height },
    })
}

/// Only thin pieces meet what is ahead, the rest having room for the step that was lost.
fn thin_part(look: &Look<'_, '_>, walk: Walk, fronts: &[Front]) -> Option<Snag> {
    let Walk { way, lost, .. } = walk;
    let (step, world) = (look.step, look.world());
    let ThinParts { thin, rest } = ThinParts::of(&step.body.pieces)?;
    let at = step.now().at.to_vec2();
    let meets = |pieces: &[Convex], by: f64, solid: &Solid| {
        deepest_overlap(pieces, at + Vec2::new(way * by, 0.0), &solid.outline.pieces)
    };
    let ahead = |pieces: &[Convex]| {
        bounds_of_pieces(pieces).map_or(0.0, |bounds| if way > 0.0 { bounds.x1 } else { 0.0 - bounds.x0 })
    };
    let past = ahead(&thin) - ahead(&rest);
    // The rest goes on by what the part sticks out and a step, in parts no longer than half a px, so that nothing is leapt
    // over: what would have stopped it a little later stops it by right.
    let room = past.max(0.0) + lost;
    let parts = (room / AHEAD).ceil().max(1.0);
    let is_clear = |solid: &Solid| {
        (1..=parts as u32).all(|part| {
            meets(&rest, room * f64::from(part) / parts, solid).is_none_or(|found| found.overlap.depth <= step.slack)
        })
    };
    if !look.solids().all(|index| is_clear(world.solid(index))) {
        return None;
    }
    let is_thin = |front: &&Front| step.body.pieces[front.piece].thickness() < THIN;
    let front = fronts.iter().find(is_thin)?;
    let (solid, part) = (front.solid, &step.body.pieces[front.piece]);
    let thick = part.thickness();
    let bounds = part.bounds() + at;
    Some(Snag {
        solid,
        tick: step.now().tick,
        figure: thick,
        at: Point::new(if way > 0.0 { bounds.x1 } else { bounds.x0 }, bounds.center().y),
        way,
        seen: Seen::ThinPart { thick, past: past.max(lost) },
    })
}

impl From<AtSeam> for Snag {
    fn from(seam: AtSeam) -> Snag {
        let AtSeam { tick, corner, walk, between: [floor, solid], from } = seam;
        let went_on = from + Vec2::new(walk.way * walk.lost, 0.0);
        let seen = Seen::Seam { walk, floor, went_on };
        Snag { solid, tick, figure: walk.lost, at: corner, way: walk.way, seen }
    }
}

#[cfg(test)]
mod tests {
    use crate::actor::Actor;
    use crate::testing::*;
    use crate::{Point, Polygon, Rect};

    #[test]
    fn an_edge_that_stops_a_walk_is_told_when_it_is_low_and_a_wall_is_not() {
        let kerb = |high: f64| {
            let mut stage = floored();
            stage.solids.push(solid("kerb", Rect::new(100.0, LEVEL - high, 160.0, LEVEL)));
            stage
        };
        // The front is 4 px ahead: it meets the edge at x 96 and stays there.
        let stopped = [&walk(80.37, 94.37, 2.0, LEVEL)[..], &[(96.0, LEVEL); 4]].concat();
        let report = check(&kerb(2.0), hero(0), &path(&stopped));
        assert_eq!(brief(&report), [("snagged", (9, 9), 2.0)]);
        let whole = [&walk(80.0, 96.0, 2.0, LEVEL)[..], &[(96.0, LEVEL); 4]].concat();
        assert_eq!(brief(&check(&kerb(2.0), hero(0), &path(&whole))), [], "in whole px that may be a key let go");
        assert_eq!(at(&report.findings[0]).worst.at, Point::new(100.0, LEVEL - 2.0));
        // The mend: lifted over it and on.
        let over = [&walk(80.0, 96.0, 2.0, LEVEL)[..], &walk(98.0, 110.0, 2.0, LEVEL - 2.0)].concat();
        assert_eq!(brief(&check(&kerb(2.0), hero(0), &path(&over))), []);
        assert_eq!(brief(&check(&kerb(12.0), hero(0), &path(&stopped))), [], "a wall stops by right");
        assert_eq!(brief(&check(&floored(), hero(0), &path(&stopped))), [], "who lets go of the key stops by right");
        let away = [&walk(60.0, 80.0, 2.0, LEVEL)[..], &[(80.0, LEVEL); 3]].concat();
        assert_eq!(brief(&check(&kerb(2.0), hero(0), &path(&away))), []);
    }

    /// A hero whose body has a rod of this many px over its head, 12 px out in front.
    fn with_rod(thick: f64) -> Actor {
        let mut actor = hero(0);
        let rod = Polygon::from_rect(Rect::new(0.0, -22.0 - thick, 16.0, -22.0)).unwrap();
        for pose in actor.animations.iter_mut().flat_map(|a| &mut a.frames).flatten() {
            if let Some(body) = pose.shapes.iter_mut().find(|shape| shape.name == "body") {
                body.pieces = [body.pieces.to_vec(), rod.pieces()].concat().into();
                body.polygons.push(rod.clone());
            }
        }
        actor
    }

    #[test]
    fn a_stop_by_a_thin_part_of_the_body_is_told_and_one_by_a_wall_is_not() {
        // A beam at the height of the rod alone, 16 px ahead of the pivot; or a wall as high as the whole body, met by the rod
        // first, or one behind the beam that stops the rest as well.
        let beam = |rects: &[Rect]| {
            let mut stage = planks(0.0);
            rects.iter().for_each(|rect| stage.solids.push(solid("beam", *rect)));
            stage
        };
        let high = [Rect::new(120.0, LEVEL - 40.0, 140.0, LEVEL - 21.0)];
        let wall = [Rect::new(120.0, LEVEL - 60.0, 140.0, LEVEL)];
        let rows = walk_to(104.0, ("stand", 3), false);
        let report = check(&beam(&high), with_rod(2.0), &rows);
        assert_eq!(snags(&report), [("yard/beam".to_string(), 2.0)], "{:?}", short(&report));
        assert!(report.findings[0].fix.contains("`min_thickness = 3` on body"), "{}", report.findings[0].fix);
        // What would have stopped the rest 12 px on stops the rod by right; so does a rod that is no thin part.
        assert_eq!(snags(&check(&beam(&wall), with_rod(2.0), &rows)), []);
        assert_eq!(snags(&check(&beam(&wall), hero(0), &walk_to(116.0, ("stand", 3), false))), []);
        assert_eq!(snags(&check(&beam(&high), with_rod(5.0), &rows)), []);
    }
}
