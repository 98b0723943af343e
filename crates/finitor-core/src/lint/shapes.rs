//! Shapes that leap or overlap, and art that no part covers.

use crate::art::{Colour, LatticeRing, contours};
use crate::fit::{FrameArt, Selection};
use crate::geometry::{Convex, Point, Polygon, Vec2, deviation, overlap_region};

/// How much farther a shape moves between two frames than the pixels it is fitted to, px from the pivot: the Hausdorff
/// distance of its outlines less that of the pixels'. At or below 0 where the art moves as far. `None` where either frame
/// selects nothing.
///
/// # Complexity
/// As told for [`deviation`].
pub fn leap(shapes: [&[Polygon]; 2], selections: [&Selection; 2], pivots: [Point; 2]) -> Option<f64> {
    if selections.iter().any(|selection| selection.is_empty()) {
        return None;
    }
    let rings = |of: &[Polygon]| -> Vec<Vec<Point>> { of.iter().map(|polygon| polygon.points().to_vec()).collect() };
    let traced = |selection: &Selection, pivot: Point| -> Vec<Vec<Point>> {
        let by = selection.corner() - pivot.to_vec2();
        let local = |ring: &LatticeRing| ring.points().into_iter().map(|p| p + by).collect();
        contours(&selection.mask).iter().map(local).collect()
    };
    let apart = |one: &[Vec<Point>], other: &[Vec<Point>]| {
        let one: Vec<&[Point]> = one.iter().map(Vec::as_slice).collect();
        let other: Vec<&[Point]> = other.iter().map(Vec::as_slice).collect();
        deviation(&one, &other)
    };
    let moved = apart(&rings(shapes[0]), &rings(shapes[1]));
    let art = apart(&traced(selections[0], pivots[0]), &traced(selections[1], pivots[1]));
    Some(moved - art)
}

/// The area that two sets of convex pieces share, px2.
pub fn shared_area(one: &[Convex], other: &[Convex]) -> f64 {
    let pairs = one.iter().flat_map(|a| other.iter().map(move |b| (a, b)));
    pairs.filter_map(|(a, b)| overlap_region(a, Vec2::ZERO, b)).map(|(area, _)| area).sum()
}

/// Opaque pixels of a frame that are of no part.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Uncovered {
    /// How many.
    pub pixels: u64,
    /// Of how many opaque ones.
    pub opaque: u64,
    /// The colour most of them have in the part map; `None` where that is transparent.
    pub colour: Option<Colour>,
}

/// Counts the opaque pixels whose colour in the part map is none of the parts'.
///
/// # Complexity
/// O(pixels), times the few colours there are.
pub fn uncovered(art: &FrameArt, parts: &[Colour], alpha: u8) -> Uncovered {
    let opaque = art.picture.opaque(alpha);
    let mut seen: Vec<(Option<Colour>, u64)> = Vec::new();
    for run in opaque.runs() {
        for x in run.start..run.end {
            let colour = art.parts.as_ref().and_then(|map| {
                let [r, g, b, a] = map.row(run.row)[x as usize];
                (a > 0).then_some(Colour([r, g, b]))
            });
            if colour.is_some_and(|colour| parts.contains(&colour)) {
                continue;
            }
            match seen.iter_mut().find(|(known, _)| *known == colour) {
                Some((_, count)) => *count += 1,
                None => seen.push((colour, 1)),
            }
        }
    }
    seen.sort_by_key(|(colour, count)| (std::cmp::Reverse(*count), *colour));
    Uncovered {
        pixels: seen.iter().map(|(_, count)| count).sum(),
        opaque: opaque.count(),
        colour: seen.first().and_then(|(colour, _)| *colour),
    }
}
