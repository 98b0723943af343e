//! Writing files whole or not at all.

use crate::problem::{Problem, Problems};
use std::io::Write;
use std::path::Path;

/// Writes the bytes beside the target and renames them over it, so that no reader ever sees half a file. Folders are
/// made as needed; a file that already holds these bytes is left alone, and pipes and devices are written to as they are.
///
/// # Errors
/// A [`Problem`] with the path and the system's reason; the old file is then still there.
pub fn write_atomically(path: &Path, bytes: &[u8]) -> Result<(), Problems> {
    let cannot = |error: std::io::Error| Problems::from(Problem::of_file(path, format!("cannot be written: {error}")));
    // A pipe or a device is written to as it is: nothing lies beside it, and reading it may never end.
    if std::fs::metadata(path).is_ok_and(|there| !there.is_file() && !there.is_dir()) {
        let open = std::fs::OpenOptions::new().write(true).open(path);
        return open.and_then(|mut file| file.write_all(bytes)).map_err(cannot);
    }
    if std::fs::read(path).is_ok_and(|old| old == bytes) {
        return Ok(());
    }
    // Renaming over a link would replace the link; write to what it points to.
    let target = path.canonicalize().unwrap_or_else(|_| path.to_path_buf());
    let folder = target.parent().unwrap_or(Path::new("."));
    let done = std::fs::create_dir_all(folder).and_then(|()| {
        let mut builder = tempfile::Builder::new();
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            // The usual mode of a new file; the process's umask takes its share. Temporary files default to 0600.
            builder.permissions(std::fs::Permissions::from_mode(0o666));
        }
        let mut file = builder.prefix(".finitor-").tempfile_in(folder)?;
        file.write_all(bytes)?;
        file.persist(&target).map_err(|error| error.error)?;
        Ok(())
    });
    done.map_err(cannot)
}
