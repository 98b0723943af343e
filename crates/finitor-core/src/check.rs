//! Reading a take tick by tick and reporting what clipped, how deep and why.
//!
//! [`Checker::tick`] takes the samples of one tick after another; memory grows with the findings, not with the take. A
//! tick is first observed (contacts, zones, ground, swings), and then the rules judge what was seen. The words
//! of findings are made here, so that every output says the same.

mod aftermath;
mod aloft;
mod blame;
mod blows;
mod checker;
mod contacts;
mod crossing;
mod drops;
mod feet;
mod foot_points;
mod footing;
mod input;
mod inside;
mod ledger;
mod level_runs;
mod look;
mod moment;
mod pass;
mod pause;
mod per_instance;
mod reaction;
mod report;
mod resting;
mod retrial;
mod rules;
mod seams;
mod settings;
mod shots;
mod standing;
mod step;
mod still;
mod swings;
mod take_rule;
mod tally;
mod thin_parts;
mod visits;
mod walk;
mod weight;
mod words;

pub use checker::Checker;
pub use foot_points::FootPoints;
pub use footing::Footing;
pub use input::CheckInput;
pub use report::{Blocked, Event, EventKind, Gap, Hit, OnSlopes, Report, RootFinding, Stay, SwingSeen, Written};
pub(crate) use rules::SPECS;
pub use settings::{MERGE_GAP, SHARED, SLACK, Settings, TELEPORT, View};
pub use tally::PairTally;
