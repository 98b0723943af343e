//! Shapes made of convex pieces.

use super::outline::{self, Limit};
use super::quality::{RunRows, geometry_iou};
use super::{FitError, FitGoal, Geometry};
use crate::art::Mask;
use crate::geometry::{Convex, Polygon, convex_pieces, with_corners_at_most, without_holes};

/// The most corners of a convex piece unless a recipe says otherwise: what many games take.
pub const USUAL_PIECE_POINTS: usize = 8;

/// Convex pieces that tile a geometry, with a limit of corners each; round kinds are not cut, since their exact numbers
/// say more than any polygon.
///
/// # Complexity
/// As told for [`convex_pieces`].
pub fn pieces_of(geometry: &Geometry, most_points: usize) -> Vec<Convex> {
    let most_points = if geometry.exact.is_some() { usize::MAX } else { most_points };
    let tiles = geometry.polygons.iter().flat_map(|polygon| {
        let held: Vec<Polygon> = geometry.holes.iter().filter(|hole| is_inside(hole, polygon)).cloned().collect();
        without_holes(polygon, &held)
    });
    let pieces = tiles.flat_map(|tile| convex_pieces(&tile));
    pieces.flat_map(|piece| with_corners_at_most(&piece, most_points)).collect()
}

/// A geometry without holes falls into no fewer convex pieces than this: a cut ends at most two reflex corners.
fn fewest_pieces(geometry: &Geometry) -> usize {
    let of = |polygon: &Polygon| polygon.reflex_corners().div_ceil(2) + 1;
    if geometry.holes.is_empty() { geometry.polygons.iter().map(of).sum() } else { 0 }
}

fn is_inside(hole: &Polygon, polygon: &Polygon) -> bool {
    polygon.bounds().contains_rect(hole.bounds()) && hole.points().iter().all(|&p| polygon.contains(p))
}

/// The outline within the limit that falls into the fewest pieces, of equals the one with the highest IoU: a few outlines
/// are tried, each with corners moved or kept on the lattice, at the tolerance and below.
pub(super) fn fit(selection: &Mask, limit: Limit, goal: FitGoal, most_points: usize) -> Result<Geometry, FitError> {
    const SHARES: [f64; 3] = [1.0, 0.75, 0.5];
    let rows = RunRows::new(selection);
    let selected = selection.count() as f64;
    let limits: Vec<Limit> = match limit {
        Limit::Points(_) => vec![limit],
        Limit::Tolerance(tolerance) => SHARES.map(|share| Limit::Tolerance(share * tolerance)).to_vec(),
    };
    let mut best: Option<(usize, f64, Geometry)> = None;
    for limit in limits {
        let found = outline::fit_limited(selection, limit, goal)?;
        if best.as_ref().is_some_and(|(fewest, ..)| fewest_pieces(&found) > *fewest) {
            continue;
        }
        let (pieces, iou) = (pieces_of(&found, most_points).len(), geometry_iou(&found, &rows, selected));
        if best.as_ref().is_none_or(|(fewest, known, _)| pieces < *fewest || (pieces == *fewest && iou > *known)) {
            best = Some((pieces, iou, found));
        }
    }
    best.map(|(_, _, geometry)| geometry).ok_or(FitError::NothingSelected)
}
