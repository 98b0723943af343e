//! landing_inside: a warp puts an actor into a solid.

use crate::change::{Change, NewValue};
use crate::finding::Place;
use crate::geometry::Vec2;
use crate::lint::facts::StageFacts;
use crate::lint::landings::{Blocked, Landings};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct LandingInside;

impl StillRule for LandingInside {
    const SPEC: Spec = Spec {
        code: "landing_inside",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A warp puts a body that it detects into a solid that stops it.",
            matters: "The actor arrives stuck, or is thrown out of the wall when the game resolves the overlap.",
            measured: "Each warp's landing, for every actor that it detects, in every frame with a body and in the \
                       facings it may land in, against all solids that the body detects. The figure is the greatest \
                       depth, where it is more than check.slack.",
            fix: "Set `landing` to the one given, the nearest at which every frame is free.",
            drawing: "   :zone:  __|####\n   :    : |  |#|##\n   :  + : |__|_|##   landing\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let stage = facts.stage;
        for (zone, actor) in stage.zones.iter().flat_map(|zone| facts.actors.iter().map(move |actor| (zone, actor))) {
            let (Some(warp), Some(landings)) = (&zone.warp, Landings::of(stage, actor, zone)) else { continue };
            let Some(Blocked { depth, landing, solid }) = landings.deepest(Vec2::ZERO, facts.slack) else { continue };
            let (name, shape, frame) = (&actor.name, &landing.body.name, &landing.frame);
            let free = landings.nearest_free();
            let change = free.map(|by| {
                let landing = NewValue::Numbers(vec![warp.landing.x + by.x, warp.landing.y + by.y]);
                Change::thing(&stage.name, &zone.name, "landing", landing)
            });
            out.report_with(
                change,
                Fault {
                    subject: stage.name.clone(),
                    place: Place::Stage(zone.name.clone()),
                    figure: depth,
                    message: format!(
                        "The landing of {} puts {name}.{shape} {depth:.2} px inside {solid} on {frame}",
                        zone.name
                    ),
                    fix: match free {
                        Some(by) => format!(
                            "Set `landing = [{:.2}, {:.2}]`.",
                            warp.landing.x + by.x + 0.0,
                            warp.landing.y + by.y + 0.0
                        ),
                        None => "Land elsewhere: there is no room nearby.".to_string(),
                    },
                },
            );
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::testing::{gates, of_stage};
    use crate::testing::hero;

    #[test]
    fn a_landing_puts_nobody_into_a_solid() {
        let told = |landing: (f64, f64)| of_stage::<LandingInside>(&gates(landing), &[hero(0)]);
        assert_eq!(told((30.0, 20.0)), [""; 0]);
        assert_eq!(
            told((30.0, 23.0)),
            [
                "in: 3: The landing of in puts hero.body 3.00 px inside floor on stand 0. Set `landing = [30.00, 20.00]`."
            ],
            "3 px under the floor's top"
        );
    }
}
