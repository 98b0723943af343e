//! What `finitor watch` says of a change.

use crate::output::summary;
use crate::output::table::coloured;
use finitor_app::results::FindingDiff;
use finitor_app::{FitNews, WatchNews};
use finitor_core::book;
use finitor_files::{counted, first_few};
use std::collections::BTreeSet;
use std::io::{Result, Write};
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant, SystemTime};

/// Changes of one sort that are listed; the rest is counted.
const MOST: usize = 20;

/// What changed, and since when.
pub(super) struct Told {
    files: Vec<String>,
    /// When it was saved.
    since: Since,
}

enum Since {
    Begun(Instant),
    Saved(SystemTime),
}

impl Told {
    /// The first look.
    pub(super) fn first(begun: Instant) -> Told {
        Told { files: Vec::new(), since: Since::Begun(begun) }
    }

    /// Files that were saved; those of another clock as if it were now.
    pub(super) fn of(changed: &[PathBuf], now: SystemTime) -> Told {
        const FAR: Duration = Duration::from_secs(10);
        let saved = |path: &PathBuf| std::fs::metadata(path).and_then(|of| of.modified()).ok();
        let last = changed.iter().filter_map(saved).filter(|at| now.duration_since(*at).is_ok_and(|by| by < FAR)).max();
        let name = |path: &PathBuf| path.file_name().unwrap_or(path.as_os_str()).to_string_lossy().into_owned();
        let names: BTreeSet<String> = changed.iter().map(name).collect();
        Told { files: names.into_iter().collect(), since: Since::Saved(last.unwrap_or(now)) }
    }

    /// How long it took until now.
    fn took(&self) -> Duration {
        match self.since {
            Since::Begun(begun) => begun.elapsed(),
            Since::Saved(saved) => saved.elapsed().unwrap_or_default(),
        }
    }
}

/// Writes what changed, the files first, what the takes hold now last.
pub(super) fn write(news: &WatchNews, told: &Told, written: &[String], out: &mut dyn Write) -> Result<()> {
    let milliseconds = told.took().as_millis();
    if !told.files.is_empty() {
        let (is, files) = (if told.files.len() == 1 { "was" } else { "were" }, first_few(&told.files, 4, ", "));
        writeln!(out, "{files} {is} saved; {milliseconds} ms later:")?;
    }
    some(&news.fits, fit, out)?;
    let order = ["new", "worse", "better", "gone"];
    let mut findings: Vec<&FindingDiff> = news.findings.iter().collect();
    findings.sort_by_key(|of| order.iter().position(|change| *change == of.change));
    some(&findings, |of| finding(of), out)?;
    if news.fits.is_empty() && news.findings.is_empty() && !told.files.is_empty() {
        writeln!(out, "  no shape and no finding changed")?;
    }
    if let Some(summary) = &news.summary {
        writeln!(out, "  {}", summary::line(summary))?;
    }
    for file in written {
        writeln!(out, "  {} written", Path::new(file).display())?;
    }
    Ok(())
}

fn some<T>(list: &[T], words: impl Fn(&T) -> String, out: &mut dyn Write) -> Result<()> {
    for of in list.iter().take(MOST) {
        writeln!(out, "  {}", coloured(&words(of)))?;
    }
    match list.len().saturating_sub(MOST) {
        0 => Ok(()),
        more => writeln!(out, "  and {more} more"),
    }
}

fn fit(of: &FitNews) -> String {
    let frames = counted(of.frames, "frame");
    let quality = match (of.iou_before, of.iou_now) {
        (Some(before), Some(now)) => format!(", IoU {before:.3} -> {now:.3}"),
        (None, Some(now)) => format!(", IoU {now:.3}"),
        _ => String::new(),
    };
    format!("fitted {}.{} on {frames}{quality}", of.actor, of.shape)
}

fn finding(of: &FindingDiff) -> String {
    let unit = book::take_rules().find(|rule| rule.code() == of.rule).map(|rule| rule.unit());
    let shown = |figure: f64| unit.map_or_else(|| figure.to_string(), |unit| unit.shown(figure));
    let figure = match (of.old_figure, of.new_figure) {
        (Some(old), Some(new)) => format!("{} -> {}", shown(old), shown(new)),
        (old, new) => new.or(old).map(shown).unwrap_or_default(),
    };
    let [first, last] = of.ticks;
    let ticks = if first == last { format!("tick {first}") } else { format!("ticks {first} to {last}") };
    format!("{:<6} {:<5} {} {figure}, {ticks} of {}: {}", of.change, of.severity, of.rule, of.take, of.message)
}
