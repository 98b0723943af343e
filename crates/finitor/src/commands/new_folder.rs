//! Folders that a command fills: empty ones, or such as do not exist yet.

use finitor_app::Failure;
use finitor_files::{Problem, Problems};
use std::path::Path;

/// Refuses a folder that has anything in it, a file, and what cannot be read; `mend` is the hint for the first.
pub(crate) fn refuse_full(dir: &Path, mend: &str) -> Result<(), Failure> {
    let wrong = |problem: Problem| Err(Problems::from(problem).into());
    match std::fs::read_dir(dir).map(|mut entries| entries.next().is_some()) {
        Ok(false) => Ok(()),
        Ok(true) => wrong(Problem::of_file(dir, "the folder is not empty; nothing was written").with_hint(mend)),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => Ok(()),
        Err(error) if error.kind() == std::io::ErrorKind::NotADirectory => {
            wrong(Problem::of_file(dir, "is a file; name a folder"))
        }
        Err(error) => wrong(Problem::of_file(dir, format!("cannot be read: {error}"))),
    }
}
