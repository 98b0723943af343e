//! Corners traded between places of outlines.

use super::crossings::Crossings;
use super::ring::choices::Splits;
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
    let mut splits: Vec<Splits> = rings.iter().map(|_| Splits::default()).collect();
    let mut size: usize = rings.iter().map(Ring::size).sum();
    let mut in_vain = 0;
    for _ in 0..MOST_EACH * most {
        let closest = |ring: usize, node| rings[ring].closest_at(node, &mut splits[ring]);
        let Some(more) = cheapest(&mut offers, Offers::more, -LEAST, closest) else { return };
        let change = rings[more.ring].closest_at(more.node, &mut splits[more.ring]);
        let change = change.filter(|change| crossings.is_clear(rings, more.ring, change));
        let Some(change) = change else {
            offers[more.ring].more.withdraw(more.node);
            continue;
        };
        if size < most {
            rings[more.ring].take(&change);
            offers[more.ring].outdate(&rings[more.ring], &change);
            size += 1;
            continue;
        }
        // What is looked at now need not be again where the trade is undone.
        cheapest_loss(rings, &mut offers);
        let known = (rings[more.ring].clone(), offers[more.ring].clone());
        rings[more.ring].take(&change);
        offers[more.ring].outdate(&rings[more.ring], &change);
        // A guess that is too high ends the trade a little early, no more.
        let less = cheapest_loss(rings, &mut offers).filter(|less| less.cost + more.cost < -LEAST);
        let found = less.as_ref().and_then(|less| rings[less.ring].least_at(less.node));
        if let (Some(less), Some(drop)) = (less, found)
            && crossings.is_clear(rings, less.ring, &drop)
        {
            let gone = rings[less.ring].take(&drop);
            offers[less.ring].outdate(&rings[less.ring], &drop);
            if let Some(gone) = gone {
                offers[less.ring].less.withdraw(gone);
                offers[less.ring].more.withdraw(gone);
            }
            in_vain = 0;
        } else {
            (rings[more.ring], offers[more.ring]) = known;
            // Until something changes near.
            offers[more.ring].more.withdraw(more.node);
            in_vain += 1;
            if in_vain == MOST_IN_VAIN {
                return;
            }
        }
    }
}

/// What changes to an outline would cost.
#[derive(Clone)]
struct Offers {
    /// Without a node's corner, or its edge.
    less: Costs,
    /// With a corner more on a node's edge.
    more: Costs,
}

impl Offers {
    fn new(ring: &Ring<'_>) -> Offers {
        let mut unseen = Costs { costs: vec![f64::INFINITY; ring.nodes()], are_old: vec![false; ring.nodes()] };
        ring.all().for_each(|node| unseen.outdate(node));
        Offers { less: unseen.clone(), more: unseen }
    }

    fn less(&mut self) -> &mut Costs {
        &mut self.less
    }

    fn more(&mut self) -> &mut Costs {
        &mut self.more
    }

    /// Near a change that was taken costs may be others.
    fn outdate(&mut self, ring: &Ring<'_>, change: &Change) {
        for costs in [&mut self.less, &mut self.more] {
            costs.costs.resize(ring.nodes(), f64::INFINITY);
            costs.are_old.resize(ring.nodes(), false);
            ring.near(change).for_each(|node| costs.outdate(node));
        }
        // Guesses at corners that were not there would end the trade too early.
        ring.changed(change).for_each(|node| self.less.costs[node] = f64::NEG_INFINITY);
    }
}

/// What the cheapest change of a sort would cost, by node, px2; infinite where there is none.
#[derive(Clone)]
struct Costs {
    costs: Vec<f64>,
    /// By node: whether something has changed near since it was looked at.
    are_old: Vec<bool>,
}

impl Costs {
    /// Something has changed near: what was known is a guess, and where there was nothing there may be something.
    fn outdate(&mut self, node: usize) {
        self.are_old[node] = true;
        if self.costs[node] == f64::INFINITY {
            self.costs[node] = f64::NEG_INFINITY;
        }
    }

    /// Looks at guesses up to a cost; whether there was any.
    fn look(&mut self, until: f64, mut change_at: impl FnMut(usize) -> Option<Change>) -> bool {
        let mut any = false;
        for (node, (cost, is_old)) in self.costs.iter_mut().zip(&mut self.are_old).enumerate() {
            if *is_old && *cost <= until {
                *cost = change_at(node).map_or(f64::INFINITY, |change| change.cost);
                (*is_old, any) = (false, true);
            }
        }
        any
    }

    /// Offers nothing at a node until something changes near.
    fn withdraw(&mut self, node: usize) {
        (self.costs[node], self.are_old[node]) = (f64::INFINITY, false);
    }
}

/// The cheapest change of all.
struct Cheapest {
    cost: f64,
    ring: usize,
    node: usize,
}

/// The corner or edge of all outlines that costs the least to drop.
fn cheapest_loss(rings: &[Ring<'_>], offers: &mut [Offers]) -> Option<Cheapest> {
    cheapest(offers, Offers::less, f64::INFINITY, |ring, node| rings[ring].least_at(node))
}

/// The cheapest change of a sort that costs less than a limit. What is a guess is looked at when its turn comes, and all of them before there is
/// said to be none.
///
/// # Complexity
/// O(nodes) for each guess whose turn comes, and once for all others.
fn cheapest(
    offers: &mut [Offers],
    sort: impl Fn(&mut Offers) -> &mut Costs,
    limit: f64,
    mut change_at: impl FnMut(usize, usize) -> Option<Change>,
) -> Option<Cheapest> {
    let mut look = |offers: &mut [Offers], until: f64| -> bool {
        let each = offers.iter_mut().enumerate();
        each.fold(false, |any, (ring, offers)| sort(offers).look(until, |node| change_at(ring, node)) || any)
    };
    // Where nothing is known there is no guess.
    look(offers, f64::NEG_INFINITY);
    loop {
        let mut found: Option<Cheapest> = None;
        for (ring, offers) in offers.iter_mut().enumerate() {
            for (node, &cost) in sort(offers).costs.iter().enumerate() {
                if found.as_ref().is_none_or(|found| cost < found.cost) {
                    found = Some(Cheapest { cost, ring, node });
                }
            }
        }
        let found = found?;
        let is_enough = found.cost < limit;
        if !look(offers, if is_enough { found.cost } else { f64::INFINITY }) {
            return is_enough.then_some(found);
        }
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

    #[test]
    fn the_cheapest_change_is_the_first_of_all() {
        for goal in [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance] {
            let bounds = Bounds { tolerance: 1e6, goal };
            let mut looked_at = 0;
            for ring in (0..12).flat_map(|seed| contours(&discs(seed))) {
                let island = Island::traced(&ring, bounds, f64::INFINITY);
                let every_third: Vec<usize> = (0..island.boundary().ring().len()).step_by(3).collect();
                for kept in [island.kept(), every_third] {
                    let Some(ring) = Ring::new(island.boundary(), &kept, bounds) else { continue };
                    for node in ring.all() {
                        let cost = |change: Option<Change>| change.map(|change| change.cost);
                        assert_eq!(cost(ring.least_at(node)), cost(ring.less_at(node).next()), "{goal:?} {node}");
                        looked_at += 1;
                    }
                }
            }
            assert!(looked_at > 50, "{goal:?} {looked_at}");
        }
    }
}
