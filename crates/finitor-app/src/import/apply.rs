//! Writing what was imported: missing shapes into actor files, geometry into the fits, and a fit to measure it.

use super::matching::{ActorPlan, Edit, Plan, frame_in};
use crate::failure::Failure;
use crate::fitting::refitted;
use crate::project::OpenProject;
use finitor_files::{
    ActorFile, FileChange, FitsFile, FitsText, NewShape, Problem, Problems, ShapeFits, fits_path, hand_made,
    write_changes,
};
use std::path::Path;

pub(super) fn apply(open: &OpenProject<'_>, plan: &Plan<'_>) -> Result<(), Failure> {
    let changed = || plan.actors.iter().filter(|actor| !actor.edits.is_empty());
    let added = changed().filter_map(with_missing).collect::<Result<Vec<FileChange>, Problems>>()?;
    write_changes(&added)?;
    let written = || {
        let again;
        // Actor files that changed are read again.
        let files = if added.is_empty() {
            open.actor_files()?
        } else {
            again = open.load_actors(&changed().map(|actor| actor.file.path.as_path()).collect::<Vec<&Path>>())?;
            &again[..]
        };
        let fits = changed().map(|actor| fitted(open, files, actor)).collect::<Result<Vec<_>, Failure>>()?;
        for (actor, text) in changed().zip(&fits) {
            text.write(&fits_path(&actor.file.path))?;
        }
        Ok(())
    };
    let done = written();
    if done.is_err() {
        write_changes(&added.iter().map(FileChange::reversed).collect::<Vec<FileChange>>())?;
    }
    done
}

/// An actor file with the shapes that it lacks; `None` where it lacks none.
fn with_missing(actor: &ActorPlan<'_>) -> Option<Result<FileChange, Problems>> {
    let shapes = actor.missing.shapes(actor.file);
    let path = &actor.file.path;
    let read = || match std::fs::read_to_string(path) {
        Ok(before) => {
            let after = NewShape::appended_to(&before, &shapes);
            Ok(FileChange { path: path.clone(), before, after })
        }
        Err(error) => Err(Problem::of_file(path, format!("cannot be read: {error}")).into()),
    };
    (!shapes.is_empty()).then(read)
}

/// The text of an actor's fits with its edits, measured.
fn fitted(open: &OpenProject<'_>, files: &[ActorFile], plan: &ActorPlan<'_>) -> Result<FitsText, Failure> {
    let file = files.iter().find(|file| file.path == plan.file.path).unwrap_or(plan.file);
    // Once by the file as it was, so that every frame is there, and once more to measure what was put on them.
    let mut fits = refitted(open, plan.file, plan.fits.as_ref())?.fits;
    for edit in &plan.edits {
        put(&mut fits, plan.file, edit);
    }
    Ok(refitted(open, file, Some(&fits))?.text)
}

fn put(fits: &mut FitsFile, file: &ActorFile, edit: &Edit) {
    let Some(frame) = frame_in(fits, file, edit.frame) else { return };
    let shapes = &mut fits.frames[frame].shapes;
    match shapes.iter_mut().find(|shape| shape.name == edit.shape) {
        Some(shape) => *shape = hand_made(shape, &edit.kind, &edit.geometry),
        None => shapes.push(hand_made(&ShapeFits::named(&edit.shape), &edit.kind, &edit.geometry)),
    }
}
