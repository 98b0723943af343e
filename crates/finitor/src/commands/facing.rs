//! `finitor facing`.

use crate::cli::{FacingArgs, Format};
use crate::exit::{Exit, Failure};
use crate::output::table::table;
use crate::session::Session;
use finitor_core::actor::{Actor, Pose, Shape};
use finitor_core::{Facing, Polygon, Rect};
use serde::Serialize;
use std::collections::BTreeMap;
use std::io::Write;

/// Shows all shapes, sensors and anchors in both facings (JSON), or what a turn does to the bodies (table).
pub(crate) fn run(session: &Session, args: &FacingArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    let files = session.actors(&args.actors)?;
    let actors = session.fitted(&files)?;
    match format {
        Format::Json => {
            let result = FacingResult { schema: "finitor.facing/1", actors: actors.iter().map(both).collect() };
            writeln!(out, "{}", serde_json::to_string(&result)?)?;
        }
        Format::Table | Format::Csv => write_turns(&actors, out)?,
    }
    Ok(Exit::Done)
}

/// How far a turn moves each side of a body, frames of one animation with the same body in one row.
fn write_turns(actors: &[Actor], out: &mut dyn Write) -> Result<(), Failure> {
    let mut rows: Vec<Vec<String>> = Vec::new();
    let mut widest: Option<(f64, String)> = None;
    for actor in actors {
        for animation in &actor.animations {
            let mut seen: Vec<(Rect, String, usize)> = Vec::new();
            for pose in animation.frames.iter().map(|both| &both[actor.drawn.index()]) {
                let Some(body) = pose.body() else { continue };
                match seen.iter_mut().find(|(bounds, ..)| *bounds == body.bounds()) {
                    Some((.., count)) => *count += 1,
                    None => seen.push((body.bounds(), body.name.clone(), 1)),
                }
            }
            for (bounds, name, count) in seen {
                let (ahead, behind) = ahead_behind(bounds, actor.drawn);
                let moved = (ahead - behind).abs();
                let place = format!("{}.{name} on {}", actor.name, animation.name);
                if widest.as_ref().is_none_or(|(known, _)| moved > *known) {
                    widest = Some((moved, place));
                }
                rows.push(vec![
                    format!("{}.{name}", actor.name),
                    animation.name.clone(),
                    count.to_string(),
                    format!("{ahead:.2}"),
                    format!("{behind:.2}"),
                    format!("{moved:.2}"),
                ]);
            }
        }
    }
    match widest {
        Some((moved, place)) if moved > 0.0 => {
            writeln!(out, "A turn moves the sides of {place} by {moved:.2} px, the most of all bodies.")?;
        }
        _ => writeln!(out, "No body changes by turning: all are equal about the pivot.")?,
    }
    let header = ["body", "animation", "frames", "ahead px", "behind px", "moved by a turn px"];
    let right = ["frames", "ahead px", "behind px", "moved by a turn px"];
    writeln!(out, "\n{}", table(&header, &right, rows).trim_fmt())?;
    Ok(())
}

fn ahead_behind(bounds: Rect, drawn: Facing) -> (f64, f64) {
    match drawn {
        Facing::Right => (bounds.x1, -bounds.x0),
        Facing::Left => (-bounds.x0, bounds.x1),
    }
}

#[derive(Serialize)]
struct FacingResult {
    schema: &'static str,
    actors: Vec<ActorOut>,
}

#[derive(Serialize)]
struct ActorOut {
    actor: String,
    drawn: &'static str,
    frames: Vec<FrameOut>,
}

#[derive(Serialize)]
struct FrameOut {
    animation: String,
    frame: usize,
    right: PoseOut,
    left: PoseOut,
}

#[derive(Serialize)]
struct PoseOut {
    anchors: BTreeMap<String, [f64; 2]>,
    shapes: Vec<ShapeOut>,
}

#[derive(Serialize)]
struct ShapeOut {
    name: String,
    role: &'static str,
    /// Rings, local, clockwise on screen.
    rings: Vec<Vec<[f64; 2]>>,
    pieces: Vec<Vec<[f64; 2]>>,
}

fn both(actor: &Actor) -> ActorOut {
    let frames = actor.animations.iter().flat_map(|animation| {
        animation.frames.iter().enumerate().map(|(frame, poses)| FrameOut {
            animation: animation.name.clone(),
            frame,
            right: pose(&poses[Facing::Right.index()]),
            left: pose(&poses[Facing::Left.index()]),
        })
    });
    ActorOut { actor: actor.name.clone(), drawn: actor.drawn.name(), frames: frames.collect() }
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
