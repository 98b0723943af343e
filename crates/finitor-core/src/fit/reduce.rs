//! Outlines reduced to a number of corners.

use super::chain::{Boundary, Bounds};
use super::crossings::Crossings;
use super::refine::SWEEPS;
use super::ring::{Corner, Ring};
use super::trade::trade;
use std::cmp::{Ordering, Reverse};
use std::collections::BinaryHeap;

/// Outlines reduced to a total of corners, one after another: each time the corner or the edge goes whose loss
/// costs the least area; then corners are traded as long as that gains area. `None` when none that is left can go.
///
/// # Complexity
/// O(corners of the boundary parts near + corners of the outlines) a corner that goes: each change is held against all edges.
pub(super) fn reduced(
    outlines: &[(&Boundary, Vec<usize>)],
    crossings: &Crossings,
    most: usize,
) -> Option<Vec<Vec<Corner>>> {
    // However far: the area decides.
    let bounds = Bounds { tolerance: 1e6, goal: crossings.goal() };
    let mut rings: Vec<Ring<'_>> =
        outlines.iter().map(|(boundary, kept)| Ring::new(boundary, kept, bounds)).collect::<Option<_>>()?;
    drop_to(&mut rings, crossings, most)?;
    trade(&mut rings, crossings, most);
    sweep(&mut rings, crossings);
    Some(rings.iter().map(Ring::corners).collect())
}

/// Moves corners where that brings the outlines closer.
fn sweep(rings: &mut [Ring<'_>], crossings: &Crossings) {
    for index in 0..rings.len() {
        let nodes: Vec<usize> = rings[index].all().collect();
        for node in nodes.iter().cycle().take(SWEEPS * nodes.len()) {
            let change = rings[index].moves(*node).find(|change| crossings.is_clear(rings, index, change));
            if let Some(change) = change {
                rings[index].take(&change);
            }
        }
    }
}

/// Drops corners and edges until `most` corners are left; `None` when none can go before.
pub(super) fn drop_to(rings: &mut [Ring<'_>], crossings: &Crossings, most: usize) -> Option<()> {
    // Counts changes round each node.
    let mut versions: Vec<Vec<u32>> = rings.iter().map(|ring| vec![0; ring.size()]).collect();
    let mut queue = BinaryHeap::new();
    let offer = |ring: &Ring<'_>, at: Place, choice: usize| {
        let cost = ring.less_at(at.node).nth(choice)?.cost;
        Some(Reverse(Offer { cost, at, choice }))
    };
    for (index, ring) in rings.iter().enumerate() {
        let places = ring.all().map(|node| Place { ring: index, node, version: 0 });
        queue.extend(places.filter_map(|at| offer(ring, at, 0)));
    }
    let mut size: usize = rings.iter().map(Ring::size).sum();
    while size > most {
        let Reverse(Offer { at, choice, .. }) = queue.pop()?;
        let versions = &mut versions[at.ring];
        if versions[at.node] != at.version {
            continue;
        }
        let Some(less) = rings[at.ring].less_at(at.node).nth(choice) else { continue };
        if !crossings.is_clear(rings, at.ring, &less) {
            queue.extend(offer(&rings[at.ring], at, choice + 1));
            continue;
        }
        let ring = &mut rings[at.ring];
        if let Some(gone) = ring.take(&less) {
            versions[gone] += 1;
        }
        size -= 1;
        for node in ring.near(&less) {
            versions[node] += 1;
            queue.extend(offer(ring, Place { node, version: versions[node], ..at }, 0));
        }
    }
    Some(())
}

/// A corner or edge that could go, as it was when it was looked at. The cost decides.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Offer {
    cost: f64,
    at: Place,
    /// Which of those at the place, the cheaper first.
    choice: usize,
}

/// A node of an outline, after a number of changes round it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Place {
    ring: usize,
    node: usize,
    version: u32,
}

impl Eq for Offer {}

impl Ord for Offer {
    fn cmp(&self, other: &Offer) -> Ordering {
        self.cost.total_cmp(&other.cost).then((self.at, self.choice).cmp(&(other.at, other.choice)))
    }
}

impl PartialOrd for Offer {
    fn partial_cmp(&self, other: &Offer) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}
