//! unused_layer: a layer or an alias that nothing uses.

use crate::layers::LayerSet;
use crate::lint::detection::named;
use crate::lint::facts::{LayerFacts, LayerSpot};
use crate::lint::still_rule::{Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct UnusedLayer;

impl StillRule for UnusedLayer {
    const SPEC: Spec = Spec {
        code: "unused_layer",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Matches,
        thresholds: &[],
        text: RuleText {
            means: "Nothing is on a layer and nothing detects it; or no list names an alias.",
            matters: "It takes one of 32 bits and misleads whoever reads the matrix.",
            measured: "All shapes, things on stages and states.",
            fix: "Run `finitor layers remove NAME`, or use it.",
            drawing: "    bit 6  zone   .......\n",
        },
    };

    fn layers(facts: &LayerFacts<'_>, out: &mut Out<'_>) {
        let layers = facts.layers;
        for (bit, name) in layers.names.iter().enumerate() {
            let set = LayerSet::of(bit);
            let is_met = facts.parties.iter().any(|of| of.party.layer.sees(set) || of.party.mask.sees(set));
            let is_masked = layers.masks.iter().any(|mask| mask.sees(set)) || !layers.masks[bit].is_empty();
            let is_aliased = layers.aliases.iter().any(|alias| alias.layers.sees(set));
            let is_joined = layers.states.iter().flat_map(|rule| &rule.changes).any(|c| c.join.or(c.add).sees(set));
            if is_met || is_masked || is_aliased || is_joined {
                continue;
            }
            let message = format!("Nothing is on {}, and nothing detects it", layers.describe(set));
            let fix = format!("Run `finitor layers remove {name}`.");
            out.report_at(LayerSpot::Layer(bit), named(name, 0.0, message, fix));
        }
        for (index, alias) in layers.aliases.iter().enumerate().filter(|(index, _)| !facts.aliases_used[*index]) {
            let message = format!("No list names the alias {}: {}", alias.name, layers.describe(alias.layers));
            let fault = named(&alias.name, 0.0, message, "Remove the alias, or use it.".to_string());
            out.report_at(LayerSpot::Alias(index), fault);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::layers::{Contact, PartyRole};
    use crate::lint::testing::{of_layers, party};
    use crate::testing::{CRATE, GROUND, HERO, LEDGE};

    #[test]
    fn every_layer_is_used_and_so_is_every_alias() {
        let floor = party("yard/floor", PartyRole::Solid, Some(GROUND), &[]);
        let body = party("hero.body", PartyRole::Body, Some(HERO), &[GROUND, LEDGE]);
        assert_eq!(
            of_layers::<UnusedLayer>(Contact::Either, &[floor.clone(), body.clone()]),
            ["crate: 0: Nothing is on crate (bit 3), and nothing detects it. Run `finitor layers remove crate`."]
        );
        let rest = party("crate.body", PartyRole::Body, Some(CRATE), &[]);
        assert_eq!(of_layers::<UnusedLayer>(Contact::Either, &[floor, body, rest]), [""; 0]);
    }
}
