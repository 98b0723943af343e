//! `finitor stage clearance`.

use crate::cli::{ClearanceArgs, Format};
use crate::commands::draw::name_drawings;
use crate::exit::Exit;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::{Drawing, Failure};
use finitor_core::actor::Actor;
use finitor_core::clearance::{
    LowStretch, Passage, PassageKind, Pocket, Room, Stance, low_stretches, passages, pockets,
};
use finitor_core::stage::Stage;
use finitor_draw::{ClearanceSheet, PassageMark, clearance_sheet};
use finitor_files::counted;
use rayon::prelude::*;
use serde_json::json;
use std::io::Write;

/// What there is to tell of a stage.
struct Told<'a> {
    stage: &'a Stage,
    passages: Vec<Passage>,
    /// Of an actor: the low body, the tall one, where.
    low: Vec<(usize, usize, LowStretch)>,
    /// Of a body.
    pockets: Vec<(usize, Pocket)>,
}

/// Tells what room each body has on the stages.
pub(super) fn run(
    session: &Session<'_>,
    args: &ClearanceArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let stages = super::named(session, &args.stages)?;
    let actors = session.fitted(&session.select(&args.actor)?)?;
    let stances: Vec<Stance> = actors.iter().flat_map(Stance::of).collect();
    if stances.is_empty() {
        return Err(Failure::Usage("no actor has a body: clearance is that of bodies".into()));
    }
    let each = || stages.par_iter().map(|file| tell(&file.stage, &actors, &stances, args.within)).collect();
    let told: Vec<Told<'_>> = session.pool.install(each);
    match format {
        Format::Table => told.iter().try_for_each(|told| write_table(told, &stances, &actors, out))?,
        Format::Json => write_json(&told, &stances, out)?,
        Format::Csv => write_rows(&told, &stances, out)?,
    }
    if args.draw {
        let folder = session.pictures(args.out.as_ref());
        let mut words = Vec::new();
        for told in &told {
            for actor in actors.iter().filter(|actor| stances.iter().any(|stance| stance.actor == actor.name)) {
                let scene = session.pool.install(|| clearance_sheet(&picture(told, actor, &stances)));
                let name = format!("{}-clearance-{}", told.stage.name, actor.name);
                session.save(&Drawing { stem: folder.join(name), scene }, &mut words)?;
            }
        }
        name_drawings(session, format, &words, out)?;
    }
    Ok(Exit::Done)
}

fn tell<'a>(stage: &'a Stage, actors: &[Actor], stances: &[Stance], within: f64) -> Told<'a> {
    let mut low = Vec::new();
    let mut caught = Vec::new();
    for actor in actors {
        let own: Vec<usize> = (0..stances.len()).filter(|i| stances[*i].actor == actor.name).collect();
        let starts: Vec<_> = stage.starts(&actor.name).collect();
        let (Some(&tallest), Some(&lowest)) = (own.first(), own.last()) else { continue };
        for &lower in own.iter().skip(1).filter(|_| !starts.is_empty()) {
            let stretches = low_stretches(stage, &stances[lower], &stances[tallest]);
            low.extend(stretches.into_iter().map(|stretch| (lower, tallest, stretch)));
        }
        let Some(jump) = actor.moves.jump else { continue };
        // The lowest body gets everywhere that the actor gets.
        let mut found: Vec<Pocket> = Vec::new();
        for pocket in starts.iter().flat_map(|spawn| pockets(stage, &stances[lowest], spawn.at, jump)) {
            if !found.contains(&pocket) {
                found.push(pocket);
            }
        }
        caught.extend(found.into_iter().map(|pocket| (lowest, pocket)));
    }
    let mut passages = passages(stage, stances, within);
    // What even the smallest body misses by more than that was never meant to be passed.
    let nearly = |room: &Room| room.spare.is_some_and(|spare| spare >= -within);
    passages.retain(|passage| passage.rooms.iter().any(nearly));
    // Nobody comes into a hole that is closed all round and too small.
    passages.retain(|passage| passage.open != [false; 2] || !passage.rooms.iter().all(is_short));
    Told { stage, passages, low, pockets: caught }
}

/// Passages, stretches and pockets shown at most; the rest is counted.
const MOST_SHOWN: usize = 20;

fn rest(count: usize, out: &mut dyn Write) -> std::io::Result<()> {
    match count.saturating_sub(MOST_SHOWN) {
        0 => Ok(()),
        more => writeln!(out, "and {more} more; --format json has them all"),
    }
}

/// Where a passage is, and whether it is closed: `under boathouse, over terrace`.
fn place(stage: &Stage, passage: &Passage) -> String {
    let end = match passage.open {
        [true, true] => "",
        [false, false] => ", closed",
        _ => ", closed at an end",
    };
    format!("{}{end}", passage.place(stage))
}

/// How a body gets through.
fn words(room: &Room) -> String {
    match room.spare {
        Some(spare) if spare < 0.0 => format!("{:.2} px short ({})", -spare, room.frame),
        Some(spare) if spare.is_infinite() => "fits".into(),
        Some(spare) => format!("fits, {spare:.2} px to spare"),
        None => "longer than the passage".into(),
    }
}

fn is_short(room: &Room) -> bool {
    room.spare.is_none_or(|spare| spare < 0.0)
}

fn several(count: usize, one: &str, many: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { many })
}

fn write_table(told: &Told<'_>, stances: &[Stance], actors: &[Actor], out: &mut dyn Write) -> Result<(), Failure> {
    let Told { stage, passages, low, pockets } = told;
    writeln!(
        out,
        "{}: {} for {}, {} too tight for some; {} where it must stay low; {}.\n",
        stage.name,
        counted(passages.len(), "tight passage"),
        several(stances.len(), "body", "bodies"),
        passages.iter().filter(|passage| passage.rooms.iter().any(is_short)).count(),
        several(low.len(), "stretch", "stretches"),
        counted(pockets.len(), "pocket"),
    )?;
    if !passages.is_empty() {
        let rows = passages.iter().enumerate().take(MOST_SHOWN).flat_map(|(number, passage)| {
            let (along, across) = match passage.kind {
                PassageKind::Level => ("x", "high"),
                PassageKind::Upright => ("y", "wide"),
            };
            passage.rooms.iter().enumerate().map(move |(index, room)| {
                let mut row = vec![String::new(); 4];
                if index == 0 {
                    let (from, to) = passage.span;
                    row = vec![
                        (number + 1).to_string(),
                        place(stage, passage),
                        format!("{along} {from:.2} to {to:.2}"),
                        format!("{:.2} px {across}", passage.clear),
                    ];
                }
                row.extend([stances[room.stance].name(), words(room)]);
                row
            })
        });
        let header = ["no", "passage", "where", "clear", "body", "room"];
        writeln!(out, "{}", table(&header, &[], rows.collect()).trim_fmt())?;
        rest(passages.len(), out)?;
    }
    for (lower, tall, stretch) in low.iter().take(MOST_SHOWN) {
        writeln!(
            out,
            "must stay low: {} at x {:.2} to {:.2} on {}: {} would overlap {6} by {5:.2} px",
            stances[*lower].name(),
            stretch.span.0,
            stretch.span.1,
            stage.solids[stretch.floor].name,
            stances[*tall].shape,
            stretch.depth,
            stage.solids[stretch.ceiling].name,
        )?;
    }
    rest(low.len(), out)?;
    for (of, pocket) in pockets.iter().take(MOST_SHOWN) {
        let stance = &stances[*of];
        let jump = actors.iter().find(|actor| actor.name == stance.actor).and_then(|actor| actor.moves.jump);
        let way_out = match pocket.needs {
            Some(needs) => format!("a jump of {needs:.2} px leads out, it jumps {} px", jump.unwrap_or(0.0)),
            None => "no jump leads out".to_string(),
        };
        writeln!(
            out,
            "pocket: {} comes to x {:.2} to {:.2}, floor at y {:.2}, and not back: {way_out}",
            stance.name(),
            pocket.bounds.x0,
            pocket.bounds.x1,
            pocket.floor,
        )?;
    }
    rest(pockets.len(), out)?;
    let starts = |actor: &&Actor| stage.starts(&actor.name).next().is_some();
    let silent: Vec<&str> =
        actors.iter().filter(|actor| actor.moves.jump.is_none()).filter(starts).map(|a| a.name.as_str()).collect();
    if !silent.is_empty() {
        writeln!(out, "pockets: skipped for {}, [moves] jump is not set", silent.join(", "))?;
    }
    Ok(())
}

/// The names of the solids on both sides.
fn between(stage: &Stage, passage: &Passage) -> [String; 2] {
    let (one, other) = passage.between;
    [stage.solids[one].name.clone(), stage.solids[other].name.clone()]
}

fn kind_name(passage: &Passage) -> &'static str {
    match passage.kind {
        PassageKind::Level => "level",
        PassageKind::Upright => "upright",
    }
}

fn write_json(all: &[Told<'_>], stances: &[Stance], out: &mut dyn Write) -> Result<(), Failure> {
    let stages = all.iter().map(|told| {
        let Told { stage, passages, low, pockets } = told;
        let passages = passages.iter().map(|passage| {
            let rooms = passage.rooms.iter().map(|room| {
                json!({
                    "body": stances[room.stance].name(), "fits": !is_short(room),
                    "spare_px": room.spare.filter(|spare| spare.is_finite()), "frame": room.frame,
                })
            });
            json!({
                "kind": kind_name(passage), "span_px": [passage.span.0, passage.span.1], "clear_px": passage.clear,
                "at": [passage.at.x, passage.at.y], "between": between(stage, passage), "through": passage.open == [true; 2],
                "rooms": rooms.collect::<Vec<_>>(),
            })
        });
        let low = low.iter().map(|(lower, tall, stretch)| {
            json!({
                "body": stances[*lower].name(), "as": stances[*tall].name(), "x": [stretch.span.0, stretch.span.1],
                "y": [stretch.y.0, stretch.y.1], "floor": stage.solids[stretch.floor].name,
                "in": stage.solids[stretch.ceiling].name, "depth_px": stretch.depth,
            })
        });
        let pockets = pockets.iter().map(|(of, pocket)| {
            let b = pocket.bounds;
            json!({
                "body": stances[*of].name(), "box": [b.x0, b.y0, b.width(), b.height()], "floor": pocket.floor,
                "needs_px": pocket.needs,
            })
        });
        json!({
            "stage": stage.name, "passages": passages.collect::<Vec<_>>(), "low": low.collect::<Vec<_>>(),
            "pockets": pockets.collect::<Vec<_>>(),
        })
    });
    let value = json!({ "schema": "finitor.clearance/2", "stages": stages.collect::<Vec<_>>() });
    writeln!(out, "{}", serde_json::to_string_pretty(&value)?)?;
    Ok(())
}

fn write_rows(all: &[Told<'_>], stances: &[Stance], out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "stage",
        "passage",
        "kind",
        "from_px",
        "to_px",
        "clear_px",
        "one_side",
        "other_side",
        "body",
        "spare_px",
        "frame",
    ];
    let rows = all.iter().flat_map(|told| {
        told.passages.iter().enumerate().flat_map(move |(number, passage)| {
            passage.rooms.iter().map(move |room| {
                let [one, other] = between(told.stage, passage);
                let spare = room.spare.filter(|spare| spare.is_finite());
                let mut row = vec![told.stage.name.clone(), (number + 1).to_string(), kind_name(passage).to_string()];
                row.extend([passage.span.0, passage.span.1, passage.clear].map(|px| px.to_string()));
                row.extend([one, other, stances[room.stance].name()]);
                row.extend([spare.map(|spare| spare.to_string()).unwrap_or_default(), room.frame.clone()]);
                row
            })
        })
    });
    write_csv(&header.map(String::from), rows, out)
}

/// The stage with the places of an actor's pivot, and what was told of its bodies.
fn picture<'a>(told: &Told<'a>, actor: &'a Actor, stances: &'a [Stance]) -> ClearanceSheet<'a> {
    let is_own = |index: usize| stances[index].actor == actor.name;
    let marks = told.passages.iter().enumerate().map(|(number, passage)| {
        let own: Vec<&Room> = passage.rooms.iter().filter(|room| is_own(room.stance)).collect();
        let rooms: Vec<String> =
            own.iter().map(|room| format!("{} {}", stances[room.stance].shape, words(room))).collect();
        PassageMark {
            number: number + 1,
            at: passage.at,
            clear: passage.clear,
            is_upright: passage.kind == PassageKind::Upright,
            is_short: own.iter().all(|room| is_short(room)),
            words: format!("{}: {}", place(told.stage, passage), rooms.join("; ")),
        }
    });
    let pockets = told.pockets.iter().filter(|(of, _)| is_own(*of)).map(|(_, pocket)| pocket.bounds);
    ClearanceSheet {
        stage: told.stage,
        title: format!("{}: where the pivot of {} may be", told.stage.name, actor.name),
        bodies: stances.iter().filter(|stance| stance.actor == actor.name).collect(),
        marks: marks.collect(),
        pockets: pockets.collect(),
    }
}
