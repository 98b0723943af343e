//! `finitor check`.

mod accepted;
mod stream;
mod summary;
mod wanted;

use crate::cli::{CheckArgs, Format};
use crate::exit::{Exit, Failure};
use crate::output::csv::write_csv;
use crate::output::{check_json, check_pairs, check_table};
use crate::session::Session;
use anstream::eprintln;
use finitor_core::actor::Actor;
use finitor_core::check::{Checker, Finding, Report};
use finitor_core::stage::Stage;
use finitor_files::{Problems, STANDARD_INPUT, TakeReader, counted};
use rayon::prelude::*;
use std::io::Write;
use std::path::{Path, PathBuf};
use wanted::Wanted;

/// Checks each take and writes what was found.
pub(crate) fn run(session: &Session, args: &CheckArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    let files = session.actors(&[])?;
    let actors = session.fitted(&files)?;
    let stages = session.stages()?;
    let stage = session.stage(&stages, args.stage.as_deref())?;
    let wanted = Wanted::new(args, &actors)?;
    if args.stream {
        return stream::run(session, args, (stage, &actors), &wanted, out);
    }
    let flip = session.flip(stage);
    let check = |take: &PathBuf| -> Result<(String, Report), Failure> {
        let path = session.take_path(take);
        let report = check_as(session, stage, &actors, &path, flip, args.pairs)?;
        Ok((take_name(take), report))
    };
    // Takes side by side, told in the order in which they were given; mistakes of all of them at once.
    let checked: Vec<Result<(String, Report), Failure>> =
        session.pool.install(|| args.takes.par_iter().map(check).collect());
    let mut problems = Problems::default();
    let mut reports = Vec::new();
    for result in checked {
        match result {
            Err(Failure::Input(wrong)) => problems.0.extend(wrong.0),
            other => reports.push(other?),
        }
    }
    problems.or(())?;
    for (take, (_, report)) in args.takes.iter().zip(&reports) {
        let path = session.take_path(take);
        if mostly_at_fault(report) && path != Path::new(STANDARD_INPUT) {
            hint_at_y_axis(session, stage, &actors, &path, flip)?;
        }
    }
    reports.iter_mut().for_each(|(_, report)| wanted.retain(report));
    let known = args.accept.as_ref().map(|path| accepted::read(path)).transpose()?.unwrap_or_default();
    let outcome = accepted::hide(&known, &mut reports);
    let fails = |finding: &Finding| args.fail_on.fails(finding.severity);
    let mut exit = Exit::Done;
    if let Some(path) = &args.write_accepted {
        let count = accepted::write(path, &known, &outcome, &reports)?;
        session.tell(&format!("{} written: {}", session.shown(path), counted(count, "accepted finding")));
    } else if reports.iter().any(|(_, report)| report.findings.iter().any(fails)) {
        exit = Exit::Findings;
    }
    if args.summary {
        summary::write(&reports, format, out)?;
    } else {
        write_reports(session, stage, &reports, args.pairs, format, out)?;
    }
    if args.accept.is_some() && format == Format::Table {
        writeln!(out, "{} not told: accepted earlier.", counted(outcome.hidden, "finding"))?;
        outcome.gone.iter().try_for_each(|gone| writeln!(out, "gone: {}", gone.words()))?;
    } else {
        outcome.gone.iter().for_each(|gone| session.tell(&format!("gone: {}", gone.words())));
    }
    Ok(exit)
}

fn write_reports(
    session: &Session,
    stage: &Stage,
    reports: &[(String, Report)],
    pairs: bool,
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    match format {
        Format::Table => {
            for (index, (name, report)) in reports.iter().enumerate() {
                if index > 0 {
                    writeln!(out)?;
                }
                check_table::write(name, stage, report, session.project.tick_rate, out)?;
                if pairs {
                    check_pairs::write(&report.pairs, out)?;
                }
            }
            if reports.len() > 1 {
                writeln!(out, "\n{}", summary::line(reports))?;
            }
        }
        Format::Json => check_json::write(stage, reports, pairs, out)?,
        Format::Csv if pairs => check_pairs::write_rows(reports, out)?,
        Format::Csv => check_rows(reports, out)?,
    }
    Ok(())
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
        "remains",
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
                finding.remains.map_or_else(String::new, |left| left.to_string()),
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
        checker.tick(tick, samples);
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
