//! The capsule that agrees best with a selection.

use super::MOVES;
use crate::art::{Mask, centroid};
use crate::fit::arcs::{HalfCircles, Lies, capsule_between, capsule_in};
use crate::fit::quality::pixel_bounds;
use crate::fit::row_sums::RowSums;
use crate::fit::search::RoundFamily;
use crate::fit::{Angle, FitError, Geometry, Sides, rectangle};
use crate::geometry::{Point, Rect, Vec2};

/// The capsule with the highest IoU found by pattern search from two starts (the tight box, and one near the best), and for any
/// angle from the pixels' main axis as well. What is fixed stays.
///
/// # Complexity
/// Some hundred measurements of O(edges + rows) each.
pub(super) fn balanced(selection: &Mask, sides: Sides, angle: Angle) -> Result<Geometry, FitError> {
    let sums = RowSums::new(selection);
    let tight = sides.kept(pixel_bounds(selection));
    let rects = [Some(tight), rectangle::near_best(selection, sides)];
    let rects: Vec<Rect> = rects.into_iter().flatten().collect();
    let in_boxes = [Angle::Upright, Angle::Lying].map(|lies| {
        let family =
            RoundFamily::new(&sums, &MOVES, move |halves, numbers| in_box(halves, kept(numbers, sides, lies), lies));
        (lies, family)
    });
    let allowed = in_boxes.iter().filter(|(lies, _)| matches!(angle, Angle::Square | Angle::Any) || angle == *lies);
    let near = allowed.map(|(lies, family)| {
        let starts: Vec<[f64; 4]> = rects.iter().map(|rect| proportioned(*rect, *lies)).collect();
        let numbers = family.near_best(&starts);
        (family.iou(numbers), *lies, family, numbers)
    });
    let near: Vec<_> = near.collect();
    let best = near.into_iter().reduce(|best, other| if other.0 > best.0 { other } else { best });
    let (_, lies, family, numbers) = best.ok_or(FitError::SidesCross)?;
    let rect = kept(family.best_near(numbers), sides, lies);
    if angle != Angle::Any || sides.axis.is_some() {
        return capsule_in(rect, lies, Lies::Inside).map_err(|_| FitError::SidesCross);
    }
    let kept_ends = |[x1, y1, x2, y2, radius]: [f64; 5]| [x1, y1, x2, y2, sides.radius.unwrap_or(radius)];
    let turned =
        RoundFamily::new(&sums, &MOVES_OF_ENDS, |halves, numbers| halves.capsule(kept_ends(numbers), Lies::Inside));
    let square = HalfCircles::default().capsule_in(rect, lies, Lies::Inside).map(|(_, ends)| ends);
    let starts = [square, along_main_axis(selection)].into_iter().flatten();
    // Each is followed to its end: rough measurements alone do not tell which is the better by a thousandth.
    let near = starts.map(|start| turned.best_near(turned.near_best(&[start])));
    let found = near.chain(square).map(|ends| (turned.iou(ends), ends));
    let best = found.reduce(|best, other| if other.0 > best.0 { other } else { best });
    let (_, ends) = best.ok_or(FitError::SidesCross)?;
    capsule_between(kept_ends(ends), Lies::Inside)
}

fn in_box(halves: &mut HalfCircles, rect: Rect, lies: Angle) -> Option<&[Point]> {
    halves.capsule_in(rect, lies, Lies::Inside).map(|(ring, _)| ring)
}

/// A box with what is fixed of it, and as wide or high as a radius given.
fn kept([x0, y0, x1, y1]: [f64; 4], sides: Sides, lies: Angle) -> Rect {
    let rect = sides.kept(Rect::new(x0, y0, x1, y1));
    match (sides.radius, lies) {
        (Some(radius), Angle::Upright) => rect_with(rect, sides, Some(2.0 * radius), None),
        (Some(radius), _) => rect_with(rect, sides, None, Some(2.0 * radius)),
        (None, _) => rect,
    }
}

/// A box of the right proportion to start from, so that the search has a slope to climb.
fn proportioned(rect: Rect, lies: Angle) -> [f64; 4] {
    let side = rect.width().min(rect.height());
    let square = Rect::from_center_size(rect.center(), (side, side));
    let fits = if lies == Angle::Upright { rect.height() >= rect.width() } else { rect.width() >= rect.height() };
    let rect = if fits { rect } else { square };
    [rect.x0, rect.y0, rect.x1, rect.y1]
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
