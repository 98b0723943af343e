//! `finitor import`.

use super::export::space;
use crate::cli::ImportArgs;
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{Failure, Imported, Warning, Writing, import};
use finitor_files::counted;
use finitor_files::pack::{Origin, ShapeRows};
use std::io::Write;

/// Rows that go with nothing and are listed.
const MOST_LISTED: usize = 20;

/// Brings shapes of a file into the fits.
pub(super) fn run(session: &Session<'_>, args: &ImportArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let rows = ShapeRows::read(&args.file)?;
    if rows.space.is_some() && args.space.is_given() {
        let message = "a pack says itself how it counts: leave out --y, --unit, --fixed and --origin";
        return Err(Failure::Usage(message.to_string()));
    }
    let space = space(&args.space, &session.project);
    let dry_run = args.dry_run;
    let result = import(session, &rows, &space, if dry_run { Writing::Nothing } else { Writing::Files })?;
    write(&result, &args.file.display().to_string(), dry_run, out)?;
    out.flush()?;
    if rows.of_stages > 0 {
        session
            .note(&format!("note: {} of stages left out; stages are their own files", counted(rows.of_stages, "row")));
    }
    let matched = result.unchanged + result.changed.iter().map(|shape| shape.frames).sum::<usize>();
    if result.outside * 2 > matched {
        let hint = if rows.space.is_none() && space.origin == Origin::Pivot {
            "if they are counted from the corner of their cell, add --origin cell"
        } else {
            "compare `y_axis`, `unit` and --origin with the program that wrote them"
        };
        let message = format!("{} of {matched} shapes lie outside their frame's picture", result.outside);
        session.sink().warn(Warning { message, hint: Some(hint.to_string()) });
    }
    Ok(Exit::Done)
}

fn write(result: &Imported, file: &str, dry_run: bool, out: &mut dyn Write) -> Result<(), Failure> {
    let changed: usize = result.changed.iter().map(|shape| shape.frames).sum();
    let counts = [
        (changed, "changed"),
        (result.unchanged, "as they were"),
        (result.mirrored, "of the mirrored facing"),
        (result.unmatched.len(), "not matched"),
    ];
    let counts: Vec<String> =
        counts.iter().filter(|(count, _)| *count > 0).map(|(count, what)| format!("{count} {what}")).collect();
    let counts = if counts.is_empty() { "no shapes".to_string() } else { counts.join(", ") };
    writeln!(out, "{file}: {counts}{}", if dry_run { "; nothing written (--dry-run)" } else { "" })?;
    for added in &result.added {
        writeln!(out, "\n{} to {}:", if dry_run { "Would add" } else { "Added" }, added.file)?;
        for line in added.shape.to_text().lines() {
            writeln!(out, "  {line}")?;
        }
    }
    if !result.changed.is_empty() {
        writeln!(out)?;
    }
    for shape in &result.changed {
        writeln!(out, "{}: {}, locked", shape.name, counted(shape.frames, "frame"))?;
    }
    if !result.unmatched.is_empty() {
        writeln!(out, "\nNot matched:")?;
    }
    for unmatched in result.unmatched.iter().take(MOST_LISTED) {
        writeln!(out, "  {}: {}", unmatched.place, unmatched.reason)?;
    }
    if let Some(more) = result.unmatched.len().checked_sub(MOST_LISTED).filter(|more| *more > 0) {
        writeln!(out, "  and {more} more")?;
    }
    Ok(())
}
