//! Outlines along the pixels' edges, with as few corners as the tolerance allows.

use super::chain::{Boundary, Bounds};
use super::crossings::Crossings;
use super::island::Island;
use super::quality::{RunRows, geometry_iou};
use super::refine::reduced;
use super::{FitError, FitGoal, Geometry};
use crate::art::{LatticeRing, Mask, contours};
use crate::geometry::{Convex, Point, Polygon, quick_convex_pieces};

/// The area of a balanced outline is off by at most this share of the selection's.
const AREA_SHARE: f64 = 0.02;
/// ... or by this, px2, where that is more.
const AREA_LEAST: f64 = 1.0;

/// The outline of a selection: one polygon an island, and one a hole. Each has the fewest corners among those of its
/// traced boundary that keep within `tolerance` of it, and of these the closest in area; its corners are then moved off
/// the lattice, and some dropped, where that brings it closer within the same bounds.
///
/// # Guarantees
/// * every polygon is simple, and no two islands' interiors meet;
/// * the distance between outline and traced boundary is at most the tolerance, both ways, but for islands that
///   another island's covering outline has taken in;
/// * with [`FitGoal::Cover`] every selected pixel lies inside; with [`FitGoal::Inside`] nothing outside the selection does;
/// * with [`FitGoal::Balance`] its area is off by at most 2 % or 1 px2, whichever is more.
///
/// Where an outline would cross itself or another's, or its area is off by too much, its corners go back to the lattice;
/// and where that is not enough the longest shortcuts involved are given up and the search repeated, after some rounds with
/// a smaller tolerance. With none left the traced boundary itself remains, which crosses nothing.
///
/// # Complexity
/// As told for [`Shortcuts`] and [`refined`], times the rounds that crossings take; as a rule one to three.
fn fit(selection: &Mask, tolerance: f64, goal: FitGoal, area: AreaPromise) -> Geometry {
    let bounds = Bounds { tolerance, goal };
    let total = selection.count() as f64;
    let rings = contours(selection);
    let of_rings = rings.iter().map(|ring| ring.area().abs() as f64).sum();
    let allowed = area.allowed(total, of_rings);
    let mut islands: Vec<Island> = rings.iter().map(|ring| Island::new(ring, bounds, allowed)).collect();
    let crossings = Crossings::new(goal, &islands);
    loop {
        let found = crossings.find(&islands);
        if !found.is_empty() {
            for (island, edges) in found {
                islands[island].give_way(&edges);
            }
            continue;
        }
        let off: Vec<usize> = (0..islands.len()).filter(|&i| !islands[i].is_right_in_area()).collect();
        if off.is_empty() {
            break;
        }
        off.into_iter().for_each(|island| islands[island].give_up_worst());
    }
    geometry(&islands)
}

/// Largest tolerance tried for outlines with few corners, where there are others to fall back on, px.
const FARTHEST: f64 = 16.0;

/// Tolerances of the outlines that are brought down to fewer corners.
const STARTS: [f64; 3] = [0.5, 1.0, 2.0];

/// The outline within a small tolerance, reduced to `most` corners by leaving out what costs the least area; `None`
/// when that crosses itself or cannot be.
fn fit_reduced(selection: &Mask, start: f64, goal: FitGoal, most: usize) -> Option<Geometry> {
    let bounds = Bounds { tolerance: start, goal };
    let allowed = AreaPromise::None.allowed(1.0, 1.0);
    let rings = contours(selection);
    let mut islands: Vec<Island> = rings.iter().map(|ring| Island::traced(ring, bounds, allowed)).collect();
    let kept: Vec<Vec<usize>> = islands.iter().map(|island| island.kept()).collect();
    let outlines: Vec<(&Boundary, Vec<usize>)> = islands.iter().map(Island::boundary).zip(kept).collect();
    let found = reduced(&outlines, goal, most)?;
    for (island, corners) in islands.iter_mut().zip(found) {
        island.move_to(corners);
    }
    let crossings = Crossings::new(goal, &islands);
    let right = islands.iter().all(Island::is_right_in_area) && crossings.find(&islands).is_empty();
    right.then(|| geometry(&islands))
}

/// The islands' outlines.
fn geometry(islands: &[Island]) -> Geometry {
    let (holes, islands): (Vec<&Island>, Vec<&Island>) = islands.iter().partition(|island| island.is_hole());
    let polygons = |of: Vec<&Island>| -> Vec<Polygon> { of.into_iter().filter_map(Island::polygon).collect() };
    let (islands, holes) = (polygons(islands), polygons(holes));
    let polygons = drop_contained(islands, &holes);
    Geometry { holes: holes_left(holes, &polygons), polygons, exact: None }
}

/// Without the holes that no island's outline holds any longer, and those that another hole's outline has taken in; those of
/// islands inside a hole stay.
fn holes_left(holes: Vec<Polygon>, islands: &[Polygon]) -> Vec<Polygon> {
    let within = |inner: &Polygon, outer: &Polygon| inner.area() < outer.area() && lies_in(inner, outer).is_some();
    let swallowed = |hole: &Polygon, other: &Polygon| {
        within(hole, other) && !islands.iter().any(|island| within(hole, island) && within(island, other))
    };
    let stays = |hole: &Polygon| {
        islands.iter().any(|island| within(hole, island)) && !holes.iter().any(|other| swallowed(hole, other))
    };
    let left: Vec<bool> = holes.iter().map(stays).collect();
    holes.into_iter().zip(left).filter(|(_, left)| *left).map(|(hole, _)| hole).collect()
}

/// Whether the area of a balanced outline is held near the selection's.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum AreaPromise {
    Near,
    None,
}

impl AreaPromise {
    /// What each ring's area may be off by, as a share of it, for a selection of that area whose rings, islands and holes,
    /// have so much together.
    fn allowed(self, total: f64, of_rings: f64) -> f64 {
        match self {
            AreaPromise::Near => f64::max(AREA_SHARE * total, AREA_LEAST) / of_rings.max(1.0),
            AreaPromise::None => f64::INFINITY,
        }
    }
}

/// How close an outline is to be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Limit {
    /// Within this many px of the boundary.
    Tolerance(f64),
    /// As close as this many corners allow.
    Points(usize),
}

/// The outline within a limit.
///
/// # Errors
/// [`FitError::TooFewPoints`] when no outline has so few corners.
pub(super) fn fit_limited(selection: &Mask, limit: Limit, goal: FitGoal) -> Result<Geometry, FitError> {
    match limit {
        Limit::Tolerance(tolerance) => Ok(fit(selection, tolerance, goal, AreaPromise::Near)),
        Limit::Points(most) => fit_with_points(selection, most, goal),
    }
}

/// The outline with the highest IoU of those with at most `most` corners: among tolerances tried, halves between one that is
/// too close and one that is far enough, and among close outlines brought down corner by corner.
///
/// Where islands are too many for so few corners the smallest are left out; an outline that covers becomes the hull's.
fn fit_with_points(selection: &Mask, most: usize, goal: FitGoal) -> Result<Geometry, FitError> {
    const HALVINGS: u32 = 6;
    if most < LEAST_CORNERS {
        return Err(FitError::TooFewPoints { most, needed: LEAST_CORNERS });
    }
    let rings = contours(selection);
    // The search for another outline would take minutes and end with the hull.
    if goal == FitGoal::Cover && rings.len() > NOISE * most {
        return fewest_points(selection, most, goal);
    }
    let rows = RunRows::new(selection);
    let selected = selection.count() as f64;
    let mut best: Option<(f64, Geometry)> = None;
    let mut tried = |mask: &Mask, tolerance: f64| {
        let found = fit(mask, tolerance, goal, AreaPromise::None);
        let enough = found.point_count() <= most && !found.polygons.is_empty();
        let iou = geometry_iou(&found, &rows, selected);
        if enough && best.as_ref().is_none_or(|(known, _)| iou > *known) {
            best = Some((iou, found));
        }
        enough
    };
    let fits = rings.len() * LEAST_CORNERS <= most;
    let reduced = STARTS.into_iter().filter(|_| fits).filter_map(|start| fit_reduced(selection, start, goal, most));
    let reduced: Vec<Geometry> = reduced.collect();
    let mut mask = if goal == FitGoal::Cover { selection.clone() } else { without_most(selection, &rings, most) };
    loop {
        let diagonal = f64::from(mask.width()).hypot(f64::from(mask.height()));
        // Beyond this nearly every corner sees every other, and the outlines brought down are closer anyway.
        let farthest = if reduced.is_empty() { diagonal } else { diagonal.min(FARTHEST) };
        let (mut low, mut high) = (0.0, 0.5);
        while !tried(&mask, high) && high < farthest {
            (low, high) = (high, high * 2.0);
        }
        for _ in 0..HALVINGS {
            let middle = f64::midpoint(low, high);
            if tried(&mask, middle) { high = middle } else { low = middle }
        }
        if high < farthest || goal == FitGoal::Cover || !reduced.is_empty() {
            break;
        }
        // The smallest island goes.
        let sizes = contours(&mask).iter().map(LatticeRing::area).filter(|area| *area > 0).min();
        let fewer = sizes.map(|least| mask.without_islands_below(least as u64 + 1));
        let fewer = fewer.filter(|fewer| !fewer.is_empty()).unwrap_or_else(|| mask.largest_island());
        if fewer == mask {
            break;
        }
        mask = fewer;
    }
    for found in reduced {
        let iou = geometry_iou(&found, &rows, selected);
        if !found.polygons.is_empty() && best.as_ref().is_none_or(|(known, _)| iou > *known) {
            best = Some((iou, found));
        }
    }
    best.map_or_else(|| fewest_points(selection, most, goal), |(_, found)| Ok(found))
}

/// Corners of any ring, at least.
const LEAST_CORNERS: usize = 3;

/// With more boundaries than this a corner that is allowed a selection is noise, which no outline of few corners covers.
const NOISE: usize = 4;

/// A selection without its smallest islands, as long as more are left than can have an outline each.
fn without_most(selection: &Mask, rings: &[LatticeRing], most: usize) -> Mask {
    let mut sizes: Vec<i64> = rings.iter().map(LatticeRing::area).filter(|area| *area > 0).collect();
    let allowed = most / LEAST_CORNERS;
    if sizes.len() <= allowed {
        return selection.clone();
    }
    sizes.sort_unstable();
    let largest_out = sizes[sizes.len() - allowed - 1];
    let left = selection.without_islands_below(largest_out as u64 + 1);
    if left.is_empty() { selection.largest_island() } else { left }
}

/// What is left where no outline has so few corners: the hull, or the box.
fn fewest_points(selection: &Mask, most: usize, goal: FitGoal) -> Result<Geometry, FitError> {
    let hull = super::hull::covering(selection)?;
    let needed = hull.point_count().min(4);
    if hull.point_count() <= most && goal == FitGoal::Cover {
        return Ok(hull);
    }
    let bounds = super::quality::pixel_bounds(selection);
    if most >= 4 && goal == FitGoal::Cover {
        return Geometry::from_rect(bounds).map(|geometry| Geometry { exact: None, ..geometry });
    }
    Err(FitError::TooFewPoints { most, needed })
}

/// Without the polygons that lie inside another and in no hole of it; no two cross.
pub(super) fn drop_contained(polygons: Vec<Polygon>, holes: &[Polygon]) -> Vec<Polygon> {
    if polygons.len() == 1 {
        return polygons;
    }
    let areas: Vec<f64> = polygons.iter().map(Polygon::area).collect();
    let inside = |i: usize, j: usize| {
        let smaller = areas[i] < areas[j] || (areas[i] == areas[j] && i > j);
        let middle = (i != j && smaller).then(|| lies_in(&polygons[i], &polygons[j])).flatten();
        middle.is_some_and(|middle| !holes.iter().any(|hole| hole.contains(middle)))
    };
    let contained: Vec<bool> = (0..polygons.len()).map(|i| (0..polygons.len()).any(|j| inside(i, j))).collect();
    polygons.into_iter().zip(contained).filter(|(_, gone)| !gone).map(|(polygon, _)| polygon).collect()
}

/// A point inside a polygon that lies in another, none crossing the other; `None` when it does not lie in it.
fn lies_in(inner: &Polygon, outer: &Polygon) -> Option<Point> {
    let within = outer.bounds().contains_rect(inner.bounds()) && inner.points().iter().all(|&p| outer.contains(p));
    // It may touch the other's outline with every corner and lie outside.
    let middle = within.then(|| quick_convex_pieces(inner).first().map(Convex::middle)).flatten();
    middle.filter(|middle| outer.contains(*middle))
}
