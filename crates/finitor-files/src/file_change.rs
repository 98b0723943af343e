//! Files that change together: all of them, or none.

use crate::problem::Problems;
use crate::write::write_atomically;
use std::path::PathBuf;

/// A file and what it is to hold.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FileChange {
    /// The file.
    pub path: PathBuf,
    /// What it holds.
    pub before: String,
    /// What it is to hold.
    pub after: String,
}

impl FileChange {
    /// The way back.
    #[must_use]
    pub fn reversed(&self) -> FileChange {
        FileChange { path: self.path.clone(), before: self.after.clone(), after: self.before.clone() }
    }
}

/// Writes all changes, or none: files written before one that cannot be are put back.
///
/// # Errors
/// The file that cannot be written, and any that could not be put back.
pub fn write_changes(changes: &[FileChange]) -> Result<(), Problems> {
    for (done, change) in changes.iter().enumerate() {
        if let Err(mut problems) = write_atomically(&change.path, change.after.as_bytes()) {
            for earlier in &changes[..done] {
                let back = write_atomically(&earlier.path, earlier.before.as_bytes());
                problems.0.extend(back.err().into_iter().flat_map(|again| again.0));
            }
            return Err(problems);
        }
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::path::Path;

    #[test]
    fn files_written_before_one_that_cannot_be_are_put_back() -> std::io::Result<()> {
        let folder = tempfile::tempdir()?;
        let (good, blocked) = (folder.path().join("a.toml"), folder.path().join("b.toml/inside"));
        std::fs::write(&good, "old")?;
        std::fs::write(folder.path().join("b.toml"), "a file where a folder is wanted")?;
        let change = |path: &Path| FileChange { path: path.to_path_buf(), before: "old".into(), after: "new".into() };
        assert!(write_changes(&[change(&good), change(&blocked)]).is_err());
        assert_eq!(std::fs::read_to_string(&good)?, "old");
        write_changes(&[change(&good)]).map_err(|problems| std::io::Error::other(format!("{problems:?}")))?;
        assert_eq!(std::fs::read_to_string(&good)?, "new");
        Ok(())
    }
}
