//! `finitor hits --moves`.

use super::{all_actors, attack_title, ends, named};
use crate::cli::Format;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::Failure;
use finitor_app::results::{MoveResult, MovesResult};
use finitor_core::hits::moves;
use finitor_files::counted;
use std::io::Write;

/// Writes the attacks of an actor.
pub(super) fn run(session: &Session<'_>, name: &str, format: Format, out: &mut dyn Write) -> Result<(), Failure> {
    let actors = all_actors(session)?;
    let actor = named(&actors, name)?;
    let project = &session.project;
    let found = moves(actor, &actors, &project.layers);
    let result = MovesResult::new(actor, project.tick_rate, &found);
    match format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?,
        Format::Csv => write_rows(&result, out)?,
        Format::Table => write_table(&result, out)?,
    }
    Ok(())
}

/// `10 (166.7 ms)`.
fn timed(ticks: u32, rate: f64) -> String {
    format!("{ticks} ({:.1} ms)", f64::from(ticks) * 1000.0 / rate)
}

fn write_table(result: &MovesResult, out: &mut dyn Write) -> Result<(), Failure> {
    let MovesResult { actor, moves, tick_rate, .. } = result;
    let Some(farthest) = moves.iter().max_by(|a, b| front(a).total_cmp(&front(b))) else {
        writeln!(out, "{actor} has no attack: none of its shapes has `role = \"hit\"`.")?;
        return Ok(());
    };
    writeln!(
        out,
        "{actor}: {}; {} {} reaches farthest, {:.2} px past the body's front.\n",
        counted(moves.len(), "attack"),
        farthest.animation,
        farthest.shape,
        front(farthest)
    )?;
    let rows = moves.iter().map(|of| {
        let pauses = if of.pause_ticks > 0 { format!(" + {} between", of.pause_ticks) } else { String::new() };
        vec![
            attack(of),
            timed(of.startup_ticks, *tick_rate),
            format!("{}{pauses}", timed(of.active_ticks, *tick_rate)),
            timed(of.recovery_ticks, *tick_rate),
            of.damage.map_or_else(|| "-".to_string(), |damage| damage.to_string()),
            of.targets.iter().map(target).collect::<Vec<_>>().join("; "),
        ]
    });
    let header = ["attack", "startup", "active", "recovery", "damage", "strikes, on level ground"];
    writeln!(out, "{}", table(&header, &["startup", "active", "recovery", "damage"], rows.collect()).trim_fmt())?;
    let rows = moves.iter().flat_map(|of| {
        of.frames.iter().map(|frame| {
            vec![
                attack(of),
                frame.frame.to_string(),
                format!("{} to {}", frame.first_tick, frame.first_tick + frame.ticks.max(1) - 1),
                format!("{:.2}", frame.ahead_px),
                format!("{:.2}", frame.behind_px),
                ends(frame.height_px),
                format!("{:.1}", frame.area_px2),
            ]
        })
    });
    let header = ["attack", "frame", "ticks", "past front", "past back", "height", "area px2"];
    let right = ["frame", "ticks", "past front", "past back", "height", "area px2"];
    writeln!(out, "\nActive frames, px past the body's sides, and above the pivot:\n")?;
    writeln!(out, "{}", table(&header, &right, rows.collect()).trim_fmt())?;
    Ok(())
}

fn front(of: &MoveResult) -> f64 {
    of.frames.iter().map(|frame| frame.ahead_px).fold(f64::NEG_INFINITY, f64::max)
}

fn attack(of: &MoveResult) -> String {
    attack_title(&of.animation, &of.shape, &of.facing)
}

fn target(of: &finitor_app::results::MoveTargetResult) -> String {
    format!("{} ({}), safe from {:.2} px", of.actor, of.parts.join(", "), of.safe_from_px)
}

fn write_rows(result: &MovesResult, out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "actor",
        "animation",
        "shape",
        "facing",
        "startup_ticks",
        "active_ticks",
        "pause_ticks",
        "recovery_ticks",
        "damage",
        "frame",
        "first_tick",
        "ticks",
        "ahead_px",
        "behind_px",
        "low_px",
        "high_px",
        "area_px2",
    ];
    let rows = result.moves.iter().flat_map(|of| {
        of.frames.iter().map(move |frame| {
            let mut row = vec![result.actor.clone(), of.animation.clone(), of.shape.clone(), of.facing.clone()];
            let ticks = [of.startup_ticks, of.active_ticks, of.pause_ticks, of.recovery_ticks];
            row.extend(ticks.map(|ticks| ticks.to_string()));
            row.push(of.damage.map(|damage| damage.to_string()).unwrap_or_default());
            row.extend([frame.frame.to_string(), frame.first_tick.to_string(), frame.ticks.to_string()]);
            let [low, high] = frame.height_px;
            row.extend([frame.ahead_px, frame.behind_px, low, high, frame.area_px2].map(|px| px.to_string()));
            row
        })
    });
    write_csv(&header.map(String::from), rows, out)
}
