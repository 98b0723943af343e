//! In which lines of a take rows are.

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

/// A row of a take.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct RowOf {
    /// Its tick.
    pub tick: u64,
    /// Its instance.
    pub actor: String,
}

/// The lines, from 1, of the first rows of some ticks and instances; those that are not found are left out, and so are all where the
/// file cannot be read.
///
/// # Complexity
/// O(bytes + rows log w), w wanted ones.
pub fn row_lines(path: &Path, wanted: &BTreeSet<RowOf>) -> BTreeMap<RowOf, usize> {
    let mut found = BTreeMap::new();
    let Ok(text) = std::fs::read_to_string(path) else { return found };
    let is_json = path.extension().is_some_and(|ending| ending == "jsonl") || text.trim_start().starts_with('{');
    let ticks: BTreeSet<u64> = wanted.iter().map(|row| row.tick).collect();
    let mut keep = |tick: u64, actor: &str, line: usize| {
        // Most ticks are none of these: no name is copied for them.
        let row = ticks.contains(&tick).then(|| RowOf { tick, actor: actor.to_string() });
        if let Some(row) = row.filter(|row| wanted.contains(row)) {
            found.entry(row).or_insert(line);
        }
    };
    if is_json {
        for (index, line) in text.lines().enumerate() {
            let row: Option<serde_json::Value> = serde_json::from_str(line).ok();
            let cells = row.as_ref().and_then(|row| Some((row["tick"].as_u64()?, row["actor"].as_str()?)));
            cells.into_iter().for_each(|(tick, actor)| keep(tick, actor, index + 1));
        }
        return found;
    }
    let mut reader = csv::ReaderBuilder::new().flexible(true).trim(csv::Trim::All).from_reader(text.as_bytes());
    let Ok(header) = reader.headers().cloned() else { return found };
    let place = |name: &str| header.iter().position(|known| known == name);
    let (Some(tick), Some(actor)) = (place("tick"), place("actor")) else { return found };
    let mut record = csv::StringRecord::new();
    while reader.read_record(&mut record).is_ok_and(|is_there| is_there) {
        let line = record.position().map_or(1, csv::Position::line) as usize;
        let at = record.get(tick).and_then(|tick| tick.parse().ok());
        at.zip(record.get(actor)).into_iter().for_each(|(tick, actor)| keep(tick, actor, line));
    }
    found
}
