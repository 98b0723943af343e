//! Options by an earlier name.

use clap::error::{ContextKind, ContextValue, ErrorKind};
use finitor_app::Failure;

const RENAMED: [(&str, &str); 4] = [
    ("--accept", "--baseline"),
    ("--write-accepted", "--write-baseline"),
    ("--forget", "--discard-edits"),
    ("--by-gaps", "--gaps"),
];

/// What is said of an option that has another name now.
pub(crate) fn option_of(error: &clap::Error) -> Option<Failure> {
    if error.kind() != ErrorKind::UnknownArgument {
        return None;
    }
    let Some(ContextValue::String(given)) = error.get(ContextKind::InvalidArg) else { return None };
    let (old, new) = RENAMED.iter().find(|(old, _)| old == given)?;
    Some(Failure::Usage(format!("`{old}` is now called `{new}`")))
}
