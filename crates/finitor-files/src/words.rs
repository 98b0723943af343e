//! Small words of messages.

/// What is wrong with a text that should be JSON; where it is stands elsewhere.
pub(crate) fn json_words(error: &serde_json::Error) -> String {
    if error.is_eof() {
        return "the file ends here, in the middle of a value".to_string();
    }
    let words = error.to_string();
    let words = words.rsplit_once(" at line ").map_or(words.as_str(), |(words, _)| words);
    // Which keys there are is in docs/files.md.
    words.split_once(", expected one of").map_or(words, |(words, _)| words).replace('`', "\"")
}

/// `1 frame`, `2 frames`.
pub fn counted(count: usize, thing: &str) -> String {
    format!("{count} {thing}{}", if count == 1 { "" } else { "s" })
}

/// The first few of some items, and how many more there are: `2, 5, 7 and 3 more`.
pub fn first_few(items: &[String], most: usize, separator: &str) -> String {
    let listed = items[..items.len().min(most)].join(separator);
    match items.len().saturating_sub(most) {
        0 => listed,
        more => format!("{listed} and {more} more"),
    }
}
