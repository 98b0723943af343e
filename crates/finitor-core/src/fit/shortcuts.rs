//! Which corners of a boundary may be skipped, and the fewest that may not.

use super::Keep;
use crate::geometry::{Point, squared_distance, turn};

/// Room for rounding when a distance is compared with the tolerance, px.
const ROUNDING: f64 = 1e-9;

/// The allowed straight ways between corners of a closed ring: from each corner the number of steps ahead, ascending,
/// the first always 1 (the ring's own edge), each with its cost in area.
#[derive(Debug)]
pub(super) struct Shortcuts {
    ways: Vec<Vec<Way>>,
}

#[derive(Clone, Copy, Debug)]
struct Way {
    steps: usize,
    /// Area between the way and the chain it replaces, px2.
    area: f64,
}

impl Shortcuts {
    /// All ways that stay within `tolerance` of the chain they replace. With [`Keep::Cover`] the chain must also lie
    /// on the right of the way, the inner side, so that area is only added.
    ///
    /// A way's distance to its chain and the chain's to the way are both bounded by the largest distance of a corner
    /// of the chain to the way: the chain stays in the tube round the way, and passes every point of it.
    ///
    /// # Complexity
    /// O(n k2), n corners, k the steps after which no straight line stays within the tolerance.
    ///
    /// # Source
    /// Hiroshi Imai and Masao Iri, "Polygonal approximations of a curve: formulations and algorithms", Computational
    /// Morphology (1988); the narrowing wedge: W. S. Chan and F. Chin, "Approximation of polygonal curves with minimum
    /// number of line segments or minimum error", IJCGA 6 (1996).
    pub(super) fn new(ring: &[Point], tolerance: f64, keep: Keep) -> Shortcuts {
        let ways = (0..ring.len()).map(|from| ways_from(ring, from, tolerance, keep)).collect();
        Shortcuts { ways }
    }

    /// Takes one way out, unless it is an edge of the ring itself. Tells whether it was there.
    pub(super) fn forbid(&mut self, from: usize, steps: usize) -> bool {
        let ways = &mut self.ways[from];
        let before = ways.len();
        ways.retain(|way| way.steps == 1 || way.steps != steps);
        ways.len() < before
    }

    /// The closed way round with the fewest corners, and of those the one with the least area off; as indices.
    ///
    /// A closed way has a corner at any given place, or at the start of a shortcut over it. The place with the fewest such
    /// shortcuts is taken, and only those starts are tried.
    ///
    /// # Complexity
    /// O(m s), m allowed ways, s starts tried: as a rule a handful.
    pub(super) fn shortest_cycle(&self) -> Vec<usize> {
        let n = self.ways.len();
        let mut best: Option<((usize, f64), Vec<usize>)> = None;
        for start in self.starts() {
            let Some((cost, cycle)) = self.cycle_through(start) else { continue };
            let better =
                best.as_ref().is_none_or(|((count, area), _)| cost.0 < *count || (cost.0 == *count && cost.1 < *area));
            if better {
                best = Some((cost, cycle));
            }
        }
        best.map_or_else(|| (0..n).collect(), |(_, cycle)| cycle)
    }

    /// Corners of which every closed way has one at least.
    fn starts(&self) -> Vec<usize> {
        let n = self.ways.len();
        let reach = |from: usize| self.ways[from].last().map_or(1, |way| way.steps);
        // How many corners have a shortcut over each place, by where such runs of places begin and end.
        let mut change = vec![0_i64; 2 * n + 1];
        for from in 0..n {
            change[from + 1] += 1;
            change[from + reach(from)] -= 1;
        }
        let mut jumped = vec![0_i64; n];
        let mut running = 0;
        for place in 0..2 * n {
            running += change[place];
            jumped[place % n] += running;
        }
        let place = (0..n).min_by_key(|&place| jumped[place]).unwrap_or(0);
        let over = (1..n).map(|back| (place + n - back) % n).filter(|&from| reach(from) > (place + n - from) % n);
        [place].into_iter().chain(over).collect()
    }

    /// The best closed way through a corner with three corners at least: two enclose nothing.
    fn cycle_through(&self, start: usize) -> Option<((usize, f64), Vec<usize>)> {
        const ENOUGH: usize = 3;
        let n = self.ways.len();
        let unreached = (usize::MAX, f64::INFINITY);
        // By corner and by the number of ways taken so far, counted up to enough.
        let mut cost = vec![[unreached; ENOUGH + 1]; n + 1];
        let mut from = vec![[(0, 0); ENOUGH + 1]; n + 1];
        cost[0][0] = (0, 0.0);
        for at in 0..n {
            for taken in 0..=ENOUGH {
                let (count, area) = cost[at][taken];
                if count == usize::MAX {
                    continue;
                }
                for way in self.ways[(start + at) % n].iter().take_while(|way| at + way.steps <= n) {
                    let (to, then) = (at + way.steps, (taken + 1).min(ENOUGH));
                    let (reached, known) = ((count + 1, area + way.area), cost[to][then]);
                    if reached.0 < known.0 || (reached.0 == known.0 && reached.1 < known.1) {
                        cost[to][then] = reached;
                        from[to][then] = (at, taken);
                    }
                }
            }
        }
        let total = cost[n][ENOUGH];
        if total.0 == usize::MAX {
            return None;
        }
        let mut cycle = Vec::with_capacity(total.0);
        let mut state = (n, ENOUGH);
        while state.0 > 0 {
            state = from[state.0][state.1];
            cycle.push((start + state.0) % n);
        }
        cycle.reverse();
        Some((total, cycle))
    }
}

fn ways_from(ring: &[Point], from: usize, tolerance: f64, keep: Keep) -> Vec<Way> {
    let n = ring.len();
    let origin = ring[from];
    let mut ways = Vec::new();
    let mut wedge = Wedge::new(tolerance + ROUNDING);
    let mut chain_area = 0.0;
    for steps in 1..n - 1 {
        let goal = ring[(from + steps) % n];
        let before = ring[(from + steps - 1) % n];
        chain_area += (before - origin).cross(goal - origin) / 2.0;
        let chain = (1..steps).map(|k| ring[(from + k) % n]);
        if steps == 1 {
            ways.push(Way { steps, area: 0.0 });
        } else if wedge.admits(goal - origin) && stays_near(chain, (origin, goal), tolerance, keep) {
            ways.push(Way { steps, area: chain_area.abs() });
        }
        if !wedge.narrow(goal - origin) {
            break;
        }
    }
    ways
}

fn stays_near(mut chain: impl Iterator<Item = Point>, way: (Point, Point), tolerance: f64, keep: Keep) -> bool {
    let limit = (tolerance + ROUNDING) * (tolerance + ROUNDING);
    way.0 != way.1
        && chain.all(|corner| {
            squared_distance(corner, way) <= limit && (keep == Keep::Balance || turn(way.0, way.1, corner) >= 0.0)
        })
}

/// The directions in which a line from the origin passes every point so far within the tolerance.
struct Wedge {
    tolerance: f64,
    /// Middle direction of the first bound, and the range of angles around it, radians.
    range: Option<(kurbo::Vec2, f64, f64)>,
}

impl Wedge {
    fn new(tolerance: f64) -> Wedge {
        Wedge { tolerance, range: None }
    }

    fn admits(&self, to: kurbo::Vec2) -> bool {
        self.range.is_none_or(|(middle, low, high)| {
            let angle = middle.cross(to).atan2(middle.dot(to));
            angle >= low - ROUNDING && angle <= high + ROUNDING
        })
    }

    /// Adds a point to pass; false when no direction is left.
    fn narrow(&mut self, past: kurbo::Vec2) -> bool {
        let distance = past.hypot();
        if distance <= self.tolerance {
            return true;
        }
        let half = (self.tolerance / distance).asin();
        let (middle, low, high) = self.range.unwrap_or((past, -half, half));
        // The first bound is at most a quarter turn to either side, so a bound that wraps round behind cannot meet it.
        let angle = middle.cross(past).atan2(middle.dot(past));
        let (low, high) = (low.max(angle - half), high.min(angle + half));
        self.range = Some((middle, low, high));
        low <= high + ROUNDING
    }
}
