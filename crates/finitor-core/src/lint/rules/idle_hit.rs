//! idle_hit: a hit can strike nobody.

use crate::layers::PartyRole;
use crate::lint::detection::Detection;
use crate::lint::facts::{LayerFacts, LayerParty};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct IdleHit;

impl StillRule for IdleHit {
    const SPEC: Spec = Spec {
        code: "idle_hit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Matches,
        thresholds: &[],
        text: RuleText {
            means: "No hurt shape of another actor is on any layer that a hit detects.",
            matters: "Blows pass through everybody.",
            measured: "Each hit's mask against the layers of the hurt shapes of other actors.",
            fix: "Add the bit named to the hit's mask.",
            drawing: "    [hit]   detects -\n     [ hurt ]  on foe\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let all = Detection::new(facts);
        for index in all.with_role(PartyRole::Hit) {
            let of = all.party(index);
            // A blow of one's own does not count, one of another instance does; yet it is not what a hit is made for.
            let is_meant = |other: &LayerParty| other.owner != of.owner && other.party.role == PartyRole::Hurt;
            if all.acts_with(index, is_meant) || !all.any(is_meant) {
                continue;
            }
            let why = all.nothing_on(of, "no other actor has a hurt shape");
            let message = format!("{} can strike nobody: {why}", of.party.name);
            let (spot, fault) = all.fault(index, 0.0, message, all.add_one_of(all.of_use(index, is_meant)));
            out.report_at(spot, fault);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::Contact;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{CRATE, HERO};

    #[test]
    fn a_hit_can_strike_somebody_else() {
        let head = party("crate.head", PartyRole::Hurt, Some(CRATE), &[]);
        let own = party("hero.head", PartyRole::Hurt, Some(HERO), &[]);
        let with = |detects: &[usize]| {
            let blade = party("hero.blade", PartyRole::Hit, None, detects);
            of_layers::<IdleHit>(Contact::Either, &[blade, head.clone(), own.clone()])
        };
        assert_eq!(with(&[CRATE]), [""; 0]);
        assert_eq!(
            with(&[HERO]),
            [
                "blade: 0: hero.blade can strike nobody: its mask has hero (bit 2), and no other actor has a hurt shape on that. Add crate (bit 3) to its mask."
            ],
            "its own head alone"
        );
    }
}
