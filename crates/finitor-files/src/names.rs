//! What can name an actor, a stage, or a thing of either.

use crate::toml_table::{At, Table};

/// What to write instead of a word that cannot be a name.
pub const NAME_HINT: &str = "use letters, digits, _ and -: no spaces, and none of / . : ,";

/// Names are parts of addresses such as `keeper.body` and `pier/quay`, and of take rows.
pub(crate) fn check_name(table: &Table<'_>, name: &At<String>, what: &str) {
    if !can_name(&name.value) {
        let message = format!("\"{}\" cannot name {what}", name.value);
        table.wrong(name.span.clone(), message, Some(NAME_HINT.to_string()));
    }
}

/// Whether a word can name an actor, a stage or a thing on it.
pub fn can_name(name: &str) -> bool {
    let bad = |c: char| c.is_whitespace() || c.is_control() || "/.:,\"".contains(c);
    !(name.is_empty() || name.contains(bad))
}
