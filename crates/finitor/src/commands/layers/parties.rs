//! All that has a layer or a mask.

use crate::exit::Failure;
use crate::session::Session;
use finitor_core::layers::{LayerSet, Party, PartyRole};
use finitor_core::stage::Stage;

/// A shape or a thing on a stage, with where the files name it.
pub(crate) struct Standing {
    pub(crate) party: Party,
    /// The actor or stage.
    pub(crate) owner: String,
    /// Whether it is a shape of an actor.
    pub(crate) is_shape: bool,
}

/// Every shape and every thing on a stage, as they are while the states last.
pub(crate) fn parties(session: &Session, states: &[String]) -> Result<Vec<Standing>, Failure> {
    let layers = &session.project.layers;
    let mut all = Vec::new();
    for actor in session.actors(&[])? {
        for shape in &actor.shapes {
            let (layer, mask) = layers.during(shape.layer, shape.mask, states);
            let party = Party { name: format!("{}.{}", actor.name, shape.name), role: shape.role.party(), layer, mask };
            all.push(Standing { party, owner: actor.name.clone(), is_shape: true });
        }
    }
    for stage in session.stages()? {
        let owner = stage.name.clone();
        let standing = |party| Standing { party, owner: owner.clone(), is_shape: false };
        all.extend(things(&stage).into_iter().map(standing));
    }
    Ok(all)
}

/// Finds `actor.shape` or `stage/thing`.
pub(super) fn find<'p>(all: &'p [Standing], address: &str) -> Result<&'p Standing, Failure> {
    all.iter().find(|standing| standing.party.name == address).ok_or_else(|| {
        let known: Vec<&str> = all.iter().map(|standing| standing.party.name.as_str()).collect();
        Failure::Usage(format!(
            "\"{address}\" is neither a shape (ACTOR.SHAPE) nor a thing of a stage (STAGE/THING). There are: {}",
            known.join(", ")
        ))
    })
}

fn things(stage: &Stage) -> Vec<Party> {
    let party = |name: &str, role, layer, mask| Party { name: format!("{}/{name}", stage.name), role, layer, mask };
    let solids = stage.solids.iter().map(|s| party(&s.name, PartyRole::Solid, s.layer, s.mask));
    let one_ways = stage.one_ways.iter().map(|o| party(&o.name, PartyRole::OneWay, o.layer, o.mask));
    let zones = stage.zones.iter().map(|z| party(&z.name, PartyRole::Zone, LayerSet::NONE, z.mask));
    solids.chain(one_ways).chain(zones).collect()
}
