//! Starter actor files: what can be said of art at first sight, as a file to go on from.

use finitor_core::Facing;
use finitor_core::lint::STRIP_INSET;
use std::fmt::Write;

/// Where the pivot is.
#[derive(Clone, Debug, PartialEq)]
pub enum StarterPivot {
    /// At a place of every cell, and why there.
    At([f64; 2], String),
    /// At the feet of each frame.
    Feet,
}

impl StarterPivot {
    pub(crate) fn value(&self) -> String {
        match self {
            StarterPivot::At([x, y], _) => format!("[{x}, {y}]"),
            StarterPivot::Feet => "\"feet\"".to_string(),
        }
    }
}

/// A sheet and how it is cut.
#[derive(Clone, Debug, PartialEq)]
pub struct StarterSheet {
    /// Its name.
    pub name: String,
    /// Its picture, relative to the actor file.
    pub image: String,
    /// Keys and values of the cut: `cell`, `margin`, `gap`, `cut`, `key`.
    pub cut: Vec<(&'static str, String)>,
    /// Why it is cut so.
    pub why: String,
    /// Its part map, relative to the actor file.
    pub parts: Option<String>,
}

/// Where an animation's frames are.
#[derive(Clone, Debug, PartialEq)]
pub enum StarterFrames {
    /// Cells of a sheet, by its place in [`Starter::sheets`].
    Cells(usize, Vec<u32>),
    /// Files by patterns, and the files they name.
    Files(Vec<String>, Vec<String>),
    /// An animated file.
    File(String),
}

/// An animation.
#[derive(Clone, Debug, PartialEq)]
pub struct StarterAnimation {
    /// Its name.
    pub name: String,
    /// Whether the name is a guess.
    pub guessed: bool,
    /// Its frames.
    pub frames: StarterFrames,
    /// A pivot of its own.
    pub pivot: Option<StarterPivot>,
    /// Whether all its frames stand on the pivot's line.
    pub standing: bool,
    /// The way it is drawn, where that is not the actor's.
    pub faces: Option<Facing>,
    /// The animation that it is drawn for the other side of.
    pub stands_for: Option<String>,
}

/// All that a starter file says.
#[derive(Clone, Debug, PartialEq)]
pub struct Starter {
    /// The actor's name.
    pub actor: String,
    /// The way its art is drawn.
    pub faces: Facing,
    /// Its pivot.
    pub pivot: StarterPivot,
    /// Its sheets.
    pub sheets: Vec<StarterSheet>,
    /// Its animations.
    pub animations: Vec<StarterAnimation>,
    /// Least alpha of pixels that count, where it is not the default.
    pub alpha: Option<u8>,
    /// The layer its shapes are on.
    pub layer: String,
}

/// Keys with a comment after them, the comments under one another.
fn line(text: &mut String, key: &str, value: &str, comment: &str) {
    let pair = format!("{key} = {value}");
    // Writing to a string cannot fail.
    let _ = if comment.is_empty() { writeln!(text, "{pair}") } else { writeln!(text, "{pair:<32} # {comment}") };
}

/// Text as a TOML string.
fn quoted(text: &str) -> String {
    toml_edit::Value::from(text).to_string().trim().to_string()
}

/// Numbers as a list of ranges: `0-3,7`.
pub fn ranges(cells: &[u32]) -> String {
    let mut parts: Vec<(u32, u32)> = Vec::new();
    for cell in cells {
        match parts.last_mut() {
            Some((_, last)) if *cell == *last + 1 => *last = *cell,
            _ => parts.push((*cell, *cell)),
        }
    }
    let part = |(first, last): &(u32, u32)| if first == last { first.to_string() } else { format!("{first}-{last}") };
    parts.iter().map(part).collect::<Vec<_>>().join(",")
}

impl Starter {
    /// The file's text, with comments.
    pub fn to_text(&self) -> String {
        let mut text = format!(
            "# {}: what its art says at first sight. Change what you like; `finitor fit` reads it again.\n\n",
            self.actor
        );
        text += &self.head();
        for sheet in &self.sheets {
            text += &sheet_text(sheet);
        }
        for animation in &self.animations {
            text += &self.animation_text(animation, None);
        }
        text += &self.body_text();
        text += &self.figure_text();
        text += &self.feet_text();
        text
    }

    pub(crate) fn head(&self) -> String {
        let mut text = "[actor]\n".to_string();
        line(&mut text, "name", &quoted(&self.actor), "");
        line(&mut text, "faces", &quoted(self.faces.name()), "the way the art is drawn: right or left");
        let why = match &self.pivot {
            StarterPivot::At(_, why) => why,
            StarterPivot::Feet => "bottom centre of the opaque pixels, of each frame where sizes differ",
        };
        line(&mut text, "pivot", &self.pivot.value(), why);
        text + "\n"
    }

    pub(crate) fn animation_text(&self, animation: &StarterAnimation, sheet_name: Option<&str>) -> String {
        let head = format!("[animation.{}]", key(&animation.name));
        let mut text = match animation.guessed {
            true => format!("{head:<32} # rename it as your game calls it\n"),
            false => format!("{head}\n"),
        };
        match &animation.frames {
            StarterFrames::Cells(sheet, cells) => {
                let own = (self.sheets.len() > 1).then(|| self.sheets[*sheet].name.as_str());
                if let Some(name) = sheet_name.or(own) {
                    line(&mut text, "sheet", &quoted(name), "");
                }
                line(&mut text, "cells", &quoted(&ranges(cells)), "in the order played; \"3-0\" runs back");
            }
            StarterFrames::Files(patterns, files) => {
                let value = match patterns.as_slice() {
                    [one] => quoted(one),
                    several => format!("[{}]", several.iter().map(|one| quoted(one)).collect::<Vec<_>>().join(", ")),
                };
                line(&mut text, "files", &value, &format!("{} files, 2 before 10", files.len()));
            }
            StarterFrames::File(file) => line(&mut text, "file", &quoted(file), "its own delays, as ticks"),
        }
        if let Some(faces) = animation.faces {
            line(&mut text, "faces", &quoted(faces.name()), "by its name");
        }
        if let Some(of) = &animation.stands_for {
            line(&mut text, "stands_for", &quoted(of), "shown instead of a mirrored one");
        }
        if let Some(pivot) = &animation.pivot {
            line(&mut text, "pivot", &pivot.value(), "its art lies otherwise in its cells");
        }
        if !matches!(animation.frames, StarterFrames::File(_)) {
            line(&mut text, "ticks", "6", "how long a frame lasts, or a list of them");
        }
        if animation.standing {
            line(&mut text, "standing", "true", "every frame stands on the pivot's line; `finitor lint` watches it");
        }
        text + "\n"
    }

    pub(crate) fn body_text(&self) -> String {
        let mut text =
            "# What walls stop: one box for all frames, without what sticks out; `finitor fit --why body` explains it.\n\
             [shape.body]\n"
                .to_string();
        line(&mut text, "role", "\"body\"", "");
        self.alpha_line(&mut text);
        line(&mut text, "layer", &quoted(&self.layer), "");
        text + "\n"
    }

    fn alpha_line(&self, text: &mut String) {
        if let Some(alpha) = self.alpha {
            line(text, "alpha", &alpha.to_string(), "fainter pixels do not count");
        }
    }

    pub(crate) fn figure_text(&self) -> String {
        let mut text = "# What can be struck: the whole figure, frame by frame.\n[shape.figure]\n".to_string();
        line(&mut text, "role", "\"hurt\"", "");
        line(&mut text, "kind", "\"outline\"", "");
        line(&mut text, "fit", "\"cover\"", "every opaque pixel lies inside");
        self.alpha_line(&mut text);
        line(&mut text, "tolerance", "1.0", "px that the outline may stray; more gives fewer corners");
        line(&mut text, "layer", &quoted(&self.layer), "");
        text + "\n"
    }

    pub(crate) fn feet_text(&self) -> String {
        let mut text = "# A strip under the body that detects the ground.\n[shape.feet]\n".to_string();
        line(&mut text, "role", "\"sensor\"", "");
        line(&mut text, "along", "\"body\"", "");
        line(&mut text, "side", "\"below\"", "");
        line(&mut text, "depth", "2", "");
        line(&mut text, "ends", "\"shape\"", "with the body's foot, not with its arms");
        line(&mut text, "inset", &STRIP_INSET.to_string(), "so that no wall beside the body touches it");
        text
    }
}

pub(crate) fn sheet_text(sheet: &StarterSheet) -> String {
    let mut text = "[[sheet]]\n".to_string();
    line(&mut text, "name", &quoted(&sheet.name), "");
    line(&mut text, "image", &quoted(&sheet.image), "");
    for (index, (key, value)) in sheet.cut.iter().enumerate() {
        line(&mut text, key, value, if index == 0 { &sheet.why } else { "" });
    }
    if let Some(parts) = &sheet.parts {
        line(&mut text, "parts", &quoted(parts), "one flat colour a body part");
    }
    text + "\n"
}

/// A name as a TOML key: bare where it may be.
fn key(name: &str) -> String {
    let bare = !name.is_empty() && name.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'_' || b == b'-');
    if bare { name.to_string() } else { quoted(name) }
}
