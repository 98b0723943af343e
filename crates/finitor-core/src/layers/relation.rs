//! What two things mean to each other, in words and bits.

use super::{Contact, Detection, LayerSet, Layers};
use PartyRole::{Body, Hit, Hurt, OneWay, Sensor, Solid, Zone};

/// What a thing is, as far as sight matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum PartyRole {
    /// A shape that walls stop.
    Body,
    /// A shape that can be struck.
    Hurt,
    /// A shape that strikes.
    Hit,
    /// A shape that only detects.
    Sensor,
    /// A still solid.
    Solid,
    /// A platform that stops from one side only.
    OneWay,
    /// A trigger zone.
    Zone,
}

impl PartyRole {
    /// The role in one word or two.
    pub fn name(self) -> &'static str {
        match self {
            PartyRole::Body => "body",
            PartyRole::Hurt => "hurt",
            PartyRole::Hit => "hit",
            PartyRole::Sensor => "sensor",
            PartyRole::Solid => "solid",
            PartyRole::OneWay => "one-way platform",
            PartyRole::Zone => "zone",
        }
    }
}

/// What decides about a pair, of one side of it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Stand {
    /// What it is.
    pub role: PartyRole,
    /// What it is on.
    pub layer: LayerSet,
    /// What it detects for.
    pub mask: LayerSet,
}

/// Whether anything follows when two things overlap.
pub fn acts(contact: Contact, first: Stand, second: Stand) -> bool {
    let (sees, seen) = (first.mask.sees(second.layer), second.mask.sees(first.layer));
    match (first.role, second.role) {
        (Body, Body) => contact.stops(Detection { there: sees, back: seen }),
        (Sensor, Sensor) => sees || seen,
        // A zone is on no layer, and takes note of bodies alone.
        (Sensor, Zone) | (Zone, Sensor) => false,
        (Body, Solid | OneWay) | (Hit, Hurt) | (Zone, Body) | (Sensor, _) => sees,
        (Solid | OneWay, Body) | (Hurt, Hit) | (Body, Zone) | (_, Sensor) => seen,
        _ => false,
    }
}

/// Whether anything could ever follow for things that are this, with the right masks.
pub fn may_act(first: PartyRole, second: PartyRole) -> bool {
    let all = |role| Stand { role, layer: LayerSet(u32::MAX), mask: LayerSet(u32::MAX) };
    acts(Contact::Both, all(first), all(second))
}

/// One side of a pair.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Party {
    /// `actor.shape` or `stage/thing`.
    pub name: String,
    /// What it is.
    pub role: PartyRole,
    /// What it is on.
    pub layer: LayerSet,
    /// What it detects for.
    pub mask: LayerSet,
}

impl Party {
    /// What decides about pairs with it.
    pub fn stand(&self) -> Stand {
        Stand { role: self.role, layer: self.layer, mask: self.mask }
    }
}

/// Whether one party sees the other.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Sight {
    /// The layers of the other that its mask has.
    pub shared: LayerSet,
    /// The fact as a sentence.
    pub sentence: String,
}

/// What two parties mean to each other.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Relation {
    /// What the first sees of the second.
    pub first: Sight,
    /// What the second sees of the first.
    pub second: Sight,
    /// Whether anything follows.
    pub acts: bool,
    /// What follows, as sentences.
    pub follows: Vec<String>,
    /// Where nothing follows: the change of one bit that would make something follow.
    pub remedy: Option<BitToAdd>,
}

/// A bit that a mask lacks.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct BitToAdd {
    /// Whose mask: `actor.shape` or `stage/thing`.
    pub looker: String,
    /// The layer.
    pub bit: usize,
    /// The change in words.
    pub words: String,
}

/// What can follow from a pair of roles, and whose sight it takes.
enum Rule {
    /// The first (or second, when swapped) must see the other.
    OneSees { looker_is_first: bool, effect: fn(&str, &str) -> String },
    /// Two bodies.
    Bodies,
    /// Nothing ever follows.
    Never,
}

fn stops(looker: &str, other: &str) -> String {
    format!("{looker} stops at {other}.")
}

fn stops_one_way(looker: &str, other: &str) -> String {
    format!("{looker} stops at {other} when it comes from the side that does not let pass, and passes otherwise.")
}

fn strikes(looker: &str, other: &str) -> String {
    format!("{looker} strikes {other}.")
}

fn senses(looker: &str, other: &str) -> String {
    format!("{looker} senses {other}.")
}

fn triggers(looker: &str, other: &str) -> String {
    format!("{looker} emits enter and exit for {other}.")
}

fn rules(first: PartyRole, second: PartyRole) -> Vec<Rule> {
    let one = |looker_is_first, effect| vec![Rule::OneSees { looker_is_first, effect }];
    match (first, second) {
        (Body, Body) => vec![Rule::Bodies],
        (Body, Solid) => one(true, stops),
        (Solid, Body) => one(false, stops),
        (Body, OneWay) => one(true, stops_one_way),
        (OneWay, Body) => one(false, stops_one_way),
        (Hit, Hurt) => one(true, strikes),
        (Hurt, Hit) => one(false, strikes),
        (Zone, Body) => one(true, triggers),
        (Body, Zone) => one(false, triggers),
        (Sensor, Sensor) => vec![
            Rule::OneSees { looker_is_first: true, effect: senses },
            Rule::OneSees { looker_is_first: false, effect: senses },
        ],
        (Sensor, Zone) | (Zone, Sensor) => vec![Rule::Never],
        (Sensor, _) => one(true, senses),
        (_, Sensor) => one(false, senses),
        _ => vec![Rule::Never],
    }
}

/// What two parties mean to each other.
pub fn relation(layers: &Layers, first: &Party, second: &Party) -> Relation {
    let (one, other) = (sight(layers, first, second), sight(layers, second, first));
    let (sees, seen) = (!one.shared.is_empty(), !other.shared.is_empty());
    let mut follows = Vec::new();
    let mut remedy = None;
    for rule in rules(first.role, second.role) {
        match rule {
            Rule::OneSees { looker_is_first, effect } => {
                let (looker, target, detects) =
                    if looker_is_first { (first, second, sees) } else { (second, first, seen) };
                if detects {
                    follows.push(effect(&looker.name, &target.name));
                } else {
                    remedy = remedy.or_else(|| bit_to_add(layers, looker, target));
                }
            }
            Rule::Bodies => match (layers.contact, sees, seen) {
                (Contact::Either, false, false) => remedy = bit_to_add(layers, first, second),
                (Contact::Both, false, _) => remedy = bit_to_add(layers, first, second),
                (Contact::Both, true, false) => remedy = bit_to_add(layers, second, first),
                (Contact::Either, ..) => {
                    let reason = if sees && seen {
                        "both masks detect the other"
                    } else {
                        "contact is \"either\" and one mask detects the other"
                    };
                    follows.push(format!("{} and {} stop each other: {reason}.", first.name, second.name));
                }
                (Contact::Both, true, true) => {
                    follows.push(format!(
                        "{} and {} stop each other: both masks detect the other.",
                        first.name, second.name
                    ));
                }
            },
            Rule::Never => {}
        }
    }
    let acts = acts(layers.contact, first.stand(), second.stand());
    if !acts {
        follows.push(no_effect(first, second));
    }
    Relation { first: one, second: other, acts, follows, remedy: remedy.filter(|_| !acts) }
}

fn no_effect(first: &Party, second: &Party) -> String {
    if !may_act(first.role, second.role) {
        let (a, b) = (first.role.name(), second.role.name());
        return format!("No effect, whatever the masks: a {a} and a {b} never act on each other.");
    }
    let ends = match (first.layer.is_empty(), second.layer.is_empty()) {
        (false, true) => format!(" {} is on no layer, so no mask can detect it.", second.name),
        (true, false) => format!(" {} is on no layer, so no mask can detect it.", first.name),
        _ => String::new(),
    };
    format!("No effect: {} and {} pass through each other.{ends}", first.name, second.name)
}

fn sight(layers: &Layers, looker: &Party, target: &Party) -> Sight {
    let shared = looker.mask.and(target.layer);
    let (looker_name, target_name) = (&looker.name, &target.name);
    let sentence = if !shared.is_empty() {
        format!("{looker_name} detects {target_name}: its mask has {}.", layers.describe(shared))
    } else if looker.mask.is_empty() {
        format!("{looker_name} detects nothing: its mask is empty.")
    } else {
        format!(
            "{looker_name} does not detect {target_name}: its mask has {}, {target_name} is on {}.",
            layers.describe(looker.mask),
            layers.describe(target.layer)
        )
    };
    Sight { shared, sentence }
}

fn bit_to_add(layers: &Layers, looker: &Party, target: &Party) -> Option<BitToAdd> {
    let bit = target.layer.bits().next()?;
    let after = looker.mask.or(LayerSet::of(bit));
    let words = format!(
        "add {} to the mask of {} (mask {} becomes {})",
        layers.describe(LayerSet::of(bit)),
        looker.name,
        looker.mask.0,
        after.0
    );
    Some(BitToAdd { looker: looker.name.clone(), bit, words })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Every combination of two layers, masks, contact and roles against section "what blocks, what sees" restated plainly.
    #[test]
    fn truth_table_of_two_layers() {
        let roles = [Body, Hurt, Hit, Sensor, Solid, OneWay, Zone];
        let names = vec!["one".into(), "two".into()];
        let mut count = 0;
        for contact in [Contact::Either, Contact::Both] {
            let layers = Layers { names: names.clone(), masks: vec![LayerSet::NONE; 2], contact, ..Layers::default() };
            for (first, second) in roles.iter().flat_map(|a| roles.map(|b| (*a, b))) {
                for bits in 0..256_u32 {
                    let set = |shift: u32| LayerSet(bits >> shift & 3);
                    let party = |name: &str, role, layer, mask| Party { name: name.into(), role, layer, mask };
                    let (a, b) = (party("a.x", first, set(0), set(2)), party("b.y", second, set(4), set(6)));
                    let found = relation(&layers, &a, &b);
                    let both = |x: u32, y: u32| (x & 1 == 1 && y & 1 == 1) || (x & 2 == 2 && y & 2 == 2);
                    let (sees, seen) = (both(bits >> 2, bits >> 4), both(bits >> 6, bits));
                    let wall = |r| matches!(r, Solid | OneWay);
                    let expected = (first == Body && wall(second) && sees)
                        || (second == Body && wall(first) && seen)
                        || (first == Body
                            && second == Body
                            && if contact == Contact::Either { sees || seen } else { sees && seen })
                        || (first == Hit && second == Hurt && sees)
                        || (first == Hurt && second == Hit && seen)
                        || (first == Zone && second == Body && sees)
                        || (first == Body && second == Zone && seen)
                        || (first == Sensor && second != Zone && sees)
                        || (second == Sensor && first != Zone && seen);
                    let case = format!("{first:?} {second:?} {contact:?} {bits:b}: {found:?}");
                    assert_eq!((found.acts, acts(contact, a.stand(), b.stand())), (expected, expected), "{case}");
                    assert_eq!(!found.first.shared.is_empty(), sees, "{case}");
                    assert_eq!(!found.second.shared.is_empty(), seen, "{case}");
                    let denied = found.follows[0].starts_with("No effect");
                    assert_eq!(denied, !expected, "{case}");
                    // Where one bit can change it, taking the advice does.
                    assert!(!found.acts || found.remedy.is_none(), "{case}");
                    let possible = !found.acts && may_act(first, second) && !(a.layer.is_empty() && b.layer.is_empty());
                    assert!(found.remedy.is_none() || possible, "{case}");
                    count += 1;
                }
            }
        }
        assert_eq!(count, 2 * 49 * 256);
    }

    #[test]
    fn states_add_then_drop_in_file_order() {
        let change = |add, drop| LayerChange { add: LayerSet(add), drop: LayerSet(drop), ..LayerChange::default() };
        let gone = LayerChange { join: LayerSet(4), leave: LayerSet(1), ..LayerChange::default() };
        let rule = |name: &str, change| StateRule { name: name.into(), changes: vec![change] };
        let layers = Layers {
            names: vec!["hero".into(), "ledge".into(), "crate".into()],
            masks: vec![LayerSet(2), LayerSet::NONE, LayerSet::NONE],
            states: vec![rule("riding", change(4, 0)), rule("falling", change(0, 6)), rule("dashing", gone)],
            ..Layers::default()
        };
        let during = |states: &[&str]| {
            let states: Vec<String> = states.iter().map(|s| s.to_string()).collect();
            let (on, mask) = layers.during(LayerSet(1), LayerSet(2), &states);
            (on.0, mask.0)
        };
        assert_eq!(during(&[]), (1, 2));
        assert_eq!(during(&["riding"]), (1, 6));
        assert_eq!(during(&["falling", "riding"]), (1, 0), "the file's order counts, not the take's");
        assert_eq!(during(&["dashing", "riding"]), (4, 6), "another layer, and still hero's changes");
        let (on, mask) = layers.during(LayerSet(2), LayerSet(2), &["riding".to_string()]);
        assert_eq!((on.0, mask.0), (2, 2), "other layers keep theirs");
    }

    use super::super::{LayerChange, StateRule};
}
