//! `finitor lint`.

use crate::cli::{Format, LintArgs};
use crate::exit::Exit;
use crate::output::check_table::{Counts, counts};
use crate::output::csv::write_csv;
use crate::output::table::{coloured, table};
use crate::session::Session;
use finitor_app::results::LintResultFile;
use finitor_app::{Failure, LintRequest, LintResult, lint};
use finitor_core::finding::Finding;
use finitor_files::counted;
use std::io::Write;

/// Reports what is wrong before any take.
pub(crate) fn run(
    session: &Session<'_>,
    args: &LintArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let request =
        LintRequest { actors: args.actors.clone(), standing: args.standing.clone(), takes: args.takes.clone() };
    let result = lint(session, &request)?;
    if !result.has_standing {
        session.note(
            "note: no animation is marked as standing; add `standing = true` under it, or use --standing idle,walk",
        );
    }
    let findings = &result.findings;
    match format {
        Format::Json => {
            let result = LintResultFile::new(session.warnings(), findings);
            writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        }
        Format::Csv => write_rows(findings, out)?,
        Format::Table => write_table(&result, out)?,
    }
    let fails = findings.iter().any(|finding| args.fail_on.fails(finding.severity));
    Ok(if fails { Exit::Findings } else { Exit::Done })
}

fn write_rows(findings: &[Finding], out: &mut dyn Write) -> Result<(), Failure> {
    let header = ["severity", "rule", "subject", "place", "figure", "unit", "message", "fix"].map(String::from);
    let rows = findings.iter().map(|finding| {
        vec![
            finding.severity.to_string(),
            finding.rule.to_string(),
            finding.subject.clone(),
            finding.place.name().to_string(),
            finding.figure.to_string(),
            finding.rule.unit().name().to_string(),
            finding.message.clone(),
            finding.fix.clone(),
        ]
    });
    write_csv(&header, rows, out)
}

fn write_table(result: &LintResult, out: &mut dyn Write) -> Result<(), Failure> {
    let findings = &result.findings;
    let what = format!("{} of {}", counted(result.frames, "frame"), result.actors.join(", "));
    if findings.is_empty() {
        writeln!(out, "clean. {what}.")?;
        return Ok(());
    }
    let all = Counts::of(findings.iter().map(|finding| finding.severity));
    writeln!(out, "{} in {what}.\n", counts(all))?;
    let row = |finding: &Finding| {
        vec![
            finding.severity.to_string(),
            finding.rule.to_string(),
            format!("{} {}", finding.subject, finding.place.name()),
            finding.rule.unit().shown(finding.figure),
            finding.message.clone(),
            finding.fix.clone(),
        ]
    };
    let header = ["severity", "rule", "where", "figure", "what", "fix"];
    let drawn = table(&header, &["figure"], findings.iter().map(row).collect()).trim_fmt();
    drawn.lines().try_for_each(|line| writeln!(out, "{}", coloured(line)))?;
    Ok(())
}
