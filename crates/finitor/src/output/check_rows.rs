//! Findings of takes as rows, those of all takes together.

use super::csv::write_csv;
use finitor_app::{CheckedTake, Failure};
use finitor_core::finding::{Finding, InTake};
use std::io::Write;

const HEADER: [&str; 18] = [
    "take",
    "severity",
    "rule",
    "actor",
    "shape",
    "with",
    "first_tick",
    "last_tick",
    "worst_tick",
    "figure",
    "unit",
    "x",
    "y",
    "cause",
    "after",
    "message",
    "fix",
    "remains",
];

/// Writes the rows.
pub(crate) fn write(takes: &[CheckedTake], out: &mut dyn Write) -> Result<(), Failure> {
    let rows = takes.iter().flat_map(|take| {
        let findings = take.report.findings.iter();
        findings.filter_map(|finding| Some(row(&take.name, finding, finding.in_take()?)))
    });
    write_csv(&HEADER.map(String::from), rows, out)
}

fn row(take: &str, finding: &Finding, place: &InTake) -> Vec<String> {
    vec![
        take.to_string(),
        finding.severity.to_string(),
        finding.rule.to_string(),
        finding.subject.clone(),
        place.shape.clone(),
        place.with.clone(),
        place.ticks.first.to_string(),
        place.ticks.last.to_string(),
        place.worst.tick.to_string(),
        finding.figure.to_string(),
        finding.rule.unit().name().to_string(),
        place.worst.at.x.to_string(),
        place.worst.at.y.to_string(),
        place.cause.name().to_string(),
        place.after.as_ref().map_or_else(String::new, |root| format!("{} {} {}", root.rule, root.subject, root.first)),
        finding.message.clone(),
        finding.fix.clone(),
        finding.remains.map_or_else(String::new, |left| left.to_string()),
    ]
}
