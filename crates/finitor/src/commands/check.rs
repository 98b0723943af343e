//! `finitor check`.

use crate::cli::{CheckArgs, Format};
use crate::exit::{Exit, Failure};
use crate::output::{check_json, check_table};
use crate::session::Session;
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
        let report = check_take(session, stage, &actors, &session.take_path(take))?;
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
            }
        }
        Format::Json => check_json::write(stage, &reports, out)?,
    }
    Ok(exit)
}

/// Reads a take through the checker.
pub(crate) fn check_take(session: &Session, stage: &Stage, actors: &[Actor], path: &Path) -> Result<Report, Failure> {
    let mut reader = TakeReader::open(path, actors, session.flip(stage))?;
    let mut checker = Checker::new(session.world(stage, actors));
    while let Some((tick, samples)) = reader.next_tick()? {
        checker.tick(tick, &samples);
    }
    Ok(checker.finish())
}

fn take_name(path: &Path) -> String {
    path.file_name().map_or_else(|| path.display().to_string(), |name| name.to_string_lossy().into_owned())
}
