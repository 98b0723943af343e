//! `finitor hits TAKE...`.

use crate::cli::{Format, HitsArgs};
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::results::{HitCount, HitInTake, HitsResult, StreamItem, StreamLine, SwingResult, TakeHits};
use finitor_app::{Failure, Filter, TakeChecks, check_takes, stream_take};
use finitor_files::counted;
use std::io::Write;

/// Writes who struck whom.
pub(super) fn run(session: &Session<'_>, args: &HitsArgs, format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    let actors = session.actors_of_takes(&args.takes)?;
    let stages = session.stages()?;
    let stage = session.stage(&stages, args.stage.as_deref())?;
    let plain = TakeChecks::plain(session, stage, &stages, &actors);
    let checks = TakeChecks { has_swings: !args.stream, mixed: args.mixed, ..plain };
    if args.stream {
        let mut write = |line: &StreamLine| -> Result<(), Failure> {
            if matches!(line.item, StreamItem::Hit(_)) {
                writeln!(out, "{}", serde_json::to_string(line)?)?;
                out.flush()?;
            }
            Ok(())
        };
        for take in &args.takes {
            stream_take(checks, take, &Filter::default(), &mut write)?;
        }
        return Ok(());
    }
    let result = HitsResult::new(&check_takes(checks, &args.takes)?);
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?,
        Format::Csv if args.matrix => write_matrix_rows(&result, out)?,
        Format::Csv if args.summary => write_count_rows(&result, out)?,
        Format::Csv => write_rows(&result, out)?,
        Format::Table => write_tables(session, &result, args, out)?,
    }
    Ok(())
}

fn write_tables(
    session: &Session<'_>,
    result: &HitsResult,
    args: &HitsArgs,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let rate = session.project.tick_rate;
    for (index, take) in result.takes.iter().enumerate() {
        if index > 0 {
            writeln!(out)?;
        }
        writeln!(out, "{}", verdict(take))?;
        if !args.summary && !args.matrix {
            write_hits(take, rate, out)?;
        }
    }
    if args.summary {
        for (title, counts) in
            [("attacker", &result.by_attacker), ("part", &result.by_part), ("group", &result.by_group)]
        {
            if !counts.is_empty() {
                let rows = counts.iter().map(|count| count_row(count).to_vec()).collect();
                writeln!(out, "\n{}", table(&[title, "hits", "damage"], &["hits", "damage"], rows).trim_fmt())?;
            }
        }
    }
    if args.matrix && !result.matrix.is_empty() {
        write_matrix(result, out)?;
    }
    if !result.no_factor.is_empty() {
        writeln!(out, "\nNo factor, so counted 1: {}.", result.no_factor.join(", "))?;
    }
    Ok(())
}

/// What matters of a take, in a line.
fn verdict(take: &TakeHits) -> String {
    let TakeHits { take, hits, swings } = take;
    let damage = hits.iter().filter_map(|hit| hit.hit.damage).fold(0.0, |sum, damage| sum + damage);
    let missed = swings.iter().filter(|swing| swing.struck.is_empty()).count();
    let trades = hits.iter().filter(|hit| hit.is_trade).count() / 2;
    let trades = if trades > 0 { format!("; {}", counted(trades, "trade")) } else { String::new() };
    let missed = match (swings.len(), missed) {
        (0, _) => String::new(),
        (_, 0) => ", each of which struck".to_string(),
        (all, missed) if all == missed => ", none of which struck anybody".to_string(),
        (_, missed) => format!(", {missed} of which struck nobody"),
    };
    let (hits, swings) = (counted(hits.len(), "hit"), counted(swings.len(), "swing"));
    format!("{take}: {hits}, {damage} damage; {swings}{missed}{trades}.")
}

fn write_hits(take: &TakeHits, rate: f64, out: &mut dyn Write) -> Result<(), Failure> {
    if !take.hits.is_empty() {
        let rows = take.hits.iter().map(|hit| hit_row(hit, rate));
        let header = ["tick", "time", "attacker", "with", "target", "part", "factor", "damage", "area px2", ""];
        let right = ["tick", "time", "factor", "damage", "area px2"];
        writeln!(out, "\n{}", table(&header, &right, rows.collect()).trim_fmt())?;
    }
    if !take.swings.is_empty() {
        let header = ["swing", "ticks", "startup", "active", "recovery", "struck"];
        let rows = take.swings.iter().map(|swing| swing_row(swing).to_vec());
        writeln!(out, "\n{}", table(&header, &["startup", "active", "recovery"], rows.collect()).trim_fmt())?;
    }
    Ok(())
}

fn swing_row(swing: &SwingResult) -> [String; 6] {
    let SwingResult { by, animation, active: [first, last], startup, recovery, struck, blocked } = swing;
    let blocked = blocked.iter().map(|of| format!("{} is behind {}", of.on, of.by));
    let met: Vec<String> = struck.iter().cloned().chain(blocked).collect();
    [
        format!("{by} {animation}"),
        format!("{first}-{last}"),
        startup.to_string(),
        (last - first + 1).to_string(),
        recovery.to_string(),
        if met.is_empty() { "nobody".to_string() } else { met.join(", ") },
    ]
}

fn hit_row(of: &HitInTake, rate: f64) -> Vec<String> {
    let hit = &of.hit;
    let part = match (&hit.part, &hit.group) {
        (Some(part), Some(group)) => format!("{part} ({group})"),
        (Some(part), None) => part.clone(),
        (None, _) => hit.hurt.clone(),
    };
    vec![
        hit.tick.to_string(),
        format!("{:.2} s", hit.tick as f64 / rate),
        hit.by.clone(),
        hit.shape.clone(),
        hit.on.clone(),
        part,
        if hit.is_vital { "all".to_string() } else { hit.factor.to_string() },
        hit.damage.map_or_else(|| "-".to_string(), |damage| damage.to_string()),
        format!("{:.1}", hit.area_px2),
        note(of).to_string(),
    ]
}

/// What is odd about a hit.
fn note(of: &HitInTake) -> &'static str {
    match (of.is_trade, of.is_again) {
        (true, true) => "trade, again",
        (true, false) => "trade",
        (false, true) => "again in one swing",
        (false, false) => "",
    }
}

fn count_row(count: &HitCount) -> [String; 3] {
    [count.name.clone(), count.hits.to_string(), count.damage.to_string()]
}

fn write_matrix(result: &HitsResult, out: &mut dyn Write) -> Result<(), Failure> {
    let mut parts: Vec<&str> = result.matrix.iter().map(|cell| cell.part.as_str()).collect();
    let mut shapes: Vec<&str> = result.matrix.iter().map(|cell| cell.shape.as_str()).collect();
    parts.sort_unstable();
    parts.dedup();
    shapes.dedup();
    let count = |shape: &str, part: &str| {
        let cell = result.matrix.iter().find(|cell| cell.shape == shape && cell.part == part);
        cell.map_or_else(|| "-".to_string(), |cell| cell.hits.to_string())
    };
    let row = |shape: &&str| {
        let mut row = vec![(*shape).to_string()];
        row.extend(parts.iter().map(|part| count(shape, part)));
        row
    };
    let mut header = vec!["hits with"];
    header.extend(&parts);
    writeln!(out, "\n{}", table(&header, &parts, shapes.iter().map(row).collect()).trim_fmt())?;
    Ok(())
}

fn write_matrix_rows(result: &HitsResult, out: &mut dyn Write) -> Result<(), Failure> {
    let rows = result.matrix.iter().map(|cell| vec![cell.shape.clone(), cell.part.clone(), cell.hits.to_string()]);
    write_csv(&["shape", "part", "hits"].map(String::from), rows, out)
}

fn write_count_rows(result: &HitsResult, out: &mut dyn Write) -> Result<(), Failure> {
    let of = |by: &'static str, counts: &'_ [HitCount]| {
        let row = |count: &HitCount| {
            let mut row = vec![by.to_string()];
            row.extend(count_row(count));
            row
        };
        counts.iter().map(row).collect::<Vec<_>>()
    };
    let HitsResult { by_attacker, by_part, by_group, .. } = result;
    let rows = [of("attacker", by_attacker), of("part", by_part), of("group", by_group)].concat();
    write_csv(&["by", "name", "hits", "damage"].map(String::from), rows.into_iter(), out)
}

fn write_rows(result: &HitsResult, out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "take", "tick", "by", "shape", "on", "hurt", "part", "group", "factor", "damage", "x", "y", "area_px2",
        "is_trade", "is_again",
    ];
    let rows = result.takes.iter().flat_map(|take| {
        take.hits.iter().map(move |of| {
            let hit = &of.hit;
            let or_empty = |text: &Option<String>| text.clone().unwrap_or_default();
            let mut row = vec![take.take.clone(), hit.tick.to_string()];
            row.extend([&hit.by, &hit.shape, &hit.on, &hit.hurt].map(String::clone));
            row.extend([or_empty(&hit.part), or_empty(&hit.group), hit.factor.to_string()]);
            row.push(hit.damage.map(|damage| damage.to_string()).unwrap_or_default());
            row.extend([hit.at[0], hit.at[1], hit.area_px2].map(|figure| figure.to_string()));
            row.extend([of.is_trade, of.is_again].map(|is| is.to_string()));
            row
        })
    });
    write_csv(&header.map(String::from), rows, out)
}
