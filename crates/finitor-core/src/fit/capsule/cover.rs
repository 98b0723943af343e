//! The least capsule round a selection.

use super::PRECISION;
use crate::art::{Mask, contours};
use crate::fit::arcs::{Lies, capsule_between, capsule_in};
use crate::fit::{Angle, FitError, Geometry, Sides};
use crate::geometry::{Point, Rect, Vec2, convex_hull};
use std::f64::consts::PI;

/// The capsule of least area, upright or lying, that contains every selected pixel; radius and place to
/// [`PRECISION`]. Its polygon lies outside the curve, so the polygon covers too.
///
/// For a given radius the least length of the spine is a convex function of the spine's place across, since
/// `sqrt(r2 - d2)` is concave in d; it is searched by thirds. Of the radii those between two are tried where the shorter spine of the
/// larger leaves room for less area.
///
/// # Complexity
/// O(radii x log(width) x hull points) at worst; as a rule some ten radii are tried.
pub(super) fn covering(selection: &Mask, sides: Sides, angle: Angle) -> Result<Geometry, FitError> {
    let corners: Vec<Point> = contours(selection).iter().flat_map(|ring| ring.points()).collect();
    let hull = convex_hull(&corners);
    let fixed = Fixed { radius: sides.radius, axis: sides.axis };
    let flipped: Vec<Point> = hull.iter().map(|p| Point::new(p.y, p.x)).collect();
    let upright = || least_upright(&hull, fixed, f64::INFINITY);
    let lying = || {
        let (found, area) = least_upright(&flipped, Fixed { axis: None, ..fixed }, f64::INFINITY)?;
        let mut rect = Rect::new(found.y0, found.x0, found.y1, found.x1);
        if let Some(axis) = sides.axis {
            let half = (rect.x1 - axis).max(axis - rect.x0);
            (rect.x0, rect.x1) = (axis - half, axis + half);
        }
        Some((rect, area))
    };
    let of = match angle {
        Angle::Any if sides.axis.is_none() => return covering_at_any_angle(&hull, fixed),
        Angle::Upright => [upright(), None],
        Angle::Lying => [lying(), None],
        Angle::Square | Angle::Any => [upright(), lying()],
    };
    let best = of.into_iter().flatten().reduce(|best, other| if other.1 < best.1 { other } else { best });
    let Some((rect, _)) = best else {
        let bounds = crate::geometry::bounds_of(&hull);
        let across = if angle == Angle::Lying { bounds.height() } else { bounds.width() };
        let needed = if angle == Angle::Square { across.min(bounds.height()) } else { across } / 2.0;
        return Err(FitError::TooSmall { given: sides.radius.unwrap_or(0.0), needed });
    };
    let lies = if rect.height() >= rect.width() { Angle::Upright } else { Angle::Lying };
    let mut grown = rect;
    loop {
        let shape = capsule_in(grown, lies, Lies::Outside)?;
        if hull.iter().all(|&p| shape.polygons[0].contains(p)) {
            return Ok(shape);
        }
        // Rounding left a corner outside by a hair; the promise is exact, so give way.
        grown = grown.inset(PRECISION / 64.0);
    }
}

/// What is given of an upright capsule.
#[derive(Clone, Copy)]
struct Fixed {
    radius: Option<f64>,
    axis: Option<f64>,
}

/// The least capsule over all angles: the hull is turned, and round it the least upright one found; angles are tried in
/// steps of 3 degrees, then round the best ones in steps that halve down to 1/20 of a degree.
fn covering_at_any_angle(hull: &[Point], fixed: Fixed) -> Result<Geometry, FitError> {
    const STEPS: u32 = 60;
    const BEST: usize = 3;
    let at = |angle: f64, limit: f64| {
        let turned: Vec<Point> = hull.iter().map(|p| turned(*p, angle)).collect();
        least_upright(&turned, fixed, limit).map(|(rect, area)| (area, angle, rect))
    };
    let step = PI / f64::from(STEPS);
    // Those that may be among the best, in ascending order.
    let mut found: Vec<(f64, f64, Rect)> = Vec::with_capacity(BEST + 1);
    // Every fourth first, so that what is to be beaten is soon small.
    let spread = (0..STEPS).step_by(4);
    for angle in [0, 2, 1, 3].into_iter().flat_map(|by| spread.clone().map(move |k| f64::from(k + by) * step)) {
        let limit = found.get(BEST - 1).map_or(f64::INFINITY, |worst| worst.0);
        if let Some(capsule) = at(angle, limit) {
            let before = |better: &(f64, f64, Rect)| (better.0, better.1) < (capsule.0, capsule.1);
            found.insert(found.partition_point(before), capsule);
            found.truncate(BEST);
        }
    }
    let mut best: Option<(f64, f64, Rect)> = None;
    for start in found {
        let mut here = start;
        let mut by = step / 2.0;
        while by > step / 64.0 {
            let beside = [here.1 - by, here.1 + by].into_iter().filter_map(|angle| at(angle, here.0));
            match beside.min_by(|a, b| a.0.total_cmp(&b.0)).filter(|found| found.0 < here.0) {
                Some(better) => here = better,
                None => by /= 2.0,
            }
        }
        best = if best.is_none_or(|known| here.0 < known.0) { Some(here) } else { best };
    }
    let bounds = crate::geometry::bounds_of(hull);
    let needed = bounds.width().min(bounds.height()) / 2.0;
    let (_, angle, rect) = best.ok_or(FitError::TooSmall { given: fixed.radius.unwrap_or(0.0), needed })?;
    let mut radius = rect.width() / 2.0;
    let spine = rect.inset(-radius);
    let x = rect.center().x;
    let ends = [turned(Point::new(x, spine.y0), -angle), turned(Point::new(x, spine.y1), -angle)];
    loop {
        let shape = capsule_between([ends[0].x, ends[0].y, ends[1].x, ends[1].y, radius], Lies::Outside)?;
        if hull.iter().all(|&p| shape.polygons[0].contains(p)) {
            return Ok(shape);
        }
        radius += radius * 1e-9;
    }
}

fn turned(p: Point, angle: f64) -> Point {
    let (sin, cos) = angle.sin_cos();
    Vec2::new(p.x * cos - p.y * sin, p.x * sin + p.y * cos).to_point()
}

/// Box and area of the least upright capsule round the hull; `None` when the radius given is too small, or none is as small as the
/// limit, px2.
fn least_upright(hull: &[Point], fixed: Fixed, limit: f64) -> Option<(Rect, f64)> {
    let bounds = crate::geometry::bounds_of(hull);
    // A hull turned by a right angle may be wider by a rounding, which is no step.
    let up = |value: f64| (value / PRECISION - 1e-9).ceil() * PRECISION;
    let across = fixed.axis.map_or(bounds.width() / 2.0, |axis| (bounds.x1 - axis).max(axis - bounds.x0));
    let (first, last) = match fixed.radius {
        Some(radius) if radius < across => return None,
        Some(radius) => (radius, radius),
        None => (up(across), up(bounds.width().hypot(bounds.height()) / 2.0).max(up(across))),
    };
    let mut tried = Radii { hull, axis: fixed.axis, bounds, first, limit, best: None };
    let steps = ((last - first) / PRECISION).round() as u32;
    tried.spine_of(0);
    // No radius beyond can be better, and the larger the radius the shorter its spine.
    if let Some(last) = (1..=steps).take_while(|k| tried.least(*k, 0.0) <= tried.known()).last() {
        let spine = tried.spine_of(last);
        tried.between([0, last], spine);
    }
    tried.best.map(|(_, rect, area)| (rect, area))
}

/// Upright capsules round a hull by their radius, in steps of [`PRECISION`] from the first.
struct Radii<'h> {
    hull: &'h [Point],
    axis: Option<f64>,
    bounds: Rect,
    first: f64,
    limit: f64,
    /// Step, box and area of the least so far.
    best: Option<(u32, Rect, f64)>,
}

impl Radii<'_> {
    fn radius(&self, k: u32) -> f64 {
        self.first + f64::from(k) * PRECISION
    }

    /// The area to get below, px2.
    fn known(&self) -> f64 {
        self.best.map_or(self.limit, |(.., area)| area) * (1.0 + 1e-12)
    }

    /// No capsule of this radius with a spine this long or longer has less area: none is shorter than the hull is high.
    fn least(&self, k: u32, spine: f64) -> f64 {
        let radius = self.radius(k);
        radius * (2.0 * spine.max(self.bounds.height() - 2.0 * radius).max(0.0) + PI * radius)
    }

    /// Tries a radius; the length of its spine.
    fn spine_of(&mut self, k: u32) -> f64 {
        let radius = self.radius(k);
        let x = match self.axis {
            Some(axis) => axis,
            None => best_place(self.hull, radius, self.bounds.x1 - radius, self.bounds.x0 + radius),
        };
        let (top, bottom) = spine(self.hull, radius, x);
        let area = 2.0 * radius * (bottom - top) + PI * radius * radius;
        let better = |&(other, _, least): &(u32, Rect, f64)| area < least || area == least && k < other;
        if self.best.as_ref().map_or(area <= self.limit, better) {
            self.best = Some((k, Rect::new(x - radius, top - radius, x + radius, bottom + radius), area));
        }
        bottom - top
    }

    /// Tries radii between two, where any may be better, given the spine of the larger.
    fn between(&mut self, [low, high]: [u32; 2], spine: f64) {
        if high - low < 2 || self.least(low + 1, spine - SLACK) > self.known() {
            return;
        }
        let middle = u32::midpoint(low, high);
        let in_middle = self.spine_of(middle);
        self.between([low, middle], in_middle);
        self.between([middle, high], spine);
    }
}

/// Places across are rounded, so that a spine may be this much longer than the shortest, px.
const SLACK: f64 = 0.25;

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
