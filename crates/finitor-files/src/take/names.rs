//! Which of some names a take may hold, told from its bytes before it is read.

use super::{STANDARD_INPUT, TakeInFile};
use memchr::memmem;
use std::fs::File;
use std::io::Read;
use std::path::Path;

/// Longer takes are not looked through: reading them takes longer than what a look would save.
const LONGEST: u64 = 16 << 20;

/// Those of some names that a take may hold, in their order: all that it does, and such as are part of other words in it. All of
/// them where a look at its bytes cannot tell: a take that is piped in, is longer than 16 MiB or spells letters by their numbers.
///
/// # Complexity
/// O(names × bytes of the file), each byte a fraction of what reading it as a row costs.
pub fn names_in_take<'n>(path: &Path, names: &[&'n str]) -> Vec<&'n str> {
    let Some(bytes) = bytes_of(path).filter(|bytes| memmem::find(bytes, b"\\u").is_none()) else {
        return names.to_vec();
    };
    let is_there = |name: &&&str| memmem::find(&bytes, name.as_bytes()).is_some();
    names.iter().filter(is_there).copied().collect()
}

/// The bytes of a take's file, if it is one and not too long.
fn bytes_of(path: &Path) -> Option<Vec<u8>> {
    if path == Path::new(STANDARD_INPUT) {
        return None;
    }
    let in_file = TakeInFile::of(path);
    let file = File::open(in_file.as_ref().map_or(path, |take| &take.file)).ok()?;
    // A pipe can be read only once.
    file.metadata().ok().filter(|found| found.is_file() && found.len() <= LONGEST)?;
    let mut bytes = Vec::new();
    // It may grow while it is read.
    let read = file.take(LONGEST + 1).read_to_end(&mut bytes).ok()?;
    (read as u64 <= LONGEST).then_some(bytes)
}
