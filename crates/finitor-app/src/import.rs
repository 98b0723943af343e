//! Shapes that somebody tuned elsewhere, brought into the fits as hand edits.

mod apply;
mod matching;
mod missing;

use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_files::NewShape;
use finitor_files::pack::{ShapeRows, Space};
use matching::Plan;

/// What became of the rows of a file.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Imported {
    /// Shapes that changed, by actor and name.
    pub changed: Vec<ImportedShape>,
    /// Shapes on frames that are as they were.
    pub unchanged: usize,
    /// Shapes that actor files lacked.
    pub added: Vec<AddedShape>,
    /// Rows that go with nothing.
    pub unmatched: Vec<Unmatched>,
    /// Rows of a facing that is the mirror image of one that other rows have.
    pub mirrored: usize,
    /// Shapes that lie wholly outside their frame's picture.
    pub outside: usize,
}

/// A shape that changed.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ImportedShape {
    /// `keeper.body`.
    pub name: String,
    /// On how many frames.
    pub frames: usize,
}

/// A shape that was added to an actor file.
#[derive(Clone, Debug, PartialEq)]
pub struct AddedShape {
    /// The file, as the user would type it.
    pub file: String,
    /// The shape.
    pub shape: NewShape,
}

/// A row that goes with nothing.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Unmatched {
    /// Where it stands.
    pub place: String,
    /// Why, and what would help.
    pub reason: String,
}

/// Whether files are written.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Writing {
    /// Shapes go into the fits, locked, and missing ones into the actor files; then all of it is measured.
    Files,
    /// Nothing is written.
    Nothing,
}

/// Brings rows into the project; `space` is how they count where their file does not say it.
///
/// # Errors
/// Files of the project that are wrong; nothing is then written.
///
/// # Complexity
/// O(rows), and a fit of the actors that change.
pub fn import(open: &OpenProject<'_>, rows: &ShapeRows, space: &Space, writing: Writing) -> Result<Imported, Failure> {
    let plan = Plan::new(open, rows, rows.space.as_ref().unwrap_or(space))?;
    if writing == Writing::Files {
        apply::apply(open, &plan)?;
    }
    Ok(plan.result())
}
