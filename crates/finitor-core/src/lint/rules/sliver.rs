//! sliver: a thing of the stage is thinner than a px.

use crate::finding::Place;
use crate::geometry::{Convex, Vec2, convex_hull};
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Outline;

/// What is thinner than this is a sliver, px.
const LEAST_THICKNESS: f64 = 1.0;

#[derive(Debug)]
pub(crate) struct Sliver;

impl StillRule for Sliver {
    const SPEC: Spec = Spec {
        code: "sliver",
        severity: Severity::Warn,
        views: Views::All,
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

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::testing::{floored, slope, solid};

    #[test]
    fn what_is_thinner_than_a_px_is_told_along_its_thin_way() {
        let mut stage = floored();
        assert_eq!(of_stage::<Sliver>(&stage, &[]), [""; 0]);
        stage.solids.push(solid("sheet", Rect::new(100.0, 150.0, 160.0, 150.4)));
        // A board at 45 degrees, half a px thick.
        let half = 0.5_f64 / 2.0_f64.sqrt();
        let board = [(200.0, 150.0), (220.0, 130.0), (220.0 + half, 130.0 + half), (200.0 + half, 150.0 + half)];
        stage.solids.push(slope("board", &board));
        assert_eq!(
            of_stage::<Sliver>(&stage, &[]),
            [
                "sheet: 0.4: sheet is 0.40 px thin: what moves a px a tick can pass it unseen. Make it at least 1 px thick, 0.60 px more along (0.00, -1.00).",
                "board: 0.5: board is 0.50 px thin: what moves a px a tick can pass it unseen. Make it at least 1 px thick, 0.50 px more along (-0.71, -0.71)."
            ]
        );
    }
}
