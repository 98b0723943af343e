//! Fitting what changed and writing it, as `fit` without options does.

use super::{FitRequest, fit_actor};
use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_files::{ActorFile, FitsFile, FitsText, fits_path, read_fits, settle};

/// Fits as they are and as they are written.
pub(crate) struct Refitted {
    pub(crate) fits: FitsFile,
    pub(crate) text: FitsText,
}

/// Fits an actor by its file, starting from given fits.
///
/// # Errors
/// As [`fit_actor`].
pub(crate) fn refitted(open: &OpenProject<'_>, file: &ActorFile, fits: Option<&FitsFile>) -> Result<Refitted, Failure> {
    let request = FitRequest { all: false, only: &[], unlock: false, everywhere: false, discard_edits: &[] };
    let progress = open.sink().task("fitting");
    let project = &open.project;
    open.pool.install(|| {
        let mut fits = fit_actor(file, fits, request, progress.as_ref())?.fits;
        let text = settle(&mut fits, file, project)?;
        Ok(Refitted { fits, text })
    })
}

/// Fits all actors that have fits and writes these.
///
/// # Errors
/// As [`fit_actor`]; nothing is written where one of them cannot be fitted.
pub(crate) fn refit(open: &OpenProject<'_>) -> Result<(), Failure> {
    let mut all = Vec::new();
    for file in open.actor_files()? {
        let path = fits_path(&file.path);
        if let Some(old) = read_fits(&path)? {
            all.push((path, refitted(open, file, Some(&old))?.text));
        }
    }
    for (path, text) in &all {
        text.write(path)?;
    }
    Ok(())
}
