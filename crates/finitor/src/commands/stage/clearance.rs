//! `finitor stage clearance`.

use crate::cli::{ClearanceArgs, Format};
use crate::commands::draw::name_drawings;
use crate::exit::Exit;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::results::ClearanceList;
use finitor_app::{Drawing, Failure};
use finitor_core::actor::Actor;
use finitor_core::clearance::{BodyPocket, LowPlace, Passage, PassageKind, Room, StageClearance, Stance};
use finitor_core::stage::Stage;
use finitor_draw::{ClearanceSheet, PassageMark, clearance_sheet};
use finitor_files::counted;
use rayon::prelude::*;
use std::io::Write;

/// Says what room each body has on the stages.
pub(super) fn run(
    session: &Session<'_>,
    args: &ClearanceArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let stages = super::named(session, &args.stages)?;
    let actors = session.fitted(&session.select(&args.actor)?)?;
    let _progress = session.sink().task("measuring room");
    let stances: Vec<Stance> = actors.iter().flat_map(Stance::of).collect();
    if stances.is_empty() {
        return Err(Failure::Usage("no actor has a body: clearance is that of bodies".into()));
    }
    let within = args.within;
    let each = || stages.par_iter().map(|file| StageClearance::new(&file.stage, &actors, &stances, within)).collect();
    let surveys: Vec<StageClearance<'_>> = session.pool.install(each);
    match format {
        Format::Table => surveys.iter().try_for_each(|survey| write_table(survey, &stances, &actors, out))?,
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&ClearanceList::new(&surveys, &stances))?)?,
        Format::Csv => write_rows(&ClearanceList::new(&surveys, &stances), out)?,
    }
    if args.draw {
        let folder = session.pictures(args.out.as_ref());
        let mut words = Vec::new();
        for survey in &surveys {
            for actor in actors.iter().filter(|actor| stances.iter().any(|stance| stance.actor == actor.name)) {
                let scene = session.pool.install(|| clearance_sheet(&picture(survey, actor, &stances)));
                let name = format!("{}-clearance-{}", survey.stage.name, actor.name);
                session.save(&Drawing { stem: folder.join(name), scene }.sized(None), &mut words)?;
            }
        }
        name_drawings(session, format, &words, out)?;
    }
    Ok(Exit::Done)
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

fn several(count: usize, one: &str, many: &str) -> String {
    format!("{count} {}", if count == 1 { one } else { many })
}

fn write_table(
    survey: &StageClearance<'_>,
    stances: &[Stance],
    actors: &[Actor],
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let StageClearance { stage, passages, low, pockets } = survey;
    writeln!(
        out,
        "{}: {} for {}, {} too tight for some; {} where it must stay low; {}.\n",
        stage.name,
        counted(passages.len(), "tight passage"),
        several(stances.len(), "body", "bodies"),
        passages.iter().filter(|passage| passage.rooms.iter().any(Room::is_short)).count(),
        several(low.len(), "stretch", "stretches"),
        counted(pockets.len(), "pocket"),
    )?;
    if !passages.is_empty() {
        let shown = passages.iter().enumerate().take(MOST_SHOWN);
        let rows = shown.flat_map(|(index, passage)| passage_rows(stage, index + 1, passage, stances));
        let header = ["no", "passage", "where", "clear", "body", "room"];
        writeln!(out, "{}", table(&header, &[], rows.collect()).trim_fmt())?;
        rest(passages.len(), out)?;
    }
    for place in low.iter().take(MOST_SHOWN) {
        writeln!(out, "{}", low_line(stage, place, stances))?;
    }
    rest(low.len(), out)?;
    for of in pockets.iter().take(MOST_SHOWN) {
        writeln!(out, "{}", pocket_line(of, stances, actors))?;
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

/// A passage on the row of its first body.
fn passage_rows(stage: &Stage, number: usize, passage: &Passage, stances: &[Stance]) -> Vec<Vec<String>> {
    let (along, across) = match passage.kind {
        PassageKind::Level => ("x", "high"),
        PassageKind::Upright => ("y", "wide"),
    };
    let rows = passage.rooms.iter().enumerate().map(|(index, room)| {
        let mut row = vec![String::new(); 4];
        if index == 0 {
            let (from, to) = passage.span;
            row = vec![
                number.to_string(),
                place(stage, passage),
                format!("{along} {from:.2} to {to:.2}"),
                format!("{:.2} px {across}", passage.clear),
            ];
        }
        row.extend([stances[room.stance].name(), words(room)]);
        row
    });
    rows.collect()
}

fn low_line(stage: &Stage, place: &LowPlace, stances: &[Stance]) -> String {
    let LowPlace { low, tall, stretch } = place;
    format!(
        "must stay low: {} at x {:.2} to {:.2} on {}: {} would overlap {6} by {5:.2} px",
        stances[*low].name(),
        stretch.span.0,
        stretch.span.1,
        stage.solids[stretch.floor].name,
        stances[*tall].shape,
        stretch.depth,
        stage.solids[stretch.ceiling].name,
    )
}

fn pocket_line(of: &BodyPocket, stances: &[Stance], actors: &[Actor]) -> String {
    let (stance, pocket) = (&stances[of.stance], &of.pocket);
    let jump = actors.iter().find(|actor| actor.name == stance.actor).and_then(|actor| actor.moves.jump);
    let way_out = match pocket.needs {
        Some(needs) => format!("a jump of {needs:.2} px leads out, it jumps {} px", jump.unwrap_or(0.0)),
        None => "no jump leads out".to_string(),
    };
    format!(
        "pocket: {} comes to x {:.2} to {:.2}, floor at y {:.2}, and not back: {way_out}",
        stance.name(),
        pocket.bounds.x0,
        pocket.bounds.x1,
        pocket.floor,
    )
}

fn write_rows(list: &ClearanceList, out: &mut dyn Write) -> Result<(), Failure> {
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
    let rows = list.stages.iter().flat_map(|stage| {
        stage.passages.iter().enumerate().flat_map(move |(index, passage)| {
            passage.rooms.iter().map(move |room| {
                let [from, to] = passage.span_px;
                let mut row = vec![stage.stage.clone(), (index + 1).to_string(), passage.kind.clone()];
                row.extend([from, to, passage.clear_px].map(|px| px.to_string()));
                row.extend(passage.between.clone());
                let spare = room.spare_px.map(|spare| spare.to_string()).unwrap_or_default();
                row.extend([room.body.clone(), spare, room.frame.clone()]);
                row
            })
        })
    });
    write_csv(&header.map(String::from), rows, out)
}

/// The stage with the places of an actor's pivot, and what was found for its bodies.
fn picture<'a>(survey: &StageClearance<'a>, actor: &'a Actor, stances: &'a [Stance]) -> ClearanceSheet<'a> {
    let is_own = |index: usize| stances[index].actor == actor.name;
    let marks = survey.passages.iter().enumerate().map(|(number, passage)| {
        let own: Vec<&Room> = passage.rooms.iter().filter(|room| is_own(room.stance)).collect();
        let rooms: Vec<String> =
            own.iter().map(|room| format!("{} {}", stances[room.stance].shape, words(room))).collect();
        PassageMark {
            number: number + 1,
            at: passage.at,
            clear: passage.clear,
            is_upright: passage.kind == PassageKind::Upright,
            is_short: own.iter().all(|room| room.is_short()),
            words: format!("{}: {}", place(survey.stage, passage), rooms.join("; ")),
        }
    });
    let pockets = survey.pockets.iter().filter(|of| is_own(of.stance)).map(|of| of.pocket.bounds);
    ClearanceSheet {
        stage: survey.stage,
        title: format!("{}: where the pivot of {} may be", survey.stage.name, actor.name),
        bodies: stances.iter().filter(|stance| stance.actor == actor.name).collect(),
        marks: marks.collect(),
        pockets: pockets.collect(),
    }
}
