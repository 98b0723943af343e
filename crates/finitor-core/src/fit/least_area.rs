//! Closed ways round a boundary by how many corners they have.

use super::shortcuts::Shortcuts;

/// Closed ways through one corner of a ring, for each number of corners up to some most the one with the least area off.
pub(super) struct LeastArea {
    start: usize,
    corners: usize,
    /// By number of ways taken and by corner from the start on: twice the least area so far, and the corner before.
    table: Vec<Reached>,
}

#[derive(Clone, Copy)]
struct Reached {
    twice_area: f64,
    before: u32,
}

impl LeastArea {
    /// Those through `start` with at most `most` corners.
    ///
    /// # Complexity
    /// O(m k), m allowed ways, k corners at most.
    ///
    /// # Source
    /// Juan-Carlos Perez and Enrique Vidal, "Optimum polygonal approximation of digitized curves", Pattern Recognition Letters 15
    /// (1994).
    pub(super) fn through(start: usize, shortcuts: &Shortcuts, most: usize) -> LeastArea {
        let n = shortcuts.corners();
        let (stride, most) = (n + 1, most.min(n));
        let mut table = vec![Reached { twice_area: f64::INFINITY, before: 0 }; stride * (most + 1)];
        table[0].twice_area = 0.0;
        for taken in 0..most {
            let (now, next) = table[taken * stride..(taken + 2) * stride].split_at_mut(stride);
            for (at, so_far) in now.iter().map(|reached| reached.twice_area).enumerate().take(n) {
                if so_far.is_infinite() {
                    continue;
                }
                let corner = if start + at < n { start + at } else { start + at - n };
                for way in shortcuts.ways(corner) {
                    let Some(to) = next.get_mut(at + way.steps as usize) else { break };
                    let twice_area = so_far + way.twice_area();
                    if twice_area < to.twice_area {
                        *to = Reached { twice_area, before: at as u32 };
                    }
                }
            }
        }
        LeastArea { start, corners: n, table }
    }

    /// Corners that any of them has, at most.
    pub(super) fn most(&self) -> usize {
        self.table.len() / (self.corners + 1) - 1
    }

    /// Twice the least area off with a number of corners, px2; infinite where there is no such way.
    pub(super) fn twice_area(&self, corners: usize) -> f64 {
        self.table.get(corners * (self.corners + 1) + self.corners).map_or(f64::INFINITY, |reached| reached.twice_area)
    }

    /// The corners of the way that has so little.
    pub(super) fn cycle(&self, corners: usize) -> Vec<usize> {
        let mut cycle = Vec::with_capacity(corners);
        let mut at = self.corners;
        for taken in (1..=corners).rev() {
            at = self.table[taken * (self.corners + 1) + at].before as usize;
            cycle.push((self.start + at) % self.corners);
        }
        cycle.reverse();
        cycle
    }
}

#[cfg(test)]
mod tests {
    use super::super::FitGoal;
    use super::super::shortcuts::Way;
    use super::*;
    use crate::art::{Mask, contours};

    /// Twice the least area off of any choice of `k` corners with the first among them, by trying all.
    fn by_trying_all(ways: &Shortcuts, start: usize, k: usize) -> f64 {
        let n = ways.corners();
        let cost = |from: usize, to: usize| {
            let found = ways.ways((start + from) % n).iter().find(|way| way.steps as usize == to - from);
            found.map_or(f64::INFINITY, Way::twice_area)
        };
        let choices = (0..1_u32 << n).filter(|set| set & 1 == 1 && set.count_ones() as usize == k);
        let total = |set: u32| {
            let corners: Vec<usize> = (0..n).filter(|i| set >> i & 1 == 1).chain([n]).collect();
            corners.windows(2).map(|pair| cost(pair[0], pair[1])).sum::<f64>()
        };
        choices.map(total).fold(f64::INFINITY, f64::min)
    }

    #[test]
    fn of_all_choices_of_corners_the_least_area_is_found() {
        // A flight of stairs with a notch.
        let mask = Mask::from_fn(9, 9, |x, y| x <= y && (x, y) != (0, 5) && y < 5);
        let ring = contours(&mask)[0].points();
        for goal in [FitGoal::Cover, FitGoal::Inside] {
            let ways = Shortcuts::new(&ring, 16.0, goal);
            for start in [0, 4] {
                let found = LeastArea::through(start, &ways, ring.len());
                for k in 3..=ring.len() {
                    let expected = by_trying_all(&ways, start, k);
                    assert_eq!(found.twice_area(k), expected, "{goal:?} {start} {k}");
                    if expected.is_finite() {
                        let cycle = found.cycle(k);
                        assert_eq!((cycle.len(), cycle[0]), (k, start));
                    }
                }
            }
        }
    }
}
