//! Outlines along the pixels' edges, with as few corners as the tolerance allows.

use super::brought_down::BroughtDown;
use super::by_area::{ByArea, LEAST_CORNERS};
use super::chain::Bounds;
use super::crossings::Crossings;
use super::island::Island;
use super::{FitError, FitGoal, Geometry, Sides, rectangle};
use crate::art::{LatticeRing, Mask, contours};
use crate::geometry::{Convex, Point, Polygon, quick_convex_pieces};
use std::borrow::Cow;

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
fn fit(selection: &Mask, tolerance: f64, goal: FitGoal) -> Geometry {
    let bounds = Bounds { tolerance, goal };
    let rings = contours(selection);
    let of_rings: f64 = rings.iter().map(|ring| ring.area().abs() as f64).sum();
    let allowed = f64::max(AREA_SHARE * selection.count() as f64, AREA_LEAST) / of_rings.max(1.0);
    let mut islands: Vec<Island> = rings.iter().map(|ring| Island::new(ring, bounds, allowed)).collect();
    let crossings = Crossings::new(goal, &islands);
    let mut are_new = vec![true; islands.len()];
    loop {
        let found = crossings.find(&islands, |island| are_new[island]);
        are_new.fill(false);
        if !found.is_empty() {
            for (island, edges) in found {
                islands[island].give_way(&edges);
                are_new[island] = true;
            }
            continue;
        }
        let off: Vec<usize> = (0..islands.len()).filter(|&i| !islands[i].is_right_in_area()).collect();
        if off.is_empty() {
            break;
        }
        for island in off {
            islands[island].give_up_worst();
            are_new[island] = true;
        }
    }
    geometry(&islands)
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
        Limit::Tolerance(tolerance) => Ok(fit(selection, tolerance, goal)),
        Limit::Points(most) => fit_with_points(selection, most, goal),
    }
}

/// The outline with the highest IoU found of those with at most `most` corners.
///
/// Where islands or holes are too many for so few corners the smallest are left out, and a ragged boundary is made smooth first; an
/// outline that covers becomes the hull's, one that lies inside the greatest box. On noise of up to 2,048 px the search ends within
/// seconds.
fn fit_with_points(selection: &Mask, most: usize, goal: FitGoal) -> Result<Geometry, FitError> {
    if most < LEAST_CORNERS {
        return Err(FitError::TooFewPoints { most, needed: LEAST_CORNERS });
    }
    let rings = contours(selection);
    // The search for another outline would end with the hull.
    if goal == FitGoal::Cover && rings.len() > NOISE * most {
        return fewest_points(selection, most, goal);
    }
    let mask = smooth(simplified(selection, &rings, most, goal), most, goal);
    let found = match goal {
        FitGoal::Balance => balanced_with_points(mask, most),
        FitGoal::Cover | FitGoal::Inside => by_area(&mask, most, goal),
    };
    found.map_or_else(|| fewest_points(selection, most, goal), Ok)
}

/// An outline in balance: a close one brought down corner by corner. Where that crosses itself, or rings are too many, the smallest
/// island goes; of the last one, what is narrow.
fn balanced_with_points(mut mask: Mask, most: usize) -> Option<Geometry> {
    let mut side = 2;
    loop {
        let rings = contours(&mask);
        let fits = rings.len() * LEAST_CORNERS <= most;
        if let Some(found) = fits.then(|| brought_down(&mask, most)).flatten() {
            return Some(found);
        }
        let least = rings.iter().map(LatticeRing::area).filter(|area| *area > 0).min();
        let fewer = least.map(|least| mask.without_islands_below(least as u64 + 1));
        let fewer = fewer.filter(|fewer| !fewer.is_empty()).unwrap_or_else(|| mask.largest_island());
        if fewer != mask {
            mask = fewer;
            continue;
        }
        mask = smoothed(&mask, side, FitGoal::Balance);
        if mask.is_empty() || side > mask.width().max(mask.height()) {
            return None;
        }
        side *= 2;
    }
}

/// The balanced outline brought down to `most` corners, from one within a tolerance at which it has some more where there is one.
fn brought_down(mask: &Mask, most: usize) -> Option<Geometry> {
    const CLOSE: [f64; 2] = [1.0, 0.5];
    const WIDE: [f64; 2] = [2.0, 4.0];
    let outline = |tolerance: f64, least: usize| {
        let mut outlines = BroughtDown::traced(mask, Bounds { tolerance, goal: FitGoal::Balance });
        let kept: Vec<Vec<usize>> = outlines.islands().iter().map(Island::kept).collect();
        let is_close = kept.iter().map(Vec::len).sum::<usize>() >= least;
        is_close.then(|| outlines.from(kept, most).map(geometry)).flatten()
    };
    let close = CLOSE.into_iter().find_map(|tolerance| outline(tolerance, most));
    close.or_else(|| CLOSE.into_iter().rev().chain(WIDE).find_map(|tolerance| outline(tolerance, 0)))
}

/// An outline that covers or lies inside, brought down from more corners of least area; where it would cross itself or another, of the
/// selection with narrow gaps closed, or thin parts gone.
fn by_area(selection: &Mask, most: usize, goal: FitGoal) -> Option<Geometry> {
    /// Corners to begin with, in eighths of those allowed, the best on the mean first.
    const STARTS: [usize; 4] = [14, 16, 12, 10];
    const WIDEST: u32 = 16;
    let mut smoother = Cow::Borrowed(selection);
    let mut side = 2;
    loop {
        let mut outlines = ByArea::new(&smoother, goal, 2 * most);
        let mut found =
            STARTS.into_iter().filter_map(|eighths| outlines.outline(most * eighths / 8, most).map(geometry));
        if let Some(found) = found.find(|found| !found.polygons.is_empty()) {
            return Some(found);
        }
        if side > WIDEST {
            return None;
        }
        let next = smoothed(selection, side, goal);
        if next.is_empty() {
            return None;
        }
        (smoother, side) = (Cow::Owned(next), 2 * side);
    }
}

/// With more boundaries than this a corner that is allowed a selection is noise, which no outline of few corners covers.
const NOISE: usize = 4;

/// A selection without its smallest islands, and for an outline in balance with its smallest holes filled, as long as more are
/// left than can have an outline each.
fn simplified(selection: &Mask, rings: &[LatticeRing], most: usize, goal: FitGoal) -> Mask {
    let allowed = most / LEAST_CORNERS;
    let areas = || rings.iter().map(LatticeRing::area);
    let islands = match goal {
        FitGoal::Cover => None,
        FitGoal::Balance | FitGoal::Inside => too_small(areas(), allowed),
    };
    let mut mask = islands.map_or_else(|| selection.clone(), |size| selection.without_islands_below(size));
    if mask.is_empty() {
        mask = selection.largest_island();
    }
    if goal != FitGoal::Balance {
        return mask;
    }
    let left = contours(&mask);
    let islands = left.iter().filter(|ring| ring.area() > 0).count();
    let holes = too_small(left.iter().map(|ring| -ring.area()), allowed.saturating_sub(islands));
    holes.map_or_else(|| mask.clone(), |size| mask.filled_below(size))
}

/// A selection whose boundary is made smooth until it has few enough corners for wide tolerances, at which ways between the
/// corners of a ragged one are too many to list.
fn smooth(selection: Mask, most: usize, goal: FitGoal) -> Mask {
    /// Corners of the boundary that need no smoothing, and more of them for a corner that the outline may have.
    const FEW: usize = 768;
    const FEW_EACH: usize = 16;
    let is_ragged = |mask: &Mask| {
        let corners: usize = contours(mask).iter().map(|ring| ring.corners().len()).sum();
        corners > FEW.max(FEW_EACH * most)
    };
    let mut mask = selection;
    let mut side = 2;
    while is_ragged(&mask) && side < mask.width().max(mask.height()) {
        let smoother = smoothed(&mask, side, goal);
        if smoother.is_empty() {
            break;
        }
        (mask, side) = (smoother, side * 2);
    }
    mask
}

/// A selection without gaps, or parts, narrower than a side: what covers grows, what lies inside shrinks.
fn smoothed(mask: &Mask, side: u32, goal: FitGoal) -> Mask {
    match goal {
        FitGoal::Cover => mask.closed(side),
        FitGoal::Inside => mask.opened(side),
        FitGoal::Balance => mask.closed(side).opened(side),
    }
}

/// One more than the largest of the areas above 0 that go when only `stay` of them are left; `None` when all may stay.
fn too_small(areas: impl Iterator<Item = i64>, stay: usize) -> Option<u64> {
    let mut areas: Vec<u64> = areas.filter_map(|area| u64::try_from(area).ok()).filter(|area| *area > 0).collect();
    areas.sort_unstable();
    let gone = areas.len().checked_sub(stay + 1)?;
    Some(areas[gone] + 1)
}

/// What is left where no outline has so few corners: the hull, or a box.
fn fewest_points(selection: &Mask, most: usize, goal: FitGoal) -> Result<Geometry, FitError> {
    let hull = super::hull::covering(selection)?;
    let needed = hull.point_count().min(4);
    if hull.point_count() <= most && goal != FitGoal::Inside {
        return Ok(hull);
    }
    if most >= 4 {
        let goal = if goal == FitGoal::Inside { goal } else { FitGoal::Cover };
        let rect = rectangle::fit(selection, Sides::default(), goal)?;
        return Geometry::from_rect(rect).map(|geometry| Geometry { exact: None, ..geometry });
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
