//! Edges linked into rings.

use super::Edge;
use crate::geometry::{Point, turn};
use foldhash::fast::FixedState;
use std::collections::HashMap;

/// What is known of places, by the bits of their coordinates: maps of millions of corners are filled, and nobody outside
/// chooses the keys. Nothing is read in the map's own order.
type Places<T> = HashMap<(u64, u64), T, FixedState>;

/// Edges linked into rings that touch neither themselves nor, but at corners, each other; corners on straight lines left out.
pub(super) fn rings(edges: &[Edge]) -> Vec<(Vec<Point>, usize)> {
    let key = |p: Point| ((p.x + 0.0).to_bits(), (p.y + 0.0).to_bits());
    // The edges that start at a place; few places have more than one.
    let mut first: Places<usize> = Places::with_capacity_and_hasher(edges.len(), FixedState::default());
    let mut next: Vec<Option<usize>> = vec![None; edges.len()];
    for (index, edge) in edges.iter().enumerate().rev() {
        next[index] = first.insert(key(edge.from), index);
    }
    let mut used = vec![false; edges.len()];
    let mut found = Vec::new();
    for start in 0..edges.len() {
        if used[start] {
            continue;
        }
        let mut path: Vec<Point> = Vec::new();
        let mut index = start;
        let mut parts = false;
        while !used[index] {
            used[index] = true;
            path.push(edges[index].from);
            let (at, way) = (edges[index].to, edges[index].to - edges[index].from);
            let leaving = first.get(&key(at)).copied();
            // With one way on there is nothing to choose.
            if let Some(only) = leaving.filter(|index| next[*index].is_none()) {
                index = only;
                continue;
            }
            parts = true;
            let mut candidates = std::iter::successors(leaving, |index| next[*index]);
            // Of several the sharpest turn to the right, which keeps what touches at a corner apart.
            // The ring's own start counts: there it closes.
            let free = candidates.by_ref().filter(|index| !used[*index] || *index == start);
            let turned = |index: usize| {
                let other = edges[index].to - edges[index].from;
                way.cross(other).atan2(way.dot(other))
            };
            match free.max_by(|a, b| turned(*a).total_cmp(&turned(*b)).then(b.cmp(a))) {
                Some(following) => index = following,
                None => break,
            }
        }
        if parts {
            split(path, edges[start].cell, &mut found);
        } else {
            found.push((straightened(&path), edges[start].cell));
        }
    }
    found
}

/// A closed path as rings that pass no place twice.
fn split(path: Vec<Point>, cell: usize, found: &mut Vec<(Vec<Point>, usize)>) {
    let key = |p: Point| ((p.x + 0.0).to_bits(), (p.y + 0.0).to_bits());
    let mut seen: Places<usize> = Places::default();
    let mut ring: Vec<Point> = Vec::new();
    for point in path {
        if let Some(&at) = seen.get(&key(point)) {
            let cut = ring.split_off(at);
            cut.iter().for_each(|p| {
                seen.remove(&key(*p));
            });
            found.push((straightened(&cut), cell));
        }
        seen.insert(key(point), ring.len());
        ring.push(point);
    }
    found.push((straightened(&ring), cell));
}

/// The ring without corners on straight lines.
fn straightened(ring: &[Point]) -> Vec<Point> {
    let n = ring.len();
    let bends = |i: &usize| turn(ring[(i + n - 1) % n], ring[*i], ring[(i + 1) % n]) != 0.0;
    (0..n).filter(bends).map(|i| ring[i]).collect()
}
