//! All that has a layer or a mask.

use crate::failure::{Failure, unknown};
use finitor_core::layers::{Layers, Party, Stand};
use finitor_core::lint::{LayerParty, OwnerKind};
use finitor_core::stage::Stage;
use finitor_files::ActorFile;

/// Every shape and every thing on a stage, as they are while the states last.
pub fn parties(layers: &Layers, actors: &[&ActorFile], stages: &[Stage], states: &[String]) -> Vec<LayerParty> {
    let mut all = Vec::new();
    for actor in actors {
        for shape in &actor.shapes {
            let (layer, mask) = layers.during(shape.layer, shape.mask, states);
            let party = Party { name: format!("{}.{}", actor.name, shape.name), role: shape.role.party(), layer, mask };
            let (owner, name, has_own_mask) = (actor.name.clone(), shape.name.clone(), shape.has_own_mask());
            all.push(LayerParty { party, owner, name, of: OwnerKind::Actor, has_own_mask });
        }
    }
    all.extend(stages.iter().flat_map(things));
    all
}

/// Finds `actor.shape` or `stage/thing`.
///
/// # Errors
/// A name that nothing has, with the nearest.
pub fn find_party<'p>(all: &'p [LayerParty], address: &str) -> Result<&'p LayerParty, Failure> {
    all.iter().find(|of| of.party.name == address).ok_or_else(|| {
        let known: Vec<&str> = all.iter().map(|of| of.party.name.as_str()).collect();
        unknown("shape (ACTOR.SHAPE) or thing of a stage (STAGE/THING)", address, &known)
    })
}

fn things(stage: &Stage) -> impl Iterator<Item = LayerParty> {
    stage.things().map(|(name, _, Stand { role, layer, mask })| LayerParty {
        party: Party { name: format!("{}/{name}", stage.name), role, layer, mask },
        owner: stage.name.clone(),
        name: name.to_string(),
        of: OwnerKind::Stage,
        has_own_mask: false,
    })
}
