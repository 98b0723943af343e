//! steep_slope: a slope is steeper than an actor walks.

use crate::actor::Actor;
use crate::finding::Place;
use crate::geometry::TOUCH;
use crate::lint::facts::StageFacts;
use crate::lint::floors::Surfaces;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct SteepSlope;

impl StillRule for SteepSlope {
    const SPEC: Spec = Spec {
        code: "steep_slope",
        severity: Severity::Note,
        views: Views::Side,
        unit: Unit::Degrees,
        thresholds: &[],
        text: RuleText {
            means: "A slope of the floor is steeper than an actor that starts on the stage walks on.",
            matters: "It slides down or stops there, and the slope looks like a way.",
            measured: "Each straight stretch of floor against [moves] slope, where it rises more than [moves] step. \
                       The figure is its angle.",
            fix: "Make it as long as the finding says, or upright, so that it is a wall.",
            drawing: "        /###\n       /####   angle\n      /_____\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let actors = facts.with_spawns();
        if actors.iter().all(|actor| actor.moves.slope.is_none()) {
            return;
        }
        for floor in Surfaces::new(facts.stage).floors() {
            let (run, rise) = (floor.to.x - floor.from.x, (floor.to.y - floor.from.y).abs());
            let angle = rise.atan2(run).to_degrees();
            let cannot = |actor: &&&Actor| {
                actor.moves.slope.is_some_and(|slope| angle > slope + TOUCH) && rise > actor.moves.step.unwrap_or(0.0)
            };
            let slope = |actor: &Actor| actor.moves.slope.unwrap_or(0.0);
            let names: Vec<String> =
                actors.iter().filter(cannot).map(|actor| format!("{} ({}°)", actor.name, slope(actor))).collect();
            if names.is_empty() {
                continue;
            }
            let least = actors.iter().filter(cannot).map(|actor| slope(actor)).fold(90.0, f64::min);
            let longer = rise / least.to_radians().tan();
            let solid = &facts.stage.solids[floor.solid].name;
            out.report(Fault {
                subject: facts.stage.name.clone(),
                place: Place::Stage(format!("{solid} at x {:.2} to {:.2}", floor.from.x, floor.to.x)),
                figure: angle,
                message: format!(
                    "The floor rises {rise:.2} px at {angle:.1}°, steeper than {} can walk",
                    names.join(", ")
                ),
                fix: format!("Make it {longer:.2} px long instead of {run:.2}, or upright, so that it is a wall."),
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::testing::of_stage;
    use crate::testing::{floored, hero, slope};

    #[test]
    fn slopes_steeper_than_an_actor_walks_are_told_with_the_length_they_need() {
        let mut stage = floored();
        stage.solids.push(slope("ramp", &[(200.0, 200.0), (240.0, 160.0), (240.0, 200.0)]));
        let with = |steepest: Option<f64>| {
            let mut of = hero(0);
            of.moves.slope = steepest;
            of_stage::<SteepSlope>(&stage, &[of])
        };
        assert_eq!(with(Some(46.0)), [""; 0]);
        assert_eq!(with(None), [""; 0]);
        assert_eq!(
            with(Some(30.0)),
            [
                "ramp at x 200.00 to 240.00: 45: The floor rises 40.00 px at 45.0°, steeper than hero (30°) can walk. Make it 69.28 px long instead of 40.00, or upright, so that it is a wall."
            ],
            "40 px of tan 30"
        );
    }
}
