//! Findings of a take that tell the same of the same things, time and again.

use finitor_core::check::RootFinding;
use finitor_core::finding::Span;
use finitor_core::rule::Severity;
use finitor_core::take::actor_of;
use finitor_files::first_few;
use std::collections::BTreeMap;
use std::fmt::{Display, Formatter, Result};

/// Findings alike that are shown, the worst of them; more are counted.
const MOST_SHOWN: usize = 6;
/// The same of notes, which ask for nothing at once.
const MOST_NOTES: usize = 1;
/// Times of those that are counted.
const MOST_TIMES: usize = 6;

/// What is not shown one by one: a rule and two things, whichever of them are instances of one actor.
pub(super) struct More {
    rule: &'static str,
    between: [String; 2],
    times: Vec<Span>,
}

/// Of findings in the order in which they are to be shown the first few of each sort, and the rest by sort.
pub(super) fn first_of_each<'f>(order: &[RootFinding<'f>]) -> (Vec<RootFinding<'f>>, Vec<More>) {
    let mut sorts: BTreeMap<(&str, [String; 2]), Vec<usize>> = BTreeMap::new();
    let mut is_told = vec![true; order.len()];
    for (index, root) in order.iter().enumerate() {
        sorts.entry((root.finding.rule.code(), between(root))).or_default().push(index);
    }
    let mut more: Vec<(usize, More)> = Vec::new();
    for ((_, between), of) in sorts {
        let first = order[of[0]].finding;
        let most = if first.severity == Severity::Note { MOST_NOTES } else { MOST_SHOWN };
        // A line in place of a row is no gain.
        if of.len() <= most + 1 {
            continue;
        }
        let rest = &of[most..];
        rest.iter().for_each(|index| is_told[*index] = false);
        let mut times: Vec<Span> =
            rest.iter().filter_map(|index| order[*index].finding.in_take()).map(|at| at.ticks).collect();
        times.sort_by_key(|span| (span.first, span.last));
        more.push((of[0], More { rule: first.rule.code(), between, times }));
    }
    more.sort_by_key(|(first, _)| *first);
    let told = order.iter().zip(is_told).filter(|(_, is_told)| *is_told).map(|(root, _)| *root).collect();
    (told, more.into_iter().map(|(_, more)| more).collect())
}

/// The two things that a finding is of, whichever instances of their actors, in one order.
fn between(root: &RootFinding<'_>) -> [String; 2] {
    let with = root.finding.in_take().map_or("", |at| &at.with);
    let shape = root.finding.in_take().map_or("", |at| &at.shape);
    let mut both = [format!("{}.{shape}", actor_of(&root.finding.subject)), of_any(with)];
    both.sort();
    both
}

/// A name without the number of its instance: `gull.body` of `gull:2.body`.
fn of_any(name: &str) -> String {
    let shape = name.split_once(':').and_then(|(_, rest)| rest.split_once('.')).map(|(_, shape)| shape);
    shape.map_or_else(|| actor_of(name).to_string(), |shape| format!("{}.{shape}", actor_of(name)))
}

impl Display for More {
    fn fmt(&self, f: &mut Formatter<'_>) -> Result {
        let More { rule, between: [one, other], times } = self;
        let shown = |span: &Span| match span {
            Span { first, last } if first == last => first.to_string(),
            Span { first, last } => format!("{first}-{last}"),
        };
        let ticks = first_few(&times.iter().map(shown).collect::<Vec<_>>(), MOST_TIMES, ", ");
        write!(f, "{rule} {} more times between {one} and {other}: ticks {ticks}. --limit 0 shows each.", times.len())
    }
}

/// Instances, those of one actor together: `gull (3)`.
pub(super) fn instances(labels: &[String]) -> String {
    let mut actors: Vec<(&str, Vec<&str>)> = Vec::new();
    for label in labels {
        let actor = actor_of(label);
        match actors.iter_mut().find(|(name, _)| *name == actor) {
            Some((_, of)) => of.push(label),
            None => actors.push((actor, vec![label])),
        }
    }
    let named = actors.iter().map(|(actor, of)| match of.as_slice() {
        [one] => (*one).to_string(),
        many => format!("{actor} ({})", many.len()),
    });
    named.collect::<Vec<_>>().join(", ")
}
