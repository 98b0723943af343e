//! unseen_layer: nothing detects a layer that something is on.

use crate::layers::{LayerSet, PartyRole};
use crate::lint::detection::named;
use crate::lint::facts::{LayerFacts, LayerParty, LayerSpot};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct UnseenLayer;

impl StillRule for UnseenLayer {
    const SPEC: Spec = Spec {
        code: "unseen_layer",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Shapes,
        thresholds: &[],
        text: RuleText {
            means: "Something that stops or can be struck is on a layer that no mask has.",
            matters: "It is there to see and nothing ever meets it.",
            measured: "Solids, platforms and hurt shapes by layer, against all masks. The figure is how many of them \
                       are on it. Where it is hurt shapes alone and the project has no hit yet, it is a note.",
            fix: "Add the layer to the mask of what should detect it, or put the things on another.",
            drawing: "    [ body ]  detects ground\n    =======   on ledge\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let layers = facts.layers;
        let has_hits = facts.parties.iter().any(|of| of.party.role == PartyRole::Hit);
        for (bit, name) in layers.names.iter().enumerate() {
            let set = LayerSet::of(bit);
            let is_detected = facts.parties.iter().any(|of| of.party.mask.sees(set));
            let is_joined = layers.states.iter().flat_map(|rule| &rule.changes).any(|c| c.join.or(c.add).sees(set));
            if is_detected || is_joined {
                continue;
            }
            // Hits and sensors detect; what stops and what can be struck must be detected.
            let is_passive = |of: &&LayerParty| {
                let role = of.party.role;
                of.party.layer.sees(set) && matches!(role, PartyRole::Solid | PartyRole::OneWay | PartyRole::Hurt)
            };
            let on: Vec<&LayerParty> = facts.parties.iter().filter(is_passive).collect();
            let Some(first) = on.first() else { continue };
            let shown = layers.describe(set);
            let more = if on.len() > 1 { format!(" and {} more", on.len() - 1) } else { String::new() };
            let message = format!("Nothing detects layer {shown}, with {}{more} on it", first.party.name);
            let (spot, fault) = (LayerSpot::Layer(bit), |fix| named(name, on.len() as f64, message, fix));
            if !has_hits && on.iter().all(|of| of.party.role == PartyRole::Hurt) {
                out.note_at(spot, fault(format!("Nothing hits yet; add {shown} to the mask of the first hit.")));
            } else {
                out.report_at(spot, fault(format!("Add {shown} to the mask of what should detect it.")));
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::check::Settings;
    use crate::layers::{Contact, Layers};
    use crate::lint::lint_layers;
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{self, GROUND, HERO, LEDGE};

    #[test]
    fn what_stops_or_is_struck_is_on_a_layer_that_something_detects() {
        let with = |detects: &[usize]| {
            let body = party("hero.body", PartyRole::Body, Some(HERO), detects);
            let [plank, sill] =
                ["yard/plank", "yard/sill"].map(|name| party(name, PartyRole::OneWay, Some(LEDGE), &[]));
            of_layers::<UnseenLayer>(Contact::Either, &[body, plank, sill])
        };
        assert_eq!(with(&[LEDGE]), [""; 0]);
        assert_eq!(
            with(&[GROUND]),
            [
                "ledge: 2: Nothing detects layer ledge (bit 1), with yard/plank and 1 more on it. Add ledge (bit 1) to the mask of what should detect it."
            ]
        );
    }
    #[test]
    fn what_can_be_struck_waits_for_the_first_hit() {
        let told = |parties: &[LayerParty]| -> Vec<Severity> {
            let layers = Layers { masks: vec![LayerSet::NONE; 4], states: vec![], ..testing::layers() };
            let facts = LayerFacts { layers: &layers, parties, aliases_used: &[] };
            let found = lint_layers(&facts, &Settings::default()).into_iter().map(|found| found.finding);
            found.filter(|found| found.rule.code() == "unseen_layer").map(|found| found.severity).collect()
        };
        let struck = party("hero.figure", PartyRole::Hurt, Some(HERO), &[]);
        let sword = party("hero.sword", PartyRole::Hit, Some(HERO), &[LEDGE]);
        assert_eq!(told(std::slice::from_ref(&struck)), [Severity::Note]);
        assert_eq!(told(&[struck.clone(), sword]), [Severity::Warn]);
        let sill = party("yard/sill", PartyRole::OneWay, Some(HERO), &[]);
        assert_eq!(told(&[struck, sill]), [Severity::Warn], "a platform that nothing stands on");
    }
}
