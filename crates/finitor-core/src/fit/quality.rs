//! How well a shape agrees with the pixels it was fitted to, computed exactly.

use super::Geometry;
use crate::art::{LatticeRing, Mask, Run, contours};
use crate::geometry::{Point, Polygon, Rect, deviation};

/// Agreement of a shape with a selection, each pixel a unit square.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Quality {
    /// Shared area over the area of the union, 0 to 1.
    pub iou: f64,
    /// Share of the selection's area inside the shape, 0 to 1.
    pub covered: f64,
    /// Area of the shape outside the selection, px2.
    pub excess: f64,
    /// Largest distance between the two boundaries, px, to within [`crate::geometry::DEVIATION_PRECISION`].
    pub deviation: f64,
}

/// Measures a shape against a selection, both in cell space; `None` when the selection is empty.
///
/// # Complexity
/// Areas O(runs + edges x rows they span x runs there); the deviation as told for [`deviation`].
pub fn measure(geometry: &Geometry, selection: &Mask) -> Option<Quality> {
    let selected = selection.count() as f64;
    if selected == 0.0 {
        return None;
    }
    let (shape, rows) = (geometry.area(), RunRows::new(selection));
    let shared = area_inside(&geometry.polygons, &rows) - area_inside(&geometry.holes, &rows);
    let traced: Vec<Vec<Point>> = contours(selection).iter().map(LatticeRing::points).collect();
    let traced: Vec<&[Point]> = traced.iter().map(Vec::as_slice).collect();
    let rings: Vec<&[Point]> = geometry.polygons.iter().chain(&geometry.holes).map(Polygon::points).collect();
    Some(Quality {
        iou: shared / (selected + shape - shared),
        covered: (shared / selected).min(1.0),
        excess: (shape - shared).max(0.0),
        deviation: deviation(&rings, &traced),
    })
}

/// The runs of a mask, found by row.
#[derive(Clone, Debug)]
pub struct RunRows {
    runs: Vec<Run>,
    /// Where each row's runs begin in `runs`, and the end of the last.
    starts: Vec<usize>,
}

impl RunRows {
    /// The runs of the mask.
    pub fn new(mask: &Mask) -> RunRows {
        let runs = mask.runs();
        let starts = (0..=mask.height()).map(|row| runs.partition_point(|run| run.row < row)).collect();
        RunRows { runs, starts }
    }

    fn row(&self, row: usize) -> &[Run] {
        &self.runs[self.starts[row]..self.starts[row + 1]]
    }

    fn height(&self) -> usize {
        self.starts.len() - 1
    }
}

/// The area of the polygons that lies on the mask's pixels, px2.
///
/// By Green's theorem the area a polygon shares with a run, a rectangle one row high, is the sum over the polygon's
/// edges of the integral of x dy along the part of the edge in that row, x held between the run's ends. Each such
/// integral is a sum of two rectangles and a trapezoid, so the result is exact but for rounding.
pub fn area_inside(polygons: &[Polygon], rows: &RunRows) -> f64 {
    shared_area(polygons.iter().flat_map(Polygon::edges), rows)
}

/// The area right of upward edges and left of downward ones that lies on the mask's pixels, px2.
fn shared_area(edges: impl Iterator<Item = (Point, Point)>, rows: &RunRows) -> f64 {
    let mut total = 0.0;
    for (a, b) in edges {
        let (top, bottom, sign) = if a.y < b.y { (a, b, 1.0) } else { (b, a, -1.0) };
        let first = top.y.floor().max(0.0);
        let last = bottom.y.ceil().min(rows.height() as f64);
        if top.y == bottom.y || first >= last {
            continue;
        }
        let x_at = |y: f64| top.x + (bottom.x - top.x) * ((y - top.y) / (bottom.y - top.y));
        let mut y0 = top.y.max(first);
        let mut x0 = x_at(y0);
        for row in first as usize..last as usize {
            let y1 = bottom.y.min(row as f64 + 1.0);
            if y0 >= y1 {
                continue;
            }
            let x1 = x_at(y1);
            let (low, high) = (x0.min(x1), x0.max(x1));
            let mut beside = 0.0;
            for run in rows.row(row).iter().take_while(|run| f64::from(run.start) < high) {
                beside += mean_reach(low, high, run);
            }
            total += sign * (y1 - y0) * beside;
            (x0, y0) = (x1, y1);
        }
    }
    total
}

/// The mean over the way from `low` to `high` of the length of the run left of x.
fn mean_reach(low: f64, high: f64, run: &Run) -> f64 {
    let (start, end) = (f64::from(run.start), f64::from(run.end));
    if high <= start {
        0.0
    } else if low >= end {
        end - start
    } else if low >= start && high <= end {
        (low + high) / 2.0 - start
    } else {
        // The way leaves the run at one end or both: part below it, part inside, part above.
        let (from, to) = (low.max(start), high.min(end));
        let inside = (to - from) * ((from + to) / 2.0 - start);
        let above = (high - to) * (end - start);
        (inside + above) / (high - low)
    }
}

/// IoU of a geometry with a mask.
pub(super) fn geometry_iou(geometry: &Geometry, rows: &RunRows, selected: f64) -> f64 {
    let shared = area_inside(&geometry.polygons, rows) - area_inside(&geometry.holes, rows);
    shared / (selected + geometry.area() - shared)
}

/// The bounding box of the selected pixels.
pub(super) fn pixel_bounds(mask: &Mask) -> Rect {
    mask.bounds().map_or(Rect::ZERO, |b| {
        let (x, y) = (f64::from(b.x), f64::from(b.y));
        Rect::new(x, y, x + f64::from(b.width), y + f64::from(b.height))
    })
}
