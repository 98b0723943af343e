//! A whole take, kept.

use super::Sample;
use crate::finding::Span;

/// A take whose ticks can be asked for in any order.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Recording {
    ticks: Vec<Tick>,
    samples: Vec<Sample>,
}

/// A tick and where its samples end.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Tick {
    tick: u64,
    end: usize,
}

/// What a recording holds of one tick.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RecordedTick<'r> {
    /// Which one.
    pub tick: u64,
    /// One sample an instance.
    pub samples: &'r [Sample],
}

impl Recording {
    /// Adds the next tick.
    ///
    /// # Panics
    /// When ticks do not ascend.
    pub fn push(&mut self, tick: u64, samples: &[Sample]) {
        assert!(self.ticks.last().is_none_or(|last| last.tick < tick), "ticks ascend");
        self.samples.extend_from_slice(samples);
        self.ticks.push(Tick { tick, end: self.samples.len() });
    }

    /// All ticks, in order.
    pub fn ticks(&self) -> impl ExactSizeIterator<Item = RecordedTick<'_>> {
        (0..self.ticks.len()).map(|index| self.nth(index))
    }

    /// A tick; `None` where the take has none of this number.
    ///
    /// # Complexity
    /// O(log n), n ticks.
    pub fn at(&self, tick: u64) -> Option<RecordedTick<'_>> {
        let found = self.ticks.binary_search_by_key(&tick, |known| known.tick);
        found.ok().map(|index| self.nth(index))
    }

    /// The first and the last tick; `None` where there are none.
    pub fn span(&self) -> Option<Span> {
        let (first, last) = (self.ticks.first()?, self.ticks.last()?);
        Some(Span { first: first.tick, last: last.tick })
    }

    fn nth(&self, index: usize) -> RecordedTick<'_> {
        let Tick { tick, end } = self.ticks[index];
        let begin = index.checked_sub(1).map_or(0, |before| self.ticks[before].end);
        RecordedTick { tick, samples: &self.samples[begin..end] }
    }
}
