//! Art that reaches into what stops its body.

use super::checker::World;
use super::ledger::{Fault, Ledger};
use super::step::Step;
use super::tries::depth_at;
use super::words::{self, px};
use super::{Rule, Worst};
use crate::actor::Pose;
use crate::geometry::{Convex, Point, Rect, Vec2, clipped, rects_overlap, ring_area};
use crate::stage::Solid;

/// Opaque pixels inside of solids that the body sees and keeps clear of, beyond the allowance.
///
/// # Complexity
/// O(r p) a solid that the art's box meets, r runs of pixels and p convex pieces; a box test decides for most.
pub(super) fn art_in_wall(world: &World<'_>, step: &Step<'_>, ledger: &Ledger, faults: &mut Vec<Fault>) {
    let pixels = step.pixels();
    let at = step.now.at.to_vec2();
    let around = pixels.bounds() + at;
    for (_, solid) in step.seen(world).filter(|(_, solid)| rects_overlap(around, solid.outline.bounds)) {
        let deep = step.overlap_now(&solid.outline.pieces, solid.outline.bounds);
        if deep.is_some_and(|(found, ..)| found.depth > step.slack) {
            continue;
        }
        let Some(inside) = inside(pixels.runs(), at, &solid.outline.pieces) else { continue };
        if inside.area > world.settings.art_in_wall {
            faults.push(fault(world, step, ledger, solid, &inside));
        }
    }
}

/// How far along a way the actor must keep off so that no more of its art is in a solid than is allowed, beginning with some px;
/// `None` where a few times that is not enough, or puts the body into something else.
fn kept_off(world: &World<'_>, step: &Step<'_>, solid: &Solid, (first, push): (f64, Vec2)) -> Option<f64> {
    let mut off = first;
    for _ in 0..4 {
        let at = step.now.at + push * off;
        let rest = inside(step.pixels().runs(), at.to_vec2(), &solid.outline.pieces);
        match rest.filter(|rest| rest.area > world.settings.art_in_wall) {
            Some(rest) => off += if push.x == 0.0 { rest.bounds.height() } else { rest.bounds.width() },
            None => return (depth_at(world, step, at) <= step.slack).then_some(off),
        }
    }
    None
}

/// The part of the art that lies in a solid.
struct Inside {
    /// Px2.
    area: f64,
    middle: Point,
    bounds: Rect,
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

fn fault(world: &World<'_>, step: &Step<'_>, ledger: &Ledger, solid: &Solid, inside: &Inside) -> Fault {
    let with = format!("{}/{}", world.stage.name, solid.name);
    let worst = |push: Vec2| {
        let depth = (inside.area * 100.0).round() / 100.0;
        Worst { tick: step.now.tick, depth, at: inside.middle, push }
    };
    if ledger.is_no_worse(Rule::ArtInWall, step.label, &with, (step.now.tick, worst(Vec2::ZERO).depth)) {
        return Fault::going_on(Rule::ArtInWall, step.label, &with, worst(Vec2::ZERO));
    }
    let (body, part) = (step.bounds(), inside.bounds);
    // Past the body's nearest side: by how much it reaches beyond it there, and how wide the part inside is across that.
    let sides = [
        (body.x0 - part.x0, part.width(), Vec2::new(1.0, 0.0), "left"),
        (part.x1 - body.x1, part.width(), Vec2::new(-1.0, 0.0), "right"),
        (body.y0 - part.y0, part.height(), Vec2::new(0.0, 1.0), "top"),
        (part.y1 - body.y1, part.height(), Vec2::new(0.0, -1.0), "bottom"),
    ];
    let (reach, _, push, side) = sides.into_iter().max_by(|a, b| a.0.total_cmp(&b.0)).unwrap_or(sides[0]);
    // Kept off far enough on one side, that one first, there is no more of it in the solid than is allowed, and room for the body.
    let mut ways = sides.map(|(reach, width, push, _)| (reach, width, push));
    ways.sort_by(|a, b| b.0.total_cmp(&a.0));
    let held = ways.into_iter().find_map(|(_, width, push)| Some((kept_off(world, step, solid, (width, push))?, push)));
    let (off, push) = held.unwrap_or((ways[0].1, push));
    let left = if held.is_some() { 0.0 } else { inside.area };
    let way = words::way(push).unwrap_or("off");
    let is_off = |pose: &Pose| {
        let there = self::inside(pose.pixels.runs(), step.now.at.to_vec2(), &solid.outline.pieces);
        there.is_some_and(|there| there.area > world.settings.art_in_wall)
    };
    Fault {
        rule: Rule::ArtInWall,
        actor: step.label.to_string(),
        shape: step.body.name.clone(),
        worst: worst(push),
        cause: step.cause_of_art(is_off),
        message: format!(
            "{:.1} px2 of {}'s art are inside {with}, {} px past its body's {side}, and the body is clear.",
            inside.area,
            step.label,
            px(reach)
        ),
        remedy: format!(
            "keep it {} px further {way}, or let the body reach {} px further at its {side}",
            px(off),
            px(reach.max(0.0))
        ),
        remains: Some(left),
        with,
    }
}
