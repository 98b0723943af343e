//! `finitor facing`.

mod page;

use crate::cli::{FacingArgs, Format};
use crate::commands::draw::name_drawings;
use crate::exit::Exit;
use crate::output::csv::write_csv;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::{Failure, turning_findings};
use finitor_core::actor::{Actor, Pose, Shape};
use finitor_core::lint::{Turn, TurnedShape, turned_shapes, turns};
use finitor_core::{Facing, Polygon};
use finitor_files::ActorFile;
use schemars::JsonSchema;
use serde::Serialize;
use std::collections::BTreeMap;
use std::io::Write;

/// Shows all shapes, sensors and anchors in both facings (JSON), or what a turn does to the bodies (table and CSV).
pub(crate) fn run(
    session: &Session<'_>,
    args: &FacingArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let files = session.select(&args.actors)?;
    let actors = session.fitted(&files)?;
    match format {
        Format::Json => {
            let result = FacingResult { schema: SCHEMA, actors: files.iter().zip(&actors).map(both).collect() };
            writeln!(out, "{}", serde_json::to_string(&result)?)?;
        }
        Format::Table => write_turns(session, &files, &actors, out)?,
        Format::Csv => write_rows(&files, &actors, out)?,
    }
    if args.draw {
        let folder = session.pictures(args.out.as_ref());
        let mut words = Vec::new();
        for (file, actor) in files.iter().zip(&actors) {
            page::draw(session, file, actor, args.scale, &folder, &mut words)?;
        }
        name_drawings(session, format, &words, out)?;
    }
    Ok(Exit::Done)
}

/// Frames by number, runs of them shortened: `0-3,5`.
fn numbers(frames: &[usize]) -> String {
    let numbers: Vec<u32> = frames.iter().map(|frame| *frame as u32).collect();
    finitor_files::ranges(&numbers)
}

/// How far art parts from its shapes on a turn, the farthest of an animation's frames.
fn drift(file: &ActorFile, turn: &Turn) -> f64 {
    let start = file.animations[turn.animation].frames.start;
    let drifts = turn.frames.iter().map(|frame| file.flip_drift(start + frame));
    drifts.fold(0.0, |most: f64, drift| if drift.abs() > most.abs() { drift } else { most })
}

/// What room to leave before a wall, in words.
fn room(turn: &Turn) -> String {
    match (turn.room_ahead(), turn.room_behind()) {
        (ahead, _) if ahead > 0.0 => format!("{ahead:.2} ahead"),
        (_, behind) if behind > 0.0 => format!("{behind:.2} behind"),
        _ => "none".to_string(),
    }
}

/// How far a turn moves each side of a body, frames of one animation with the same body in one row.
fn write_turns(
    session: &Session<'_>,
    files: &[&ActorFile],
    actors: &[Actor],
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let mut rows: Vec<Vec<String>> = Vec::new();
    let mut widest: Option<(f64, String)> = None;
    for (file, actor) in files.iter().zip(actors) {
        for turn in turns(actor) {
            let animation = &actor.animations[turn.animation];
            let place = format!("{}.{} on {}", actor.name, turn.shape, animation.name);
            if widest.as_ref().is_none_or(|(known, _)| turn.moved() > *known) {
                widest = Some((turn.moved(), place));
            }
            let [left, _, right, _] = turn.edges();
            let drawn = match animation.turned_by {
                Some(other) => format!("{}, {}", animation.faces, actor.animations[other].name),
                None => animation.faces.to_string(),
            };
            rows.push(vec![
                format!("{}.{}", actor.name, turn.shape),
                format!("{} {}", animation.name, numbers(&turn.frames)),
                drawn,
                format!("{:.2}", turn.ahead),
                format!("{:.2}", turn.behind),
                format!("{left:+.2}"),
                format!("{right:+.2}"),
                room(&turn),
                format!("{:+.1}", drift(file, &turn)),
            ]);
        }
    }
    match widest {
        Some((moved, place)) if moved > 0.0 => {
            writeln!(out, "A turn moves the sides of {place} by {moved:.2} px, the most of all bodies.")?;
        }
        _ => writeln!(out, "No body changes by turning: all are equal about the pivot.")?,
    }
    let header =
        ["body", "frames", "drawn", "ahead", "behind", "left edge", "right edge", "room at a wall", "art drift"];
    let right = ["ahead", "behind", "left edge", "right edge", "room at a wall", "art drift"];
    writeln!(
        out,
        "All in px. Edges: how far each moves when the body turns from its drawn facing; above 0 is right.\n"
    )?;
    writeln!(out, "{}", table(&header, &right, rows).trim_fmt())?;
    let rows = turning_findings(session, actors).into_iter().map(|finding| {
        let place = format!("{} {}", finding.subject, finding.place.name());
        vec![finding.rule.to_string(), place, finding.message, finding.fix]
    });
    let rows: Vec<Vec<String>> = rows.collect();
    if !rows.is_empty() {
        writeln!(out, "\n{}", table(&["rule", "where", "what", "fix"], &[], rows).trim_fmt())?;
    }
    for actor in actors {
        write_turned(actor, out)?;
    }
    Ok(())
}

/// Shapes of art drawn for the other side against the mirror images.
fn write_turned(actor: &Actor, out: &mut dyn Write) -> Result<(), Failure> {
    let all = turned_shapes(actor);
    let Some(worst) = all.iter().min_by(|a, b| a.iou.total_cmp(&b.iou)) else {
        return Ok(());
    };
    let name = |of: &TurnedShape| format!("{} {}", actor.animations[of.animation].name, of.frame);
    writeln!(
        out,
        "\n{}: art drawn for the other side against the mirror image it stands for; {} on {} agrees least, IoU {:.3}.",
        actor.name,
        worst.shape,
        name(worst),
        worst.iou
    )?;
    let rows = all.iter().map(|of| {
        let mut row = vec![name(of), of.shape.clone(), format!("{:.3}", of.iou)];
        row.extend(of.edges.iter().map(|edge| format!("{edge:+.2}")));
        row
    });
    let header = ["frame", "shape", "IoU", "left", "top", "right", "bottom"];
    let right = ["IoU", "left", "top", "right", "bottom"];
    writeln!(out, "{}", table(&header, &right, rows.collect()).trim_fmt())?;
    Ok(())
}

fn write_rows(files: &[&ActorFile], actors: &[Actor], out: &mut dyn Write) -> Result<(), Failure> {
    let header = [
        "actor",
        "shape",
        "animation",
        "frames",
        "drawn",
        "ahead",
        "behind",
        "left_edge",
        "right_edge",
        "room_ahead",
        "room_behind",
        "art_drift",
    ];
    let mut rows = Vec::new();
    for (file, actor) in files.iter().zip(actors) {
        for turn in turns(actor) {
            let [left, _, right, _] = turn.edges();
            let animation = &actor.animations[turn.animation];
            let mut row = vec![
                actor.name.clone(),
                turn.shape.clone(),
                animation.name.clone(),
                numbers(&turn.frames),
                animation.faces.to_string(),
            ];
            let figures =
                [turn.ahead, turn.behind, left, right, turn.room_ahead(), turn.room_behind(), drift(file, &turn)];
            row.extend(figures.iter().map(ToString::to_string));
            rows.push(row);
        }
    }
    write_csv(&header.map(String::from), rows.into_iter(), out)
}

/// The schema of what it writes as JSON.
pub(super) const SCHEMA: &str = "finitor.facing/1";

/// What it writes as JSON.
pub(super) fn schema() -> schemars::Schema {
    crate::output::json_schema::schema_of::<FacingResult>()
}

#[derive(Serialize, JsonSchema)]
struct FacingResult {
    schema: &'static str,
    actors: Vec<ActorOut>,
}

#[derive(Serialize, JsonSchema)]
struct ActorOut {
    actor: String,
    drawn: &'static str,
    swaps: Vec<(String, String)>,
    frames: Vec<FrameOut>,
    turned: Vec<TurnedOut>,
}

/// A shape drawn for the other side against the mirror image.
#[derive(Serialize, JsonSchema)]
struct TurnedOut {
    animation: String,
    frame: usize,
    shape: String,
    iou: f64,
    /// Left, top, right, bottom.
    edges: [f64; 4],
}

#[derive(Serialize, JsonSchema)]
struct FrameOut {
    animation: String,
    frame: usize,
    /// The way its own art is drawn.
    faces: &'static str,
    /// How far right of its shapes the flipped art lies, px.
    flip_drift: f64,
    right: PoseOut,
    left: PoseOut,
}

#[derive(Serialize, JsonSchema)]
struct PoseOut {
    anchors: BTreeMap<String, [f64; 2]>,
    shapes: Vec<ShapeOut>,
}

#[derive(Serialize, JsonSchema)]
struct ShapeOut {
    name: String,
    role: &'static str,
    /// Rings, local, clockwise on screen.
    rings: Vec<Vec<[f64; 2]>>,
    pieces: Vec<Vec<[f64; 2]>>,
}

fn both((file, actor): (&&ActorFile, &Actor)) -> ActorOut {
    let frames = actor.animations.iter().flat_map(|animation| {
        animation.frames.iter().enumerate().map(|(frame, poses)| FrameOut {
            animation: animation.name.clone(),
            frame,
            faces: animation.faces.name(),
            flip_drift: poses[animation.faces.index()].flip_drift,
            right: pose(&poses[Facing::Right.index()]),
            left: pose(&poses[Facing::Left.index()]),
        })
    });
    let turned = turned_shapes(actor).into_iter().map(|of| TurnedOut {
        animation: actor.animations[of.animation].name.clone(),
        frame: of.frame,
        shape: of.shape,
        iou: of.iou,
        edges: of.edges,
    });
    ActorOut {
        actor: actor.name.clone(),
        drawn: file.faces.name(),
        swaps: actor.swaps.clone(),
        frames: frames.collect(),
        turned: turned.collect(),
    }
}

fn pose(pose: &Pose) -> PoseOut {
    PoseOut {
        anchors: pose.anchors.iter().map(|(name, at)| (name.clone(), [at.x, at.y])).collect(),
        shapes: pose.shapes.iter().map(shape).collect(),
    }
}

fn shape(shape: &Shape) -> ShapeOut {
    let points = |points: &[finitor_core::Point]| points.iter().map(|p| [p.x, p.y]).collect();
    ShapeOut {
        name: shape.name.clone(),
        role: shape.role.name(),
        rings: shape.polygons.iter().map(Polygon::points).map(points).collect(),
        pieces: shape.pieces.iter().map(|piece| points(piece.points())).collect(),
    }
}
