//! On which ticks each instance was carried, for whoever shows it.

use super::look::Seat;
use super::step::InstanceIndex;
use crate::finding::Span;

/// The ticks on which something carried an instance: its strip below, or without one its body, met what can carry it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Footing {
    /// The instance.
    pub actor: String,
    /// In their order.
    pub spans: Vec<Span>,
}

/// Runs of such ticks, by instance.
#[derive(Debug, Default)]
pub(crate) struct FootingSeen {
    /// Whether they are wanted: they cost memory.
    pub(crate) are_reported: bool,
    spans: Vec<Vec<Span>>,
}

impl FootingSeen {
    /// Takes in a tick.
    pub(crate) fn see(&mut self, seats: &[Seat<'_>], tick: u64) {
        if !self.are_reported {
            return;
        }
        for seat in seats.iter().filter(|seat| seat.ground.now.carries) {
            let InstanceIndex(index) = seat.way().instance;
            if self.spans.len() <= index {
                self.spans.resize(index + 1, Vec::new());
            }
            match self.spans[index].last_mut() {
                Some(span) if span.last + 1 == tick => span.last = tick,
                _ => self.spans[index].push(Span::at(tick)),
            }
        }
    }

    /// Those of an instance.
    pub(crate) fn of(&self, instance: InstanceIndex) -> &[Span] {
        self.spans.get(instance.0).map_or(&[], Vec::as_slice)
    }
}
