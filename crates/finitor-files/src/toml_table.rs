//! Reading TOML with places: every getter notes the key it asks for and what is wrong with its value, and at the end
//! the keys nobody asked for are mistakes too.

mod document;
mod lists;

pub(crate) use document::Document;
pub(crate) use lists::WordOrPoints;

use crate::problem::{Place, Problem};
pub(crate) use crate::toml_values::nearest;
use crate::toml_values::{Value, found_of, integer, number, numbers};
use std::cell::RefCell;
use std::ops::Range;
use toml::Spanned;
use toml::de::{DeArray, DeTable, DeValue};

/// A value with its place.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct At<T> {
    pub(crate) value: T,
    pub(crate) span: Range<usize>,
}

/// A key of the user's own and its value.
pub(crate) type Named<T> = (At<String>, At<T>);

/// A table under reading.
pub(crate) struct Table<'t> {
    doc: &'t Document,
    entries: &'t DeTable<'t>,
    /// The place to name for what is missing.
    pub(crate) span: Range<usize>,
    /// `[shape.body]`, or `the file` for the top.
    title: String,
    asked: RefCell<Vec<&'static str>>,
}

/// Keys by an earlier name, and what they are called now.
const RENAMED: [(&str, &str); 13] = [
    ("keep", "fit"),
    ("hold", "share"),
    ("slim", "min_thickness"),
    ("bridge", "close_gaps"),
    ("islands", "min_island"),
    ("holes", "min_hole"),
    ("height_for", "height_from"),
    ("turns_speed", "turns_velocity"),
    ("join", "merge_gap"),
    ("family", "alias"),
    ("families", "alias"),
    ("marker", "spot"),
    ("fit", "shape"),
];

/// A word and what it stands for.
pub(crate) type Words<'w, T> = &'w [(&'static str, T)];

impl<'t> Table<'t> {
    pub(crate) fn top(doc: &'t Document, entries: &'t Spanned<DeTable<'t>>) -> Table<'t> {
        Table { doc, entries: entries.get_ref(), span: 0..0, title: "the file".into(), asked: RefCell::default() }
    }

    fn get(&self, key: &'static str) -> Option<&'t Value<'t>> {
        self.asked.borrow_mut().push(key);
        self.entries.get(key)
    }

    /// A place in the file this table is in.
    pub(crate) fn place(&self, span: Range<usize>) -> Place {
        self.doc.place(span)
    }

    pub(crate) fn has(&self, key: &str) -> bool {
        self.entries.contains_key(key)
    }

    pub(crate) fn wrong(&self, span: Range<usize>, message: impl Into<String>, hint: Option<String>) {
        self.doc.wrong(span, message, hint);
    }

    fn wrong_type(&self, key: &str, value: &Value<'_>, expected: &str, example: &str) {
        let message = format!("`{key}` must be {expected}; found {}", found_of(value.get_ref()));
        self.wrong(value.span(), message, Some(format!("for example `{key} = {example}`")));
    }

    /// Takes over a mistake of another file that this one names.
    pub(crate) fn note(&self, problem: Problem) {
        self.doc.note(problem);
    }

    /// Notes that a key is missing.
    pub(crate) fn missing(&self, key: &str, example: &str) {
        let message = format!("{} has no `{key}`", self.title);
        self.wrong(self.span.clone(), message, Some(format!("add `{key} = {example}`")));
    }

    /// Notes that a table is missing; `title` as it is written, brackets included.
    pub(crate) fn missing_table(&self, title: &str) {
        let hint = format!("add {title} on a line of its own, and its keys below");
        self.wrong(self.span.clone(), format!("{} has no {title}", self.title), Some(hint));
    }

    pub(crate) fn is_string(&self, key: &str) -> bool {
        self.entries.get(key).is_some_and(|value| matches!(value.get_ref(), DeValue::String(_)))
    }

    /// The place of a key's value; the table's where there is none.
    pub(crate) fn value_span(&self, key: &str) -> Range<usize> {
        self.entries.get(key).map_or(self.span.clone(), Spanned::span)
    }

    /// Counts keys as known that were looked at in another way than by a getter.
    pub(crate) fn note_known(&self, keys: &[&'static str]) {
        self.asked.borrow_mut().extend(keys);
    }

    /// Whether the value is a list whose first item is a list.
    pub(crate) fn is_list_of_lists(&self, key: &str) -> bool {
        let first = |list: &'t DeArray<'t>| list.first().map(Spanned::get_ref);
        match self.entries.get(key).map(Spanned::get_ref) {
            Some(DeValue::Array(list)) => matches!(first(list), Some(DeValue::Array(_))),
            _ => false,
        }
    }

    /// `true` or `false`.
    pub(crate) fn boolean(&self, key: &'static str) -> Option<At<bool>> {
        let value = self.get(key)?;
        match value.get_ref() {
            DeValue::Boolean(found) => Some(At { value: *found, span: value.span() }),
            _ => {
                self.wrong_type(key, value, "true or false", "true");
                None
            }
        }
    }

    /// One whole number for both directions, or a list of two: across and down.
    pub(crate) fn one_or_two(&self, key: &'static str, range: Range<i64>, example: &str) -> Option<At<(u32, u32)>> {
        let found = self.integers(key, range, example)?;
        match found.value.as_slice() {
            [both] => Some(At { value: (*both as u32, *both as u32), span: found.span }),
            [across, down] => Some(At { value: (*across as u32, *down as u32), span: found.span }),
            several => {
                let message = format!("`{key}` lists {} numbers; give one, or two: across and down", several.len());
                self.wrong(found.span, message, None);
                None
            }
        }
    }

    pub(crate) fn is_list(&self, key: &str) -> bool {
        self.entries.get(key).is_some_and(|value| matches!(value.get_ref(), DeValue::Array(_)))
    }

    pub(crate) fn string(&self, key: &'static str, example: &str) -> Option<At<String>> {
        let value = self.get(key)?;
        match value.get_ref() {
            DeValue::String(text) => Some(At { value: text.to_string(), span: value.span() }),
            _ => {
                self.wrong_type(key, value, "a string", example);
                None
            }
        }
    }

    pub(crate) fn required_string(&self, key: &'static str, example: &str) -> Option<At<String>> {
        if !self.has(key) {
            self.missing(key, example);
        }
        self.string(key, example)
    }

    /// A string that is one of the words.
    pub(crate) fn word<T: Copy>(&self, key: &'static str, words: Words<'_, T>) -> Option<At<T>> {
        let text = self.string(key, &format!("\"{}\"", words[0].0))?;
        if let Some((_, meaning)) = words.iter().find(|(word, _)| *word == text.value) {
            return Some(At { value: *meaning, span: text.span });
        }
        let names: Vec<&str> = words.iter().map(|(word, _)| *word).collect();
        let message = format!("`{key}` cannot be \"{}\"; it is one of {}", text.value, names.join(", "));
        self.wrong(text.span, message, nearest(&text.value, &names).map(|name| format!("did you mean \"{name}\"?")));
        None
    }

    pub(crate) fn number(&self, key: &'static str, example: &str) -> Option<At<f64>> {
        let value = self.get(key)?;
        match number(value.get_ref()) {
            Some(number) => Some(At { value: number, span: value.span() }),
            None => {
                self.wrong_type(key, value, "a number up to 1e7", example);
                None
            }
        }
    }

    /// A number at or above `least`.
    pub(crate) fn number_from(&self, key: &'static str, least: f64, example: &str) -> Option<At<f64>> {
        let found = self.number(key, example)?;
        if found.value >= least {
            return Some(found);
        }
        let message = format!("`{key}` must be at least {least}; found {}", found.value);
        self.wrong(found.span, message, Some(format!("for example `{key} = {example}`")));
        None
    }

    /// A whole number in a range.
    pub(crate) fn integer(&self, key: &'static str, range: Range<i64>, example: &str) -> Option<At<i64>> {
        let value = self.get(key)?;
        let found = integer(value.get_ref()).filter(|found| range.contains(found));
        if found.is_none() {
            let expected = format!("a whole number from {} to {}", range.start, range.end - 1);
            self.wrong_type_or_range(key, value, &expected, example);
        }
        Some(At { value: found?, span: value.span() })
    }

    fn wrong_type_or_range(&self, key: &str, value: &Value<'_>, expected: &str, example: &str) {
        match number(value.get_ref()) {
            Some(number) => {
                let hint = Some(format!("for example `{key} = {example}`"));
                self.wrong(value.span(), format!("`{key}` must be {expected}; found {number}"), hint);
            }
            None => self.wrong_type(key, value, expected, example),
        }
    }

    /// Exactly N numbers.
    pub(crate) fn numbers<const N: usize>(&self, key: &'static str, example: &str) -> Option<At<[f64; N]>> {
        let value = self.get(key)?;
        let found = numbers::<N>(value);
        if found.is_none() {
            self.wrong_type(key, value, &format!("a list of {N} numbers up to 1e7"), example);
        }
        Some(At { value: found?, span: value.span() })
    }

    /// A list of points.
    pub(crate) fn points(&self, key: &'static str) -> Option<At<Vec<[f64; 2]>>> {
        let value = self.get(key)?;
        let found = match value.get_ref() {
            DeValue::Array(list) => list.iter().map(numbers::<2>).collect::<Option<Vec<_>>>(),
            _ => None,
        };
        if found.is_none() {
            self.wrong_type(key, value, "a list of points", "[[0, 0], [16, 0], [16, 16]]");
        }
        Some(At { value: found?, span: value.span() })
    }

    /// One string or a list of strings.
    pub(crate) fn strings(&self, key: &'static str, example: &str) -> Option<Vec<At<String>>> {
        let value = self.get(key)?;
        let one = |value: &Value<'_>| match value.get_ref() {
            DeValue::String(text) => Some(At { value: text.to_string(), span: value.span() }),
            _ => None,
        };
        let found = match value.get_ref() {
            DeValue::Array(list) => list.iter().map(one).collect::<Option<Vec<_>>>(),
            _ => one(value).map(|text| vec![text]),
        };
        if found.is_none() {
            self.wrong_type(key, value, "a string or a list of strings", example);
        }
        found
    }

    /// One whole number or a list of them, each in a range.
    pub(crate) fn integers(&self, key: &'static str, range: Range<i64>, example: &str) -> Option<At<Vec<i64>>> {
        let value = self.get(key)?;
        let one = |value: &Value<'_>| integer(value.get_ref()).filter(|found| range.contains(found));
        let found = match value.get_ref() {
            DeValue::Array(list) if !list.is_empty() => list.iter().map(one).collect::<Option<Vec<_>>>(),
            _ => one(value).map(|number| vec![number]),
        };
        if found.is_none() {
            let expected = format!("whole numbers from {} to {}", range.start, range.end - 1);
            self.wrong_type_or_range(key, value, &expected, example);
        }
        Some(At { value: found?, span: value.span() })
    }

    /// A table.
    pub(crate) fn table(&self, key: &'static str) -> Option<Table<'t>> {
        let value = self.get(key)?;
        self.as_table(value, &self.title_of(key), key)
    }

    /// How the table under a key is written, from the top of the file on.
    fn title_of(&self, key: &str) -> String {
        match self.title.strip_prefix('[').and_then(|title| title.strip_suffix(']')) {
            Some(outer) if !outer.starts_with('[') => format!("[{outer}.{key}]"),
            Some(_) => format!("{}, {key}", self.title),
            None => format!("[{key}]"),
        }
    }

    /// A list of tables, `[[key]]`.
    pub(crate) fn tables(&self, key: &'static str) -> Vec<Table<'t>> {
        let Some(value) = self.get(key) else {
            return Vec::new();
        };
        match value.get_ref() {
            DeValue::Array(list) => {
                list.iter().filter_map(|item| self.as_table(item, &format!("[[{key}]]"), key)).collect()
            }
            _ => {
                let message = format!("`{key}` must be written as [[{key}]], once for each");
                self.wrong(value.span(), message, None);
                Vec::new()
            }
        }
    }

    /// The tables in a table, `[key.NAME]`, in the order in which they stand in the file.
    pub(crate) fn named(&self, key: &'static str) -> Vec<(At<String>, Table<'t>)> {
        let Some(outer) = self.table(key) else {
            return Vec::new();
        };
        let mut found: Vec<(At<String>, Table<'t>)> = outer
            .entries
            .iter()
            .filter_map(|(name, value)| {
                let table = self.as_table(value, &format!("[{key}.{}]", name.get_ref()), name.get_ref())?;
                let table = Table { span: name.span(), ..table };
                Some((At { value: name.get_ref().to_string(), span: name.span() }, table))
            })
            .collect();
        found.sort_by_key(|(name, _)| name.span.start);
        found
    }

    /// The table under a key that is one of the user's own names.
    pub(crate) fn lookup(&self, name: &str) -> Option<Table<'t>> {
        let value = self.entries.get(name)?;
        self.as_table(value, &format!("{}, {name}", self.title), name)
    }

    /// Notes every key that is none of the user's own names of this sort.
    pub(crate) fn finish_names(&self, sort: &str, names: &[String]) {
        let known: Vec<&str> = names.iter().map(String::as_str).collect();
        for (key, _) in self.entries.iter().filter(|(key, _)| !known.contains(&key.get_ref().as_ref())) {
            let hint = nearest(key.get_ref(), &known).map(|near| format!("did you mean `{near}`?"));
            self.wrong(key.span(), format!("unknown {sort} `{}` in {}", key.get_ref(), self.title), hint);
        }
    }

    fn as_table(&self, value: &'t Value<'t>, title: &str, key: &str) -> Option<Table<'t>> {
        match value.get_ref() {
            DeValue::Table(entries) => Some(Table {
                doc: self.doc,
                entries,
                span: value.span(),
                title: title.to_string(),
                asked: RefCell::default(),
            }),
            _ => {
                let message = format!("`{key}` must be a table; found {}", found_of(value.get_ref()));
                self.wrong(value.span(), message, Some(format!("write `{title}` on a line of its own")));
                None
            }
        }
    }

    /// Notes every key that nothing asked for, with the nearest that something did.
    pub(crate) fn finish(&self) {
        let asked = self.asked.borrow();
        for (key, _) in self.entries {
            let name: &str = key.get_ref();
            if asked.contains(&name) {
                continue;
            }
            let message = format!("unknown key `{name}` in {}", self.title);
            let renamed = RENAMED.iter().find(|(old, new)| *old == name && asked.contains(new)).map(|(_, new)| *new);
            let hint = match renamed.or_else(|| nearest(name, &asked)) {
                Some(new) if renamed.is_some() => format!("`{name}` is now called `{new}`"),
                Some(near) => format!("did you mean `{near}`?"),
                None => format!("known here: {}", sorted(&asked).join(", ")),
            };
            self.wrong(key.span(), message, Some(hint));
        }
    }
}

/// What is said of keys of which only one can be given.
pub(crate) fn cannot_be_given_together(keys: &[&str]) -> String {
    let keys: Vec<String> = keys.iter().map(|key| format!("`{key}`")).collect();
    format!("{} cannot be given together", keys.join(" and "))
}

fn sorted(names: &[&'static str]) -> Vec<&'static str> {
    let mut names = names.to_vec();
    names.sort_unstable();
    names.dedup();
    names
}
