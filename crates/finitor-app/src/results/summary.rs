//! Many takes at a glance, as it is written.

use crate::checked_take::CheckedTake;
use finitor_core::book;
use finitor_core::finding::Finding;
use finitor_core::rule::{Rule, Severity};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`SummaryResult`].
pub const SUMMARY_SCHEMA: &str = "finitor.summary/2";

/// How many findings takes hold, by take and by rule.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SummaryResult {
    /// [`SUMMARY_SCHEMA`].
    pub schema: String,
    /// The takes, in the order in which they were given.
    pub takes: Vec<TakeSummary>,
    /// The rules that were broken, the most severe first.
    pub rules: Vec<RuleSummary>,
}

/// Findings of one take.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TakeSummary {
    /// Its file.
    pub take: String,
    /// Its ticks.
    pub ticks: u64,
    /// How many errors.
    pub errors: usize,
    /// How many warnings.
    pub warnings: usize,
    /// How many notes.
    pub notes: usize,
    /// How many findings follow from others; the rest counts only those that do not.
    pub follow: usize,
}

/// Findings of one rule over all takes.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct RuleSummary {
    /// The rule's code.
    pub rule: String,
    /// How many findings.
    pub findings: usize,
    /// In how many takes.
    pub takes: usize,
    /// What the figure of the worst counts.
    pub unit: String,
    /// The worst of them.
    pub worst: SummaryWorst,
}

/// The worst finding of a rule.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SummaryWorst {
    /// The take.
    pub take: String,
    /// The tick.
    pub tick: u64,
    /// Its figure.
    pub figure: f64,
    /// The instance.
    pub actor: String,
    /// The other side.
    pub with: String,
}

/// A finding with its take.
#[derive(Clone, Copy)]
struct Of<'a> {
    take: &'a CheckedTake,
    finding: &'a Finding,
}

impl SummaryResult {
    /// Of takes that were checked.
    pub fn new(takes: &[CheckedTake]) -> SummaryResult {
        let by_take: Vec<Vec<Of<'_>>> = takes.iter().map(roots_of).collect();
        let roots = by_take.concat();
        let mut rules: Vec<(Severity, RuleSummary)> =
            book::take_rules().filter_map(|rule| of_rule(&roots, rule)).collect();
        rules.sort_by(|a, b| b.0.cmp(&a.0).then(b.1.findings.cmp(&a.1.findings)));
        SummaryResult {
            schema: SUMMARY_SCHEMA.to_string(),
            takes: takes.iter().zip(&by_take).map(|(take, roots)| of_take(take, roots)).collect(),
            rules: rules.into_iter().map(|(_, rule)| rule).collect(),
        }
    }
}

fn roots_of(take: &CheckedTake) -> Vec<Of<'_>> {
    take.report.roots().into_iter().map(|root| Of { take, finding: root.finding }).collect()
}

fn of_take(take: &CheckedTake, roots: &[Of<'_>]) -> TakeSummary {
    let count = |severity: Severity| roots.iter().filter(|root| root.finding.severity == severity).count();
    TakeSummary {
        take: take.name.clone(),
        ticks: take.report.ticks,
        errors: count(Severity::Error),
        warnings: count(Severity::Warn),
        notes: count(Severity::Note),
        follow: take.report.findings.len() - roots.len(),
    }
}

fn of_rule(roots: &[Of<'_>], rule: Rule) -> Option<(Severity, RuleSummary)> {
    let found: Vec<Of<'_>> = roots.iter().copied().filter(|of| of.finding.rule == rule).collect();
    let mut names: Vec<&str> = found.iter().map(|of| of.take.name.as_str()).collect();
    names.dedup();
    let worst = found.iter().copied().reduce(|a, b| if b.finding.figure > a.finding.figure { b } else { a })?;
    let at = worst.finding.in_take()?;
    let summary = RuleSummary {
        rule: rule.code().to_string(),
        findings: found.len(),
        takes: names.len(),
        unit: rule.unit().name().to_string(),
        worst: SummaryWorst {
            take: worst.take.name.clone(),
            tick: at.worst.tick,
            figure: worst.finding.figure,
            actor: worst.finding.subject.clone(),
            with: at.with.clone(),
        },
    };
    Some((worst.finding.severity, summary))
}
