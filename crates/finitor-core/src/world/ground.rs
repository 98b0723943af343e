//! What carries a body, and how high and how level it is.

use super::{Near, OneWayIndex, World};
use crate::geometry::{Convex, Overlap, Point, Rect, Stretch, Vec2, bounds_of_pieces, deepest_overlap, rects_meet};
use crate::layers::LayerSet;
use crate::stage::{Edge, Outline};

/// What feels for the ground under a body: pieces, lowered by some px.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Strip<'a> {
    pieces: &'a [Convex],
    bounds: Rect,
    lowered: f64,
}

impl<'a> World<'a> {
    /// What can carry a body: the solids near that it detects, and the one-way platforms near that it detects, that stop
    /// it from above and that it is not passing.
    pub(crate) fn supports<'t>(
        &'t self,
        near: Near<'t>,
        mask: LayerSet,
        passing: &'t [OneWayIndex],
    ) -> impl Iterator<Item = &'a Outline> + use<'t, 'a> {
        let solids = near.solids.iter().map(|index| self.solid(*index));
        let solids = solids.filter(move |solid| mask.sees(solid.layer)).map(|solid| &solid.outline);
        let platforms = near.one_ways.iter().filter(|index| !passing.contains(index)).map(|index| self.one_way(*index));
        let platforms = platforms.filter(move |platform| mask.sees(platform.layer) && platform.passes.is_upward());
        solids.chain(platforms.map(|platform| &platform.outline))
    }
}

impl<'a> Strip<'a> {
    /// Of pieces about the pivot.
    pub(crate) fn new(pieces: &'a [Convex], lowered: f64) -> Strip<'a> {
        let bounds = bounds_of_pieces(pieces).unwrap_or(Rect::ZERO).inflate(0.0, lowered);
        Strip { pieces, bounds, lowered }
    }

    /// Its overlap with an outline, the pivot at a place.
    pub(crate) fn overlap(&self, at: Point, outline: &Outline) -> Option<Overlap> {
        let at = at.to_vec2();
        if !rects_meet(self.bounds + at, outline.bounds) {
            return None;
        }
        deepest_overlap(self.pieces, at + Vec2::new(0.0, self.lowered), &outline.pieces).map(|found| found.overlap)
    }

    /// Whether it meets an outline, the pivot at a place.
    pub(crate) fn meets(&self, at: Point, outline: &Outline) -> bool {
        self.overlap(at, outline).is_some()
    }
}

/// What solvers leave a body in the ground and in the walls beside it, px: that is no overlap.
pub(crate) const HAIR: f64 = 1e-4;

/// The way out of a floor points up, this steeply at least: its y part, of 1.
pub(crate) const UPWARDS: f64 = -0.3;

/// The highest point of an outline's upper edges over a stretch, below `ceiling`.
pub(crate) fn highest_surface(outline: &Outline, stretch: Stretch, ceiling: f64) -> Option<Point> {
    let Stretch { left, right } = stretch;
    let mut highest: Option<Point> = None;
    for &Edge { from: a, to: b } in &outline.tops {
        let (from, to) = (a.x.max(left), b.x.min(right));
        if from >= to {
            continue;
        }
        if a.y == b.y {
            if a.y > ceiling && highest.is_none_or(|known| a.y < known.y) {
                highest = Some(Point::new(f64::midpoint(from, to), a.y));
            }
            continue;
        }
        let y_at = |x: f64| a.y + (b.y - a.y) * ((x - a.x) / (b.x - a.x));
        for x in [from, to] {
            let y = y_at(x);
            if y > ceiling && highest.is_none_or(|known| y < known.y) {
                highest = Some(Point::new(x, y));
            }
        }
    }
    highest
}

/// Whether an upper edge of an outline runs through a box.
pub(crate) fn has_surface(outline: &Outline, window: Rect) -> bool {
    rects_meet(outline.bounds, window)
        && outline.tops.iter().any(|&Edge { from: a, to: b }| {
            let (from, to) = (a.x.max(window.x0), b.x.min(window.x1));
            if from >= to {
                return false;
            }
            let y_at = |x: f64| a.y + (b.y - a.y) * ((x - a.x) / (b.x - a.x));
            let (one, other) = (y_at(from), y_at(to));
            one.min(other) <= window.y1 && window.y0 <= one.max(other)
        })
}
