//! Reading a take tick by tick and telling what clipped, how deep and why.
//!
//! [`Checker::tick`] takes the samples of one tick after another; memory grows with the findings, not with the take.
//! How each rule measures is told by [`Rule`]; the words of findings are made here, so that every output says the
//! same.

mod art;
mod art_hits;
mod bodies;
mod bounds;
mod caught;
mod checker;
mod deep;
mod deep_words;
mod feet;
mod finding;
mod footing;
mod footing_rule_texts;
mod ground;
mod hit_rule_texts;
mod hits;
mod layer_rule_texts;
mod ledger;
mod one_way;
mod rule_texts;
mod rules;
mod snag;
mod split;
mod stage_rule_texts;
mod step;
mod stops;
mod tally;
mod tries;
mod words;
mod zones;

pub use checker::{Checker, Report, Settings, World};
pub use finding::{Cause, Event, EventKind, Finding, Severity, Stay, Worst};
pub use hits::Hit;
pub use rules::{Rule, RuleText};
pub use tally::PairTally;
