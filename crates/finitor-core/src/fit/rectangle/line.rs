//! What lies between two rows, by place across.

use super::Choices;

/// What two places of a part of a line gain at most.
#[derive(Clone, Copy)]
struct Gain {
    lowest: f64,
    highest: f64,
    most: f64,
}

impl Gain {
    const NONE: Gain = Gain { lowest: f64::INFINITY, highest: f64::NEG_INFINITY, most: 0.0 };

    /// With one place more.
    #[inline]
    fn take(&mut self, worth: f64) {
        let more = |one: f64, other: f64| if other > one { other } else { one };
        self.most = more(self.most, worth - self.lowest);
        self.lowest = if worth < self.lowest { worth } else { self.lowest };
        self.highest = more(self.highest, worth);
    }

    /// With those of the part behind it.
    fn then(self, next: Gain) -> Gain {
        Gain {
            lowest: self.lowest.min(next.lowest),
            highest: self.highest.max(next.highest),
            most: self.most.max(next.most).max(next.highest - self.lowest),
        }
    }
}

/// Between two rows, by place across: what all that lies left of it gains.
pub(super) struct Line {
    worth: Vec<f64>,
}

impl Line {
    /// Of a number of places across.
    pub(super) fn new(places: usize) -> Line {
        Line { worth: vec![0.0; places] }
    }

    /// Between two rows `height` px apart, by what lies left of each place above the one and above the other.
    pub(super) fn fill(&mut self, ratio: f64, height: f64, [above, below]: [&[f64]; 2], places: &[f64]) {
        let lefts = above.iter().zip(below).zip(places);
        for (worth, ((above, below), x)) in self.worth.iter_mut().zip(lefts) {
            *worth = (1.0 + ratio) * (below - above) - ratio * height * x;
        }
    }

    /// The most that any two places gain, and 0 at least.
    pub(super) fn most(&self) -> f64 {
        /// Parts of the line that are gone through side by side, so that none waits for the figures of the one before.
        const LANES: usize = 4;
        let part = self.worth.len() / LANES;
        let mut lanes = [Gain::NONE; LANES];
        let (even, rest) = self.worth.split_at(part * LANES);
        let parts: [&[f64]; LANES] = std::array::from_fn(|lane| &even[lane * part..][..part]);
        for at in 0..part {
            for (lane, part) in lanes.iter_mut().zip(&parts) {
                lane.take(part[at]);
            }
        }
        let mut all = lanes.into_iter().fold(Gain::NONE, Gain::then);
        rest.iter().for_each(|worth| all.take(*worth));
        all.most
    }

    /// The two places that gain most, if any gain more than so far.
    pub(super) fn best(&self, across: &Choices, top_gain: &mut f64) -> Option<[usize; 2]> {
        let mut found = None;
        if let Some(pairs) = &across.tied {
            for &[left, right] in pairs {
                if self.worth[right] - self.worth[left] > *top_gain {
                    *top_gain = self.worth[right] - self.worth[left];
                    found = Some([left, right]);
                }
            }
            return found;
        }
        let mut lowest: Option<usize> = None;
        let mut lefts = across.low.clone().peekable();
        for right in across.high.clone() {
            while let Some(left) = lefts.next_if(|left| *left < right) {
                if lowest.is_none_or(|least| self.worth[left] < self.worth[least]) {
                    lowest = Some(left);
                }
            }
            if let Some(left) = lowest
                && self.worth[right] - self.worth[left] > *top_gain
            {
                *top_gain = self.worth[right] - self.worth[left];
                found = Some([left, right]);
            }
        }
        found
    }
}
