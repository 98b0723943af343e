//! What could change at a corner or an edge of an outline, and what it would cost.

use super::{Change, Corner, Ends, MOST_NEW, Node, Ring};
use crate::fit::chain::Between;

/// A corner of the boundary as a new one on an edge, with the edges on its both sides.
#[derive(Clone, Copy, Debug)]
struct Split {
    corner: Corner,
    edges: [Between; 2],
}

/// By node: the edge looked at last and the corner that splits it best, which does not depend on anything else.
#[derive(Debug, Default)]
pub(in crate::fit) struct Splits(Vec<Option<SplitOf>>);

#[derive(Clone, Copy, Debug)]
struct SplitOf {
    edge: [Corner; 2],
    best: Option<Split>,
}

impl Split {
    /// Area between the two edges and the boundary, px2.
    fn cost(&self) -> f64 {
        self.edges[0].area + self.edges[1].area
    }
}

impl Splits {
    fn of(&mut self, node: usize, edge: [Corner; 2], find: impl FnOnce() -> Option<Split>) -> Option<Split> {
        if self.0.len() <= node {
            self.0.resize(node + 1, None);
        }
        if let Some(known) = self.0[node].filter(|known| known.edge == edge) {
            return known.best;
        }
        let best = find();
        self.0[node] = Some(SplitOf { edge, best });
        best
    }
}

impl Ring<'_> {
    /// What the ring would be without a corner: those beside it move onto the line of the part that one edge then stands
    /// for.
    pub(super) fn without_corner(&self, index: usize, limit: f64) -> Option<Change> {
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
        self.change(Ends { first: pp, last: nn }, [before, after], limit)
    }

    /// What the ring would be without the edge from a corner to the next: the edges beside it are drawn out until they
    /// cross.
    pub(super) fn without_edge(&self, index: usize, limit: f64) -> Option<Change> {
        let other = self.nodes[index].after;
        let (p, n) = (self.nodes[index].before, self.nodes[other].after);
        let [p_anchor, i_anchor, o_anchor, n_anchor] = [p, index, other, n].map(|i| self.nodes[i].corner.anchor);
        let place = self.nodes[p].line.crossing(self.nodes[other].line)?;
        let middle = self.boundary.ahead(i_anchor, self.boundary.steps(i_anchor, o_anchor) / 2);
        let corner = self.corner(place, middle, (p_anchor, n_anchor))?;
        self.change(Ends { first: p, last: n }, [corner], limit)
    }

    /// What may go at a node, the cheapest first: its corner, those beside it moved or not, or the edge from there on.
    pub(in crate::fit) fn less_at(&self, node: usize) -> impl Iterator<Item = Change> {
        let any = f64::INFINITY;
        let mut found = [None; 3];
        if self.may_lose() {
            found = [self.without_corner(node, any), self.without_edge(node, any), self.without_moves(node)];
        }
        let cost = |change: &Option<Change>| change.map_or(f64::INFINITY, |change| change.cost);
        found.sort_by(|a, b| cost(a).total_cmp(&cost(b)));
        found.into_iter().flatten()
    }

    /// The first of these.
    pub(in crate::fit) fn least_at(&self, node: usize) -> Option<Change> {
        if !self.may_lose() {
            return None;
        }
        // What is quick to look at bounds the others.
        let plain = self.without_moves(node);
        let cost = |change: &Option<Change>| change.map_or(f64::INFINITY, |change| change.cost);
        let edge = self.without_edge(node, cost(&plain));
        let corner = self.without_corner(node, cost(&plain).min(cost(&edge)));
        least([corner, edge, plain].into_iter().flatten())
    }

    fn may_lose(&self) -> bool {
        const FEWEST: usize = 3;
        self.size > FEWEST
    }

    /// What the ring would be without a corner, all others where they are.
    fn without_moves(&self, node: usize) -> Option<Change> {
        let Node { before, after, .. } = self.nodes[node];
        self.change(Ends { first: before, last: after }, [], f64::INFINITY)
    }

    /// One corner more at the edge from a node that takes away the most area; `None` where none does.
    ///
    /// # Complexity
    /// O(corners of the part that the edge stands for).
    pub(in crate::fit) fn closest_at(&self, node: usize, splits: &mut Splits) -> Option<Change> {
        let next = self.nodes[node].after;
        let edge = [node, next].map(|node| self.nodes[node].corner);
        let split = splits.of(node, edge, || self.split(node))?;
        let corner = Change {
            first: node,
            last: next,
            count: 1,
            corners: [split.corner; MOST_NEW],
            edges: [split.edges[0], split.edges[1], Between::default(), Between::default()],
            cost: split.cost() - self.nodes[node].between.area,
        };
        let lines = self.with_lines(node, split.corner.anchor, corner.cost.min(0.0));
        least([Some(corner), lines].into_iter().flatten()).filter(|more| more.cost < 0.0)
    }

    /// The corner of the part of a node's edge that splits it best.
    fn split(&self, node: usize) -> Option<Split> {
        /// Corners of the part that are tried.
        const TRIED: usize = 8;
        let [from, to] = [node, self.nodes[node].after].map(|node| self.nodes[node].corner);
        let steps = self.steps(from.anchor, to.anchor);
        let mut best: Option<Split> = None;
        for steps in (1..steps).step_by(steps.div_ceil(TRIED)) {
            let anchor = self.boundary.ahead(from.anchor, steps);
            let corner = Corner { anchor, at: self.boundary.corner(anchor) };
            let between = |a: Corner, b: Corner| self.boundary.between((a.anchor, b.anchor), (a.at, b.at), self.bounds);
            let known = best.map_or(f64::INFINITY, |best| best.cost());
            let Some(first) = between(from, corner).filter(|first| first.area < known) else { continue };
            let Some(last) = between(corner, to) else { continue };
            let split = Split { corner, edges: [first, last] };
            if split.cost() < known {
                best = Some(split);
            }
        }
        best
    }

    /// What the ring would be with two lines in place of a node's edge, those of its part up to a corner of the boundary and
    /// from there on.
    fn with_lines(&self, index: usize, anchor: usize, limit: f64) -> Option<Change> {
        let other = self.nodes[index].after;
        let (p, n) = (self.nodes[index].before, self.nodes[other].after);
        let [p_anchor, i_anchor, o_anchor, n_anchor] = [p, index, other, n].map(|i| self.nodes[i].corner.anchor);
        let goal = self.bounds.goal;
        let (coming, going) = (self.boundary.line(i_anchor, anchor, goal), self.boundary.line(anchor, o_anchor, goal));
        let first = self.nodes[p].line.crossing(coming)?;
        let middle = coming.crossing(going)?;
        let last = going.crossing(self.nodes[other].line)?;
        let first = self.corner(first, i_anchor, (p_anchor, anchor))?;
        let middle = self.corner(middle, anchor, (first.anchor, o_anchor))?;
        let last = self.corner(last, o_anchor, (middle.anchor, n_anchor))?;
        self.change(Ends { first: p, last: n }, [first, middle, last], limit)
    }
}

/// The change that costs the least, the first of equals.
fn least(changes: impl Iterator<Item = Change>) -> Option<Change> {
    changes.reduce(|best, other| if other.cost < best.cost { other } else { best })
}
