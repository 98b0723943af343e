//! What a file is by its first bytes.

use super::COLUMNS;
use crate::problem::Problem;
use std::path::Path;

/// What is no take by its first bytes.
pub(super) fn unreadable(path: &Path, begins: &[u8]) -> Option<Problem> {
    let (message, hint) = match begins {
        [] => ("the take is empty", format!("the first line names the columns, such as {}", COLUMNS[..7].join(","))),
        [0xff, 0xfe, ..] | [0xfe, 0xff, ..] | [0, ..] | [_, 0, ..] => {
            ("is UTF-16 text or no text at all", "save the take as UTF-8".to_string())
        }
        [b'[', ..] => {
            let hint = "write one object a line, without the brackets and the commas between them".to_string();
            ("is one JSON list; a take is lines of JSON", hint)
        }
        _ => return None,
    };
    Some(Problem::of_file(path, message).with_hint(hint))
}
