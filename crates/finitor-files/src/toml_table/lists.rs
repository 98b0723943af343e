//! Lists, and tables of the user's own names.

use super::{At, Named, Table};
use crate::toml_values::{Value, number, numbers};
use toml::de::DeValue;

/// A word, or points.
#[derive(Clone, Debug, PartialEq)]
pub(crate) enum WordOrPoints {
    Word(String),
    Points(Vec<[f64; 2]>),
}

impl Table<'_> {
    /// The entries of a table of the user's own keys, in the file's order, each a word or a list of points.
    pub(crate) fn words_or_points(&self, key: &'static str, example: &str) -> Vec<Named<WordOrPoints>> {
        let Some(outer) = self.table(key) else {
            return Vec::new();
        };
        let mut found = Vec::new();
        for (name, value) in outer.entries {
            let read = match value.get_ref() {
                DeValue::String(word) => Some(WordOrPoints::Word(word.to_string())),
                DeValue::Array(list) => {
                    list.iter().map(numbers::<2>).collect::<Option<Vec<_>>>().map(WordOrPoints::Points)
                }
                _ => None,
            };
            let name = At { value: name.get_ref().to_string(), span: name.span() };
            match read {
                Some(read) => found.push((name, At { value: read, span: value.span() })),
                None => self.wrong_type(&name.value, value, "a word or a list of points", example),
            }
        }
        found.sort_by_key(|(name, _)| name.span.start);
        found
    }

    /// A list of pairs of strings.
    pub(crate) fn string_pairs(&self, key: &'static str, example: &str) -> Vec<At<(String, String)>> {
        let Some(value) = self.get(key) else {
            return Vec::new();
        };
        let text = |value: &Value<'_>| match value.get_ref() {
            DeValue::String(text) => Some(text.to_string()),
            _ => None,
        };
        let pair = |value: &Value<'_>| match value.get_ref() {
            DeValue::Array(two) if two.len() == 2 => {
                Some(At { value: (text(&two[0])?, text(&two[1])?), span: value.span() })
            }
            _ => None,
        };
        let found = match value.get_ref() {
            DeValue::Array(list) => list.iter().map(pair).collect::<Option<Vec<_>>>(),
            _ => None,
        };
        if found.is_none() {
            self.wrong_type(key, value, "a list of pairs of names", example);
        }
        found.unwrap_or_default()
    }

    /// The entries of a table of the user's own names, each a number.
    pub(crate) fn named_numbers(&self, key: &'static str, example: &str) -> Vec<Named<f64>> {
        let Some(outer) = self.table(key) else {
            return Vec::new();
        };
        let mut found = Vec::new();
        for (name, value) in outer.entries {
            match number(value.get_ref()) {
                Some(number) => found.push((
                    At { value: name.get_ref().to_string(), span: name.span() },
                    At { value: number, span: value.span() },
                )),
                None => self.wrong_type(name.get_ref(), value, "a number", example),
            }
        }
        found.sort_by_key(|(name, _)| name.span.start);
        found
    }

    /// All entries of a table whose keys are the user's own names, in the file's order, as lists of strings.
    pub(crate) fn string_lists(&self, key: &'static str, example: &str) -> Vec<(At<String>, Vec<At<String>>)> {
        let Some(outer) = self.table(key) else {
            return Vec::new();
        };
        let mut found = Vec::new();
        for (name, value) in outer.entries {
            let one = |value: &Value<'_>| match value.get_ref() {
                DeValue::String(text) => Some(At { value: text.to_string(), span: value.span() }),
                _ => None,
            };
            let list = match value.get_ref() {
                DeValue::Array(list) => list.iter().map(one).collect::<Option<Vec<_>>>(),
                _ => one(value).map(|text| vec![text]),
            };
            match list {
                Some(list) => found.push((At { value: name.get_ref().to_string(), span: name.span() }, list)),
                None => self.wrong_type(name.get_ref(), value, "a list of strings", example),
            }
        }
        found.sort_by_key(|(name, _)| name.span.start);
        found
    }

    /// All entries whose keys are the user's own names and whose values are lists of points.
    pub(crate) fn other_point_lists(&self, known: &[&'static str]) -> Vec<Named<Vec<[f64; 2]>>> {
        let mut found = Vec::new();
        for (name, value) in self.entries.iter().filter(|(name, _)| !known.contains(&name.get_ref().as_ref())) {
            let points = match value.get_ref() {
                DeValue::Array(list) => list.iter().map(numbers::<2>).collect::<Option<Vec<_>>>(),
                _ => None,
            };
            let name = At { value: name.get_ref().to_string(), span: name.span() };
            match points {
                Some(points) => found.push((name, At { value: points, span: value.span() })),
                None => self.wrong_type(&name.value, value, "a list of points, one a frame", "[[40, 12], [41, 12]]"),
            }
        }
        found.sort_by_key(|(name, _)| name.span.start);
        found
    }
}
