//! What a game loads: actors, layers and stages as plain values, for every format of `export` alike.

mod c_header;
mod cbor;
mod csv_rows;
mod csv_table;
mod json;
mod lua_table;
mod mirror;
mod number;
mod rows;
mod rust_module;
mod space;
mod stage;
mod svg;

pub use c_header::c_header;
pub use cbor::{from_cbor, to_cbor};
pub use csv_table::{CSV_COLUMNS, csv_table};
pub use json::{Layout, from_json, to_json};
pub use lua_table::lua_table;
pub use number::{Number, PackPoint};
pub use rows::{ShapeRow, ShapeRows};
pub use rust_module::rust_module;
pub use space::{Origin, Space, UpAxis, Winding};
pub use stage::{PackOneWay, PackSpawn, PackSpot, PackStage, PackThing, PackWarp, PackZone};
pub use svg::pack_svg;

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// The format's name and version.
pub const PACK_SCHEMA: &str = "finitor.pack/1";

/// A ring of points; the last is joined to the first.
pub type Ring = Vec<PackPoint>;

/// Everything that was exported. Coordinates are in its `space`; what counts pixels of a picture ([`Art`]) is not.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Pack {
    /// [`PACK_SCHEMA`].
    pub schema: String,
    /// The project's name.
    pub project: String,
    /// Ticks a second.
    pub tick_rate: Number,
    /// How coordinates are counted.
    pub space: Space,
    /// The layers.
    pub layers: PackLayers,
    /// Actors by the project's order.
    pub actors: Vec<PackActor>,
    /// Stages by the project's order.
    pub stages: Vec<PackStage>,
}

/// The layers of a project.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackLayers {
    /// `either` or `both`: whose mask decides whether two bodies stop each other.
    pub contact: String,
    /// By bit.
    pub names: Vec<PackLayer>,
    /// Names for several.
    pub aliases: Vec<PackAlias>,
    /// What states change, in the order in which they apply.
    pub states: Vec<PackState>,
}

/// A layer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackLayer {
    /// Its name.
    pub name: String,
    /// Its bit, 0 the first.
    pub bit: u32,
    /// Bits that it detects by default.
    pub mask: u32,
}

/// A name for several layers.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackAlias {
    /// The name.
    pub name: String,
    /// Their bits.
    pub layers: u32,
}

/// What a state changes while it lasts.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackState {
    /// The state's word.
    pub name: String,
    /// Changes by layer.
    pub changes: Vec<PackChange>,
}

/// What a state does to shapes on a layer: masks first gain `add`, then lose `drop`; layers first gain `join`, then lose `leave`.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackChange {
    /// The bit of the layer.
    pub layer: u32,
    /// Bits added to masks.
    pub add: u32,
    /// Bits taken from masks.
    pub drop: u32,
    /// Bits added to layers.
    pub join: u32,
    /// Bits taken from layers.
    pub leave: u32,
}

/// An actor.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackActor {
    /// Its name.
    pub name: String,
    /// What its shapes are and mean, in the actor file's order.
    pub shapes: Vec<ShapeMeaning>,
    /// Its attacks.
    pub attacks: Vec<PackAttack>,
    /// Its animations.
    pub animations: Vec<PackAnimation>,
    /// Its frames, animation by animation.
    pub frames: Vec<PackFrame>,
}

/// What a shape is and means on all frames.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct ShapeMeaning {
    /// Its name.
    pub name: String,
    /// `body`, `hurt`, `hit` or `sensor`.
    pub role: String,
    /// Bits of the layers it is on.
    pub layer: u32,
    /// Bits of the layers it detects.
    pub mask: u32,
    /// The part, its group and factor.
    #[serde(flatten)]
    pub part: PackPart,
    /// Anchors that say which part is struck.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub part_anchors: Vec<PackPartAnchor>,
    /// What a hit does.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub damage: Option<Number>,
    /// How it is settled which part a hit strikes; the target's and the project's word where it does not say so.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub settle: Option<String>,
    /// After how many ticks one swing strikes the same target again.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub again_after: Option<u64>,
    /// Bits of the layers whose solids stop it on its way.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub blocked_by: u32,
    /// The anchor that this way begins at.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub blocked_from: Option<String>,
}

/// A part and what a hit on it does.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PackPart {
    /// Its name.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub part: Option<String>,
    /// The family that it belongs to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub group: Option<String>,
    /// What damage is multiplied by.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub factor: Option<Number>,
    /// Whether a hit on it is the end, whatever its damage.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub is_vital: bool,
}

/// An anchor that stands for a part.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PackPartAnchor {
    /// The anchor's name.
    pub anchor: String,
    /// The part.
    #[serde(flatten)]
    pub part: PackPart,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "the serializer asks for a reference")]
fn is_zero(bits: &u32) -> bool {
    *bits == 0
}

/// An attack: a hit shape in an animation.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackAttack {
    /// The animation.
    pub animation: String,
    /// The hit shape.
    pub shape: String,
    /// The frames of the animation that have it.
    pub frames: Vec<usize>,
    /// Ticks before the first of them.
    pub startup: u32,
    /// Ticks of all of them.
    pub active: u32,
    /// Ticks of frames between these.
    pub pauses: u32,
    /// Ticks after the last.
    pub recovery: u32,
}

/// An animation.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackAnimation {
    /// Its name.
    pub name: String,
    /// The way its art is drawn: `left` or `right`.
    pub faces: String,
    /// The animation that it is shown for when that faces this way.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub stands_for: Option<String>,
    /// Its first frame among the actor's.
    pub first: usize,
    /// How many frames it has.
    pub count: usize,
}

/// A frame.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackFrame {
    /// Its animation.
    pub animation: String,
    /// Its number there.
    pub frame: usize,
    /// For how many ticks it is shown.
    pub ticks: u32,
    /// The facing it is drawn in, then the other one where that was exported.
    pub sides: Vec<PackSide>,
}

/// A frame in a facing.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackSide {
    /// `left` or `right`.
    pub facing: String,
    /// The picture that is seen.
    pub art: Art,
    /// Anchors by name.
    pub anchors: BTreeMap<String, PackPoint>,
    /// Shapes in the actor file's order.
    pub shapes: Vec<PackShape>,
}

/// Where a frame's picture is: px of the file, y down from its top left, whatever the pack's space is.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct Art {
    /// The file, from the actor's.
    pub image: String,
    /// Which image of an animated file.
    #[serde(default, skip_serializing_if = "is_first")]
    pub image_number: usize,
    /// Left, top, width, height in the file.
    pub rect: [u32; 4],
    /// Whether it is shown flipped sideways.
    pub flipped: bool,
    /// The pivot in the frame as it is shown, from its top left.
    pub pivot: PackPoint,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "the serializer asks for a reference")]
fn is_first(number: &usize) -> bool {
    *number == 0
}

/// A shape on a frame.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackShape {
    /// Its name: see [`PackActor::shapes`].
    pub shape: String,
    /// `box`, `circle`, `capsule`, `hull`, `outline`, `pieces` or `points`.
    pub kind: String,
    /// A box: the corner with the least coordinates, width, height.
    #[serde(rename = "box", default, skip_serializing_if = "Option::is_none")]
    pub rect: Option<[Number; 4]>,
    /// A circle: middle and radius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub circle: Option<[Number; 3]>,
    /// A capsule: the ends of its spine and its radius.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub capsule: Option<[Number; 5]>,
    /// Its outline; several rings where it is in several parts.
    pub outline: Vec<Ring>,
    /// Holes in it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub holes: Vec<Ring>,
    /// Convex pieces that tile it.
    pub pieces: Vec<Ring>,
}

impl PackActor {
    /// A shape's meaning.
    pub fn meaning(&self, shape: &str) -> Option<&ShapeMeaning> {
        self.shapes.iter().find(|known| known.name == shape)
    }
}
