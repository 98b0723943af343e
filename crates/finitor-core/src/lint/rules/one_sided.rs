//! one_sided: of two bodies one detects the other in vain.

use crate::layers::{Contact, LayerSet, PartyRole};
use crate::lint::detection::Detection;
use crate::lint::facts::LayerFacts;
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// Bodies on some layers of which one detects the other in vain.
struct InVain {
    on: LayerSet,
    detected: LayerSet,
    one: usize,
    other: usize,
    count: usize,
}

#[derive(Debug)]
pub(crate) struct OneSided;

impl StillRule for OneSided {
    const SPEC: Spec = Spec {
        code: "one_sided",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Pairs,
        thresholds: &[],
        text: RuleText {
            means: "With contact = \"both\", one of two bodies detects the other, which does not detect it.",
            matters: "They pass through each other, although one mask says they should not.",
            measured: "Each two bodies of different actors; reported once for each two sets of layers. With contact = \
                       \"either\" one mask suffices, so nothing is reported. The figure is the number of pairs.",
            fix: "Add the bit named to the other's mask, or set contact = \"either\".",
            drawing: "    [ a ] -> b      [ b ]  looks elsewhere\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        if facts.layers.contact == Contact::Either {
            return;
        }
        let all = Detection::new(facts);
        for InVain { on, one, other, count, .. } in in_vain(all) {
            let (a, b) = (&all.party(one).party.name, &all.party(other).party.name);
            let message = format!("{a} detects {b}, which does not detect it; contact is \"both\", so neither stops");
            let fix = format!("Add {} to the mask of {b}, or set `contact = \"either\"`.", facts.layers.describe(on));
            let (spot, fault) = all.fault(other, count as f64, message, fix);
            out.report_at(spot, fault);
        }
    }
}

fn in_vain(all: Detection<'_>) -> Vec<InVain> {
    let bodies: Vec<usize> = all.with_role(PartyRole::Body).collect();
    let mut found: Vec<InVain> = Vec::new();
    for &one in &bodies {
        for &other in bodies.iter().filter(|other| all.party(**other).owner != all.party(one).owner) {
            let (a, b) = (&all.party(one).party, &all.party(other).party);
            if !a.mask.sees(b.layer) || b.mask.sees(a.layer) {
                continue;
            }
            match found.iter_mut().find(|known| (known.on, known.detected) == (a.layer, b.layer)) {
                Some(known) => known.count += 1,
                None => found.push(InVain { on: a.layer, detected: b.layer, one, other, count: 1 }),
            }
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::Contact;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{CRATE, HERO};

    #[test]
    fn where_both_must_detect_each_other_one_mask_is_not_enough() {
        let with = |contact: Contact, detects: &[usize]| {
            let hero = party("hero.body", PartyRole::Body, Some(HERO), &[CRATE]);
            of_layers::<OneSided>(contact, &[hero, party("crate.body", PartyRole::Body, Some(CRATE), detects)])
        };
        assert_eq!(
            with(Contact::Both, &[]),
            [
                "body: 1: hero.body detects crate.body, which does not detect it; contact is \"both\", so neither stops. Add hero (bit 2) to the mask of crate.body, or set `contact = \"either\"`."
            ]
        );
        assert_eq!(with(Contact::Both, &[HERO]), [""; 0]);
        assert_eq!(with(Contact::Either, &[]), [""; 0]);
    }
}
