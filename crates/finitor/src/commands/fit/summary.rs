//! What a fit came to, in words and rows.

use crate::output::table::table;
use crate::session::Session;
use finitor_app::Failure;
use finitor_app::{Outcome, Status};
use finitor_files::{ActorFile, ArtChange, QualityFits, counted};
use schemars::JsonSchema;
use serde::Serialize;
use std::io::Write;

/// Changes of the art told one by one, up to this many lines.
const MOST_CHANGES: usize = 12;

/// Says what became of the art since the last run.
fn tell_changes(session: &Session<'_>, actor: &ActorFile, changes: &[ArtChange]) {
    let lines: Vec<String> = changes.iter().flat_map(ArtChange::sentences).collect();
    for line in lines.iter().take(MOST_CHANGES) {
        session.note(&format!("art: {} {line}", actor.name));
    }
    if lines.len() > MOST_CHANGES {
        session.note(&format!("art: and {} more changes", lines.len() - MOST_CHANGES));
    }
    for change in changes {
        if let Some(like) = &change.like {
            let (old, name) = (&change.animation, &actor.name);
            session.note(&format!(
                "note: {like} has the art that {old} had; `finitor fit {name} --rename {old}={like}` would have kept its hand edits"
            ));
        }
    }
}

pub(super) fn write_summary(
    session: &Session<'_>,
    actor: &ActorFile,
    path: &str,
    outcome: &Outcome,
    dry: bool,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let (fresh, same, hand) =
        (outcome.count(Status::Fitted), outcome.count(Status::Unchanged), outcome.count(Status::ByHand));
    let mut words = vec![format!("{} fitted", counted(fresh, "shape"))];
    if same > 0 {
        words.push(format!("{same} unchanged"));
    }
    if hand > 0 {
        words.push(format!("{hand} kept as a hand left them"));
    }
    let target = if dry { format!("{path} not written (--dry-run)") } else { path.to_string() };
    let frames = counted(outcome.fits.frames.len(), "frame");
    writeln!(out, "{}: {frames}, {} -> {target}", actor.name, words.join(", "))?;
    tell_changes(session, actor, &outcome.changes);
    let shown = 4;
    for note in outcome.notes.iter().take(shown) {
        session.note(&format!("note: {} {note}", actor.name));
    }
    if outcome.notes.len() > shown {
        session.note(&format!("note: and {} more like it", outcome.notes.len() - shown));
    }
    Ok(())
}

/// A shape over all its frames.
#[derive(Debug, Serialize, JsonSchema)]
pub(super) struct Row {
    actor: String,
    shape: String,
    kind: String,
    frames: usize,
    /// Mean of the corners a frame.
    points: f64,
    /// Means over the frames, but for the deviation, which is the largest; `null` for shapes given outright.
    iou: Option<f64>,
    covered: Option<f64>,
    excess_px2: Option<f64>,
    deviation_px: Option<f64>,
    worst_frame: Option<String>,
    worst_iou: Option<f64>,
    by_hand: usize,
}

#[derive(Debug, Serialize, JsonSchema)]
pub(super) struct FitResult {
    pub(super) schema: &'static str,
    pub(super) written: bool,
    pub(super) shapes: Vec<Row>,
}

pub(super) fn rows(actor: &ActorFile, outcome: &Outcome) -> Vec<Row> {
    let mut names: Vec<&str> = Vec::new();
    for shape in outcome.fits.frames.iter().flat_map(|frame| &frame.shapes) {
        if !names.contains(&shape.name.as_str()) {
            names.push(&shape.name);
        }
    }
    names.into_iter().map(|name| row(actor, outcome, name)).collect()
}

fn row(actor: &ActorFile, outcome: &Outcome, name: &str) -> Row {
    let mut kind = "";
    let (mut frames, mut points, mut by_hand) = (0, 0, 0);
    let mut measured: Vec<(QualityFits, String)> = Vec::new();
    for (frame, statuses) in outcome.fits.frames.iter().zip(&outcome.statuses) {
        for (shape, status) in frame.shapes.iter().zip(statuses).filter(|(shape, _)| shape.name == name) {
            kind = &shape.kind;
            frames += 1;
            points += shape.points.all().iter().map(|ring| ring.len()).sum::<usize>();
            by_hand += usize::from(*status == Status::ByHand);
            measured.extend(shape.quality.map(|q| (q, format!("{} {}", frame.animation, frame.frame))));
        }
    }
    let mean = |value: fn(&QualityFits) -> f64| {
        let sum: f64 = measured.iter().map(|(quality, _)| value(quality)).sum();
        (!measured.is_empty()).then(|| sum / measured.len() as f64)
    };
    let worst = measured.iter().min_by(|a, b| a.0.iou.total_cmp(&b.0.iou));
    Row {
        actor: actor.name.clone(),
        shape: name.to_string(),
        kind: kind.to_string(),
        frames,
        points: points as f64 / frames.max(1) as f64,
        iou: mean(|q| q.iou),
        covered: mean(|q| q.covered),
        excess_px2: mean(|q| q.excess),
        deviation_px: measured.iter().map(|(q, _)| q.deviation).reduce(f64::max),
        worst_frame: worst.map(|(_, frame)| frame.clone()),
        worst_iou: worst.map(|(q, _)| q.iou),
        by_hand,
    }
}

pub(super) fn write_table(rows: Vec<Row>, out: &mut dyn Write) -> Result<(), Failure> {
    let header = ["shape", "kind", "frames", "points", "IoU", "covered", "excess px2", "deviation px", "worst frame"];
    let right = ["frames", "points", "IoU", "covered", "excess px2", "deviation px"];
    let decimals =
        |value: Option<f64>, digits: usize| value.map_or_else(|| "-".to_string(), |value| format!("{value:.digits$}"));
    let cells = rows.into_iter().map(|row| {
        let points =
            if row.points.fract() == 0.0 { format!("{:.0}", row.points) } else { format!("{:.1}", row.points) };
        let worst = match (row.worst_frame, row.worst_iou) {
            (Some(frame), Some(iou)) => format!("{frame} ({iou:.3})"),
            _ => "-".to_string(),
        };
        vec![
            format!("{}.{}", row.actor, row.shape),
            row.kind,
            row.frames.to_string(),
            points,
            decimals(row.iou, 3),
            decimals(row.covered, 3),
            decimals(row.excess_px2, 1),
            decimals(row.deviation_px, 2),
            worst,
        ]
    });
    writeln!(out, "\n{}", table(&header, &right, cells.collect()).trim_fmt())?;
    Ok(())
}
