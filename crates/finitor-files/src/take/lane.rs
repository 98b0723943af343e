//! One take of a file under reading: the tick that its rows are at, and the one after it as far as it is read.

use super::Row;
use super::bad_rows::Wrong;
use super::cast::Cast;
use finitor_core::Point;
use finitor_core::actor::ActorIndex;
use finitor_core::take::Sample;

/// Samples that are filled anew for each tick.
#[derive(Default)]
struct Slots {
    samples: Vec<Sample>,
    used: usize,
    /// Whether all instances so far are those of the last tick that was held here, in their order: no two are the same then.
    as_before: bool,
}

impl Slots {
    /// A new tick begins.
    fn reset(&mut self) {
        // What was not used is of an older tick.
        self.samples[self.used..].iter_mut().for_each(|sample| sample.label.clear());
        (self.used, self.as_before) = (0, true);
    }
}

/// A take whose rows are being read.
pub(super) struct Lane {
    /// What its rows say in the column `take`; empty where there is none.
    pub(super) name: String,
    /// The count of its last row among all rows.
    pub(super) last_row: u64,
    now: Slots,
    next: Slots,
    tick: Option<u64>,
    next_tick: Option<u64>,
}

impl Lane {
    pub(super) fn new(name: &str) -> Lane {
        let (now, next) = (Slots::default(), Slots::default());
        Lane { name: name.to_string(), last_row: 0, now, next, tick: None, next_tick: None }
    }

    /// The tick whose rows are read, and its samples in their order.
    pub(super) fn tick(&self) -> Option<(u64, &[Sample])> {
        Some((self.tick?, &self.now.samples[..self.now.used]))
    }

    /// Whether all rows of its tick are read.
    pub(super) fn has_all(&self) -> bool {
        self.next_tick.is_some()
    }

    /// Goes on to the next tick.
    pub(super) fn move_on(&mut self) {
        std::mem::swap(&mut self.now, &mut self.next);
        self.next.reset();
        self.tick = self.next_tick.take();
    }

    /// Takes in a row of this tick or of the next one.
    pub(super) fn fill(&mut self, cast: &Cast<'_>, row: Row<'_>) -> Result<(), Wrong> {
        if let Some(last) = self.tick.filter(|last| row.tick < *last) {
            let message = format!("tick {} comes after tick {last}; ticks must not run back", row.tick);
            return Err((message, Some("sort the rows by tick; the rows of several takes need a column take".into())));
        }
        let is_next = self.tick.is_some_and(|tick| row.tick > tick);
        let slots = if is_next { &mut self.next } else { &mut self.now };
        if self.tick.is_none() {
            slots.reset();
        }
        if slots.samples.len() == slots.used {
            // Filled below.
            slots.samples.push(Sample::new(String::new(), ActorIndex(0), Point::ZERO));
        }
        slots.as_before &= slots.samples[slots.used].label == row.actor;
        let (as_before, tick) = (slots.as_before, row.tick);
        // A slot held the same instance on another tick as a rule, which spares looking it up.
        let (before, slot) = slots.samples[..=slots.used].split_at_mut(slots.used);
        cast.fill(row, &mut slot[0])?;
        if !as_before && before.iter().any(|known| known.label == slot[0].label) {
            let message = format!("tick {tick} has a second row for {}", slot[0].label);
            return Err((message, Some("name instances apart, such as gull:1 and gull:2".into())));
        }
        slots.used += 1;
        if is_next {
            self.next_tick = Some(tick)
        } else {
            self.tick = Some(tick)
        }
        Ok(())
    }
}
