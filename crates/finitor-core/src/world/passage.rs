//! Bodies on a straight way, and what they go through.

use super::HAIR;
use crate::geometry::{
    Convex, Deepest, Point, Sweep, TOUCH, Vec2, deepest_overlap, depth_at_most, overlap_depth, overlap_region,
    rects_overlap, sweep, times_deeper,
};

/// Pieces that move straight from a place.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Path<'a> {
    pub(crate) pieces: &'a [Convex],
    pub(crate) from: Point,
    pub(crate) motion: Vec2,
}

/// A piece of a body and one of a thing.
#[derive(Clone, Copy, Debug)]
struct Pair<'a> {
    one: &'a Convex,
    other: &'a Convex,
}

/// How a whole body went through a whole thing. Times run from 0 (start of the way) to 1 (its end).
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Through {
    /// When the interiors first met.
    pub(crate) enter: f64,
    /// When they last did.
    pub(crate) exit: f64,
    /// The normal of the side it came in through.
    pub(crate) push: Vec2,
    /// How deep it was at the deepest, px.
    pub(crate) depth: f64,
    /// Middle of what overlapped then.
    pub(crate) at: Point,
}

impl<'a> Path<'a> {
    /// The straight parts of a way from place to place.
    pub(crate) fn legs(
        pieces: &'a [Convex],
        from: Point,
        turns: &[Point],
        to: Point,
    ) -> impl Iterator<Item = Path<'a>> {
        let starts = std::iter::once(from).chain(turns.iter().copied());
        let ends = turns.iter().copied().chain([to]);
        starts.zip(ends).map(move |(from, to)| Path { pieces, from, motion: to - from })
    }

    /// How the body goes through a thing; `None` when no interiors meet on the way.
    ///
    /// # Complexity
    /// O(p q (n + m)) as a rule, p and q pieces of n and m corners.
    pub(crate) fn through(&self, others: &[Convex]) -> Option<Through> {
        let mut whole: Option<Through> = None;
        for (Pair { one, other }, found) in self.sweeps(others) {
            let Sweep { enter, exit, push, deepest_time, depth } = found;
            let (from, there) = (self.from, self.from.to_vec2() + self.motion * deepest_time);
            let at = overlap_region(one, there, other).map_or(from, |(_, middle)| middle);
            let piece = Through { enter, exit, push, depth, at };
            whole = Some(whole.map_or(piece, |known| known.joined(piece)));
        }
        whole
    }

    /// How deep the body is in a thing where it is deepest on the way, px; 0 where no interiors meet.
    fn deepest(&self, others: &[Convex]) -> f64 {
        self.sweeps(others).map(|(_, found)| found.depth).fold(0.0, f64::max)
    }

    /// Each piece of the body that meets a piece of a thing on the way, and how.
    fn sweeps<'t>(&'t self, others: &'t [Convex]) -> impl Iterator<Item = (Pair<'t>, Sweep)> {
        let from = self.from.to_vec2();
        self.pairs(others).filter_map(move |pair| Some((pair, sweep(pair.one, from, self.motion, pair.other)?)))
    }

    /// Each piece of the body with each of a thing whose boxes meet on the way.
    fn pairs<'t>(&'t self, others: &'t [Convex]) -> impl Iterator<Item = Pair<'t>> {
        let Path { pieces, from, motion } = *self;
        let pairs = pieces.iter().flat_map(|one| others.iter().map(move |other| Pair { one, other }));
        pairs.filter(move |pair| {
            let start = pair.one.bounds() + from.to_vec2();
            rects_overlap(start.union(start + motion), pair.other.bounds())
        })
    }

    /// Whether the way taken axis by axis, in one order or the other, keeps clear of a thing within the slack.
    pub(crate) fn is_clear_axis_by_axis(&self, others: &[Convex], slack: f64) -> bool {
        let (across, down) = (Vec2::new(self.motion.x, 0.0), Vec2::new(0.0, self.motion.y));
        let clear = |first: Vec2, second: Vec2| {
            let legs = [Path { motion: first, ..*self }, Path { from: self.from + first, motion: second, ..*self }];
            legs.into_iter().all(|leg| leg.deepest(others) <= slack)
        };
        clear(across, down) || clear(down, across)
    }

    /// Whether the straight way or one of those axis by axis keeps clear of a thing within the slack, from end to end.
    pub(crate) fn is_clear(&self, others: &[Convex], slack: f64) -> bool {
        self.deepest(others) <= slack || self.is_clear_axis_by_axis(others, slack)
    }

    /// Whether a walk along the ground that some things are keeps clear of them: over a crest, through a dip, up an edge that is no
    /// higher than `rise`. The way that the body must be lifted grows and shrinks no faster than walkable ground does.
    ///
    /// # Complexity
    /// O(l p q), l half px of the way, p and q pieces.
    pub(crate) fn is_clear_along_ground(&self, others: &[&[Convex]], slack: f64, rise: f64) -> bool {
        /// Part of the way looked at, px.
        const PART: f64 = 0.5;
        /// As steep as any floor is: 2 in 1.
        const STEEPEST: f64 = 2.0;
        let Path { pieces, from, motion } = *self;
        if motion.x.abs() <= motion.y.abs() / STEEPEST {
            return false;
        }
        let parts = (motion.x.abs() / PART).ceil().max(1.0) as u32;
        let (mut lift, part) = (0.0_f64, motion.x.abs() / f64::from(parts));
        for index in 1..=parts {
            let at = (from + motion * (f64::from(index) / f64::from(parts))).to_vec2();
            let Some(needed) = lift_needed(pieces, at, others) else { return false };
            if (needed - lift).abs() > part * STEEPEST + rise + slack {
                return false;
            }
            lift = needed;
        }
        lift <= rise + slack
    }

    /// The crossing of a thing that a step hides: how the body went through, where neither end is deeper in it than the
    /// slack, and the straight way and both ways axis by axis are.
    pub(crate) fn hidden_crossing(&self, others: &[Convex], slack: f64) -> Option<Through> {
        // What walks along it.
        let from = self.from.to_vec2();
        let most = |Pair { one, other }: Pair<'_>| depth_at_most(one, from, self.motion, other);
        if self.pairs(others).all(|pair| most(pair) <= slack - TOUCH) {
            return None;
        }
        let depth_at = |at: Point| overlap_depth(self.pieces, at.to_vec2(), others);
        let ends = depth_at(self.from).max(depth_at(self.from + self.motion));
        if ends > slack {
            return None;
        }
        // What slides along within the slack, a hair more or less, goes through nothing.
        if self.deepest(others) <= ends + slack || self.is_clear_axis_by_axis(others, slack) {
            return None;
        }
        self.through(others)
    }

    /// Whether it begins clear of a thing and ends deeper in it than the slack.
    pub(crate) fn goes_into(&self, others: &[Convex], slack: f64) -> bool {
        let is_deep = |at: Point| overlap_depth(self.pieces, at.to_vec2(), others) > slack;
        is_deep(self.from + self.motion) && !is_deep(self.from)
    }

    /// The greatest share of the way for which one piece is deeper than `than` px in a thing.
    pub(crate) fn share_deeper(&self, others: &[Convex], than: f64) -> f64 {
        let pairs = self.pieces.iter().flat_map(|one| others.iter().map(move |other| (one, other)));
        let times = pairs.filter_map(|(one, other)| times_deeper(one, self.from.to_vec2(), self.motion, other, than));
        times.map(|(from, to, _)| to - from).fold(0.0, f64::max)
    }
}

/// How far a body must be lifted at a place to be clear of a thing; `None` where a few lifts are not enough.
fn lift_needed(pieces: &[Convex], at: Vec2, others: &[&[Convex]]) -> Option<f64> {
    const LIFTS: usize = 8;
    let mut lift = 0.0;
    for _ in 0..LIFTS {
        let place = at - Vec2::new(0.0, lift);
        let overlaps = others.iter().filter_map(|thing| Some((deepest_overlap(pieces, place, thing)?, *thing)));
        let deepest = overlaps.max_by(|a, b| a.0.overlap.depth.total_cmp(&b.0.overlap.depth));
        let deepest = deepest.filter(|(found, _)| found.overlap.depth > HAIR);
        let Some((Deepest { own, other, .. }, thing)) = deepest else { return Some(lift) };
        let (own, other) = (&pieces[own], &thing[other]);
        // Upwards it is out of it once the sweep is.
        let long = own.bounds().height() + other.bounds().height() + 1.0;
        lift += sweep(own, place, Vec2::new(0.0, 0.0 - long), other).map_or(0.0, |found| found.exit * long);
    }
    None
}

impl Through {
    /// Two passages of parts of one body as one.
    fn joined(self, other: Through) -> Through {
        let first = if other.enter < self.enter { other } else { self };
        let deep = if other.depth > self.depth { other } else { self };
        Through {
            enter: first.enter,
            push: first.push,
            exit: self.exit.max(other.exit),
            depth: deep.depth,
            at: deep.at,
        }
    }
}

/// Whether a box that goes through a stretch in steps of a length shows inside on one tick at least, wherever it begins.
pub(crate) fn is_always_shown(body: f64, thick: f64, step: f64) -> bool {
    const PHASES: u32 = 64;
    if step <= 0.0 {
        return true;
    }
    (0..PHASES).all(|phase| {
        let start = -body - step * f64::from(phase) / f64::from(PHASES);
        let inside = |tick: u32| {
            let place = start + step * f64::from(tick);
            place + body > 0.0 && place < thick
        };
        (0..=(body + thick + step) as u32 / (step as u32).max(1) + 2).any(inside)
    })
}
