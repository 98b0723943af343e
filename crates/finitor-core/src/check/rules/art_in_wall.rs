//! art_in_wall: opaque pixels are inside a solid that the body keeps clear of.

use crate::actor::{PixelRuns, Pose};
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::step::Step;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{direction, px};
use crate::check::{Settings, View};
use crate::finding::Span;
use crate::geometry::{Convex, Point, Rect, TOUCH, Vec2, clipped, rects_overlap, ring_area};
use crate::rule::{RuleText, Severity, Spec, Threshold, Unit, Views};
use crate::world::{Thing, World};

/// How much art may be inside a solid.
pub(crate) const ART_IN_WALL: Threshold = Threshold {
    key: "art_in_wall",
    about: "Opaque pixels inside a solid up to this are no finding.",
    unit: Unit::Px2,
    default: 64.0,
    least: 0.0,
    most: 1e7,
};

#[derive(Debug)]
pub(crate) struct ArtInWall {
    allowed: f64,
    view: View,
}

/// The solid, how much art is allowed in it, and the way by which the art gets out.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seen {
    thing: Thing,
    allowed: f64,
    bounds: Rect,
    /// Art that ends above this is not asked for, px from the pivot.
    top: f64,
}

impl TakeRule for ArtInWall {
    const SPEC: Spec = Spec {
        code: "art_in_wall",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Px2,
        thresholds: &[ART_IN_WALL],
        text: RuleText {
            means: "Opaque pixels of an actor are inside a solid that its body keeps clear of.",
            matters: "A pole, a nose or a tail is drawn into walls: the body is narrower than the picture.",
            measured: "The area of the frame's opaque pixels, as they are seen in that facing, inside each solid that the \
                       body detects and is not deeper in than check.slack, exactly. It counts beyond check.art_in_wall. With \
                       view = \"top_down\" rows above the body are left out: they stand in front of the wall.",
            fix: "Keep the actor further off by the px given, or extend the body as much further on that side.",
            drawing: "   [ o ]  ####\n   [/|\\]--##   figure\n   [/ \\]  ####\n",
        },
    };
    const AFTER: &'static [&'static str] =
        &["embedded", "no_headroom", "warp_blocked", "facing_split", "tunnelled", "off_stage"];
    type Seen = Seen;

    fn new(settings: &Settings) -> ArtInWall {
        ArtInWall { allowed: settings.get(&ART_IN_WALL), view: settings.view() }
    }

    /// # Complexity
    /// O(r p) a solid that enough of the art may be in, r runs of pixels and p convex pieces; box tests decide for most.
    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let (step, allowed) = (look.step, self.allowed);
        let (pixels, at) = (step.pixels(), step.now().at.to_vec2());
        // Seen from above, what is higher in the picture than the body stands in front of the wall behind.
        let top = if self.view == View::TopDown { step.body.bounds().y0 } else { f64::NEG_INFINITY };
        let runs = runs_below(pixels, top);
        for index in look.solids() {
            let outline = &look.world().solid(index).outline;
            let thing = Thing::Solid(index);
            if !rects_overlap(pixels.bounds() + at, outline.bounds)
                || is_surely_less(pixels, at, &outline.pieces, allowed)
                || look.is_inside(thing)
            {
                continue;
            }
            let found = inside(runs, at, &outline.pieces).filter(|inside| inside.area > allowed);
            let Some(found) = found else { continue };
            let key = Key { instance: step.instance(), with: With::Thing(thing) };
            let figure = (found.area * 100.0).round() / 100.0;
            out.see(key, Span::at(step.now().tick), figure, || {
                let seen = Seen { thing, allowed, bounds: found.bounds, top };
                let is_off = |pose: &Pose| {
                    inside(runs_below(&pose.pixels, top), at, &outline.pieces).is_some_and(|there| there.area > allowed)
                };
                Sighting {
                    tick: step.now().tick,
                    figure,
                    at: found.middle,
                    push: escape(look.world(), step, &seen).push,
                    cause: step.cause_of_art(is_off),
                    shape: &step.body.name,
                    way: step.way,
                    seen,
                }
            });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let (step, seen) = (scene.step(case.to_fix.way), case.to_fix.seen);
        let Escape { push, off, reach, side, is_clear } = escape(scene.world, &step, &seen);
        Words {
            message: format!(
                "{} of {}'s art are inside {}, {} past the body's {side}; the body is clear",
                Unit::Px2.shown(case.worst.figure),
                scene.label(case.key.instance),
                scene.name(case.key.with),
                px(reach)
            ),
            fix: format!(
                "Keep {} further {}, or extend {} {} at its {side}.",
                px(off),
                direction(push).unwrap_or("off"),
                step.body.name,
                px(reach.max(0.0))
            ),
            remains: if is_clear { 0.0 } else { case.to_fix.figure },
            end_at: None,
            change: None,
        }
    }
}

/// The part of the art that lies in a solid.
struct Inside {
    /// Px2.
    area: f64,
    middle: Point,
    bounds: Rect,
}

/// The rows of a frame that do not begin above a line.
fn runs_below(pixels: &PixelRuns, top: f64) -> &[Rect] {
    let runs = pixels.runs();
    &runs[runs.partition_point(|run| run.y0 < top)..]
}

/// Whether no more of the art than is allowed can lie in some pieces, by boxes and sides alone: feet in the ground, as a rule.
fn is_surely_less(pixels: &PixelRuns, at: Vec2, pieces: &[Convex], allowed: f64) -> bool {
    // Areas are summed in another order by the exact count.
    let least = allowed - TOUCH;
    let mut most = 0.0;
    for piece in pieces {
        let bounds = piece.bounds() - at;
        let shared = |of: &Rect| of.intersect(bounds).area();
        if !rects_overlap(pixels.bounds(), bounds) {
            continue;
        }
        let whole = most + shared(&pixels.bounds());
        if whole < least {
            most = whole;
            continue;
        }
        for run in pixels.runs().iter().filter(|run| !is_beside(piece, **run + at)) {
            most += shared(run);
            if most >= least {
                return false;
            }
        }
    }
    true
}

/// Whether a box is wholly on the outer side of one of a piece's slanted edges.
fn is_beside(piece: &Convex, of: Rect) -> bool {
    let mut edges = piece.normals().iter().zip(piece.points());
    edges.any(|(normal, on_edge)| {
        let nearest = Vec2::new(if normal.x > 0.0 { of.x0 } else { of.x1 }, if normal.y > 0.0 { of.y0 } else { of.y1 });
        normal.x != 0.0 && normal.y != 0.0 && (nearest - on_edge.to_vec2()).dot(*normal) >= 0.0
    })
}

fn inside(runs: &[Rect], at: Vec2, pieces: &[Convex]) -> Option<Inside> {
    let (mut area, mut moment) = (0.0, Vec2::ZERO);
    let mut bounds: Option<Rect> = None;
    for run in runs.iter().map(|run| *run + at) {
        for piece in pieces.iter().filter(|piece| rects_overlap(run, piece.bounds())) {
            let corners = [(run.x0, run.y0), (run.x1, run.y0), (run.x1, run.y1), (run.x0, run.y1)];
            let mut ring: Vec<Point> = corners.map(Point::from).to_vec();
            for (normal, on_edge) in piece.normals().iter().zip(piece.points()) {
                ring = clipped(&ring, *normal, on_edge.to_vec2().dot(*normal));
            }
            let own = ring_area(&ring);
            if own <= 0.0 {
                continue;
            }
            let extent = ring.iter().map(|p| Rect::from_points(*p, *p)).reduce(|a, b| a.union(b)).unwrap_or(run);
            area += own;
            // A run is a px high: the middle of its part is as near as a px shows.
            moment += extent.center().to_vec2() * own;
            bounds = Some(bounds.map_or(extent, |known| known.union(extent)));
        }
    }
    Some(Inside { area, middle: (moment / area).to_point(), bounds: bounds? })
}

/// How the art gets out of a solid.
struct Escape {
    push: Vec2,
    /// How far the actor must keep off, px.
    off: f64,
    /// How far the art inside reaches past the body's nearest side, px.
    reach: f64,
    side: &'static str,
    is_clear: bool,
}

fn escape(world: &World<'_>, step: &Step<'_>, seen: &Seen) -> Escape {
    let (body, part) = (step.bounds(), seen.bounds);
    // Past the body's nearest side: by how much it reaches beyond it there, and how wide the part inside is across that.
    let sides = [
        (body.x0 - part.x0, part.width(), Vec2::new(1.0, 0.0), "left"),
        (part.x1 - body.x1, part.width(), Vec2::new(-1.0, 0.0), "right"),
        (body.y0 - part.y0, part.height(), Vec2::new(0.0, 1.0), "top"),
        (part.y1 - body.y1, part.height(), Vec2::new(0.0, -1.0), "bottom"),
    ];
    let (reach, _, push, side) = sides.into_iter().max_by(|a, b| a.0.total_cmp(&b.0)).unwrap_or(sides[0]);
    // Kept off far enough on one side, that one first, there is no more of it in the solid than is allowed, and room for
    // the body.
    let mut ways = sides.map(|(reach, width, push, _)| (reach, width, push));
    ways.sort_by(|a, b| b.0.total_cmp(&a.0));
    let held = ways.into_iter().find_map(|(_, width, push)| Some((kept_off(world, step, seen, push * width)?, push)));
    let (off, push) = held.unwrap_or((ways[0].1, push));
    Escape { push, off, reach, side, is_clear: held.is_some() }
}

/// How far along a way the actor must keep off so that no more of its art is in a solid than is allowed, beginning with a
/// first move; `None` where a few times that is not enough, or puts the body into something else.
fn kept_off(world: &World<'_>, step: &Step<'_>, seen: &Seen, first: Vec2) -> Option<f64> {
    let mut off = first.hypot();
    let push = first / off;
    for _ in 0..4 {
        let at = step.now().at + push * off;
        let rest = inside(runs_below(step.pixels(), seen.top), at.to_vec2(), world.pieces(seen.thing));
        match rest.filter(|rest| rest.area > seen.allowed) {
            Some(rest) => off += if push.x == 0.0 { rest.bounds.height() } else { rest.bounds.width() },
            None => return (world.depth(step.meeting(), at) <= step.slack).then_some(off),
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use crate::actor::{Actor, PixelRuns};
    use crate::art::Mask;
    use crate::check::{Settings, View};
    use crate::testing::*;
    use crate::{Point, Rect, Vec2};

    /// The hero with art that reaches 10 px further ahead than its body, 20 rows high.
    fn wide_hero() -> Actor {
        let mut actor = hero(0);
        let opaque = Mask::from_fn(30, 24, |x, y| (4..24).contains(&x) && y >= 4);
        for pose in actor.animations.iter_mut().flat_map(|animation| &mut animation.frames).flatten() {
            pose.pixels = PixelRuns::new(&opaque.runs(), Point::new(10.0, 24.0));
        }
        actor
    }

    #[test]
    fn art_in_a_wall_beside_a_body_that_is_clear_is_reported_by_its_area() {
        let stage = with_wall();
        let report = check(&stage, wide_hero(), &path(&[(80.0, 200.0), (93.5, 200.0), (80.0, 200.0)]));
        // The body's front is 2.5 px before the wall, the art's 7.5 px past its side.
        assert_eq!(short(&report), [found("art_in_wall", "yard/wall", (1, 1), 150.0, "moved")]);
        let finding = &report.findings[0];
        assert_eq!(at(finding).worst.push, Vec2::new(-1.0, 0.0));
        // A sliver, and art that reaches as far as the body.
        assert_eq!(short(&check(&stage, wide_hero(), &path(&[(80.0, 200.0), (89.0, 200.0)]))), []);
        assert_eq!(short(&check(&stage, hero(0), &path(&[(80.0, 200.0), (93.5, 200.0)]))), []);
        // Where the body is in as well, that is the fault.
        let deep = check(&stage, wide_hero(), &path(&[(80.0, 200.0), (97.0, 200.0)]));
        assert_eq!(short(&deep), [found("embedded", "yard/wall", (1, 1), 1.0, "moved")]);
    }

    #[test]
    fn seen_from_above_art_over_the_body_stands_in_front_of_the_wall() {
        let settings = |view: View| {
            let mut settings = Settings::default();
            settings.set_view(view);
            settings
        };
        let mut tall = wide_hero();
        let opaque = Mask::from_fn(30, 24, |x, _| (4..24).contains(&x));
        for pose in tall.animations.iter_mut().flat_map(|animation| &mut animation.frames).flatten() {
            pose.pixels = PixelRuns::new(&opaque.runs(), Point::new(10.0, 24.0));
        }
        let mut stage = with_wall();
        stage.solids.push(solid("beam", Rect::new(0.0, 100.0, 100.0, 179.5)));
        // The head is 3.5 px in the beam over it; then the side is in the wall ahead.
        let told = |at, view| short(&check_by(&stage, tall.clone(), &path(&[at; 3]), &settings(view)));
        assert_eq!(told((50.0, 200.0), View::Side), [found("art_in_wall", "yard/beam", (0, 2), 70.0, "spawned")]);
        assert_eq!(told((50.0, 200.0), View::TopDown), []);
        let ahead = told((93.5, 200.0), View::TopDown);
        assert_eq!(ahead, [found("art_in_wall", "yard/wall", (0, 2), 150.0, "spawned")]);
    }
}
