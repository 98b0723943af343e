//! Findings as they are written.

use crate::sink::Warning;
use finitor_core::finding::{Finding, Root};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A finding, of a take or of the files.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct FindingResult {
    /// The rule's code.
    pub rule: String,
    /// `note`, `warn` or `error`.
    pub severity: String,
    /// The actor instance; of the files the actor, the stage, or `layers`.
    pub subject: String,
    /// Of the files: the frame, the thing or the layer.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub place: Option<String>,
    /// Of a take: the shape of the instance.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shape: Option<String>,
    /// Of a take: `stage/thing`, or `actor.shape`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub with: Option<String>,
    /// Of a take: the first and the last tick.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub ticks: Option<[u64; 2]>,
    /// The rule's figure at its worst, in `unit`.
    pub figure: f64,
    /// What the figure counts: px, px2, ticks, frames, shapes, pairs, matches or degrees.
    pub unit: String,
    /// Of a take: the worst moment.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub worst: Option<WorstResult>,
    /// Of a take: what first made it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cause: Option<String>,
    /// Of a take: the finding from which it follows; absent where it stands for itself.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub after: Option<RootResult>,
    /// What happened.
    pub message: String,
    /// What to change.
    pub fix: String,
    /// Of a take: where the step that went wrong is to end, where the fix is that.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub end_at: Option<EndAtResult>,
    /// Of a take: the figure that is left once the fix is applied, in `unit`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub remains: Option<f64>,
}

/// Where a step is to end.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct EndAtResult {
    /// The tick.
    pub tick: u64,
    /// The place of the pivot, world px, y down.
    pub at: [f64; 2],
}

/// The finding from which another one follows.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct RootResult {
    /// Its rule.
    pub rule: String,
    /// Its subject.
    pub subject: String,
    /// Its other side.
    pub with: String,
    /// Its first tick.
    pub first_tick: u64,
}

impl From<&Root> for RootResult {
    fn from(root: &Root) -> RootResult {
        let Root { rule, subject, with, first } = root.clone();
        RootResult { rule: rule.code().to_string(), subject, with, first_tick: first }
    }
}

/// The worst moment of a finding.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct WorstResult {
    /// The tick.
    pub tick: u64,
    /// The place, world px, y down.
    pub at: [f64; 2],
    /// Unit vector of the way out; zeros where there is none.
    pub push: [f64; 2],
}

/// Something that should be known though the run went on.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct WarningResult {
    /// What it is.
    pub message: String,
    /// What to do about it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub fix: Option<String>,
}

impl From<&Finding> for FindingResult {
    fn from(finding: &Finding) -> FindingResult {
        let take = finding.in_take();
        let place = finding.place.name();
        FindingResult {
            rule: finding.rule.code().to_string(),
            severity: finding.severity.name().to_string(),
            subject: finding.subject.clone(),
            place: take.is_none().then(|| place.to_string()),
            shape: take.map(|at| at.shape.clone()),
            with: take.map(|at| at.with.clone()),
            ticks: take.map(|at| [at.ticks.first, at.ticks.last]),
            figure: finding.figure,
            unit: finding.rule.unit().name().to_string(),
            worst: take.map(|at| WorstResult {
                tick: at.worst.tick,
                at: [at.worst.at.x, at.worst.at.y],
                // 0 + -0 is 0: no minus before a zero.
                push: [at.worst.push.x + 0.0, at.worst.push.y + 0.0],
            }),
            cause: take.map(|at| at.cause.name().to_string()),
            after: take.and_then(|at| at.after.as_ref()).map(RootResult::from),
            message: finding.message.clone(),
            fix: finding.fix.clone(),
            end_at: take.and_then(|at| at.end_at).map(|end| EndAtResult { tick: end.tick, at: [end.at.x, end.at.y] }),
            remains: finding.remains,
        }
    }
}

impl From<&Warning> for WarningResult {
    fn from(warning: &Warning) -> WarningResult {
        WarningResult { message: warning.message.clone(), fix: warning.hint.clone() }
    }
}
