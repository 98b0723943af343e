//! Shapes equal left and right of a line.

use super::{FitError, FitGoal, Geometry, Selection};
use crate::art::Mask;
use crate::geometry::{Point, Polygon, ring_area};

/// The selection made equal left and right of x = `axis`, cell space: for a shape that covers it all pixels and their mirror
/// images, for one inside it those that are both, and for one in between all of them again: of all sets of pixels equal
/// left and right that has the highest IoU with the selection.
///
/// With c pixels on both sides and d on one, all together have an IoU of (c + d) / (c + 2 d), and those on both sides
/// c / (c + d), which is less.
pub(super) fn symmetric(selection: &Selection, axis: f64, goal: FitGoal) -> Selection {
    let (width, corner) = (f64::from(selection.mask.width()), selection.corner());
    let (x0, x1) = (corner.x, corner.x + width);
    let (left, right) = (x0.min(2.0 * axis - x1).floor(), x1.max(2.0 * axis - x0).ceil());
    let (columns, height) = ((right - left) as u32, selection.mask.height());
    let mine = selection.mask.placed(columns, height, ((x0 - left) as i64, 0));
    let flipped = selection.mask.mirrored();
    let by = 2.0 * axis - x1 - left;
    let stamped = |of: &Mask| {
        let mut mask = Mask::empty(columns, height);
        mask.stamp(of, by, 0.0);
        mask
    };
    let mask = match goal {
        FitGoal::Cover | FitGoal::Balance => mine.or(&stamped(&flipped)),
        FitGoal::Inside => {
            // A pixel is out whose mirror image meets an unset one, or what lies beyond the canvas.
            let framed = flipped.placed(width as u32 + 2, height, (1, 0));
            let framed_by = |of: &Mask| {
                let mut mask = Mask::empty(columns, height);
                mask.stamp(of, by - 1.0, 0.0);
                mask
            };
            let (all, unset) = (Mask::empty(width as u32 + 2, height).inverted(), framed.inverted());
            mine.and(&framed_by(&all).without(&framed_by(&unset)))
        }
    };
    Selection { mask, origin: (left as i64, selection.origin.1) }
}

/// The part of a geometry right of x = `axis` with its mirror image, in the geometry's space. That of a selection equal on
/// both sides keeps all promises.
///
/// # Errors
/// When a ring made so is no polygon: where an outline runs along the axis.
pub(super) fn mirrored_halves(geometry: &Geometry, axis: f64, keep_holes: bool) -> Result<Geometry, FitError> {
    let (mut polygons, mut holes) = (Vec::new(), Vec::new());
    for (rings, is_hole) in [(&geometry.polygons, false), (&geometry.holes, true)] {
        for ring in rings {
            for found in halves(ring.points(), axis) {
                // A ring whose parts change their order on the way encloses the outside.
                let turned = ring_area(&found) < 0.0;
                let polygon = Polygon::new(found)?;
                if turned == is_hole { polygons.push(polygon) } else { holes.push(polygon) }
            }
        }
    }
    if !keep_holes {
        holes.clear();
    }
    Ok(Geometry { polygons: super::outline::drop_contained(polygons, &holes), holes, exact: None })
}

/// The rings that a ring makes with the mirror image of its parts right of the axis.
fn halves(ring: &[Point], axis: f64) -> Vec<Vec<Point>> {
    let image = |p: &Point| Point::new(2.0 * axis - p.x, p.y);
    if ring.iter().all(|p| p.x > axis) {
        return vec![ring.to_vec(), ring.iter().rev().map(image).collect()];
    }
    // The ring with points where it crosses the axis.
    let mut full = Vec::with_capacity(ring.len() + 4);
    for (i, &p) in ring.iter().enumerate() {
        let next = ring[(i + 1) % ring.len()];
        full.push(p);
        if (p.x < axis) != (next.x < axis) && p.x != axis && next.x != axis {
            full.push(Point::new(axis, p.y + (next.y - p.y) * ((axis - p.x) / (next.x - p.x))));
        }
    }
    let n = full.len();
    let starts = (0..n).filter(|&i| full[i].x <= axis && full[(i + 1) % n].x > axis);
    starts
        .map(|start| {
            let mut part = vec![full[start]];
            let mut at = (start + 1) % n;
            while full[at].x > axis {
                part.push(full[at]);
                at = (at + 1) % n;
            }
            part.push(full[at]);
            let back: Vec<Point> = part.iter().rev().filter(|p| p.x > axis).map(image).collect();
            part.extend(back);
            part
        })
        .collect()
}
