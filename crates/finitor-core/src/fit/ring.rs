//! An outline under work: corners move off the lattice, go and come.

pub(super) mod choices;

use super::FitGoal;
use super::chain::{Between, Boundary, Bounds, Line};
use super::shortcuts::ROUNDING;
use crate::geometry::{Edge, Point};

/// A corner of an outline.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Corner {
    /// The corner of the boundary that it stands for; the edges on both sides stand for the parts up to there.
    pub(super) anchor: usize,
    /// Where it lies, at most the tolerance away.
    pub(super) at: Point,
}

/// Moved corners lie on this part of a pixel: fine enough for the eye, and short to write.
const GRID: f64 = 32.0;

/// The outline of a boundary, as a linked ring.
#[derive(Clone)]
pub(super) struct Ring<'b> {
    boundary: &'b Boundary,
    bounds: Bounds,
    nodes: Vec<Node>,
    size: usize,
    /// Any node that is still there.
    entry: usize,
    /// Nodes that are not, for corners to come.
    spare: Vec<usize>,
}

#[derive(Clone, Copy)]
struct Node {
    corner: Corner,
    /// Of the edge to the next corner.
    between: Between,
    /// The line for the part that this edge stands for, and that part's ends.
    line: Line,
    part: (usize, usize),
    before: usize,
    after: usize,
}

/// Corners that any change puts in the place of others, at most.
const MOST_NEW: usize = 3;

/// Corners in a row, put in the place of those between two nodes.
#[derive(Clone, Copy, Debug)]
pub(super) struct Change {
    first: usize,
    last: usize,
    count: usize,
    corners: [Corner; MOST_NEW],
    /// Of the edges up to the first of them, between them and from the last on.
    edges: [Between; MOST_NEW + 1],
    /// Area between outline and boundary more than before, px2.
    pub(super) cost: f64,
}

/// The nodes before and after what a change replaces.
#[derive(Clone, Copy, Debug)]
struct Ends {
    first: usize,
    last: usize,
}

impl Change {
    fn corners(&self) -> &[Corner] {
        &self.corners[..self.count]
    }
}

impl<'b> Ring<'b> {
    /// The outline with these corners of a boundary, and where they lie on it; `None` where they are not within bounds.
    pub(super) fn new(boundary: &'b Boundary, kept: &[usize], bounds: Bounds) -> Option<Ring<'b>> {
        let n = kept.len();
        let mut nodes = Vec::with_capacity(n);
        for (i, &anchor) in kept.iter().enumerate() {
            let next = kept[(i + 1) % n];
            let (at, to) = (boundary.corner(anchor), boundary.corner(next));
            let between = boundary.between((anchor, next), (at, to), bounds)?;
            nodes.push(Node {
                corner: Corner { anchor, at },
                between,
                line: boundary.line(anchor, next, bounds.goal),
                part: (anchor, next),
                before: (i + n - 1) % n,
                after: (i + 1) % n,
            });
        }
        Some(Ring { boundary, bounds, nodes, size: n, entry: 0, spare: Vec::new() })
    }

    pub(super) fn corners(&self) -> Vec<Corner> {
        self.all().map(|node| self.nodes[node].corner).collect()
    }

    /// Its corners' number.
    pub(super) fn size(&self) -> usize {
        self.size
    }

    /// How many nodes there are or were.
    pub(super) fn nodes(&self) -> usize {
        self.nodes.len()
    }

    /// All nodes in order.
    pub(super) fn all(&self) -> impl Iterator<Item = usize> {
        self.from(self.entry, self.size)
    }

    /// The nodes at which what could change next depends on a change that was taken.
    pub(super) fn near(&self, change: &Change) -> impl Iterator<Item = usize> {
        /// Nodes on each side that a change at a node looks at.
        const BESIDE: usize = 2;
        let before = (1..BESIDE).fold(change.first, |node, _| self.nodes[node].before);
        self.from(before, (BESIDE + change.count + BESIDE).min(self.size))
    }

    /// The nodes whose edges are others since a change was taken.
    pub(super) fn changed(&self, change: &Change) -> impl Iterator<Item = usize> {
        self.from(change.first, change.count + 1)
    }

    fn from(&self, first: usize, count: usize) -> impl Iterator<Item = usize> {
        std::iter::successors(Some(first), |node| Some(self.nodes[*node].after)).take(count)
    }

    /// A corner at a place, rounded; anchored where the boundary is nearest, strictly between two other anchors and
    /// near a third.
    fn corner(&self, place: Point, near: usize, (low, high): (usize, usize)) -> Option<Corner> {
        const AROUND: usize = 3;
        let at = (place.to_vec2() * GRID).round().to_point();
        let at = Point::new(at.x / GRID, at.y / GRID);
        let span = self.steps(low, high);
        let middle = self.boundary.steps(low, near).min(span);
        let range = middle.saturating_sub(AROUND).max(1)..(middle + AROUND + 1).min(span);
        let distance = |steps: usize| {
            let anchor = self.boundary.ahead(low, steps);
            (self.boundary.corner(anchor).distance_squared(at), anchor)
        };
        let best = range.map(distance).reduce(|best, other| if other.0 < best.0 { other } else { best });
        let limit = self.bounds.tolerance + ROUNDING;
        best.filter(|(distance, _)| *distance <= limit * limit).map(|(_, anchor)| Corner { anchor, at })
    }

    /// Steps from one anchor to another, once round for the same.
    fn steps(&self, low: usize, high: usize) -> usize {
        match self.boundary.steps(low, high) {
            0 => self.boundary.ring().len(),
            steps => steps,
        }
    }

    /// These corners in the place of those between two nodes, if all edges keep within bounds. `None` also where it is sure, before
    /// all edges are looked at, that this costs more than `limit`.
    fn change<const N: usize>(&self, ends: Ends, corners: [Corner; N], limit: f64) -> Option<Change> {
        /// More than sums in another order may differ, px2.
        const ROUNDED: f64 = 1e-6;
        let Ends { first, last } = ends;
        // Of four nodes the first may be the last.
        let inner = || self.from(self.nodes[first].after, self.size).take_while(|node| *node != last);
        let old = || std::iter::once(first).chain(inner()).map(|node| self.nodes[node].between.area);
        let too_much = limit + old().sum::<f64>() + ROUNDED;
        let mut change = Change {
            first,
            last,
            count: N,
            corners: [Corner::default(); MOST_NEW],
            edges: [Between::default(); MOST_NEW + 1],
            cost: 0.0,
        };
        change.corners[..N].copy_from_slice(&corners);
        let mut from = self.nodes[first].corner;
        for (edge, to) in change.edges.iter_mut().zip(corners.into_iter().chain([self.nodes[last].corner])) {
            *edge = self.boundary.between((from.anchor, to.anchor), (from.at, to.at), self.bounds)?;
            change.cost += edge.area;
            if change.cost > too_much {
                return None;
            }
            from = to;
        }
        old().for_each(|area| change.cost -= area);
        Some(change)
    }

    /// Drops corners, and edges, as long as the others can be moved to make up for them within bounds.
    pub(super) fn drop_corners(&mut self) {
        // Of a pixel or a bar a triangle would be left, which is fewer corners and no likeness.
        const FEWEST: usize = 4;
        let mut at = self.entry;
        let mut untried = self.size;
        while untried > 0 && self.size > FEWEST {
            let before = self.nodes[self.nodes[at].before].before;
            let any = f64::INFINITY;
            if let Some(less) = self.without_corner(at, any).or_else(|| self.without_edge(at, any)) {
                self.take(&less);
                // Its neighbours have new edges, so they may go as well.
                at = before;
                untried = (untried + 2).min(self.size);
            } else {
                at = self.nodes[at].after;
                untried -= 1;
            }
            self.entry = at;
        }
    }

    /// Takes a change over; the node that is gone, if one is.
    pub(super) fn take(&mut self, change: &Change) -> Option<usize> {
        let mut node = change.first;
        for corner in change.corners() {
            let mut next = self.nodes[node].after;
            if next == change.last {
                next = self.spare.pop().unwrap_or(self.nodes.len());
                if next == self.nodes.len() {
                    self.nodes.push(self.nodes[node]);
                }
                self.link(node, next);
                self.link(next, change.last);
                self.size += 1;
            }
            self.nodes[next].corner = *corner;
            node = next;
        }
        let gone = self.nodes[node].after;
        let gone = (gone != change.last).then(|| {
            self.link(node, change.last);
            self.spare.push(gone);
            self.size -= 1;
            gone
        });
        let mut node = change.first;
        for edge in &change.edges[..=change.count] {
            let next = self.nodes[node].after;
            let (from, to) = (self.nodes[node].corner.anchor, self.nodes[next].corner.anchor);
            self.nodes[node].between = *edge;
            if self.nodes[node].part != (from, to) {
                self.nodes[node].part = (from, to);
                self.nodes[node].line = self.boundary.line(from, to, self.bounds.goal);
            }
            node = next;
        }
        self.entry = self.nodes[change.first].after;
        gone
    }

    fn link(&mut self, before: usize, after: usize) {
        self.nodes[before].after = after;
        self.nodes[after].before = before;
    }

    /// Moves each corner to where the lines on its both sides cross, or half the way there, where that brings the
    /// outline closer.
    pub(super) fn move_corners(&mut self) {
        let entry = self.entry;
        let mut node = entry;
        for _ in 0..self.size {
            let next = self.nodes[node].after;
            let change = self.moves(node).next();
            if let Some(change) = change {
                self.take(&change);
            }
            node = next;
        }
        self.entry = entry;
    }

    /// Places for a node's corner that bring the outline closer: where the lines on its both sides cross, and half the way there.
    pub(super) fn moves(&self, node: usize) -> impl Iterator<Item = Change> {
        let Node { corner, before, after, .. } = self.nodes[node];
        let anchors = (self.nodes[before].corner.anchor, self.nodes[after].corner.anchor);
        let place = self.nodes[before].line.crossing(self.nodes[node].line);
        let moved = move |(place, share): (Point, f64)| {
            let place = corner.at + (place - corner.at) * share;
            let moved = self.corner(place, corner.anchor, anchors)?;
            self.change(Ends { first: before, last: after }, [moved], 0.0).filter(|change| change.cost < 0.0)
        };
        place.into_iter().flat_map(|place| [(place, 1.0), (place, 0.5)]).filter_map(moved)
    }

    /// The edge from a node on.
    fn edge(&self, node: usize) -> Edge {
        (self.nodes[node].corner.at, self.nodes[self.nodes[node].after].corner.at)
    }

    /// All edges.
    pub(super) fn edges(&self) -> impl Iterator<Item = Edge> {
        self.all().map(|node| self.edge(node))
    }

    /// The edges that a change leaves, from the one after it to the one before it.
    pub(super) fn edges_left(&self, change: &Change) -> impl Iterator<Item = Edge> {
        let nodes = std::iter::successors(Some(change.last), |node| Some(self.nodes[*node].after));
        nodes.take_while(|node| *node != change.first).map(|node| self.edge(node))
    }

    /// The edges that a change draws.
    pub(super) fn edges_drawn(&self, change: &Change) -> impl Iterator<Item = Edge> {
        let [first, last] = [change.first, change.last].map(|node| self.nodes[node].corner.at);
        let corners = change.corners().iter().map(|corner| corner.at);
        std::iter::once(first).chain(corners.clone()).zip(corners.chain([last]))
    }

    /// Whether a part of the boundary would stray from its edge with a change, or beside it.
    pub(super) fn strays_with(&self, change: &Change) -> bool {
        if self.bounds.goal == FitGoal::Balance {
            return false;
        }
        let before = self.nodes[change.first].before;
        let last = self.nodes[change.last];
        let mut corners = vec![self.nodes[self.nodes[before].before].corner, self.nodes[before].corner];
        corners.push(self.nodes[change.first].corner);
        corners.extend(change.corners());
        corners.extend([last.corner, self.nodes[last.after].corner]);
        corners.push(self.nodes[self.nodes[last.after].after].corner);
        corners.windows(4).any(|four| {
            let part = (four[1].anchor, self.boundary.steps(four[1].anchor, four[2].anchor));
            let edges = [0, 1, 2].map(|i| (four[i].at, four[i + 1].at));
            self.boundary.strays(part, edges, self.bounds.goal)
        })
    }
}
