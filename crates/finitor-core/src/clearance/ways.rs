//! Which free places a body can come to from which.

use super::Stance;
use crate::geometry::{Convex, Point, Rect, TOUCH};
use crate::stage::{Effect, OneWay, Stage};
use crate::world::{Chains, Column, Gap, Space, pivots_hit};
use std::collections::{HashMap, VecDeque};

/// A place in [`Ways`]: a gap of the space, or the inside of a one-way platform's obstacle.
pub(crate) type Node = usize;

/// A way from one node to another.
#[derive(Clone, Copy, Debug)]
pub(super) struct Way {
    pub(super) to: Node,
    /// Where it is passed lowest, world y.
    pub(super) low: f64,
    /// Where a warp puts the body, world y.
    pub(super) lands: Option<f64>,
}

impl Way {
    fn open(to: Node, low: f64) -> Way {
        Way { to, low, lands: None }
    }
}

/// The nodes that a body was seen to come to, each with the least y that it can rise to in it.
pub(crate) type Seen = HashMap<Node, f64>;

/// The free places of a body's pivot as a graph: one-way platforms let through as they pass (and down, for those that pass up: a
/// drop), warps lead from where they take the body to where they put it.
pub(crate) struct Ways {
    space: Space,
    /// The node of each column's first gap.
    first: Vec<Node>,
    /// From each node.
    pub(super) ways: Vec<Vec<Way>>,
    /// Where a body rests in a node, at its highest, world y.
    pub(super) floor: Vec<Option<f64>>,
    /// Nodes that meet each of the stage's zones that looks for the body, by zone.
    pub(super) in_zone: Vec<Vec<Node>>,
    gaps: usize,
}

impl Ways {
    /// The ways of a body over an area of pivots; walls stop it beside the stage's solids. Zones for which `closes` says so are obstacles, and no way leads into them.
    pub(crate) fn new(
        stage: &Stage,
        stance: &Stance,
        walls: &[Convex],
        area: Rect,
        closes: impl Fn(Effect) -> bool,
    ) -> Ways {
        let (mut hit, _) = stance.obstacles(stage);
        let own = || stance.shapes.iter().flat_map(|shape| &shape.pieces);
        let sums = |pieces: &[Convex]| -> Vec<Convex> {
            pieces.iter().flat_map(|piece| own().map(move |own| pivots_hit(piece, own))).collect()
        };
        hit.extend(sums(walls));
        let detects = |zone: &crate::stage::Zone| zone.mask.sees(stance.layer);
        let shut = stage.zones.iter().filter(|zone| closes(zone.effect) && detects(zone));
        hit.extend(shut.flat_map(|zone| sums(&zone.outline.pieces)));
        let solid = hit.len();
        let mut platforms: Vec<(&OneWay, Vec<usize>)> = Vec::new();
        for one_way in stage.one_ways.iter().filter(|one_way| stance.mask.sees(one_way.layer)) {
            let own = sums(&one_way.outline.pieces);
            platforms.push((one_way, (hit.len()..hit.len() + own.len()).collect()));
            hit.extend(own);
        }
        let zones: Vec<Vec<Convex>> = stage
            .zones
            .iter()
            .map(|zone| if detects(zone) && !closes(zone.effect) { sums(&zone.outline.pieces) } else { Vec::new() })
            .collect();
        let marks: Vec<Convex> = zones.iter().flatten().cloned().collect();
        let space = Space::with_marks(&hit, &marks, area);
        let mut first = Vec::with_capacity(space.columns().len());
        let mut gaps = 0;
        for column in space.columns() {
            first.push(gaps);
            gaps += column.gaps.len();
        }
        let mut all = Ways {
            space,
            first,
            ways: vec![Vec::new(); gaps + platforms.len()],
            floor: Vec::new(),
            in_zone: Vec::new(),
            gaps,
        };
        all.link_columns();
        for (index, (one_way, of)) in platforms.iter().enumerate() {
            all.link_platform(
                gaps + index,
                one_way,
                &of.iter().map(|i| (*i, Chains::of(&hit[*i]))).collect::<Vec<_>>(),
            );
        }
        all.floor = all.floors(solid, &platforms);
        all.in_zone = zones.iter().map(|zone| all.meeting(zone)).collect();
        all.link_warps(stage);
        all
    }

    /// The ways that warps make.
    fn link_warps(&mut self, stage: &Stage) {
        for (zone, nodes) in stage.zones.iter().zip(self.in_zone.clone()) {
            let Some(warp) = &zone.warp else { continue };
            if let Some(to) = self.node_at(stage.landing(warp)) {
                for node in nodes {
                    self.ways[node].push(Way { to, low: f64::INFINITY, lands: Some(stage.landing(warp).y) });
                }
            }
        }
    }

    /// How many nodes are gaps; those after them are one-way platforms.
    pub(crate) fn gaps(&self) -> usize {
        self.gaps
    }

    /// The node that holds a place.
    pub(crate) fn node_at(&self, at: Point) -> Option<Node> {
        self.space.gap_at(at).map(|(column, gap)| self.first[column] + gap)
    }

    fn cells(&self) -> impl Iterator<Item = (Node, &Column, &Gap)> + '_ {
        let columns = self.space.columns().iter().zip(&self.first);
        columns.flat_map(|(column, first)| column.gaps.iter().enumerate().map(move |(i, gap)| (first + i, column, gap)))
    }

    /// The gap that a node is, with its column.
    fn gap(&self, node: Node) -> (&Column, &Gap) {
        // Columns without gaps share the first node of the next.
        let place = self.first.partition_point(|first| *first <= node) - 1;
        let column = &self.space.columns()[place];
        (column, &column.gaps[node - self.first[place]])
    }

    /// The x and y range of a node that is a gap.
    pub(crate) fn extent(&self, node: Node) -> Rect {
        let (of, gap) = self.gap(node);
        Rect::new(of.x0, gap.top[0].min(gap.top[1]), of.x1, gap.bottom[0].max(gap.bottom[1]))
    }

    /// Places in a node that is a gap: three on its floor, and its middle.
    fn places(&self, node: Node) -> [Point; 4] {
        let (of, gap) = self.gap(node);
        let x = (of.x0 + of.x1) / 2.0;
        let (low, high) = ((gap.bottom[0] + gap.bottom[1]) / 2.0, (gap.top[0] + gap.top[1]) / 2.0);
        [
            Point::new(of.x0, gap.bottom[0]),
            Point::new(x, low),
            Point::new(of.x1, gap.bottom[1]),
            Point::new(x, (low + high) / 2.0),
        ]
    }

    /// Nodes in which a body can take this one's place, of those that it was seen to come to, each with the least y that it can rise to.
    pub(crate) fn taken_over(&self, other: &Ways, seen: &Seen) -> Vec<(Node, f64)> {
        let mut found = Vec::new();
        for (node, level) in (0..other.gaps).filter_map(|node| Some((node, *seen.get(&node)?))) {
            // What lies higher it only passes on its way down from elsewhere, if at all.
            let places = other.places(node).into_iter().filter(|at| at.y >= level - TOUCH);
            found.extend(places.filter_map(|at| Some((self.node_at(at)?, level))));
        }
        for node in 0..self.gaps {
            let places = self.places(node).into_iter();
            let levels =
                places.filter_map(|at| seen.get(&other.node_at(at)?).copied().filter(|level| at.y >= level - TOUCH));
            found.extend(levels.min_by(f64::total_cmp).map(|level| (node, level)));
        }
        found
    }

    /// Gaps of neighbouring columns that share a place.
    fn link_columns(&mut self) {
        for right in 1..self.space.columns().len() {
            let (one, other) = (&self.space.columns()[right - 1], &self.space.columns()[right]);
            for (i, a) in one.gaps.iter().enumerate() {
                for (j, b) in other.gaps.iter().enumerate() {
                    let (top, bottom) = (a.top[1].max(b.top[0]), a.bottom[1].min(b.bottom[0]));
                    if bottom - top >= -TOUCH {
                        let (from, to) = (self.first[right - 1] + i, self.first[right] + j);
                        self.ways[from].push(Way::open(to, bottom));
                        self.ways[to].push(Way::open(from, bottom));
                    }
                }
            }
        }
    }

    /// Gaps that border on a one-way platform's obstacle lead into it, but not over the side that stops; all lead out.
    fn link_platform(&mut self, node: Node, one_way: &OneWay, of: &[(usize, Chains)]) {
        let way = one_way.passes.direction();
        let drops = one_way.passes.is_upward();
        let mut found: Vec<(Node, bool, f64)> = Vec::new();
        let is_own = |index: Option<usize>| index.is_some_and(|index| of.iter().any(|(own, _)| *own == index));
        for (cell, column, gap) in self.cells() {
            // A line is taken for level.
            let run = if column.x1 > column.x0 { column.x1 - column.x0 } else { 1.0 };
            // The platform's outward normal where it borders on the gap.
            if is_own(gap.below) {
                let stops = (gap.bottom[1] - gap.bottom[0]) * way.x - run * way.y > TOUCH;
                found.push((cell, stops, gap.bottom[0].max(gap.bottom[1])));
            }
            if is_own(gap.above) {
                let stops = run * way.y - (gap.top[1] - gap.top[0]) * way.x > TOUCH;
                found.push((cell, stops, gap.top[0].max(gap.top[1])));
            }
            for (_, chains) in of {
                for (x, out) in [(chains.left(), -1.0), (chains.right(), 1.0)] {
                    if column.x0 == column.x1 && (column.x0 - x).abs() <= TOUCH {
                        let (top, bottom) = (gap.top[0].max(chains.top(x)), gap.bottom[0].min(chains.bottom(x)));
                        if bottom - top > TOUCH {
                            found.push((cell, out * way.x > TOUCH, bottom));
                        }
                    }
                }
            }
        }
        for (cell, stops, low) in found {
            if !stops || drops {
                self.ways[cell].push(Way::open(node, low));
            }
            self.ways[node].push(Way::open(cell, low));
        }
    }

    fn floors(&self, solids: usize, platforms: &[(&OneWay, Vec<usize>)]) -> Vec<Option<f64>> {
        let mut floor = vec![None; self.ways.len()];
        for (node, _, gap) in self.cells() {
            let rests = gap.below.is_some_and(|below| {
                let lets_down =
                    |(one_way, of): &(&OneWay, Vec<usize>)| of.contains(&below) && !one_way.passes.is_upward();
                below < solids || !platforms.iter().any(lets_down)
            });
            if rests {
                floor[node] = Some(gap.bottom[0].min(gap.bottom[1]));
            }
        }
        floor
    }

    /// The gaps that meet an outline of pivots.
    fn meeting(&self, pieces: &[Convex]) -> Vec<Node> {
        let chains: Vec<Chains> = pieces.iter().map(Chains::of).collect();
        let meets = |(node, column, gap): (Node, &Column, &Gap)| {
            let x = (column.x0 + column.x1) / 2.0;
            let (top, bottom) = ((gap.top[0] + gap.top[1]) / 2.0, (gap.bottom[0] + gap.bottom[1]) / 2.0);
            let over = chains.iter().filter(|of| of.left() < x && x < of.right());
            let mut shared = over.map(|of| bottom.min(of.bottom(x)) - top.max(of.top(x)));
            shared.any(|shared| shared > -TOUCH).then_some(node)
        };
        self.cells().filter_map(meets).collect()
    }

    /// Visits every node that can be come to from some, each with the y it is left at, never rising more than `jump` above the
    /// last floor; stops where `stop` says so, and tells whether it did. What is seen of a node is the least y that the body can
    /// rise to in it.
    ///
    /// # Complexity
    /// O(w f), w ways and f floors that raise the body further, few of them in practice.
    pub(crate) fn visit(&self, from: &[(Node, f64)], jump: f64, stop: impl Fn(Node) -> bool) -> (Seen, bool) {
        // The nearest first, and no more memory than is seen: most searches end soon.
        let mut seen = Seen::new();
        let mut open: VecDeque<(Node, f64)> = from.iter().copied().collect();
        while let Some((node, level)) = open.pop_front() {
            let level = self.floor[node].map_or(level, |floor| level.min(floor - jump));
            if seen.get(&node).is_some_and(|known| *known <= level) {
                continue;
            }
            if stop(node) {
                return (seen, true);
            }
            seen.insert(node, level);
            for way in &self.ways[node] {
                match way.lands {
                    Some(y) => open.push_back((way.to, y - jump)),
                    None if way.low >= level - TOUCH => open.push_back((way.to, level)),
                    None => {}
                }
            }
        }
        (seen, false)
    }
}
