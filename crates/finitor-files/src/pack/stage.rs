//! Stages of a pack.

use super::{PackPoint, Ring};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// A stage.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackStage {
    /// Its name.
    pub name: String,
    /// Width and height.
    pub size: PackPoint,
    /// What stops bodies from all sides; merged tiles among them.
    pub solids: Vec<PackThing>,
    /// Platforms that stop bodies from one side.
    pub one_ways: Vec<PackOneWay>,
    /// Zones.
    pub zones: Vec<PackZone>,
    /// Where actors start.
    pub spawns: Vec<PackSpawn>,
    /// Places with a name.
    pub spots: Vec<PackSpot>,
}

/// An outline on a stage.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PackThing {
    /// Its name.
    pub name: String,
    /// Bits of the layers it is on; 0 for zones.
    pub layer: u32,
    /// Bits of the layers it detects.
    pub mask: u32,
    /// Its outline.
    pub outline: Ring,
    /// Holes in it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub holes: Vec<Ring>,
    /// Convex pieces that tile it.
    pub pieces: Vec<Ring>,
}

/// A one-way platform.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PackOneWay {
    /// Its outline.
    #[serde(flatten)]
    pub thing: PackThing,
    /// The way it lets bodies pass, a unit vector.
    pub passes: PackPoint,
}

/// A zone.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
pub struct PackZone {
    /// Its outline.
    #[serde(flatten)]
    pub thing: PackThing,
    /// `hazard`, `goal`, `event` or `warp`.
    pub effect: String,
    /// Ticks after an entry in which it has no effect on that actor.
    pub cooldown: u32,
    /// Whether it has an effect on each actor only once.
    pub once: bool,
    /// Where a warp leads.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub warp: Option<PackWarp>,
}

/// Where a warp leads.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackWarp {
    /// The zone.
    pub to: String,
    /// Where the pivot is put, on the stage.
    pub landing: PackPoint,
    /// The facing then; as before where it is not given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub facing: Option<String>,
    /// Whether the speed is mirrored when it faces the other way then.
    pub turns_velocity: bool,
}

/// Where an actor starts.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackSpawn {
    /// The actor.
    pub actor: String,
    /// The pivot.
    pub at: PackPoint,
    /// `left` or `right`.
    pub facing: String,
}

/// A place with a name.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct PackSpot {
    /// Its name.
    pub name: String,
    /// Where it is.
    pub at: PackPoint,
}
