//! sliver: a thing of the stage is thinner than a px.

use crate::finding::Place;
use crate::geometry::{Convex, Vec2, convex_hull};
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit};
use crate::stage::Outline;

/// What is thinner than this is a sliver, px.
const LEAST_THICKNESS: f64 = 1.0;

#[derive(Debug)]
pub(crate) struct Sliver;

impl StillRule for Sliver {
    const SPEC: Spec = Spec {
        code: "sliver",
        severity: Severity::Warn,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A solid, a one-way platform or a zone is thinner than 1 px.",
            matters: "What moves a px a tick passes it unseen, and overlaps with it are too small to see.",
            measured: "The least extent of its outline's hull over the directions of its edges.",
            fix: "Make it 1 px thick at least.",
            drawing: "   ------------   0.40 px\n",
        },
    };

    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        for (name, outline, _) in facts.stage.things() {
            let Some((thick, way)) = least_width(outline).filter(|(thick, _)| *thick < LEAST_THICKNESS) else {
                continue;
            };
            out.report(Fault {
                subject: facts.stage.name.clone(),
                place: Place::Stage(name.to_string()),
                figure: thick,
                message: format!("{name} is {thick:.2} px thin: what moves a px a tick can pass it unseen"),
                fix: format!(
                    "Make it at least {LEAST_THICKNESS} px thick, {:.2} px more along ({:.2}, {:.2}).",
                    LEAST_THICKNESS - thick,
                    way.x,
                    way.y
                ),
            });
        }
    }
}

/// The least extent of an outline over the directions of its edges, and that direction.
fn least_width(outline: &Outline) -> Option<(f64, Vec2)> {
    let hull = Convex::from_clockwise(convex_hull(outline.polygon.points()));
    let width = |normal: &Vec2| hull.breadth(*normal);
    let least = hull.normals().iter().min_by(|a, b| width(a).total_cmp(&width(b)))?;
    Some((width(least), *least))
}
