//! What is wrong with layers and masks before anything moves.

use super::LintFinding;
use crate::check::{Rule, Severity};
use crate::layers::{Contact, LayerSet, Layers, Party, PartyRole, acts, may_act};

/// A shape of an actor, or a thing on a stage.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LayerParty {
    /// Its name, role, layer and mask by the files.
    pub party: Party,
    /// The actor or stage it belongs to.
    pub owner: String,
    /// Its name there.
    pub name: String,
    /// Whether it is a shape of an actor.
    pub is_shape: bool,
}

/// What a finding about layers speaks of, so that the line to change can be named.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LayerSpot {
    /// The mask of one of the parties, by index.
    Mask(usize),
    /// A layer's name, by bit.
    Layer(usize),
    /// A family, by index.
    Family(usize),
}

/// Layers and masks that cannot do what they are there for, rule by rule, and where to mend each.
///
/// # Complexity
/// O(p2), p parties.
pub fn layer_findings(
    layers: &Layers,
    parties: &[LayerParty],
    families_used: &[bool],
    severity: impl Fn(Rule) -> Severity,
) -> Vec<(LintFinding, LayerSpot)> {
    let look = Look { layers, parties };
    let mut found = Vec::new();
    let shape = |index: usize, rule: Rule, figure: f64, message: String, remedy: String| {
        let LayerParty { owner, name, .. } = &parties[index];
        let (actor, place) = (owner.clone(), name.clone());
        let finding = LintFinding { rule, severity: severity(rule), actor, place, figure, message, remedy };
        (finding, LayerSpot::Mask(index))
    };
    for (index, of) in parties.iter().enumerate() {
        let told = match of.party.role {
            PartyRole::Sensor => look.sensor(index),
            PartyRole::Hit => look.hit(index),
            PartyRole::Body => look.body(index),
            PartyRole::Zone => look.zone(index),
            _ => Vec::new(),
        };
        found.extend(
            told.into_iter().map(|(rule, figure, message, remedy)| shape(index, rule, figure, message, remedy)),
        );
    }
    let asks = look.one_sided();
    found.extend(
        asks.into_iter()
            .map(|(index, count, message, remedy)| shape(index, Rule::OneSided, count as f64, message, remedy)),
    );
    let named = |rule: Rule, place: &str, figure: f64, message: String, remedy: String| LintFinding {
        rule,
        severity: severity(rule),
        actor: "layers".into(),
        place: place.into(),
        figure,
        message,
        remedy,
    };
    for (bit, name) in layers.names.iter().enumerate() {
        if let Some((rule, figure, message, remedy)) = look.layer(bit) {
            found.push((named(rule, name, figure, message, remedy), LayerSpot::Layer(bit)));
        }
    }
    for (index, family) in layers.families.iter().enumerate().filter(|(index, _)| !families_used[*index]) {
        let message = format!("no list names the family {}: {}", family.name, layers.describe(family.layers));
        let finding = named(Rule::UnusedLayer, &family.name, 0.0, message, "take the family out, or use it".into());
        found.push((finding, LayerSpot::Family(index)));
    }
    found
}

/// Rule, figure, message and remedy.
type Told = (Rule, f64, String, String);

struct Look<'a> {
    layers: &'a Layers,
    parties: &'a [LayerParty],
}

impl Look<'_> {
    fn name(&self, index: usize) -> &str {
        &self.parties[index].party.name
    }

    /// The others that a shape can meet and something could follow with.
    fn others(&self, index: usize) -> impl Iterator<Item = &LayerParty> {
        let one = &self.parties[index];
        self.parties
            .iter()
            .enumerate()
            .filter(move |(other, of)| {
                // Other instances of an actor have the same shapes.
                (*other != index || one.party.role == PartyRole::Body) && may_act(one.party.role, of.party.role)
            })
            .map(|(_, of)| of)
    }

    fn acts_with(&self, index: usize, wanted: impl Fn(&LayerParty) -> bool) -> bool {
        let stand = self.parties[index].party.stand();
        self.others(index).any(|of| wanted(of) && acts(self.layers.contact, stand, of.party.stand()))
    }

    /// All layers that something is on which the party could act with.
    fn of_use(&self, index: usize, wanted: impl Fn(&LayerParty) -> bool) -> LayerSet {
        self.others(index).filter(|of| wanted(of)).fold(LayerSet::NONE, |set, of| set.or(of.party.layer))
    }

    fn add_one_of(&self, set: LayerSet) -> String {
        let names = set.bits().map(|bit| self.layers.describe(LayerSet::of(bit))).collect::<Vec<_>>();
        match names.as_slice() {
            [] => "put something on a layer that it looks for".to_string(),
            [one] => format!("add {one} to its mask"),
            several => format!("add {} to its mask, whichever is meant", several.join(" or ")),
        }
    }

    /// Why a mask finds nothing; `none` says what is not there.
    fn nothing_on(&self, of: &LayerParty, none: &str) -> String {
        match of.party.mask.is_empty() {
            true => "its mask is empty".to_string(),
            false => format!("its mask has {}, and {none} on that", self.layers.describe(of.party.mask)),
        }
    }

    fn sensor(&self, index: usize) -> Vec<Told> {
        let of = &self.parties[index];
        let mut told = Vec::new();
        let own = self
            .parties
            .iter()
            .filter(|other| other.is_shape && other.owner == of.owner && other.party.name != of.party.name);
        let own: Vec<&LayerParty> = own.filter(|other| of.party.mask.sees(other.party.layer)).collect();
        if let Some(first) = own.first() {
            let bits = own.iter().fold(LayerSet::NONE, |set, other| set.or(of.party.mask.and(other.party.layer)));
            let message = format!(
                "{} would find its own owner where a game does not leave that out: its mask has {}, and {} is on it",
                of.party.name,
                self.layers.describe(bits),
                first.party.name
            );
            let rest = self.layers.describe(of.party.mask.without(bits));
            let remedy = format!("take {} out of its mask, so that it has {rest}", self.layers.describe(bits));
            told.push((Rule::SelfSense, own.len() as f64, message, remedy));
        }
        let others: Vec<&LayerParty> =
            self.others(index).filter(|other| other.owner != of.owner || !other.is_shape).collect();
        if !others.iter().any(|other| of.party.mask.sees(other.party.layer)) {
            let message = format!("{} finds nothing: {}", of.party.name, self.nothing_on(of, "nothing else is"));
            let there = others.iter().fold(LayerSet::NONE, |set, other| set.or(other.party.layer));
            told.push((Rule::BlindSensor, 0.0, message, self.add_one_of(there)));
        }
        told
    }

    fn hit(&self, index: usize) -> Vec<Told> {
        let of = &self.parties[index];
        // A blow of one's own does not count, one of another instance does; yet it is not what a hit is made for.
        let meant = |other: &LayerParty| other.owner != of.owner && other.party.role == PartyRole::Hurt;
        if self.acts_with(index, meant) || !self.parties.iter().any(meant) {
            return Vec::new();
        }
        let why = self.nothing_on(of, "no other actor has a hurt shape");
        let message = format!("{} can strike nobody: {why}", of.party.name);
        vec![(Rule::IdleHit, 0.0, message, self.add_one_of(self.of_use(index, meant)))]
    }

    fn body(&self, index: usize) -> Vec<Told> {
        let of = &self.parties[index];
        if self.acts_with(index, |other| !matches!(other.party.role, PartyRole::Zone | PartyRole::Sensor)) {
            return Vec::new();
        }
        let still = |other: &LayerParty| matches!(other.party.role, PartyRole::Solid | PartyRole::OneWay);
        if !self.parties.iter().any(still) {
            return Vec::new();
        }
        let why = self.nothing_on(of, "no solid, platform or other body is");
        let message = format!("nothing stops {}: {why}", of.party.name);
        vec![(Rule::UnstoppedBody, 0.0, message, self.add_one_of(self.of_use(index, still)))]
    }

    fn zone(&self, index: usize) -> Vec<Told> {
        let of = &self.parties[index];
        let body = |other: &LayerParty| other.party.role == PartyRole::Body;
        if self.acts_with(index, body) || !self.parties.iter().any(body) {
            return Vec::new();
        }
        let why = self.nothing_on(of, "no body is");
        let message = format!("nobody can enter {}: {why}", of.party.name);
        vec![(Rule::EmptyZone, 0.0, message, self.add_one_of(self.of_use(index, body)))]
    }

    /// With contact = "both": bodies of which one asks in vain, told once for each two sets of layers.
    fn one_sided(&self) -> Vec<(usize, usize, String, String)> {
        if self.layers.contact == Contact::Either {
            return Vec::new();
        }
        let bodies: Vec<usize> =
            (0..self.parties.len()).filter(|i| self.parties[*i].party.role == PartyRole::Body).collect();
        let mut told: Vec<(LayerSet, LayerSet, usize, usize, usize)> = Vec::new();
        for &one in &bodies {
            for &other in bodies.iter().filter(|other| self.parties[**other].owner != self.parties[one].owner) {
                let (a, b) = (&self.parties[one].party, &self.parties[other].party);
                if !a.mask.sees(b.layer) || b.mask.sees(a.layer) {
                    continue;
                }
                match told.iter_mut().find(|(on, seen, ..)| (*on, *seen) == (a.layer, b.layer)) {
                    Some((.., count)) => *count += 1,
                    None => told.push((a.layer, b.layer, one, other, 1)),
                }
            }
        }
        let tell = |(on, _, one, other, count): (LayerSet, LayerSet, usize, usize, usize)| {
            let (a, b) = (self.name(one), self.name(other));
            let message = format!(
                "{a} asks to stop at {b}, which does not ask back, and contact is \"both\": they pass through each other"
            );
            let remedy = format!("add {} to the mask of {b}, or set contact = \"either\"", self.layers.describe(on));
            (other, count, message, remedy)
        };
        told.into_iter().map(tell).collect()
    }

    fn layer(&self, bit: usize) -> Option<Told> {
        let layer = LayerSet::of(bit);
        let on: Vec<&LayerParty> = self.parties.iter().filter(|of| of.party.layer.sees(layer)).collect();
        let looked = self.parties.iter().any(|of| of.party.mask.sees(layer));
        let masks = self.layers.masks.iter().any(|mask| mask.sees(layer)) || !self.layers.masks[bit].is_empty();
        let listed = masks || self.layers.families.iter().any(|family| family.layers.sees(layer));
        let joined = self.layers.states.iter().flat_map(|rule| &rule.changes).any(|c| c.join.or(c.add).sees(layer));
        let name = self.layers.describe(layer);
        if on.is_empty() && !looked && !joined && !listed {
            let message = format!("nothing is on {name}, and nothing looks for it");
            return Some((
                Rule::UnusedLayer,
                0.0,
                message,
                format!("`finitor layers remove {}`", self.layers.names[bit]),
            ));
        }
        // Hits and sensors look; what stops and what can be struck must be looked for.
        let to_be_seen =
            |of: &&&LayerParty| matches!(of.party.role, PartyRole::Solid | PartyRole::OneWay | PartyRole::Hurt);
        let first = on.iter().find(to_be_seen)?;
        if looked || joined {
            return None;
        }
        let count = on.iter().filter(to_be_seen).count();
        let message = format!("no mask has {name}: nothing finds {} ({count} such)", first.party.name);
        Some((Rule::UnseenLayer, count as f64, message, format!("add {name} to the mask of what should find it")))
    }
}
