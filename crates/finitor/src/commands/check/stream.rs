//! Findings and events as they are found: a line of JSON each.

use super::wanted::Wanted;
use crate::cli::CheckArgs;
use crate::exit::{Exit, Failure};
use crate::output::check_json::{event_value, finding_value, hit_value, stay_value};
use crate::session::Session;
use finitor_core::actor::Actor;
use finitor_core::check::{Checker, Report};
use finitor_core::stage::Stage;
use finitor_files::TakeReader;
use serde_json::json;
use std::io::Write;

/// Reads one take after another and writes what is known of each tick before the next: events at once, findings when they
/// have ended.
pub(super) fn run(
    session: &Session,
    args: &CheckArgs,
    (stage, actors): (&Stage, &[Actor]),
    wanted: &Wanted<'_>,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let mut exit = Exit::Done;
    for take in &args.takes {
        let name = super::take_name(take);
        let path = session.take_path(take);
        let mut reader = TakeReader::open(&path, actors, session.flip(stage))?;
        let mut checker = Checker::new(session.world(stage, actors));
        let mut tell = |mut report: Report| -> Result<(), Failure> {
            wanted.retain(&mut report);
            for event in &report.events {
                writeln!(out, "{}", json!({"take": name, "event": event_value(event)?}))?;
            }
            for hit in &report.hits {
                writeln!(out, "{}", json!({"take": name, "hit": hit_value(hit)?}))?;
            }
            for finding in &report.findings {
                if args.fail_on.fails(finding.severity) {
                    exit = Exit::Findings;
                }
                writeln!(out, "{}", json!({"take": name, "finding": finding_value(finding)?}))?;
            }
            if !(report.events.is_empty() && report.hits.is_empty() && report.findings.is_empty()) {
                out.flush()?;
            }
            Ok(())
        };
        while let Some((tick, samples)) = reader.next_tick()? {
            checker.tick(tick, samples);
            if let Some(report) = checker.drain(tick) {
                tell(report)?;
            }
        }
        let report = checker.finish();
        let (ticks, samples, stays) = (report.ticks, report.samples, report.stays.clone());
        tell(report)?;
        for stay in stays.iter().filter(|stay| wanted.names(&stay.actor)) {
            writeln!(out, "{}", json!({"take": name, "zone": stay_value(stay)?}))?;
        }
        writeln!(out, "{}", json!({"take": name, "end": {"ticks": ticks, "samples": samples}}))?;
    }
    Ok(exit)
}
