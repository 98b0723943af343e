//! Joining what is wrong on single ticks into findings with spans.

use super::{Cause, Finding, Rule, Severity, Worst};
use std::collections::BTreeMap;

/// What is wrong on one tick.
#[derive(Clone, Debug)]
pub(super) struct Fault {
    pub(super) rule: Rule,
    pub(super) actor: String,
    pub(super) shape: String,
    pub(super) with: String,
    pub(super) worst: Worst,
    pub(super) cause: Cause,
    pub(super) message: String,
    pub(super) remedy: String,
    /// What is left of the figure once the remedy was applied.
    pub(super) remains: Option<f64>,
}

/// Findings under way and done.
///
/// Faults of one rule between the same two things are one finding while no more than `join` ticks lie between them.
#[derive(Debug, Default)]
pub(super) struct Ledger {
    join: u64,
    /// Those that the next tick may continue, by rule; few at a time.
    open: BTreeMap<Rule, Vec<Finding>>,
    done: Vec<Finding>,
}

impl Fault {
    /// One more tick of a finding, no worse than it was: the words are those of a worse tick.
    pub(super) fn going_on(rule: Rule, actor: &str, with: &str, worst: Worst) -> Fault {
        Fault {
            rule,
            actor: actor.to_string(),
            shape: String::new(),
            with: with.to_string(),
            worst,
            cause: Cause::Moved,
            message: String::new(),
            remedy: String::new(),
            remains: None,
        }
    }
}

fn finding(severity: Severity, fault: Fault, ticks: (u64, u64)) -> Finding {
    let Fault { rule, actor, shape, with, worst, cause, message, remedy, remains } = fault;
    Finding { rule, severity, actor, shape, with, ticks, worst, cause, message, remedy, remains }
}

/// Two bodies in one another are one fault, whichever of them is named first.
fn is_between(finding: &Finding, one: &str, other: &str) -> bool {
    (finding.actor == one && finding.with == other) || (finding.actor == other && finding.with == one)
}

impl Ledger {
    /// Nothing found yet, faults to be joined over so many ticks.
    pub(super) fn new(join: u32) -> Ledger {
        Ledger { join: u64::from(join), ..Ledger::default() }
    }

    /// Adds a fault of this tick. The first tick's actor and cause stay; the words follow the worst tick.
    pub(super) fn add(&mut self, severity: Severity, fault: Fault) {
        if severity == Severity::Off {
            return;
        }
        let tick = fault.worst.tick;
        let open = self.open.entry(fault.rule).or_default();
        let goes_on = |known: &&mut Finding| {
            is_between(known, &fault.actor, &fault.with) && known.ticks.1 + 1 + self.join >= tick
        };
        if let Some(known) = open.iter_mut().find(goes_on) {
            known.ticks.1 = known.ticks.1.max(tick);
            if fault.worst.depth > known.worst.depth {
                known.worst = fault.worst;
                // What to mend depends on what first went wrong; later ticks of one fault are told as its depth.
                if fault.cause == known.cause {
                    (known.remedy, known.remains) = (fault.remedy, fault.remains);
                }
                known.message = fault.message;
            }
            return;
        }
        // A fault may be told of the tick before, too.
        self.done.extend(open.extract_if(.., |known| known.ticks.1 + 2 + self.join < tick));
        open.push(finding(severity, fault, (tick, tick)));
    }

    /// Adds a fault that is known only now that it is over, of its first to its last tick.
    pub(super) fn add_over(&mut self, severity: Severity, fault: Fault, ticks: (u64, u64)) {
        if severity != Severity::Off {
            self.done.push(finding(severity, fault, ticks));
        }
    }

    /// The finding that a fault between these two would continue on this tick.
    pub(super) fn running(&self, rule: Rule, one: &str, other: &str, tick: u64) -> Option<&Finding> {
        let open = self.open.get(&rule)?;
        open.iter().find(|known| known.ticks.1 + 1 == tick && is_between(known, one, other))
    }

    /// Whether a fault of so much would continue a finding on this tick and be no worse than that was.
    pub(super) fn is_no_worse(&self, rule: Rule, one: &str, other: &str, (tick, depth): (u64, f64)) -> bool {
        self.running(rule, one, other, tick).is_some_and(|known| depth <= known.worst.depth)
    }

    /// Findings that no fault of the next tick can continue; they are forgotten here.
    pub(super) fn ended(&mut self, tick: u64) -> Vec<Finding> {
        for open in self.open.values_mut().filter(|open| !open.is_empty()) {
            // A fault may be told of the tick before, too.
            self.done.extend(open.extract_if(.., |known| known.ticks.1 + 1 + self.join < tick));
        }
        std::mem::take(&mut self.done)
    }

    /// All findings that are left.
    pub(super) fn finish(mut self) -> Vec<Finding> {
        self.done.extend(self.open.into_values().flatten());
        self.done
    }
}
