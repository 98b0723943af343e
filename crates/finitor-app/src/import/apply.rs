//! Writing what was imported: missing shapes into actor files, geometry into the fits, and a fit to measure it.

use super::matching::{ActorPlan, Edit, Plan};
use crate::failure::Failure;
use crate::fitting::refitted;
use crate::project::OpenProject;
use finitor_files::{
    ActorFile, FitsFile, FrameFits, NewShape, Problem, Problems, ShapeFits, fits_path, hand_made, write_atomically,
    write_fits,
};
use std::path::{Path, PathBuf};

/// A file as it was, put back where what follows fails.
struct Before {
    path: PathBuf,
    bytes: Vec<u8>,
}

pub(super) fn apply(open: &OpenProject<'_>, plan: &Plan<'_>) -> Result<(), Failure> {
    let mut before: Vec<Before> = Vec::new();
    let changed = || plan.actors.iter().filter(|actor| !actor.edits.is_empty());
    let done = add_missing(changed(), &mut before).and_then(|()| {
        let again;
        // Actor files that changed are read again.
        let files = if before.is_empty() {
            open.actor_files()?
        } else {
            again = open.load_actors(&changed().map(|actor| actor.file.path.as_path()).collect::<Vec<&Path>>())?;
            &again[..]
        };
        let fits = changed().map(|actor| fitted(open, files, actor)).collect::<Result<Vec<_>, Failure>>()?;
        for (actor, fits) in changed().zip(&fits) {
            write_fits(&fits_path(&actor.file.path), fits)?;
        }
        Ok(())
    });
    if done.is_err() {
        for Before { path, bytes } in before {
            write_atomically(&path, &bytes)?;
        }
    }
    done
}

/// Adds shapes that actor files lack.
fn add_missing<'p>(actors: impl Iterator<Item = &'p ActorPlan<'p>>, before: &mut Vec<Before>) -> Result<(), Failure> {
    for actor in actors {
        let shapes = actor.missing.shapes(actor.file);
        if shapes.is_empty() {
            continue;
        }
        let path = &actor.file.path;
        let wrong = |error: std::io::Error| Problems::from(Problem::of_file(path, format!("cannot be read: {error}")));
        let text = std::fs::read_to_string(path).map_err(wrong)?;
        write_atomically(path, NewShape::appended_to(&text, &shapes).as_bytes())?;
        before.push(Before { path: path.clone(), bytes: text.into_bytes() });
    }
    Ok(())
}

/// The fits of an actor with its edits, measured.
fn fitted(open: &OpenProject<'_>, files: &[ActorFile], plan: &ActorPlan<'_>) -> Result<FitsFile, Failure> {
    let file = files.iter().find(|file| file.path == plan.file.path).unwrap_or(plan.file);
    // Once by the file as it was, so that every frame is there, and once more to measure what was put on them.
    let mut fits = refitted(open, plan.file, plan.fits.as_ref())?;
    for edit in &plan.edits {
        put(&mut fits, plan.file, edit);
    }
    refitted(open, file, Some(&fits))
}

fn put(fits: &mut FitsFile, file: &ActorFile, edit: &Edit) {
    let of = &file.frames[edit.frame];
    let animation = &file.animations[of.animation].name;
    let frame = fits.frames.iter_mut().find(|frame| frame.animation == *animation && frame.frame == of.number);
    let Some(FrameFits { shapes, .. }) = frame else { return };
    match shapes.iter_mut().find(|shape| shape.name == edit.shape) {
        Some(shape) => *shape = hand_made(shape, &edit.kind, &edit.geometry),
        None => shapes.push(hand_made(&ShapeFits::named(&edit.shape), &edit.kind, &edit.geometry)),
    }
}
