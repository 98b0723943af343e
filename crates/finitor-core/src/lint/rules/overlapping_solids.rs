//! overlapping_solids: two solids of a stage overlap.

use crate::change::{Change, Owned};
use crate::finding::Place;
use crate::geometry::{Deepest, Vec2, deepest_overlap, rects_overlap, shared_area};
use crate::lint::facts::StageFacts;
use crate::lint::still_rule::{Fault, Out, StillRule};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Solid;
use crate::world::{SolidIndex, World};

#[derive(Debug)]
pub(crate) struct OverlappingSolids;

impl StillRule for OverlappingSolids {
    const SPEC: Spec = Spec {
        code: "overlapping_solids",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Px2,
        thresholds: &[],
        text: RuleText {
            means: "Two solids of a stage overlap.",
            matters: "A body at their border is pushed out of both at once, often to two sides; and depths are \
                      reported twice.",
            measured: "The area that both share, where they are deeper in each other than check.slack.",
            fix: "Move one of them as the finding says, so that they are flush, or draw both as one outline.",
            drawing: "   ____\n  |  __|__\n  |_|##|  |\n    |_____|\n",
        },
    };

    /// # Complexity
    /// O(n log n + k), n solids, k pairs whose boxes meet.
    fn stage(facts: &StageFacts<'_>, out: &mut Out<'_>) {
        let world = World::new(facts.stage);
        for (index, one) in facts.stage.solids.iter().enumerate() {
            let later = world.solids_in(one.outline.bounds).into_iter().filter(|SolidIndex(at)| *at as usize > index);
            for other in later.map(|at| world.solid(at)) {
                if !rects_overlap(one.outline.bounds, other.outline.bounds) {
                    continue;
                }
                let deepest = deepest_overlap(&one.outline.pieces, Vec2::ZERO, &other.outline.pieces);
                let Some(Deepest { overlap, .. }) = deepest.filter(|found| found.overlap.depth > facts.slack) else {
                    continue;
                };
                let area = shared_area(&one.outline.pieces, &other.outline.pieces);
                // The smaller one moves: the floor stays where it is.
                let size = |of: &Solid| of.outline.bounds.width() * of.outline.bounds.height();
                let (moved, sign) = if size(other) < size(one) { (other, -1.0) } else { (one, 1.0) };
                let by = overlap.push * (overlap.depth * sign);
                let owned = Owned::new(&facts.stage.name, &moved.name);
                let change = Change::to_box(&owned, &moved.outline, moved.outline.bounds + by);
                out.report_with(
                    change,
                    Fault {
                        subject: facts.stage.name.clone(),
                        place: Place::Stage(one.name.clone()),
                        figure: area,
                        message: format!(
                            "{} and {} overlap by {:.2} px and share {area:.1} px²",
                            one.name, other.name, overlap.depth
                        ),
                        fix: format!(
                            "Move {} by ({:.2}, {:.2}) px, so that they are flush, or merge them.",
                            moved.name,
                            by.x + 0.0,
                            by.y + 0.0
                        ),
                    },
                );
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;
    use crate::lint::testing::of_stage;
    use crate::testing::{solid, with_wall};

    #[test]
    fn solids_that_share_more_than_slack_are_pairs() {
        let mut stage = with_wall();
        assert_eq!(of_stage::<OverlappingSolids>(&stage, &[]), [""; 0], "the wall stands on the floor");
        stage.solids.push(solid("sunk", Rect::new(200.0, 199.6, 210.0, 240.0)));
        stage.solids.push(solid("stump", Rect::new(300.0, 180.0, 310.0, 203.0)));
        let told = of_stage::<OverlappingSolids>(&stage, &[]);
        assert_eq!(
            told,
            [
                "floor: 400: floor and sunk overlap by 40.00 px and share 400.0 px². Move sunk by (0.00, -40.00) px, so that they are flush, or merge them.",
                "floor: 30: floor and stump overlap by 3.00 px and share 30.0 px². Move stump by (0.00, -3.00) px, so that they are flush, or merge them."
            ],
            "{told:?}"
        );
    }
}
