//! snagged: a walking body was stopped by what ought not to stop it.

use crate::actor::DEFAULT_STEP;
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::seams::{AtSeam, at_seam};
use crate::check::step::{InstanceIndex, Step};
use crate::check::take_rule::{PerInstance, Scene, TakeRule, Words};
use crate::check::walk::{AHEAD, Obstacle, Walk, ahead, obstacle, stopped};
use crate::check::words::{place, px};
use crate::finding::{Cause, Span};
use crate::geometry::{Convex, Point, Vec2, bounds_of_pieces, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Unit};
use crate::stage::Solid;
use crate::world::{SolidIndex, Thing};

/// A part of a body thinner than this ought not to stop it, px.
const THIN: f64 = 4.0;

#[derive(Debug, Default)]
pub(crate) struct Snagged {
    /// Where each instance stopped at a seam on the tick before.
    at_seam: PerInstance<Option<AtSeam>>,
}

/// What stopped the body.
#[derive(Clone, Copy, Debug)]
pub(crate) enum Seen {
    Edge { walk: Walk, height: f64 },
    Seam { walk: Walk, floor: SolidIndex, went_on: Point },
    ThinPart { thick: f64, past: f64 },
}

/// A snag: the solid, when, where, and the rule's figure.
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
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A walking body was stopped by an edge that is no higher than it steps, by the seam of two solids of \
                    one height, or by a thin part of its own.",
            matters: "It sticks at what looks like level ground, most often at the seams of tiles.",
            measured: "It was grounded, moved at 1 px a tick or more and lost three quarters of that. Edge: all that lies \
                       half a px ahead are edges no higher than [moves] step (4 px by default), slopes left out; the \
                       figure is the height. Seam: nothing lies ahead, its step was cut short within 0.02 px of where \
                       the next solid begins, and the animation went on; the figure is how far it did not go. Thin part: \
                       only pieces thinner than 4 px meet what is ahead and the rest has room for the step; the figure \
                       is how thin.",
            fix: "Step up the edge or lower it, merge solids that meet in a floor (`finitor lint` lists both), or drop \
                  thin parts with `min_thickness`.",
            drawing: "   [ ]\n   [ ]->__###   figure\n   ##########\n",
        },
    };
    /// A stop at a seam is known one tick later.
    const LATE: u64 = 1;
    type Seen = Seen;

    fn new(_: &Settings) -> Snagged {
        Snagged::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.at_seam.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let (step, ground) = (look.step, &look.seat.ground);
        let before = self.at_seam.of(step.instance()).take();
        if step.motion().is_none() || !(ground.was_carried && ground.now.carries) {
            return;
        }
        if let Some(snag) = before.and_then(|seam| still_at_seam(step, seam)) {
            report(step, &snag, out);
        }
        if let Some(walk) = stopped(step) {
            if let Some(snag) = at_edge(look, walk) {
                report(step, &snag, out);
            }
            *self.at_seam.of(step.instance()) = at_seam(look, walk);
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let step = scene.step(case.to_fix.way);
        let label = scene.label(case.key.instance);
        let thing = scene.name(case.key.with);
        let figure = px(case.worst.figure);
        let is_clear = |at: Point| scene.world.depth(step.meeting(), at) <= step.slack;
        match case.to_fix.seen {
            Seen::Edge { walk, height } => {
                let lifted = step.now().at - Vec2::new(0.0, height);
                let is_free = is_clear(lifted + Vec2::new(walk.way * walk.lost, 0.0));
                Words {
                    message: format!("A {figure} edge of {thing} stopped {label}"),
                    fix: format!(
                        "Step up to {} and go on {}, or lower the edge by {}.",
                        place(lifted),
                        px(walk.lost),
                        px(height)
                    ),
                    remains: if is_free { 0.0 } else { case.to_fix.figure },
                }
            }
            Seen::Seam { walk, floor, went_on } => Words {
                message: format!(
                    "The seam between {} and {thing} stopped {label} on level ground, {figure} short",
                    scene.world.solid(floor).name
                ),
                fix: format!("Merge the two solids, or go on {} to {}.", px(walk.lost), place(went_on)),
                remains: if is_clear(went_on) { 0.0 } else { case.to_fix.figure },
            },
            Seen::ThinPart { thick, past } => {
                let shape = case.to_fix.shape;
                Words {
                    message: format!("A {figure} thin part of {shape} caught {label} on {thing}"),
                    fix: format!(
                        "Set `min_thickness = {}` on {shape}, or move that part {} back: the rest has room.",
                        thick.floor() + 1.0,
                        px(past)
                    ),
                    remains: 0.0,
                }
            }
        }
    }
}

fn report<'a>(step: &Step<'a>, snag: &Snag, out: &mut Ledger<'a, Seen>) {
    let key = Key { instance: step.instance(), with: With::Thing(Thing::Solid(snag.solid)) };
    out.see(key, Span::at(snag.tick), snag.figure, || Sighting {
        tick: snag.tick,
        figure: snag.figure,
        at: snag.at,
        push: Vec2::new(0.0 - snag.way, 0.0),
        cause: Cause::Moved,
        shape: &step.body.name,
        way: step.way,
        seen: snag.seen,
    });
}

/// Stopped by an edge that it would step up, or by a thin part of its own outline.
fn at_edge(look: &Look<'_, '_>, walk: Walk) -> Option<Snag> {
    let step = look.step;
    let own = step.actor.moves.step.unwrap_or(DEFAULT_STEP);
    let body = step.bounds() + Vec2::new(walk.way * AHEAD, 0.0);
    // Every edge ahead must be low: what is stopped by a wall is stopped by right.
    let mut low: Option<(f64, SolidIndex)> = None;
    for (index, solid) in ahead(look, walk.way) {
        match obstacle(&solid.outline, body, walk.way) {
            Obstacle::Edge(height) if height <= own => {
                low = low.filter(|known| known.0 >= height).or(Some((height, index)));
            }
            Obstacle::Slope => {}
            Obstacle::Edge(_) => return thin_part(look, walk),
        }
    }
    let (height, solid) = low?;
    let x = if walk.way > 0.0 { body.x1 - AHEAD } else { body.x0 + AHEAD };
    Some(Snag {
        solid,
        tick: step.now().tick,
        figure: height,
        at: Point::new(x, body.y1 - height),
        way: walk.way,
        seen: Seen::Edge { walk, height },
    })
}

/// Only thin pieces meet what is ahead, the rest having room for the step that was lost.
fn thin_part(look: &Look<'_, '_>, walk: Walk) -> Option<Snag> {
    let Walk { way, lost, .. } = walk;
    let (step, world) = (look.step, look.world());
    let breadth =
        |piece: &Convex| piece.normals().iter().map(|axis| piece.breadth(*axis)).fold(f64::INFINITY, f64::min);
    let (thin, rest): (Vec<Convex>, Vec<Convex>) =
        step.body.pieces.iter().cloned().partition(|piece| breadth(piece) < THIN);
    if thin.is_empty() || rest.is_empty() {
        return None;
    }
    let at = step.now().at.to_vec2();
    let meets = |pieces: &[Convex], by: f64, solid: &Solid| {
        deepest_overlap(pieces, at + Vec2::new(way * by, 0.0), &solid.outline.pieces)
    };
    // One step of the rest, in parts no longer than half a px, so that nothing is leapt over.
    let parts = (lost / AHEAD).ceil().max(1.0);
    let is_clear = |solid: &Solid| {
        (1..=parts as u32)
            .all(|part| meets(&rest, lost * f64::from(part) / parts, solid).is_none_or(|o| o.0.depth <= step.slack))
    };
    if !look.solids().all(|index| is_clear(world.solid(index))) {
        return None;
    }
    let (solid, part) = ahead(look, way).find_map(|(index, solid)| Some((index, meets(&thin, AHEAD, solid)?.1)))?;
    let (part, thick) = (&thin[part], breadth(&thin[part]));
    let bounds = part.bounds() + at;
    let past = bounds_of_pieces(&rest)
        .map_or(0.0, |rest| if way > 0.0 { part.bounds().x1 - rest.x1 } else { rest.x0 - part.bounds().x0 });
    Some(Snag {
        solid,
        tick: step.now().tick,
        figure: thick,
        at: Point::new(if way > 0.0 { bounds.x1 } else { bounds.x0 }, bounds.center().y),
        way,
        seen: Seen::ThinPart { thick, past: past.max(lost) },
    })
}

/// A stop at a seam, now that the actor still walks.
fn still_at_seam(step: &Step<'_>, seam: AtSeam) -> Option<Snag> {
    let before = step.before()?;
    if step.now().animation != seam.animation || step.now().facing != before.facing {
        return None;
    }
    let AtSeam { tick, corner, walk, between: [floor, solid], .. } = seam;
    let went_on = before.at + Vec2::new(walk.way * walk.lost, 0.0);
    Some(Snag { solid, tick, figure: walk.lost, at: corner, way: walk.way, seen: Seen::Seam { walk, floor, went_on } })
}
