//! Points that a frame's pixels give: feet, the outermost pixels, the middle of a colour; and where figures stand.

use super::{Mask, Run};
use crate::facing::Facing;
use kurbo::Point;

/// An outermost place of the opaque pixels.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Landmark {
    /// The highest.
    Top,
    /// The lowest.
    Bottom,
    /// The farthest the way the art is drawn.
    Front,
    /// The farthest the other way.
    Back,
}

/// Where a landmark is, cell space: on the outer edge of the outermost row or column of pixels, at the middle of the
/// set pixels in it. `None` when no pixel is set.
///
/// # Complexity
/// O(pixels).
pub fn landmark(mask: &Mask, which: Landmark, drawn: Facing) -> Option<Point> {
    let bounds = mask.bounds()?;
    let (x0, y0) = (bounds.x, bounds.y);
    let (x1, y1) = (x0 + bounds.width, y0 + bounds.height);
    let middle = |first: u32, end: u32, set: &dyn Fn(u32) -> bool| {
        let (sum, count) =
            (first..end).filter(|at| set(*at)).fold((0.0, 0_u32), |(sum, n), at| (sum + f64::from(at) + 0.5, n + 1));
        sum / f64::from(count.max(1))
    };
    let in_row = |row: u32| middle(x0, x1, &|x| mask.get(x.into(), row.into()));
    let in_column = |column: u32| middle(y0, y1, &|y| mask.get(column.into(), y.into()));
    let right = match which {
        Landmark::Top => return Some(Point::new(in_row(y0), y0.into())),
        Landmark::Bottom => return Some(Point::new(in_row(y1 - 1), y1.into())),
        Landmark::Front => drawn == Facing::Right,
        Landmark::Back => drawn == Facing::Left,
    };
    Some(if right { Point::new(x1.into(), in_column(x1 - 1)) } else { Point::new(x0.into(), in_column(x0)) })
}

/// The middle of the set pixels: the mean of their middles, cell space. `None` when none is set.
pub fn centroid(mask: &Mask) -> Option<Point> {
    let mut sum = (0.0, 0.0);
    for run in mask.runs() {
        let length = f64::from(run.len());
        sum.0 += length * f64::from(run.start + run.end) / 2.0;
        sum.1 += length * (f64::from(run.row) + 0.5);
    }
    let count = mask.count() as f64;
    (count > 0.0).then(|| Point::new(sum.0 / count, sum.1 / count))
}

/// Bottom centre of the pixels in the runs, cell space; `None` without any.
pub fn feet(runs: &[Run]) -> Option<Point> {
    let left = runs.iter().map(|run| run.start).min()?;
    let right = runs.iter().map(|run| run.end).max()?;
    Some(Point::new(f64::from(left + right) / 2.0, f64::from(bottom(runs)?)))
}

/// The lower edge of the lowest run.
fn bottom(runs: &[Run]) -> Option<u32> {
    runs.iter().map(|run| run.row + 1).max()
}

/// Where the figure of an actor stands in its cells, judged from all frames.
#[derive(Clone, Debug, PartialEq)]
pub struct Stance {
    /// The pivot that suits the frames, cell space.
    pub pivot: Point,
    /// By frame: whether its lowest opaque row lies on the pivot's line.
    pub standing: Vec<bool>,
    /// Whether x is the middle of the cell, the feet being near it; otherwise it is the middle of the feet.
    pub centred: bool,
}

/// Judges where a figure stands from the runs of each frame's opaque pixels; all frames are `width` px wide. `None` when
/// every frame is empty.
///
/// The ground is the lower edge that most frames' art ends on, the lower one where two are as common: frames in the air
/// end elsewhere. The feet are what lies in the lowest quarter of a standing figure; a pole or a cape high up does not
/// move them. Artists draw to the middle of a cell, so feet within an eighth of the width of it count as being there.
pub fn stance(frames: &[Vec<Run>], width: u32) -> Option<Stance> {
    let bottoms: Vec<Option<u32>> = frames.iter().map(|runs| bottom(runs)).collect();
    let votes = |row: u32| bottoms.iter().filter(|bottom| **bottom == Some(row)).count();
    let ground = bottoms.iter().flatten().copied().max_by_key(|row| (votes(*row), *row))?;
    let standing: Vec<bool> = bottoms.iter().map(|bottom| *bottom == Some(ground)).collect();
    let mut middles: Vec<f64> = frames
        .iter()
        .zip(&standing)
        .filter(|(_, standing)| **standing)
        .filter_map(|(runs, _)| {
            let top = runs.first()?.row;
            let from = ground - (ground - top).div_ceil(4);
            let low: Vec<Run> = runs.iter().filter(|run| run.row >= from).copied().collect();
            feet(&low).map(|at| at.x)
        })
        .collect();
    middles.sort_by(f64::total_cmp);
    let middle = *middles.get(middles.len() / 2)?;
    let centre = f64::from(width) / 2.0;
    let centred = (middle - centre).abs() <= f64::from(width) / 8.0;
    let pivot = Point::new(if centred { centre } else { middle }, f64::from(ground));
    Some(Stance { pivot, standing, centred })
}
