//! The usual way to simplify an outline, to compare with.
#![allow(clippy::unwrap_used, unreachable_pub, missing_docs, reason = "a yardstick for tests and examples")]

use finitor_core::Point;

/// Ramer 1972, Douglas and Peucker 1973: the usual way to simplify, from the two corners farthest apart.
pub fn simplified(ring: &[Point], tolerance: f64) -> Vec<Point> {
    fn halve(chain: &[Point], tolerance: f64, kept: &mut Vec<Point>) {
        let (first, last) = (chain[0], chain[chain.len() - 1]);
        let along = last - first;
        let distance = |p: Point| {
            let share = ((p - first).dot(along) / along.hypot2()).clamp(0.0, 1.0);
            (first + along * share).distance(p)
        };
        let inner = 1..chain.len() - 1;
        match inner.max_by(|&a, &b| distance(chain[a]).total_cmp(&distance(chain[b]))) {
            Some(far) if distance(chain[far]) > tolerance => {
                halve(&chain[..=far], tolerance, kept);
                halve(&chain[far..], tolerance, kept);
            }
            _ => kept.push(first),
        }
    }
    let far = |ring: &[Point], from: Point| {
        let distance = |i: usize| from.distance(ring[i]);
        (0..ring.len()).max_by(|&a, &b| distance(a).total_cmp(&distance(b))).unwrap()
    };
    let start = far(ring, ring[0]);
    let turned: Vec<Point> = ring[start..].iter().chain(&ring[..start]).copied().collect();
    let end = far(&turned, turned[0]);
    let closed: Vec<Point> = turned[end..].iter().chain([&turned[0]]).copied().collect();
    let mut kept = Vec::new();
    halve(&turned[..=end], tolerance, &mut kept);
    halve(&closed, tolerance, &mut kept);
    kept
}
