//! The pack as a Lua table: the same keys as the JSON; what is not given is nil.

use super::Pack;
use super::json::Layout;
use serde_json::Value;
use std::fmt::Write;

/// A Lua chunk that returns the table; reads in Lua 5.1 and later.
///
/// # Errors
/// Those of the JSON encoder.
///
/// # Complexity
/// O(size).
pub fn lua_table(pack: &Pack, layout: Layout) -> serde_json::Result<String> {
    let words = pack.space.words();
    let mut text = format!("-- Written by finitor export; do not edit. Coordinates: {words}.\nreturn ");
    write(&mut text, &serde_json::to_value(pack)?, Indent { layout, depth: 0 });
    text.push('\n');
    Ok(text)
}

#[derive(Clone, Copy)]
struct Indent {
    layout: Layout,
    depth: usize,
}

impl Indent {
    fn deeper(self) -> Indent {
        Indent { depth: self.depth + 1, ..self }
    }

    /// What comes before an item: a new line where it is large.
    fn before(self, item: &Value) -> String {
        let is_large =
            item.as_array().is_some_and(|items| items.iter().any(|item| !item.is_number())) || item.is_object();
        match self.layout {
            Layout::Lines if is_large => format!("\n{:1$}", "", self.depth),
            Layout::Lines => " ".to_string(),
            Layout::Small => String::new(),
        }
    }
}

fn write(text: &mut String, value: &Value, indent: Indent) {
    match value {
        Value::Null => text.push_str("nil"),
        Value::Bool(is) => text.push_str(if *is { "true" } else { "false" }),
        Value::Number(number) => text.push_str(&number.to_string()),
        Value::String(words) => quoted(text, words),
        Value::Array(items) => {
            text.push('{');
            for (index, item) in items.iter().enumerate() {
                if index > 0 {
                    text.push(',');
                }
                // Points stay on the line of their ring.
                if item.as_array().is_none_or(|item| item.iter().any(|item| !item.is_number())) {
                    text.push_str(&indent.before(item));
                }
                write(text, item, indent.deeper());
            }
            text.push('}');
        }
        Value::Object(keys) => {
            text.push('{');
            for (index, (key, item)) in keys.iter().enumerate() {
                if index > 0 {
                    text.push(',');
                }
                text.push_str(&indent.before(item));
                text.push('[');
                quoted(text, key);
                text.push_str("]=");
                write(text, item, indent.deeper());
            }
            text.push('}');
        }
    }
}

/// A Lua string: bytes that are no plain letters as decimal escapes.
fn quoted(text: &mut String, words: &str) {
    text.push('"');
    for byte in words.bytes() {
        match byte {
            b'"' | b'\\' => {
                text.push('\\');
                text.push(char::from(byte));
            }
            0x20..0x7f => text.push(char::from(byte)),
            _ => {
                let _ = write!(text, "\\{byte:03}");
            }
        }
    }
    text.push('"');
}
