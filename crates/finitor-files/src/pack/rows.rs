//! Shapes that come in from outside: out of a pack, or out of a table.

use super::{Art, Pack, PackActor, PackShape, ShapeMeaning, Space};
use crate::problem::Problems;
use std::path::Path;

/// A shape on a frame as somebody else wrote it.
#[derive(Clone, Debug, PartialEq)]
pub struct ShapeRow {
    /// Where it stands: `line 7`, or `keeper walk 3`.
    pub place: String,
    /// The actor.
    pub actor: String,
    /// The animation.
    pub animation: String,
    /// The frame in it.
    pub frame: usize,
    /// The facing, where it says one.
    pub facing: Option<String>,
    /// What it is and means, as far as that is said; layers by name are in `layers` and `masks`.
    pub meaning: ShapeMeaning,
    /// Names of the layers it is on, where that is said.
    pub layers: Vec<String>,
    /// Names of the layers it detects, where that is said.
    pub masks: Vec<String>,
    /// Where it is, in the space of the [`ShapeRows`].
    pub shape: PackShape,
}

/// All shapes of a file.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct ShapeRows {
    /// In the file's order.
    pub rows: Vec<ShapeRow>,
    /// How many rows are of stages, which are not read.
    pub of_stages: usize,
    /// How it counts coordinates, where it says so.
    pub space: Option<Space>,
}

impl ShapeRows {
    /// Reads a pack as JSON or CBOR, or a table, by the ending of the file.
    ///
    /// # Errors
    /// What is wrong with the file.
    pub fn read(path: &Path) -> Result<ShapeRows, Problems> {
        let wrong = |message: String| Problems::from(crate::problem::Problem::of_file(path, message));
        let bytes = std::fs::read(path).map_err(|error| wrong(format!("cannot be read: {error}")))?;
        match path.extension().and_then(|ending| ending.to_str()) {
            Some("json") => {
                let text = String::from_utf8(bytes).map_err(|_| wrong("is not UTF-8 text".to_string()))?;
                super::from_json(&text).map(ShapeRows::from).map_err(wrong)
            }
            Some("cbor") => super::from_cbor(&bytes).map(ShapeRows::from).map_err(wrong),
            Some("csv") => super::csv_rows::csv_rows(path, &bytes),
            _ => Err(wrong("is none of .json, .cbor and .csv, which `finitor export` writes".to_string())),
        }
    }
}

impl From<Pack> for ShapeRows {
    fn from(pack: Pack) -> ShapeRows {
        let names = |bits: u32| -> Vec<String> {
            let all = pack.layers.names.iter().filter(|layer| bits >> layer.bit & 1 == 1);
            all.map(|layer| layer.name.clone()).collect()
        };
        let rows = pack.actors.iter().flat_map(|actor| rows_of(actor, &names)).collect();
        let things = |stage: &super::PackStage| stage.solids.len() + stage.one_ways.len() + stage.zones.len();
        ShapeRows { rows, of_stages: pack.stages.iter().map(things).sum(), space: Some(pack.space) }
    }
}

fn rows_of(actor: &PackActor, names: &dyn Fn(u32) -> Vec<String>) -> Vec<ShapeRow> {
    let mut rows = Vec::new();
    for frame in &actor.frames {
        for side in &frame.sides {
            for shape in &side.shapes {
                let bare = || ShapeMeaning { name: shape.shape.clone(), ..ShapeMeaning::default() };
                let meaning = actor.meaning(&shape.shape).cloned().unwrap_or_else(bare);
                rows.push(ShapeRow {
                    place: format!("{} {} {}", actor.name, frame.animation, frame.frame),
                    actor: actor.name.clone(),
                    animation: frame.animation.clone(),
                    frame: frame.frame,
                    facing: Some(side.facing.clone()),
                    layers: names(meaning.layer),
                    masks: names(meaning.mask),
                    meaning,
                    shape: shape.clone(),
                });
            }
        }
    }
    rows
}

impl Space {
    /// A shape of this space in the program's own.
    #[must_use]
    pub fn shape_from(&self, art: &Art, shape: PackShape) -> PackShape {
        self.shape_to(&Space::OWN, art, shape)
    }

    /// How far rounding may have moved a coordinate, px.
    pub fn rounding(&self) -> f64 {
        /// Sums of coordinates and pivots are exact to this, px.
        const EXACT: f64 = 1e-9;
        self.fixed.map_or(EXACT, |bits| self.unit.0 / f64::from(1_u32 << bits))
    }
}
