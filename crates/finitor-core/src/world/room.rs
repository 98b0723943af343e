//! Where a body is clear of the still world, how deep it is in it elsewhere, and the nearest way out.

use super::{Body, SolidIndex, World};
use crate::geometry::{Convex, Overlap, Point, Vec2, cut_back, deepest_overlap};

/// A place for a body, and how deep it is in the deepest thing there; 0 where it is clear.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct ClearPlace {
    pub(crate) at: Point,
    pub(crate) depth: f64,
}

/// A body in a solid.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct InSolid {
    pub(crate) solid: SolidIndex,
    pub(crate) overlap: Overlap,
}

impl World<'_> {
    /// The pieces of all solids near a place that the body detects, and of something that is no solid.
    fn around<'p>(&'p self, body: Body<'_>, at: Point, also: &'p [Convex]) -> Vec<&'p [Convex]> {
        let near = self.solids_in(body.bounds() + at.to_vec2());
        let solids = near.into_iter().map(|index| self.solid(index));
        let detected = solids.filter(|solid| body.mask.sees(solid.layer));
        detected.map(|solid| solid.outline.pieces.as_slice()).chain([also]).collect()
    }

    /// The deepest overlap, with its pivot at a place, with the solids that the body detects and with something that is
    /// no solid.
    ///
    /// # Complexity
    /// O(log s + n), s solids, n of them near.
    pub(crate) fn deepest(&self, body: Body<'_>, at: Point, also: &[Convex]) -> Option<Overlap> {
        let met = self.around(body, at, also);
        let found =
            met.iter().filter_map(|pieces| deepest_overlap(body.pieces, at.to_vec2(), pieces)).map(|(found, ..)| found);
        found.max_by(|a, b| a.depth.total_cmp(&b.depth))
    }

    /// The solid that the body is deepest in, of those that it detects; the first of equals.
    pub(crate) fn deepest_solid(&self, body: Body<'_>, at: Point) -> Option<InSolid> {
        let near = self.solids_in(body.bounds() + at.to_vec2());
        let detected = near.into_iter().filter(|index| body.mask.sees(self.solid(*index).layer));
        let found = detected.filter_map(|solid| {
            let (overlap, ..) = deepest_overlap(body.pieces, at.to_vec2(), &self.solid(solid).outline.pieces)?;
            Some(InSolid { solid, overlap })
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
            let (_, own, theirs) = deepest_overlap(body.pieces, at.to_vec2(), pieces)?;
            let end = body.pieces[own].extent(way).0 + at.to_vec2().dot(way);
            Some(pieces[theirs].extent(way).1 - end)
        });
        needed.max_by(f64::total_cmp)
    }

    /// The nearest place found where the body is clear of every solid it detects and of something that is no solid, by
    /// pushing out of the deepest overlap again and again; between a floor and a ceiling that leads nowhere, and the
    /// nearest along one of the axes is it. Where neither gets out, the place where the pushes ended.
    pub(crate) fn clear_place(&self, body: Body<'_>, from: Point, also: &[Convex]) -> ClearPlace {
        /// Pushes that are tried.
        const TRIES: usize = 8;
        let deepest = |at: Point| self.deepest(body, at, also);
        let mut at = from;
        for _ in 0..TRIES {
            match deepest(at) {
                Some(found) => at += found.push * found.depth,
                None => return ClearPlace { at, depth: 0.0 },
            }
        }
        let axes = [Vec2::new(0.0, -1.0), Vec2::new(-1.0, 0.0), Vec2::new(1.0, 0.0), Vec2::new(0.0, 1.0)];
        let along = |way: Vec2| {
            let mut by = 0.0;
            for _ in 0..4 * TRIES {
                let Some(needed) = self.way_out(body, from + way * by, also, way) else { return Some(by) };
                by += needed;
            }
            None
        };
        let found = axes.into_iter().filter_map(|way| Some((along(way)?, way)));
        match found.min_by(|a, b| a.0.total_cmp(&b.0)) {
            Some((by, way)) => ClearPlace { at: from + way * by, depth: 0.0 },
            None => ClearPlace { at, depth: deepest(at).map_or(0.0, |found| found.depth) },
        }
    }
}

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
        let Some((found, i, j)) = deepest_overlap(&rest, at, others) else { return Cut { by, remains: 0.0 } };
        remains = found.depth;
        // Along the way out as far as the piece that is deepest lies in the other.
        let own = rest[i].extent(side).1 + at.dot(side);
        by += own - others[j].extent(side).0;
    }
    Cut { by, remains }
}
