//! Triangles by cutting off ears, and pieces joined from them.

use crate::geometry::{Point, bounds_of, on_segment, turn};
use std::cmp::{Ordering, Reverse};
use std::collections::{BTreeMap, BinaryHeap};

/// An ear as it was when it was found: cut length, corner, and the two beside it. The first field decides.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Ear {
    cut: f64,
    corner: usize,
    before: usize,
    after: usize,
}

impl Eq for Ear {}

impl Ord for Ear {
    fn cmp(&self, other: &Ear) -> Ordering {
        self.cut.total_cmp(&other.cut).then(self.corner.cmp(&other.corner))
    }
}

impl PartialOrd for Ear {
    fn partial_cmp(&self, other: &Ear) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

/// What is left of the ring while ears are cut off.
pub(super) struct Clipper<'p> {
    points: &'p [Point],
    before: Vec<usize>,
    after: Vec<usize>,
    gone: Vec<bool>,
    left: usize,
    /// Corners of the ring that do not turn clockwise; none else can lie in an ear.
    reflex: Vec<usize>,
    ears: BinaryHeap<Reverse<Ear>>,
    triangles: Vec<[usize; 3]>,
}

impl<'p> Clipper<'p> {
    pub(super) fn new(points: &'p [Point]) -> Clipper<'p> {
        let n = points.len();
        let before: Vec<usize> = (0..n).map(|i| (i + n - 1) % n).collect();
        let after: Vec<usize> = (0..n).map(|i| (i + 1) % n).collect();
        let mut clipper = Clipper {
            points,
            before,
            after,
            gone: vec![false; n],
            left: n,
            reflex: Vec::new(),
            ears: BinaryHeap::new(),
            triangles: Vec::with_capacity(n.saturating_sub(2)),
        };
        clipper.reflex = (0..n).filter(|&i| clipper.turn_at(i) <= 0.0).collect();
        clipper
    }

    /// Triangles as indices into the ring, clockwise, in the order in which they are cut off: each has its cut between the first and
    /// the last corner. Some may be flat, where a corner lies on a cut.
    pub(super) fn run(mut self) -> Vec<[usize; 3]> {
        while self.left > 3 {
            let Some(Ear { corner, .. }) = self.next_ear() else { break };
            self.remove(corner);
        }
        if self.left == 3
            && let Some(corner) = (0..self.gone.len()).find(|&i| !self.gone[i])
        {
            self.triangles.push([self.before[corner], corner, self.after[corner]]);
        }
        self.triangles
    }

    fn turn_at(&self, corner: usize) -> f64 {
        turn(self.points[self.before[corner]], self.points[corner], self.points[self.after[corner]])
    }

    /// The ear with the shortest cut, which keeps slivers away. A simple polygon always has one.
    fn next_ear(&mut self) -> Option<Ear> {
        for _ in 0..2 {
            while let Some(Reverse(ear)) = self.ears.pop() {
                let current = self.before[ear.corner] == ear.before && self.after[ear.corner] == ear.after;
                if !self.gone[ear.corner] && current {
                    return Some(ear);
                }
            }
            // At first, and should a corner have become an ear by another than its neighbour going.
            (0..self.gone.len()).filter(|&i| !self.gone[i]).collect::<Vec<_>>().into_iter().for_each(|i| self.offer(i));
        }
        None
    }

    fn offer(&mut self, corner: usize) {
        let (before, after) = (self.before[corner], self.after[corner]);
        let (a, b, c) = (self.points[before], self.points[corner], self.points[after]);
        if turn(a, b, c) <= 0.0 {
            return;
        }
        let bounds = bounds_of(&[a, b, c]);
        let gone = &self.gone;
        self.reflex.retain(|&k| !gone[k]);
        let blocked = self.reflex.iter().filter(|&&k| k != before && k != corner && k != after).any(|&k| {
            let p = self.points[k];
            let near = p.x >= bounds.x0 && p.x <= bounds.x1 && p.y >= bounds.y0 && p.y <= bounds.y1;
            near && turn(a, b, p) >= 0.0 && turn(b, c, p) >= 0.0 && turn(c, a, p) >= 0.0
        });
        if !blocked {
            self.ears.push(Reverse(Ear { cut: a.distance_squared(c), corner, before, after }));
        }
    }

    /// Takes a corner out, and with it any beside it that is left as the tip of a spike without area.
    fn remove(&mut self, corner: usize) {
        let (before, after) = (self.before[corner], self.after[corner]);
        self.triangles.push([before, corner, after]);
        self.after[before] = after;
        self.before[after] = before;
        self.gone[corner] = true;
        self.left -= 1;
        for beside in [before, after] {
            if self.gone[beside] {
                continue;
            }
            let (a, b, c) = (self.before[beside], beside, self.after[beside]);
            let tip = self.turn_at(b) == 0.0 && !on_segment(self.points[b], self.points[a], self.points[c]);
            if tip && self.left > 3 {
                self.remove(beside);
            } else {
                self.offer(beside);
            }
        }
    }
}

/// Joins triangles, and then pieces, across each cut in turn whenever their union is still convex.
pub(super) fn joined(points: &[Point], triangles: &[[usize; 3]]) -> Vec<Vec<usize>> {
    let has_area = |&&[a, b, c]: &&[usize; 3]| turn(points[a], points[b], points[c]) > 0.0;
    let triangles: Vec<Vec<usize>> = triangles.iter().filter(has_area).map(|triangle| triangle.to_vec()).collect();
    let mut owner: BTreeMap<(usize, usize), usize> = BTreeMap::new();
    let edges = |piece: &[usize]| -> Vec<(usize, usize)> {
        (0..piece.len()).map(|i| (piece[i], piece[(i + 1) % piece.len()])).collect()
    };
    let mut cuts = Vec::new();
    for (index, piece) in triangles.iter().enumerate() {
        for edge in edges(piece) {
            if owner.contains_key(&(edge.1, edge.0)) {
                cuts.push(edge);
            }
            owner.insert(edge, index);
        }
    }
    let mut pieces: Vec<Option<Vec<usize>>> = triangles.into_iter().map(Some).collect();
    for (a, b) in cuts {
        let (Some(&first), Some(&second)) = (owner.get(&(b, a)), owner.get(&(a, b))) else { continue };
        let (Some(one), Some(other)) = (&pieces[first], &pieces[second]) else { continue };
        let Some(union) = union(points, one, other, (b, a)) else { continue };
        for edge in edges(other) {
            owner.insert(edge, first);
        }
        pieces[second] = None;
        pieces[first] = Some(union);
    }
    pieces.into_iter().flatten().collect()
}

/// The union of two pieces across a cut that runs (from, to) in the first and back in the other, if it is convex.
fn union(points: &[Point], one: &[usize], other: &[usize], (from, to): (usize, usize)) -> Option<Vec<usize>> {
    let (n, m) = (one.len(), other.len());
    let i = (0..n).find(|&i| one[i] == from && one[(i + 1) % n] == to)?;
    let j = (0..m).find(|&j| other[j] == to && other[(j + 1) % m] == from)?;
    // `one` from the cut's end round to its start, then `other` between the same.
    let mut ring: Vec<usize> = (0..n).map(|k| one[(i + 1 + k) % n]).collect();
    ring.extend((2..m).map(|k| other[(j + k) % m]));
    let size = ring.len();
    let at = |k: usize| points[ring[k % size]];
    (0..size).all(|k| turn(at(k), at(k + 1), at(k + 2)) >= 0.0).then_some(ring)
}
