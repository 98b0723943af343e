//! The capsule that agrees best with a selection.

use super::{MOVES, PRECISION};
use crate::art::{Mask, centroid};
use crate::fit::arcs::{HalfCircles, Lies, capsule_between, capsule_in};
use crate::fit::quality::{RunRows, pixel_bounds, ring_iou};
use crate::fit::search::climbed;
use crate::fit::{Angle, Exact, FitError, FitGoal, Geometry, Sides, rectangle};
use crate::geometry::{Point, Rect, Vec2};

/// The capsule with the highest IoU found by pattern search from two starts (the tight box and the best box), and for any
/// angle from the pixels' main axis as well; steps halve from 4 px to [`PRECISION`]. What is fixed stays.
///
/// # Complexity
/// Some hundred measurements of O(edges x rows) each.
pub(super) fn balanced(selection: &Mask, sides: Sides, angle: Angle) -> Result<Geometry, FitError> {
    let rows = RunRows::new(selection);
    let selected = selection.count() as f64;
    let mut halves = HalfCircles::default();
    let score = |ring: &[Point]| ring_iou(ring, &rows, selected);
    let kept = |[x0, y0, x1, y1]: [f64; 4], lies: Angle| {
        let rect = sides.kept(Rect::new(x0, y0, x1, y1));
        match (sides.radius, lies) {
            (Some(radius), Angle::Upright) => rect_with(rect, sides, Some(2.0 * radius), None),
            (Some(radius), _) => rect_with(rect, sides, None, Some(2.0 * radius)),
            (None, _) => rect,
        }
    };
    let pixel = pixel_bounds(selection);
    let tight = sides.kept(pixel);
    let starts = [Some(tight), rectangle::fit(selection, sides, FitGoal::Balance).ok()];
    let mut found: Vec<(f64, Geometry)> = Vec::new();
    for lies in [Angle::Upright, Angle::Lying] {
        if !matches!(angle, Angle::Square | Angle::Any) && angle != lies {
            continue;
        }
        let start = |rect: Rect| {
            // Of the right proportion, so that the search has a slope to climb.
            let side = rect.width().min(rect.height());
            let square = Rect::from_center_size(rect.center(), (side, side));
            let fits =
                if lies == Angle::Upright { rect.height() >= rect.width() } else { rect.width() >= rect.height() };
            let rect = if fits { rect } else { square };
            [rect.x0, rect.y0, rect.x1, rect.y1]
        };
        let starts: Vec<[f64; 4]> = starts.iter().flatten().map(|rect| start(*rect)).collect();
        let best = climbed(&starts, &MOVES, PRECISION, |numbers, _| {
            halves.capsule_in(kept(numbers, lies), lies, Lies::Inside).map_or(0.0, |(ring, _)| score(ring))
        });
        let shape = capsule_in(kept(best, lies), lies, Lies::Inside).ok();
        found.extend(shape.map(|shape| (score(shape.polygons[0].points()), shape)));
    }
    if angle == Angle::Any && sides.axis.is_none() {
        let numbers = |shape: &Geometry| match shape.exact {
            Some(Exact::Capsule(numbers)) => Some(numbers),
            _ => None,
        };
        let mut starts: Vec<[f64; 5]> = found.iter().filter_map(|(_, shape)| numbers(shape)).collect();
        starts.extend(along_main_axis(selection));
        let kept = |[x1, y1, x2, y2, radius]: [f64; 5]| [x1, y1, x2, y2, sides.radius.unwrap_or(radius)];
        let best = climbed(&starts, &MOVES_OF_ENDS, PRECISION, |numbers, _| {
            halves.capsule(kept(numbers), Lies::Inside).map_or(0.0, score)
        });
        let shape = capsule_between(kept(best), Lies::Inside).ok();
        found.extend(shape.map(|shape| (score(shape.polygons[0].points()), shape)));
    }
    let best = found.into_iter().reduce(|best, other| if other.0 > best.0 { other } else { best });
    best.map(|(_, shape)| shape).ok_or(FitError::SidesCross)
}

fn rect_with(rect: Rect, sides: Sides, width: Option<f64>, height: Option<f64>) -> Rect {
    Sides { width: width.or(sides.width), height: height.or(sides.height), radius: None, ..sides }.kept(rect)
}

/// A capsule along the direction in which the pixels spread most, as long and as wide as they spread.
fn along_main_axis(selection: &Mask) -> Option<[f64; 5]> {
    let middle: Point = centroid(selection)?;
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    let mut count = 0.0;
    for run in selection.runs() {
        for x in run.start..run.end {
            let by = Point::new(f64::from(x) + 0.5, f64::from(run.row) + 0.5) - middle;
            (xx, xy, yy, count) = (xx + by.x * by.x, xy + by.x * by.y, yy + by.y * by.y, count + 1.0);
        }
    }
    let (xx, xy, yy) = (xx / count, xy / count, yy / count);
    let angle = (2.0 * xy).atan2(xx - yy) / 2.0;
    let root = ((xx - yy) / 2.0).hypot(xy);
    let (long, short) = (f64::midpoint(xx, yy) + root, (f64::midpoint(xx, yy) - root).max(0.0));
    // A bar of length l spreads by l2 / 12.
    let (length, width) = ((12.0 * long).sqrt(), (12.0 * short).sqrt());
    let radius = (width / 2.0).max(0.5);
    let reach = Vec2::from_angle(angle) * (length / 2.0 - radius).max(0.0);
    let (a, b) = (middle - reach, middle + reach);
    Some([a.x, a.y, b.x, b.y, radius])
}

/// Moves of both ends and the radius, in steps.
const MOVES_OF_ENDS: [[f64; 5]; 9] = [
    [1.0, 0.0, 0.0, 0.0, 0.0],
    [0.0, 1.0, 0.0, 0.0, 0.0],
    [0.0, 0.0, 1.0, 0.0, 0.0],
    [0.0, 0.0, 0.0, 1.0, 0.0],
    [1.0, 0.0, 1.0, 0.0, 0.0],
    [0.0, 1.0, 0.0, 1.0, 0.0],
    [1.0, 0.0, -1.0, 0.0, 0.0],
    [0.0, 1.0, 0.0, -1.0, 0.0],
    [0.0, 0.0, 0.0, 0.0, 1.0],
];
