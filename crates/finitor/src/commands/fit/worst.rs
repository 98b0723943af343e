//! `fit --worst`: the frames to look at.

use crate::cli::Format;
use crate::exit::Exit;
use crate::output::table::table;
use finitor_app::Failure;
use finitor_app::Outcome;
use finitor_files::ActorFile;
use serde_json::json;
use std::io::Write;

/// Writes the shapes on frames with the lowest IoU, worst first; of equals the one with the larger deviation.
pub(super) fn write(
    fitted: &[(&ActorFile, &Outcome)],
    most: usize,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let mut found = Vec::new();
    for (actor, outcome) in fitted {
        for frame in &outcome.fits.frames {
            let measured = frame.shapes.iter().filter_map(|shape| Some((shape, shape.quality?)));
            found.extend(measured.map(|(shape, quality)| (*actor, frame, shape, quality)));
        }
    }
    found.sort_by(|a, b| a.3.iou.total_cmp(&b.3.iou).then(b.3.deviation.total_cmp(&a.3.deviation)));
    found.truncate(most);
    if format == Format::Json {
        let rows: Vec<_> = found
            .iter()
            .map(|(actor, frame, shape, quality)| {
                json!({
                    "actor": actor.name, "animation": frame.animation, "frame": frame.frame, "shape": shape.name,
                    "kind": shape.kind, "iou": quality.iou, "covered": quality.covered, "excess_px2": quality.excess,
                    "deviation_px": quality.deviation, "points": quality.points, "pieces": quality.pieces,
                })
            })
            .collect();
        writeln!(out, "{}", serde_json::to_string_pretty(&json!({ "schema": "finitor.fit_worst/1", "worst": rows }))?)?;
        return Ok(Exit::Done);
    }
    let rows = found.iter().map(|(actor, frame, shape, quality)| {
        let missed = (1.0 - quality.covered) * 100.0;
        let trouble = if quality.excess > 0.0 && quality.covered > 0.995 {
            format!("{:.0} px2 of it are beside the art", quality.excess)
        } else {
            format!("misses {missed:.0} % of the art, {:.0} px2 beside it", quality.excess)
        };
        vec![
            format!("{} {} {}", actor.name, frame.animation, frame.frame),
            shape.name.clone(),
            shape.kind.clone(),
            format!("{:.3}", quality.iou),
            format!("{:.2}", quality.deviation),
            trouble,
        ]
    });
    let header = ["frame", "shape", "kind", "IoU", "deviation px", "what is off"];
    writeln!(out, "{}", table(&header, &["IoU", "deviation px"], rows.collect()).trim_fmt())?;
    Ok(Exit::Done)
}
