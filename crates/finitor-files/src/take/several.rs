//! One take of a file that holds several: its path, `FILE:TAKE`, and its name.

use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};

/// Whether there is such a take: a file, or `FILE:TAKE` with that file.
pub fn holds_take(path: &Path) -> bool {
    path.exists() || of_several(path).is_some()
}

/// The file and the take of a path `FILE:TAKE`, where no file has that name.
pub(super) fn of_several(path: &Path) -> Option<(PathBuf, String)> {
    let (file, take) = path.to_str().filter(|_| !path.exists())?.rsplit_once(':')?;
    Path::new(file).is_file().then(|| (PathBuf::from(file), take.to_string()))
}

/// What is kept of the name of a take that has ended.
pub(super) fn name_hash(name: &str) -> u64 {
    let mut hasher = DefaultHasher::new();
    name.hash(&mut hasher);
    hasher.finish()
}
