//! Circles.

use super::arcs::{self, Lies};
use super::inner::Inner;
use super::quality::pixel_bounds;
use super::row_sums::RowSums;
use super::search::RoundFamily;
use super::{FitError, FitGoal, Geometry, Sides};
use crate::art::{Mask, contours};
use crate::geometry::{Point, convex_hull};
use std::f64::consts::PI;

/// The circle for a selection, which is not empty. A fixed radius or axis stays.
pub(super) fn fit(selection: &Mask, sides: Sides, goal: FitGoal) -> Result<Geometry, FitError> {
    match goal {
        FitGoal::Cover => covering(selection, sides),
        FitGoal::Inside => inside(selection, sides),
        FitGoal::Balance => balanced(selection, sides),
    }
}

/// The least circle round all pixels; its polygon lies outside the curve, so the polygon covers too.
///
/// # Source
/// Emo Welzl, "Smallest enclosing disks (balls and ellipsoids)", New Results and New Trends in Computer Science (1991),
/// over the corners of the convex hull, in their order: O(h2) at worst for h of them, and h is small.
fn covering(selection: &Mask, sides: Sides) -> Result<Geometry, FitError> {
    let corners: Vec<Point> = contours(selection).iter().flat_map(|ring| ring.points()).collect();
    let hull = convex_hull(&corners);
    let farthest = |middle: Point| hull.iter().map(|p| p.distance(middle)).fold(0.0, f64::max);
    let mut middle = least_circle(&hull);
    if let Some(axis) = sides.axis {
        middle.x = axis;
    }
    let needed = farthest(middle);
    let mut radius = match sides.radius {
        Some(given) if given < needed => return Err(FitError::TooSmall { given, needed }),
        Some(given) => given,
        None => needed,
    };
    loop {
        let shape = arcs::circle_on([middle.x, middle.y, radius], Lies::Outside)?;
        if hull.iter().all(|&p| shape.polygons[0].contains(p)) {
            return Ok(shape);
        }
        // Rounding left a corner outside by a hair; the promise is exact, so give way.
        radius += needed * 1e-9;
    }
}

/// The middle of the least circle round points.
fn least_circle(points: &[Point]) -> Point {
    let inside = |(middle, radius): (Point, f64), p: Point| p.distance(middle) <= radius * (1.0 + 1e-12);
    let round_two = |a: Point, b: Point| (a.midpoint(b), a.distance(b) / 2.0);
    let mut circle = (points[0], 0.0);
    for (i, &p) in points.iter().enumerate() {
        if inside(circle, p) {
            continue;
        }
        circle = (p, 0.0);
        for (j, &q) in points[..i].iter().enumerate() {
            if inside(circle, q) {
                continue;
            }
            circle = round_two(p, q);
            for &r in &points[..j] {
                if !inside(circle, r) {
                    circle = round_three(p, q, r).unwrap_or(circle);
                }
            }
        }
    }
    circle.0
}

/// The circle through three points.
fn round_three(a: Point, b: Point, c: Point) -> Option<(Point, f64)> {
    let (ab, ac) = (b - a, c - a);
    let twice = 2.0 * ab.cross(ac);
    let (b2, c2) = (ab.hypot2(), ac.hypot2());
    let by = kurbo::Vec2::new(ac.y * b2 - ab.y * c2, ab.x * c2 - ac.x * b2) / twice;
    (twice != 0.0).then(|| (a + by, by.hypot()))
}

/// The greatest circle in the pixels, to [`super::inner::PRECISION`].
fn inside(selection: &Mask, sides: Sides) -> Result<Geometry, FitError> {
    let room = Inner::new(selection);
    let (middle, most) = room.widest(sides.axis).ok_or(FitError::NoRoomInside)?;
    let radius = match sides.radius {
        Some(given) if given > most => return Err(FitError::TooLarge { given, most }),
        Some(given) => given,
        None => most,
    };
    arcs::circle_on([middle.x, middle.y, radius], Lies::Inside)
}

/// The circle with the highest IoU found by pattern search from the middle of the pixels, from their bounding box and from a circle round
/// the middle of the greatest square of pixels.
fn balanced(selection: &Mask, sides: Sides) -> Result<Geometry, FitError> {
    let sums = RowSums::new(selection);
    let selected = selection.count() as f64;
    let kept = |[x, y, radius]: [f64; 3]| [sides.axis.unwrap_or(x), y, sides.radius.unwrap_or(radius)];
    let bounds = pixel_bounds(selection);
    let centroid = crate::art::centroid(selection).unwrap_or(bounds.center());
    let mut starts = vec![[centroid.x, centroid.y, (selected / PI).sqrt()]];
    starts.push([bounds.center().x, bounds.center().y, bounds.width().min(bounds.height()) / 2.0]);
    if let Some(axis) = sides.axis {
        // Pixels far from the axis are reached by a large circle alone.
        starts.push([axis, bounds.center().y, (bounds.x1 - axis).max(axis - bounds.x0)]);
    }
    starts.push(about_greatest_square(selection));
    let moves = [
        [1.0, 0.0, 0.0],
        [0.0, 1.0, 0.0],
        [0.0, 0.0, 1.0],
        [0.5, 0.0, 0.5],
        [0.0, 0.5, 0.5],
        [0.5, 0.0, -0.5],
        [0.0, 0.5, -0.5],
    ];
    let circles = RoundFamily::new(&sums, &moves, |halves, numbers| halves.circle(kept(numbers), Lies::Inside));
    arcs::circle_on(kept(circles.best_near(circles.near_best(&starts))), Lies::Inside)
}

/// Middle and radius of a circle somewhat larger than the greatest square of set pixels, the first of equals.
fn about_greatest_square(selection: &Mask) -> [f64; 3] {
    // The greatest square whose last corner a pixel is: one more than the least of its neighbours' before it.
    let mut above = vec![0_u32; selection.width() as usize + 1];
    let (mut side, mut end) = (0, Point::ZERO);
    for y in 0..selection.height() {
        let mut corner = 0;
        let mut left = 0;
        for (x, set) in selection.row(y).enumerate() {
            let own = if set { corner.min(left).min(above[x + 1]) + 1 } else { 0 };
            corner = std::mem::replace(&mut above[x + 1], own);
            left = own;
            if own > side {
                (side, end) = (own, Point::new((x + 1) as f64, f64::from(y + 1)));
            }
        }
    }
    // The circle that agrees best takes in some of what is not set.
    const MORE: f64 = 1.25;
    let half = f64::from(side) / 2.0;
    [end.x - half, end.y - half, MORE * half]
}
