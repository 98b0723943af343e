//! self_sense: a sensor's mask detects its own actor.

use crate::change::{Change, NewValue};
use crate::layers::{LayerSet, PartyRole};
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty, OwnerKind};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct SelfSense;

impl StillRule for SelfSense {
    const SPEC: Spec = Spec {
        code: "self_sense",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Shapes,
        thresholds: &[],
        text: RuleText {
            means: "A sensor detects a layer that a shape of its own actor is on.",
            matters: "Many games do not leave an actor's own shapes out: the sensor under the feet then finds the \
                      feet, and the actor never falls.",
            measured: "Each sensor's mask against the layers of all shapes of its actor. The figure is the number of \
                       shapes found. Finitor itself never lets an instance detect itself.",
            fix: "Remove the bit named from the sensor's mask, or put the shapes on another layer.",
            drawing: "    [ body ]  on hero\n    [sensor]  detects hero, too\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let (all, layers) = (Detection::new(facts), facts.layers);
        for index in all.with_role(PartyRole::Sensor) {
            let of = all.party(index);
            let is_own = |other: &&LayerParty| {
                other.of == OwnerKind::Actor && other.owner == of.owner && other.party.name != of.party.name
            };
            let own = facts.parties.iter().filter(is_own);
            let own: Vec<&LayerParty> = own.filter(|other| of.party.mask.sees(other.party.layer)).collect();
            let Some(first) = own.first() else { continue };
            let bits = own.iter().fold(LayerSet::NONE, |set, other| set.or(of.party.mask.and(other.party.layer)));
            let (shown, rest) = (layers.describe(bits), layers.describe(of.party.mask.without(bits)));
            let message = format!("{} detects its own actor: {} is on {shown}", of.party.name, first.party.name);
            let fix = format!("Remove {shown} from its mask, which leaves {rest}.");
            let (spot, fault) = all.fault(index, own.len() as f64, message, fix);
            let left = of.party.mask.without(bits).bits();
            let left = left.filter_map(|bit| layers.names.get(bit).cloned()).collect();
            let change = Change::shape(&of.owner, &of.name, "mask", NewValue::Words(left));
            out.report_at_with(spot, Some(change), fault);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::Contact;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{GROUND, HERO};

    #[test]
    fn a_sensor_does_not_detect_its_own_actor() {
        let with = |detects: &[usize]| {
            let body = party("hero.body", PartyRole::Body, Some(HERO), &[GROUND]);
            of_layers::<SelfSense>(Contact::Either, &[body, party("hero.eye", PartyRole::Sensor, None, detects)])
        };
        assert_eq!(with(&[GROUND]), [""; 0]);
        assert_eq!(
            with(&[GROUND, HERO]),
            [
                "eye: 1: hero.eye detects its own actor: hero.body is on hero (bit 2). Remove hero (bit 2) from its mask, which leaves ground (bit 0)."
            ]
        );
    }
}
