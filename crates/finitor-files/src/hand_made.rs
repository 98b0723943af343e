//! Shapes that somebody drew rather than a fit.

use crate::fits_json::ShapeFits;
use finitor_core::Polygon;
use finitor_core::fit::{Exact, Geometry};

/// A shape with the geometry that a hand gave it: locked, and measured by the next fit.
pub fn hand_made(shape: &ShapeFits, kind: &str, geometry: &Geometry) -> ShapeFits {
    let shape = ShapeFits { kind: kind.to_string(), locked: true, why: None, quality: None, ..shape.clone() };
    shape.with_geometry(geometry)
}

/// Whether a shape has a geometry already: the same exact numbers, or the same corners, each within a distance in px.
pub fn is_same_shape(shape: &ShapeFits, geometry: &Geometry, within: f64) -> bool {
    let near = |one: &[f64], other: &[f64]| one.iter().zip(other).all(|(a, b)| (a - b).abs() <= within);
    match (geometry.exact, shape.rect, shape.circle, shape.capsule) {
        (Some(Exact::Box(numbers)), Some(own), _, _) => near(&numbers, &own),
        (Some(Exact::Circle(numbers)), _, Some(own), _) => near(&numbers, &own),
        (Some(Exact::Capsule(numbers)), _, _, Some(own)) => near(&numbers, &own),
        (None, _, _, _) => {
            let points = |polygon: &Polygon| -> Vec<[f64; 2]> { polygon.points().iter().map(|p| [p.x, p.y]).collect() };
            let same = |own: &[&[[f64; 2]]], new: &[Polygon]| {
                let pairs = || own.iter().zip(new);
                own.len() == new.len() && pairs().all(|(own, new)| is_same_ring(own, &points(new), within))
            };
            let holes: Vec<&[[f64; 2]]> = shape.holes.iter().map(Vec::as_slice).collect();
            same(&shape.points.all(), &geometry.polygons) && same(&holes, &geometry.holes)
        }
        _ => false,
    }
}

/// Whether two rings have the same points but for a distance in px, whichever is the first and whichever way round.
pub(crate) fn is_same_ring(old: &[[f64; 2]], new: &[[f64; 2]], within: f64) -> bool {
    let near = |a: [f64; 2], b: [f64; 2]| (a[0] - b[0]).abs() <= within && (a[1] - b[1]).abs() <= within;
    let n = old.len();
    if n != new.len() {
        return false;
    }
    (0..n).any(|start| {
        near(old[0], new[start])
            && ((0..n).all(|k| near(old[k], new[(start + k) % n]))
                || (0..n).all(|k| near(old[k], new[(start + n - k) % n])))
    })
}
