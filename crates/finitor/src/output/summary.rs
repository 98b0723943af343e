//! Many takes at a glance.

use super::check_table::{Counts, and_follow, counts};
use super::csv::write_csv;
use super::table::table;
use crate::cli::Format;
use finitor_app::Failure;
use finitor_app::results::SummaryResult;
use finitor_core::book;
use finitor_files::counted;
use std::io::Write;

/// One line about several takes.
pub(crate) fn line(summary: &SummaryResult) -> String {
    let takes = &summary.takes;
    let clean = takes.iter().filter(|take| take.errors + take.warnings + take.notes == 0).count();
    let ticks: u64 = takes.iter().map(|take| take.ticks).sum();
    let mut all = Counts::default();
    for take in takes {
        all.errors += take.errors;
        all.warnings += take.warnings;
        all.notes += take.notes;
    }
    let follow: usize = takes.iter().map(|take| take.follow).sum();
    let found = match counts(all) {
        none if none.is_empty() => String::new(),
        some => format!("; {some}{}", and_follow(follow)),
    };
    format!("{}, {ticks} ticks, {clean} clean{found}.", counted(takes.len(), "take"))
}

/// Writes the summary alone.
pub(crate) fn write(summary: &SummaryResult, format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(summary)?)?,
        Format::Csv => {
            let header = ["take", "ticks", "errors", "warnings", "notes", "follow"].map(String::from);
            let rows = summary.takes.iter().map(|take| {
                let figures = [take.ticks as usize, take.errors, take.warnings, take.notes, take.follow];
                std::iter::once(take.take.clone()).chain(figures.map(|figure| figure.to_string())).collect()
            });
            write_csv(&header, rows, out)?;
        }
        Format::Table => {
            writeln!(out, "{}", line(summary))?;
            if summary.rules.is_empty() {
                return Ok(());
            }
            let rows = summary.rules.iter().map(|rule| {
                let worst = &rule.worst;
                let unit = book::find(&rule.rule).map(finitor_core::rule::Rule::unit);
                let figure = unit.map_or_else(|| worst.figure.to_string(), |unit| unit.shown(worst.figure));
                vec![
                    rule.rule.clone(),
                    rule.findings.to_string(),
                    rule.takes.to_string(),
                    format!("{figure} at tick {} of {}", worst.tick, worst.take),
                    format!("{} with {}", worst.actor, worst.with),
                ]
            });
            let header = ["rule", "findings", "takes", "worst", "of"];
            writeln!(out, "\n{}", table(&header, &["findings", "takes"], rows.collect()).trim_fmt())?;
        }
    }
    Ok(())
}
