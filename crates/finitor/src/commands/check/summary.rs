//! Many takes at a glance.

use crate::cli::Format;
use crate::exit::Failure;
use crate::output::check_table::counts;
use crate::output::csv::write_csv;
use crate::output::table::table;
use finitor_core::check::{Finding, Report, Rule, Severity};
use finitor_files::counted;
use serde_json::json;
use std::io::Write;

/// What a rule has over all takes.
struct OfRule<'a> {
    rule: Rule,
    count: usize,
    takes: usize,
    worst: (&'a str, &'a Finding),
}

fn of_rules(reports: &[(String, Report)]) -> Vec<OfRule<'_>> {
    let of = |rule: Rule| {
        let found = reports.iter().flat_map(|(take, report)| {
            report
                .findings
                .iter()
                .filter(move |finding| finding.rule == rule)
                .map(move |finding| (take.as_str(), finding))
        });
        let found: Vec<(&str, &Finding)> = found.collect();
        let mut takes: Vec<&str> = found.iter().map(|(take, _)| *take).collect();
        takes.dedup();
        let worst = found.iter().copied().reduce(|a, b| if b.1.worst.depth > a.1.worst.depth { b } else { a })?;
        Some(OfRule { rule, count: found.len(), takes: takes.len(), worst })
    };
    let mut all: Vec<OfRule<'_>> = Rule::ALL.into_iter().filter_map(of).collect();
    all.sort_by(|a, b| b.worst.1.severity.cmp(&a.worst.1.severity).then(b.count.cmp(&a.count)));
    all
}

/// One line about several takes.
pub(super) fn line(reports: &[(String, Report)]) -> String {
    let clean = reports.iter().filter(|(_, report)| report.findings.is_empty()).count();
    let ticks: u64 = reports.iter().map(|(_, report)| report.ticks).sum();
    let all = reports.iter().flat_map(|(_, report)| &report.findings);
    let told = match counts(all.map(|finding| finding.severity)) {
        none if none.is_empty() => String::new(),
        some => format!("; {some}"),
    };
    format!("{}, {ticks} ticks, {clean} clean{told}.", counted(reports.len(), "take"))
}

/// Writes the summary alone.
pub(super) fn write(reports: &[(String, Report)], format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    let rules = of_rules(reports);
    let count = |report: &Report, severity: Severity| report.findings.iter().filter(|f| f.severity == severity).count();
    match format {
        Format::Json => {
            let takes = reports.iter().map(|(take, report)| {
                json!({
                    "take": take, "ticks": report.ticks, "errors": count(report, Severity::Error),
                    "warnings": count(report, Severity::Warn), "notes": count(report, Severity::Note),
                })
            });
            let rules = rules.iter().map(|of| {
                let (take, finding) = of.worst;
                json!({
                    "rule": of.rule.name(), "findings": of.count, "takes": of.takes, "unit": of.rule.unit(),
                    "worst": {"take": take, "tick": finding.worst.tick, "depth": finding.worst.depth, "actor": finding.actor,
                              "with": finding.with},
                })
            });
            let value = json!({
                "schema": "finitor.summary/1", "takes": takes.collect::<Vec<_>>(), "rules": rules.collect::<Vec<_>>(),
            });
            writeln!(out, "{}", serde_json::to_string_pretty(&value)?)?;
        }
        Format::Csv => {
            let header = ["take", "ticks", "errors", "warnings", "notes"].map(String::from);
            let rows = reports.iter().map(|(take, report)| {
                let counts = [Severity::Error, Severity::Warn, Severity::Note].map(|severity| count(report, severity));
                let mut row = vec![take.clone(), report.ticks.to_string()];
                row.extend(counts.map(|count| count.to_string()));
                row
            });
            write_csv(&header, rows, out)?;
        }
        Format::Table => {
            writeln!(out, "{}", line(reports))?;
            if !rules.is_empty() {
                let rows = rules.iter().map(|of| {
                    let (take, finding) = of.worst;
                    let worst = format!(
                        "{:.2} {} at tick {} of {take}",
                        finding.worst.depth,
                        of.rule.unit(),
                        finding.worst.tick
                    );
                    let who = format!("{} with {}", finding.actor, finding.with);
                    vec![of.rule.to_string(), of.count.to_string(), of.takes.to_string(), worst, who]
                });
                let header = ["rule", "findings", "takes", "worst", "of"];
                writeln!(out, "\n{}", table(&header, &["findings", "takes"], rows.collect()).trim_fmt())?;
            }
        }
    }
    Ok(())
}
