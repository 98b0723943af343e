//! The greatest capsule inside a selection.

use super::MOVES;
use crate::art::Mask;
use crate::fit::arcs::{Lies, capsule_between};
use crate::fit::inner::Inner;
use crate::fit::search::{Steps, climbed};
use crate::fit::{Angle, FitError, Geometry, Sides};
use crate::geometry::Point;
use std::f64::consts::PI;

/// Steps of a spine's ends, px.
const STEPS: Steps = Steps { first: 4.0, last: 1.0 / 32.0 };

/// A spine, as both ends.
type Spine = [f64; 4];

/// The capsule with the greatest area found whose every point is in the pixels: its radius is the least distance of its
/// spine from the boundary. Starts are the best spines through the middles of pixels, and the greatest circle inside;
/// pattern search moves their ends to the last of [`STEPS`].
///
/// # Complexity
/// O(pixels), and some hundred looks at the edges beside a spine.
pub(super) fn inside(selection: &Mask, sides: Sides, angle: Angle) -> Result<Geometry, FitError> {
    let room = Inner::new(selection);
    let (middle, most) = room.widest(sides.axis).ok_or(FitError::NoRoomInside)?;
    if let Some(given) = sides.radius.filter(|given| *given > most) {
        return Err(FitError::TooLarge { given, most });
    }
    let lies = |upright: bool| match angle {
        Angle::Square | Angle::Any => true,
        Angle::Upright => upright,
        Angle::Lying => !upright,
    };
    let mut best: Option<(f64, Spine)> = None;
    for upright in [true, false].into_iter().filter(|upright| lies(*upright)) {
        let kept = |[x1, y1, x2, y2]: Spine| match (upright, sides.axis) {
            (true, axis) => {
                let x = axis.unwrap_or(f64::midpoint(x1, x2));
                [x, y1, x, y2]
            }
            (false, None) => [x1, f64::midpoint(y1, y2), x2, f64::midpoint(y1, y2)],
            (false, Some(axis)) => {
                let (y, half) = (f64::midpoint(y1, y2), (x2 - x1).abs() / 2.0);
                [axis - half, y, axis + half, y]
            }
        };
        let mut starts = best_lines(&room, upright, sides);
        starts.push([middle.x, middle.y, middle.x, middle.y]);
        let starts: Vec<Spine> = starts.into_iter().map(kept).collect();
        let area = |spine: Spine, least: f64| area(&room, kept(spine), sides.radius, least);
        let found = climbed(&starts, &MOVES, STEPS, area);
        let value = area(found, 0.0);
        if value > 0.0 && best.is_none_or(|(known, _)| value > known) {
            best = Some((value, kept(found)));
        }
    }
    if angle == Angle::Any && sides.axis.is_none() {
        let starts: Vec<Spine> = best.iter().map(|(_, spine)| *spine).collect();
        let area = |spine: Spine, least: f64| area(&room, spine, sides.radius, least);
        let found = climbed(&starts, &MOVES, STEPS, area);
        let value = area(found, 0.0);
        if best.is_none_or(|(known, _)| value > known) {
            best = Some((value, found));
        }
    }
    let (_, [x1, y1, x2, y2]) = best.ok_or(FitError::NoRoomInside)?;
    let radius = sides.radius.unwrap_or_else(|| room.depth_of_segment([Point::new(x1, y1), Point::new(x2, y2)], 0.0));
    capsule_between([x1, y1, x2, y2, radius], Lies::Inside)
}

/// The area of the capsule round a spine that is as wide as there is room, or as given; 0 where there is none, and any value up
/// to `least` where it is no more than that.
fn area(room: &Inner<'_>, [x1, y1, x2, y2]: Spine, given: Option<f64>, least: f64) -> f64 {
    let spine = [Point::new(x1, y1), Point::new(x2, y2)];
    let length = spine[0].distance(spine[1]);
    // The radius r with r (2 length + pi r) = least, and no less by rounding.
    let enough = ((length * length + PI * least.max(0.0)).sqrt() - length) / PI;
    let most = room.depth_of_segment(spine, given.unwrap_or(enough) - 1e-6);
    let radius = given.unwrap_or(most);
    if radius > most || radius <= 0.0 { 0.0 } else { radius * (2.0 * length + PI * radius) }
}

/// The best spines among the middles of pixels, along columns or rows.
fn best_lines(room: &Inner<'_>, upright: bool, sides: Sides) -> Vec<Spine> {
    const BEST: usize = 4;
    let bounds = room.bounds();
    let (columns, rows) = (bounds.x0 as i64..bounds.x1 as i64, bounds.y0 as i64..bounds.y1 as i64);
    let (across, along) = if upright { (columns, rows) } else { (rows, columns) };
    let lines: Vec<i64> = match (upright, sides.axis) {
        (true, Some(axis)) => vec![axis.floor() as i64],
        _ => across.collect(),
    };
    let mut found: Vec<(f64, Spine)> = Vec::new();
    for line in lines {
        let depth = |along: i64| if upright { room.rough_depth(line, along) } else { room.rough_depth(along, line) };
        let depths: Vec<f64> = along.clone().map(depth).collect();
        let places: Vec<f64> = along.clone().map(|along| along as f64 + 0.5).collect();
        if let Some((value, (from, to))) = widest_run(&depths, &places) {
            let line = line as f64 + 0.5;
            found.push((value, if upright { [line, from, line, to] } else { [from, line, to, line] }));
        }
    }
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    found.truncate(BEST);
    found.into_iter().map(|(_, spine)| spine).collect()
}

/// The run of places with the greatest capsule, its radius the least depth of the run; with a stack, as for rectangles.
fn widest_run(depths: &[f64], places: &[f64]) -> Option<(f64, (f64, f64))> {
    let mut best: Option<(f64, (f64, f64))> = None;
    let mut open: Vec<(usize, f64)> = Vec::new();
    for end in 0..=depths.len() {
        let depth = depths.get(end).copied().unwrap_or(0.0);
        let mut start = end;
        while let Some(&(from, radius)) = open.last().filter(|(_, radius)| *radius >= depth) {
            if radius > 0.0 && end > from {
                let (a, b) = (places[from], places[end - 1]);
                let area = radius * (2.0 * (b - a) + PI * radius);
                if best.is_none_or(|(most, _)| area > most) {
                    best = Some((area, (a, b)));
                }
            }
            start = from;
            open.pop();
        }
        open.push((start, depth));
    }
    best
}
