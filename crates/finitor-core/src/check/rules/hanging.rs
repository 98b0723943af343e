//! hanging: a body rests on something by a thin part of its own, its feet in the air.

use crate::check::Settings;
use crate::check::feet::held;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::pause::{self, outlasting};
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::thin_parts::{THIN, ThinParts};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::geometry::{Convex, Deepest, Point, Vec2, bounds_of_pieces, deepest_overlap, overlap_region, rects_meet};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Outline;
use crate::world::{SolidIndex, Thing, UPWARDS};

#[derive(Debug, Default)]
pub(crate) struct Hanging {
    /// Since when, and where, each instance has been resting.
    since: PerInstance<Option<Rest>>,
}

#[derive(Clone, Copy, Debug)]
struct Rest {
    tick: u64,
    at: Point,
}

/// The part that rests, and on what.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seen {
    solid: SolidIndex,
    /// How thin it is.
    thick: f64,
    /// How far it sticks out past the rest.
    past: f64,
    middle: Point,
}

impl TakeRule for Hanging {
    const SPEC: Spec = Spec {
        code: "hanging",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body rests on a solid by nothing but a thin part of its own, beside its feet, which are in the air.",
            matters: "The actor hangs from a ledge by a pole, a sleeve or a tail, and cannot fall.",
            measured: "For 0.15 s it neither rose nor fell, or for 0.33 s where it stays in place, no strip feels ground, and all that meets \
                       something when the body is lowered by check.slack are pieces thinner than 4 px. The figure is how \
                       thin.",
            fix: "Drop thin parts with `min_thickness`, or give the body a shape that leaves them out.",
            drawing: "   [ ]\n   [ ]====\n   [ ]  ######   figure: how thin\n        ######\n",
        },
    };
    const LATE: u64 = pause::LATE + 1;
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "midair_stop"];
    type Seen = Seen;

    fn new(_: &Settings) -> Hanging {
        Hanging::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.since.forget(instance);
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, _: &mut Ledger<'a, Seen>) {
        self.rests(look.step);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let (step, now) = (look.step, look.step.now());
        let Some(rest) = self.rests(step) else { return };
        // Most have no part so thin.
        if step.body.pieces.thinnest() >= THIN {
            return;
        }
        let is_felt = step.pose().strip_below().is_some() && look.seat.ground.now.is_firm;
        if now.tick < rest.tick + outlasting(step, held(step)) || is_felt {
            return;
        }
        let Some(seen) = by_a_part(look).filter(|_| !look.is_held_by_body(Vec2::new(0.0, 1.0))) else { return };
        let key = Key { instance: step.instance(), with: With::Thing(Thing::Solid(seen.solid)) };
        let first = if out.is_running(key, now.tick) { now.tick } else { rest.tick };
        out.see(key, Span { first, last: now.tick }, seen.thick, || Sighting {
            tick: now.tick,
            figure: seen.thick,
            at: seen.middle,
            push: Vec2::new(0.0, -1.0),
            cause: Cause::Moved,
            shape: &step.body.name,
            way: step.way,
            seen,
        });
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let Seen { thick, past, .. } = case.to_fix.seen;
        let shape = case.to_fix.shape;
        Words {
            message: format!(
                "{} hangs on {} by a part of {shape} that is {} thin",
                scene.label(case.key.instance),
                scene.name(case.key.with),
                px(thick)
            ),
            fix: format!(
                "Set `min_thickness = {}` on {shape}, or move that part {} back: the rest falls.",
                thick.floor() + 1.0,
                px(past)
            ),
            remains: 0.0,
            end_at: None,
            change: None,
        }
    }
}

impl Hanging {
    /// Since when and where an instance has kept its height; `None` where it does not.
    fn rests(&mut self, step: &Step<'_>) -> Option<Rest> {
        let (known, now) = (self.since.of(step.instance()), step.now());
        let stays = step.motion().is_some() && known.is_some_and(|rest| (rest.at.y - now.at.y).abs() <= step.touch());
        if !stays {
            *known = Some(Rest { tick: now.tick, at: now.at });
        }
        known.filter(|_| stays)
    }
}

/// The thin part on which a body rests, where that is all that it rests on.
fn by_a_part(look: &Look<'_, '_>) -> Option<Seen> {
    let step = look.step;
    let around = step.bounds().inflate(0.0, lowered(step).y - step.now().at.y);
    if !look.solids().any(|solid| rects_meet(around, look.world().solid(solid).outline.bounds)) {
        return None;
    }
    let ThinParts { thin, rest } = ThinParts::of(&step.body.pieces)?;
    let rest_box = bounds_of_pieces(&rest)?;
    if stands(look, &rest) {
        return None;
    }
    let at = lowered(step);
    look.solids().find_map(|solid| {
        let outline = &look.world().solid(solid).outline;
        let Deepest { overlap: found, own, other } = deepest_overlap(&thin, at, &outline.pieces)?;
        let (_, middle) = overlap_region(&thin[own], at, &outline.pieces[other])?;
        let part = thin[own].bounds();
        let past = (part.x1 - rest_box.x1).max(rest_box.x0 - part.x0);
        let is_beside = past > 0.0 && found.push.y < -0.5;
        is_beside.then(|| Seen { solid, thick: thin[own].thickness(), past, middle })
    })
}

/// Whether pieces of the body rest on anything themselves.
fn stands(look: &Look<'_, '_>, pieces: &[Convex]) -> bool {
    let at = lowered(look.step);
    // A side that it touches by a hair carries nothing.
    let carries = |outline: &Outline| {
        deepest_overlap(pieces, at, &outline.pieces).is_some_and(|found| found.overlap.push.y < UPWARDS)
    };
    look.floors().supports(look.step).any(carries)
}

fn lowered(step: &Step<'_>) -> Vec2 {
    step.now().at.to_vec2() + Vec2::new(0.0, step.slack.max(step.touch()))
}

#[cfg(test)]
mod tests {
    use crate::actor::Actor;
    use crate::testing::{Row, check, hero, short, solid, span, stage};
    use crate::{Facing, Point, Polygon, Rect};

    /// A hero whose body has a rod of this many px out in front.
    fn with_rod(thick: f64) -> Actor {
        let mut actor = hero(0);
        let (low, high) = (-12.0 + thick / 2.0, -12.0 - thick / 2.0);
        let ring =
            [(-6.0, -20.0), (4.0, -20.0), (4.0, high), (16.0, high), (16.0, low), (4.0, low), (4.0, 0.0), (-6.0, 0.0)];
        let polygon = Polygon::new(ring.map(Point::from).to_vec()).unwrap();
        for pose in actor.animations.iter_mut().flat_map(|a| &mut a.frames).flatten() {
            if let Some(body) = pose.shapes.iter_mut().find(|shape| shape.name == "body") {
                (body.pieces, body.polygons) = (polygon.pieces().into(), vec![polygon.clone()]);
            }
        }
        actor
    }

    #[test]
    fn a_body_that_rests_by_a_thin_part_alone_is_reported() {
        let mut yard = stage();
        yard.solids.push(solid("ledge", Rect::new(100.0, 200.0, 160.0, 210.0)));
        yard.solids.push(solid("floor", Rect::new(0.0, 280.0, 400.0, 300.0)));
        let stays = |x: f64, y: f64, ticks: u64| -> Vec<Row> {
            (0..ticks).map(|tick| Row(tick, (x, y), Facing::Right, "stand", "")).collect()
        };
        // The rod's underside is 11 px above the feet.
        let report = check(&yard, with_rod(2.0), &stays(92.25, 211.0, 24));
        let found: Vec<_> = report.findings.iter().filter(|found| found.rule.code() == "hanging").collect();
        assert_eq!(found.len(), 1, "{:?}", short(&report));
        assert_eq!((span(found[0]), found[0].figure), ((0, 23), 2.0));
        assert!(
            found[0].fix.contains("`min_thickness = 3` on body, or move that part 12.00 px back"),
            "{}",
            found[0].fix
        );
        // For no longer than a pause; by a part that is not thin; on its feet.
        for (actor, rows) in [
            (with_rod(2.0), stays(92.25, 211.0, 18)),
            (with_rod(6.0), stays(92.25, 209.0, 24)),
            (with_rod(2.0), stays(92.25, 280.0, 24)),
        ] {
            let report = check(&yard, actor, &rows);
            assert!(report.findings.iter().all(|found| found.rule.code() != "hanging"), "{:?}", short(&report));
        }
    }
}
