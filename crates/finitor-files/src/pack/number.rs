//! Numbers as short as they can be read back from.

use schemars::{JsonSchema, Schema, SchemaGenerator, json_schema};
use serde::de::{Deserialize, Deserializer, Error, Visitor};
use serde::ser::{Serialize, SerializeTuple, Serializer};
use std::borrow::Cow;
use std::fmt;

/// A number: written as an integer where it is one, otherwise with the fewest digits that give the same bits.
#[derive(Clone, Copy, Debug, Default, PartialEq, PartialOrd)]
pub struct Number(pub f64);

/// Whole numbers below this are exact, 2^53.
const MOST_WHOLE: f64 = 9_007_199_254_740_992.0;

impl Number {
    /// The number as an integer, where it is one.
    pub fn whole(self) -> Option<i64> {
        (self.0.fract() == 0.0 && self.0.abs() < MOST_WHOLE).then_some(self.0 as i64)
    }
}

/// Writes numbers, many times as fast as [`fmt::Display`] does.
#[derive(Debug, Default)]
pub(super) struct Digits {
    bytes: Vec<u8>,
}

impl Digits {
    /// Adds a number to a text, as JSON has it: an integer where it is one.
    pub(super) fn push(&mut self, text: &mut String, number: f64) {
        self.bytes.clear();
        push_digits(&mut self.bytes, number);
        text.push_str(&String::from_utf8_lossy(&self.bytes));
    }
}

/// Bytes of text as text; nothing but text is ever written to them.
pub(super) fn text_of(bytes: Vec<u8>) -> String {
    String::from_utf8(bytes).unwrap_or_else(|error| String::from_utf8_lossy(error.as_bytes()).into_owned())
}

/// Adds a number to bytes of text, as [`Digits::push`] does.
pub(super) fn push_digits(bytes: &mut Vec<u8>, number: f64) {
    // Into memory, and of a finite number: neither fails.
    let written = serde_json::to_writer(&mut *bytes, &Number(number));
    debug_assert!(written.is_ok());
}

impl fmt::Display for Number {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.whole() {
            Some(whole) => write!(f, "{whole}"),
            // The shortest digits that read back the same, as the standard library has them.
            None => write!(f, "{}", self.0),
        }
    }
}

impl Serialize for Number {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        match self.whole() {
            Some(whole) => to.serialize_i64(whole),
            None => to.serialize_f64(self.0),
        }
    }
}

impl<'de> Deserialize<'de> for Number {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Number, D::Error> {
        from.deserialize_any(NumberVisitor)
    }
}

/// Takes integers and fractions alike: CBOR tells them apart.
struct NumberVisitor;

impl Visitor<'_> for NumberVisitor {
    type Value = Number;

    fn expecting(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str("a number")
    }

    fn visit_i64<E: Error>(self, number: i64) -> Result<Number, E> {
        Ok(Number(number as f64))
    }

    fn visit_u64<E: Error>(self, number: u64) -> Result<Number, E> {
        Ok(Number(number as f64))
    }

    fn visit_f64<E: Error>(self, number: f64) -> Result<Number, E> {
        Ok(Number(number))
    }
}

/// A place or a vector; written as `[x, y]`.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct PackPoint {
    /// To the right.
    pub x: f64,
    /// Down or up, as the pack's space says.
    pub y: f64,
}

impl From<[f64; 2]> for PackPoint {
    fn from([x, y]: [f64; 2]) -> PackPoint {
        PackPoint { x, y }
    }
}

impl Serialize for PackPoint {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        let mut pair = to.serialize_tuple(2)?;
        pair.serialize_element(&Number(self.x))?;
        pair.serialize_element(&Number(self.y))?;
        pair.end()
    }
}

impl<'de> Deserialize<'de> for PackPoint {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<PackPoint, D::Error> {
        <[Number; 2]>::deserialize(from).map(|[x, y]| PackPoint { x: x.0, y: y.0 })
    }
}

impl JsonSchema for Number {
    fn inline_schema() -> bool {
        true
    }

    fn schema_name() -> Cow<'static, str> {
        "Number".into()
    }

    fn json_schema(_: &mut SchemaGenerator) -> Schema {
        json_schema!({ "type": "number" })
    }
}

impl JsonSchema for PackPoint {
    fn schema_name() -> Cow<'static, str> {
        "Point".into()
    }

    fn json_schema(_: &mut SchemaGenerator) -> Schema {
        json_schema!({
            "description": "x and y",
            "type": "array",
            "items": { "type": "number" },
            "minItems": 2,
            "maxItems": 2
        })
    }
}
