//! Areas that rings share with pixels, for searches that try many rings on the same pixels.

use crate::art::{Mask, PixelRect, SummedArea};
use crate::geometry::{Point, ring_area};

/// Of each row of a selection's bounding box, what lies left of each column's edge.
///
/// Shape: one entry a column and row of the bounding box, 8 bytes each, by which slanted edges are exact; upright ones go by a
/// [`SummedArea`].
pub(super) struct RowSums {
    /// Place of the table's first corner in the cell, px.
    origin: Point,
    columns: usize,
    rows: usize,
    left: Vec<Left>,
    whole: SummedArea,
    selected: f64,
}

/// What lies left of a column's edge in a row.
#[derive(Clone, Copy, Debug, Default)]
struct Left {
    /// Set pixels.
    pixels: u32,
    /// Twice the integral of the pixels left of x over all x up to the edge.
    twice: u32,
}

impl RowSums {
    /// Of a mask's set pixels.
    ///
    /// # Complexity
    /// O(columns x rows) of their bounding box.
    pub(super) fn new(mask: &Mask) -> RowSums {
        let none = PixelRect { x: 0, y: 0, width: 0, height: 0 };
        let bounds = mask.bounds().unwrap_or(none);
        let (columns, rows) = (bounds.width as usize, bounds.height as usize);
        // One column more on the right, so that a place on the last edge has a column too.
        let stride = columns + 2;
        let mut left = vec![Left::default(); stride * rows];
        for (row, line) in left.chunks_exact_mut(stride).enumerate() {
            let mut sum = Left::default();
            let pixels = mask.row(bounds.y + row as u32).skip(bounds.x as usize).take(columns);
            for (entry, set) in line.iter_mut().zip(pixels.chain([false; 2])) {
                *entry = sum;
                let next = sum.pixels + u32::from(set);
                sum = Left { pixels: next, twice: sum.twice + sum.pixels + next };
            }
        }
        let origin = Point::new(f64::from(bounds.x), f64::from(bounds.y));
        RowSums { origin, columns, rows, left, whole: SummedArea::new(mask), selected: mask.count() as f64 }
    }

    /// IoU of a ring, clockwise on screen and not crossing itself, with the pixels; exact but for rounding.
    ///
    /// # Complexity
    /// O(edges + rows that they cross): each part of an edge in a row is looked up, however many runs it crosses, and an upright
    /// edge as a whole.
    pub(super) fn iou(&self, ring: &[Point]) -> f64 {
        let shared = self.shared(ring);
        shared / (self.selected + ring_area(ring) - shared)
    }

    /// The area of a ring that lies on the pixels, px2; by Green's theorem, as [`super::quality::area_inside`].
    fn shared(&self, ring: &[Point]) -> f64 {
        let Some(&last) = ring.last() else { return 0.0 };
        let mut total = 0.0;
        let mut from = last - self.origin;
        for &point in ring {
            let to = point - self.origin;
            if from.y < to.y {
                total += self.beside(from.to_point(), to.to_point());
            } else if from.y > to.y {
                total -= self.beside(to.to_point(), from.to_point());
            }
            from = to;
        }
        total
    }

    /// About [`RowSums::iou`], by the middles of rows alone: for steps of whole pixels, at a third of the time.
    ///
    /// # Complexity
    /// O(edges + rows).
    pub(super) fn rough_iou(&self, ring: &[Point]) -> f64 {
        let Some(&last) = ring.last() else { return 0.0 };
        let (stride, columns) = (self.columns + 2, self.columns as f64);
        // The first row whose middle lies below a height.
        let row_below = |y: f64| (y + 0.5).clamp(0.0, self.rows as f64) as u32;
        let mut shared = 0.0;
        let mut from = last - self.origin;
        let mut from_row = row_below(from.y);
        for &point in ring {
            let to = point - self.origin;
            let to_row = row_below(to.y);
            let rows = from_row.min(to_row)..from_row.max(to_row);
            let pixels = if rows.is_empty() {
                0.0
            } else if from.x == to.x {
                self.beside_rows(from.x, rows.start as usize, rows.end as usize)
            } else {
                let slope = (to.x - from.x) / (to.y - from.y);
                let mut x = from.x + slope * (f64::from(rows.start) + 0.5 - from.y);
                let mut pixels = 0.0;
                for row in rows {
                    let x_in = x.max(0.0).min(columns);
                    pixels += left_of(&self.left[row as usize * stride..][..stride], x_in as u32, x_in);
                    x += slope;
                }
                pixels
            };
            shared += if from_row < to_row { pixels } else { -pixels };
            (from, from_row) = (to, to_row);
        }
        shared / (self.selected + ring_area(ring) - shared)
    }

    /// The area of the pixels left of an edge, both ends in the table's own space.
    fn beside(&self, top: Point, bottom: Point) -> f64 {
        let (from, to) = (top.y.max(0.0), bottom.y.min(self.rows as f64));
        if from >= to {
            return 0.0;
        }
        if top.x == bottom.x {
            return self.beside_upright(top.x, from, to);
        }
        let slope = (bottom.x - top.x) / (bottom.y - top.y);
        let columns = 0.0..=self.columns as f64;
        let within = columns.contains(&top.x) && columns.contains(&bottom.x);
        let mut total = 0.0;
        let mut row = from as u32;
        let (mut y0, mut x0) = (from, top.x + slope * (from - top.y));
        while y0 < to {
            let y1 = to.min(f64::from(row + 1));
            let x1 = top.x + slope * (y1 - top.y);
            let line = &self.left[row as usize * (self.columns + 2)..][..self.columns + 2];
            let (low, high) = if slope < 0.0 { (x1, x0) } else { (x0, x1) };
            total += if within { mean_within(line, low, high) } else { mean_left(line, low, high) } * (y1 - y0);
            (y0, x0) = (y1, x1);
            row += 1;
        }
        total
    }

    /// The area of the pixels left of x in some whole rows.
    fn beside_rows(&self, x: f64, first: usize, end: usize) -> f64 {
        let x = x.clamp(0.0, self.columns as f64);
        self.above_left(end, x) - self.above_left(first, x)
    }

    /// The area of the pixels above a row and left of x, which is within the table.
    fn above_left(&self, row: usize, x: f64) -> f64 {
        let column = x as usize;
        let (x0, y0) = (self.origin.x as usize, self.origin.y as usize);
        let [one, next] = [0, 1].map(|by| f64::from(self.whole.before(x0 + column + by, y0 + row)));
        // Between two edges what lies left grows evenly.
        one + (next - one) * (x - column as f64)
    }

    /// The area of the pixels left of x between two heights.
    fn beside_upright(&self, x: f64, from: f64, to: f64) -> f64 {
        let x = x.clamp(0.0, self.columns as f64);
        let up_to = |y: f64| {
            let row = (y as usize).min(self.rows - 1);
            let above = self.above_left(row, x);
            above + (self.above_left(row + 1, x) - above) * (y - row as f64)
        };
        up_to(to) - up_to(from)
    }
}

/// The set pixels of a row left of x.
fn left_of(line: &[Left], column: u32, x: f64) -> f64 {
    let [one, next] = [line[column as usize].pixels, line[column as usize + 1].pixels];
    f64::from(one) + f64::from(next - one) * (x - f64::from(column))
}

/// The mean over all x between two, both within the row, of the set pixels of the row left of x.
fn mean_within(line: &[Left], low: f64, high: f64) -> f64 {
    let (first, last) = (low as u32, high as u32);
    if first == last {
        left_of(line, first, f64::midpoint(low, high))
    } else {
        sum_within(line, low, high) / (high - low)
    }
}

/// The integral over all x between two, both within the row, of the set pixels of the row left of x.
fn sum_within(line: &[Left], low: f64, high: f64) -> f64 {
    let (first, last) = (low as u32, high as u32);
    if first == last {
        return (high - low) * left_of(line, first, f64::midpoint(low, high));
    }
    let (from, to) = (f64::from(first + 1), f64::from(last));
    let between = f64::from(line[last as usize].twice - line[first as usize + 1].twice) / 2.0;
    let lower = (from - low) * left_of(line, first, f64::midpoint(low, from));
    lower + between + (high - to) * left_of(line, last, f64::midpoint(to, high))
}

/// As [`mean_within`], of any two.
fn mean_left(line: &[Left], low: f64, high: f64) -> f64 {
    let columns = (line.len() - 2) as f64;
    let (from, to) = (low.clamp(0.0, columns), high.clamp(0.0, columns));
    if low == high {
        return left_of(line, from as u32, from);
    }
    let beyond = (high - low.max(columns)).max(0.0);
    (sum_within(line, from, to) + beyond * f64::from(line[line.len() - 2].pixels)) / (high - low)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fit::quality::{RunRows, area_inside};
    use crate::geometry::{Polygon, Vec2};

    /// Islands, holes and single pixels, away from the cell's edges.
    fn ragged() -> Mask {
        Mask::from_fn(40, 30, |x, y| {
            let (dx, dy) = (f64::from(x) - 19.0, f64::from(y) - 14.0);
            let within = (3..35).contains(&x) && (2..27).contains(&y);
            within && ((dx * dx + 2.0 * dy * dy < 180.0 && (x + y) % 7 != 0) || (x * 5 + y * 3) % 11 == 0)
        })
    }

    #[test]
    fn areas_agree_with_those_run_by_run_wherever_a_ring_lies() {
        let mask = ragged();
        let (sums, rows) = (RowSums::new(&mask), RunRows::new(&mask));
        let selected = mask.count() as f64;
        for k in 0..300_u32 {
            let middle = Point::new(f64::from(k * 37 % 60) - 10.3, f64::from(k * 53 % 50) - 10.7);
            let radius = 0.4 + f64::from(k * 29 % 230) / 10.0;
            let corners = 3 + k as usize % 9;
            let corner = |i: usize| {
                middle + Vec2::from_angle(i as f64 / corners as f64 * std::f64::consts::TAU + f64::from(k)) * radius
            };
            let mut ring: Vec<Point> = (0..corners).map(corner).collect();
            if k % 3 == 0 {
                // Boxes: upright and level edges, some on the lattice.
                let (x, y) = (middle.x.round(), middle.y.round() + f64::from(k % 2) / 3.0);
                ring = vec![
                    Point::new(x, y),
                    Point::new(x + radius, y),
                    Point::new(x + radius, y + 9.5),
                    Point::new(x, y + 9.5),
                ];
            }
            let shared = area_inside(&[Polygon::new(ring.clone()).unwrap()], &rows);
            assert!((sums.shared(&ring) - shared).abs() < 1e-9, "{k}: {} {shared}", sums.shared(&ring));
            let iou = shared / (selected + ring_area(&ring) - shared);
            assert!((sums.iou(&ring) - iou).abs() < 1e-12);
            assert!((sums.rough_iou(&ring) - iou).abs() < 0.06, "{k}: {} {iou}", sums.rough_iou(&ring));
        }
        let none = RowSums::new(&Mask::empty(5, 5));
        assert_eq!(none.iou(&[Point::ZERO, Point::new(4.0, 0.0), Point::new(4.0, 4.0)]), 0.0);
    }
}
