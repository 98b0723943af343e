//! Lines of JSON: an object a row, with the keys of CSV's columns.

use super::bad_rows::{Wrong, odd_tick};
use super::csv_rows::FARTHEST;
use super::{COLUMNS, Input, Row};
use crate::toml_table::nearest;
use crate::words::json_words;
use finitor_core::Point;
use serde_json::{Map, Value};
use std::io::{BufRead, Read};

/// Bytes of a line at most: no row is that long.
const LONGEST: u64 = 1 << 16;

/// Lines under reading.
pub(super) struct JsonRows {
    input: Input,
    text: String,
    line: u64,
    failed: bool,
    /// Words of the row read last.
    words: Words,
}

#[derive(Default)]
struct Words {
    actor: String,
    facing: String,
    animation: String,
    frame: String,
    states: String,
    via: String,
    take: String,
}

impl JsonRows {
    pub(super) fn new(input: Input) -> JsonRows {
        JsonRows { input, text: String::new(), line: 0, failed: false, words: Words::default() }
    }

    pub(super) fn line(&self) -> u64 {
        self.line
    }

    pub(super) fn next(&mut self) -> Option<Result<Row<'_>, Wrong>> {
        loop {
            if self.failed {
                return None;
            }
            self.text.clear();
            self.line += 1;
            match (&mut self.input).take(LONGEST).read_line(&mut self.text) {
                Ok(0) => return None,
                Ok(read) if read as u64 == LONGEST && !self.text.ends_with('\n') => {
                    self.failed = true;
                    return Some(Err((
                        format!("is longer than {LONGEST} bytes"),
                        Some("write an object a line".into()),
                    )));
                }
                Ok(_) if self.text.trim().is_empty() => {}
                Ok(_) => break,
                Err(error) => {
                    self.failed = true;
                    return Some(Err((format!("cannot be read: {error}"), None)));
                }
            }
        }
        let parsed: Result<Map<String, Value>, _> = serde_json::from_str(&self.text);
        Some(match parsed {
            Ok(object) => row(&object, &mut self.words),
            Err(error) => Err((format!("is no JSON object: {}", json_words(&error)), None)),
        })
    }
}

fn row<'r>(object: &Map<String, Value>, words: &'r mut Words) -> Result<Row<'r>, Wrong> {
    if let Some(unknown) = object.keys().find(|key| !COLUMNS.contains(&key.as_str())) {
        let hint = nearest(unknown, &COLUMNS).map(|near| format!("did you mean {near}?"));
        return Err((format!("unknown key \"{unknown}\""), hint));
    }
    let given = |key: &str| object.get(key).filter(|value| !value.is_null());
    let needed = |key: &str| given(key).ok_or_else(|| (format!("the row has no {key}"), None));
    let number = |key: &str| {
        let value = needed(key)?;
        let found = value.as_f64().filter(|number| number.abs() <= FARTHEST);
        found.ok_or_else(|| (format!("{key} is {value}; expected a number up to 1e7"), None))
    };
    let word = |key: &str, into: &mut String| {
        into.clear();
        match given(key) {
            None => {}
            Some(Value::String(text)) => into.push_str(text.trim()),
            Some(Value::Number(number)) if key == "frame" || key == "take" => into.push_str(&number.to_string()),
            Some(Value::Array(list)) if key == "states" => {
                for state in list {
                    let text =
                        state.as_str().ok_or_else(|| (format!("states holds {state}, words were expected"), None))?;
                    into.push_str(text);
                    into.push(' ');
                }
            }
            Some(Value::Array(list)) if key == "via" => {
                into.push_str(&list.iter().map(place).collect::<Vec<String>>().join(";"));
            }
            Some(other) if key == "via" => {
                return Err((format!("via is {other}; expected places, such as [[96, 200], [96, 188]]"), None));
            }
            Some(other) => return Err((format!("{key} is {other}; expected a word"), None)),
        }
        Ok(())
    };
    let tick = needed("tick")?;
    let tick = tick.as_u64().map_or_else(|| odd_tick(tick.as_f64(), &tick.to_string()), Ok)?;
    needed("actor")?;
    word("actor", &mut words.actor)?;
    word("facing", &mut words.facing)?;
    word("animation", &mut words.animation)?;
    word("frame", &mut words.frame)?;
    word("states", &mut words.states)?;
    word("via", &mut words.via)?;
    word("take", &mut words.take)?;
    let truth = |key: &str| match given(key) {
        None => Ok(None),
        Some(Value::Bool(value)) => Ok(Some(*value)),
        Some(other) => Err((format!("{key} is {other}; expected true or false"), None)),
    };
    let (flipped_art, grounded) = (truth("flipped_art")?, truth("grounded")?);
    let at = Point::new(number("x")?, number("y")?);
    let speed = |key: &str| given(key).map(|_| number(key)).transpose();
    let velocity = super::velocity(speed("vx")?, speed("vy")?);
    let Words { actor, facing, animation, frame, states, via, take } = words;
    Ok(Row { take, tick, actor, at, facing, animation, frame, states, flipped_art, grounded, velocity, via })
}

/// `[96, 200]` as `96 200`; anything else as it is.
fn place(value: &Value) -> String {
    match value.as_array() {
        Some(numbers) => numbers.iter().map(Value::to_string).collect::<Vec<String>>().join(" "),
        None => value.to_string(),
    }
}
