//! `finitor check`.

mod follow;

use crate::cli::{CheckArgs, Format};
use crate::exit::Exit;
use crate::output::applied::write_applied;
use crate::output::report::{Written, write_report};
use crate::output::{check_pairs, check_rows, check_table, summary};
use crate::session::Session;
use finitor_app::results::{CheckResult, SummaryResult};
use finitor_app::{
    ApplyRequest, Baseline, CheckedTake, Failure, OpenProject, Reported, TakeChecks, apply_fixes, check_takes,
    stream_take,
};
use finitor_core::rule::Severity;
use finitor_core::stage::Stage;
use finitor_files::{STANDARD_INPUT, counted};
use std::io::Write;
use std::path::Path;

/// Checks each take and writes what was found.
pub(crate) fn run(
    session: &Session<'_>,
    args: &CheckArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let actors = session.actors_of_takes(&args.takes)?;
    let stages = session.stages()?;
    let stage = session.stage(&stages, args.stage.as_deref())?;
    if args.takes.iter().filter(|take| *take == Path::new(STANDARD_INPUT)).count() > 1 {
        return Err(Failure::Usage("standard input, -, can be read only once".into()));
    }
    let filter = args.filter.filter(&actors)?;
    let (has_pairs, any_state, mixed) = (args.pairs, args.any_state, args.mixed);
    let plain = TakeChecks::plain(session, stage, &stages, &actors);
    let checks = TakeChecks { has_pairs, any_state, mixed, ..plain };
    if args.follow {
        let worst = follow::run(checks, args, &filter, format, out)?;
        return Ok(exit(args, worst.max(warned(session))));
    }
    let mut worst = None;
    if args.stream {
        for take in &args.takes {
            let mut write = |line: &_| -> Result<(), Failure> {
                writeln!(out, "{}", serde_json::to_string(line)?)?;
                out.flush()?;
                Ok(())
            };
            worst = worst.max(stream_take(checks, take, &filter, &mut write)?);
        }
        return Ok(exit(args, worst.max(warned(session))));
    }
    if args.apply.apply {
        return apply(session, args, out);
    }
    let mut takes = check_takes(checks, &args.takes)?;
    worst = worst.max(warned(session));
    filter.expect_matches(&takes)?;
    takes.iter_mut().for_each(|take| filter.retain(&mut take.report));
    let baseline = args.baseline.as_ref().map(|path| Baseline::read(path)).transpose()?.unwrap_or_default();
    let outcome = baseline.hide(&mut takes);
    match &args.write_baseline {
        Some(path) => {
            let count = baseline.write(path, &outcome, &takes)?;
            session.note(&format!("{} written: {}", session.shown(path), counted(count, "known finding")));
        }
        None => {
            worst = worst.max(takes.iter().flat_map(|take| &take.report.findings).map(|found| found.severity).max())
        }
    }
    if write_report(session, &args.report, &Reported::takes(&takes, &stage.name), out)? == Written::Here {
        return Ok(exit(args, worst));
    }
    write(session, stage, &takes, args, format, out)?;
    let known = counted(outcome.hidden, "known finding");
    if args.baseline.is_some() && format == Format::Table {
        writeln!(out, "{known} of the baseline not reported.")?;
        outcome.fixed.iter().try_for_each(|fixed| writeln!(out, "fixed: {}", fixed.words()))?;
    } else {
        outcome.fixed.iter().for_each(|fixed| session.note(&format!("fixed: {}", fixed.words())));
    }
    Ok(exit(args, worst))
}

/// Writes fixes of what the takes show, and checks these again after each.
fn apply(session: &Session<'_>, args: &CheckArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let find = |open: &OpenProject<'_>| {
        let (actors, stages) = (open.actors_of_takes(&args.takes)?, open.stages()?);
        let stage = open.stage(&stages, args.stage.as_deref())?;
        let filter = args.filter.filter(&actors)?;
        let plain = TakeChecks::plain(open, stage, &stages, &actors);
        let checks = TakeChecks { any_state: args.any_state, mixed: args.mixed, ..plain };
        let mut takes = check_takes(checks, &args.takes)?;
        takes.iter_mut().for_each(|take| filter.retain(&mut take.report));
        Ok(takes.into_iter().flat_map(|take| take.report.findings).collect())
    };
    write_applied(&apply_fixes(session, ApplyRequest { dry_run: args.apply.dry_run, find: &find })?, out)?;
    Ok(Exit::Done)
}

/// A stale fit counts as a warning.
fn warned(session: &Session<'_>) -> Option<Severity> {
    (!session.warnings().is_empty()).then_some(Severity::Warn)
}

fn exit(args: &CheckArgs, worst: Option<Severity>) -> Exit {
    let fails = args.write_baseline.is_none() && worst.is_some_and(|worst| args.fail_on.fails(worst));
    if fails { Exit::Findings } else { Exit::Done }
}

fn write(
    session: &Session<'_>,
    stage: &Stage,
    takes: &[CheckedTake],
    args: &CheckArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    if args.summary {
        return summary::write(&SummaryResult::new(takes), format, out);
    }
    match format {
        Format::Table => {
            let rows = if args.all { check_table::Rows::All } else { check_table::Rows::Roots };
            let look = check_table::TableLook { tick_rate: session.project.tick_rate, limit: args.limit, rows };
            for (index, take) in takes.iter().enumerate() {
                if index > 0 {
                    writeln!(out)?;
                }
                check_table::write(take, stage, look, out)?;
                if args.pairs {
                    check_pairs::write(&take.report.pairs, out)?;
                }
            }
            if takes.len() > 1 {
                writeln!(out, "\n{}", summary::line(&SummaryResult::new(takes)))?;
            }
        }
        Format::Json => {
            let result = CheckResult::new(&stage.name, session.warnings(), takes);
            writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        }
        Format::Csv if args.pairs => check_pairs::write_rows(takes, out)?,
        Format::Csv => check_rows::write(takes, out)?,
    }
    Ok(())
}
