//! empty_zone: nobody can enter a zone.

use crate::layers::PartyRole;
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct EmptyZone;

impl StillRule for EmptyZone {
    const SPEC: Spec = Spec {
        code: "empty_zone",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Matches,
        thresholds: &[],
        text: RuleText {
            means: "No body is on any layer that a zone detects.",
            matters: "The goal is never reached, the hazard never takes anybody.",
            measured: "Each zone's mask against the layers of all bodies.",
            fix: "Add the bit named to the zone's mask.",
            drawing: "    :zone:   detects foe\n     [ hero ]\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let all = Detection::new(facts);
        let is_body = |other: &LayerParty| other.party.role == PartyRole::Body;
        for index in all.with_role(PartyRole::Zone) {
            let of = all.party(index);
            if all.acts_with(index, is_body) || !all.any(is_body) {
                continue;
            }
            let why = all.nothing_on(of, "no body is");
            let message = format!("Nobody can enter {}: {why}", of.party.name);
            let (spot, fault) = all.fault(index, 0.0, message, all.add_one_of(all.of_use(index, is_body)));
            out.report_at(spot, fault);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::Contact;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{CRATE, GROUND, HERO};

    #[test]
    fn a_zone_detects_some_body() {
        let body = party("hero.body", PartyRole::Body, Some(HERO), &[GROUND]);
        let with = |detects: &[usize]| {
            of_layers::<EmptyZone>(Contact::Either, &[party("yard/exit", PartyRole::Zone, None, detects), body.clone()])
        };
        assert_eq!(with(&[HERO]), [""; 0]);
        assert_eq!(
            with(&[CRATE]),
            [
                "exit: 0: Nobody can enter yard/exit: its mask has crate (bit 3), and no body is on that. Add hero (bit 2) to its mask."
            ]
        );
        let alone = [party("yard/exit", PartyRole::Zone, None, &[CRATE])];
        assert_eq!(of_layers::<EmptyZone>(Contact::Either, &alone), [""; 0], "there is no body at all");
    }
}
