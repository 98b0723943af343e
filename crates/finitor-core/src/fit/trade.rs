//! Corners traded between places of outlines.

use super::crossings::Crossings;
use super::ring::{Change, Ring};

/// Adds corners where they gain the most area until there are `most`; then trades them, one more there against one less where that costs
/// the least, for as long as the outlines come closer so. What greed dropped too early comes back.
///
/// # Complexity
/// O(corners of the boundary parts near + corners of the outlines) a corner that is added or traded.
pub(super) fn trade(rings: &mut [Ring<'_>], crossings: &Crossings, most: usize) {
    /// Gains below this are rounding, px2.
    const LEAST: f64 = 0.01;
    /// Places that are tried in vain before it ends, and trades a corner.
    const MOST_IN_VAIN: usize = 4;
    const MOST_EACH: usize = 2;
    let mut offers: Vec<Offers> = rings.iter().map(Offers::new).collect();
    let mut size: usize = rings.iter().map(Ring::size).sum();
    let mut in_vain = 0;
    for _ in 0..MOST_EACH * most {
        let Some(more) = best(&offers, |of| &of.more).filter(|more| more.cost < -LEAST) else { return };
        let change =
            rings[more.ring].closest_at(more.node).filter(|change| crossings.is_clear(rings, more.ring, change));
        let Some(change) = change else {
            offers[more.ring].more[more.node] = f64::INFINITY;
            continue;
        };
        let known = (rings[more.ring].clone(), offers[more.ring].clone());
        rings[more.ring].take(&change);
        offers[more.ring].look(&rings[more.ring], Looked::Less, &change);
        if size < most {
            size += 1;
            offers[more.ring].look(&rings[more.ring], Looked::More, &change);
            continue;
        }
        let less = best(&offers, |of| &of.less).filter(|less| less.cost + more.cost < -LEAST);
        let found = less.as_ref().and_then(|less| rings[less.ring].less_at(less.node).next());
        if let (Some(less), Some(drop)) = (less, found)
            && crossings.is_clear(rings, less.ring, &drop)
        {
            offers[more.ring].look(&rings[more.ring], Looked::More, &change);
            let (ring, offers) = (&mut rings[less.ring], &mut offers[less.ring]);
            let gone = ring.take(&drop);
            gone.into_iter().for_each(|gone| offers.forget(gone));
            offers.look(ring, Looked::Less, &drop);
            offers.look(ring, Looked::More, &drop);
            in_vain = 0;
        } else {
            (rings[more.ring], offers[more.ring]) = known;
            // Until something changes near.
            offers[more.ring].more[more.node] = f64::INFINITY;
            in_vain += 1;
            if in_vain == MOST_IN_VAIN {
                return;
            }
        }
    }
}

/// What changes to an outline would cost, by node, px2; infinite where there is none.
#[derive(Clone)]
struct Offers {
    /// Without its corner, or its edge.
    less: Vec<f64>,
    /// With a corner more on its edge.
    more: Vec<f64>,
}

/// Which offers are looked at.
#[derive(Clone, Copy)]
enum Looked {
    Less,
    More,
}

/// The cheapest offer of all.
struct Best {
    cost: f64,
    ring: usize,
    node: usize,
}

fn best(offers: &[Offers], of: impl Fn(&Offers) -> &[f64]) -> Option<Best> {
    let all = offers.iter().enumerate().flat_map(|(ring, offers)| {
        of(offers).iter().enumerate().map(move |(node, cost)| Best { cost: *cost, ring, node })
    });
    all.reduce(|best, other| if other.cost < best.cost { other } else { best })
}

impl Offers {
    fn new(ring: &Ring<'_>) -> Offers {
        let mut offers = Offers { less: Vec::new(), more: Vec::new() };
        offers.look_at(ring, Looked::Less, ring.all());
        offers.look_at(ring, Looked::More, ring.all());
        offers
    }

    /// Looks again near a change that was taken.
    fn look(&mut self, ring: &Ring<'_>, looked: Looked, change: &Change) {
        self.look_at(ring, looked, ring.near(change));
    }

    fn look_at(&mut self, ring: &Ring<'_>, looked: Looked, nodes: impl Iterator<Item = usize>) {
        let costs = match looked {
            Looked::Less => &mut self.less,
            Looked::More => &mut self.more,
        };
        costs.resize(ring.nodes(), f64::INFINITY);
        for node in nodes {
            let change: Option<Change> = match looked {
                Looked::Less => ring.less_at(node).next(),
                Looked::More => ring.closest_at(node),
            };
            costs[node] = change.map_or(f64::INFINITY, |change| change.cost);
        }
    }

    /// Offers nothing at a node that is gone.
    fn forget(&mut self, node: usize) {
        (self.less[node], self.more[node]) = (f64::INFINITY, f64::INFINITY);
    }
}

#[cfg(test)]
mod tests {
    use super::super::FitGoal;
    use super::super::chain::Bounds;
    use super::super::island::Island;
    use super::super::reduce::drop_to;
    use super::*;
    use crate::art::{Mask, contours};
    use crate::geometry::{Point, ring_area};
    use crate::testing::dice::Dice;

    /// Discs, some of which run into each other.
    fn discs(seed: u64) -> Mask {
        let mut dice = Dice::new(seed);
        let discs: Vec<[i64; 3]> = (0..6)
            .map(|_| [10 + dice.below(28) as i64, 10 + dice.below(28) as i64, 3 + dice.below(6) as i64])
            .collect();
        let is_in = |x: u32, y: u32| {
            let (x, y) = (i64::from(x), i64::from(y));
            discs.iter().any(|[cx, cy, r]| (x - cx).pow(2) + (y - cy).pow(2) <= r * r)
        };
        Mask::from_fn(48, 48, is_in).filled()
    }

    fn area(rings: &[Ring<'_>]) -> f64 {
        let points = |ring: &Ring<'_>| ring.corners().iter().map(|corner| corner.at).collect::<Vec<Point>>();
        rings.iter().map(|ring| ring_area(&points(ring))).sum()
    }

    #[test]
    fn traded_corners_bring_covering_outlines_closer() {
        let bounds = Bounds { tolerance: 1e6, goal: FitGoal::Cover };
        let (mut closer, mut traded, mut none_to_drop) = (0.0, 0, 0);
        for seed in 0..40 {
            let rings = contours(&discs(seed));
            let islands: Vec<Island> = rings.iter().map(|ring| Island::traced(ring, bounds, f64::INFINITY)).collect();
            let crossings = Crossings::new(bounds.goal, &islands);
            let whole = |island: &'_ Island| (0..island.boundary().ring().len()).collect::<Vec<_>>();
            let start = islands.iter().map(|island| Ring::new(island.boundary(), &whole(island), bounds).unwrap());
            let mut outlines: Vec<Ring<'_>> = start.collect();
            let most = 6 * outlines.len();
            if drop_to(&mut outlines, &crossings, most).is_none() {
                none_to_drop += 1;
                continue;
            }
            let before = area(&outlines);
            trade(&mut outlines, &crossings, most);
            let after = area(&outlines);
            assert!(after <= before + 1e-9, "{seed}: {before} -> {after}");
            assert!(outlines.iter().map(Ring::size).sum::<usize>() <= most);
            closer += before - after;
            traded += usize::from(after < before);
        }
        // Six corners are few for shapes with deep bays.
        assert!(none_to_drop <= 2, "{none_to_drop} of 40 keep more corners");
        assert!(traded > 20 && closer > 40.0, "{traded} outlines of 40, {closer} px2");
    }
}
