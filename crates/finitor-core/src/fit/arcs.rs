//! Polygons of round shapes.

use super::{Angle, Exact, FitError, Geometry};
use crate::geometry::{Point, Polygon, Rect, Vec2};
use std::f64::consts::PI;

/// The polygon of a round shape stays within this distance of the true curve, px: half of the slack that checks
/// allow by default, so the polygon alone never makes or hides a finding.
const ARC_ERROR: f64 = 0.25;
const FEWEST_STEPS: u32 = 4;
const MOST_STEPS: u32 = 32;

/// On which side of the true curve the polygon lies.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Lies {
    /// Corners on the curve.
    Inside,
    /// Edges along tangents.
    Outside,
}

/// Steps of half a circle; even, so that the extreme points are among the corners.
fn half_circle_steps(radius: f64) -> u32 {
    let mut steps = FEWEST_STEPS;
    while steps < MOST_STEPS && radius * (1.0 - (PI / f64::from(2 * steps)).cos()) > ARC_ERROR {
        steps += 2;
    }
    steps
}

/// Half a circle round `middle` from the direction `start` (a unit vector along an axis), clockwise on screen.
fn half_circle(middle: Point, radius: f64, start: Vec2, lies: Lies, points: &mut Vec<Point>) {
    let steps = half_circle_steps(radius);
    let across = Vec2::new(0.0 - start.y, start.x);
    let at = |angle: f64, radius: f64| middle + (start * angle.cos() + across * angle.sin()) * radius;
    let step = PI / f64::from(steps);
    match lies {
        Lies::Inside => points.extend((0..=steps).map(|k| {
            if k == 0 || k == steps {
                middle + start * (if k == 0 { radius } else { -radius })
            } else if 2 * k == steps {
                middle + across * radius
            } else {
                at(f64::from(k) * step, radius)
            }
        })),
        Lies::Outside => {
            let outer = radius / (step / 2.0).cos();
            points.extend((0..steps).map(|k| at((f64::from(k) + 0.5) * step, outer)));
        }
    }
}

/// The upright or lying capsule that fills a rectangle: its round ends are the two sides that the angle names, and it is an
/// error when those are the longer ones.
pub(super) fn capsule_in(rect: Rect, angle: Angle, lies: Lies) -> Result<Geometry, FitError> {
    let upright = angle != Angle::Lying;
    let (across, along) = if upright { (rect.width(), rect.height()) } else { (rect.height(), rect.width()) };
    if !(across > 0.0 && along >= across) {
        return Err(FitError::NoSize);
    }
    let radius = across / 2.0;
    let inner = rect.inset(-radius);
    let (first, second) = (Point::new(inner.x0, inner.y0), Point::new(inner.x1, inner.y1));
    // Upright: the cap that starts at the left goes over the top. Lying: the one that starts at the top ends below.
    let start = if upright { Vec2::new(-1.0, 0.0) } else { Vec2::new(0.0, 1.0) };
    let mut points = Vec::new();
    half_circle(first, radius, start, lies, &mut points);
    half_circle(second, radius, Vec2::ZERO - start, lies, &mut points);
    let numbers = [first.x, first.y, second.x, second.y, radius];
    Ok(Geometry::new(vec![Polygon::new(points)?], Some(Exact::Capsule(numbers))))
}

/// A circle by its middle and radius.
pub(super) fn circle_on([x, y, radius]: [f64; 3], lies: Lies) -> Result<Geometry, FitError> {
    if radius.is_nan() || radius <= 0.0 {
        return Err(FitError::NoSize);
    }
    let mut points = Vec::new();
    half_circle(Point::new(x, y), radius, Vec2::new(-1.0, 0.0), lies, &mut points);
    half_circle(Point::new(x, y), radius, Vec2::new(1.0, 0.0), lies, &mut points);
    Ok(Geometry::new(vec![Polygon::new(points)?], Some(Exact::Circle([x, y, radius]))))
}

/// A circle by its middle and radius, the polygon inside the curve.
pub(super) fn circle(numbers: [f64; 3]) -> Result<Geometry, FitError> {
    circle_on(numbers, Lies::Inside)
}

/// A capsule at any angle by the ends of its spine and its radius.
pub(super) fn capsule_between([x1, y1, x2, y2, radius]: [f64; 5], lies: Lies) -> Result<Geometry, FitError> {
    if radius.is_nan() || radius <= 0.0 {
        return Err(FitError::NoSize);
    }
    let (first, second) = (Point::new(x1, y1), Point::new(x2, y2));
    let along = if first == second { Vec2::new(0.0, 1.0) } else { (second - first).normalize() };
    let start = Vec2::new(0.0 - along.y, along.x);
    let mut points = Vec::new();
    half_circle(first, radius, start, lies, &mut points);
    half_circle(second, radius, Vec2::ZERO - start, lies, &mut points);
    let numbers = [x1, y1, x2, y2, radius];
    Ok(Geometry::new(vec![Polygon::new(points)?], Some(Exact::Capsule(numbers))))
}

/// A capsule at any angle, the polygon inside the curve.
pub(super) fn capsule(numbers: [f64; 5]) -> Result<Geometry, FitError> {
    capsule_between(numbers, Lies::Inside)
}
