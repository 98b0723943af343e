//! Seams in a level floor: where a walking body stops with nothing ahead.

use super::look::Look;
use super::step::Step;
use super::walk::{AHEAD, COARSE, Walk, fronts, is_cut_short};
use crate::geometry::{Point, Rect, Stretch, Vec2, bounds_of_pieces, cut_back, rects_meet};
use crate::stage::Solid;
use crate::world::{SolidIndex, highest_surface};

/// A stop this near to a seam is a stop at it, px.
const AT: f64 = 0.02;

/// A stop at a seam of a level floor with nothing ahead; it is a fault if the actor still wants to walk on the next tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct AtSeam {
    pub(crate) tick: u64,
    pub(crate) corner: Point,
    pub(crate) walk: Walk,
    /// Where it stopped.
    pub(crate) from: Point,
    /// The floor that it walked on, and the solid ahead.
    pub(crate) between: [SolidIndex; 2],
}

/// Whether friction ended a walk, wherever it likes: it took as much of each of the steps before, and no more of the last one.
/// `before` is how far it went across three steps ago.
pub(crate) fn is_braking(step: &Step<'_>, before: f64) -> bool {
    let (Some(earlier), Some(last), Some(motion)) = (step.way.earlier_move, step.way.last_move, step.motion()) else {
        return false;
    };
    let lost = [before - earlier.x, earlier.x - last.x, last.x - motion.x].map(|lost| lost * last.x.signum());
    let room = AT.max(2.0 * step.grain);
    // Landing takes of a step, too.
    let walked = earlier.y.abs() <= step.touch() && last.y.abs() <= step.touch();
    walked && lost[1] > room && (lost[0] - lost[1]).abs() <= room && lost[2] <= lost[1] + room
}

/// Whether a walking body stopped where two solids of one height meet under its front, and nothing is ahead.
pub(crate) fn at_seam(look: &Look<'_, '_>, walk: Walk) -> Option<AtSeam> {
    let step = look.step;
    let before = step.before()?;
    if !is_cut_short(step, walk, AT.max(1.5 * step.grain)) || before.animation != step.now().animation {
        return None;
    }
    // A slope is something ahead, too.
    let on = step.now().at + Vec2::new(walk.way * AHEAD, 0.0 - step.touch());
    if !fronts(look, walk.way, 0.0).is_empty() || look.world().depth(step.meeting(), on) > AT + step.touch() {
        return None;
    }
    // In whole px steps differ by rounding, and every few stops are at a seam.
    if step.grain > COARSE {
        return None;
    }
    let (between, corner) = seam_under(look, walk.way)?;
    Some(AtSeam { tick: step.now().tick, corner, walk, between, from: step.now().at })
}

/// The floor under a body and the solid that begins, level with it, under the body's front; and where.
fn seam_under(look: &Look<'_, '_>, way: f64) -> Option<([SolidIndex; 2], Point)> {
    let (step, world) = (look.step, look.world());
    let body = step.bounds();
    // Its front, and the front of what it stands with: round bodies are narrower there.
    let foot = step.body.bounds().y1 - step.slack;
    let low = cut_back(&step.body.pieces, Vec2::new(0.0, -1.0), 0.0 - foot);
    let low = bounds_of_pieces(&low).map_or(body, |low| low + step.now().at.to_vec2());
    let front = |rect: Rect| if way > 0.0 { rect.x1 } else { rect.x0 };
    let fronts = [front(body), front(low)];
    let is_level = |y: f64| (y - body.y1).abs() <= step.slack;
    // The side of the solid ahead that a body which has sunk a hair would meet.
    let side = |solid: &Solid| {
        let outline = &solid.outline;
        let x = if way > 0.0 { outline.bounds.x0 } else { outline.bounds.x1 };
        let is_near = fronts.iter().any(|front| (front - x).abs() <= AT);
        let (a, b) = (x, x + way * AHEAD);
        let surface = highest_surface(outline, Stretch { left: a.min(b), right: a.max(b) }, body.y0)?;
        (is_near && is_level(surface.y)).then_some(Point::new(x, surface.y))
    };
    let carries = |solid: &Solid, x: f64| {
        let (left, right) = if way > 0.0 { (x - AHEAD, x) } else { (x, x + AHEAD) };
        let meets = rects_meet(solid.outline.bounds, body.inflate(0.0, step.slack));
        let surface = highest_surface(&solid.outline, Stretch { left, right }, body.y0);
        meets && surface.is_some_and(|surface| is_level(surface.y))
    };
    look.solids().find_map(|index| {
        let corner = side(world.solid(index))?;
        let floor = look.solids().find(|other| *other != index && carries(world.solid(*other), corner.x))?;
        Some(([floor, index], corner))
    })
}

#[cfg(test)]
mod tests {
    use crate::testing::*;
    use crate::{Point, Rect};

    #[test]
    fn a_stop_at_a_joint_of_level_floor_is_told_while_the_actor_still_walks() {
        // The front is 4 px ahead of the pivot: at the joint with the pivot at 96. It gets there with 0.8 px of a step of 1.9,
        // and stops wholly on the next.
        for (there, goes_on) in [(3, true), (3, false), (1, true)] {
            let report = check(&planks(0.0), hero(0), &walk_to(96.0, ("stand", there), goes_on));
            assert_eq!(snags(&report), [("yard/far".to_string(), 1.9)], "{there} {goes_on} {:?}", short(&report));
            let found = &report.findings[0];
            assert_eq!((at(found).worst.at, at(found).worst.tick), (Point::new(100.0, LEVEL), 10), "{found:?}");
            assert!(found.fix.contains("Merge the two solids"), "{}", found.fix);
        }
        // Stops elsewhere, walks on without one, and a stop that the actor wants are none.
        let silent = [
            (planks(0.0), walk_to(95.9, ("stand", 3), true)),
            (planks(0.0), walk_to(140.0, ("stand", 3), false)),
            (planks(0.0), walk_to(96.0, ("duck", 3), true)),
            (planks(3.0), walk_to(96.0, ("stand", 3), false)),
        ];
        for (stage, rows) in silent {
            assert_eq!(snags(&check(&stage, hero(0), &rows)), []);
        }
        // One floor instead of two: the mend.
        let mut merged = stage();
        merged.solids.push(solid("floor", Rect::new(0.0, LEVEL, 400.0, 300.0)));
        assert_eq!(snags(&check(&merged, hero(0), &walk_to(96.0, ("stand", 3), true))), []);
    }
}
