//! no_factor: a part without a factor beside parts that have one.

use crate::actor::Role;
use crate::change::{Change, NewValue};
use crate::finding::Place;
use crate::hits::part_name;
use crate::lint::facts::ActorFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct NoFactor;

impl StillRule for NoFactor {
    const SPEC: Spec = Spec {
        code: "no_factor",
        severity: Severity::Note,
        views: Views::All,
        unit: Unit::Shapes,
        thresholds: &[],
        text: RuleText {
            means: "A hurt shape has no `factor`, although others of the same actor have one.",
            matters: "It counts 1: a head that somebody forgot to name or to weigh is struck like a body.",
            measured: "The hurt shapes of an actor whose others have a factor. The figure is how many have none.",
            fix: "Give it a `factor`, if only 1.0.",
            drawing: "   head   x 3\n   chest  x 1\n   neck   -\n",
        },
    };

    fn actor(facts: &ActorFacts<'_>, out: &mut Out<'_>) {
        let Some(actor) = facts.fitted else { return };
        let poses = actor.animations.iter().flat_map(|animation| animation.frames.iter().flatten());
        let (mut without, mut has_any): (Vec<(&str, &str)>, bool) = (Vec::new(), false);
        for hurt in poses.flat_map(|pose| &pose.shapes).filter(|shape| shape.role == Role::Hurt) {
            let (shape, has_one) = (hurt.name.as_str(), hurt.carries.part.has_factor());
            has_any |= has_one;
            if !has_one && !without.iter().any(|(known, _)| *known == shape) {
                without.push((shape, part_name(hurt)));
            }
        }
        let Some((first, part)) = without.first().filter(|_| has_any) else { return };
        let rest = match without.len() - 1 {
            0 => String::new(),
            more => format!(" and {more} more"),
        };
        let change = Change::shape(facts.name, first, "factor", NewValue::Number(1.0));
        out.report_with(
            Some(change),
            Fault {
                subject: facts.name.to_string(),
                place: Place::Actor(format!("shape.{first}")),
                figure: without.len() as f64,
                message: format!(
                    "{first} (part {part}){rest} of {} has no factor and counts 1, others have one",
                    facts.name
                ),
                fix: format!("Add `factor = 1.0`, or what it should be, to [shape.{first}]."),
            },
        );
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lint::testing::{facts, of_actor};
    use crate::testing::fight::actors;

    #[test]
    fn a_part_is_told_where_others_have_a_factor_and_not_where_none_has() {
        let mut gull = actors().remove(1);
        assert_eq!(of_actor::<NoFactor>(&facts(&gull)), [""; 0]);
        let mut each = |keeps: &dyn Fn(&str) -> bool| {
            for shape in gull.animations[0].frames[0].iter_mut().flat_map(|pose| &mut pose.shapes) {
                let part = &mut shape.carries.part;
                part.factor = part.factor.filter(|_| keeps(&shape.name));
            }
            of_actor::<NoFactor>(&facts(&gull))
        };
        assert_eq!(
            each(&|name| name != "chest"),
            [
                "shape.chest: 1: chest (part torso) of gull has no factor and counts 1, others have one. Add `factor = 1.0`, or what it should be, to [shape.chest]."
            ]
        );
        assert_eq!(each(&|_| false), [""; 0]);
    }
}
