//! What a check found against what another did.

use crate::results::{CheckResult, FindingDiff, FindingResult};

/// A figure that changes by less is the same.
const SAME: f64 = 1e-6;

/// A finding with its take.
#[derive(Clone, Copy)]
struct Found<'r> {
    take: &'r str,
    finding: &'r FindingResult,
}

impl Found<'_> {
    fn is_like(&self, other: &Found<'_>) -> bool {
        let of = |found: &Found<'_>| {
            let FindingResult { rule, subject, shape, with, .. } = found.finding.clone();
            (found.take.to_string(), rule, subject, shape, with)
        };
        of(self) == of(other)
    }

    fn first_tick(&self) -> u64 {
        self.finding.ticks.map_or(0, |[first, _]| first)
    }
}

fn all(result: &CheckResult) -> Vec<Found<'_>> {
    let takes = result.takes.iter();
    takes.flat_map(|take| take.findings.iter().map(|finding| Found { take: &take.take, finding })).collect()
}

/// Findings that came or went, or whose figure changed: those of one take, rule, instance and thing are paired by the nearest ticks.
///
/// # Complexity
/// O(n m), findings of both.
pub(crate) fn findings(old: &CheckResult, new: &CheckResult) -> Vec<FindingDiff> {
    let (before, after) = (all(old), all(new));
    let mut left: Vec<Option<Found<'_>>> = before.into_iter().map(Some).collect();
    let mut pairs: Vec<(Option<Found<'_>>, Found<'_>)> = Vec::new();
    for found in after {
        let near = |known: &Found<'_>| known.first_tick().abs_diff(found.first_tick());
        let like = left.iter_mut().filter(|known| known.is_some_and(|known| known.is_like(&found)));
        let nearest = like.min_by_key(|known| known.map_or(u64::MAX, |known| near(&known)));
        pairs.push((nearest.and_then(Option::take), found));
    }
    let mut result: Vec<FindingDiff> = Vec::new();
    for (old, new) in pairs {
        let figure = old.map(|old| old.finding.figure);
        let change = match figure {
            None => "new",
            Some(figure) if new.finding.figure.abs() > figure.abs() + SAME => "worse",
            Some(figure) if new.finding.figure.abs() < figure.abs() - SAME => "better",
            Some(_) => continue,
        };
        result.push(diff(new, change, figure, Some(new.finding.figure)));
    }
    result.extend(left.into_iter().flatten().map(|old| diff(old, "gone", Some(old.finding.figure), None)));
    result
}

fn diff(of: Found<'_>, change: &str, old_figure: Option<f64>, new_figure: Option<f64>) -> FindingDiff {
    let FindingResult { rule, severity, subject, with, ticks, unit, message, .. } = of.finding.clone();
    FindingDiff {
        take: of.take.to_string(),
        change: change.to_string(),
        rule,
        severity,
        subject,
        with: with.unwrap_or_default(),
        ticks: ticks.unwrap_or_default(),
        old_figure,
        new_figure,
        unit,
        message,
    }
}
