//! lost_spawn: a spawn that can start nobody.

use crate::actor::{Actor, Shape};
use crate::change::{Change, ChangeOf, NewValue, SpawnOf};
use crate::finding::Place;
use crate::geometry::Point;
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Spawn;
use crate::world::{Body, InSolid, World};

#[derive(Debug)]
pub(crate) struct LostSpawn;

impl StillRule for LostSpawn {
    const SPEC: Spec = Spec {
        code: "lost_spawn",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A spawn is for an actor that no file describes, lies off the stage, or puts every frame of its actor into \
                    a solid.",
            matters: "The actor never appears, falls out of the world, or starts stuck.",
            measured: "The pivot against the stage's size; then every frame with a body, facing as the spawn says, against the \
                       solids that it detects: reported where none is clear within check.slack. The figure is how far it is \
                       off the stage, or how deep the frame is that is least so.",
            fix: "Correct `actor`, or set `at` to the place given.",
            drawing: "   ##[#]##\n   ##|#|##   spawn\n   #######\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let stage = facts.stage;
        let world = World::new(stage);
        for (index, spawn) in stage.spawns.iter().enumerate() {
            let fault = |figure: f64, message: String, fix: String| Fault {
                subject: stage.name.clone(),
                place: Place::Stage(format!("spawn of {}", spawn.actor)),
                figure,
                message,
                fix,
            };
            let Point { x, y } = spawn.at;
            if !facts.names.contains(&spawn.actor.as_str()) {
                let message = format!("The spawn at ({x}, {y}) is for \"{}\", and no actor is called so", spawn.actor);
                out.report(fault(0.0, message, format!("Name one of these: {}.", facts.names.join(", "))));
                continue;
            }
            let off = (0.0 - x).max(x - stage.size.x).max(0.0 - y).max(y - stage.size.y);
            if off > 0.0 {
                let message = format!("The spawn of {} at ({x}, {y}) lies off the stage", spawn.actor);
                let fix = format!("Keep `at` within the stage's {} x {} px.", stage.size.x, stage.size.y);
                out.report(fault(off, message, fix));
                continue;
            }
            let actor = facts.actors.iter().find(|actor| actor.name == spawn.actor);
            let Some(blocked) = actor.and_then(|actor| least_deep(&world, actor, spawn)) else { continue };
            let Blocked { body, inside: InSolid { solid, overlap } } = blocked;
            if overlap.depth <= facts.slack {
                continue;
            }
            let message = format!(
                "The spawn of {} puts its {} at least {:.2} px inside {}",
                spawn.actor,
                body.name,
                overlap.depth,
                world.solid(solid).name
            );
            let free = world.free_places(std::iter::once(Body::new(body, body.mask))).nearest(spawn.at);
            let change = free.map(|to| Change {
                of: ChangeOf::Spawn(SpawnOf { stage: stage.name.clone(), index }),
                key: "at",
                value: NewValue::Numbers(vec![to.x, to.y]),
            });
            let fix = match free {
                Some(to) => format!("Set `at = [{:.2}, {:.2}]`.", to.x + 0.0, to.y + 0.0),
                None => "Start elsewhere: there is no room nearby.".to_string(),
            };
            out.report_with(change, fault(overlap.depth, message, fix));
        }
    }
}

/// A body in a solid at a spawn.
struct Blocked<'a> {
    body: &'a Shape,
    inside: InSolid,
}

/// The frame's body that is least deep in a solid; `None` where one is clear, or none has a body.
fn least_deep<'a>(world: &World<'_>, actor: &'a Actor, spawn: &Spawn) -> Option<Blocked<'a>> {
    let frames = actor.animations.iter().flat_map(|animation| &animation.frames);
    let bodies = frames.filter_map(|poses| poses[spawn.facing.index()].body());
    let mut least: Option<Blocked<'a>> = None;
    for body in bodies {
        let inside = world.deepest_solid(Body::new(body, body.mask), spawn.at)?;
        if least.as_ref().is_none_or(|known| inside.overlap.depth < known.inside.overlap.depth) {
            least = Some(Blocked { body, inside });
        }
    }
    least
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::check::Settings;
    use crate::lint::{StageFacts, lint_stage};
    use crate::stage::Spawn;
    use crate::testing::{hero, with_wall};

    #[test]
    fn spawns_of_nobody_off_the_stage_and_in_walls_are_reported_with_the_nearest_place() {
        let told = |actor: &str, at: (f64, f64)| {
            let mut stage = with_wall();
            stage.spawns = vec![Spawn { actor: actor.into(), at: at.into(), facing: Facing::Right }];
            let actors = [hero(0)];
            let facts = StageFacts { stage: &stage, names: &["hero"], actors: &actors, slack: 0.5 };
            let found = lint_stage(&facts, &Settings::default());
            let own = found.into_iter().filter(|found| found.finding.rule.code() == "lost_spawn");
            own.map(|found| (found.finding.figure, found.finding.message, found.finding.fix)).collect::<Vec<_>>()
        };
        assert_eq!(told("hero", (50.0, 200.0)), [], "on the floor");
        assert_eq!(told("hero", (96.0, 200.0)), [], "beside the wall");
        let nobody = &told("heroe", (50.0, 200.0))[0];
        assert!(nobody.1.contains("no actor is called so") && nobody.2.contains("hero"), "{nobody:?}");
        assert_eq!(told("hero", (430.0, 200.0))[0].0, 30.0, "off the stage, 400 px wide");
        // Its frame without a body is no place to start; ducked or standing it is 4 px in the wall.
        let deep = &told("hero", (100.0, 200.0))[0];
        assert_eq!((deep.0, deep.2.as_str()), (4.0, "Set `at = [96.00, 200.00]`."), "{deep:?}");
        let cleared = told("hero", (96.0, 200.0));
        assert_eq!(cleared, [], "the fix ends it");
    }
}
