//! Takes reported line by line: while they are read, and while they are still being written.

use crate::checking::{TakeChecks, take_name, warn};
use crate::failure::Failure;
use crate::filter::Filter;
use crate::results::{EventResult, FindingResult, HitResult, StreamEnd, StreamItem, StreamLine, ZoneResult};
use crate::state_words::StateWords;
use finitor_core::check::{Checker, Report};
use finitor_core::finding::Finding;
use finitor_core::rule::Severity;
use finitor_files::{Follow, TakeReader};
use std::path::Path;

/// Where the lines of a stream go.
pub type WriteLine<'w> = dyn FnMut(&StreamLine) -> Result<(), Failure> + 'w;

/// Checks one take and gives each line of its stream to `write` as soon as it is known: events and hits at once, findings
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
    let TakeChecks { project, stage, actors, .. } = checks;
    let reader = TakeReader::open(&project.take_path(take), actors, project.flip(stage))?;
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
    let TakeChecks { project, stage, actors, .. } = checks;
    let mut worst = None;
    loop {
        // The game may not have begun yet.
        follow.wait_for(|| project.take_path(take).exists());
        let reader = TakeReader::follow(&project.take_path(take), actors, project.flip(stage), follow);
        let reader = match reader {
            Err(_) if follow.was_cut() => continue,
            // Nothing was written before it was stopped.
            Err(_) if follow.is_stopped() => return Ok(worst),
            reader => reader?,
        };
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
        let TakeChecks { project, stage, stages, actors, .. } = self.checks;
        let name = take_name(self.take);
        let mut checker = Checker::new(project.check_input(stage, actors, stages));
        let mut words = StateWords::new(&project.project.layers, &project.project.states);
        let quarter = (project.project.tick_rate / 4.0).ceil().max(1.0) as u64;
        let mut told = Vec::new();
        while let Some((tick, samples)) = reader.next_tick()? {
            words.see(tick, samples);
            checker.tick(tick, samples);
            if let Some(report) = checker.drain(tick) {
                self.emit(&name, report)?;
            }
            if follow.is_some() && tick.is_multiple_of(quarter) {
                self.emit_lasting(&name, checker.lasting(tick, quarter), &mut told)?;
            }
        }
        let report = checker.finish();
        warn(self.checks, &name, words, &report);
        let (ticks, samples, stays) = (report.ticks, report.samples, report.stays.clone());
        self.emit(&name, report)?;
        for stay in stays.iter().filter(|stay| self.filter.names(&stay.actor)) {
            (self.write)(&StreamLine::new(&name, StreamItem::Zone(ZoneResult::from(stay))))?;
        }
        (self.write)(&StreamLine::new(&name, StreamItem::End(StreamEnd { ticks, samples })))?;
        Ok(self.worst)
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

    /// Tells what goes on, each once: by its rule, who, what it is with, and the tick on which it began.
    fn emit_lasting(
        &mut self,
        name: &str,
        findings: Vec<Finding>,
        told: &mut Vec<(&'static str, String, String, u64)>,
    ) -> Result<(), Failure> {
        let mut report = Report { findings, ..Report::default() };
        self.filter.retain(&mut report);
        for finding in &report.findings {
            let Some(place) = finding.in_take() else { continue };
            let key = (finding.rule.code(), finding.subject.clone(), place.with.clone(), place.ticks.first);
            if !told.contains(&key) {
                told.push(key);
                let item = StreamItem::Lasting(Box::new(FindingResult::from(finding)));
                (self.write)(&StreamLine::new(name, item))?;
            }
        }
        Ok(())
    }
}
