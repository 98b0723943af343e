//! `finitor check --follow`.

use crate::cli::{CheckArgs, Format};
use crate::output::check_table::{Counts, counts};
use crate::output::table::coloured;
use finitor_app::results::{FindingResult, StreamItem, StreamLine};
use finitor_app::{Failure, Filter, TakeChecks, follow_take};
use finitor_core::rule::Severity;
use finitor_files::{Follow, STANDARD_INPUT, counted};
use std::collections::BTreeMap;
use std::io::Write;
use std::path::Path;

/// Follows a take that is being written, until Ctrl-C. The severest finding.
pub(super) fn run(
    checks: TakeChecks<'_>,
    args: &CheckArgs,
    filter: &Filter,
    format: Format,
    out: &mut dyn Write,
) -> Result<Option<Severity>, Failure> {
    let [take] = args.takes.as_slice() else {
        return Err(Failure::Usage("--follow: name one take; others can be followed beside it".into()));
    };
    if take == Path::new(STANDARD_INPUT) {
        return Err(Failure::Usage(
            "--follow reads a file; for standard input use --stream, which reports as it reads".into(),
        ));
    }
    let follow = Follow::default();
    let stops = follow.clone();
    ctrlc::set_handler(move || stops.stop())
        .map_err(|error| Failure::Usage(format!("--follow: cannot wait for Ctrl-C: {error}")))?;
    let is_json = args.stream || format == Format::Json;
    if !is_json {
        writeln!(out, "following {}; Ctrl-C ends it", take.display())?;
        out.flush()?;
    }
    let mut severities: BTreeMap<String, Vec<Severity>> = BTreeMap::new();
    let mut write = |line: &StreamLine| -> Result<(), Failure> {
        if let StreamItem::Finding(finding) = &line.item {
            severities.entry(line.take.clone()).or_default().extend(Severity::parse(&finding.severity));
        }
        if is_json {
            writeln!(out, "{}", serde_json::to_string(line)?)?;
        } else if let Some(words) = words(line, severities.get(&line.take).map_or(&[], Vec::as_slice)) {
            writeln!(out, "{}", coloured(&words))?;
        }
        out.flush()?;
        if matches!(line.item, StreamItem::End(_)) {
            severities.remove(&line.take);
        }
        Ok(())
    };
    follow_take(checks, take, filter, &follow, &mut write)
}

/// A line of a stream for people; what happens often is left out.
fn words(line: &StreamLine, severities: &[Severity]) -> Option<String> {
    let of = |finding: &FindingResult, ticks: String| {
        let FindingResult { severity, rule, message, fix, .. } = finding;
        format!("{severity:<6} {rule:<14} {ticks:<12} {message}. {fix}")
    };
    match &line.item {
        StreamItem::Finding(finding) => {
            let [first, last] = finding.ticks?;
            Some(of(finding, if first == last { first.to_string() } else { format!("{first}-{last}") }))
        }
        StreamItem::Lasting(finding) => Some(of(finding, format!("{}-now", finding.ticks?[0]))),
        StreamItem::End(end) => {
            let found = Counts::of(severities.iter().copied());
            let what = if severities.is_empty() { "clean".to_string() } else { counts(found) };
            Some(format!("{}: {what} in {}.", line.take, counted(end.ticks as usize, "tick")))
        }
        StreamItem::Event(_) | StreamItem::Hit(_) | StreamItem::Zone(_) => None,
    }
}
