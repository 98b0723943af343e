//! Outlines along the pixels' edges, with as few corners as the tolerance allows.

use super::shortcuts::Shortcuts;
use super::{Geometry, Keep};
use crate::art::{Mask, contours};
use crate::geometry::{EdgeGrid, Point, Polygon, Rect, segments_cross, segments_meet};
use std::collections::BTreeMap;

/// The outline of a filled selection: one polygon an island, each with the fewest corners among those of its traced
/// boundary that keep within `tolerance` of it, and of these the closest in area.
///
/// # Guarantees
/// * every polygon is simple, and no two interiors meet;
/// * the distance between outline and traced boundary is at most the tolerance, both ways, but for islands that
///   another island's covering outline has taken in;
/// * with [`Keep::Cover`] every selected pixel lies inside.
///
/// Where the shortest way round would cross itself or another island's, the longer shortcut of each crossing is given up
/// and the search repeated; with none left the traced boundary itself remains, which crosses nothing.
///
/// # Complexity
/// As told for [`Shortcuts`], times the rounds that crossings take; as a rule one to three.
pub(super) fn fit(selection: &Mask, tolerance: f64, keep: Keep) -> Geometry {
    let mut islands: Vec<Island> =
        contours(selection).iter().map(|ring| Island::new(ring.points(), tolerance, keep)).collect();
    let boundary = (keep == Keep::Cover).then(|| Boundary::new(&islands));
    loop {
        let conflicts = conflicts(&islands, boundary.as_ref());
        if conflicts.is_empty() {
            break;
        }
        for (island, corners) in conflicts {
            islands[island].give_up(&corners);
        }
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

    fn give_up(&mut self, corners: &[usize]) {
        let edges: Vec<(usize, usize)> =
            corners.iter().map(|&corner| (self.kept[corner], self.steps(corner))).collect();
        for (from, steps) in edges {
            self.shortcuts.forbid(from, steps);
        }
        self.kept = self.shortcuts.shortest_cycle();
    }
}

/// The traced boundaries of all islands.
struct Boundary {
    grid: EdgeGrid,
    /// The island of each edge.
    owners: Vec<usize>,
}

impl Boundary {
    fn new(islands: &[Island]) -> Boundary {
        let closed =
            |ring: &[Point]| (0..ring.len()).map(|i| (ring[i], ring[(i + 1) % ring.len()])).collect::<Vec<_>>();
        let owners = islands.iter().enumerate().flat_map(|(index, of)| vec![index; of.ring.len()]).collect();
        Boundary { grid: EdgeGrid::new(islands.iter().flat_map(|of| closed(&of.ring)).collect()), owners }
    }

    /// Whether a covering edge cuts off a part of its own island that it does not replace.
    fn is_cut(&self, island: usize, (a, b): (Point, Point)) -> bool {
        self.grid.near(Rect::from_points(a, b)).into_iter().any(|index| {
            let (c, d) = self.grid.edge(index);
            self.owners[index] == island && segments_cross(a, b, c, d)
        })
    }
}

/// The edges that have to go, as kept corners by island: of the two in each conflict the one that skips more.
fn conflicts(islands: &[Island], boundary: Option<&Boundary>) -> BTreeMap<usize, Vec<usize>> {
    let names: Vec<(usize, usize)> = islands
        .iter()
        .enumerate()
        .flat_map(|(island, of)| (0..of.kept.len()).map(move |corner| (island, corner)))
        .collect();
    let grid = EdgeGrid::new(names.iter().map(|&(island, corner)| islands[island].edge(corner)).collect());
    let mut found: BTreeMap<usize, Vec<usize>> = BTreeMap::new();
    let mut add = |(island, corner): (usize, usize)| {
        let corners = found.entry(island).or_default();
        if !corners.contains(&corner) {
            corners.push(corner);
        }
    };
    let steps = |(island, corner): (usize, usize)| islands[island].steps(corner);
    for (index, &one) in names.iter().enumerate() {
        let edge = grid.edge(index);
        for other in grid.near(Rect::from_points(edge.0, edge.1)).into_iter().filter(|other| *other > index) {
            let other = names[other];
            if conflict(islands, one, other) {
                add(if steps(one) >= steps(other) { one } else { other });
            }
        }
        if steps(one) > 1 && boundary.is_some_and(|boundary| boundary.is_cut(one.0, edge)) {
            add(one);
        }
    }
    found
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

/// Without the polygons that lie inside another.
fn drop_contained(polygons: Vec<Polygon>) -> Vec<Polygon> {
    let bounds: Vec<Rect> = polygons.iter().map(Polygon::bounds).collect();
    let areas: Vec<f64> = polygons.iter().map(Polygon::area).collect();
    let inside = |i: usize, j: usize| {
        i != j
            && bounds[j].contains_rect(bounds[i])
            && (areas[i] < areas[j] || (areas[i] == areas[j] && i > j))
            && polygons[i].points().iter().all(|&p| polygons[j].contains(p))
    };
    let contained: Vec<bool> = (0..polygons.len()).map(|i| (0..polygons.len()).any(|j| inside(i, j))).collect();
    polygons.into_iter().zip(contained).filter(|(_, gone)| !gone).map(|(polygon, _)| polygon).collect()
}
