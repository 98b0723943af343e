//! Room inside a selection: how far places are from its boundary.

use crate::art::{Mask, contours};
use crate::geometry::{Edge, EdgeGrid, Point, Rect, bounds_of, segments_meet, squared_distance};
use std::cell::Cell;
use std::collections::BinaryHeap;

/// Radii of the greatest shapes inside are found to this, px.
pub(super) const PRECISION: f64 = 1.0 / 64.0;

/// Taken off a radius so that rounding never puts the shape outside, px.
const HAIR: f64 = 1e-9;

/// The pixels and their boundary.
pub(super) struct Inner<'m> {
    mask: &'m Mask,
    edges: EdgeGrid,
    bounds: Rect,
    depths: Vec<f64>,
    /// Edges that lately were too near to a segment, the last one first: as a rule one of them is too near to the next as well.
    blockers: Cell<[usize; BLOCKERS]>,
}

const BLOCKERS: usize = 6;

/// The squared distance between two segments.
fn squared_apart(one: [Point; 2], other: [Point; 2]) -> f64 {
    if segments_meet(one[0], one[1], other[0], other[1]) {
        return 0.0;
    }
    let ends = [(one[0], other), (one[1], other), (other[0], one), (other[1], one)];
    ends.into_iter().map(|(end, [from, to])| squared_distance(end, (from, to))).fold(f64::INFINITY, f64::min)
}

/// A square of places, by the most that any of them may have.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Square {
    most: f64,
    middle: Point,
    half: f64,
    /// Which of the lists of edges may hold the one nearest to a place in it.
    near: usize,
}

impl Eq for Square {}

impl PartialOrd for Square {
    fn partial_cmp(&self, other: &Square) -> Option<std::cmp::Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Square {
    fn cmp(&self, other: &Square) -> std::cmp::Ordering {
        let key = |square: &Square| (square.middle.y, square.middle.x);
        let (a, b) = (key(self), key(other));
        self.most.total_cmp(&other.most).then(b.0.total_cmp(&a.0)).then(b.1.total_cmp(&a.1))
    }
}

impl<'m> Inner<'m> {
    pub(super) fn new(mask: &'m Mask) -> Inner<'m> {
        let rings: Vec<Vec<Point>> = contours(mask).iter().map(|ring| ring.points()).collect();
        let corners: Vec<Point> = rings.iter().flatten().copied().collect();
        let edges = EdgeGrid::of_rings(rings.iter().map(Vec::as_slice));
        let bounds = if corners.is_empty() { Rect::ZERO } else { bounds_of(&corners) };
        Inner { mask, edges, bounds, depths: mask.depths(), blockers: Cell::new([0; BLOCKERS]) }
    }

    pub(super) fn bounds(&self) -> Rect {
        self.bounds
    }

    /// The distance of a pixel's middle from the boundary, px, to within a quarter; 0 outside.
    pub(super) fn rough_depth(&self, x: i64, y: i64) -> f64 {
        let inside = self.mask.get(x, y);
        if inside { self.depths[y as usize * self.mask.width() as usize + x as usize] - 0.5 } else { 0.0 }
    }

    /// The distance of a place from the boundary, px, of which these are the nearest edges; below 0 outside.
    fn depth(&self, at: Point, near: &[Edge]) -> f64 {
        let distance = near.iter().map(|edge| squared_distance(at, *edge)).fold(f64::INFINITY, f64::min).sqrt();
        let inside = self.mask.get(at.x.floor() as i64, at.y.floor() as i64);
        if inside { distance } else { -distance }
    }

    /// The edges of which one is nearest to a place, or to another one at most so far from it; the boundary is at most `most` away from
    /// the place.
    fn near(&self, at: Point, reach: f64, most: f64) -> Vec<Edge> {
        let mut found: Vec<(f64, Edge)> = Vec::new();
        let mut least = most * most;
        self.edges.each_near(Rect::from_points(at, at).inflate(most + 2.0 * reach, most + 2.0 * reach), |index| {
            let edge = self.edges.edge(index);
            let distance = squared_distance(at, edge);
            least = least.min(distance);
            found.push((distance, edge));
        });
        let limit = (least.sqrt() + 2.0 * reach + HAIR).powi(2);
        found.into_iter().filter(|(distance, _)| *distance <= limit).map(|(_, edge)| edge).collect()
    }

    /// The least distance of a segment's points from the boundary, px, less a hair; 0 or less when it is not inside, and any value
    /// up to `enough` when it is no more than that.
    pub(super) fn depth_of_segment(&self, segment: [Point; 2], enough: f64) -> f64 {
        let [a, b] = segment;
        let limit = enough.max(0.0);
        // An end by itself leaves no more room than this.
        let most = self.at_most(a).min(self.at_most(b));
        if most <= limit || self.is_blocked(segment, enough) {
            return enough.min(0.0);
        }
        let along = Rect::from_points(a, b);
        let (mut least, mut nearest) = (most * most, None);
        let too_near = self.edges.any_near(along.inflate(most, most), |edge| {
            let (from, to) = self.edges.edge(edge);
            let off =
                |low: f64, high: f64, one: f64, other: f64| (one.min(other) - high).max(low - one.max(other)).max(0.0);
            let (dx, dy) = (off(along.x0, along.x1, from.x, to.x), off(along.y0, along.y1, from.y, to.y));
            if dx * dx + dy * dy < least {
                let apart = squared_apart(segment, [from, to]);
                (least, nearest) = if apart < least { (apart, Some(edge)) } else { (least, nearest) };
            }
            least <= limit * limit
        });
        if let Some(nearest) = nearest.filter(|_| too_near) {
            let mut blockers = self.blockers.get();
            let known = blockers.iter().position(|edge| *edge == nearest);
            blockers[..=known.unwrap_or(BLOCKERS - 1)].rotate_right(1);
            blockers[0] = nearest;
            self.blockers.set(blockers);
        }
        least.sqrt() - HAIR
    }

    /// Whether one of the edges that lately were too near is so to this segment.
    fn is_blocked(&self, [a, b]: [Point; 2], enough: f64) -> bool {
        let limit = enough * enough;
        enough > 0.0
            && !self.edges.edges().is_empty()
            && self.blockers.get().into_iter().any(|edge| {
                let (from, to) = self.edges.edge(edge);
                let near = |point: Point, edge| squared_distance(point, edge) <= limit;
                near(a, (from, to)) || near(b, (from, to)) || near(from, (a, b)) || near(to, (a, b))
            })
    }

    /// No place is farther from the boundary than this, by the pixel that it is in.
    fn at_most(&self, at: Point) -> f64 {
        let (x, y) = (at.x.floor(), at.y.floor());
        let rough = self.rough_depth(x as i64, y as i64);
        // The middle of the pixel is at most a quarter deeper than told, and the place by its distance from it.
        if rough > 0.0 { rough + 0.25 + at.distance(Point::new(x + 0.5, y + 0.5)) } else { 0.0 }
    }

    /// The place farthest from the boundary, on the axis where one is given, with its distance: that of the greatest circle
    /// inside, to [`PRECISION`]. `None` when the axis meets no pixel.
    ///
    /// # Complexity
    /// As a rule a search of the edges near some ten pixels, and some hundred looks at those of one.
    ///
    /// # Source
    /// Squares of places, halved where they may still hold a better one: A. H. Land and A. G. Doig, "An automatic method of
    /// solving discrete programming problems", Econometrica 28 (1960).
    pub(super) fn widest(&self, axis: Option<f64>) -> Option<(Point, f64)> {
        // A pixel's middle is nearer to the nearest unset pixel's square than to its middle, by half its side to half its
        // diagonal; and no other place of a pixel is farther off than its middle by more than half its diagonal.
        const HALF_DIAGONAL: f64 = std::f64::consts::FRAC_1_SQRT_2;
        let reach = |half: f64| if axis.is_some() { half } else { half * std::f64::consts::SQRT_2 };
        let column = |x: f64| (x.floor().max(0.0) as usize).min(self.mask.width() as usize - 1);
        let columns = match axis {
            Some(x) if x < 0.0 || x > f64::from(self.mask.width()) => return None,
            // On a line between two columns either side may be the inner one.
            Some(x) => column(x - 1e-9)..column(x) + 1,
            None => 0..self.mask.width() as usize,
        };
        let rows = 0..self.mask.height() as usize;
        let pixels = rows.flat_map(|y| columns.clone().map(move |x| (x, y)));
        let depth = |(x, y): (usize, usize)| self.depths[y * self.mask.width() as usize + x];
        let deepest = pixels.clone().map(depth).fold(0.0, f64::max);
        let least = deepest - HALF_DIAGONAL - (HALF_DIAGONAL - 0.5);
        let mut open = BinaryHeap::new();
        // By pixel: its edges serve all places in it.
        let mut lists: Vec<Vec<Edge>> = Vec::new();
        for (x, y) in pixels.filter(|&pixel| depth(pixel) > 0.0 && depth(pixel) >= least) {
            let middle = Point::new(axis.unwrap_or(x as f64 + 0.5), y as f64 + 0.5);
            let near = self.near(middle, reach(0.5), depth((x, y)) + 1.0);
            open.push(Square { most: self.depth(middle, &near) + reach(0.5), middle, half: 0.5, near: lists.len() });
            lists.push(near);
        }
        let mut best: Option<(Point, f64)> = None;
        while let Some(Square { most, middle, half, near }) = open.pop() {
            let known = best.map_or(0.0, |(_, depth)| depth);
            if most <= known + PRECISION {
                break;
            }
            let depth = most - reach(half);
            if depth > known {
                // A hair less, so that rounding never puts the circle outside.
                best = Some((middle, depth - HAIR));
            }
            let quarter = half / 2.0;
            let square = |middle: Point| {
                let most = self.depth(middle, &lists[near]) + reach(quarter);
                Square { most, middle, half: quarter, near }
            };
            for down in [-quarter, quarter] {
                match axis {
                    Some(_) => open.push(square(Point::new(middle.x, middle.y + down))),
                    None => {
                        open.extend([-quarter, quarter].map(|across| square(middle + kurbo::Vec2::new(across, down))))
                    }
                }
            }
        }
        best
    }
}
