//! What has a layer or a mask and what it affects, as it is written.

use finitor_core::layers::{LayerSet, Layers, acts, may_act};
use finitor_core::lint::LayerParty;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`LayersByShape`].
pub const BY_SHAPE_SCHEMA: &str = "finitor.layers_by_shape/1";

/// Shapes and things by what they affect.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct LayersByShape {
    /// [`BY_SHAPE_SCHEMA`].
    pub schema: String,
    /// While these last.
    pub states: Vec<String>,
    /// Everything with a layer or a mask.
    pub things: Vec<ThingLayers>,
}

/// A shape or thing.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ThingLayers {
    /// Its name.
    pub name: String,
    /// What it is.
    pub role: String,
    /// The bits it is on.
    pub layer: u32,
    /// The same, by name.
    pub on: Vec<String>,
    /// The bits it detects.
    pub mask: u32,
    /// The same, by name.
    pub detects: Vec<String>,
    /// What it affects, or is affected by.
    pub affects: Vec<String>,
    /// Of how many that it could.
    #[serde(skip)]
    pub could_affect: usize,
}

impl LayersByShape {
    /// What each party affects while states last.
    pub fn new(layers: &Layers, parties: &[LayerParty], states: &[String]) -> LayersByShape {
        let names =
            |set: LayerSet| set.bits().filter_map(|bit| layers.names.get(bit).cloned()).collect::<Vec<String>>();
        let things = parties.iter().map(|one| {
            // A shape meets those of its own actor on other instances, yet never on its own.
            let others = || parties.iter().filter(|other| !std::ptr::eq(*other, one) && may_meet(one, other));
            let acting = others().filter(|other| acts(layers.contact, one.party.stand(), other.party.stand()));
            let party = &one.party;
            ThingLayers {
                name: party.name.clone(),
                role: party.role.name().to_string(),
                layer: party.layer.0,
                on: names(party.layer),
                mask: party.mask.0,
                detects: names(party.mask),
                affects: acting.map(|other| other.party.name.clone()).collect(),
                could_affect: others().count(),
            }
        });
        LayersByShape { schema: BY_SHAPE_SCHEMA.to_string(), states: states.to_vec(), things: things.collect() }
    }
}

/// Whether one could affect the other, by what they are.
fn may_meet(one: &LayerParty, other: &LayerParty) -> bool {
    let apart = one.owner != other.owner || one.of != other.of;
    apart && may_act(one.party.role, other.party.role)
}
