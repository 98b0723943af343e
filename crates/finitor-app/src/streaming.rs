//! Takes reported line by line: while they are read, and while they are still being written.

use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::filter::Filter;
use crate::open_takes::{OpenTake, OpenTakes};
use crate::results::{EventResult, FindingResult, HitResult, StreamEnd, StreamItem, StreamLine, ZoneResult};
use crate::take_checks::{TakeChecks, warn_of_header};
use finitor_core::check::Report;
use finitor_core::finding::Finding;
use finitor_core::rule::Severity;
use finitor_files::{Follow, TakeRead, TakeReader, holds_take};
use std::path::Path;

/// Where the lines of a stream go.
pub type WriteLine<'w> = dyn FnMut(&StreamLine) -> Result<(), Failure> + 'w;

/// Checks one take, or all of one file, and gives each line of its stream to `write` as soon as it is known: events and hits at once, findings
/// when they have ended. The severest finding, where there is any.
///
/// # Errors
/// Mistakes in the take, and those of `write`.
pub fn stream_take(
    checks: TakeChecks<'_>,
    take: &Path,
    filter: &Filter,
    write: &mut WriteLine<'_>,
) -> Result<Option<Severity>, Failure> {
    let TakeChecks { project, stage, actors, mixed, .. } = checks;
    let reader = TakeReader::open(&project.take_path(take), actors, project.flip(stage))?.mixed(mixed);
    warn_of_header(project, take, &reader);
    Stream { checks, take, filter, write, worst: None }.run(reader, None)
}

/// The same of a file that is still being written, until it is stopped. Errors that go on for a quarter of a second are
/// reported before they have ended. Where the file is cut back, or another is put in its place, the check reports what was
/// found so far and starts anew.
///
/// # Errors
/// Mistakes in the take, but for a last row that is cut off, and those of `write`.
pub fn follow_take(
    checks: TakeChecks<'_>,
    take: &Path,
    filter: &Filter,
    follow: &Follow,
    write: &mut WriteLine<'_>,
) -> Result<Option<Severity>, Failure> {
    let TakeChecks { project, stage, actors, mixed, .. } = checks;
    let mut worst = None;
    loop {
        // The game may not have begun yet.
        follow.wait_for(|| holds_take(&project.take_path(take)));
        let reader = TakeReader::follow(&project.take_path(take), actors, project.flip(stage), follow);
        let reader = match reader {
            Err(_) if follow.was_cut() => continue,
            // Nothing was written before it was stopped.
            Err(_) if follow.is_stopped() => return Ok(worst),
            reader => reader?.mixed(mixed),
        };
        warn_of_header(project, take, &reader);
        let found = Stream { checks, take, filter, write: &mut *write, worst }.run(reader, Some(follow));
        let was_cut = follow.was_cut();
        worst = match found {
            Err(Failure::Input(_)) if was_cut => worst,
            found => found?,
        };
        if !was_cut {
            return Ok(worst);
        }
    }
}

/// A take that is being told.
struct Stream<'s, 'w> {
    checks: TakeChecks<'s>,
    take: &'s Path,
    filter: &'s Filter,
    write: &'s mut WriteLine<'w>,
    worst: Option<Severity>,
}

impl Stream<'_, '_> {
    fn run(mut self, mut reader: TakeReader<'_>, follow: Option<&Follow>) -> Result<Option<Severity>, Failure> {
        let quarter = (self.checks.project.project.tick_rate / 4.0).ceil().max(1.0) as u64;
        let mut takes = OpenTakes::new(self.checks, self.take);
        while let Some(read) = reader.next()? {
            match read {
                TakeRead::Tick { take, tick, samples } => {
                    let open = takes.of(take);
                    open.see(tick, samples);
                    if let Some(report) = open.checker.drain(tick) {
                        self.emit(&open.name, report)?;
                    }
                    if follow.is_some() && tick.is_multiple_of(quarter) {
                        let lasting = open.checker.lasting(tick, quarter);
                        self.emit_lasting(open, lasting)?;
                    }
                }
                TakeRead::End { take } => takes.end(take).map_or(Ok(()), |open| self.end(open.finish(self.take)))?,
            }
        }
        Ok(self.worst)
    }

    /// What is known at the end of a take.
    fn end(&mut self, finished: CheckedTake) -> Result<(), Failure> {
        let CheckedTake { name, report, .. } = finished;
        let (ticks, samples, stays) = (report.ticks, report.samples, report.stays.clone());
        self.emit(&name, report)?;
        for stay in stays.iter().filter(|stay| self.filter.names(&stay.actor)) {
            (self.write)(&StreamLine::new(&name, StreamItem::Zone(ZoneResult::from(stay))))?;
        }
        (self.write)(&StreamLine::new(&name, StreamItem::End(StreamEnd { ticks, samples })))
    }

    fn emit(&mut self, name: &str, mut report: Report) -> Result<(), Failure> {
        self.filter.retain(&mut report);
        let events = report.events.iter().map(|event| StreamItem::Event(EventResult::from(event)));
        let hits = report.hits.iter().map(|hit| StreamItem::Hit(HitResult::from(hit)));
        let findings =
            report.findings.iter().map(|finding| StreamItem::Finding(Box::new(FindingResult::from(finding))));
        for item in events.chain(hits).chain(findings) {
            (self.write)(&StreamLine::new(name, item))?;
        }
        self.worst = self.worst.max(report.findings.iter().map(|finding| finding.severity).max());
        Ok(())
    }

    /// Reports what goes on in a take, each once.
    fn emit_lasting(&mut self, open: &mut OpenTake<'_>, findings: Vec<Finding>) -> Result<(), Failure> {
        let mut report = Report { findings, ..Report::default() };
        self.filter.retain(&mut report);
        for finding in &report.findings {
            let Some(goes_on) = finding.as_root() else { continue };
            if !open.reported.contains(&goes_on) {
                open.reported.push(goes_on);
                let item = StreamItem::Lasting(Box::new(FindingResult::from(finding)));
                (self.write)(&StreamLine::new(&open.name, item))?;
            }
        }
        Ok(())
    }
}
