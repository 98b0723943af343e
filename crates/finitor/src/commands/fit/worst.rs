//! `fit --worst`: the frames to look at.

use crate::cli::Format;
use crate::exit::Exit;
use crate::output::table::table;
use finitor_app::results::WorstFits;
use finitor_app::{Failure, Outcome};
use finitor_files::ActorFile;
use std::io::Write;

/// Writes the shapes on frames with the lowest IoU, worst first.
pub(super) fn write(
    fitted: &[(&ActorFile, &Outcome)],
    most: usize,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let list = WorstFits::new(fitted, most);
    if format == Format::Json {
        writeln!(out, "{}", serde_json::to_string_pretty(&list)?)?;
        return Ok(Exit::Done);
    }
    let rows = list.worst.iter().map(|fit| {
        let missed = (1.0 - fit.covered) * 100.0;
        let trouble = if fit.excess_px2 > 0.0 && fit.covered > 0.995 {
            format!("{:.0} px² of it are beside the art", fit.excess_px2)
        } else {
            format!("misses {missed:.0} % of the art, {:.0} px² beside it", fit.excess_px2)
        };
        vec![
            format!("{} {} {}", fit.actor, fit.animation, fit.frame),
            fit.shape.clone(),
            fit.kind.clone(),
            format!("{:.3}", fit.iou),
            format!("{:.2} px", fit.deviation_px),
            trouble,
        ]
    });
    let header = ["frame", "shape", "kind", "IoU", "deviation", "what is off"];
    writeln!(out, "{}", table(&header, &["IoU", "deviation"], rows.collect()).trim_fmt())?;
    Ok(Exit::Done)
}
