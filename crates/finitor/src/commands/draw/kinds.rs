//! `draw ACTOR --kinds ANIMATION:FRAME`: every kind and fit on one frame.

use crate::exit::Exit;
use crate::output::table::table;
use crate::session::Session;
use finitor_app::{Drawing, Failure};
use finitor_core::fit::{
    FitGoal, Fitting, Kind, Quality, USUAL_PIECE_POINTS, fit_selection, measure, pieces_of, selection,
};
use finitor_core::{Point, Vec2};
use finitor_draw::{KindCell, KindRow, KindsSheet, kinds_sheet};
use finitor_files::{ActorFile, Problems, counted};
use std::io::Write;
use std::path::Path;

const GOALS: [(FitGoal, &str, &str); 3] = [
    (FitGoal::Cover, "cover", "every opaque pixel inside, with the least area"),
    (FitGoal::Inside, "inside", "nothing outside the opaque pixels, with the greatest area"),
    (FitGoal::Balance, "balance", "agrees best with the opaque pixels"),
];

/// What to draw.
pub(super) struct KindsRequest<'r> {
    pub(super) file: &'r ActorFile,
    /// `walk:0`.
    pub(super) frame: &'r str,
    pub(super) scale: Option<u32>,
    pub(super) folder: &'r Path,
}

/// Draws the sheet and writes its figures as a table.
pub(super) fn draw(session: &Session<'_>, request: &KindsRequest<'_>, out: &mut dyn Write) -> Result<Exit, Failure> {
    let KindsRequest { file, frame, scale, folder } = *request;
    let index = frame_index(file, frame)?;
    let loaded = &file.frames[index];
    let art = file.gallery().frame(&loaded.source).map_err(Problems::from)?;
    let kinds: Vec<Kind> = Kind::ALL.into_iter().filter(|kind| *kind != Kind::Auto).collect();
    let mut rows = Vec::new();
    let mut figures = Vec::new();
    for (goal, name, words) in GOALS {
        let mut cells = Vec::new();
        for &kind in &kinds {
            let fitting = Fitting { goal, ..Fitting::of(kind) };
            let selected = selection(&art, &fitting);
            let (cell, row) = match fit_selection(&selected, &fitting, loaded.pivot, file.faces(index)) {
                Ok(fitted) => {
                    let geometry = fitted.geometry.translated(loaded.pivot.x, loaded.pivot.y);
                    let pieces = pieces_of(&geometry, USUAL_PIECE_POINTS);
                    let ring = |points: &[Point]| points.to_vec();
                    let rings = match kind {
                        Kind::Pieces => pieces.iter().map(|piece| ring(piece.points())).collect(),
                        _ => geometry.polygons.iter().map(|polygon| ring(polygon.points())).collect(),
                    };
                    let corner: Vec2 = selected.corner();
                    let quality = measure(&geometry.translated(-corner.x, -corner.y), &selected.mask);
                    let points = geometry.point_count();
                    let row = figures_row(kind, name, (points, pieces.len()), quality);
                    let words = quality
                        .map_or_else(String::new, |q| format!("IoU {:.3}, covers {:.0} %", q.iou, q.covered * 100.0));
                    let size = match kind {
                        Kind::Pieces => format!("{}, {points} corners", counted(pieces.len(), "piece")),
                        Kind::Circle | Kind::Capsule => "round; exact numbers".to_string(),
                        _ => counted(points, "corner"),
                    };
                    (KindCell { rings, words: vec![words, size] }, row)
                }
                Err(error) => {
                    let mut row = figures_row(kind, name, (0, 0), None);
                    row.push(error.to_string());
                    (KindCell { rings: Vec::new(), words: vec!["refused: no such fit".into()] }, row)
                }
            };
            cells.push(cell);
            figures.push(row);
        }
        rows.push(KindRow { name: name.to_string(), words: words.to_string(), cells });
    }
    let place = file.frame_name(index);
    let title =
        format!("{} {place}: every kind and fit, tolerance {} px", file.name, Fitting::of(Kind::Outline).tolerance);
    let kinds = kinds.iter().map(|kind| kind.name().to_string()).collect();
    let scene = kinds_sheet(&KindsSheet { title, picture: &art.picture, kinds, rows, scale });
    session
        .save(&Drawing { stem: folder.join(format!("{}-kinds-{}", file.name, place.replace(' ', "-"))), scene }, out)?;
    let header = ["fit", "kind", "points", "pieces", "IoU", "covered", "excess px2", "deviation px", ""];
    let right = ["points", "pieces", "IoU", "covered", "excess px2", "deviation px"];
    writeln!(out, "\n{}", table(&header, &right, figures).trim_fmt())?;
    Ok(Exit::Done)
}

fn figures_row(kind: Kind, goal: &str, (points, pieces): (usize, usize), quality: Option<Quality>) -> Vec<String> {
    let mut row = vec![goal.to_string(), kind.name().to_string()];
    match quality {
        Some(q) => row.extend([
            points.to_string(),
            pieces.to_string(),
            format!("{:.3}", q.iou),
            format!("{:.3}", q.covered),
            format!("{:.1}", q.excess),
            format!("{:.2}", q.deviation),
        ]),
        None => row.extend(vec!["-".to_string(); 6]),
    }
    row
}

/// The frame named: `walk:0`, or `walk` for its first.
fn frame_index(file: &ActorFile, name: &str) -> Result<usize, Failure> {
    let (animation, number) = name.split_once(':').unwrap_or((name, "0"));
    let known = || file.animations.iter().map(|a| a.name.as_str()).collect::<Vec<_>>().join(", ");
    let Some(spec) = file.animations.iter().find(|spec| spec.name == animation) else {
        return Err(Failure::Usage(format!(
            "--kinds: {} has no animation \"{animation}\"; write ANIMATION:FRAME, with one of {}",
            file.name,
            known()
        )));
    };
    let number: Option<usize> = number.parse().ok().filter(|number| *number < spec.frames.len());
    number.map(|number| spec.frames.start + number).ok_or_else(|| {
        Failure::Usage(format!("--kinds: {animation} has the frames 0 to {}", spec.frames.len().saturating_sub(1)))
    })
}
