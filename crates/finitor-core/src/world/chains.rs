//! The upper and the lower border of a convex obstacle, as functions of x.

use crate::geometry::{Convex, Point, Rect};

/// Both borders, each from left to right.
#[derive(Clone, Debug)]
pub(crate) struct Chains {
    upper: Vec<Point>,
    lower: Vec<Point>,
    bounds: Rect,
}

impl Chains {
    pub(crate) fn of(convex: &Convex) -> Chains {
        let points = convex.points();
        let n = points.len();
        // Clockwise on screen: the upper border runs from the upper left corner to the upper right one.
        let by = |before: fn(&Point, &Point) -> bool| {
            (1..n).fold(0, |best, i| if before(&points[i], &points[best]) { i } else { best })
        };
        let upper_left = by(|a, b| a.x < b.x || (a.x == b.x && a.y < b.y));
        let upper_right = by(|a, b| a.x > b.x || (a.x == b.x && a.y < b.y));
        let lower_right = by(|a, b| a.x > b.x || (a.x == b.x && a.y > b.y));
        let lower_left = by(|a, b| a.x < b.x || (a.x == b.x && a.y > b.y));
        let run = |from: usize, to: usize| -> Vec<Point> {
            (0..=(to + n - from) % n).map(|step| points[(from + step) % n]).collect()
        };
        let mut lower = run(lower_right, lower_left);
        lower.reverse();
        Chains { upper: run(upper_left, upper_right), lower, bounds: convex.bounds() }
    }

    pub(crate) fn left(&self) -> f64 {
        self.bounds.x0
    }

    pub(crate) fn right(&self) -> f64 {
        self.bounds.x1
    }

    pub(crate) fn bounds_meet(&self, other: &Chains) -> bool {
        crate::geometry::rects_meet(self.bounds, other.bounds)
    }

    pub(crate) fn corners(&self) -> impl Iterator<Item = f64> + '_ {
        self.upper.iter().chain(&self.lower).map(|point| point.x)
    }

    /// The upper border's y.
    pub(crate) fn top(&self, x: f64) -> f64 {
        height(&self.upper, x)
    }

    /// The lower border's y.
    pub(crate) fn bottom(&self, x: f64) -> f64 {
        height(&self.lower, x)
    }
}

/// The y of a border at x, or at its nearer end.
fn height(border: &[Point], x: f64) -> f64 {
    let after = border.partition_point(|point| point.x <= x);
    match (after.checked_sub(1).map(|before| border[before]), border.get(after)) {
        (Some(a), Some(b)) => a.y + (b.y - a.y) * ((x - a.x) / (b.x - a.x)),
        (Some(only), None) | (None, Some(&only)) => only.y,
        (None, None) => f64::NAN,
    }
}

/// Adds every x at which a border of the one crosses a border of the other.
pub(crate) fn crossings(one: &Chains, other: &Chains, found: &mut Vec<f64>) {
    for a in [&one.upper, &one.lower] {
        for b in [&other.upper, &other.lower] {
            cross(a, b, found);
        }
    }
}

/// Adds every x at which a border crosses one of the levels.
pub(crate) fn crossings_at(of: &Chains, levels: [f64; 2], found: &mut Vec<f64>) {
    for y in levels.into_iter().filter(|y| (of.bounds.y0..=of.bounds.y1).contains(y)) {
        let level = [Point::new(of.bounds.x0, y), Point::new(of.bounds.x1, y)];
        cross(&of.upper, &level, found);
        cross(&of.lower, &level, found);
    }
}

/// Walks both borders from corner to corner; between two corners their distance is straight, and 0 once at most.
fn cross(a: &[Point], b: &[Point], found: &mut Vec<f64>) {
    let (Some(from), Some(to)) =
        (a.first().zip(b.first()).map(|(a, b)| a.x.max(b.x)), a.last().zip(b.last()).map(|(a, b)| a.x.min(b.x)))
    else {
        return;
    };
    let (mut i, mut j) = (a.partition_point(|p| p.x <= from), b.partition_point(|p| p.x <= from));
    let mut at = (from, height(a, from) - height(b, from));
    while at.0 < to {
        let next = a.get(i).map_or(to, |p| p.x).min(b.get(j).map_or(to, |p| p.x)).min(to);
        let apart = height(a, next) - height(b, next);
        if (at.1 < 0.0 && apart > 0.0) || (at.1 > 0.0 && apart < 0.0) {
            found.push(at.0 + (next - at.0) * (at.1 / (at.1 - apart)));
        }
        while a.get(i).is_some_and(|p| p.x <= next) {
            i += 1;
        }
        while b.get(j).is_some_and(|p| p.x <= next) {
            j += 1;
        }
        at = (next, apart);
    }
}
