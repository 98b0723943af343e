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

/// Halves of circles by their radius. What depends on the number of steps alone is found once, for searches that draw many.
#[derive(Default)]
pub(super) struct HalfCircles {
    /// For [`FEWEST_STEPS`], two more, and so on.
    of_steps: Vec<Turn>,
    points: Vec<Point>,
}

/// Half a turn in steps.
struct Turn {
    /// By how much of the radius a chord's middle is off the circle.
    sagitta: f64,
    /// Cosine and sine of each step's angle.
    ways: Vec<Vec2>,
}

impl Turn {
    fn new(steps: u32) -> Turn {
        let step = PI / f64::from(steps);
        let way = |k: u32| (f64::from(k) * step).sin_cos();
        let ways = (0..=steps).map(way).map(|(sin, cos)| Vec2::new(cos, sin)).collect();
        Turn { sagitta: 1.0 - (PI / f64::from(2 * steps)).cos(), ways }
    }
}

impl HalfCircles {
    /// In as few steps as keep to the curve; even, so that the extreme points are among the corners.
    fn turn(&mut self, radius: f64) -> &Turn {
        let most = ((MOST_STEPS - FEWEST_STEPS) / 2) as usize;
        let mut index = 0;
        loop {
            if self.of_steps.len() == index {
                self.of_steps.push(Turn::new(FEWEST_STEPS + 2 * index as u32));
            }
            if index == most || radius * self.of_steps[index].sagitta <= ARC_ERROR {
                return &self.of_steps[index];
            }
            index += 1;
        }
    }

    /// The ring of a circle; `None` without a radius.
    pub(super) fn circle(&mut self, [x, y, radius]: [f64; 3], lies: Lies) -> Option<&[Point]> {
        let (middle, left) = (Point::new(x, y), Vec2::new(-1.0, 0.0));
        (radius > 0.0).then(|| self.ring([middle; 2], radius, left, lies))
    }

    /// The ring of a capsule by the ends of its spine and its radius; `None` without a radius.
    pub(super) fn capsule(&mut self, [x1, y1, x2, y2, radius]: [f64; 5], lies: Lies) -> Option<&[Point]> {
        let (first, second) = (Point::new(x1, y1), Point::new(x2, y2));
        let along = if first == second { Vec2::new(0.0, 1.0) } else { (second - first).normalize() };
        let start = Vec2::new(0.0 - along.y, along.x);
        (radius > 0.0).then(|| self.ring([first, second], radius, start, lies))
    }

    /// The ring of the upright or lying capsule that fills a rectangle, and its numbers.
    pub(super) fn capsule_in(&mut self, rect: Rect, angle: Angle, lies: Lies) -> Option<(&[Point], [f64; 5])> {
        let upright = angle != Angle::Lying;
        let (across, along) = if upright { (rect.width(), rect.height()) } else { (rect.height(), rect.width()) };
        let radius = across / 2.0;
        let inner = rect.inset(-radius);
        let (first, second) = (Point::new(inner.x0, inner.y0), Point::new(inner.x1, inner.y1));
        // Upright: the cap that starts at the left goes over the top. Lying: the one that starts at the top ends below.
        let start = if upright { Vec2::new(-1.0, 0.0) } else { Vec2::new(0.0, 1.0) };
        let numbers = [first.x, first.y, second.x, second.y, radius];
        (across > 0.0 && along >= across).then(|| (self.ring([first, second], radius, start, lies), numbers))
    }

    /// Two halves, clockwise on screen: one round each middle, the first from the direction `start` (a unit vector), the second
    /// from the opposite.
    fn ring(&mut self, middles: [Point; 2], radius: f64, start: Vec2, lies: Lies) -> &[Point] {
        let mut points = std::mem::take(&mut self.points);
        points.clear();
        let turn = self.turn(radius);
        for (middle, start) in middles.into_iter().zip([start, Vec2::ZERO - start]) {
            half_circle(turn, middle, (start, radius), lies, &mut points);
        }
        self.points = points;
        &self.points
    }
}

/// Half a circle round `middle` from the direction `start`, clockwise on screen.
fn half_circle(turn: &Turn, middle: Point, (start, radius): (Vec2, f64), lies: Lies, points: &mut Vec<Point>) {
    let across = Vec2::new(0.0 - start.y, start.x);
    let steps = turn.ways.len() - 1;
    let toward = |way: Vec2, radius: f64| middle + (start * way.x + across * way.y) * radius;
    match lies {
        Lies::Inside => points.extend((0..=steps).map(|k| {
            if k == 0 || k == steps {
                middle + start * (if k == 0 { radius } else { -radius })
            } else if 2 * k == steps {
                middle + across * radius
            } else {
                toward(turn.ways[k], radius)
            }
        })),
        Lies::Outside => {
            let step = PI / steps as f64;
            let outer = radius / (step / 2.0).cos();
            points.extend((0..steps).map(|k| {
                let (sin, cos) = ((k as f64 + 0.5) * step).sin_cos();
                toward(Vec2::new(cos, sin), outer)
            }));
        }
    }
}

/// A capsule that fills a rectangle, see [`HalfCircles::capsule_in`]; it is an error when its round ends are the longer sides.
pub(super) fn capsule_in(rect: Rect, angle: Angle, lies: Lies) -> Result<Geometry, FitError> {
    let mut halves = HalfCircles::default();
    let (ring, numbers) = halves.capsule_in(rect, angle, lies).ok_or(FitError::NoSize)?;
    Ok(Geometry::new(vec![Polygon::new(ring.to_vec())?], Some(Exact::Capsule(numbers))))
}

/// A circle by its middle and radius.
pub(super) fn circle_on(numbers: [f64; 3], lies: Lies) -> Result<Geometry, FitError> {
    let mut halves = HalfCircles::default();
    let ring = halves.circle(numbers, lies).ok_or(FitError::NoSize)?;
    Ok(Geometry::new(vec![Polygon::new(ring.to_vec())?], Some(Exact::Circle(numbers))))
}

/// A circle by its middle and radius, the polygon inside the curve.
pub(super) fn circle(numbers: [f64; 3]) -> Result<Geometry, FitError> {
    circle_on(numbers, Lies::Inside)
}

/// A capsule at any angle by the ends of its spine and its radius.
pub(super) fn capsule_between(numbers: [f64; 5], lies: Lies) -> Result<Geometry, FitError> {
    let mut halves = HalfCircles::default();
    let ring = halves.capsule(numbers, lies).ok_or(FitError::NoSize)?;
    Ok(Geometry::new(vec![Polygon::new(ring.to_vec())?], Some(Exact::Capsule(numbers))))
}

/// A capsule at any angle, the polygon inside the curve.
pub(super) fn capsule(numbers: [f64; 5]) -> Result<Geometry, FitError> {
    capsule_between(numbers, Lies::Inside)
}
