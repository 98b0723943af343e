//! Outlines reduced to a number of corners.

use super::chain::{Boundary, Bounds};
use super::crossings::Crossings;
use super::refine::SWEEPS;
use super::ring::{Change, Corner, Ring};
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
///
/// What a change costs is reckoned again when its turn comes, not whenever something changes near: as a rule it has become more.
pub(super) fn drop_to(rings: &mut [Ring<'_>], crossings: &Crossings, most: usize) -> Option<()> {
    let mut seats: Vec<Vec<Seat>> = rings.iter().map(|ring| vec![Seat::default(); ring.size()]).collect();
    let mut queue = BinaryHeap::new();
    for (ring, seats) in seats.iter_mut().enumerate() {
        for (node, seat) in seats.iter_mut().enumerate() {
            queue.extend(seat.look(rings, Place { ring, node }));
        }
    }
    let mut size: usize = rings.iter().map(Ring::size).sum();
    while size > most {
        let Reverse(Offer { at, choice, .. }) = queue.pop()?;
        let seat = &mut seats[at.ring][at.node];
        let Some(known) = seat.cheapest else {
            if !seat.is_gone {
                queue.extend(seat.look(rings, at));
            }
            continue;
        };
        let less = if choice == 0 { Some(known) } else { rings[at.ring].less_at(at.node).nth(choice) };
        let Some(less) = less.filter(|less| crossings.is_clear(rings, at.ring, less)) else {
            let next = rings[at.ring].less_at(at.node).nth(choice + 1);
            seat.is_queued = next.is_some();
            queue.extend(next.map(|next| Reverse(Offer { cost: next.cost, at, choice: choice + 1 })));
            continue;
        };
        seat.is_queued = false;
        let gone = rings[at.ring].take(&less);
        size -= 1;
        let seats = &mut seats[at.ring];
        if let Some(gone) = gone {
            seats[gone] = Seat { cheapest: None, is_gone: true, ..seats[gone] };
        }
        let near: Vec<usize> = rings[at.ring].near(&less).collect();
        for node in near {
            seats[node].cheapest = None;
            if !seats[node].is_queued {
                queue.extend(seats[node].look(rings, Place { node, ..at }));
            }
        }
    }
    Some(())
}

/// What is known of what could go at a node.
#[derive(Clone, Copy, Default)]
struct Seat {
    /// The cheapest that could go; `None` where it is to be looked at again.
    cheapest: Option<Change>,
    /// Whether an offer of it waits.
    is_queued: bool,
    is_gone: bool,
}

impl Seat {
    /// Looks what could go; an offer of it, if anything could.
    fn look(&mut self, rings: &[Ring<'_>], at: Place) -> Option<Reverse<Offer>> {
        self.cheapest = rings[at.ring].least_at(at.node);
        self.is_queued = self.cheapest.is_some();
        self.cheapest.map(|Change { cost, .. }| Reverse(Offer { cost, at, choice: 0 }))
    }
}

/// A corner or edge that could go, as it was when it was looked at. The cost decides.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Offer {
    cost: f64,
    at: Place,
    /// Which of those at the place, the cheaper first.
    choice: usize,
}

/// A node of an outline.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Place {
    ring: usize,
    node: usize,
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
