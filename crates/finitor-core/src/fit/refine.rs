//! Corners moved off the lattice.

use super::FitGoal;
use super::chain::{Between, Boundary, Bounds, Line};
use super::shortcuts::ROUNDING;
use crate::geometry::Point;
use std::cmp::{Ordering, Reverse};
use std::collections::BinaryHeap;

/// A corner of an outline.
#[derive(Clone, Copy, Debug)]
pub(super) struct Corner {
    /// The corner of the boundary that it stands for; the edges on both sides stand for the parts up to there.
    pub(super) anchor: usize,
    /// Where it lies, at most the tolerance away.
    pub(super) at: Point,
}

/// Moved corners lie on this part of a pixel: fine enough for the eye, and short to write.
const GRID: f64 = 32.0;

/// The outline with corners moved, and dropped where the others can be moved to make up for it. Every edge stays within
/// the bounds of its part of the boundary, and so does every corner of its anchor.
///
/// A point of an edge is within the tolerance of the boundary: either the part that the edge stands for passes it at
/// right angles, or it lies between a corner and the nearest point of the edge to that corner's anchor.
///
/// Edges are thought of as the lines that fit their parts of the boundary best, and corners as crossings of those.
///
/// # Complexity
/// O(corners of the boundary), each looked at in some tens of candidates.
///
/// # Source
/// Corners at the crossings of best lines: Peter Selinger, "Potrace: a polygon-based tracing algorithm" (2003).
pub(super) fn refined(boundary: &Boundary, kept: &[usize], bounds: Bounds) -> Option<Vec<Corner>> {
    let mut ring = Ring::new(boundary, kept, bounds)?;
    ring.drop_corners();
    for _ in 0..SWEEPS {
        ring.move_corners();
    }
    Some(ring.corners())
}

/// Outlines reduced to a total of corners, one after another: each time the corner or the edge goes whose loss
/// costs the least area. `None` when none that is left can go.
///
/// # Complexity
/// O(corners of the boundaries + log corners) a corner that goes.
pub(super) fn reduced(outlines: &[(&Boundary, Vec<usize>)], goal: FitGoal, most: usize) -> Option<Vec<Vec<Corner>>> {
    // However far: the area decides.
    let bounds = Bounds { tolerance: 1e6, goal };
    let mut rings: Vec<Ring<'_>> =
        outlines.iter().map(|(boundary, kept)| Ring::new(boundary, kept, bounds)).collect::<Option<_>>()?;
    let mut queue = BinaryHeap::new();
    for (index, ring) in rings.iter().enumerate() {
        queue.extend((0..ring.nodes.len()).filter_map(|node| ring.offer(index, node)));
    }
    let mut size: usize = rings.iter().map(|ring| ring.size).sum();
    while size > most {
        let Reverse(offer) = queue.pop()?;
        let ring = &mut rings[offer.ring];
        let current = !ring.nodes[offer.node].gone && ring.nodes[offer.node].version == offer.version;
        let Some((_, less)) = ring.cheapest_at(offer.node).filter(|_| current) else { continue };
        ring.take(&less);
        size -= 1;
        // Of the nodes beside, those whose offers reach to the one or two corners that were moved.
        const BEFORE: usize = 2;
        const AFTER: usize = 3;
        let mut node = ring.entry;
        (0..BEFORE).for_each(|_| node = ring.nodes[node].before);
        for _ in 0..(BEFORE + 1 + AFTER).min(ring.size) {
            ring.nodes[node].version += 1;
            queue.extend(ring.offer(offer.ring, node));
            node = ring.nodes[node].after;
        }
    }
    for ring in &mut rings {
        (0..SWEEPS).for_each(|_| ring.move_corners());
    }
    Some(rings.iter().map(Ring::corners).collect())
}

/// Rounds of moving; a third one changes next to nothing.
const SWEEPS: usize = 2;

/// An outline under work, as a linked ring.
struct Ring<'b> {
    boundary: &'b Boundary,
    bounds: Bounds,
    nodes: Vec<Node>,
    size: usize,
    /// Any node that is still there.
    entry: usize,
}

#[derive(Clone, Copy)]
struct Node {
    corner: Corner,
    /// Of the edge to the next corner.
    between: Between,
    /// The line for the part that this edge stands for.
    line: Line,
    before: usize,
    after: usize,
    gone: bool,
    /// Counts changes round it.
    version: u32,
}

/// A corner or edge that could go, as it was when it was looked at. The first field decides.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Offer {
    cost: f64,
    ring: usize,
    node: usize,
    version: u32,
}

impl Eq for Offer {}

impl Ord for Offer {
    fn cmp(&self, other: &Offer) -> Ordering {
        let rest = |offer: &Offer| (offer.ring, offer.node, offer.version);
        self.cost.total_cmp(&other.cost).then(rest(self).cmp(&rest(other)))
    }
}

impl PartialOrd for Offer {
    fn partial_cmp(&self, other: &Offer) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

/// New places for corners in a row, with the edges up to the first, between them and from the last on.
struct Change<const N: usize, const EDGES: usize> {
    corners: [Corner; N],
    edges: [Between; EDGES],
}

/// A ring with one corner less, by the node it starts from.
enum Less {
    /// Without that corner.
    Corner(usize, Change<2, 3>),
    /// Without the edge from there on.
    Edge(usize, Change<1, 2>),
}

impl<const N: usize, const EDGES: usize> Change<N, EDGES> {
    fn area(&self) -> f64 {
        self.edges.iter().map(|edge| edge.area).sum()
    }
}

impl<'b> Ring<'b> {
    fn new(boundary: &'b Boundary, kept: &[usize], bounds: Bounds) -> Option<Ring<'b>> {
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
                before: (i + n - 1) % n,
                after: (i + 1) % n,
                gone: false,
                version: 0,
            });
        }
        Some(Ring { boundary, bounds, nodes, size: n, entry: 0 })
    }

    fn corners(&self) -> Vec<Corner> {
        let mut corners = Vec::with_capacity(self.size);
        let mut at = self.entry;
        for _ in 0..self.size {
            corners.push(self.nodes[at].corner);
            at = self.nodes[at].after;
        }
        corners
    }

    /// A corner at a place, rounded; anchored where the boundary is nearest, strictly between two other anchors and
    /// near a third.
    fn corner(&self, place: Point, near: usize, (low, high): (usize, usize)) -> Option<Corner> {
        const AROUND: usize = 3;
        let at = (place.to_vec2() * GRID).round().to_point();
        let at = Point::new(at.x / GRID, at.y / GRID);
        let span = match self.boundary.steps(low, high) {
            0 => self.boundary.ring().len(),
            steps => steps,
        };
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

    /// The corners between `first` and `last` put in these places, if all edges keep within bounds.
    fn change<const N: usize, const EDGES: usize>(
        &self,
        first: usize,
        corners: [Corner; N],
        last: usize,
    ) -> Option<Change<N, EDGES>> {
        let mut edges = [Between::default(); EDGES];
        let mut from = self.nodes[first].corner;
        for (edge, to) in edges.iter_mut().zip(corners.into_iter().chain([self.nodes[last].corner])) {
            *edge = self.boundary.between((from.anchor, to.anchor), (from.at, to.at), self.bounds)?;
            from = to;
        }
        Some(Change { corners, edges })
    }

    fn drop_corners(&mut self) {
        // Of a pixel or a bar a triangle would be left, which is fewer corners and no likeness.
        const FEWEST: usize = 4;
        let mut at = self.entry;
        let mut untried = self.size;
        while untried > 0 && self.size > FEWEST {
            if let Some(less) = self.without_corner(at).or_else(|| self.without_edge(at)) {
                self.take(&less);
                // Its neighbours have new edges, so they may go as well.
                at = self.nodes[at].before;
                at = self.nodes[at].before;
                untried = (untried + 2).min(self.size);
            } else {
                at = self.nodes[at].after;
                untried -= 1;
            }
            self.entry = at;
        }
    }

    /// What the ring would be without a corner: those beside it move onto the line of the part that one edge then stands
    /// for.
    fn without_corner(&self, index: usize) -> Option<Less> {
        let (p, n) = (self.nodes[index].before, self.nodes[index].after);
        let (pp, nn) = (self.nodes[p].before, self.nodes[n].after);
        let [pp_anchor, p_anchor, n_anchor, nn_anchor] = [pp, p, n, nn].map(|i| self.nodes[i].corner.anchor);
        if self.boundary.is_bent(p_anchor, n_anchor, self.bounds.tolerance) {
            return None;
        }
        let line = self.boundary.line(p_anchor, n_anchor, self.bounds.goal);
        let before = self.nodes[pp].line.crossing(line)?;
        let after = self.nodes[n].line.crossing(line)?;
        let before = self.corner(before, p_anchor, (pp_anchor, n_anchor))?;
        let after = self.corner(after, n_anchor, (before.anchor, nn_anchor))?;
        Some(Less::Corner(index, self.change::<2, 3>(pp, [before, after], nn)?))
    }

    /// What the ring would be without the edge from a corner to the next: the edges beside it are drawn out until they
    /// cross.
    fn without_edge(&self, index: usize) -> Option<Less> {
        let other = self.nodes[index].after;
        let (p, n) = (self.nodes[index].before, self.nodes[other].after);
        let [p_anchor, i_anchor, o_anchor, n_anchor] = [p, index, other, n].map(|i| self.nodes[i].corner.anchor);
        let place = self.nodes[p].line.crossing(self.nodes[other].line)?;
        let middle = self.boundary.ahead(i_anchor, self.boundary.steps(i_anchor, o_anchor) / 2);
        let corner = self.corner(place, middle, (p_anchor, n_anchor))?;
        Some(Less::Edge(index, self.change::<1, 2>(p, [corner], n)?))
    }

    /// The area that a ring with one corner less has between itself and the boundary more than this one, px2.
    fn cost(&self, less: &Less) -> f64 {
        let area = |node: usize| self.nodes[node].between.area;
        match less {
            Less::Corner(index, change) => {
                let (p, n) = (self.nodes[*index].before, self.nodes[*index].after);
                change.area() - area(self.nodes[p].before) - area(p) - area(*index) - area(n)
            }
            Less::Edge(index, change) => {
                change.area() - area(self.nodes[*index].before) - area(*index) - area(self.nodes[*index].after)
            }
        }
    }

    fn take(&mut self, less: &Less) {
        match less {
            Less::Corner(index, change) => {
                let (p, n) = (self.nodes[*index].before, self.nodes[*index].after);
                let pp = self.nodes[p].before;
                // The node stays a way to its neighbours for whoever stands on it.
                self.nodes[*index].gone = true;
                self.nodes[p].after = n;
                self.nodes[n].before = p;
                self.put(pp, [p, n], change);
                self.entry = p;
            }
            Less::Edge(index, change) => {
                let other = self.nodes[*index].after;
                let (p, n) = (self.nodes[*index].before, self.nodes[other].after);
                self.nodes[other].gone = true;
                self.nodes[*index].after = n;
                self.nodes[n].before = *index;
                self.put(p, [*index], change);
                self.entry = *index;
            }
        }
        self.size -= 1;
    }

    /// What goes at a node for the least cost: its corner, or the edge from there on.
    fn cheapest_at(&self, node: usize) -> Option<(f64, Less)> {
        const FEWEST: usize = 3;
        if self.size <= FEWEST {
            return None;
        }
        let tried = [self.without_corner(node), self.without_edge(node)].into_iter().flatten();
        let costs = tried.map(|less| (self.cost(&less), less));
        costs.reduce(|best, other| if other.0 < best.0 { other } else { best })
    }

    fn offer(&self, ring: usize, node: usize) -> Option<Reverse<Offer>> {
        let (cost, _) = self.cheapest_at(node)?;
        Some(Reverse(Offer { cost, ring, node, version: self.nodes[node].version }))
    }

    /// Takes a change over, for nodes that follow each other after `first`.
    fn put<const N: usize, const EDGES: usize>(&mut self, first: usize, nodes: [usize; N], change: &Change<N, EDGES>) {
        for (node, corner) in nodes.into_iter().zip(change.corners) {
            self.nodes[node].corner = corner;
        }
        for (node, edge) in [first].into_iter().chain(nodes).zip(change.edges) {
            let (from, next) = (self.nodes[node].corner.anchor, self.nodes[node].after);
            let line = self.boundary.line(from, self.nodes[next].corner.anchor, self.bounds.goal);
            self.nodes[node] = Node { between: edge, line, ..self.nodes[node] };
        }
    }

    /// Moves each corner to where the lines on its both sides cross, or half the way there, where that brings the
    /// outline closer.
    fn move_corners(&mut self) {
        let mut index = self.entry;
        for _ in 0..self.size {
            let Node { corner, before, after, .. } = self.nodes[index];
            let anchors = (self.nodes[before].corner.anchor, self.nodes[after].corner.anchor);
            let (coming, going) = (self.nodes[before].line, self.nodes[index].line);
            let known = self.nodes[before].between.area + self.nodes[index].between.area;
            if let Some(place) = coming.crossing(going) {
                for share in [1.0, 0.5] {
                    let place = corner.at + (place - corner.at) * share;
                    let moved = self.corner(place, corner.anchor, anchors);
                    let change = moved.and_then(|moved| self.change::<1, 2>(before, [moved], after));
                    if let Some(change) = change.filter(|change| change.area() < known) {
                        self.put(before, [index], &change);
                        break;
                    }
                }
            }
            index = after;
        }
    }
}
