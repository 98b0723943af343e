//! Results as they are written: one type a schema, for JSON and for whoever reads it.

mod baseline;
mod check;
mod finding;
mod lint;
mod summary;

pub use baseline::{BASELINE_SCHEMA, BaselineFile};
pub use check::{
    CHECK_SCHEMA, CheckResult, EventResult, HitResult, PairResult, STREAM_SCHEMA, StreamEnd, StreamItem, StreamLine,
    TakeResult, ZoneResult,
};
pub use finding::{FindingResult, WarningResult, WorstResult};
pub use lint::{LINT_SCHEMA, LintResultFile};
pub use summary::{RuleSummary, SUMMARY_SCHEMA, SummaryResult, SummaryWorst, TakeSummary};
