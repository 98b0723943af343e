//! What fitting is asked for, and what it gives back.

use finitor_files::{ActorFile, ArtChange, FitsFile};

/// Why a shape of the new fits is as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Status {
    /// Fitted in this run.
    Fitted,
    /// Its recipe and art are those of the last run.
    Unchanged,
    /// Locked or changed by hand.
    ByHand,
}

/// The new fits and how they came about.
pub struct Outcome {
    /// The fits to write.
    pub fits: FitsFile,
    /// By frame, in step with its shapes.
    pub statuses: Vec<Vec<Status>>,
    /// Shapes that a frame has nothing for, in words.
    pub notes: Vec<String>,
    /// What became of the art since the last run.
    pub changes: Vec<ArtChange>,
}

impl Outcome {
    /// How many shapes on frames have a status.
    pub fn count(&self, status: Status) -> usize {
        self.statuses.iter().flatten().filter(|known| **known == status).count()
    }
}

/// What fitting goes by, beside the actor.
#[derive(Clone, Copy)]
pub struct FitRequest<'a> {
    /// Fit also what has not changed.
    pub all: bool,
    /// Fit these shapes alone, and leave all others as they are; all when empty.
    pub only: &'a [String],
    /// Fit also what a hand made, of the shapes asked for.
    pub unlock: bool,
    /// Copy what a hand made of a shape that is held over several frames to all of these.
    pub everywhere: bool,
    /// Animations whose lost frames may take hand edits with them.
    pub discard_edits: &'a [String],
}

impl FitRequest<'_> {
    /// Whether a shape is among those asked for; all are where none is named.
    pub(super) fn wants(&self, actor: &ActorFile, shape: usize) -> bool {
        let spec = &actor.shapes[shape];
        let named = |name: &String| *name == spec.name || spec.siblings.as_ref() == Some(name);
        self.only.is_empty() || self.only.iter().any(named)
    }
}
