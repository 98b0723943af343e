//! Which corners of a boundary may be skipped, and the fewest that may not.

use super::FitGoal;
use super::wedge::{Sector, Wedge};
use crate::geometry::{Point, Vec2, squared_distance};

/// Room for rounding when a distance is compared with the tolerance, px.
pub(super) const ROUNDING: f64 = 1e-9;

/// The allowed straight ways between corners of a closed ring: from each corner the number of steps ahead, ascending,
/// the first always 1 (the ring's own edge), each with its cost.
#[derive(Debug)]
pub(super) struct Shortcuts {
    /// By corner: where its ways begin in `ways`; one more for the end of the last.
    first: Vec<u32>,
    ways: Vec<Way>,
}

/// A straight way from a corner.
#[derive(Clone, Copy, Debug)]
pub(super) struct Way {
    pub(super) steps: u32,
    /// [`CORNER`] and twice the area between the way and the chain it replaces, px2; infinite for one given up.
    cost: f64,
}

impl Way {
    /// Twice the area between it and the chain that it replaces, px2.
    pub(super) fn twice_area(&self) -> f64 {
        self.cost - CORNER
    }
}

/// What a corner costs: more than all area of a cell of 8192 x 8192 px. Areas of lattice rings are whole when doubled,
/// so sums are exact and one number orders ways by corners first, then by area.
const CORNER: f64 = (1_u64 << 27) as f64;

impl Shortcuts {
    /// All ways that stay within `tolerance` of the chain they replace. With [`FitGoal::Cover`] the chain must also lie
    /// on the right of the way, the inner side, so that area is only added; with [`FitGoal::Inside`] on the left.
    ///
    /// A way's distance to its chain and the chain's to the way are both bounded by the largest distance of a corner
    /// of the chain to the way: the chain stays in the tube round the way, and passes every point of it.
    ///
    /// # Complexity
    /// O(n k), n corners, k the steps after which no straight line stays within the tolerance.
    ///
    /// # Source
    /// Hiroshi Imai and Masao Iri, "Polygonal approximations of a curve: formulations and algorithms", Computational
    /// Morphology (1988), with the narrowing [`Wedge`].
    pub(super) fn new(ring: &[Point], tolerance: f64, goal: FitGoal) -> Shortcuts {
        let n = ring.len();
        // Twice round, so that no index wraps.
        let round: Vec<Point> = ring.iter().chain(ring).copied().collect();
        let mut first = Vec::with_capacity(n + 1);
        let mut ways = Vec::with_capacity(8 * n);
        for from in 0..n {
            first.push(ways.len() as u32);
            ways_from(&round[from..from + n], tolerance, goal, &mut ways);
        }
        first.push(ways.len() as u32);
        Shortcuts { first, ways }
    }

    /// Those of the ring.
    pub(super) fn corners(&self) -> usize {
        self.first.len() - 1
    }

    fn range(&self, from: usize) -> std::ops::Range<usize> {
        self.first[from] as usize..self.first[from + 1] as usize
    }

    pub(super) fn ways(&self, from: usize) -> &[Way] {
        &self.ways[self.range(from)]
    }

    /// Gives one way up, unless it is an edge of the ring itself. Tells whether it was there.
    pub(super) fn forbid(&mut self, from: usize, steps: usize) -> bool {
        let range = self.range(from);
        let way = self.ways[range].iter_mut().find(|way| way.steps as usize == steps && way.steps > 1);
        way.is_some_and(|way| std::mem::replace(&mut way.cost, f64::INFINITY).is_finite())
    }

    /// The closed way round with the fewest corners, three at least, and of those the one with the least area off; as
    /// indices.
    ///
    /// A closed way has a corner at any given place, or at the start of a shortcut over it. The place with the fewest such
    /// shortcuts is taken, and only those starts are tried, all in one pass.
    ///
    /// # Complexity
    /// O(m s), m allowed ways, s starts tried: as a rule a handful.
    pub(super) fn shortest_cycle(&self) -> Vec<usize> {
        const FEWEST: usize = 3;
        let starts = self.starts();
        let best = self.best_start(&starts);
        let cycle = self.path_from(best);
        if cycle.len() >= FEWEST {
            return cycle;
        }
        // Two corners enclose nothing: small rings at a large tolerance. Then ways are counted as they are taken.
        let mut best: Option<(f64, Vec<usize>)> = None;
        for start in starts {
            if let Some((cost, cycle)) = self.path_of_three(start)
                && best.as_ref().is_none_or(|(known, _)| cost < *known)
            {
                best = Some((cost, cycle));
            }
        }
        best.map_or_else(|| (0..self.corners()).collect(), |(_, cycle)| cycle)
    }

    /// Corners of which every closed way has one at least: a place, and before it those with ways over it, backward.
    fn starts(&self) -> Vec<usize> {
        let n = self.corners();
        let reach: Vec<usize> = (0..n).map(|from| self.ways(from).last().map_or(1, |way| way.steps as usize)).collect();
        // How many corners have a shortcut over each place, by where such runs of places begin and end.
        let mut change = vec![0_i32; 2 * n + 1];
        for from in 0..n {
            change[from + 1] += 1;
            change[from + reach[from]] -= 1;
        }
        let mut jumped = vec![0_i32; n];
        let mut running = 0;
        for place in 0..2 * n {
            running += change[place];
            jumped[if place < n { place } else { place - n }] += running;
        }
        let place = (0..n).min_by_key(|&place| jumped[place]).unwrap_or(0);
        let over = (1..n).map(|back| (back, (place + n - back) % n)).filter(|&(back, from)| reach[from] > back);
        std::iter::once(place).chain(over.map(|(_, from)| from)).collect()
    }

    /// The start with the cheapest closed way; the first of equals.
    fn best_start(&self, starts: &[usize]) -> usize {
        const LANES: usize = 4;
        let n = self.corners();
        let place = starts[0];
        let back = |start: usize| (place + n - start) % n;
        let mut best = (f64::INFINITY, place);
        if starts.len() == 1 {
            return place;
        }
        for group in starts.chunks(LANES) {
            // Positions count from the earliest start on; each lane has its own first and last one.
            let earliest = group.iter().map(|start| back(*start)).max().unwrap_or(0);
            let origin = (place + n - earliest) % n;
            let mut first = [usize::MAX; LANES];
            group.iter().enumerate().for_each(|(lane, start)| first[lane] = earliest - back(*start));
            let mut cost = vec![[f64::INFINITY; LANES]; n + earliest + 1];
            for at in 0..n + earliest {
                for lane in 0..LANES {
                    if first[lane] == at {
                        cost[at][lane] = 0.0;
                    }
                }
                let so_far = cost[at];
                let corner = origin + at;
                let corner = if corner >= 2 * n {
                    corner - 2 * n
                } else if corner >= n {
                    corner - n
                } else {
                    corner
                };
                for way in self.ways(corner) {
                    let Some(known) = cost.get_mut(at + way.steps as usize) else { break };
                    for lane in 0..LANES {
                        let reached = so_far[lane] + way.cost;
                        known[lane] = if reached < known[lane] { reached } else { known[lane] };
                    }
                }
            }
            for (lane, start) in group.iter().enumerate() {
                let total = cost[first[lane] + n][lane];
                if total < best.0 {
                    best = (total, *start);
                }
            }
        }
        best.1
    }

    /// The cheapest closed way through a corner.
    fn path_from(&self, start: usize) -> Vec<usize> {
        let n = self.corners();
        let mut cost = vec![f64::INFINITY; n + 1];
        let mut from = vec![0_u32; n + 1];
        cost[0] = 0.0;
        for at in 0..n {
            let so_far = cost[at];
            let corner = if start + at < n { start + at } else { start + at - n };
            for way in self.ways(corner) {
                let to = at + way.steps as usize;
                if to > n {
                    break;
                }
                if so_far + way.cost < cost[to] {
                    cost[to] = so_far + way.cost;
                    from[to] = at as u32;
                }
            }
        }
        let mut cycle = Vec::new();
        let mut at = n;
        while at > 0 {
            at = from[at] as usize;
            cycle.push((start + at) % n);
        }
        cycle.reverse();
        cycle
    }

    /// The cheapest closed way through a corner with three corners at least, and its cost.
    fn path_of_three(&self, start: usize) -> Option<(f64, Vec<usize>)> {
        const ENOUGH: usize = 3;
        let n = self.corners();
        // By corner and by the number of ways taken so far, counted up to enough.
        let mut cost = vec![[f64::INFINITY; ENOUGH + 1]; n + 1];
        let mut from = vec![[(0, 0); ENOUGH + 1]; n + 1];
        cost[0][0] = 0.0;
        for at in 0..n {
            for taken in 0..=ENOUGH {
                let so_far = cost[at][taken];
                if so_far.is_infinite() {
                    continue;
                }
                for way in self.ways((start + at) % n).iter().take_while(|way| at + way.steps as usize <= n) {
                    let (to, then) = (at + way.steps as usize, (taken + 1).min(ENOUGH));
                    if so_far + way.cost < cost[to][then] {
                        cost[to][then] = so_far + way.cost;
                        from[to][then] = (at, taken);
                    }
                }
            }
        }
        let total = cost[n][ENOUGH];
        if total.is_infinite() {
            return None;
        }
        let mut cycle = Vec::new();
        let mut state = (n, ENOUGH);
        while state.0 > 0 {
            state = from[state.0][state.1];
            cycle.push((start + state.0) % n);
        }
        cycle.reverse();
        Some((total, cycle))
    }
}

/// The ways from the first corner of a ring.
fn ways_from(ring: &[Point], tolerance: f64, goal: FitGoal, ways: &mut Vec<Way>) {
    let n = ring.len();
    let origin = ring[0];
    let limit = (tolerance + ROUNDING) * (tolerance + ROUNDING);
    let mut wedge = Wedge::new(tolerance + ROUNDING);
    let mut sector = Sector::new();
    let mut twice_area = 0.0;
    let mut farthest = 0.0;
    let mut before = Vec2::ZERO;
    for (steps, corner) in ring.iter().enumerate().take(n - 1).skip(1) {
        let chord = *corner - origin;
        twice_area += before.cross(chord);
        before = chord;
        let distance = chord.hypot2();
        if steps == 1 {
            ways.push(Way { steps: 1, cost: CORNER });
        } else if distance > 0.0 && wedge.admits(chord) {
            let chain = &ring[1..steps];
            // Corners of a lattice are whole numbers, and so the sign is exact.
            let lies_beside = |side: f64| {
                let one_by_one = || chain.iter().all(|p| side * chord.cross(*p - origin) >= 0.0);
                sector.lies_beside(chord, side).unwrap_or_else(one_by_one)
            };
            let side = match goal {
                FitGoal::Balance => true,
                FitGoal::Cover => lies_beside(1.0),
                FitGoal::Inside => lies_beside(-1.0),
            };
            // The wedge sees to the points beside the way and before it; beyond its end lie none where it ends farther
            // off than all of them.
            let near = |p: &Point| squared_distance(*p, (origin, *corner)) <= limit;
            let ends_last = side && (distance >= farthest || chain.iter().all(near));
            if ends_last {
                ways.push(Way { steps: steps as u32, cost: CORNER + twice_area.abs() });
            }
        }
        if !wedge.narrow(chord) {
            break;
        }
        if goal != FitGoal::Balance {
            sector.take(chord);
        }
        farthest = f64::max(farthest, distance);
    }
}
