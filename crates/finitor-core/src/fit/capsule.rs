//! Capsules, upright or lying.

use super::arcs::{Lies, capsule_in};
use super::quality::{RunRows, iou, pixel_bounds};
use super::rectangle::{self, with_sides};
use super::{FitError, Geometry, Keep, Sides};
use crate::art::{Mask, contours};
use crate::geometry::{Point, Rect, convex_hull};
use std::f64::consts::PI;

/// Sides and radii are found to this, px.
const PRECISION: f64 = 1.0 / 16.0;

/// The capsule with the highest IoU found by pattern search from two starts (the tight box and the best box), moving
/// one side or two opposite sides at a time, steps halving from 4 px to [`PRECISION`]. Given sides stay.
///
/// # Complexity
/// Some hundred measurements of O(edges x rows) each.
///
/// # Source
/// Robert Hooke and T. A. Jeeves, "Direct search solution of numerical and statistical problems", Journal of the ACM
/// 8 (1961).
pub(super) fn balanced(selection: &Mask, sides: Sides) -> Result<Geometry, FitError> {
    let rows = RunRows::new(selection);
    let selected = selection.count() as f64;
    let score = |rect: Rect| {
        let shape = capsule_in(rect, Lies::Inside).ok();
        shape.map_or(0.0, |shape| iou(&shape.polygons[0], &rows, selected))
    };
    let starts = [with_sides(pixel_bounds(selection), sides), rectangle::fit(selection, sides, Keep::Balance)?];
    let mut best = (starts[0], score(starts[0]));
    for start in starts {
        let found = climb(start, sides, &score);
        if found.1 > best.1 {
            best = found;
        }
    }
    capsule_in(best.0, Lies::Inside)
}

fn climb(start: Rect, sides: Sides, score: &impl Fn(Rect) -> f64) -> (Rect, f64) {
    let mut best = (start, score(start));
    let mut step = 4.0;
    while step >= PRECISION {
        let before = best.1;
        for [left, top, right, bottom] in MOVES {
            let by = |share: f64, given: Option<f64>| if given.is_some() { 0.0 } else { share * step };
            let moved = Rect::new(
                best.0.x0 + by(left, sides.left),
                best.0.y0 + by(top, sides.top),
                best.0.x1 + by(right, sides.right),
                best.0.y1 + by(bottom, sides.bottom),
            );
            let value = score(moved);
            if value > best.1 {
                best = (moved, value);
            }
        }
        if best.1 <= before {
            step /= 2.0;
        }
    }
    best
}

/// Moves of left, top, right and bottom, in steps.
const MOVES: [[f64; 4]; 16] = [
    [1.0, 0.0, 0.0, 0.0],
    [-1.0, 0.0, 0.0, 0.0],
    [0.0, 1.0, 0.0, 0.0],
    [0.0, -1.0, 0.0, 0.0],
    [0.0, 0.0, 1.0, 0.0],
    [0.0, 0.0, -1.0, 0.0],
    [0.0, 0.0, 0.0, 1.0],
    [0.0, 0.0, 0.0, -1.0],
    [1.0, 0.0, 1.0, 0.0],
    [-1.0, 0.0, -1.0, 0.0],
    [0.0, 1.0, 0.0, 1.0],
    [0.0, -1.0, 0.0, -1.0],
    [1.0, 0.0, -1.0, 0.0],
    [-1.0, 0.0, 1.0, 0.0],
    [0.0, 1.0, 0.0, -1.0],
    [0.0, -1.0, 0.0, 1.0],
];

/// The capsule of least area, upright or lying, that contains every selected pixel; radius and place to
/// [`PRECISION`]. Its polygon lies outside the curve, so the polygon covers too.
///
/// For a given radius the least length of the spine is a convex function of the spine's place across, since
/// `sqrt(r2 - d2)` is concave in d; it is searched by thirds, and all radii are tried.
///
/// # Complexity
/// O(radii x log(width) x hull points).
pub(super) fn covering(selection: &Mask) -> Result<Geometry, FitError> {
    let corners: Vec<Point> = contours(selection).iter().flat_map(|ring| ring.points()).collect();
    let hull = convex_hull(&corners);
    let flipped: Vec<Point> = hull.iter().map(|p| Point::new(p.y, p.x)).collect();
    let upright = least_upright(&hull);
    let lying = least_upright(&flipped);
    let rect = if lying.1 < upright.1 { Rect::new(lying.0.y0, lying.0.x0, lying.0.y1, lying.0.x1) } else { upright.0 };
    let mut grown = rect;
    loop {
        let shape = capsule_in(grown, Lies::Outside)?;
        if hull.iter().all(|&p| shape.polygons[0].contains(p)) {
            return Ok(shape);
        }
        // Rounding left a corner outside by a hair; the promise is exact, so give way.
        grown = grown.inset(PRECISION / 64.0);
    }
}

/// Box and area of the least upright capsule round the hull.
fn least_upright(hull: &[Point]) -> (Rect, f64) {
    let bounds = crate::geometry::bounds_of(hull);
    let up = |value: f64| (value / PRECISION).ceil() * PRECISION;
    let (first, last) = (up(bounds.width() / 2.0), up(bounds.width().hypot(bounds.height()) / 2.0));
    let steps = ((last - first) / PRECISION).round() as u32;
    let mut best = (bounds, f64::INFINITY);
    for k in 0..=steps {
        let radius = first + f64::from(k) * PRECISION;
        if PI * radius * radius > best.1 {
            break;
        }
        let x = best_place(hull, radius, bounds.x1 - radius, bounds.x0 + radius);
        let (top, bottom) = spine(hull, radius, x);
        let area = 2.0 * radius * (bottom - top) + PI * radius * radius;
        if area < best.1 {
            best = (Rect::new(x - radius, top - radius, x + radius, bottom + radius), area);
        }
    }
    best
}

fn best_place(hull: &[Point], radius: f64, from: f64, to: f64) -> f64 {
    let length = |x: f64| {
        let (top, bottom) = spine(hull, radius, x);
        bottom - top
    };
    let (mut low, mut high) = (from, to);
    while high - low > PRECISION / 4.0 {
        let (a, b) = (low + (high - low) / 3.0, high - (high - low) / 3.0);
        if length(a) <= length(b) {
            high = b;
        } else {
            low = a;
        }
    }
    let rounded = (f64::midpoint(low, high) / PRECISION).round() * PRECISION;
    rounded.clamp(from.min(to), to.max(from))
}

/// Ends of the shortest upright spine at x from which every point is within the radius; one point where any height
/// in a range would do.
fn spine(hull: &[Point], radius: f64, x: f64) -> (f64, f64) {
    let (mut top, mut bottom) = (f64::INFINITY, f64::NEG_INFINITY);
    for p in hull {
        let across = (p.x - x).abs().min(radius);
        let half = ((radius - across) * (radius + across)).sqrt();
        top = top.min(p.y + half);
        bottom = bottom.max(p.y - half);
    }
    if top > bottom {
        let middle = f64::midpoint(top, bottom);
        (middle, middle)
    } else {
        (top, bottom)
    }
}
