//! Polygons with holes, cut into polygons without.

use crate::geometry::{Point, Polygon, quick_convex_pieces, segments_meet, turn};

/// Simple polygons that tile a polygon less its holes, cut along straight ways between corners: each hole is joined to the
/// outline by two of them, the shortest that serve. `None` where no hole that is left has two.
///
/// # Complexity
/// O(h n2 m) for h holes of m corners and n corners in all; holes are few and small.
pub(crate) fn without_holes(outline: &Polygon, holes: &[Polygon]) -> Option<Vec<Polygon>> {
    if holes.is_empty() {
        return Some(vec![outline.clone()]);
    }
    let edges: Vec<(Point, Point)> = outline.edges().chain(holes.iter().flat_map(Polygon::edges)).collect();
    for (index, hole) in holes.iter().enumerate() {
        let Some((one, other)) = two_bridges(outline, hole, &edges) else { continue };
        let rest: Vec<Polygon> =
            holes.iter().enumerate().filter(|(i, _)| *i != index).map(|(_, hole)| hole.clone()).collect();
        let mut tiles = Vec::new();
        for (first, second) in [(one, other), (other, one)] {
            let half = half(outline.points(), hole.points(), first, second)?;
            let inside =
                |hole: &&Polygon| quick_convex_pieces(hole).first().is_some_and(|piece| half.contains(piece.middle()));
            let held: Vec<Polygon> = rest.iter().filter(inside).cloned().collect();
            tiles.extend(without_holes(&half, &held)?);
        }
        return Some(tiles);
    }
    None
}

/// A way from a corner of the outline to one of the hole.
type Bridge = (usize, usize);

/// Two short ways that cross neither each other nor any edge, from different corners to different corners.
fn two_bridges(outline: &Polygon, hole: &Polygon, edges: &[(Point, Point)]) -> Option<(Bridge, Bridge)> {
    let (outer, inner) = (outline.points(), hole.points());
    let ends = |(o, h): Bridge| (outer[o], inner[h]);
    let clear = |(a, b): (Point, Point)| {
        edges.iter().all(|&(c, d)| {
            let shared = [c, d].into_iter().find(|end| *end == a || *end == b);
            match shared {
                None => !segments_meet(a, b, c, d),
                // An edge from one of its ends may not run along it.
                Some(end) => {
                    let (other, goal) = (if c == end { d } else { c }, if a == end { b } else { a });
                    a == b || turn(end, goal, other) != 0.0 || (goal - end).dot(other - end) < 0.0
                }
            }
        })
    };
    let mut ways: Vec<Bridge> = (0..outer.len()).flat_map(|o| (0..inner.len()).map(move |h| (o, h))).collect();
    let length = |way: &Bridge| outer[way.0].distance_squared(inner[way.1]);
    ways.sort_by(|a, b| length(a).total_cmp(&length(b)).then(a.cmp(b)));
    let between = |(a, b): (Point, Point)| {
        a == b || (clear((a, b)) && outline.contains(a.midpoint(b)) && !hole.contains(a.midpoint(b)))
    };
    let mut found: Vec<Bridge> = Vec::new();
    for way in ways {
        if !between(ends(way)) {
            continue;
        }
        let ((a, b), apart) = (ends(way), |known: &&Bridge| known.0 != way.0 && known.1 != way.1);
        let partner = found.iter().filter(apart).find(|known| {
            let (c, d) = ends(**known);
            !segments_meet(a, b, c, d)
        });
        if let Some(partner) = partner {
            return Some((*partner, way));
        }
        found.push(way);
    }
    None
}

/// The part of the ring between two bridges: along the outline from the first to the second, then back round the hole.
fn half(outer: &[Point], inner: &[Point], first: Bridge, second: Bridge) -> Option<Polygon> {
    let (n, m) = (outer.len(), inner.len());
    let along = (second.0 + n - first.0) % n;
    let mut ring: Vec<Point> = (0..=along).map(|k| outer[(first.0 + k) % n]).collect();
    // Both run clockwise; the hole is passed the other way round.
    let back = (second.1 + m - first.1) % m;
    ring.extend((0..=back).map(|k| inner[(second.1 + m - k) % m]));
    ring.dedup();
    Polygon::new(ring).ok()
}
