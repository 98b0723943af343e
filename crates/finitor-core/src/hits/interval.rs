//! Distances as intervals.

/// The distances between two, px; the ends are touches and do not count.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Interval {
    /// The lower end.
    pub from: f64,
    /// The upper end.
    pub to: f64,
}

impl Interval {
    /// Whether a distance lies in it.
    pub fn contains(self, at: f64) -> bool {
        self.from < at && at < self.to
    }

    /// What two have in common.
    pub fn and(self, other: Interval) -> Option<Interval> {
        let both = Interval { from: self.from.max(other.from), to: self.to.min(other.to) };
        (both.from < both.to).then_some(both)
    }

    /// The same the other way round.
    #[must_use]
    pub fn turned(self) -> Interval {
        Interval { from: 0.0 - self.to, to: 0.0 - self.from }
    }
}

/// Intervals in ascending order, no two of which meet.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Intervals(Vec<Interval>);

impl Intervals {
    /// The union of some; what touches is one.
    ///
    /// # Complexity
    /// O(n log n).
    pub fn union(all: impl IntoIterator<Item = Interval>) -> Intervals {
        let mut all: Vec<Interval> = all.into_iter().collect();
        all.sort_by(|a, b| a.from.total_cmp(&b.from));
        let mut merged: Vec<Interval> = Vec::new();
        for next in all {
            match merged.last_mut().filter(|last| next.from <= last.to) {
                Some(last) => last.to = last.to.max(next.to),
                None => merged.push(next),
            }
        }
        Intervals(merged)
    }

    /// The intervals.
    pub fn all(&self) -> &[Interval] {
        &self.0
    }

    /// Whether there is none.
    pub fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    /// Whether a distance lies in one.
    pub fn contains(&self, at: f64) -> bool {
        self.0.iter().any(|interval| interval.contains(at))
    }

    /// The upper end of the last.
    pub fn farthest(&self) -> Option<f64> {
        self.0.last().map(|last| last.to)
    }

    /// What lies beyond a distance.
    #[must_use]
    pub fn beyond(&self, from: f64) -> Intervals {
        let rest = Interval { from, to: f64::INFINITY };
        Intervals(self.0.iter().filter_map(|interval| interval.and(rest)).collect())
    }

    /// What is missing between a distance and the last upper end.
    pub fn gaps(&self, from: f64) -> Vec<Interval> {
        let rest = self.beyond(from);
        let begins = std::iter::once(from).chain(rest.0.iter().map(|interval| interval.to));
        let between = begins.zip(&rest.0).map(|(from, next)| Interval { from, to: next.from });
        between.filter(|gap| gap.from < gap.to).collect()
    }
}
