//! `finitor check`.

use crate::cli::{CheckArgs, Format};
use crate::exit::{Exit, Failure};
use crate::output::csv::write_csv;
use crate::output::{check_json, check_pairs, check_table};
use crate::session::Session;
use anstream::eprintln;
use finitor_core::actor::Actor;
use finitor_core::check::{Checker, Report};
use finitor_core::stage::Stage;
use finitor_files::TakeReader;
use std::io::Write;
use std::path::Path;

/// Checks each take and writes what was found.
pub(crate) fn run(session: &Session, args: &CheckArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    let files = session.actors(&[])?;
    let actors = session.fitted(&files)?;
    let stages = session.stages()?;
    let stage = session.stage(&stages, args.stage.as_deref())?;
    let mut exit = Exit::Done;
    let mut reports = Vec::new();
    for take in &args.takes {
        let path = session.take_path(take);
        let flip = session.flip(stage);
        let report = check_as(session, stage, &actors, &path, flip, args.pairs)?;
        if mostly_at_fault(&report) {
            hint_at_y_axis(session, stage, &actors, &path, flip)?;
        }
        if report.findings.iter().any(|finding| args.fail_on.fails(finding.severity)) {
            exit = Exit::Findings;
        }
        reports.push((take_name(take), report));
    }
    match format {
        Format::Table => {
            for (index, (name, report)) in reports.iter().enumerate() {
                if index > 0 {
                    writeln!(out)?;
                }
                check_table::write(name, stage, report, session.project.tick_rate, out)?;
                if args.pairs {
                    check_pairs::write(&report.pairs, out)?;
                }
            }
        }
        Format::Json => check_json::write(stage, &reports, args.pairs, out)?,
        Format::Csv if args.pairs => check_pairs::write_rows(&reports, out)?,
        Format::Csv => check_rows(&reports, out)?,
    }
    Ok(exit)
}

/// Reads a take through the checker.
pub(crate) fn check_take(session: &Session, stage: &Stage, actors: &[Actor], path: &Path) -> Result<Report, Failure> {
    check_as(session, stage, actors, path, session.flip(stage), false)
}

/// Findings as rows, those of all takes together.
fn check_rows(reports: &[(String, Report)], out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "take",
        "severity",
        "rule",
        "actor",
        "shape",
        "with",
        "first_tick",
        "last_tick",
        "worst_tick",
        "depth",
        "x",
        "y",
        "cause",
        "message",
        "remedy",
    ];
    let rows = reports.iter().flat_map(|(take, report)| {
        report.findings.iter().map(move |finding| {
            vec![
                take.clone(),
                finding.severity.to_string(),
                finding.rule.to_string(),
                finding.actor.clone(),
                finding.shape.clone(),
                finding.with.clone(),
                finding.ticks.0.to_string(),
                finding.ticks.1.to_string(),
                finding.worst.tick.to_string(),
                finding.worst.depth.to_string(),
                finding.worst.at.x.to_string(),
                finding.worst.at.y.to_string(),
                finding.cause.name().to_string(),
                finding.message.clone(),
                finding.remedy.clone(),
            ]
        })
    });
    write_csv(&header.map(String::from), rows, out)
}

/// The same with y counted as told, whatever the project says.
fn check_as(
    session: &Session,
    stage: &Stage,
    actors: &[Actor],
    path: &Path,
    flip: Option<f64>,
    pairs: bool,
) -> Result<Report, Failure> {
    let mut reader = TakeReader::open(path, actors, flip)?;
    let checker = Checker::new(session.world(stage, actors));
    let mut checker = if pairs { checker.with_pairs() } else { checker };
    while let Some((tick, samples)) = reader.next_tick()? {
        checker.tick(tick, &samples);
    }
    Ok(checker.finish())
}

/// Whether findings last for more than a tenth of the take: a game that bad would not have been recorded.
fn mostly_at_fault(report: &Report) -> bool {
    let ticks: u64 = report.findings.iter().map(|finding| finding.ticks.1 - finding.ticks.0 + 1).sum();
    ticks * 10 > report.ticks
}

/// Tells when the take makes sense with y counted the other way.
fn hint_at_y_axis(
    session: &Session,
    stage: &Stage,
    actors: &[Actor],
    path: &Path,
    flip: Option<f64>,
) -> Result<(), Failure> {
    let (turned, word) = if flip.is_some() { (None, "down") } else { (Some(stage.size.y), "up") };
    let other = check_as(session, stage, actors, path, turned, false)?;
    if !mostly_at_fault(&other) {
        eprintln!(
            "hint: {} makes sense with y counted {word}: then {} findings are left. Does the game count so? Set y_axis \
             = \"{word}\" under [project]",
            session.shown(path),
            other.findings.len()
        );
    }
    Ok(())
}

fn take_name(path: &Path) -> String {
    path.file_name().map_or_else(|| path.display().to_string(), |name| name.to_string_lossy().into_owned())
}
