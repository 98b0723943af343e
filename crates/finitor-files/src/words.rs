//! Small words of messages.

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
