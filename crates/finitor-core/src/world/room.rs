//! Where a body is clear of the still world, how deep it is in it elsewhere, and the nearest way out.

use super::{Body, SolidIndex, Space, World, pivots_hit};
use crate::geometry::{Convex, Deepest, Overlap, Point, Rect, Vec2, cut_back, deepest_overlap};
use crate::layers::LayerSet;

/// A body in a solid.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct InSolid {
    pub(crate) solid: SolidIndex,
    pub(crate) overlap: Overlap,
}

impl World<'_> {
    /// Where on the stage a pivot may be for all of some bodies, as far as solids go.
    ///
    /// # Complexity
    /// That of [`Space::new`] for the pieces of the solids that they detect, times those of the bodies.
    pub(crate) fn free_places<'b>(&self, bodies: impl Iterator<Item = Body<'b>>) -> Space {
        let stage = self.stage();
        let hit = bodies.flat_map(|body| {
            let detected = stage.solids.iter().filter(move |solid| body.mask.sees(solid.layer));
            let pieces = detected.flat_map(|solid| &solid.outline.pieces);
            pieces.flat_map(move |piece| body.pieces.iter().map(move |own| pivots_hit(piece, own)))
        });
        Space::new(&hit.collect::<Vec<Convex>>(), stage.area())
    }

    /// The pieces of all solids in an area that a mask detects, and of something that need be no solid.
    pub(crate) fn obstacles_in<'p>(&'p self, area: Rect, mask: LayerSet, also: &'p [Convex]) -> Vec<&'p [Convex]> {
        let solids = self.solids_in(area).into_iter().map(|index| self.solid(index));
        let detected = solids.filter(|solid| mask.sees(solid.layer));
        detected.map(|solid| solid.outline.pieces.as_slice()).chain([also]).collect()
    }

    fn around<'p>(&'p self, body: Body<'_>, at: Point, also: &'p [Convex]) -> Vec<&'p [Convex]> {
        self.obstacles_in(body.bounds() + at.to_vec2(), body.mask, also)
    }

    /// The deepest overlap, with its pivot at a place, with the solids that the body detects and with something that is
    /// no solid.
    ///
    /// # Complexity
    /// O(log s + n), s solids, n of them near.
    pub(crate) fn deepest(&self, body: Body<'_>, at: Point, also: &[Convex]) -> Option<Overlap> {
        let met = self.around(body, at, also);
        let found = met
            .iter()
            .filter_map(|pieces| deepest_overlap(body.pieces, at.to_vec2(), pieces))
            .map(|found| found.overlap);
        found.max_by(|a, b| a.depth.total_cmp(&b.depth))
    }

    /// The solid that the body is deepest in, of those that it detects; the first of equals.
    pub(crate) fn deepest_solid(&self, body: Body<'_>, at: Point) -> Option<InSolid> {
        let near = self.solids_in(body.bounds() + at.to_vec2());
        let detected = near.into_iter().filter(|index| body.mask.sees(self.solid(*index).layer));
        let found = detected.filter_map(|solid| {
            let found = deepest_overlap(body.pieces, at.to_vec2(), &self.solid(solid).outline.pieces)?;
            Some(InSolid { solid, overlap: found.overlap })
        });
        found.reduce(|known, other| if other.overlap.depth > known.overlap.depth { other } else { known })
    }

    /// How deep the body is in the deepest of the solids it detects, px; 0 where it is clear.
    pub(crate) fn depth(&self, body: Body<'_>, at: Point) -> f64 {
        self.deepest(body, at, &[]).map_or(0.0, |found| found.depth)
    }

    /// How far along an axis the body must go from a place to have passed what it is deepest in there; `None` where it
    /// is clear.
    fn way_out(&self, body: Body<'_>, at: Point, also: &[Convex], way: Vec2) -> Option<f64> {
        let met = self.around(body, at, also);
        let needed = met.iter().filter_map(|pieces| {
            let Deepest { own, other, .. } = deepest_overlap(body.pieces, at.to_vec2(), pieces)?;
            let end = body.pieces[own].extent(way).0 + at.to_vec2().dot(way);
            Some(pieces[other].extent(way).1 - end)
        });
        needed.max_by(f64::total_cmp)
    }

    /// Places near where the body is clear of every solid it detects and of something that is no solid: where the pushes out of
    /// the deepest overlap lead, again and again; and the nearest along each axis, by distance. Between a floor and a ceiling
    /// pushes lead nowhere.
    /// Each is looked for only when it is asked for.
    pub(crate) fn clear_places<'p>(
        &'p self,
        body: Body<'p>,
        from: Point,
        also: &'p [Convex],
    ) -> impl Iterator<Item = Point> + 'p {
        let along_axes = move || {
            let axes = [Vec2::new(0.0, -1.0), Vec2::new(-1.0, 0.0), Vec2::new(1.0, 0.0), Vec2::new(0.0, 1.0)];
            let along = axes.map(|way| self.out_along(body, from, also, way));
            let mut places: Vec<Point> = along.into_iter().flatten().collect();
            places.sort_by(|a, b| (*a - from).hypot2().total_cmp(&(*b - from).hypot2()));
            places
        };
        self.pushed_out(body, from, also).into_iter().chain(std::iter::once_with(along_axes).flatten())
    }

    fn pushed_out(&self, body: Body<'_>, from: Point, also: &[Convex]) -> Option<Point> {
        let mut at = from;
        for _ in 0..TRIES {
            match self.deepest(body, at, also) {
                Some(found) => at += found.push * found.depth,
                None => return Some(at),
            }
        }
        None
    }

    fn out_along(&self, body: Body<'_>, from: Point, also: &[Convex], way: Vec2) -> Option<Point> {
        let mut by = 0.0;
        for _ in 0..4 * TRIES {
            let Some(needed) = self.way_out(body, from + way * by, also, way) else { return Some(from + way * by) };
            by += needed;
        }
        None
    }
}

/// Pushes that are tried.
const TRIES: usize = 8;

/// How much of a side of a body must go.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Cut {
    /// Px of the side.
    pub(crate) by: f64,
    /// How deep the rest is: 0 as a rule.
    pub(crate) remains: f64,
}

/// How many px of a body's side, seen from its pivot, must go so that it is clear of something; `way` points out of it.
pub(crate) fn cut_needed(body: &[Convex], at: Vec2, others: &[Convex], way: Vec2) -> Cut {
    let side = Vec2::ZERO - way;
    let end = body.iter().map(|piece| piece.extent(side).1).fold(f64::NEG_INFINITY, f64::max);
    let (mut by, mut remains) = (0.0, 0.0);
    for _ in 0..8 {
        let rest = cut_back(body, side, end - by);
        let Some(found) = deepest_overlap(&rest, at, others) else { return Cut { by, remains: 0.0 } };
        remains = found.overlap.depth;
        // Along the way out as far as the piece that is deepest lies in the other.
        let own = rest[found.own].extent(side).1 + at.dot(side);
        by += own - others[found.other].extent(side).0;
    }
    Cut { by, remains }
}
