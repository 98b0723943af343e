//! A check's result for people: what matters first.

use super::table::{screenful, table};
use anstyle::AnsiColor;
use finitor_core::check::{Finding, Hit, Report, Severity, Stay};
use finitor_core::stage::Stage;
use std::io::Write;

/// Findings shown at least.
const LEAST_SHOWN: usize = 5;

/// Zone events shown at most.
const MOST_EVENTS: usize = 8;

/// Writes a verdict, the findings worst first, and the zone events.
pub(crate) fn write(
    take: &str,
    stage: &Stage,
    report: &Report,
    tick_rate: f64,
    out: &mut dyn Write,
) -> std::io::Result<()> {
    let seconds = report.ticks as f64 / tick_rate;
    let what = format!("{} ticks ({seconds:.1} s) of {}", report.ticks, report.actors.join(", "));
    let mut order: Vec<&Finding> = report.findings.iter().collect();
    order.sort_by(|a, b| {
        b.severity.cmp(&a.severity).then(b.worst.depth.total_cmp(&a.worst.depth)).then(a.ticks.cmp(&b.ticks))
    });
    match order.as_slice() {
        [] => writeln!(out, "{take} on {}: clean. {what}.", stage.name)?,
        [worst, ..] => {
            writeln!(
                out,
                "{take} on {}: {} in {what}.",
                stage.name,
                counts(order.iter().map(|finding| finding.severity))
            )?;
            writeln!(out, "Worst, tick {}: {}", worst.worst.tick, worst.message)?;
            writeln!(out)?;
            let header = ["severity", "rule", "ticks", "who", "px", "cause", "mend"];
            let draw = |count: usize| {
                let rows = order.iter().take(count).map(|finding| row(finding, tick_rate)).collect();
                table(&header, &["px"], rows).trim_fmt()
            };
            // Every finding takes two lines at least; those that have no room are counted.
            let most = screenful();
            let mut shown = order.len().min(most / 2);
            let mut drawn = draw(shown);
            while drawn.lines().count() > most && shown > LEAST_SHOWN {
                shown -= 1;
                drawn = draw(shown);
            }
            drawn.lines().try_for_each(|line| writeln!(out, "{}", coloured(line)))?;
            if order.len() > shown {
                writeln!(out, "and {} more; --format json has them all", order.len() - shown)?;
            }
        }
    }
    if !report.hits.is_empty() {
        let told: Vec<String> = report.hits.iter().take(MOST_EVENTS).map(hit).collect();
        let more = report.hits.len().saturating_sub(MOST_EVENTS);
        let rest = if more > 0 { format!("; and {more} more") } else { String::new() };
        writeln!(out, "Hits: {}{rest}.", told.join("; "))?;
    }
    if !report.stays.is_empty() {
        let told: Vec<String> = report.stays.iter().take(MOST_EVENTS).map(stay).collect();
        let more = report.stays.len().saturating_sub(MOST_EVENTS);
        let rest = if more > 0 { format!("; and {more} more") } else { String::new() };
        writeln!(out, "Zones: {}{rest}.", told.join("; "))?;
    }
    Ok(())
}

fn hit(hit: &Hit) -> String {
    let part = hit.part.as_ref().unwrap_or(&hit.hurt);
    let damage = hit.damage.map(|damage| format!(", {damage} damage")).unwrap_or_default();
    format!("{}'s {} struck {} ({part}) at tick {}{damage}", hit.by, hit.shape, hit.on, hit.tick)
}

fn stay(stay: &Stay) -> String {
    let Stay { zone, actor, entered, first_tick, last_tick, .. } = stay;
    let effect = stay.effect.name();
    let times = if *entered == 1 { String::new() } else { format!(", entered {entered} times") };
    let when = match first_tick == last_tick {
        true => format!("at tick {first_tick}"),
        false => format!("for {} ticks, {first_tick} to {last_tick}", stay.ticks),
    };
    format!("{actor} in {zone} ({effect}) {when}{times}")
}

/// The line with its severity, which comes first, in colour. Colour is dropped again where there is no terminal.
fn coloured(line: &str) -> String {
    let colours =
        [(Severity::Error, AnsiColor::Red), (Severity::Warn, AnsiColor::Yellow), (Severity::Note, AnsiColor::Cyan)];
    let found = colours.into_iter().find_map(|(severity, colour)| Some((colour, line.strip_prefix(severity.name())?)));
    match found {
        Some((colour, rest)) => {
            let style = colour.on_default().bold();
            format!("{style}{}{style:#}{rest}", &line[..line.len() - rest.len()])
        }
        None => line.to_string(),
    }
}

/// How many there are of each severity, the worst first: `10 errors, 1 warning`.
pub(crate) fn counts(severities: impl Iterator<Item = Severity> + Clone) -> String {
    let count = |severity| severities.clone().filter(|known| *known == severity).count();
    let words = [(Severity::Error, "error"), (Severity::Warn, "warning"), (Severity::Note, "note")]
        .into_iter()
        .filter_map(|(severity, word)| match count(severity) {
            0 => None,
            1 => Some(format!("1 {word}")),
            n => Some(format!("{n} {word}s")),
        });
    words.collect::<Vec<_>>().join(", ")
}

fn figure(finding: &Finding, of: f64) -> String {
    match finding.rule.unit() {
        "px" => format!("{of:.2}"),
        unit => format!("{of:.2} {unit}"),
    }
}

fn row(finding: &Finding, tick_rate: f64) -> Vec<String> {
    let (first, last) = finding.ticks;
    let ticks = if first == last { first.to_string() } else { format!("{first}-{last}") };
    let seconds = first as f64 / tick_rate;
    vec![
        finding.severity.to_string(),
        finding.rule.to_string(),
        format!("{ticks}\n{seconds:.2} s"),
        format!("{}.{}\n{}", finding.actor, finding.shape, finding.with),
        figure(finding, finding.worst.depth),
        finding.cause.name().to_string(),
        match finding.remains.filter(|left| *left > 0.005) {
            Some(left) => format!("{} (leaves {})", finding.remedy, figure(finding, left)),
            None => finding.remedy.clone(),
        },
    ]
}
