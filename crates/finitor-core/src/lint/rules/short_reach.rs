//! short_reach: an attack ends before the bodies touch.

use crate::facing::Facing;
use crate::finding::Place;
use crate::hits::Way;
use crate::hits::{Meeting, Settle, Stance, attacks};
use crate::lint::facts::CastFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct ShortReach;

impl StillRule for ShortReach {
    const SPEC: Spec = Spec {
        code: "short_reach",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "An attack reaches less far than the bodies keep the two apart, so that on level ground it strikes \
                    this target never.",
            matters: "Players press the button, see the blow, and nothing happens however near they stand.",
            measured: "The farthest distance between the pivots at which any active frame overlaps any part, of the \
                       target as it stands on the first frame of its first animation, in all facings, against the \
                       least at which the bodies are apart. Only where the two bodies stop each other and the attack \
                       is at the height of a part that it detects.",
            fix: "Extend the hit ahead by more than the figure.",
            drawing: "   body|   |body\n   --* |   |\n       |<->|\n",
        },
    };

    fn cast(facts: &CastFacts<'_>, out: &mut Out<'_>) {
        for attacker in facts.actors {
            for attack in attacks(attacker) {
                for target in facts.actors {
                    let Some(stance) = Stance::usual(target) else { continue };
                    let (layers, settle) = (facts.layers, Settle::default());
                    let meeting = Meeting { attacker, target, stance, lower: 0.0, layers, settle };
                    // Where any facing of the two strikes, the attack can.
                    let all =
                        Facing::BOTH.into_iter().flat_map(|facing| Way::BOTH.map(|way| meeting.duel(facing, way)));
                    let short = all.map(|duel| {
                        let parts = duel.parts(&attack);
                        let farthest = parts.iter().filter_map(|part| part.reach.farthest()).reduce(f64::max);
                        Some(duel.closest(&attack)? - farthest?)
                    });
                    let short: Option<Vec<f64>> = short.collect();
                    let Some(least) = short.and_then(|short| short.into_iter().reduce(f64::min)) else { continue };
                    if least < 0.0 {
                        continue;
                    }
                    let hit = attack.name(attacker);
                    let first = attack.frames.first().copied().unwrap_or(0);
                    out.report(Fault {
                        subject: attacker.name.clone(),
                        place: Place::Actor(format!("{} {first}", attacker.animations[attack.animation].name)),
                        figure: least,
                        message: format!(
                            "{hit} ends {least:.2} px before it reaches {}, when the bodies touch",
                            target.name
                        ),
                        fix: format!("Extend {} ahead by more than {least:.2} px.", attack.shape),
                    });
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::actor::{Carried, Role};
    use crate::geometry::Rect;
    use crate::lint::testing::of_cast;
    use crate::testing::fight::{actor, shape};

    #[test]
    fn an_attack_that_ends_before_the_bodies_touch_is_told_with_what_it_lacks() {
        let with = |reach: f64, height: f64| {
            let body = |half: f64, layer| {
                shape("body", Role::Body, Rect::new(-half, -30.0, half, 0.0), layer, Carried::default())
            };
            let fist = shape("fist", Role::Hit, Rect::new(0.0, height - 4.0, reach, height), 0, Carried::default());
            let chest = shape("chest", Role::Hurt, Rect::new(-5.0, -30.0, 5.0, 0.0), 1, Carried::default());
            let keeper = actor("keeper", vec![("jab", vec![vec![body(8.0, 0)], vec![body(8.0, 0), fist]])]);
            let gull = actor("gull", vec![("stand", vec![vec![body(10.0, 1), chest]])]);
            of_cast::<ShortReach>(&[keeper, gull])
        };
        // Bodies are 18 px apart at least, and the chest reaches 5 px from its pivot: 13 px of the hit just touch it.
        assert_eq!(
            with(10.0, -20.0),
            [
                "jab 1: 3: jab fist ends 3.00 px before it reaches gull, when the bodies touch. Extend fist ahead by more than 3.00 px."
            ]
        );
        assert_eq!(with(13.0, -20.0).len(), 1, "a touch is no hit");
        assert_eq!(with(13.5, -20.0), [""; 0]);
        assert_eq!(with(10.0, -60.0), [""; 0], "it is over everybody: made for somebody else");
    }
}
