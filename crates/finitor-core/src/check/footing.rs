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

#[cfg(test)]
mod tests {
    use super::{Footing, Span};
    use crate::Facing;
    use crate::check::{CheckInput, Checker, Settings};
    use crate::testing::dice::Dice;
    use crate::testing::{LEVEL, floored, hero, layers, sample};

    #[test]
    fn runs_are_those_of_the_ticks_on_the_ground() {
        let (stage, layers, settings, actors) = (floored(), layers(), Settings::default(), [hero(0)]);
        let mut dice = Dice::new(7);
        for _ in 0..40 {
            // Some ticks are missing, and on some the hero is well off the ground.
            let ticks: Vec<u64> = (0..200).filter(|_| dice.below(12) > 0).collect();
            let mut is_up = false;
            let up: Vec<bool> = ticks
                .iter()
                .map(|_| {
                    is_up ^= dice.below(9) == 0;
                    is_up
                })
                .collect();
            let run = |is_asked: bool| {
                let checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
                let mut checker = if is_asked { checker.with_footing() } else { checker };
                for (tick, is_up) in ticks.iter().zip(&up) {
                    let at = (100.0, if *is_up { LEVEL - 40.0 } else { LEVEL });
                    checker.tick(*tick, &[sample(&actors, "hero", (at, Facing::Right), "stand", "jump")]);
                }
                checker.finish().footing
            };
            let mut spans: Vec<Span> = Vec::new();
            for (tick, _) in ticks.iter().zip(&up).filter(|(_, is_up)| !**is_up) {
                match spans.last_mut() {
                    Some(span) if span.last + 1 == *tick => span.last = *tick,
                    _ => spans.push(Span::at(*tick)),
                }
            }
            let wanted: Vec<Footing> =
                if spans.is_empty() { Vec::new() } else { vec![Footing { actor: "hero".into(), spans }] };
            assert_eq!(run(true), wanted);
            assert!(run(false).is_empty());
        }
    }
}
