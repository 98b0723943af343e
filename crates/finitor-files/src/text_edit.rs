//! Changing bytes of a TOML text and none beside them.

use std::ops::Range;

/// Bytes to take out, and what to put there.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct TextEdit {
    pub(crate) span: Range<usize>,
    pub(crate) text: String,
}

impl TextEdit {
    fn insert(at: usize, text: String) -> TextEdit {
        TextEdit { span: at..at, text }
    }
}

/// The text with all edits made; they may not overlap.
pub(crate) fn edited(text: &str, mut edits: Vec<TextEdit>) -> String {
    edits.sort_by_key(|edit| (edit.span.start, edit.span.end));
    let mut done = String::with_capacity(text.len() + 64);
    let mut at = 0;
    for edit in edits {
        done.push_str(&text[at..edit.span.start]);
        done.push_str(&edit.text);
        at = edit.span.end;
    }
    done.push_str(&text[at..]);
    done
}

/// A name as a key: bare where it can be.
pub(crate) fn key(name: &str) -> String {
    let bare = name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_' || c == '-');
    if bare { name.to_string() } else { format!("\"{name}\"") }
}

/// A name in place of another, quoted as that was.
pub(crate) fn renamed(text: &str, span: &Range<usize>, new: &str) -> TextEdit {
    let old = &text[span.clone()];
    let quote = old.chars().next().filter(|c| *c == '"' || *c == '\'');
    let text = match quote {
        Some(quote) => format!("{quote}{new}{quote}"),
        None => key(new),
    };
    TextEdit { span: span.clone(), text }
}

/// The line end that the text uses.
pub(crate) fn newline(text: &str) -> &'static str {
    if text.contains("\r\n") { "\r\n" } else { "\n" }
}

/// Where the line of a place ends, before its line end.
pub(crate) fn line_end(text: &str, at: usize) -> usize {
    let end = text[at..].find('\n').map_or(text.len(), |offset| at + offset);
    if text[..end].ends_with('\r') { end - 1 } else { end }
}

/// Where the line of a place starts.
pub(crate) fn line_start(text: &str, at: usize) -> usize {
    text[..at].rfind('\n').map_or(0, |found| found + 1)
}

/// A list in the text: its brackets, and its items in order.
pub(crate) struct ListText<'t> {
    pub(crate) text: &'t str,
    pub(crate) span: Range<usize>,
    pub(crate) items: Vec<Range<usize>>,
}

impl ListText<'_> {
    /// Whether items stand on lines of their own, and the closing bracket on another.
    fn is_tall(&self, last: &Range<usize>) -> bool {
        self.text[last.end..self.span.end].contains('\n')
    }

    /// Where the comma after an item is.
    fn comma_after(&self, item: &Range<usize>) -> Option<usize> {
        let rest = &self.text[item.end..self.span.end];
        let offset = rest.find(|c: char| !c.is_whitespace())?;
        rest[offset..].starts_with(',').then_some(item.end + offset)
    }

    /// Adds names at the end.
    pub(crate) fn push(&self, names: &[String]) -> Vec<TextEdit> {
        let quoted: Vec<String> = names.iter().map(|name| format!("\"{name}\"")).collect();
        if quoted.is_empty() {
            return Vec::new();
        }
        let Some(last) = self.items.last() else {
            return vec![TextEdit::insert(self.span.start + 1, quoted.join(", "))];
        };
        if !self.is_tall(last) {
            return vec![TextEdit::insert(last.end, format!(", {}", quoted.join(", ")))];
        }
        let start = line_start(self.text, last.start);
        let indent: String = self.text[start..].chars().take_while(|c| *c == ' ' || *c == '\t').collect();
        let line = |(index, name): (usize, &String)| {
            let comma = if index + 1 < quoted.len() || self.comma_after(last).is_some() { "," } else { "" };
            format!("{}{indent}{name}{comma}", newline(self.text))
        };
        let lines: String = quoted.iter().enumerate().map(line).collect();
        let mut edits = vec![TextEdit::insert(line_end(self.text, last.end), lines)];
        if self.comma_after(last).is_none() {
            edits.push(TextEdit::insert(last.end, ",".into()));
        }
        edits
    }

    /// Takes items out, with the comments on their lines.
    pub(crate) fn without(&self, gone: &[usize]) -> Vec<TextEdit> {
        let kept: Vec<usize> = (0..self.items.len()).filter(|index| !gone.contains(index)).collect();
        let cut = |span: Range<usize>| TextEdit { span, text: String::new() };
        let Some(&last_kept) = kept.last() else {
            let (Some(first), Some(last)) = (self.items.first(), self.items.last()) else { return Vec::new() };
            let end = self.comma_after(last).map_or(last.end, |comma| comma + 1);
            return vec![cut(first.start..end)];
        };
        let mut edits = Vec::new();
        for &index in gone.iter().filter(|index| **index < last_kept) {
            edits.push(cut(self.items[index].start..self.items[index + 1].start));
        }
        // What follows the last that stays, up to the end of the last item; its own comment stays.
        if last_kept + 1 < self.items.len() {
            let (stays, last) = (&self.items[last_kept], &self.items[self.items.len() - 1]);
            let from = line_end(self.text, stays.end);
            let comma = self.comma_after(last).map(|comma| comma + 1);
            if from < self.items[last_kept + 1].start {
                let until = line_end(self.text, comma.unwrap_or(last.end));
                let closes = self.text[last.end..until].contains(']');
                edits.push(cut(from..if closes { comma.unwrap_or(last.end) } else { until }));
                if let (None, Some(own)) = (comma, self.comma_after(stays)) {
                    edits.push(cut(own..own + 1));
                }
            } else {
                edits.push(cut(stays.end..last.end));
            }
        }
        edits
    }
}

/// A line `key = value` after the last entry of a table, written as that is.
pub(crate) fn entry_after(text: &str, key: &Range<usize>, value: &Range<usize>, entry: &str) -> TextEdit {
    let start = line_start(text, key.start);
    let before = &text[start..key.start];
    if before.contains('{') {
        return TextEdit::insert(value.end, format!(", {entry}"));
    }
    // The indent, or the first part of a dotted key.
    TextEdit::insert(line_end(text, value.end), format!("{}{before}{entry}", newline(text)))
}

/// Lines after the line of a place.
pub(crate) fn lines_after(text: &str, at: usize, lines: &[&str]) -> TextEdit {
    let all: String = lines.iter().map(|line| format!("{}{line}", newline(text))).collect();
    TextEdit::insert(line_end(text, at), all)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn list(text: &str) -> ListText<'_> {
        let span = text.find('[').unwrap_or(0)..text.rfind(']').map_or(0, |at| at + 1);
        let quotes: Vec<usize> = text.match_indices('"').map(|(at, _)| at).collect();
        let items = quotes.chunks_exact(2).map(|pair| pair[0]..pair[1] + 1).collect();
        ListText { text, span, items }
    }

    fn pushed(text: &str) -> String {
        edited(text, list(text).push(&["new".into()]))
    }

    fn without(text: &str, gone: &[usize]) -> String {
        edited(text, list(text).without(gone))
    }

    #[test]
    fn lists_grow_and_shrink_in_their_own_layout() {
        assert_eq!(pushed("m = []"), "m = [\"new\"]");
        assert_eq!(pushed("m = [ \"a\" ] # c"), "m = [ \"a\", \"new\" ] # c");
        assert_eq!(pushed("m = [\n  \"a\", # A\n  \"b\" # B\n]"), "m = [\n  \"a\", # A\n  \"b\", # B\n  \"new\"\n]");
        assert_eq!(pushed("m = [\r\n\t\"a\",\r\n]"), "m = [\r\n\t\"a\",\r\n\t\"new\",\r\n]");
        assert_eq!(without("m = [\"a\", \"b\",  \"c\"]", &[1]), "m = [\"a\", \"c\"]");
        assert_eq!(without("m = [\"a\", \"b\",  \"c\"]", &[0]), "m = [\"b\",  \"c\"]");
        assert_eq!(without("m = [\"a\", \"b\"]", &[1]), "m = [\"a\"]");
        assert_eq!(without("m = [\"a\", \"b\", ]", &[1]), "m = [\"a\", ]");
        assert_eq!(without("m = [\"a\", \"b\"]", &[0, 1]), "m = []");
        let tall = "m = [\n  \"a\", # A\n  \"b\", # B\n  \"c\" # C\n]";
        assert_eq!(without(tall, &[2]), "m = [\n  \"a\", # A\n  \"b\" # B\n]");
        assert_eq!(without(tall, &[0]), "m = [\n  \"b\", # B\n  \"c\" # C\n]");
        assert_eq!(without(tall, &[1]), "m = [\n  \"a\", # A\n  \"c\" # C\n]");
        assert_eq!(without("m = [\n  \"a\",\n  \"b\",\n]", &[1]), "m = [\n  \"a\",\n]");
    }

    #[test]
    fn names_keep_their_quotes_and_entries_their_indent() {
        let text = "'a' = 1\nb = 2";
        assert_eq!(edited(text, vec![renamed(text, &(0..3), "x"), renamed(text, &(8..9), "ü")]), "'x' = 1\n\"ü\" = 2");
        let dotted = "[layers]\n  mask.hero = [\"a\"] # c\r\nlast = 1";
        let edit = entry_after(dotted, &(16..20), &(23..28), "foe = []");
        assert_eq!(edited(dotted, vec![edit]), "[layers]\n  mask.hero = [\"a\"] # c\r\n  mask.foe = []\r\nlast = 1");
    }
}
