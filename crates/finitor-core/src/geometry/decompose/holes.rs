//! Polygons with holes, cut into polygons without.

use super::ears::joined;
use crate::geometry::{Point, Polygon, on_segment, quick_convex_pieces, segments_meet, turn};

/// Simple polygons that tile a polygon less its holes, cut along straight ways between corners: each hole is joined to the
/// outline by two of them, the shortest that serve. Where holes touch each other so that this does not work out, the whole
/// is cut into convex pieces instead, joined from triangles.
///
/// # Complexity
/// O(h n2 m) for h holes of m corners and n corners in all; holes are few and small. O(n3) by triangles.
pub(crate) fn without_holes(outline: &Polygon, holes: &[Polygon]) -> Vec<Polygon> {
    let area = |of: &[Polygon]| of.iter().map(Polygon::area).sum::<f64>();
    let left = outline.area() - area(holes);
    // Holes in a row that touch at corners may be taken for lying on the wrong side of a cut.
    let tiled = |tiles: &Vec<Polygon>| (area(tiles) - left).abs() <= SAME_AREA * (1.0 + outline.area());
    bridged(outline, holes).filter(tiled).unwrap_or_else(|| by_triangles(outline, holes))
}

/// Room for rounding in areas, as a share.
const SAME_AREA: f64 = 1e-9;

/// The greedy triangulation, the shortest cuts first, with triangles joined while the union is convex.
fn by_triangles(outline: &Polygon, holes: &[Polygon]) -> Vec<Polygon> {
    let mut points: Vec<Point> =
        outline.points().iter().chain(holes.iter().flat_map(Polygon::points)).copied().collect();
    let order = |a: &Point, b: &Point| a.x.total_cmp(&b.x).then(a.y.total_cmp(&b.y));
    points.sort_by(order);
    points.dedup();
    let n = points.len();
    let free = |p: Point| outline.contains(p) && !holes.iter().any(|hole| hole.contains(p));
    // A hole may touch an edge where the outline has no corner any longer, since it ran straight on.
    let parts = |(a, b): (Point, Point)| {
        let mut on: Vec<Point> = points.iter().copied().filter(|&p| on_segment(p, a, b)).collect();
        on.sort_by(|p, q| p.distance_squared(a).total_cmp(&q.distance_squared(a)));
        on.windows(2).map(|pair| (pair[0], pair[1])).collect::<Vec<_>>()
    };
    let whole = outline.edges().chain(holes.iter().flat_map(Polygon::edges));
    let mut edges: Vec<(Point, Point)> = whole.flat_map(parts).collect();
    let known = |p: Point| points.binary_search_by(|other| order(other, &p)).ok();
    let mut linked = vec![false; n * n];
    let mut link = |a: usize, b: usize| {
        linked[a * n + b] = true;
        linked[b * n + a] = true;
    };
    edges.iter().filter_map(|&(a, b)| Some((known(a)?, known(b)?))).for_each(|(a, b)| link(a, b));
    let mut ways: Vec<Bridge> = (0..n).flat_map(|a| (a + 1..n).map(move |b| (a, b))).collect();
    let length = |way: &Bridge| points[way.0].distance_squared(points[way.1]);
    ways.sort_by(|a, b| length(a).total_cmp(&length(b)).then(a.cmp(b)));
    for (a, b) in ways {
        let way = (points[a], points[b]);
        if is_clear(way, &edges) && free(way.0.midpoint(way.1)) {
            edges.push(way);
            link(a, b);
        }
    }
    let mut triangles = Vec::new();
    for a in 0..n {
        for b in (a + 1..n).filter(|&b| linked[a * n + b]) {
            for c in (b + 1..n).filter(|&c| linked[a * n + c] && linked[b * n + c]) {
                let corners = [points[a], points[b], points[c]];
                let side = turn(corners[0], corners[1], corners[2]);
                let within = |p: Point| {
                    let at = |i: usize| turn(corners[i], corners[(i + 1) % 3], p) * side;
                    !corners.contains(&p) && (0..3).all(|i| at(i) >= 0.0)
                };
                let middle = corners[0] + ((corners[1] - corners[0]) + (corners[2] - corners[0])) / 3.0;
                if side != 0.0 && free(middle) && !points.iter().any(|&p| within(p)) {
                    triangles.push(if side > 0.0 { [a, b, c] } else { [a, c, b] });
                }
            }
        }
    }
    let rings = joined(&points, &triangles).into_iter();
    rings.filter_map(|ring| Polygon::new(ring.into_iter().map(|i| points[i]).collect()).ok()).collect()
}

/// Tiles by two ways from each hole to the outline; `None` where no hole that is left has two, or a tile would touch itself.
fn bridged(outline: &Polygon, holes: &[Polygon]) -> Option<Vec<Polygon>> {
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
            tiles.extend(bridged(&half, &held)?);
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
    let mut ways: Vec<Bridge> = (0..outer.len()).flat_map(|o| (0..inner.len()).map(move |h| (o, h))).collect();
    let length = |way: &Bridge| outer[way.0].distance_squared(inner[way.1]);
    ways.sort_by(|a, b| length(a).total_cmp(&length(b)).then(a.cmp(b)));
    let between = |(a, b): (Point, Point)| {
        a == b || (is_clear((a, b), edges) && outline.contains(a.midpoint(b)) && !hole.contains(a.midpoint(b)))
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

/// Whether a way between two corners meets no edge but at its own ends.
fn is_clear((a, b): (Point, Point), edges: &[(Point, Point)]) -> bool {
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
