//! The pack as a Lua table: the same keys and lines as the JSON; what is not given is nil.

use super::Pack;
use super::json::{Layout, to_json};
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
    let json = to_json(pack, layout)?;
    let mut text = String::with_capacity(json.len() + json.len() / 8);
    text.push_str(&format!("-- Written by finitor export; do not edit. Coordinates: {words}.\nreturn "));
    translate(&json, &mut text)?;
    Ok(text)
}

/// JSON in the words of Lua: brackets are braces, keys stand in brackets, and null is nil. Numbers, `true` and `false` are the same.
fn translate(json: &str, text: &mut String) -> serde_json::Result<()> {
    let bytes = json.as_bytes();
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        match byte {
            b'"' => {
                let end = end_of_string(bytes, at);
                let string = &json[at..end];
                let colon = bytes[end..].iter().take_while(|byte| byte.is_ascii_whitespace()).count() + end;
                let is_key = bytes.get(colon) == Some(&b':');
                let is_plain = string.bytes().all(|byte| (0x20..0x7f).contains(&byte) && byte != b'\\');
                let words =
                    if is_plain { string[1..string.len() - 1].to_string() } else { serde_json::from_str(string)? };
                text.push_str(if is_key { "[" } else { "" });
                quoted(text, &words);
                text.push_str(if is_key { "]=" } else { "" });
                at = if is_key { colon + 1 } else { end };
                continue;
            }
            b'[' => text.push('{'),
            b']' => text.push('}'),
            b'n' => {
                text.push_str("nil");
                at += "null".len();
                continue;
            }
            _ => {
                let rest = &bytes[at..];
                let run = rest.iter().position(|byte| b"\"[]n".contains(byte)).unwrap_or(rest.len());
                text.push_str(&json[at..at + run]);
                at += run;
                continue;
            }
        }
        at += 1;
    }
    Ok(())
}

/// Where a string ends, its closing quote included.
fn end_of_string(bytes: &[u8], start: usize) -> usize {
    let mut at = start + 1;
    while let Some(&byte) = bytes.get(at) {
        match byte {
            b'"' => return at + 1,
            b'\\' => at += 2,
            _ => at += 1,
        }
    }
    bytes.len()
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

#[cfg(test)]
mod tests {
    use super::translate;

    #[test]
    fn json_is_put_into_the_words_of_lua() {
        let mut text = String::new();
        let json = r#"{"a": [1, -2.5e-7, true], "b\"c": {"\u00e9[": null, "d": "x]: \\"}, "e": []}"#;
        translate(json, &mut text).expect("JSON");
        let lua = r#"{["a"]= {1, -2.5e-7, true}, ["b\"c"]= {["\195\169["]= nil, ["d"]= "x]: \\"}, ["e"]= {}}"#;
        assert_eq!(text, lua);
    }
}
