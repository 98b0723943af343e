//! The pack as a Lua table: the same keys and lines as the JSON; what is not given is nil.

use super::Pack;
use super::json::{Layout, to_json};
use super::number::text_of;

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
    let mut lua = Vec::with_capacity(json.len() + json.len() / 8);
    lua.extend(format!("-- Written by finitor export; do not edit. Coordinates: {words}.\nreturn ").bytes());
    translate(&json, &mut lua)?;
    Ok(text_of(lua))
}

/// JSON in the words of Lua: brackets are braces, keys stand in brackets, and null is nil. Numbers, `true` and `false` are the same.
fn translate(json: &str, lua: &mut Vec<u8>) -> serde_json::Result<()> {
    let bytes = json.as_bytes();
    let mut at = 0;
    while let Some(&byte) = bytes.get(at) {
        match byte {
            b'"' => {
                let end = end_of_string(bytes, at);
                let colon = bytes[end..].iter().take_while(|byte| byte.is_ascii_whitespace()).count() + end;
                let is_key = bytes.get(colon) == Some(&b':');
                lua.extend(is_key.then_some(b'['));
                string(&json[at..end], lua)?;
                lua.extend_from_slice(if is_key { b"]=" } else { b"" });
                at = if is_key { colon + 1 } else { end };
            }
            _ => {
                let rest = &json[at..];
                let rest = &rest[..rest.find('"').unwrap_or(rest.len())];
                // Outside of strings only `null` has an n.
                for (index, words) in rest.split('n').enumerate() {
                    let words = if index == 0 { words } else { words.trim_start_matches("ull") };
                    lua.extend_from_slice(if index == 0 { b"" } else { b"nil" });
                    lua.extend(words.bytes().map(|byte| match byte {
                        b'[' => b'{',
                        b']' => b'}',
                        _ => byte,
                    }));
                }
                at += rest.len();
            }
        }
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

/// A JSON string as a Lua string: bytes that are no plain letters as decimal escapes.
fn string(quoted: &str, lua: &mut Vec<u8>) -> serde_json::Result<()> {
    if quoted.bytes().all(|byte| (0x20..0x7f).contains(&byte) && byte != b'\\') {
        lua.extend_from_slice(quoted.as_bytes());
        return Ok(());
    }
    lua.push(b'"');
    for byte in serde_json::from_str::<String>(quoted)?.bytes() {
        match byte {
            b'"' | b'\\' => lua.extend([b'\\', byte]),
            0x20..0x7f => lua.push(byte),
            _ => lua.extend(format!("\\{byte:03}").bytes()),
        }
    }
    lua.push(b'"');
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::translate;

    #[test]
    fn json_is_put_into_the_words_of_lua() {
        let mut lua = Vec::new();
        let json = r#"{"a": [1, -2.5e-7, true], "b\"c": {"\u00e9[": null, "d": "x]: \\"}, "e": []}"#;
        translate(json, &mut lua).expect("JSON");
        let expected = r#"{["a"]= {1, -2.5e-7, true}, ["b\"c"]= {["\195\169["]= nil, ["d"]= "x]: \\"}, ["e"]= {}}"#;
        assert_eq!(String::from_utf8_lossy(&lua), expected);
    }
}
