//! Which of some names a take may hold, told from its bytes before it is read.

use super::{STANDARD_INPUT, TakeInFile};
use memchr::memmem;
use std::fs::File;
use std::io::Read;
use std::path::Path;

/// Longer takes are not looked through: reading them takes longer than what a look would save.
const LONGEST: u64 = 16 << 20;

/// What is looked through at a time.
const BLOCK: usize = 1 << 16;

/// Those of some names that a take may hold, in their order: all that it does, and such as are part of other words in it. All of
/// them where a look at its bytes cannot tell: a take that is piped in, is longer than 16 MiB or spells letters by their numbers.
/// Memory does not grow with the take.
///
/// # Complexity
/// O(names × bytes of the file), each byte a fraction of what reading it as a row costs.
pub fn names_in_take<'n>(path: &Path, names: &[&'n str]) -> Vec<&'n str> {
    file_of(path).and_then(|file| names_in(file, names).ok().flatten()).unwrap_or_else(|| names.to_vec())
}

/// A take's file, if it is one and not too long.
fn file_of(path: &Path) -> Option<File> {
    if path == Path::new(STANDARD_INPUT) {
        return None;
    }
    let in_file = TakeInFile::of(path);
    let file = File::open(in_file.as_ref().map_or(path, |take| &take.file)).ok()?;
    // A pipe can be read only once.
    file.metadata().ok().filter(|found| found.is_file() && found.len() <= LONGEST)?;
    Some(file)
}

/// The names that bytes hold; `None` where they spell letters by their numbers, or are too many after all.
fn names_in<'n>(mut input: impl Read, names: &[&'n str]) -> std::io::Result<Option<Vec<&'n str>>> {
    const BY_NUMBER: &[u8] = b"\\u";
    // What a name that begins in one block and ends in the next may have in the first.
    let kept = names.iter().map(|name| name.len()).chain([BY_NUMBER.len()]).max().unwrap_or(1) - 1;
    let mut is_there = vec![false; names.len()];
    let (mut block, mut filled, mut all) = (vec![0; kept + BLOCK], 0, 0);
    loop {
        let read = input.read(&mut block[filled..])?;
        (filled, all) = (filled + read, all + read as u64);
        let seen = &block[..filled];
        // It may grow while it is read.
        if all > LONGEST || memmem::find(seen, BY_NUMBER).is_some() {
            return Ok(None);
        }
        for (name, is_there) in names.iter().zip(&mut is_there).filter(|(_, is_there)| !**is_there) {
            *is_there = memmem::find(seen, name.as_bytes()).is_some();
        }
        if read == 0 {
            let found = names.iter().zip(is_there).filter(|(_, is_there)| *is_there);
            return Ok(Some(found.map(|(name, _)| *name).collect()));
        }
        let rest = filled.saturating_sub(kept);
        block.copy_within(rest..filled, 0);
        filled -= rest;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_found_wherever_blocks_end() {
        let names = ["gull", "lamp_keeper"];
        for before in (BLOCK - 20)..(BLOCK + 20) {
            let text = format!("{}lamp_keeper{}", "x".repeat(before), "y".repeat(BLOCK));
            assert_eq!(names_in(text.as_bytes(), &names).unwrap(), Some(vec!["lamp_keeper"]), "{before}");
            let by_number = format!("{}\\u006c", "x".repeat(before));
            assert_eq!(names_in(by_number.as_bytes(), &names).unwrap(), None, "{before}");
        }
        assert_eq!(names_in(&b""[..], &names).unwrap(), Some(vec![]));
    }
}
