//! Outlines along the pixels' edges, with as few corners as the tolerance allows.

use super::shortcuts::Shortcuts;
use super::{Geometry, Keep};
use crate::art::{Mask, contours};
use crate::geometry::{Point, Polygon, segments_cross, segments_meet};

/// The outline of a filled selection: one polygon an island, each with the fewest corners among those of its traced
/// boundary that keep within `tolerance` of it, and of these the closest in area.
///
/// # Guarantees
/// * every polygon is simple, and no two interiors meet;
/// * the distance between outline and traced boundary is at most the tolerance, both ways, but for islands that
///   another island's covering outline has taken in;
/// * with [`Keep::Cover`] every selected pixel lies inside.
///
/// Where the shortest way round would cross itself or another island's, the longest shortcut in the crossing is given
/// up and the search repeated; with none left the traced boundary itself remains, which crosses nothing.
///
/// # Complexity
/// As told for [`Shortcuts`], times the crossings met.
pub(super) fn fit(selection: &Mask, tolerance: f64, keep: Keep) -> Geometry {
    let mut islands: Vec<Island> =
        contours(selection).iter().map(|ring| Island::new(ring.points(), tolerance, keep)).collect();
    while let Some((island, corner)) = worst_conflict(&islands, keep) {
        islands[island].give_up(corner);
    }
    let polygons: Vec<Polygon> = islands.iter().filter_map(Island::polygon).collect();
    Geometry { polygons: drop_contained(polygons), exact: None }
}

/// A boundary and the corners of it that the outline keeps.
struct Island {
    ring: Vec<Point>,
    shortcuts: Shortcuts,
    kept: Vec<usize>,
}

impl Island {
    fn new(ring: Vec<Point>, tolerance: f64, keep: Keep) -> Island {
        let shortcuts = Shortcuts::new(&ring, tolerance, keep);
        let kept = shortcuts.shortest_cycle();
        Island { ring, shortcuts, kept }
    }

    fn polygon(&self) -> Option<Polygon> {
        Polygon::new(self.kept.iter().map(|&i| self.ring[i]).collect()).ok()
    }

    fn edge(&self, corner: usize) -> (Point, Point) {
        let next = self.kept[(corner + 1) % self.kept.len()];
        (self.ring[self.kept[corner]], self.ring[next])
    }

    /// Steps along the ring that the edge from a kept corner replaces.
    fn steps(&self, corner: usize) -> usize {
        let n = self.ring.len();
        let next = self.kept[(corner + 1) % self.kept.len()];
        (next + n - self.kept[corner]) % n
    }

    /// Whether a way from a kept corner leads into the outline's inside or along its edges there.
    fn opens_to(&self, at: Point, way: kurbo::Vec2) -> bool {
        let n = self.kept.len();
        let corner = |i: usize| self.ring[self.kept[i % n]];
        let Some(i) = (0..n).find(|&i| corner(i) == at) else { return false };
        let (coming, going) = (at - corner(i + n - 1), corner(i + 1) - at);
        // Clockwise on screen: the inside lies to the right of both edges, where they turn right to the common part.
        let (right_of_coming, right_of_going) = (coming.cross(way) >= 0.0, going.cross(way) >= 0.0);
        if coming.cross(going) > 0.0 { right_of_coming && right_of_going } else { right_of_coming || right_of_going }
    }

    fn give_up(&mut self, corner: usize) {
        let (from, steps) = (self.kept[corner], self.steps(corner));
        self.shortcuts.forbid(from, steps);
        self.kept = self.shortcuts.shortest_cycle();
    }
}

/// An edge that has to go, as island and kept corner: of the two in the first conflict found the one that skips more.
fn worst_conflict(islands: &[Island], keep: Keep) -> Option<(usize, usize)> {
    let edges: Vec<(usize, usize)> = islands
        .iter()
        .enumerate()
        .flat_map(|(island, of)| (0..of.kept.len()).map(move |corner| (island, corner)))
        .collect();
    for (index, &one) in edges.iter().enumerate() {
        for &other in &edges[index + 1..] {
            if conflict(islands, one, other) {
                let steps = |(island, corner): (usize, usize)| islands[island].steps(corner);
                return Some(if steps(one) >= steps(other) { one } else { other });
            }
        }
        if keep == Keep::Cover && cuts_boundary(islands, one) {
            return Some(one);
        }
    }
    None
}

fn conflict(islands: &[Island], one: (usize, usize), other: (usize, usize)) -> bool {
    let (a, b) = islands[one.0].edge(one.1);
    let (c, d) = islands[other.0].edge(other.1);
    if one.0 != other.0 {
        return islands_conflict(islands, one, other);
    }
    let neighbours = b == c || d == a;
    if neighbours {
        // Two edges in a row conflict only when the second folds back over the first.
        let folds = |p, q, r| crate::geometry::turn(p, q, r) == 0.0 && (q - p).dot(r - q) < 0.0;
        return (b == c && folds(a, b, d)) || (d == a && folds(c, d, b));
    }
    segments_meet(a, b, c, d)
}

/// Edges of two islands may meet only at a corner of both, where their pixels touch, and there neither may run into the
/// other's inside. The edges of the boundaries themselves never do.
fn islands_conflict(islands: &[Island], one: (usize, usize), other: (usize, usize)) -> bool {
    let shortcut = |(island, corner): (usize, usize)| islands[island].steps(corner) > 1;
    if !shortcut(one) && !shortcut(other) {
        return false;
    }
    let ((a, b), (c, d)) = (islands[one.0].edge(one.1), islands[other.0].edge(other.1));
    let shared = [a, b].into_iter().find(|&end| end == c || end == d);
    match shared {
        None => segments_meet(a, b, c, d),
        Some(at) => {
            let away = |(from, to): (Point, Point)| if from == at { to - at } else { from - at };
            (shortcut(one) && islands[other.0].opens_to(at, away((a, b))))
                || (shortcut(other) && islands[one.0].opens_to(at, away((c, d))))
        }
    }
}

/// Whether a covering edge cuts off a part of its own island that it does not replace.
fn cuts_boundary(islands: &[Island], (island, corner): (usize, usize)) -> bool {
    let of = &islands[island];
    if of.steps(corner) == 1 {
        return false;
    }
    let (a, b) = of.edge(corner);
    let n = of.ring.len();
    (0..n).any(|i| segments_cross(a, b, of.ring[i], of.ring[(i + 1) % n]))
}

/// Without the polygons that lie inside another.
fn drop_contained(polygons: Vec<Polygon>) -> Vec<Polygon> {
    let inside = |i: usize, j: usize| {
        i != j
            && polygons[i].points().iter().all(|&p| polygons[j].contains(p))
            && (polygons[i].area() < polygons[j].area() || i > j)
    };
    let contained: Vec<bool> = (0..polygons.len()).map(|i| (0..polygons.len()).any(|j| inside(i, j))).collect();
    polygons.into_iter().zip(contained).filter(|(_, gone)| !gone).map(|(polygon, _)| polygon).collect()
}
