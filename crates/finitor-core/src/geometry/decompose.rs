//! Cutting a polygon into convex pieces.

use super::{Convex, Point, Polygon, on_segment, turn};

/// Convex pieces that tile the polygon exactly, with no points added.
///
/// The polygon is cut into triangles by its ears, then triangles are joined across every cut that no reflex corner
/// needs. At most four times the fewest pieces possible; a convex polygon stays one piece.
///
/// # Complexity
/// O(n2) for common outlines, O(n3) at worst, n points.
///
/// # Source
/// Ears: G. H. Meisters, "Polygons have ears", American Mathematical Monthly 82 (1975). Joining: S. Hertel and
/// K. Mehlhorn, "Fast triangulation of simple polygons", FCT 1983.
pub fn convex_pieces(polygon: &Polygon) -> Vec<Convex> {
    if let Some(whole) = Convex::new(polygon) {
        return vec![whole];
    }
    let points = polygon.points();
    let mut pieces = triangles(points);
    join_pieces(points, &mut pieces);
    pieces.into_iter().map(|piece| Convex::from_clockwise(corners(points, &piece))).collect()
}

/// The piece's points without those that lie on a straight run of it.
fn corners(points: &[Point], piece: &[usize]) -> Vec<Point> {
    let n = piece.len();
    let at = |i: usize| points[piece[i % n]];
    (0..n).filter(|&i| turn(at(i + n - 1), at(i), at(i + 1)) > 0.0).map(at).collect()
}

/// Triangles as indices into the ring, clockwise.
fn triangles(points: &[Point]) -> Vec<Vec<usize>> {
    let mut ring: Vec<usize> = (0..points.len()).collect();
    let mut triangles = Vec::with_capacity(points.len().saturating_sub(2));
    while ring.len() > 3 {
        let n = ring.len();
        // A simple polygon always has an ear. Among the ears the one with the shortest cut keeps slivers away.
        let ear = (0..n).filter(|&i| is_ear(points, &ring, i)).min_by(|&i, &j| {
            let cut = |k: usize| points[ring[(k + n - 1) % n]].distance_squared(points[ring[(k + 1) % n]]);
            cut(i).total_cmp(&cut(j))
        });
        let Some(i) = ear else { break };
        triangles.push(vec![ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]]);
        ring.remove(i);
        drop_flat_corners(points, &mut ring);
    }
    if ring.len() == 3 {
        triangles.push(ring);
    }
    triangles
}

/// Cutting an ear can leave a corner between two edges on one line, with nothing beside it: it holds no area.
fn drop_flat_corners(points: &[Point], ring: &mut Vec<usize>) {
    while ring.len() > 3 {
        let n = ring.len();
        let spike = (0..n).find(|&i| {
            let (a, b, c) = (points[ring[(i + n - 1) % n]], points[ring[i]], points[ring[(i + 1) % n]]);
            turn(a, b, c) == 0.0 && !on_segment(b, a, c)
        });
        match spike {
            Some(i) => drop(ring.remove(i)),
            None => return,
        }
    }
}

fn is_ear(points: &[Point], ring: &[usize], i: usize) -> bool {
    let n = ring.len();
    let (ia, ib, ic) = (ring[(i + n - 1) % n], ring[i], ring[(i + 1) % n]);
    let (a, b, c) = (points[ia], points[ib], points[ic]);
    if turn(a, b, c) <= 0.0 {
        return false;
    }
    ring.iter().filter(|&&k| k != ia && k != ib && k != ic).all(|&k| {
        let p = points[k];
        !(turn(a, b, p) >= 0.0 && turn(b, c, p) >= 0.0 && turn(c, a, p) >= 0.0)
    })
}

/// Joins two pieces that share a cut whenever the union is still convex, in a fixed order until none is left.
fn join_pieces(points: &[Point], pieces: &mut Vec<Vec<usize>>) {
    let mut first = 0;
    while first < pieces.len() {
        let joined = (first + 1..pieces.len())
            .find_map(|second| union(points, &pieces[first], &pieces[second]).map(|union| (second, union)));
        match joined {
            Some((second, union)) => {
                pieces[first] = union;
                pieces.remove(second);
            }
            None => first += 1,
        }
    }
}

fn union(points: &[Point], one: &[usize], other: &[usize]) -> Option<Vec<usize>> {
    let (n, m) = (one.len(), other.len());
    for i in 0..n {
        let (a, b) = (one[i], one[(i + 1) % n]);
        let Some(j) = (0..m).find(|&j| other[j] == b && other[(j + 1) % m] == a) else {
            continue;
        };
        // `one` from b round to a, then `other` from after a to before b.
        let mut ring: Vec<usize> = (0..n).map(|k| one[(i + 1 + k) % n]).collect();
        ring.extend((2..m).map(|k| other[(j + k) % m]));
        let size = ring.len();
        let convex =
            (0..size).all(|k| turn(points[ring[k]], points[ring[(k + 1) % size]], points[ring[(k + 2) % size]]) >= 0.0);
        return convex.then_some(ring);
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::ring_area;

    #[test]
    fn pieces_tile_the_outline_and_are_few() {
        let cross: Vec<Point> =
            [(2, 0), (4, 0), (4, 2), (6, 2), (6, 4), (4, 4), (4, 6), (2, 6), (2, 4), (0, 4), (0, 2), (2, 2)]
                .map(|(x, y)| Point::new(x.into(), y.into()))
                .to_vec();
        let cross = Polygon::new(cross).unwrap();
        let pieces = convex_pieces(&cross);
        let area: f64 = pieces.iter().map(|p| ring_area(p.points())).sum();
        assert_eq!(area, cross.area());
        assert!(pieces.len() <= 5, "{} pieces", pieces.len());
    }
}
