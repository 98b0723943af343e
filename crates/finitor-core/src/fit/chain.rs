//! A traced boundary, and how far straight edges stray from parts of it.

use super::FitGoal;
use super::shortcuts::ROUNDING;
use crate::geometry::{Edge, Point, Vec2, turn};

/// A closed ring of lattice corners, the selection to its right, with sums that give the best line through any part of
/// it at once.
pub(super) struct Boundary {
    ring: Vec<Point>,
    /// By corner: integrals along the ring up to there; one more for the whole of it.
    sums: Vec<Moments>,
}

/// Integrals of 1, x, y, x2, xy and y2 along a curve.
#[derive(Clone, Copy, Default)]
struct Moments([f64; 6]);

impl Moments {
    fn of_edge(a: Vec2, b: Vec2) -> Moments {
        let length = (b - a).hypot();
        let mixed = (2.0 * (a.x * a.y + b.x * b.y) + a.x * b.y + b.x * a.y) / 6.0;
        let square = |a: f64, b: f64| (a * a + a * b + b * b) / 3.0;
        Moments([1.0, f64::midpoint(a.x, b.x), f64::midpoint(a.y, b.y), square(a.x, b.x), mixed, square(a.y, b.y)])
            .scaled(length)
    }

    fn scaled(self, by: f64) -> Moments {
        Moments(self.0.map(|value| value * by))
    }

    fn plus(mut self, other: Moments, sign: f64) -> Moments {
        self.0.iter_mut().zip(other.0).for_each(|(a, b)| *a += sign * b);
        self
    }
}

/// A line through a point along a unit vector.
#[derive(Clone, Copy, Debug)]
pub(super) struct Line {
    pub(super) through: Point,
    pub(super) along: Vec2,
}

impl Line {
    /// Where two lines cross; `None` when they run nearly alike.
    pub(super) fn crossing(self, other: Line) -> Option<Point> {
        const LEAST_SINE: f64 = 0.05;
        let sine = self.along.cross(other.along);
        let share = (other.through - self.through).cross(other.along) / sine;
        (sine.abs() > LEAST_SINE).then(|| self.through + self.along * share)
    }
}

/// What lies between a straight edge and the part of the boundary it stands for, px2.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Between {
    /// All of it.
    pub(super) area: f64,
    /// What the edge adds to the selection less what it takes away.
    pub(super) gain: f64,
}

impl Boundary {
    pub(super) fn new(ring: Vec<Point>) -> Boundary {
        let origin = ring[0];
        let mut sums = Vec::with_capacity(ring.len() + 1);
        let mut sum = Moments::default();
        for (i, from) in ring.iter().enumerate() {
            sums.push(sum);
            let to = ring[if i + 1 < ring.len() { i + 1 } else { 0 }];
            sum = sum.plus(Moments::of_edge(*from - origin, to - origin), 1.0);
        }
        sums.push(sum);
        Boundary { ring, sums }
    }

    pub(super) fn ring(&self) -> &[Point] {
        &self.ring
    }

    pub(super) fn corner(&self, index: usize) -> Point {
        self.ring[index]
    }

    /// Steps from one corner to another, 0 to the number of corners less 1.
    pub(super) fn steps(&self, from: usize, to: usize) -> usize {
        if to >= from { to - from } else { to + self.ring.len() - from }
    }

    /// The corner this many steps ahead.
    pub(super) fn ahead(&self, from: usize, steps: usize) -> usize {
        let at = from + steps;
        // Divisions take long.
        if at < self.ring.len() { at } else { at % self.ring.len() }
    }

    /// The line for the part between two corners, which differ, in its direction: that with the least squared distance; for
    /// an outline that covers or lies inside, the one that touches the part from that side over its middle, which of all
    /// that leave the part on one side has the least area between.
    pub(super) fn line(&self, from: usize, to: usize, goal: FitGoal) -> Line {
        match goal {
            FitGoal::Balance => self.best_line(from, to),
            FitGoal::Cover => self.touching_line(from, to, -1.0),
            FitGoal::Inside => self.touching_line(from, to, 1.0),
        }
    }

    /// The line of the part's hull over its middle, on the right of its way for a `side` of 1, on the left for -1.
    fn touching_line(&self, from: usize, to: usize, side: f64) -> Line {
        let start = self.ring[from];
        let way = self.ring[to] - start;
        let along = if way.hypot2() > 0.0 { way / way.hypot2().sqrt() } else { Vec2::new(1.0, 0.0) };
        // Along the way, and how far out.
        let places = self.part(from, to).map(|p| p - start).map(|by| (by.dot(along), side * along.cross(by)));
        let places: Vec<Place> = places.collect();
        let (a, b) = hull_over_middle(&places);
        // The right of a way is its way turned by a quarter, (-dy, dx).
        let right = Vec2::new(-along.y, along.x);
        let place = |(s, h): (f64, f64)| start + along * s + right * (side * h);
        let (a, b) = (place(a), place(b));
        let by = b - a;
        Line { through: a, along: by / by.hypot2().sqrt() }
    }

    /// Whether a part, given by its first corner and its steps, reaches past an end of its edge to the wrong side of the next one,
    /// which [`Boundary::between`] cannot see. The edges are the one before, its own and the one after.
    pub(super) fn strays(&self, (from, steps): (usize, usize), edges: [Edge; 3], goal: FitGoal) -> bool {
        let [before, edge, after] = edges;
        let along = edge.1 - edge.0;
        let right = |(a, b): Edge, p: Point| turn(a, b, p);
        // Where two edges meet, the inside is right of both at a corner that turns right, else of either.
        let wrong = |first: Edge, second: Edge, p: Point| {
            let convex = turn(first.0, first.1, second.1) > 0.0;
            let (one, other) = (right(first, p), right(second, p));
            match goal {
                FitGoal::Balance => false,
                FitGoal::Cover if convex => one < 0.0 || other < 0.0,
                FitGoal::Cover => one < 0.0 && other < 0.0,
                FitGoal::Inside if convex => one > 0.0 && other > 0.0,
                FitGoal::Inside => one > 0.0 || other > 0.0,
            }
        };
        goal != FitGoal::Balance
            && (0..=steps).any(|steps| {
                let p = self.corner(self.ahead(from, steps));
                ((p - edge.0).dot(along) < 0.0 && wrong(before, edge, p))
                    || ((p - edge.1).dot(along) > 0.0 && wrong(edge, after, p))
            })
    }

    /// The corners of a part, both ends among them.
    pub(super) fn part(&self, from: usize, to: usize) -> impl Iterator<Item = Point> + Clone {
        let (first, rest) = self.slices(from, to);
        first.iter().chain(rest).copied()
    }

    fn slices(&self, from: usize, to: usize) -> (&[Point], &[Point]) {
        if to >= from { (&self.ring[from..=to], &[]) } else { (&self.ring[from..], &self.ring[..=to]) }
    }

    /// Whether the part between two corners is as good as certain to have corners farther than `reach` from any line: its
    /// mean square distance from the best one is larger.
    pub(super) fn is_bent(&self, from: usize, to: usize, reach: f64) -> bool {
        let (_, [a, b, d]) = self.spread(from, to);
        let half = (a - d) / 2.0;
        // The lesser eigenvalue of the covariance.
        f64::midpoint(a, d) - (half * half + b * b).sqrt() > reach * reach
    }

    /// The mean of a part's points, from the ring's first corner, and their covariance.
    fn spread(&self, from: usize, to: usize) -> (Vec2, [f64; 3]) {
        let (start, end) = (self.sums[from], self.sums[to]);
        let mut part = end.plus(start, -1.0);
        if to <= from {
            part = part.plus(self.sums[self.ring.len()], 1.0);
        }
        let [length, x, y, xx, xy, yy] = part.0;
        let (mx, my) = (x / length, y / length);
        (Vec2::new(mx, my), [xx / length - mx * mx, xy / length - mx * my, yy / length - my * my])
    }

    fn best_line(&self, from: usize, to: usize) -> Line {
        let (mean, [a, b, d]) = self.spread(from, to);
        // The eigenvector of the larger eigenvalue of the covariance, from its longer row.
        let half = (a - d) / 2.0;
        let root = (half * half + b * b).sqrt();
        let along = if half >= 0.0 { Vec2::new(half + root, b) } else { Vec2::new(b, root - half) };
        let way = self.ring[to] - self.ring[from];
        let along = if along.hypot2() > 0.0 { along } else { way };
        let along = along / along.hypot2().sqrt();
        let along = if along.dot(way) < 0.0 { -along } else { along };
        Line { through: self.ring[0] + mean, along }
    }

    /// What lies between the edge from `a` to `b` and the part of the boundary from one corner to another; `None` when
    /// a corner of that part is farther than the tolerance from the edge, or on the wrong side of it for what is to be
    /// kept.
    ///
    /// The way from `a` to the part's start and from its end to `b` counts as part of it, so that gains add up to the
    /// difference in area of the whole outline.
    pub(super) fn between(
        &self,
        (from, to): (usize, usize),
        (a, b): (Point, Point),
        bounds: Bounds,
    ) -> Option<Between> {
        let mut sums = Sums::new((a, b), bounds)?;
        let (first, rest) = self.slices(from, to);
        // A loop over slices for each goal: over an iterator, asking the goal at every corner, it takes a fifth more.
        let is_within = match bounds.goal {
            FitGoal::Balance => sums.add(first, rest, |_, _| true),
            FitGoal::Cover => sums.add(first, rest, |height, p| FitGoal::Cover.allows(height, (a, b), p)),
            FitGoal::Inside => sums.add(first, rest, |height, p| FitGoal::Inside.allows(height, (a, b), p)),
        };
        is_within.then(|| sums.between())
    }
}

/// What lies between an edge and a part of the boundary, added up corner by corner.
struct Sums {
    edge: Edge,
    along: Vec2,
    length: f64,
    limit: f64,
    between: Between,
    /// How far along the edge the last corner lies, and how far to its right.
    last: Place,
}

impl Sums {
    fn new(edge: Edge, bounds: Bounds) -> Option<Sums> {
        let whole = edge.1 - edge.0;
        let length = whole.hypot2().sqrt();
        let limit = bounds.tolerance + ROUNDING;
        let sums = Sums { edge, along: whole / length, length, limit, between: Between::default(), last: (0.0, 0.0) };
        (length > 0.0).then_some(sums)
    }

    /// Adds the corners of a part, which may wrap round; false when one is too far away or on a side that is not allowed.
    #[inline]
    fn add(&mut self, first: &[Point], rest: &[Point], allows: impl Fn(f64, Point) -> bool) -> bool {
        let limit2 = self.limit * self.limit;
        let (a, b) = self.edge;
        for corners in [first, rest] {
            for &p in corners {
                let way = p - a;
                let (s, h) = (way.dot(self.along), self.along.cross(way));
                let near = if s < 0.0 {
                    way.hypot2() <= limit2
                } else if s > self.length {
                    (p - b).hypot2() <= limit2
                } else {
                    h.abs() <= self.limit
                };
                if !near || !allows(h, p) {
                    return false;
                }
                self.to((s, h));
            }
        }
        true
    }

    #[inline]
    fn to(&mut self, (s, h): Place) {
        let (s0, h0) = self.last;
        let reach = s - s0;
        self.between.gain += reach * (h0 + h) / 2.0;
        self.between.area +=
            reach * if h0 * h >= 0.0 { (h0 + h).abs() / 2.0 } else { (h0 * h0 + h * h) / (2.0 * (h0.abs() + h.abs())) };
        self.last = (s, h);
    }

    fn between(mut self) -> Between {
        self.to((self.length, 0.0));
        // Where the part turns back beside a short edge, areas on its two sides would cancel out.
        let Between { area, gain } = self.between;
        Between { area: area.max(gain.abs()), gain }
    }
}

/// A place along a way, and how far out beside it.
type Place = (f64, f64);

/// The edge of the places' upper hull over the middle between the first and the last: its ends, the farthest of places in line.
///
/// # Complexity
/// O(places) a tangent, of which two or three are drawn as a rule.
fn hull_over_middle(places: &[Place]) -> (Place, Place) {
    let (mut low, mut high) = (f64::INFINITY, f64::NEG_INFINITY);
    let mut highest = (0.0, f64::NEG_INFINITY);
    for place in places.iter().copied() {
        (low, high) = (low.min(place.0), high.max(place.0));
        if place.1 > highest.1 {
            highest = place;
        }
    }
    let middle = f64::midpoint(low, high);
    if low >= middle {
        return ((0.0, highest.1), (1.0, highest.1));
    }
    // Over the line from a to b, so that the hull rises above it.
    let above = |a: Place, b: Place, p: Place| (b.0 - a.0) * (p.1 - a.1) - (b.1 - a.1) * (p.0 - a.0);
    let is_left = |place: &Place| place.0 < middle;
    let mut a = (f64::INFINITY, f64::NEG_INFINITY);
    let mut b = (f64::NEG_INFINITY, f64::NEG_INFINITY);
    for place in places.iter().copied() {
        let side = if is_left(&place) { &mut a } else { &mut b };
        if place.1 > side.1 {
            *side = place;
        }
    }
    // Places in line but for rounding may take turns.
    const MOST: u32 = 12;
    for _ in 0..MOST {
        let known = (a, b);
        for place in places.iter().copied().filter(|place| !is_left(place)) {
            let by = above(a, b, place);
            if by > 0.0 || (by == 0.0 && place.0 > b.0) {
                b = place;
            }
        }
        for place in places.iter().copied().filter(is_left) {
            let by = above(a, b, place);
            if by > 0.0 || (by == 0.0 && place.0 < a.0) {
                a = place;
            }
        }
        if (a, b) == known {
            break;
        }
    }
    (a, b)
}

/// What an outline must keep to.
#[derive(Clone, Copy, Debug)]
pub(super) struct Bounds {
    /// Largest distance between outline and boundary, px.
    pub(super) tolerance: f64,
    pub(super) goal: FitGoal,
}

impl FitGoal {
    /// Whether a corner of the boundary may lie `height` to the right of an edge that stands for it. Exact.
    fn allows(self, height: f64, (a, b): (Point, Point), corner: Point) -> bool {
        // Where rounding cannot have turned the sign it is not reckoned again.
        const SURE: f64 = 1e-6;
        match self {
            FitGoal::Balance => true,
            FitGoal::Cover => height > SURE || (height > -SURE && turn(a, b, corner) >= 0.0),
            FitGoal::Inside => height < -SURE || (height < SURE && turn(a, b, corner) <= 0.0),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_part_that_turns_back_on_both_sides_of_a_short_edge_has_all_its_area() {
        // A bar of 10 x 2 px that an edge of a fifth of a pixel stands for.
        let bar = [(0.0, 0.0), (10.0, 0.0), (10.0, 2.0), (0.0, 2.0)].map(Point::from);
        let boundary = Boundary::new(bar.to_vec());
        let bounds = Bounds { tolerance: 1e6, goal: FitGoal::Balance };
        let edge = (Point::new(0.0, 1.0), Point::new(0.2, 1.0));
        let between = boundary.between((0, 3), edge, bounds).unwrap();
        assert!(between.gain.abs() > 19.0 && between.area >= between.gain.abs(), "{between:?}");
    }
}
