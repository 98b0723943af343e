//! unstopped_body: nothing stops a body.

use crate::layers::{LayerSet, PartyRole};
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct UnstoppedBody;

impl StillRule for UnstoppedBody {
    const SPEC: Spec = Spec {
        code: "unstopped_body",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Matches,
        thresholds: &[],
        text: RuleText {
            means: "No solid, platform or other body stops a body.",
            matters: "It falls through the world.",
            measured: "Each body with everything that could stop it, by masks and contact. One with an empty mask of its own, \
                       `mask = []`, is meant to go through everything.",
            fix: "Add the bit named to the body's mask, or write `mask = []` under the shape that nothing should stop.",
            drawing: "    [ body ]\n   ####|####\n       v\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let all = Detection::new(facts);
        let is_still = |other: &LayerParty| matches!(other.party.role, PartyRole::Solid | PartyRole::OneWay);
        for index in all.with_role(PartyRole::Body) {
            let of = all.party(index);
            if of.has_own_mask && of.party.mask == LayerSet::NONE {
                continue;
            }
            let can_stop = |other: &LayerParty| !matches!(other.party.role, PartyRole::Zone | PartyRole::Sensor);
            if all.acts_with(index, can_stop) || !all.any(is_still) {
                continue;
            }
            let why = all.nothing_on(of, "no solid, platform or other body is");
            let message = format!("Nothing stops {}: {why}", of.party.name);
            let (spot, fault) = all.fault(index, 0.0, message, all.add_one_of(all.of_use(index, is_still)));
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
    fn something_stops_a_body() {
        let with = |detects: &[usize]| {
            let floor = party("yard/floor", PartyRole::Solid, Some(GROUND), &[]);
            of_layers::<UnstoppedBody>(
                Contact::Either,
                &[party("hero.body", PartyRole::Body, Some(HERO), detects), floor],
            )
        };
        assert_eq!(with(&[GROUND]), [""; 0]);
        assert_eq!(
            with(&[LEDGE]),
            [
                "body: 0: Nothing stops hero.body: its mask has ledge (bit 1), and no solid, platform or other body is on that. Add ground (bit 0) to its mask."
            ]
        );
        assert_eq!(with(&[]), ["body: 0: Nothing stops hero.body: its mask is empty. Add ground (bit 0) to its mask."]);
        let own = LayerParty { has_own_mask: true, ..party("hero.body", PartyRole::Body, Some(HERO), &[]) };
        let floor = party("yard/floor", PartyRole::Solid, Some(GROUND), &[]);
        assert_eq!(of_layers::<UnstoppedBody>(Contact::Either, &[own, floor]), [""; 0]);
    }
}
