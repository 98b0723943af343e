//! Joining what a rule sees on single ticks into cases with spans.

use super::per_instance::PerInstance;
use super::step::{InstanceIndex, Way};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Vec2};
use crate::rule::Rule;
use crate::world::{Thing, ZoneIndex};

/// The other side of a fault.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum With<'a> {
    /// Something still that stops bodies.
    Thing(Thing),
    /// A zone.
    Zone(ZoneIndex),
    /// The stage as a whole.
    Stage,
    /// The actor's own picture.
    Picture,
    /// A shape of another instance.
    Shape(InstanceIndex, &'a str),
}

/// Between which two a fault is: ticks of one fault have one key.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Key<'a> {
    pub(crate) instance: InstanceIndex,
    pub(crate) with: With<'a>,
}

/// The case from which another one follows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct RootCase<'a> {
    pub(crate) rule: Rule,
    pub(crate) key: Key<'a>,
    pub(crate) first: u64,
}

/// Readings of what a game does by which a fault is none.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) struct Readings(u8);

impl Readings {
    /// That it is over by itself in a moment, and right then: it holds of everything until [`Ledger::confirm`] says otherwise.
    pub(crate) const IN_PASSING: Readings = Readings(1 << 7);

    /// These and one more, by its number.
    #[must_use]
    pub(crate) fn and(self, reading: usize) -> Readings {
        Readings(self.0 | 1 << reading)
    }

    /// Whether it is among them.
    pub(crate) fn has(self, reading: usize) -> bool {
        self.0 & 1 << reading != 0
    }

    fn meets(self, other: Readings) -> bool {
        self.0 & (other.0 | Readings::IN_PASSING.0) != 0
    }
}

/// A fault of a single rule between two things.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Told<'a> {
    pub(crate) rule: Rule,
    pub(crate) key: Key<'a>,
}

/// What a rule saw on a tick, as plain values; words are made of them when the case is over.
#[derive(Clone, Debug)]
pub(crate) struct Sighting<'a, S> {
    pub(crate) tick: u64,
    /// The rule's figure.
    pub(crate) figure: f64,
    pub(crate) at: Point,
    pub(crate) push: Vec2,
    pub(crate) cause: Cause,
    /// The shape of the instance.
    pub(crate) shape: &'a str,
    /// How the instance came there.
    pub(crate) way: Way,
    /// What else the rule's words need.
    pub(crate) seen: S,
}

/// One fault from its first tick to its last.
#[derive(Clone, Debug)]
pub(crate) struct Case<'a, S> {
    pub(crate) key: Key<'a>,
    pub(crate) ticks: Span,
    /// How it began.
    pub(crate) first: Sighting<'a, S>,
    /// The worst tick.
    pub(crate) worst: Sighting<'a, S>,
    /// The worst tick of those with the first cause: what to change depends on that.
    pub(crate) to_fix: Sighting<'a, S>,
    /// The case from which it follows.
    pub(crate) after: Option<RootCase<'a>>,
    /// The readings by which all of it is right; none where it is a fault whatever the game does.
    by: Readings,
    /// Whether it began on this tick.
    is_fresh: bool,
}

impl<'a, S: Clone> Case<'a, S> {
    fn new(key: Key<'a>, ticks: Span, first: Sighting<'a, S>) -> Case<'a, S> {
        let (worst, to_fix) = (first.clone(), first.clone());
        Case { key, ticks, first, worst, to_fix, after: None, by: Readings::default(), is_fresh: true }
    }

    /// Whether it may turn out to be right.
    pub(crate) fn is_doubted(&self) -> bool {
        self.by != Readings::default()
    }
}

/// The cases of one rule: those that a later tick may continue, and those that are over.
///
/// Faults between the same two things are one case while no more than some ticks lie between them.
#[derive(Debug)]
pub(crate) struct Ledger<'a, S> {
    merge_gap: u64,
    /// By how many ticks the rule may be late.
    late: u64,
    open: Vec<Case<'a, S>>,
    over: Vec<Case<'a, S>>,
    /// How many of them began on this tick.
    fresh: usize,
    /// The readings that hold for each instance.
    known: PerInstance<Readings>,
}

impl<'a, S: Clone> Ledger<'a, S> {
    /// Nothing seen yet.
    pub(crate) fn new(merge_gap: u64, late: u64) -> Ledger<'a, S> {
        Ledger { merge_gap, late, open: Vec::new(), over: Vec::new(), fresh: 0, known: PerInstance::default() }
    }

    /// Adds what was seen on some ticks with a figure. The rest is asked for only where a case begins, or gets worse.
    pub(crate) fn see(&mut self, key: Key<'a>, ticks: Span, figure: f64, rest: impl FnOnce() -> Sighting<'a, S>) {
        let gap = self.merge_gap;
        let goes_on = |case: &&mut Case<'a, S>| case.key == key && case.ticks.last + 1 + gap >= ticks.first;
        if let Some(case) = self.open.iter_mut().find(goes_on) {
            case.ticks.last = case.ticks.last.max(ticks.last);
            if figure > case.worst.figure {
                let worse = rest();
                if worse.cause == case.first.cause {
                    case.to_fix = worse.clone();
                }
                case.worst = worse;
            }
            return;
        }
        let late = self.late;
        self.put_away(|case| case.ticks.last + 1 + gap + late < ticks.first);
        let first = rest();
        self.fresh += 1;
        self.open.push(Case::new(key, ticks, first));
    }

    /// Says by which readings what was just seen is right, and which of them hold for the instance as far as is known.
    pub(crate) fn doubt(&mut self, key: Key<'a>, tick: u64, by: Readings) {
        let is_it = |case: &&mut Case<'a, S>| case.key == key && case.ticks.last == tick;
        if let Some(case) = self.open.iter_mut().find(is_it) {
            let before = if case.ticks.first == tick { by } else { case.by };
            case.by = Readings(before.0 & by.0);
        }
    }

    /// Says which readings hold for an instance: cases that are right by one of them are none.
    pub(crate) fn know(&mut self, instance: InstanceIndex, readings: Readings) {
        *self.known.of(instance) = readings;
    }

    /// Says that what was seen of an instance from a tick on is a fault whatever the game does.
    pub(crate) fn confirm(&mut self, instance: InstanceIndex, since: u64) {
        let is_it = |case: &&mut Case<'a, S>| case.key.instance == instance && case.ticks.last >= since;
        self.open.iter_mut().filter(is_it).for_each(|case| case.by = Readings::default());
    }

    /// Puts away the cases that no later tick can continue.
    fn put_away(&mut self, is_ended: impl Fn(&Case<'a, S>) -> bool) {
        let ended = self.open.extract_if(.., |case| is_ended(case));
        self.over.extend(ended.filter(|case| !case.by.meets(*self.known.of(case.key.instance))));
    }

    /// Adds a case that is known only now that it is over.
    pub(crate) fn close(&mut self, key: Key<'a>, ticks: Span, seen: Sighting<'a, S>) {
        self.fresh += 1;
        self.over.push(Case::new(key, ticks, seen));
    }

    /// Whether any case began on this tick.
    pub(crate) fn has_fresh(&self) -> bool {
        self.fresh > 0
    }

    /// The cases that began on this tick, in the order in which they were seen.
    pub(crate) fn fresh(&mut self) -> Vec<&mut Case<'a, S>> {
        let all = self.open.iter_mut().rev().chain(self.over.iter_mut().rev());
        let mut fresh: Vec<_> = all.filter(|case| case.is_fresh).take(self.fresh).collect();
        fresh.reverse();
        fresh
    }

    /// Says what the cases that began on this tick follow from; the tick is over.
    pub(crate) fn follow(&mut self, root_of: impl Fn(Key<'a>, u64) -> Option<RootCase<'a>>) {
        for case in self.fresh() {
            (case.after, case.is_fresh) = (root_of(case.key, case.ticks.first), false);
        }
        self.fresh = 0;
    }

    /// All cases that were not forgotten.
    pub(crate) fn all(&self) -> impl Iterator<Item = &Case<'a, S>> {
        self.over.iter().chain(&self.open)
    }

    /// The last tick so far of a case that was not forgotten; what began last is found first.
    pub(crate) fn last_of(&self, key: Key<'a>, first: u64) -> Option<u64> {
        let mut all = self.open.iter().chain(self.over.iter().rev());
        all.find(|case| case.key == key && case.ticks.first == first).map(|case| case.ticks.last)
    }

    /// Whether a case between these two would go on on this tick.
    pub(crate) fn is_running(&self, key: Key<'a>, tick: u64) -> bool {
        self.open.iter().any(|case| case.key == key && case.ticks.last + 1 == tick)
    }

    /// Whether no case of an instance goes on at a tick or later.
    pub(crate) fn is_silent(&self, instance: InstanceIndex, since: u64) -> bool {
        self.open.iter().all(|case| case.key.instance != instance || case.ticks.last < since)
    }

    /// Cases that no later tick can continue; they are forgotten here.
    pub(crate) fn ended(&mut self, tick: u64) -> Vec<Case<'a, S>> {
        let (gap, late) = (self.merge_gap, self.late);
        self.put_away(|case| case.ticks.last + 1 + gap + late < tick);
        self.take_over()
    }

    /// All cases that are left.
    pub(crate) fn finish(&mut self) -> Vec<Case<'a, S>> {
        self.put_away(|_| true);
        self.take_over()
    }

    /// What is over, but for what turned out to be right since.
    fn take_over(&mut self) -> Vec<Case<'a, S>> {
        let mut over = std::mem::take(&mut self.over);
        over.retain(|case| !case.by.meets(*self.known.of(case.key.instance)));
        over
    }
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::testing::*;

    #[test]
    fn spans_join_consecutive_ticks_and_break_at_gaps() {
        let stage = with_wall();
        let r = Facing::Right;
        let deep = |tick, x| Row(tick, (x, 200.0), r, "stand", "");
        let rows = [deep(0, 97.0), deep(1, 98.0), deep(2, 97.5), deep(3, 90.0), deep(4, 97.0), deep(9, 97.0)];
        let spans = |gap: f64| -> Vec<((u64, u64), u64)> {
            let report = check_by(&stage, hero(0), &rows, &settings("merge_gap", gap));
            report.findings.iter().map(|f| (span(f), at(f).worst.tick)).collect()
        };
        assert_eq!(spans(0.0), [((0, 2), 1), ((4, 4), 4), ((9, 9), 9)]);
        // One tick between, or four, as many as are joined over.
        assert_eq!(spans(2.0), [((0, 4), 1), ((9, 9), 9)]);
        assert_eq!(spans(3.0), [((0, 4), 1), ((9, 9), 9)]);
        assert_eq!(spans(4.0), [((0, 9), 1)]);
    }
}
