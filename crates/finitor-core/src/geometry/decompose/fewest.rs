//! The fewest convex pieces.

use super::cuts::{Cut, Cuts};
use crate::geometry::{Point, turn};

/// Chains looked at beyond which another way is taken; some tenths of a second.
const MOST_WORK: usize = 40_000_000;

/// Corners beyond which even finding who sees whom takes too long.
const MOST_CORNERS: usize = 300;

/// The fewest convex pieces of a simple ring, clockwise, without added points: indices into the ring, clockwise, straight
/// runs included. `None` where it would take too long.
///
/// Every cut of such a decomposition ends at a reflex corner, else it could go. Behind a cut from corner i to corner j
/// lies the part i..j; the piece along the cut is a convex chain from i to j whose every step is an edge or another cut,
/// so the best of a part is a cheapest chain through the best of smaller parts. Which cuts may follow which at a corner is
/// found once and kept in bit sets.
///
/// # Complexity
/// O(c2 d / 64), c cuts between corners that see each other and d of them a corner; for outlines of n corners, r of them reflex,
/// about O((n r)2) at worst and much less where few see each other.
///
/// # Source
/// J. Mark Keil, "Decomposing a polygon into simpler components", SIAM Journal on Computing 14 (1985); with Jack Snoeyink,
/// "On the time bound for convex decomposition of simple polygons", International Journal of Computational Geometry 12
/// (2002), who show how to look at fewer chains.
pub(super) fn fewest_pieces(points: &[Point]) -> Option<Vec<Vec<usize>>> {
    if points.len() > MOST_CORNERS {
        return None;
    }
    let cuts = Cuts::new(points);
    if cuts.work() > MOST_WORK {
        return None;
    }
    let count = cuts.list.len();
    let mut order: Vec<usize> = (0..count).collect();
    order.sort_unstable_by_key(|&cut| (cuts.list[cut].to - cuts.list[cut].from, cut));
    let mut search = Search {
        points,
        best: vec![UNKNOWN; count],
        chains: vec![Chain { pieces: 0, before: UNKNOWN }; count],
        reached: vec![0; points.len() * cuts.words],
        is_inside: vec![false; points.len()],
        cuts,
    };
    for cut in order {
        let closed = search.settle(cut);
        search.best[cut] = match closed {
            Some(last) => search.chains[last].pieces + 1,
            None if search.cuts.list[cut].is_edge => 0,
            None => UNKNOWN,
        };
    }
    search.pieces()
}

/// The pieces behind a cut that no convex chain closes, or that was not settled yet.
const UNKNOWN: u32 = u32::MAX;

/// The best convex chain that ends with a cut.
#[derive(Clone, Copy, Debug)]
struct Chain {
    /// The fewest pieces behind its cuts.
    pieces: u32,
    /// The cut before the last one; [`UNKNOWN`] for the first.
    before: u32,
}

struct Search<'p> {
    points: &'p [Point],
    cuts: Cuts,
    /// By cut: the fewest pieces behind it.
    best: Vec<u32>,
    /// By cut: the chain that ends with it, in the part that is being settled.
    chains: Vec<Chain>,
    /// By corner: the cuts to it that a chain ends with, as a bit set of those that come to it.
    reached: Vec<u64>,
    /// By corner: whether it may be of a convex piece along the cut that is being settled.
    is_inside: Vec<bool>,
}

impl Search<'_> {
    /// Finds the best chain for the part behind a cut, all smaller ones being known: its last cut.
    fn settle(&mut self, cut: usize) -> Option<usize> {
        let Search { points: p, cuts, best, chains, reached, is_inside } = self;
        let Cut { from, to, is_edge } = cuts.list[cut];
        if is_edge {
            return None;
        }
        let (from, to, words) = (from as usize, to as usize, cuts.words);
        reached[from * words..(to + 1) * words].fill(0);
        // No corner of a convex piece lies behind any of its sides.
        for corner in from + 1..to {
            is_inside[corner] = turn(p[to], p[from], p[corner]) >= 0.0;
        }
        is_inside[to] = true;
        let mut closed: Option<usize> = None;
        for corner in from..to {
            let (now, later) = reached.split_at_mut((corner + 1) * words);
            let ending = &now[corner * words..];
            if corner > from && ending.iter().all(|bits| *bits == 0) {
                continue;
            }
            let may_close = turn(p[corner], p[to], p[from]) >= 0.0;
            let coming = cuts.coming(corner);
            for next in cuts.onward(corner) {
                let goal = cuts.list[next].to as usize;
                if goal > to {
                    break;
                }
                let behind = best[next];
                if behind == UNKNOWN || !is_inside[goal] || (goal == to && !may_close) || next == cut {
                    continue;
                }
                let mut found = Chain { pieces: 0, before: UNKNOWN };
                if corner > from {
                    found.pieces = UNKNOWN;
                    for (word, (ending, convex)) in ending.iter().zip(cuts.convex_with(next)).enumerate() {
                        let mut bits = ending & convex;
                        while bits != 0 {
                            // Of those of fewest pieces the first.
                            let before = coming[word * 64 + bits.trailing_zeros() as usize];
                            let pieces = chains[before as usize].pieces;
                            if pieces < found.pieces {
                                found = Chain { pieces, before };
                            }
                            bits &= bits - 1;
                        }
                    }
                    if found.pieces == UNKNOWN {
                        continue;
                    }
                }
                let pieces = found.pieces + behind;
                if goal < to {
                    let slot = cuts.slot(next);
                    later[(goal - corner - 1) * words + slot / 64] |= 1 << (slot % 64);
                } else if closed.is_none_or(|known| pieces < chains[known].pieces) {
                    closed = Some(next);
                }
                chains[next] = Chain { pieces, ..found };
            }
        }
        closed
    }

    /// The pieces of the whole ring: of the part behind its closing edge.
    fn pieces(mut self) -> Option<Vec<Vec<usize>>> {
        let mut open = vec![self.cuts.find(0, self.points.len() - 1)?];
        let mut pieces = Vec::new();
        while let Some(cut) = open.pop() {
            let Cut { to, is_edge, .. } = self.cuts.list[cut];
            if is_edge {
                continue;
            }
            // Chains are not kept: the few that are wanted are found again.
            let mut steps = vec![self.settle(cut)?];
            while let Some(last) = steps.last().map(|step| self.chains[*step].before).filter(|last| *last != UNKNOWN) {
                steps.push(last as usize);
            }
            steps.reverse();
            open.extend_from_slice(&steps);
            let corners = steps.iter().map(|step| self.cuts.list[*step].from);
            pieces.push(corners.chain([to]).map(|corner| corner as usize).collect());
        }
        Some(pieces)
    }
}
