//! The text of a shape that is added to an actor file.

use crate::starter::ranges;
use crate::text_edit::{key, newline};

/// A shape that an actor file lacks.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct NewShape {
    /// Its name.
    pub name: String,
    /// Its role.
    pub role: String,
    /// Its kind.
    pub kind: String,
    /// The layers it is on.
    pub layers: Vec<String>,
    /// The layers it detects; those that its layers detect by default where it says none.
    pub masks: Vec<String>,
    /// The frames it is on, by animation in the file's order.
    pub frames: Vec<NewFrames>,
    /// Other keys with their values, as TOML.
    pub keys: Vec<NewKey>,
}

/// A key and its value, as TOML.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewKey {
    /// The key.
    pub key: &'static str,
    /// The value.
    pub value: String,
}

/// Frames of an animation.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewFrames {
    /// The animation.
    pub animation: String,
    /// Its frames, ascending.
    pub numbers: Vec<u32>,
    /// How many it has.
    pub length: usize,
}

impl NewShape {
    /// Its table.
    pub fn to_text(&self) -> String {
        let list = |names: &[String]| match names {
            [one] => format!("\"{one}\""),
            several => format!("[{}]", several.iter().map(|name| format!("\"{name}\"")).collect::<Vec<_>>().join(", ")),
        };
        let mut text = format!("[shape.{}]\nrole = \"{}\"\nkind = \"{}\"\n", key(&self.name), self.role, self.kind);
        let is_whole = self.frames.iter().all(|of| of.numbers.len() == of.length);
        let names: Vec<String> = self.frames.iter().map(|of| format!("\"{}\"", of.animation)).collect();
        match &self.frames[..] {
            all if is_whole => {
                if !all.is_empty() {
                    text.push_str(&format!("animations = [{}]\n", names.join(", ")));
                }
            }
            [one] => {
                text.push_str(&format!("animations = [{}]\nframes = \"{}\"\n", names[0], ranges(&one.numbers)));
            }
            several => {
                let of = |of: &NewFrames| format!("{} = \"{}\"", key(&of.animation), ranges(&of.numbers));
                let all: Vec<String> = several.iter().map(of).collect();
                text.push_str(&format!("frames = {{ {} }}\n", all.join(", ")));
            }
        }
        if !self.layers.is_empty() {
            text.push_str(&format!("layer = {}\n", list(&self.layers)));
        }
        if !self.masks.is_empty() {
            let masks: Vec<String> = self.masks.iter().map(|name| format!("\"{name}\"")).collect();
            text.push_str(&format!("mask = [{}]\n", masks.join(", ")));
        }
        for NewKey { key, value } in &self.keys {
            text.push_str(&format!("{key} = {value}\n"));
        }
        text
    }

    /// A file's text with shapes added at its end; nothing else is touched.
    pub fn appended_to(text: &str, shapes: &[NewShape]) -> String {
        let end = newline(text);
        let mut done = text.to_string();
        if !done.is_empty() && !done.ends_with('\n') {
            done.push_str(end);
        }
        for shape in shapes {
            done.push_str(end);
            done.push_str(&shape.to_text().replace('\n', end));
        }
        done
    }
}
