//! One value of a TOML file: where it is, and another in its place.

use crate::text_edit::{TextEdit, edited, entry_after, key as quoted_key, lines_after, newline};
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// A table of a file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum TablePath {
    /// `[a.b]`.
    Named(Vec<String>),
    /// The `[[list]]` whose `name` is this.
    Listed {
        /// The list.
        list: String,
        /// The name.
        name: String,
    },
    /// One of a `[[list]]`, by its place.
    At {
        /// The list.
        list: String,
        /// The place.
        index: usize,
    },
}

impl TablePath {
    /// `[a.b]`.
    pub fn named(names: &[&str]) -> TablePath {
        TablePath::Named(names.iter().map(|name| (*name).to_string()).collect())
    }
}

/// Where a value is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ValuePlace {
    /// The line of the key, from 1; that of the table's title where it does not have the key.
    pub line: usize,
    /// The value as it is written, where there is one.
    pub old: Option<String>,
}

/// Where a value is; `None` where the table is not there, or the text is no TOML.
pub fn value_place(text: &str, table: &TablePath, key: &str) -> Option<ValuePlace> {
    let parsed = DeTable::parse(text).ok()?;
    let found = find(text, parsed.get_ref(), table)?;
    let line = |at: usize| text[..at].matches('\n').count() + 1;
    Some(match found.entry(key) {
        Some(entry) => ValuePlace { line: line(entry.key.start), old: Some(text[entry.value.clone()].to_string()) },
        None => ValuePlace { line: line(found.title), old: None },
    })
}

/// The text with another value, and no byte beside it changed: in place of the old one; as a line after the table's last where there
/// was none; under a new title at the end where a named table is not there. `None` where nothing can be put.
pub fn with_value(text: &str, table: &TablePath, key: &str, value: &str) -> Option<String> {
    let parsed = DeTable::parse(text).ok()?;
    let entry = format!("{key} = {value}");
    let Some(found) = find(text, parsed.get_ref(), table) else {
        let TablePath::Named(names) = table else { return None };
        let title: Vec<String> = names.iter().map(|name| quoted_key(name)).collect();
        let end = newline(text);
        let gap = if text.ends_with('\n') || text.is_empty() { "" } else { end };
        return Some(format!("{text}{gap}{end}[{}]{end}{entry}{end}", title.join(".")));
    };
    let edit = match (found.entry(key), found.last_entry()) {
        (Some(entry), _) => TextEdit { span: entry.value.clone(), text: value.to_string() },
        (None, Some(last)) => entry_after(text, &last.key, &last.value, &entry),
        (None, None) => lines_after(text, found.title, &[&entry]),
    };
    let done = edited(text, vec![edit]);
    // What does not read back is not written.
    let again = DeTable::parse(&done).ok()?;
    let place = find(&done, again.get_ref(), table)?;
    (done[place.entry(key)?.value.clone()] == *value).then_some(done)
}

/// A table that was found.
struct Found {
    /// Where its title, or its first entry, is.
    title: usize,
    entries: Vec<Entry>,
}

struct Entry {
    name: String,
    key: Range<usize>,
    value: Range<usize>,
    is_table: bool,
}

impl Found {
    fn new(text: &str, table: &DeTable<'_>, title: Range<usize>) -> Found {
        let entry = |(name, value): (&Spanned<_>, &Spanned<DeValue<'_>>)| {
            let name: &Spanned<std::borrow::Cow<'_, str>> = name;
            let is_table = matches!(value.get_ref(), DeValue::Table(_)) && !text[value.span()].starts_with('{');
            Entry { name: name.get_ref().to_string(), key: name.span(), value: value.span(), is_table }
        };
        let mut entries: Vec<Entry> = table.iter().map(entry).collect();
        entries.sort_by_key(|entry| entry.key.start);
        Found { title: title.start.min(text.len()), entries }
    }

    fn entry(&self, key: &str) -> Option<&Entry> {
        self.entries.iter().find(|entry| entry.name == key)
    }

    /// The last that is no table under a title of its own.
    fn last_entry(&self) -> Option<&Entry> {
        self.entries.iter().rev().find(|entry| !entry.is_table)
    }
}

fn find(text: &str, top: &DeTable<'_>, path: &TablePath) -> Option<Found> {
    match path {
        TablePath::Named(names) => {
            let (mut table, mut title) = (top, 0..0);
            for name in names {
                let value = table.get(name.as_str())?;
                let DeValue::Table(inner) = value.get_ref() else { return None };
                (table, title) = (inner, value.span());
            }
            Some(Found::new(text, table, title))
        }
        TablePath::Listed { list, name } => {
            let is_it = |table: &DeTable<'_>| matches!(table.get("name").map(Spanned::get_ref), Some(DeValue::String(own)) if *own == *name);
            let (table, title) = listed(top, list).find(|(table, _)| is_it(table))?;
            Some(Found::new(text, table, title))
        }
        TablePath::At { list, index } => {
            let (table, title) = listed(top, list).nth(*index)?;
            Some(Found::new(text, table, title))
        }
    }
}

/// The tables of a list with the places of their titles.
fn listed<'t>(top: &'t DeTable<'t>, list: &str) -> impl Iterator<Item = (&'t DeTable<'t>, Range<usize>)> {
    let items = match top.get(list).map(Spanned::get_ref) {
        Some(DeValue::Array(items)) => Some(items),
        _ => None,
    };
    items.into_iter().flatten().filter_map(|item| match item.get_ref() {
        DeValue::Table(table) => Some((table, item.span())),
        _ => None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    const TEXT: &str = "# file\n[actor]\nname = \"keeper\" # who\n\n[shape.body] # b\nrole = \"body\"  # r\n\n[shape.empty]\n\n[[zone]]\nname = \"tide\"\nbox = [0, 1, 2, 3] # px\n[[zone]]\nname = 'reef'\n[[spawn]]\nat = [1, 2]\n";

    #[test]
    fn values_are_found_by_line_and_changed_alone() {
        let named = TablePath::named;
        let zone = |name: &str| TablePath::Listed { list: "zone".into(), name: name.into() };
        let place = |table: &TablePath, key: &str| value_place(TEXT, table, key).map(|of| (of.line, of.old));
        assert_eq!(place(&named(&["actor"]), "name"), Some((3, Some("\"keeper\"".into()))));
        assert_eq!(place(&named(&["shape", "body"]), "symmetric"), Some((5, None)));
        assert_eq!(place(&zone("tide"), "box"), Some((12, Some("[0, 1, 2, 3]".into()))));
        assert_eq!(place(&zone("reef"), "box"), Some((13, None)));
        assert_eq!(place(&zone("none"), "box"), None);
        let spawn = TablePath::At { list: "spawn".into(), index: 0 };
        for (table, key, value, from, to) in [
            (&zone("tide"), "box", "[9]", "[0, 1, 2, 3]", "[9]"),
            (&zone("reef"), "box", "[9]", "'reef'\n", "'reef'\nbox = [9]\n"),
            (&spawn, "at", "[3, 4]", "[1, 2]", "[3, 4]"),
            (&named(&["shape", "body"]), "symmetric", "true", "# r\n", "# r\nsymmetric = true\n"),
            (&named(&["shape", "empty"]), "x", "1", "[shape.empty]\n", "[shape.empty]\nx = 1\n"),
            (&named(&["moves"]), "step", "3", "at = [1, 2]\n", "at = [1, 2]\n\n[moves]\nstep = 3\n"),
        ] {
            assert_eq!(TEXT.matches(from).count(), 1, "{from}");
            assert_eq!(with_value(TEXT, table, key, value), Some(TEXT.replace(from, to)), "{table:?}");
            let windows = TEXT.replace('\n', "\r\n");
            let expected = TEXT.replace(from, to).replace('\n', "\r\n");
            assert_eq!(with_value(&windows, table, key, value), Some(expected), "{table:?}");
        }
        assert_eq!(with_value(TEXT, &zone("none"), "box", "[9]"), None);
        assert_eq!(with_value("[broken", &zone("none"), "box", "[9]"), None);
        assert_eq!(
            with_value("shape.a = { role = 'x' }", &named(&["shape", "a"]), "n", "1"),
            Some("shape.a = { role = 'x', n = 1 }".into())
        );
    }
}
