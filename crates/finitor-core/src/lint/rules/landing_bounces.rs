//! landing_bounces: a warp puts an actor where a warp takes it again.

use crate::change::{Change, NewValue};
use crate::facing::Facing;
use crate::finding::Place;
use crate::lint::facts::StageFacts;
use crate::lint::landings::{Landings, SentBack};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct LandingBounces;

impl StillRule for LandingBounces {
    const SPEC: Spec = Spec {
        code: "landing_bounces",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A warp puts an actor where its body still overlaps a warp that takes it back.",
            matters: "It bounces between the two for ever, or until somebody happens to push it out.",
            measured: "Each warp's landing, in every frame with a body and in the facings it may land in, against all \
                       warps that detect the body. The figure is how far it must move on, left or right, to leave them \
                       all. With a cooldown it counts only when the body cannot walk so far at 1 px a tick before it \
                       ends.",
            fix: "Move the landing by the figure, to the side named; or give the warp the cooldown named.",
            drawing: "   :zone: :zone:\n   :  ->:-:-> + :   still inside\n   :    : :    :\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let stage = facts.stage;
        for (zone, actor) in stage.zones.iter().flat_map(|zone| facts.actors.iter().map(move |actor| (zone, actor))) {
            let (Some(warp), Some(landings)) = (&zone.warp, Landings::of(stage, actor, zone)) else { continue };
            let Some(SentBack { left, right, warp: back }) = landings.sent_back(zone.cooldown) else { continue };
            // Landings lead out of the side that they are on, or that the actor looks to.
            let to_left = match warp.facing {
                Some(facing) => facing == Facing::Left,
                None => warp.landing.x < 0.0 || (warp.landing.x == 0.0 && left < right),
            };
            let (by, side) = if to_left { (0.0 - left, "left") } else { (right, "right") };
            let least = left.min(right);
            let landing = NewValue::Numbers(vec![warp.landing.x + by, warp.landing.y]);
            let change = Change::thing(&stage.name, &zone.name, "landing", landing);
            out.report_with(
                Some(change),
                Fault {
                    subject: stage.name.clone(),
                    place: Place::Stage(zone.name.clone()),
                    figure: least,
                    message: format!(
                        "{} lands inside {back}, which sends it back; it is {least:.2} px short",
                        actor.name
                    ),
                    fix: format!(
                        "Move the landing {:.2} px {side}, to `landing = [{:.2}, {:.2}]`, or set `cooldown = {}`.",
                        by.abs(),
                        warp.landing.x + by,
                        warp.landing.y,
                        by.abs().ceil()
                    ),
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
    fn a_landing_leads_out_of_the_warp_that_it_lands_beside() {
        let told = |landing: (f64, f64)| of_stage::<LandingBounces>(&gates(landing), &[hero(0)]);
        assert_eq!(
            told((5.0, 20.0)),
            [
                "in: 11: hero lands inside out, which sends it back; it is 11.00 px short. Move the landing 11.00 px right, to `landing = [16.00, 20.00]`, or set `cooldown = 11`."
            ]
        );
        assert_eq!(told((16.0, 20.0)), [""; 0], "6 px behind the pivot clear its right side at 220");
    }
}
