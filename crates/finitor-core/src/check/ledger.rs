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
}

/// Faults of one rule between the same two things are one finding while no tick lies between them.
type Key = (Rule, String, String);

/// Findings under way and done.
#[derive(Debug, Default)]
pub(super) struct Ledger {
    open: BTreeMap<Key, Finding>,
    done: Vec<Finding>,
}

impl Ledger {
    /// Adds a fault of this tick. The first tick's actor and cause stay; the words follow the worst tick.
    pub(super) fn add(&mut self, severity: Severity, fault: Fault) {
        if severity == Severity::Off {
            return;
        }
        let tick = fault.worst.tick;
        let key = key(&fault);
        if let Some(open) = self.open.get_mut(&key) {
            if open.ticks.1 == tick || open.ticks.1 + 1 == tick {
                open.ticks.1 = tick;
                if fault.worst.depth > open.worst.depth {
                    open.worst = fault.worst;
                    // What to mend depends on what first went wrong; later ticks of one fault are told as its depth.
                    if fault.cause == open.cause {
                        open.remedy = fault.remedy;
                    }
                    open.message = fault.message;
                }
                return;
            }
            self.close(&key);
        }
        let finding = Finding {
            rule: fault.rule,
            severity,
            actor: fault.actor,
            shape: fault.shape,
            with: fault.with,
            ticks: (tick, tick),
            worst: fault.worst,
            cause: fault.cause,
            message: fault.message,
            remedy: fault.remedy,
        };
        self.open.insert(key, finding);
    }

    /// The finding that a fault between these two would continue on this tick.
    pub(super) fn running(&self, rule: Rule, one: &str, other: &str, tick: u64) -> Option<&Finding> {
        self.open.get(&ordered(rule, one, other)).filter(|open| open.ticks.1 + 1 == tick)
    }

    fn close(&mut self, key: &Key) {
        self.done.extend(self.open.remove(key));
    }

    /// All findings, by first tick, then rule, actor and thing.
    pub(super) fn finish(mut self) -> Vec<Finding> {
        self.done.extend(std::mem::take(&mut self.open).into_values());
        self.done.sort_by(|a, b| {
            let order = |f: &Finding| (f.ticks.0, f.rule, f.actor.clone(), f.with.clone());
            order(a).cmp(&order(b))
        });
        self.done
    }
}

fn key(fault: &Fault) -> Key {
    ordered(fault.rule, &fault.actor, &fault.with)
}

/// Two bodies in one another are one fault, whichever of them is named first.
fn ordered(rule: Rule, one: &str, other: &str) -> Key {
    let (low, high) = if one <= other { (one, other) } else { (other, one) };
    (rule, low.to_string(), high.to_string())
}
