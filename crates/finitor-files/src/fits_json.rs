//! `*.fits.json`: the shapes of every frame, for the program itself and for games.

use crate::problem::{Place, Problem, Problems};
use crate::words::json_words;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The format's name and version.
pub const FITS_SCHEMA: &str = "finitor.fits/2";

/// The version before, which is still read: its pieces are left out, they follow from the outlines.
pub const FITS_SCHEMA_BEFORE: &str = "finitor.fits/1";

/// A list of rings: one ring as it is, several as a list of lists.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(untagged)]
pub enum Rings {
    /// One ring.
    One(Vec<[f64; 2]>),
    /// Several.
    Many(Vec<Vec<[f64; 2]>>),
}

impl Rings {
    /// The rings, however they are written.
    pub fn all(&self) -> Vec<&[[f64; 2]]> {
        match self {
            Rings::One(ring) => vec![ring],
            Rings::Many(rings) => rings.iter().map(Vec::as_slice).collect(),
        }
    }
}

/// Quality of a shape against its frame's selection.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct QualityFits {
    /// Shared area over the union's.
    pub iou: f64,
    /// Share of the selection inside the shape.
    pub covered: f64,
    /// Shape outside the selection, px2.
    pub excess: f64,
    /// Largest distance between the boundaries, px.
    pub deviation: f64,
    /// Corners.
    pub points: usize,
}

/// A shape on a frame; coordinates local, as drawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ShapeFits {
    /// Its name.
    pub name: String,
    /// Its role.
    pub role: String,
    /// Its kind.
    pub kind: String,
    /// Exact numbers of a box: left, top, width, height.
    #[serde(rename = "box", default, skip_serializing_if = "Option::is_none")]
    pub rect: Option<[f64; 4]>,
    /// Exact numbers of a circle: middle, radius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub circle: Option<[f64; 3]>,
    /// Exact numbers of a capsule: ends of the spine, radius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub capsule: Option<[f64; 5]>,
    /// The outline.
    pub points: Rings,
    /// Holes in it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub holes: Vec<Vec<[f64; 2]>>,
    /// Bits of the layers it is on.
    pub layer: u32,
    /// Bits of the layers it looks for.
    pub mask: u32,
    /// The body part.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<String>,
    /// The family of parts.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub group: Option<String>,
    /// What damage is multiplied by.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub factor: Option<f64>,
    /// Whether a hit on it is the end, whatever its damage.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub is_vital: bool,
    /// Damage done.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub damage: Option<f64>,
    /// Why it is of its kind, where that was chosen for it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub why: Option<String>,
    /// Hash of the recipe and of all art it was fitted to.
    #[serde(default)]
    pub recipe: String,
    /// Hash of the geometry as it was fitted; another geometry is a hand's work.
    #[serde(default)]
    pub made: String,
    /// Never fitted again while true.
    #[serde(default)]
    pub locked: bool,
    /// `null` where nothing is selected on the frame.
    #[serde(default)]
    pub quality: Option<QualityFits>,
}

impl ShapeFits {
    /// A shape without a geometry; what it means is taken over from the actor file by the next fit.
    pub fn named(name: &str) -> ShapeFits {
        ShapeFits {
            name: name.to_string(),
            role: String::new(),
            kind: String::new(),
            rect: None,
            circle: None,
            capsule: None,
            points: Rings::Many(Vec::new()),
            holes: Vec::new(),
            layer: 0,
            mask: 0,
            part: None,
            group: None,
            factor: None,
            is_vital: false,
            damage: None,
            why: None,
            recipe: String::new(),
            made: String::new(),
            locked: false,
            quality: None,
        }
    }

    /// Hash of the geometry, for `made`.
    pub fn geometry_hash(&self) -> String {
        let mut text =
            serde_json::to_string(&(&self.rect, &self.circle, &self.capsule, &self.points)).unwrap_or_default();
        if !self.holes.is_empty() {
            text.push_str(&serde_json::to_string(&self.holes).unwrap_or_default());
        }
        crate::survey::short_hash(text.as_bytes())
    }

    /// Whether a hand locked it, changed it or put it there.
    pub fn is_hand_made(&self) -> bool {
        self.locked || self.made != self.geometry_hash()
    }
}

/// A frame.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FrameFits {
    /// Its animation.
    pub animation: String,
    /// Its number in it.
    pub frame: usize,
    /// The picture it is cut from.
    pub image: String,
    /// Which image of an animated file.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub image_number: usize,
    /// Where in the picture: left, top, width, height.
    pub rect: [u32; 4],
    /// The pivot, cell px.
    pub pivot: [f64; 2],
    /// How long it lasts.
    pub ticks: u32,
    /// The way it is drawn.
    pub faces: String,
    /// Hash of its pixels.
    pub art: String,
    /// Its opaque pixels and marks of their colours, to count later how many changed.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub seen: String,
    /// Anchors, local.
    pub anchors: BTreeMap<String, [f64; 2]>,
    /// Shapes in the actor file's order.
    pub shapes: Vec<ShapeFits>,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "the serializer asks for a reference")]
pub(crate) fn is_zero(number: &usize) -> bool {
    *number == 0
}

/// The whole file.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct FitsFile {
    /// [`FITS_SCHEMA`].
    pub schema: String,
    /// The actor's name.
    pub actor: String,
    /// What the last fit went by; see [`crate::settle`].
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub settled: Option<Settled>,
    /// Frames, animation by animation.
    pub frames: Vec<FrameFits>,
}

impl FitsFile {
    /// A shape on a frame.
    pub fn shape(&self, animation: &str, frame: usize, shape: &str) -> Option<&ShapeFits> {
        let frame = self.frames.iter().find(|f| f.animation == animation && f.frame == frame)?;
        frame.shapes.iter().find(|s| s.name == shape)
    }
}

/// What a fit went by.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Settled {
    /// Hash of all that decides the shapes, and of the shapes.
    pub hash: String,
    /// The files, from the project's folder.
    pub files: Vec<String>,
}

/// The fits of an actor file: `keeper.toml` -> `keeper.fits.json`.
pub fn fits_path(actor: &Path) -> PathBuf {
    actor.with_extension("fits.json")
}

/// Reads a fits file; `None` when there is none.
///
/// # Errors
/// What is wrong with it, with the line.
pub fn read_fits(path: &Path) -> Result<Option<FitsFile>, Problems> {
    let text: Arc<str> = match std::fs::read_to_string(path) {
        Ok(text) => text.into(),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(None),
        Err(error) => return Err(Problem::of_file(path, format!("cannot be read: {error}")).into()),
    };
    let hint = "fix the line, or move the file away and run `finitor fit`; nothing was overwritten";
    let fits = parse_fits(&text).map_err(|error| {
        let line_start: usize = text.split_inclusive('\n').take(error.line().saturating_sub(1)).map(str::len).sum();
        let at = (line_start + error.column().saturating_sub(1)).min(text.len());
        let at = (0..=at).rev().find(|at| text.is_char_boundary(*at)).unwrap_or(0);
        // Lines of this format are long; the line is named by number, not shown.
        let place = Place::new(&text, at..at);
        // Of the version before no line is known.
        let message = match error.line() {
            0 => json_words(&error),
            _ => format!("line {}, column {}: {}", place.line, place.column, json_words(&error)),
        };
        Problem::of_file(path, message).with_hint(hint)
    })?;
    if fits.schema != FITS_SCHEMA {
        let message = format!("its schema is \"{}\", this program reads \"{FITS_SCHEMA}\"", fits.schema);
        return Err(Problem::of_file(path, message).with_hint(hint).into());
    }
    Ok(Some(fits))
}

/// The fits in a text: of this version, or of the one before as this one writes them.
///
/// # Errors
/// Those of the JSON reader.
pub fn parse_fits(text: &str) -> serde_json::Result<FitsFile> {
    match serde_json::from_str::<FitsFile>(text) {
        Ok(fits) if fits.schema != FITS_SCHEMA_BEFORE => Ok(fits),
        // Without a shape both versions have the same keys.
        read => of_before(text).unwrap_or(read),
    }
}

/// Fits of the version before, as this one writes them; `None` where the text is of another.
fn of_before(text: &str) -> Option<serde_json::Result<FitsFile>> {
    let mut file: Value = serde_json::from_str(text).ok()?;
    if file["schema"] != FITS_SCHEMA_BEFORE {
        return None;
    }
    file["schema"] = FITS_SCHEMA.into();
    for frame in file["frames"].as_array_mut()? {
        // Its letters meant something else.
        frame.as_object_mut()?.remove("seen");
        for shape in frame["shapes"].as_array_mut()? {
            shape.as_object_mut()?.remove("pieces");
            if let Some(quality) = shape["quality"].as_object_mut() {
                quality.remove("pieces");
            }
        }
    }
    Some(serde_json::from_value(file))
}

/// Writes a fits file.
///
/// # Errors
/// The path and the system's reason; the old file is then still there.
pub fn write_fits(path: &Path, fits: &FitsFile) -> Result<(), Problems> {
    let text = fits.text().map_err(|error| Problem::of_file(path, format!("cannot be written: {error}")))?;
    text.write(path)
}
