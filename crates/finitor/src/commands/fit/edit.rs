//! `fit --to-svg` and `fit --from-svg`: shapes by hand, in a vector editor.

use crate::exit::Exit;
use crate::session::Session;
use finitor_app::Failure;
use finitor_core::art::Picture;
use finitor_files::{
    ActorFile, EditSheet, FitsFile, Problem, Problems, counted, fits_path, match_frames, read_edit_svg, read_fits,
    write_atomically, write_edit_svg, write_fits,
};
use std::io::Write;
use std::path::Path;

/// The fits of all actors.
fn all_fits(actors: &[&ActorFile]) -> Result<Vec<FitsFile>, Failure> {
    let mut problems = Problems::default();
    let mut all = Vec::new();
    for actor in actors {
        let path = fits_path(&actor.path);
        match problems.take(read_fits(&path)) {
            Some(Some(fits)) => all.push(fits),
            Some(None) => {
                let message = format!("{} has no fits yet", actor.name);
                problems.0.push(Problem::of_file(&path, message).with_hint("run `finitor fit` first"));
            }
            None => {}
        }
    }
    problems.or(all).map_err(Failure::from)
}

/// Writes the drawing.
pub(super) fn write(
    session: &Session<'_>,
    actors: &[&ActorFile],
    target: &Path,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let all = all_fits(actors)?;
    let mut problems = Problems::default();
    let mut sheets = Vec::new();
    for (actor, fits) in actors.iter().zip(&all) {
        let matching = match_frames(actor, fits);
        if !matching.changes.is_empty() {
            let message = format!("the art of {} changed since it was fitted", actor.name);
            problems.0.push(Problem::of_file(&fits_path(&actor.path), message).with_hint("run `finitor fit` first"));
            continue;
        }
        let gallery = actor.gallery();
        let pictures = actor.frames.iter().map(|frame| {
            let art = problems.take(gallery.frame(&frame.source).map_err(Problems::from));
            art.map(|art| art.picture)
        });
        let pictures: Option<Vec<Picture>> = pictures.collect();
        sheets.extend(pictures.map(|pictures| EditSheet { fits, pictures }));
    }
    problems.or(())?;
    let svg = write_edit_svg(&sheets)?;
    write_atomically(target, svg.as_bytes())?;
    let frames: usize = all.iter().map(|fits| fits.frames.len()).sum();
    let shapes: usize = all.iter().flat_map(|fits| &fits.frames).map(|frame| frame.shapes.len()).sum();
    let shown = target.display();
    writeln!(out, "{} with {} as paths -> {shown}", counted(frames, "frame"), counted(shapes, "shape"))?;
    out.flush()?;
    session.note(&format!("edit the paths' points, keep their ids, then `finitor fit --from-svg {shown}`"));
    Ok(Exit::Done)
}

/// Reads a drawing back.
pub(super) fn read(
    session: &Session<'_>,
    actors: &[&ActorFile],
    source: &Path,
    dry_run: bool,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let mut all = all_fits(actors)?;
    let before = all.clone();
    let edits = read_edit_svg(source, &mut all.iter_mut().collect::<Vec<_>>())?;
    for ((actor, fits), before) in actors.iter().zip(&all).zip(&before) {
        if fits != before && !dry_run {
            session.pool.install(|| write_fits(&fits_path(&actor.path), fits))?;
        }
    }
    for edit in &edits.shapes {
        let parts = [(edit.moved, "moved"), (edit.added, "added"), (edit.deleted, "deleted")];
        let parts: Vec<String> = parts
            .iter()
            .filter(|(count, _)| *count > 0)
            .map(|(count, what)| format!("{} {what}", counted(*count, "point")))
            .collect();
        let parts = if parts.is_empty() { "points in another order".to_string() } else { parts.join(", ") };
        writeln!(out, "{}: {parts}; locked", edit.path)?;
    }
    let shown = source.display();
    match (edits.shapes.len(), dry_run) {
        (0, _) => writeln!(out, "no point differs: nothing changed")?,
        (changed, true) => writeln!(out, "{} changed, not written (--dry-run)", counted(changed, "shape"))?,
        (changed, false) => {
            writeln!(
                out,
                "{} changed; `finitor fit --unlock --only SHAPE` gives such work up again",
                counted(changed, "shape")
            )?;
            session.note("note: run `finitor fit` to measure them");
        }
    }
    out.flush()?;
    if let Some(first) = edits.missing.first() {
        session.note(&format!(
            "note: {} not in {shown}, left as they are (first: {first})",
            counted(edits.missing.len(), "shape")
        ));
    }
    if let Some(first) = edits.unknown.first() {
        let words = counted(edits.unknown.len(), "path");
        session.note(&format!("note: {words} with an id that names no shape, passed over (first: {first})"));
    }
    Ok(Exit::Done)
}
