//! Convex polygons.

use super::row_sums::RowSums;
use super::{FitError, Geometry};
use crate::art::{Mask, contours};
use crate::geometry::{Convex, Point, Polygon, Vec2, clipped, convex_hull};

/// Times that all edges are tried with one step.
const MOST_ROUNDS: u32 = 12;

/// Places of edges are found to this, px.
const PRECISION: f64 = 1.0 / 16.0;

/// The convex hull of the selected pixels: of all convex shapes that contain them the least.
pub(super) fn covering(selection: &Mask) -> Result<Geometry, FitError> {
    let corners: Vec<Point> = contours(selection).iter().flat_map(|ring| ring.points()).collect();
    Ok(Geometry::new(vec![Polygon::new(convex_hull(&corners))?], None))
}

/// A convex polygon with the hull's edge directions whose edges are moved in, each for itself, as long as the IoU
/// rises; to [`PRECISION`]. Edges that are pushed out of the polygon vanish. With an axis each edge moves together with its
/// mirror image.
///
/// # Complexity
/// Some ten measurements an edge and step, of O(edges + rows) each.
pub(super) fn balanced(selection: &Mask, axis: Option<f64>) -> Result<Geometry, FitError> {
    let hull = covering(selection)?;
    let whole = Convex::new(&hull.polygons[0]);
    let Some(whole) = whole else { return Ok(hull) };
    let mut planes: Vec<(Vec2, f64)> =
        whole.normals().iter().zip(whole.points()).map(|(n, p)| (*n, p.to_vec2().dot(*n))).collect();
    let sums = RowSums::new(selection);
    let outermost = planes.clone();
    let mut step = 4.0;
    // Steps of whole pixels need no more than a rough measure.
    let score = |ring: &[Point], step: f64| if step >= 1.0 { sums.rough_iou(ring) } else { sums.iou(ring) };
    let mut best = (hull.polygons[0].clone(), score(hull.polygons[0].points(), step));
    let mut rounds = 0;
    // Tries since the last that helped; after one of each all others would fail again.
    let mut failed = 0;
    while step >= PRECISION {
        rounds += 1;
        // What the planes before leave.
        let mut left = whole.points().to_vec();
        'round: for i in 0..planes.len() {
            let mut moved_in = false;
            for by in [-step, step] {
                if failed == 2 * planes.len() {
                    break 'round;
                }
                failed += 1;
                let kept = planes[i].1;
                planes[i].1 = (kept + by).min(outermost[i].1);
                // Out again after it moved in, or out of the hull, there is nothing new.
                if moved_in || planes[i].1 == kept {
                    planes[i].1 = kept;
                    continue;
                }
                let ring = planes[i..].iter().fold(left.clone(), |ring, plane| cut(ring, *plane, axis));
                let value = score(&ring, step);
                let found = (value > best.1).then(|| Polygon::new(ring).ok().filter(Polygon::is_convex)).flatten();
                match found {
                    Some(polygon) => {
                        best = (polygon, value);
                        (moved_in, failed) = (by < 0.0, 0);
                    }
                    None => planes[i].1 = kept,
                }
            }
            left = cut(left, planes[i], axis);
        }
        if failed == 2 * planes.len() || rounds >= MOST_ROUNDS {
            (step, rounds, failed) = (step / 2.0, 0, 0);
            best.1 = score(best.0.points(), step);
        }
    }
    Ok(Geometry::new(vec![best.0], None))
}

/// The part of a convex ring on the inner side of a plane `p . normal <= limit`, and of its mirror image.
fn cut(ring: Vec<Point>, (normal, limit): (Vec2, f64), axis: Option<f64>) -> Vec<Point> {
    let within = |ring: Vec<Point>, normal: Vec2, limit: f64| {
        let is_whole = ring.iter().all(|p| p.to_vec2().dot(normal) <= limit);
        if is_whole { ring } else { clipped(&ring, normal, limit) }
    };
    let ring = within(ring, normal, limit);
    match axis {
        Some(axis) => within(ring, Vec2::new(-normal.x, normal.y), limit - 2.0 * axis * normal.x),
        None => ring,
    }
}
