//! blind_sensor: a sensor detects nothing.

use crate::layers::{LayerSet, PartyRole};
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty, OwnerKind};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct BlindSensor;

impl StillRule for BlindSensor {
    const SPEC: Spec = Spec {
        code: "blind_sensor",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Matches,
        thresholds: &[],
        text: RuleText {
            means: "A sensor's mask is empty, or nothing is on any layer in it.",
            matters: "It never finds anything: an actor never stands, a switch never opens.",
            measured: "Each sensor's mask against the layers of everything but its own actor.",
            fix: "Add the bit named to its mask.",
            drawing: "    [sensor]  detects -\n    #######   ground\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let all = Detection::new(facts);
        for index in all.with_role(PartyRole::Sensor) {
            let of = all.party(index);
            let is_other = |other: &&LayerParty| other.owner != of.owner || other.of == OwnerKind::Stage;
            let others: Vec<&LayerParty> = all.others(index).filter(is_other).collect();
            if others.iter().any(|other| of.party.mask.sees(other.party.layer)) {
                continue;
            }
            let message = format!("{} detects nothing: {}", of.party.name, all.nothing_on(of, "nothing else is"));
            let there = others.iter().fold(LayerSet::NONE, |set, other| set.or(other.party.layer));
            let (spot, fault) = all.fault(index, 0.0, message, all.add_one_of(there));
            out.report_at(spot, fault);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::Contact;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{GROUND, HERO, LEDGE};

    #[test]
    fn a_sensor_detects_something_of_another() {
        let floor = party("yard/floor", PartyRole::Solid, Some(GROUND), &[]);
        let body = party("hero.body", PartyRole::Body, Some(HERO), &[GROUND]);
        let with = |detects: &[usize]| {
            let feet = party("hero.feet", PartyRole::Sensor, None, detects);
            of_layers::<BlindSensor>(Contact::Either, &[floor.clone(), body.clone(), feet])
        };
        assert_eq!(with(&[GROUND]), [""; 0]);
        assert_eq!(
            with(&[]),
            ["feet: 0: hero.feet detects nothing: its mask is empty. Add ground (bit 0) to its mask."]
        );
        assert_eq!(
            with(&[LEDGE]),
            [
                "feet: 0: hero.feet detects nothing: its mask has ledge (bit 1), and nothing else is on that. Add ground (bit 0) to its mask."
            ]
        );
        // Its own body is nobody else's.
        assert_eq!(with(&[HERO]).len(), 1);
    }
}
