//! steep_slope: a slope is steeper than an actor walks.

use crate::actor::Actor;
use crate::finding::Place;
use crate::geometry::TOUCH;
use crate::lint::facts::StageFacts;
use crate::lint::floors::Surfaces;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct SteepSlope;

impl StillRule for SteepSlope {
    const SPEC: Spec = Spec {
        code: "steep_slope",
        severity: Severity::Note,
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
