//! A check's result for people: what matters first.

use super::alike::{first_of_each, instances};
use super::table::{coloured, entries, is_too_wide, screenful, table, titled};
use finitor_app::{CheckedTake, Failure};
use finitor_core::check::{FootPoints, Gap, Hit, OnSlopes, RootFinding, Stay};
use finitor_core::finding::Span;
use finitor_core::rule::Severity;
use finitor_core::stage::Stage;
use finitor_files::counted;
use std::io::Write;

/// Hits and zone visits listed at most.
const MOST_EVENTS: usize = 8;

/// What is less left of a figure is rounding.
const LEAST_LEFT: f64 = 0.005;

/// How the table is to look.
#[derive(Clone, Copy, Debug)]
pub(crate) struct TableLook {
    /// Ticks a second.
    pub(crate) tick_rate: f64,
    /// Findings to show; 0 for all, and as many as the screen holds when `None`.
    pub(crate) limit: Option<usize>,
    /// Which findings.
    pub(crate) rows: Rows,
}

/// Which findings a table shows.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Rows {
    /// Those that follow from no other one.
    Roots,
    /// All.
    All,
}

/// Writes a verdict, the findings worst first, hits and zone visits.
pub(crate) fn write(take: &CheckedTake, stage: &Stage, look: TableLook, out: &mut dyn Write) -> Result<(), Failure> {
    let (name, report) = (&take.name, &take.report);
    let seconds = report.ticks as f64 / look.tick_rate;
    let what = format!("{} ({seconds:.2} s) of {}", counted(report.ticks as usize, "tick"), instances(&report.actors));
    let roots = report.roots();
    let follow = report.findings.len() - roots.len();
    let all = Counts::of(roots.iter().map(|root| root.finding.severity));
    let mut order = match look.rows {
        Rows::Roots => roots,
        Rows::All => report.findings.iter().map(|finding| RootFinding { finding, follow: 0 }).collect(),
    };
    let first = |root: &RootFinding<'_>| root.finding.in_take().map(|at| at.ticks);
    order.sort_by(|a, b| {
        let (one, other) = (a.finding, b.finding);
        let by_figure = other.severity.cmp(&one.severity).then(other.figure.total_cmp(&one.figure));
        by_figure.then_with(|| first(a).cmp(&first(b)))
    });
    if order.is_empty() {
        writeln!(out, "{name} on {}: clean. {what}.", stage.name)?;
    } else {
        writeln!(out, "{name} on {}: {}{} in {what}.\n", stage.name, counts(all), and_follow(follow))?;
        // Who says how many wants these.
        let (told, more) = if look.limit.is_some() { (order, Vec::new()) } else { first_of_each(&order) };
        write_findings(&told, look, out)?;
        more.iter().try_for_each(|more| writeln!(out, "{more}"))?;
    }
    write_list("Hits", report.hits.iter().map(hit), out)?;
    write_list("Zones", report.stays.iter().map(stay), out)?;
    write_list("Gaps", report.written.gaps.iter().map(gap), out)?;
    write_list("Slopes", report.written.slopes.iter().map(on_slopes), out)?;
    if report.written.nothing_falls {
        let words = "nothing falls in this take. Is it seen from above? Then set `view = \"top_down\"` in [project].";
        writeln!(out, "{}", titled("View", words.to_string()))?;
    }
    Ok(())
}

fn write_findings(order: &[RootFinding<'_>], look: TableLook, out: &mut dyn Write) -> Result<(), Failure> {
    let draw = |count: usize| {
        let rows: Vec<Vec<String>> = order.iter().take(count).map(|root| row(root, look.tick_rate)).collect();
        let header = ["severity", "rule, cause", "ticks", "who", "figure", "what", "fix"];
        let drawn = table(&header, &["figure"], rows.clone()).trim_fmt();
        if is_too_wide(&drawn) { entries(rows.into_iter().map(narrow)).trim_fmt() } else { drawn }
    };
    let mut shown = match look.limit {
        Some(0) => order.len(),
        Some(limit) => order.len().min(limit),
        None => order.len(),
    };
    let mut drawn = draw(shown);
    // On a screen the findings that have no room are counted.
    if let Some(most) = screenful().filter(|_| look.limit.is_none()) {
        while drawn.lines().count() > most && shown > 1 {
            shown -= 1;
            drawn = draw(shown);
        }
    }
    drawn.lines().try_for_each(|line| writeln!(out, "{}", coloured(line)))?;
    if order.len() > shown {
        writeln!(out, "and {} more; --limit 0 shows all", order.len() - shown)?;
    }
    Ok(())
}

/// A row as two columns, for screens too narrow for the table.
fn narrow(row: Vec<String>) -> Vec<String> {
    let Ok([severity, rule, ticks, who, figure, what, fix]) = <[String; 7]>::try_from(row) else { return Vec::new() };
    let [rule, ticks, who] = [rule, ticks, who].map(|cell| cell.replace('\n', ", "));
    vec![severity, format!("{rule}; {figure}; tick {ticks}; {who}\n{what}\n{fix}\n ")]
}

fn write_list(title: &str, items: impl Iterator<Item = String> + Clone, out: &mut dyn Write) -> Result<(), Failure> {
    let shown: Vec<String> = items.clone().take(MOST_EVENTS).collect();
    if shown.is_empty() {
        return Ok(());
    }
    let more = items.count() - shown.len();
    let rest = if more > 0 { format!("; and {more} more") } else { String::new() };
    writeln!(out, "{}", titled(title, format!("{}{rest}.", shown.join("; "))))?;
    Ok(())
}

fn hit(hit: &Hit) -> String {
    let part = hit.part.as_ref().unwrap_or(&hit.hurt);
    let damage = hit.damage.map(|damage| format!(", {damage} damage")).unwrap_or_default();
    let part = if hit.is_vital { format!("{part}, vital") } else { part.clone() };
    format!("{}.{} hit {} ({part}) at tick {}{damage}", hit.by, hit.shape, hit.on, hit.tick)
}

fn gap(gap: &Gap) -> String {
    let Gap { actor, px } = gap;
    let side = if *px > 0.0 { "over" } else { "in" };
    format!("{actor} rests {:.2} px {side} the ground, as its game has it", px.abs())
}

fn on_slopes(slopes: &OnSlopes) -> String {
    let OnSlopes { actor, by, px } = slopes;
    let points = match by {
        FootPoints::Middle => "the middle of its bottom".to_string(),
        FootPoints::Pivot => "its pivot".to_string(),
        FootPoints::Ends(0.0) => "the ends of its bottom".to_string(),
        FootPoints::Ends(inset) => format!("two points {inset:.0} px from the ends of its bottom"),
    };
    format!("{actor} stands on them by {points}, so that its body lies up to {px:.2} px in them, as its game has it")
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

/// How many findings there are of each severity.
#[derive(Clone, Copy, Debug, Default)]
pub(crate) struct Counts {
    pub(crate) errors: usize,
    pub(crate) warnings: usize,
    pub(crate) notes: usize,
}

impl Counts {
    /// Counts severities.
    pub(crate) fn of(severities: impl Iterator<Item = Severity>) -> Counts {
        let mut counts = Counts::default();
        for severity in severities {
            match severity {
                Severity::Error => counts.errors += 1,
                Severity::Warn => counts.warnings += 1,
                Severity::Note => counts.notes += 1,
                Severity::Off => {}
            }
        }
        counts
    }
}

/// The counts in words, the worst first: `10 errors, 1 warning`.
pub(crate) fn counts(of: Counts) -> String {
    let all = [(of.errors, "error"), (of.warnings, "warning"), (of.notes, "note")];
    let words = all.into_iter().filter(|(count, _)| *count > 0);
    words.map(|(count, word)| counted(count, word)).collect::<Vec<_>>().join(", ")
}

/// How many findings follow from others, in words.
pub(crate) fn and_follow(count: usize) -> String {
    match count {
        0 => String::new(),
        1 => ", and 1 that follows".to_string(),
        many => format!(", and {many} that follow"),
    }
}

/// What happened, and what follows from it or what it follows from.
fn message(root: &RootFinding<'_>) -> String {
    let (message, follow) = (&root.finding.message, root.follow);
    match root.finding.in_take().and_then(|at| at.after.as_ref()) {
        Some(after) => format!("{message} (after {} at tick {})", after.rule, after.first),
        None => format!("{message}{}", and_follow(follow)),
    }
}

fn row(root: &RootFinding<'_>, tick_rate: f64) -> Vec<String> {
    let finding = root.finding;
    let unit = finding.rule.unit();
    let Some(place) = finding.in_take() else { return Vec::new() };
    let ticks = match place.ticks {
        Span { first, last } if first == last => first.to_string(),
        Span { first, last } => format!("{first}-{last}"),
    };
    let seconds = place.ticks.first as f64 / tick_rate;
    vec![
        finding.severity.to_string(),
        format!("{}\n{}", finding.rule, place.cause.name()),
        format!("{ticks}\n{seconds:.2} s"),
        format!("{}.{}\n{}", finding.subject, place.shape, place.with),
        unit.shown(finding.figure),
        message(root),
        match finding.remains.filter(|left| *left > LEAST_LEFT) {
            Some(left) => format!("{} (leaves {})", finding.fix, unit.shown(left)),
            None => finding.fix.clone(),
        },
    ]
}
