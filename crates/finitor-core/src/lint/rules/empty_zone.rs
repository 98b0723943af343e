//! empty_zone: nobody can enter a zone.

use crate::layers::PartyRole;
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct EmptyZone;

impl StillRule for EmptyZone {
    const SPEC: Spec = Spec {
        code: "empty_zone",
        severity: Severity::Warn,
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
