//! low_step: an edge of the floor is lower than an actor steps.

use crate::actor::Actor;
use crate::finding::Place;
use crate::lint::facts::StageFacts;
use crate::lint::floors::{Joint, Surfaces};
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// Edges lower than this are rounding of shapes, px.
const LEAST_STEP: f64 = 0.1;

#[derive(Debug)]
pub(crate) struct LowStep;

impl StillRule for LowStep {
    const SPEC: Spec = Spec {
        code: "low_step",
        severity: Severity::Note,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "An edge stands in the floor that is no higher than an actor steps.",
            matters: "Unless the game lifts the actor over it, it stops at what looks like level ground.",
            measured: "Where the floor goes on at another height, against [moves] step. The figure is the height of \
                       the edge.",
            fix: "Slope or lower the edge, or make sure that the game steps the actor up.",
            drawing: "   [ ]\n   [ ]->__####   2 px\n   ######|####\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let actors = facts.with_spawns();
        let joints = Surfaces::new(facts.stage).joints();
        for joint in joints.iter().filter(|joint| joint.rise >= LEAST_STEP && !joint.is_seam()) {
            let Joint { at, rise, high, .. } = joint;
            let steps = |actor: &&&Actor| actor.moves.step.is_some_and(|step| *rise <= step);
            let names: Vec<&str> = actors.iter().filter(steps).map(|actor| actor.name.as_str()).collect();
            if names.is_empty() {
                continue;
            }
            let (names, solid) = (names.join(", "), &facts.stage.solids[*high].name);
            out.report(Fault {
                subject: facts.stage.name.clone(),
                place: Place::Stage(format!("{solid} at {:.2}, {:.2}", at.x, at.y)),
                figure: *rise,
                message: format!("A {rise:.2} px edge stands in the floor, which {names} steps up"),
                fix: format!("Slope it, or lower it by {rise:.2} px; or make sure that the game steps {names} up."),
            });
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::testing::of_stage;
    use crate::testing::{hero, planks};

    #[test]
    fn edges_that_a_walk_takes_are_noted_for_those_who_take_them() {
        let with = |drop: f64, step: Option<f64>| {
            let mut of = hero(0);
            of.moves.step = step;
            of_stage::<LowStep>(&planks(drop), &[of])
        };
        assert_eq!(
            with(3.0, Some(3.0)),
            [
                "near at 100.00, 200.00: 3: A 3.00 px edge stands in the floor, which hero steps up. Slope it, or lower it by 3.00 px; or make sure that the game steps hero up."
            ]
        );
        assert_eq!(with(3.5, Some(3.0)), [""; 0], "too high to step up");
        assert_eq!(with(3.0, None), [""; 0]);
    }
}
