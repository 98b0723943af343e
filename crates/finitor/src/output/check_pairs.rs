//! What met what over a take.

use super::csv::write_csv;
use super::table::table;
use finitor_app::CheckedTake;
use finitor_app::Failure;
use finitor_core::check::PairTally;
use std::io::Write;

/// Pairs that never met are listed by what they are, this many of them.
const MOST_NEVER: usize = 12;

/// Writes the pairs that met, then those that never did.
pub(crate) fn write(pairs: &[PairTally], out: &mut dyn Write) -> Result<(), Failure> {
    let (met, never): (Vec<&PairTally>, Vec<&PairTally>) = pairs.iter().partition(|pair| pair.met > 0);
    let silent = met.iter().filter(|pair| pair.overlapped > 0 && pair.acted == 0).count();
    writeln!(
        out,
        "\nPairs: {} met, {silent} of them overlapped without an effect; {} never met.",
        met.len(),
        never.len()
    )?;
    if !met.is_empty() {
        let rows = met.iter().map(|pair| {
            let first = pair.first_tick.map_or_else(|| "-".into(), |tick| tick.to_string());
            vec![
                format!("{} {}", pair.first, pair.roles.0.name()),
                format!("{} {}", pair.second, pair.roles.1.name()),
                pair.met.to_string(),
                pair.overlapped.to_string(),
                pair.acted.to_string(),
                first,
                verdict(pair).to_string(),
            ]
        });
        let header = ["first", "second", "met", "overlapped", "with effect", "first tick", ""];
        let right = ["met", "overlapped", "with effect", "first tick"];
        writeln!(out, "{}", table(&header, &right, rows.collect()).trim_fmt())?;
    }
    if !never.is_empty() {
        let parts: Vec<String> =
            never.iter().take(MOST_NEVER).map(|pair| format!("{} and {}", pair.first, pair.second)).collect();
        let more = never.len().saturating_sub(MOST_NEVER);
        let rest = if more > 0 { format!(", and {more} more") } else { String::new() };
        writeln!(out, "Never met: {}{rest}.", parts.join("; "))?;
    }
    Ok(())
}

/// What stands out about a pair.
fn verdict(pair: &PairTally) -> &'static str {
    match (pair.acted, pair.acts) {
        (0, false) => "no mask detects",
        (0, true) => "a state prevented it",
        (acted, _) if acted < pair.met => "not on all ticks: a state",
        _ => "",
    }
}

/// All pairs as rows.
pub(crate) fn write_rows(takes: &[CheckedTake], out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "take",
        "first",
        "first_role",
        "second",
        "second_role",
        "met_ticks",
        "overlapped_ticks",
        "effect_ticks",
        "first_tick",
        "has_effect",
    ];
    let rows = takes.iter().flat_map(|take| {
        take.report.pairs.iter().map(move |pair| {
            vec![
                take.name.clone(),
                pair.first.clone(),
                pair.roles.0.name().to_string(),
                pair.second.clone(),
                pair.roles.1.name().to_string(),
                pair.met.to_string(),
                pair.overlapped.to_string(),
                pair.acted.to_string(),
                pair.first_tick.map_or_else(String::new, |tick| tick.to_string()),
                pair.acts.to_string(),
            ]
        })
    });
    write_csv(&header.map(String::from), rows, out)
}
