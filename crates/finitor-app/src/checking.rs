//! Checking takes.

use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::open_takes::OpenTakes;
use crate::take_checks::{TakeChecks, take_name, warn_of_header};
use finitor_core::take::{RecordedTick, Recording, Sample};
use finitor_files::{Problems, TakeRead, TakeReader};
use rayon::prelude::*;
use std::path::{Path, PathBuf};

/// Checks takes side by side; results are in the order in which they were given, and those of one file in the order in which they
/// began.
///
/// # Errors
/// All mistakes in any of them.
pub fn check_takes(checks: TakeChecks<'_>, takes: &[PathBuf]) -> Result<Vec<CheckedTake>, Failure> {
    let TakeChecks { project, .. } = checks;
    // Threads that no take needs read ahead.
    let reading = match takes.len() < project.pool.current_num_threads() {
        true => Reading::Ahead,
        false => Reading::Beside,
    };
    let check = |take: &PathBuf| check_file(checks, take, reading, &mut |_| ());
    let progress = project.sink().task("checking takes");
    let checked: Vec<Result<Vec<CheckedTake>, Failure>> =
        project.pool.install(|| takes.par_iter().map(check).collect());
    drop(progress);
    let mut problems = Problems::default();
    let mut found = Vec::new();
    for result in checked {
        match result {
            Err(Failure::Input(wrong)) => problems.0.extend(wrong.0),
            other => found.extend(other?),
        }
    }
    problems.or(())?;
    Ok(found)
}

/// Checks a take that was read before.
pub fn check_recording(checks: TakeChecks<'_>, take: &Path, recording: &Recording) -> CheckedTake {
    let TakeChecks { project, has_pairs, .. } = checks;
    let mut checker = checks.checker();
    for RecordedTick { tick, samples } in recording.ticks() {
        checker.tick(tick, samples);
    }
    let (path, span) = (project.take_path(take), recording.span());
    CheckedTake { name: take_name(take), path, report: checker.finish(), span, has_pairs }
}

/// What a take of a file holds on a tick.
#[derive(Clone, Copy)]
pub(crate) struct TickOf<'t> {
    /// The how manieth take of its file it is.
    pub(crate) number: usize,
    pub(crate) tick: u64,
    pub(crate) samples: &'t [Sample],
}

/// Checks each take of a file, and shows every tick to somebody besides.
///
/// # Errors
/// All mistakes in it.
pub(crate) fn check_shown(
    checks: TakeChecks<'_>,
    take: &Path,
    mut show: impl FnMut(TickOf<'_>),
) -> Result<Vec<CheckedTake>, Failure> {
    check_file(checks, take, Reading::Ahead, &mut show)
}

/// Where a take is read.
#[derive(Clone, Copy)]
enum Reading {
    /// In a thread of its own.
    Ahead,
    /// In the thread that checks it.
    Beside,
}

/// Checks each take of a file.
fn check_file(
    checks: TakeChecks<'_>,
    take: &Path,
    reading: Reading,
    show: &mut dyn FnMut(TickOf<'_>),
) -> Result<Vec<CheckedTake>, Failure> {
    let TakeChecks { project, stage, actors, mixed, .. } = checks;
    let path = project.take_path(take);
    let open = if checks.are_growing { TakeReader::so_far } else { TakeReader::open };
    let reader = open(&path, actors, project.flip(stage))?.mixed(mixed);
    warn_of_header(project, take, &reader);
    let mut takes = OpenTakes::new(checks, take);
    let mut finished = Vec::new();
    let each = |read: TakeRead<'_>| -> Result<(), Failure> {
        match read {
            TakeRead::Tick { take, tick, samples } => {
                let open = takes.of(take);
                open.see(tick, samples);
                show(TickOf { number: open.number, tick, samples });
            }
            TakeRead::End { take } => finished.extend(takes.end(take).map(|open| (open.number, open.finish(&path)))),
        }
        Ok(())
    };
    match reading {
        Reading::Ahead => reader.each_ahead(each)?,
        Reading::Beside => reader.each(each)?,
    }
    finished.sort_by_key(|(number, _)| *number);
    Ok(finished.into_iter().map(|(_, take)| take).collect())
}
