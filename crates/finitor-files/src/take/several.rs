//! One take of a file that holds several: its path, `FILE:TAKE`, and its name.

use std::hash::{DefaultHasher, Hash, Hasher};
use std::path::{Path, PathBuf};

/// Whether there is such a take: a file, or `FILE:TAKE` with that file.
pub fn holds_take(path: &Path) -> bool {
    path.exists() || TakeInFile::of(path).is_some()
}

/// One take of a file that holds several.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct TakeInFile {
    /// The file.
    pub file: PathBuf,
    /// The take, as the column `take` has it.
    pub take: String,
}

impl TakeInFile {
    /// What a path `FILE:TAKE` names, where no file has that name.
    pub fn of(path: &Path) -> Option<TakeInFile> {
        let (file, take) = path.to_str().filter(|_| !path.exists())?.rsplit_once(':')?;
        Path::new(file).is_file().then(|| TakeInFile { file: PathBuf::from(file), take: take.to_string() })
    }
}

/// What is kept of the name of a take that has ended.
pub(super) fn name_hash(name: &str) -> u64 {
    let mut hasher = DefaultHasher::new();
    name.hash(&mut hasher);
    hasher.finish()
}
