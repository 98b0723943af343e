//! Convex shapes of one frame that may not overlap.

use super::{Exact, Geometry};
use crate::geometry::{Convex, Point, Polygon, Rect, Vec2, clipped, overlap};

/// Cuts convex shapes where they overlap, pair by pair in their order, so that afterwards none do: boxes along the side on
/// which they overlap least, halfway; others along the line through the two places where their outlines cross, or, where
/// those are not two, along the line halfway through the overlap. Shapes that are not convex stay as they are. Tells which
/// were cut.
///
/// # Complexity
/// O(shapes2 x corners).
pub fn part_siblings(shapes: &mut [Geometry]) -> Vec<bool> {
    let mut cut = vec![false; shapes.len()];
    for i in 0..shapes.len() {
        for j in i + 1..shapes.len() {
            let (Some(one), Some(other)) = (convex(&shapes[i]), convex(&shapes[j])) else { continue };
            if overlap(&one, Vec2::ZERO, &other).is_none() {
                continue;
            }
            let parted = match (shapes[i].exact, shapes[j].exact) {
                (Some(Exact::Box(_)), Some(Exact::Box(_))) => part_boxes(one.bounds(), other.bounds()),
                _ => part_polygons(&one, &other),
            };
            if let Some((first, second)) = parted {
                (shapes[i], shapes[j]) = (first, second);
                (cut[i], cut[j]) = (true, true);
            }
        }
    }
    cut
}

fn convex(geometry: &Geometry) -> Option<Convex> {
    match geometry.polygons.as_slice() {
        [only] if geometry.holes.is_empty() => Convex::new(only),
        _ => None,
    }
}

fn part_boxes(one: Rect, other: Rect) -> Option<(Geometry, Geometry)> {
    let shared = one.intersect(other);
    let (mut first, mut second) = (one, other);
    if shared.width() < shared.height() {
        let cut = shared.center().x;
        if one.center().x <= other.center().x {
            (first.x1, second.x0) = (cut, cut);
        } else {
            (first.x0, second.x1) = (cut, cut);
        }
    } else {
        let cut = shared.center().y;
        if one.center().y <= other.center().y {
            (first.y1, second.y0) = (cut, cut);
        } else {
            (first.y0, second.y1) = (cut, cut);
        }
    }
    Some((Geometry::from_rect(first).ok()?, Geometry::from_rect(second).ok()?))
}

fn part_polygons(one: &Convex, other: &Convex) -> Option<(Geometry, Geometry)> {
    let (a, b) = (one.middle(), other.middle());
    let towards = if a == b { Vec2::new(0.0, 1.0) } else { (b - a).normalize() };
    let crossings = crossings(one, other);
    let (through, mut normal) = match crossings.as_slice() {
        [p, q] if p.distance(*q) > 1e-9 => {
            let along = (*q - *p).normalize();
            (*p, Vec2::new(along.y, -along.x))
        }
        _ => {
            let mut region = one.points().to_vec();
            for (normal, point) in other.normals().iter().zip(other.points()) {
                region = clipped(&region, *normal, point.to_vec2().dot(*normal));
            }
            let sum: Vec2 = region.iter().map(|p| p.to_vec2()).sum();
            ((sum / region.len().max(1) as f64).to_point(), towards)
        }
    };
    if normal.dot(b - a) < 0.0 {
        normal = -normal;
    }
    let limit = through.to_vec2().dot(normal);
    let half = |of: &Convex, normal: Vec2, limit: f64| {
        let ring = clipped(of.points(), normal, limit);
        Polygon::new(ring).ok().map(|polygon| Geometry::new(vec![polygon], None))
    };
    Some((half(one, normal, limit)?, half(other, -normal, -limit)?))
}

/// Where two outlines cross.
fn crossings(one: &Convex, other: &Convex) -> Vec<Point> {
    let edges = |of: &Convex| -> Vec<(Point, Point)> {
        let points = of.points();
        (0..points.len()).map(|i| (points[i], points[(i + 1) % points.len()])).collect()
    };
    let mut found: Vec<Point> = Vec::new();
    for (a, b) in edges(one) {
        for (c, d) in edges(other) {
            let (along, across) = (b - a, d - c);
            let sine = along.cross(across);
            if sine == 0.0 {
                continue;
            }
            let (s, t) = ((c - a).cross(across) / sine, (c - a).cross(along) / sine);
            if (0.0..1.0).contains(&s) && (0.0..1.0).contains(&t) {
                found.push(a + along * s);
            }
        }
    }
    found
}
