//! Who detects whom, over all shapes of actors and things of stages.

use super::facts::{LayerFacts, LayerParty, LayerSpot, OwnerKind};
use super::still_rule::Fault;
use crate::finding::Place;
use crate::layers::{LayerSet, PartyRole, acts, may_act};

/// The parties that a rule about layers asks about.
#[derive(Clone, Copy)]
pub(super) struct Detection<'a> {
    pub(super) facts: LayerFacts<'a>,
}

impl<'a> Detection<'a> {
    /// Of a project's layers.
    pub(super) fn new(facts: &LayerFacts<'a>) -> Detection<'a> {
        Detection { facts: *facts }
    }

    /// The parties of a role, by index.
    pub(super) fn with_role(self, role: PartyRole) -> impl Iterator<Item = usize> + use<'a> {
        let parties = self.facts.parties;
        (0..parties.len()).filter(move |index| parties[*index].party.role == role)
    }

    /// A party.
    pub(super) fn party(self, index: usize) -> &'a LayerParty {
        &self.facts.parties[index]
    }

    /// Whether any party is as wanted.
    pub(super) fn any(self, wanted: impl Fn(&LayerParty) -> bool) -> bool {
        self.facts.parties.iter().any(wanted)
    }

    /// The others that a party can meet with an effect.
    pub(super) fn others(self, index: usize) -> impl Iterator<Item = &'a LayerParty> {
        let parties = self.facts.parties;
        let one = &parties[index];
        let may_meet = move |(other, of): &(usize, &LayerParty)| {
            // Other instances of an actor have the same shapes.
            (*other != index || one.party.role == PartyRole::Body) && may_act(one.party.role, of.party.role)
        };
        parties.iter().enumerate().filter(may_meet).map(|(_, of)| of)
    }

    /// Whether meeting any other that is wanted has an effect.
    pub(super) fn acts_with(self, index: usize, wanted: impl Fn(&LayerParty) -> bool) -> bool {
        let stand = self.party(index).party.stand();
        self.others(index).any(|of| wanted(of) && acts(self.facts.layers.contact, stand, of.party.stand()))
    }

    /// All layers that something is on which the party could have an effect with.
    pub(super) fn of_use(self, index: usize, wanted: impl Fn(&LayerParty) -> bool) -> LayerSet {
        self.others(index).filter(|of| wanted(of)).fold(LayerSet::NONE, |set, of| set.or(of.party.layer))
    }

    /// The fix for a mask that detects nothing: the layers to add.
    pub(super) fn add_one_of(self, set: LayerSet) -> String {
        let names: Vec<String> = set.bits().map(|bit| self.facts.layers.describe(LayerSet::of(bit))).collect();
        match names.as_slice() {
            [] => "Put something on a layer that it detects.".to_string(),
            [one] => format!("Add {one} to its mask."),
            several => format!("Add {} to its mask.", several.join(" or ")),
        }
    }

    /// Why a mask detects nothing; `none` says what is not there.
    pub(super) fn nothing_on(self, of: &LayerParty, none: &str) -> String {
        match of.party.mask.is_empty() {
            true => "its mask is empty".to_string(),
            false => format!("its mask has {}, and {none} on that", self.facts.layers.describe(of.party.mask)),
        }
    }

    /// What is said of a party, by its mask.
    pub(super) fn fault(self, index: usize, figure: f64, message: String, fix: String) -> (LayerSpot, Fault) {
        let LayerParty { owner, name, of, .. } = self.party(index);
        let place = match of {
            OwnerKind::Actor => Place::Actor(name.clone()),
            OwnerKind::Stage => Place::Stage(name.clone()),
        };
        (LayerSpot::Mask(index), Fault { subject: owner.clone(), place, figure, message, fix })
    }
}

/// What is said of a layer, or an alias, by its name.
pub(super) fn named(name: &str, figure: f64, message: String, fix: String) -> Fault {
    Fault { subject: "layers".to_string(), place: Place::Layers(name.to_string()), figure, message, fix }
}
