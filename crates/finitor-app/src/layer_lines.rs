//! The line to change for a finding about layers.

use crate::project::OpenProject;
use finitor_core::lint::{LayerParty, LayerSpot, OwnerKind};
use finitor_files::{ActorFile, LayerUse, UseKind, UseOf, UseOwner};

/// Where masks and layers are written.
pub(crate) struct LayerLines<'l> {
    pub(crate) project: &'l OpenProject<'l>,
    pub(crate) actors: &'l [&'l ActorFile],
    pub(crate) parties: &'l [LayerParty],
    pub(crate) uses: &'l [LayerUse],
}

impl LayerLines<'_> {
    /// The line to change: `finitor.toml:16`.
    pub(crate) fn line_of(&self, spot: LayerSpot) -> String {
        let layers = &self.project.project.layers;
        let named = |name: &str| self.uses.iter().find(|found| found.name == name && found.kind == UseKind::Named);
        let line = |found: Option<&LayerUse>| found.map_or_else(project_masks, |found| self.shown(found));
        match spot {
            LayerSpot::Layer(bit) => line(named(&layers.names[bit])),
            LayerSpot::Alias(index) => line(named(&layers.aliases[index].name)),
            LayerSpot::Mask(index) => self.mask_of(&self.parties[index]),
        }
    }

    fn shown(&self, found: &LayerUse) -> String {
        format!("{}:{}", self.project.shown(&found.path), found.place.line)
    }

    /// The line that sets a party's mask: its own, else that of its layer.
    fn mask_of(&self, of: &LayerParty) -> String {
        let layers = &self.project.project.layers;
        if of.of == OwnerKind::Stage {
            let own = UseOf::MaskOf(UseOwner::Thing { sort: "zone".to_string(), name: of.name.clone() });
            return self
                .uses
                .iter()
                .find(|found| found.of == own)
                .map_or_else(project_masks, |found| self.shown(found));
        }
        let Some(file) = self.actors.iter().find(|actor| actor.name == of.owner) else { return project_masks() };
        let Some(spec) = file.shapes.iter().find(|shape| shape.name == of.name) else { return project_masks() };
        let table = spec.siblings.as_ref().unwrap_or(&of.name);
        let own = UseOf::MaskOf(UseOwner::Shape(table.clone()));
        if let Some(found) = self.uses.iter().find(|found| found.path == file.path && found.of == own) {
            return self.shown(found);
        }
        let of_layer = |found: &&LayerUse| {
            let is_row = found.kind == UseKind::Subject && found.of == UseOf::ProjectMasks;
            is_row && layers.find(&found.name).is_some_and(|bit| of.party.layer.bits().any(|on| on == bit))
        };
        match self.uses.iter().find(of_layer) {
            Some(found) => format!("{}, or a `mask` in [shape.{table}]", self.shown(found)),
            None => format!("a `mask` in [shape.{table}], {}:{}", self.project.shown(&file.path), spec.place.line),
        }
    }
}

fn project_masks() -> String {
    "[layers.mask] of finitor.toml".to_string()
}
