//! Where outlines cross themselves, each other, or boundaries that they must not.

use super::FitGoal;
use super::island::Island;
use super::ring::{Change, Ring};
use crate::geometry::{Edge, EdgeGrid, Point, Rect, Vec2, rects_meet, segments_cross, segments_meet, turn};
use std::collections::BTreeMap;

/// An edge of an outline: its island, and the corner it starts from.
type EdgeName = (usize, usize);

/// Two edges of a list, in its order.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct EdgePair {
    one: usize,
    other: usize,
}

/// Finds crossings among the outlines of a selection.
pub(super) struct Crossings {
    /// For outlines that cover or lie inside: the traced boundaries, and whose each edge is.
    traced: Option<(EdgeGrid, Vec<usize>)>,
    goal: FitGoal,
}

impl Crossings {
    pub(super) fn new(goal: FitGoal, islands: &[Island]) -> Crossings {
        let traced = (goal != FitGoal::Balance).then(|| {
            let rings = islands.iter().map(|island| island.boundary().ring());
            let owners = rings.clone().enumerate().flat_map(|(island, ring)| vec![island; ring.len()]).collect();
            (EdgeGrid::of_rings(rings), owners)
        });
        Crossings { traced, goal }
    }

    /// What the outlines are to do.
    pub(super) fn goal(&self) -> FitGoal {
        self.goal
    }

    /// The edges that have to go, as corners by island: of the two in each conflict the one that skips more, and never one
    /// of the boundary's own. Islands whose outlines are not new are known to be clear of each other.
    ///
    /// # Complexity
    /// O(n log n), n edges, as long as few are near any one.
    pub(super) fn find(&self, islands: &[Island], is_new: impl Fn(usize) -> bool) -> BTreeMap<usize, Vec<usize>> {
        let names: Vec<EdgeName> = islands
            .iter()
            .enumerate()
            .flat_map(|(island, of)| (0..of.corners().len()).map(move |corner| (island, corner)))
            .collect();
        let edges: Vec<Edge> = names.iter().map(|&(island, corner)| islands[island].edge(corner)).collect();
        let mut found: BTreeMap<usize, Vec<usize>> = BTreeMap::new();
        let mut add = |(island, corner): EdgeName| {
            let corners = found.entry(island).or_default();
            if !corners.contains(&corner) {
                corners.push(corner);
            }
        };
        let freedom = |(island, corner): EdgeName| (!islands[island].is_own(corner), islands[island].steps(corner));
        for EdgePair { one, other } in near_pairs(&edges, |edge| is_new(names[edge].0)) {
            let (one, other) = (names[one], names[other]);
            if conflict(islands, one, other) {
                add(if freedom(one) >= freedom(other) { one } else { other });
            }
        }
        for (name, edge) in names.iter().zip(&edges).filter(|(name, _)| is_new(name.0)) {
            let island = &islands[name.0];
            if !island.is_own(name.1) && (self.is_cut(name.0, *edge) || island.strays(name.1)) {
                add(*name);
            }
        }
        found
    }

    /// Whether one outline with a change crosses neither itself nor another, and no boundary that it must not. Where corners of two
    /// outlines touch is not looked at.
    ///
    /// # Complexity
    /// O(edges).
    pub(super) fn is_clear(&self, rings: &[Ring<'_>], index: usize, change: &Change) -> bool {
        let ring = &rings[index];
        let meets = |one: Edge, other: Edge| !are_apart(one, other) && !are_clear(one, other);
        let drawn = || ring.edges_drawn(change);
        let crosses_itself = drawn()
            .enumerate()
            .any(|(i, one)| ring.edges_left(change).chain(drawn().skip(i + 1)).any(|other| meets(one, other)));
        let others =
            || rings.iter().enumerate().filter(|(other, _)| *other != index).flat_map(|(_, other)| other.edges());
        let touch = |(a, b): Edge, (c, d): Edge| a == c || a == d || b == c || b == d;
        let crosses = |one: Edge| {
            others().any(|other| {
                !are_apart(one, other) && !touch(one, other) && segments_meet(one.0, one.1, other.0, other.1)
            })
        };
        !crosses_itself && !drawn().any(|edge| crosses(edge) || self.is_cut(index, edge)) && !ring.strays_with(change)
    }

    /// Whether a covering edge cuts off a part of its own island that it does not stand for, or one inside leaves the
    /// selection.
    fn is_cut(&self, island: usize, (a, b): Edge) -> bool {
        let Some((grid, owners)) = &self.traced else { return false };
        grid.any_near(Rect::from_points(a, b), |index| {
            let (c, d) = grid.edge(index);
            let may_cross = (self.goal == FitGoal::Inside || owners[index] == island) && !are_apart((a, b), (c, d));
            may_cross && segments_cross(a, b, c, d)
        })
    }
}

/// Every two edges whose boxes meet, one of them new, in order.
///
/// # Complexity
/// O(n log n + p) for n edges: where they are few p is of pairs that share a stretch of x, else of those near each other.
fn near_pairs(edges: &[Edge], is_new: impl Fn(usize) -> bool) -> Vec<EdgePair> {
    const FEW: usize = 512;
    let boxes: Vec<Rect> = edges.iter().map(|edge| Rect::from_points(edge.0, edge.1)).collect();
    let meet = |one: usize, other: usize| (is_new(one) || is_new(other)) && rects_meet(boxes[one], boxes[other]);
    let mut pairs = Vec::new();
    if edges.len() <= FEW {
        let mut by_x: Vec<usize> = (0..edges.len()).collect();
        by_x.sort_unstable_by(|a, b| boxes[*a].x0.total_cmp(&boxes[*b].x0));
        for (place, &one) in by_x.iter().enumerate() {
            let beside = by_x[place + 1..].iter().take_while(|other| boxes[**other].x0 <= boxes[one].x1);
            let near = beside.filter(|other| meet(one, **other));
            pairs.extend(near.map(|other| EdgePair { one: one.min(*other), other: one.max(*other) }));
        }
    } else {
        let grid = EdgeGrid::new(edges.to_vec());
        for (one, of) in boxes.iter().enumerate() {
            let near = grid.near(*of).into_iter().filter(|other| *other > one && meet(one, *other));
            pairs.extend(near.map(|other| EdgePair { one, other }));
        }
    }
    pairs.sort_unstable();
    pairs
}

fn conflict(islands: &[Island], one: EdgeName, other: EdgeName) -> bool {
    if one.0 != other.0 {
        return islands_conflict(islands, one, other);
    }
    !are_clear(islands[one.0].edge(one.1), islands[other.0].edge(other.1))
}

/// Whether the boxes round two edges do not meet.
fn are_apart((a, b): Edge, (c, d): Edge) -> bool {
    a.x.max(b.x) < c.x.min(d.x)
        || c.x.max(d.x) < a.x.min(b.x)
        || a.y.max(b.y) < c.y.min(d.y)
        || c.y.max(d.y) < a.y.min(b.y)
}

/// Whether two edges of one outline do not meet; two in a row only must not fold back over each other.
fn are_clear((a, b): Edge, (c, d): Edge) -> bool {
    let folds = |p: Point, q: Point, r: Point| (q - p).dot(r - q) < 0.0 && turn(p, q, r) == 0.0;
    if b == c || d == a {
        return !((b == c && folds(a, b, d)) || (d == a && folds(c, d, b)));
    }
    !segments_meet(a, b, c, d)
}

/// Edges of two outlines may meet only at a corner of both, where their pixels touch, and there neither may run to the side
/// of the other that is not its own. The edges of the boundaries themselves never do.
fn islands_conflict(islands: &[Island], one: EdgeName, other: EdgeName) -> bool {
    let is_own = |(island, corner): EdgeName| islands[island].is_own(corner);
    if is_own(one) && is_own(other) {
        return false;
    }
    let ((a, b), (c, d)) = (islands[one.0].edge(one.1), islands[other.0].edge(other.1));
    let shared = [a, b].into_iter().find(|&end| end == c || end == d);
    match shared {
        None => segments_meet(a, b, c, d),
        Some(at) => {
            let (first, second) = (&islands[one.0], &islands[other.0]);
            let side = barred_side(first, second);
            let away = |(from, to): (Point, Point)| if from == at { to - at } else { from - at };
            opens_to(second, at, away((a, b)), side) || opens_to(first, at, away((c, d)), side)
        }
    }
}

/// The side of an outline's edges: all run with the selected pixels to their right, those of holes too.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Side {
    Left,
    Right,
}

/// The side of each of two outlines that the other may not be on: the right for two islands, or for one in another's hole;
/// the left for two holes, or for a hole and the island that it is in.
fn barred_side(one: &Island, other: &Island) -> Side {
    let apart = match (one.is_hole(), other.is_hole()) {
        (false, false) => true,
        (true, true) => false,
        // The two touch, so that one lies in the other.
        (true, false) => one.boundary_area() > other.boundary_area(),
        (false, true) => other.boundary_area() > one.boundary_area(),
    };
    if apart { Side::Right } else { Side::Left }
}

/// Whether a way from a corner of an outline leads to a side of it, or along its edges there.
fn opens_to(island: &Island, at: Point, way: Vec2, side: Side) -> bool {
    let corners = island.corners();
    let n = corners.len();
    let corner = |i: usize| corners[i % n].at;
    let Some(i) = (0..n).find(|&i| corner(i) == at) else { return false };
    let (coming, going) = (at - corner(i + n - 1), corner(i + 1) - at);
    let sign = if side == Side::Right { 1.0 } else { -1.0 };
    // What lies on that side of both edges, where they turn to it, else on that side of either.
    let (of_coming, of_going) = (sign * coming.cross(way) >= 0.0, sign * going.cross(way) >= 0.0);
    if sign * coming.cross(going) > 0.0 { of_coming && of_going } else { of_coming || of_going }
}
