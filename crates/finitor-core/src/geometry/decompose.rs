//! Cutting a polygon into convex pieces.

mod cuts;
mod ears;
mod fewest;
mod holes;
mod sight;

use super::{Convex, Point, Polygon, turn};
use ears::{Clipper, joined};
use fewest::fewest_pieces;
pub(crate) use holes::without_holes;

/// Convex pieces that tile the polygon exactly, with no points added: the fewest possible.
///
/// Where the search for them would take too long, from 1,500 corners on at the latest, the polygon is cut into
/// triangles by its ears, shortest cut first, and pieces are joined across every cut that no reflex corner needs: at most
/// four times the fewest, on outlines of art about a tenth more.
///
/// # Complexity
/// As told for the fewest in `fewest.rs`; else O(n r) for n points, r of them reflex.
///
/// # Source
/// Keil 1985, Keil and Snoeyink 2002. Ears: G. H. Meisters, "Polygons have ears", American Mathematical Monthly 82 (1975).
/// Joining: S. Hertel and K. Mehlhorn, "Fast triangulation of simple polygons", FCT 1983.
pub fn convex_pieces(polygon: &Polygon) -> Vec<Convex> {
    pieces_by(polygon, |points| fewest_pieces(points).unwrap_or_else(|| joined(points, &Clipper::new(points).run())))
}

/// Convex pieces as by [`convex_pieces`] that are quick to find: those joined from ears, at most four times the fewest.
///
/// # Complexity
/// O(n r) for n points, r of them reflex.
pub fn quick_convex_pieces(polygon: &Polygon) -> Vec<Convex> {
    pieces_by(polygon, |points| joined(points, &Clipper::new(points).run()))
}

/// The pieces that a way of cutting gives, as indices into the ring; a convex polygon stays one piece.
fn pieces_by(polygon: &Polygon, cut: impl Fn(&[Point]) -> Vec<Vec<usize>>) -> Vec<Convex> {
    if let Some(whole) = Convex::new(polygon) {
        return vec![whole];
    }
    let points = polygon.points();
    cut(points).into_iter().map(|piece| Convex::from_clockwise(corners(points, &piece))).collect()
}

/// A convex piece cut into as few as have at most `most` corners each, `most` being 3 at least.
pub fn with_corners_at_most(piece: &Convex, most: usize) -> Vec<Convex> {
    let points = piece.points();
    let most = most.max(3);
    let mut parts = Vec::new();
    let mut from = 1;
    while points.len() - from + 1 > most {
        let part = std::iter::once(points[0]).chain(points[from..from + most - 1].iter().copied());
        parts.push(Convex::from_clockwise(part.collect()));
        from += most - 2;
    }
    let rest = std::iter::once(points[0]).chain(points[from..].iter().copied());
    parts.push(Convex::from_clockwise(rest.collect()));
    parts
}

/// The piece's points without those that lie on a straight run of it.
fn corners(points: &[Point], piece: &[usize]) -> Vec<Point> {
    let n = piece.len();
    let at = |i: usize| points[piece[i % n]];
    (0..n).filter(|&i| turn(at(i + n - 1), at(i), at(i + 1)) > 0.0).map(at).collect()
}
