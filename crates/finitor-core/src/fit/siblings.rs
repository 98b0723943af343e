//! Convex shapes of one frame that may not overlap.

use super::{Exact, Geometry};
use crate::geometry::{Convex, Point, Polygon, Rect, Vec2, clipped, convex_hull, overlap, ring_area};

/// Cuts convex shapes where they overlap, pair by pair in their order, so that afterwards none do: boxes along the side on
/// which they overlap least, halfway; others along the line that takes the least of them: through the places where their
/// outlines cross, or along an edge of either, which leaves that one whole. Shapes that are not convex stay as they are. Tells which
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

/// Both cut along the line that takes the least of them, each by its own area. Tried are the line through the places where
/// their outlines cross, and the lines of all edges, which leave one of them whole.
fn part_polygons(one: &Convex, other: &Convex) -> Option<(Geometry, Geometry)> {
    let mut lines: Vec<(Vec2, f64)> = Vec::new();
    if let [p, q] = crossings(one, other).as_slice()
        && p.distance(*q) > 1e-9
    {
        let along = (*q - *p).normalize();
        let normal = Vec2::new(along.y, -along.x);
        let limit = p.to_vec2().dot(normal);
        lines.extend([(normal, limit), (-normal, -limit)]);
    }
    let edges = |of: &Convex| -> Vec<(Vec2, f64)> {
        of.normals().iter().zip(of.points()).map(|(normal, p)| (*normal, p.to_vec2().dot(*normal))).collect()
    };
    lines.extend(edges(one));
    lines.extend(edges(other).into_iter().map(|(normal, limit)| (-normal, -limit)));
    let area = |of: &Convex| ring_area(of.points());
    let (whole_one, whole_other) = (area(one), area(other));
    let mut best: Option<(f64, Polygon, Polygon)> = None;
    for (normal, limit) in lines {
        // The hull, since a cut rounds and may leave a corner bent in by the last bit; a sliver may be no polygon at all.
        let part = |of: &Convex, normal, limit| Polygon::new(convex_hull(&clipped(of.points(), normal, limit))).ok();
        let (Some(first), Some(second)) = (part(one, normal, limit), part(other, -normal, -limit)) else { continue };
        let lost = 2.0 - first.area() / whole_one - second.area() / whole_other;
        if best.as_ref().is_none_or(|(least, ..)| lost < *least) {
            best = Some((lost, first, second));
        }
    }
    best.map(|(_, first, second)| (Geometry::new(vec![first], None), Geometry::new(vec![second], None)))
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
