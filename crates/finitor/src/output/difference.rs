//! Lines of a file that went and came.

use finitor_app::Failure;
use finitor_files::FileChange;
use similar::{ChangeTag, TextDiff};
use std::io::Write;

/// Writes them with their numbers in the old text and the new one.
pub(crate) fn write_difference(change: &FileChange, name: &str, out: &mut dyn Write) -> Result<(), Failure> {
    let diff = TextDiff::from_lines(&change.before, &change.after);
    for change in diff.iter_all_changes() {
        let (at, sign) = match change.tag() {
            ChangeTag::Delete => (change.old_index(), '-'),
            ChangeTag::Insert => (change.new_index(), '+'),
            ChangeTag::Equal => continue,
        };
        let words = change.value().trim_end_matches(['\r', '\n']);
        writeln!(out, "{name}:{}: {sign} {words}", at.unwrap_or(0) + 1)?;
    }
    Ok(())
}
