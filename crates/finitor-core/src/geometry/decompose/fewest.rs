//! The fewest convex pieces.

use crate::geometry::{Point, segments_meet, turn};

/// Chains looked at beyond which another way is taken; some tenths of a second.
const MOST_WORK: usize = 40_000_000;

/// Corners beyond which even finding who sees whom takes too long.
const MOST_CORNERS: usize = 300;

/// The fewest convex pieces of a simple ring, clockwise, without added points: indices into the ring, clockwise, straight
/// runs included. `None` where it would take too long.
///
/// Every cut of such a decomposition ends at a reflex corner, else it could go. Behind a cut from corner i to corner j
/// lies the part i..j; the piece along the cut is a convex chain from i to j whose every step is an edge or another cut,
/// so the best of a part is a cheapest chain through the best of smaller parts.
///
/// # Complexity
/// O(c2 d), c cuts between corners that see each other and d of them a corner; for outlines of n corners, r of them reflex,
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
    let mut search = Search { points, best: vec![None; cuts.list.len()], cuts };
    let mut order: Vec<usize> = (0..search.cuts.list.len()).collect();
    order.sort_by_key(|&cut| search.cuts.list[cut].to - search.cuts.list[cut].from);
    for cut in order {
        search.settle(cut);
    }
    search.pieces()
}

#[derive(Clone, Copy, Debug)]
struct Cut {
    from: usize,
    to: usize,
    /// Whether it is an edge of the ring with nothing behind it.
    is_edge: bool,
}

/// Pairs of corners, the lower first, joined by an edge or a cut.
struct Cuts {
    list: Vec<Cut>,
    /// By corner: the cuts to higher corners, ascending.
    onward: Vec<Vec<usize>>,
}

impl Cuts {
    fn new(points: &[Point]) -> Cuts {
        let n = points.len();
        let at = |i: usize| points[i % n];
        let reflex: Vec<bool> = (0..n).map(|i| turn(at(i + n - 1), at(i), at(i + 1)) < 0.0).collect();
        let (mut list, mut onward) = (Vec::new(), vec![Vec::new(); n]);
        for from in 0..n {
            for to in from + 1..n {
                let is_edge = to == from + 1;
                let closing = from == 0 && to == n - 1;
                let seen = || {
                    (reflex[from] || reflex[to])
                        && opens(points, &reflex, from, to)
                        && opens(points, &reflex, to, from)
                        && is_clear(points, from, to)
                };
                if is_edge || closing || seen() {
                    onward[from].push(list.len());
                    list.push(Cut { from, to, is_edge });
                }
            }
        }
        Cuts { list, onward }
    }

    fn work(&self) -> usize {
        let mut coming = vec![0; self.onward.len()];
        self.list.iter().for_each(|cut| coming[cut.to] += 1);
        let steps: usize = coming.iter().zip(&self.onward).map(|(coming, onward)| coming * onward.len()).sum();
        steps.saturating_mul(self.list.len())
    }
}

/// Whether the way from a corner to another starts into the inside.
fn opens(points: &[Point], reflex: &[bool], corner: usize, to: usize) -> bool {
    let n = points.len();
    let (before, at, after) = (points[(corner + n - 1) % n], points[corner], points[(corner + 1) % n]);
    let (one, other) = (turn(before, at, points[to]) > 0.0, turn(at, after, points[to]) > 0.0);
    if reflex[corner] { one || other } else { one && other }
}

/// Whether the way between two corners touches no edge but at its ends.
fn is_clear(points: &[Point], from: usize, to: usize) -> bool {
    let n = points.len();
    let (a, b) = (points[from], points[to]);
    (0..n).all(|i| {
        let next = if i + 1 < n { i + 1 } else { 0 };
        let beside = i == from || i == to || next == from || next == to;
        beside || !segments_meet(a, b, points[i], points[next])
    })
}

/// What is known of the part behind a cut.
#[derive(Clone, Debug)]
struct Part {
    pieces: u32,
    /// The corners of the piece along the cut; empty for an edge.
    chain: Vec<usize>,
}

struct Search<'p> {
    points: &'p [Point],
    cuts: Cuts,
    /// By cut; `None` for one that no convex chain closes.
    best: Vec<Option<Part>>,
}

impl Search<'_> {
    /// Finds the best for the part behind a cut, all smaller ones being known.
    fn settle(&mut self, cut: usize) {
        let Cut { from, to, is_edge } = self.cuts.list[cut];
        if is_edge {
            self.best[cut] = Some(Part { pieces: 0, chain: Vec::new() });
            return;
        }
        let p = self.points;
        // By cut within the part: the fewest pieces behind a convex chain that ends with it, and the cut before.
        let mut reached: Vec<(usize, u32, Option<usize>)> = Vec::new();
        // By corner from `from` on: which of those end there.
        let mut ends: Vec<Vec<usize>> = vec![Vec::new(); to - from + 1];
        let mut closed: Option<(u32, usize)> = None;
        for corner in from..to {
            for &next in &self.cuts.onward[corner] {
                let goal = self.cuts.list[next].to;
                if goal > to || next == cut {
                    continue;
                }
                let Some(behind) = self.best[next].as_ref().map(|part| part.pieces) else { continue };
                let found = if corner == from {
                    (turn(p[to], p[from], p[goal]) >= 0.0).then_some((behind, None))
                } else {
                    let convex = |&&before: &&usize| {
                        let start = self.cuts.list[reached[before].0].from;
                        turn(p[start], p[corner], p[goal]) >= 0.0
                    };
                    let before = ends[corner - from].iter().filter(convex).min_by_key(|&&before| reached[before].1);
                    before.map(|&before| (reached[before].1 + behind, Some(before)))
                };
                let Some((pieces, before)) = found else { continue };
                if goal == to {
                    if turn(p[corner], p[to], p[from]) >= 0.0 && closed.is_none_or(|(fewest, _)| pieces < fewest) {
                        closed = Some((pieces, reached.len()));
                    }
                } else {
                    ends[goal - from].push(reached.len());
                }
                reached.push((next, pieces, before));
            }
        }
        self.best[cut] = closed.map(|(pieces, last)| {
            let mut chain = vec![to];
            let mut at = Some(last);
            while let Some(index) = at {
                chain.push(self.cuts.list[reached[index].0].from);
                at = reached[index].2;
            }
            chain.reverse();
            Part { pieces: pieces + 1, chain }
        });
    }

    /// The pieces of the whole ring: of the part behind its closing edge.
    fn pieces(&self) -> Option<Vec<Vec<usize>>> {
        let n = self.points.len();
        let find =
            |from: usize, to: usize| self.cuts.onward[from].iter().copied().find(|&cut| self.cuts.list[cut].to == to);
        let mut open = vec![find(0, n - 1)?];
        let mut pieces = Vec::new();
        while let Some(cut) = open.pop() {
            let part = self.best[cut].as_ref()?;
            if part.chain.is_empty() {
                continue;
            }
            for pair in part.chain.windows(2) {
                open.push(find(pair[0], pair[1])?);
            }
            pieces.push(part.chain.clone());
        }
        Some(pieces)
    }
}
