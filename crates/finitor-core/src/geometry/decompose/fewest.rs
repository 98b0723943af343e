//! The fewest convex pieces.

use super::cuts::Cuts;
use crate::geometry::{Point, turn};

/// Corners beyond which another way is taken.
const MOST_CORNERS: usize = 1_500;

/// Steps of chains beyond which another way is taken; some tenths of a second.
const MOST_STEPS: usize = 40_000_000;

/// The fewest convex pieces of a simple ring, clockwise, without added points: indices into the ring, clockwise, straight
/// runs included. `None` where it would take too long.
///
/// Every cut of such a decomposition ends at a reflex corner, else it could go. Behind a cut from corner i to corner j
/// lies the part i..j; the piece along the cut is a convex chain from i to j whose every step is an edge or another cut,
/// so the best of a part is a cheapest chain through the best of smaller parts. A chain of cuts round a part is a simple
/// polygon, so it is convex once it turns right at each corner. What holds along the chain does not depend on j: one table
/// of chains from i serves all parts that begin there. Only the turn at i depends on both, and may leave out first steps
/// where i is reflex; a table without those is made where the best chain of all begins with one.
///
/// # Complexity
/// O(n c) for n corners and c cuts between corners that see each other, as long as no reflex corner needs tables of its own,
/// which few do: O(c2) at worst. Finding the cuts comes to it.
///
/// # Source
/// J. Mark Keil, "Decomposing a polygon into simpler components", SIAM Journal on Computing 14 (1985); with Jack Snoeyink,
/// "On the time bound for convex decomposition of simple polygons", International Journal of Computational Geometry 12
/// (2002), who show how to look at fewer chains.
pub(super) fn fewest_pieces(points: &[Point]) -> Option<Vec<Vec<usize>>> {
    if points.len() > MOST_CORNERS {
        return None;
    }
    let mut search = Search::new(points)?;
    if points.len().saturating_mul(search.known.fewest.len()) > MOST_STEPS {
        return None;
    }
    for from in (0..points.len()).rev() {
        search.settle_from(from);
    }
    search.pieces()
}

/// The pieces behind a cut that no convex chain closes, or that was not settled yet.
const UNKNOWN: u32 = u32::MAX;

/// The best convex chain, of two steps or more, that ends with a cut.
#[derive(Clone, Copy, Debug)]
struct Chain {
    /// The last cut.
    cut: u32,
    /// The place of the last cut among all by their higher corners.
    place: u32,
    /// The fewest pieces behind its cuts.
    pieces: u32,
    /// Where its first cut ends.
    first: u32,
    /// Where the chain without the last cut is; [`UNKNOWN`] where that is one cut alone.
    before: u32,
}

const NO_CHAIN: Chain = Chain { cut: UNKNOWN, place: UNKNOWN, pieces: UNKNOWN, first: UNKNOWN, before: UNKNOWN };

/// The best chains from one corner that may still close to a convex piece.
struct Table {
    /// By the corner where they end, room for as many as cuts come there; ascending by the corner before.
    chains: Vec<Chain>,
    /// By corner: where those that end there end.
    ends: Vec<u32>,
    from: usize,
    /// The first corner that the first cut of a chain may end at.
    least: usize,
    /// The first corner that chains were not led on from yet.
    next: usize,
    /// The last corner that a cut leads to from where they begin.
    last: u32,
    /// The first cut from where they begin that none was led on from yet.
    direct: usize,
}

impl Table {
    fn new(cuts: &Cuts) -> Table {
        let chains = vec![NO_CHAIN; cuts.list.len()];
        Table { chains, ends: cuts.arrivals.clone(), from: 0, least: 0, next: 0, last: 0, direct: 0 }
    }

    /// Empties the table.
    fn begin(&mut self, cuts: &Cuts, from: usize, least: usize) {
        self.ends[least..].copy_from_slice(&cuts.arrivals[least..]);
        (self.from, self.least, self.next) = (from, least, least);
        let direct = cuts.onward(from);
        self.last = direct.clone().next_back().map_or(0, |cut| cuts.list[cut].to);
        self.direct = direct.clone().find(|cut| cuts.list[*cut].to as usize >= least).unwrap_or(direct.end);
    }

    /// Leads the chains on from all corners before one that a cut leads to.
    ///
    /// # Complexity
    /// O(c), c cuts from and to the corners passed.
    fn lead_on(&mut self, known: &Known, to: usize) {
        let Known { points, cuts, fewest } = known;
        let origin = points[self.from];
        for corner in self.next..to {
            let mut chains = (cuts.arrivals[corner]..self.ends[corner]).peekable();
            let mut direct = None;
            if cuts.list[self.direct].to as usize == corner {
                direct = Some(self.direct).filter(|cut| fewest[*cut] != UNKNOWN);
                self.direct += 1;
            }
            if direct.is_none() && chains.peek().is_none() {
                continue;
            }
            let at = points[corner];
            let mut best = NO_CHAIN;
            let onward = cuts.onward(corner);
            for (next, (cut, behind)) in onward.clone().zip(cuts.list[onward.clone()].iter().zip(&fewest[onward])) {
                if cut.to > self.last {
                    break;
                }
                // The further it leads, the more it may follow.
                if let Some(first) = direct.take_if(|first| cuts.list[*first].place < cut.follows) {
                    best = Chain { pieces: fewest[first], first: corner as u32, ..best };
                }
                while let Some(before) = chains.next_if(|chain| self.chains[*chain as usize].place < cut.follows) {
                    let Chain { pieces, first, .. } = self.chains[before as usize];
                    // Of those of fewest pieces the first.
                    if pieces < best.pieces {
                        best = Chain { pieces, first, before, ..best };
                    }
                }
                // What turns its back on where it began never closes.
                let goal = cut.to as usize;
                if best.pieces != UNKNOWN && *behind != UNKNOWN && turn(at, points[goal], origin) >= 0.0 {
                    let pieces = best.pieces + behind;
                    self.chains[self.ends[goal] as usize] =
                        Chain { cut: next as u32, place: cut.place, pieces, ..best };
                    self.ends[goal] += 1;
                }
            }
        }
        self.next = self.next.max(to);
    }

    /// The best chain to a corner.
    fn closing(&mut self, known: &Known, to: usize) -> Option<Chain> {
        self.lead_on(known, to);
        let chains = known.cuts.arrivals[to] as usize..self.ends[to] as usize;
        self.chains[chains].iter().min_by_key(|chain| chain.pieces).copied()
    }
}

/// What is known of a ring so far.
struct Known<'p> {
    points: &'p [Point],
    cuts: Cuts,
    /// By cut: the fewest pieces behind it.
    fewest: Vec<u32>,
}

/// A chain, and the table with what is before its last cut.
struct Found<'t> {
    table: &'t Table,
    chain: Chain,
}

struct Search<'p> {
    known: Known<'p>,
    /// Chains whose first cut may be any.
    all: Table,
    /// Chains whose first cut leads to a later corner.
    later: Table,
}

impl<'p> Search<'p> {
    fn new(points: &'p [Point]) -> Option<Search<'p>> {
        let cuts = Cuts::new(points)?;
        let (all, later) = (Table::new(&cuts), Table::new(&cuts));
        Some(Search { known: Known { points, fewest: vec![UNKNOWN; cuts.list.len()], cuts }, all, later })
    }

    /// Finds the fewest pieces behind all cuts from a corner, those from later ones being known.
    fn settle_from(&mut self, from: usize) {
        self.begin(from);
        for cut in self.known.cuts.onward(from) {
            let found = self.best(cut).map(|found| found.chain.pieces + 1);
            let alone = if self.known.cuts.list[cut].is_edge() { 0 } else { UNKNOWN };
            self.known.fewest[cut] = found.unwrap_or(alone);
        }
    }

    fn begin(&mut self, from: usize) {
        self.all.begin(&self.known.cuts, from, from + 1);
        // Not begun: where the first cuts to the next corner may be, all may.
        self.later.least = from + 1;
    }

    /// The best chain behind a cut, the tables being begun for its lower corner and the cut no later than those asked for since.
    fn best(&mut self, cut: usize) -> Option<Found<'_>> {
        let Search { known, all, later } = self;
        let cut = known.cuts.list[cut];
        if cut.is_edge() {
            return None;
        }
        let (from, to) = (cut.from as usize, cut.to as usize);
        let chain = all.closing(known, to)?;
        let opens = |first: u32| turn(known.points[to], known.points[from], known.points[first as usize]) >= 0.0;
        if opens(chain.first) {
            return Some(Found { table: all, chain });
        }
        let mut firsts = known.cuts.onward(from).map(|first| known.cuts.list[first].to);
        let least = firsts.find(|first| opens(*first))? as usize;
        if later.least != least {
            later.begin(&known.cuts, from, least);
        }
        later.closing(known, to).map(|chain| Found { table: later, chain })
    }

    /// The pieces of the whole ring: of the part behind its closing edge.
    fn pieces(mut self) -> Option<Vec<Vec<usize>>> {
        let mut open = vec![self.known.cuts.find(0, self.known.points.len() - 1)?];
        let mut pieces = Vec::new();
        while let Some(cut) = open.pop() {
            let known = self.known.cuts.list[cut];
            if known.is_edge() {
                continue;
            }
            let (from, to) = (known.from as usize, known.to);
            // Chains are not kept: the few that are wanted are found again.
            self.begin(from);
            let Found { table, chain } = self.best(cut)?;
            let mut steps = vec![chain.cut as usize];
            let mut before = chain.before;
            while before != UNKNOWN {
                let Chain { cut, before: earlier, .. } = table.chains[before as usize];
                steps.push(cut as usize);
                before = earlier;
            }
            steps.push(self.known.cuts.find(from, chain.first as usize)?);
            steps.reverse();
            open.extend_from_slice(&steps);
            let corners = steps.iter().map(|step| self.known.cuts.list[*step].from);
            pieces.push(corners.chain([to]).map(|corner| corner as usize).collect());
        }
        Some(pieces)
    }
}
