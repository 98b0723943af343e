//! no_headroom: a taller body came back under a ceiling.

use crate::check::Settings;
use crate::check::contacts::Entry;
use crate::check::inside::{self, EdgeMove, Inside, beyond, edge_move, how_it_began, left_when_kept};
use crate::check::ledger::{Case, Ledger, Sighting};
use crate::check::look::Look;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::geometry::Point;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct NoHeadroom;

impl TakeRule for NoHeadroom {
    const SPEC: Spec = Spec {
        code: "no_headroom",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body became taller under a ceiling that leaves no room for it.",
            matters: "The actor stands up into the ceiling, sticks, or is thrown out to the side.",
            measured: "As embedded, where the frame changed to one whose body reaches higher and the way out is down. \
                       The figure is the depth.",
            fix: "Keep the low frame until there is room: `finitor stage clearance` lists where there is none.",
            drawing: "   ##########\n     |##|     figure\n     |  |  <- was low\n",
        },
    };
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "tunnelled"];
    type Seen = Inside;

    fn new(_: &Settings) -> NoHeadroom {
        NoHeadroom
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Inside>) {
        inside::see(look, Entry::StoodUp, out, |inside| inside);
    }

    fn spot<'a>(scene: &Scene<'_, 'a>, seen: &Sighting<'a, Inside>) -> Point {
        inside::middle(scene, seen, &seen.seen)
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Inside>) -> Words {
        let (step, inside) = (scene.step(case.first.way), &case.first.seen);
        let EdgeMove { edge, by, remains, .. } = edge_move(scene, &step, inside);
        let kept = left_when_kept(scene, &step, inside, case.first.figure);
        let (label, with) = (scene.label(case.key.instance), scene.name(case.key.with));
        let (shape, frame) = (&step.body.name, step.now().frame_name(step.actor));
        Words {
            message: format!(
                "{label} stood up under {with} with {} too little room{}",
                px(case.worst.figure),
                how_it_began(case)
            ),
            fix: format!("Stay low until there is room, or move the {edge} edge of {shape} {by} on {frame}, as drawn."),
            remains: beyond(remains.min(kept), step.slack),
            end_at: None,
            change: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::testing::*;
    use crate::{Facing, Rect, Vec2};

    #[test]
    fn standing_up_under_a_ceiling_is_reported_with_the_edge_that_is_too_high() {
        let r = Facing::Right;
        // Under a ceiling 12 px up the ducked hero fits and the standing one is 8 px too high.
        let mut low = with_wall();
        low.solids.push(solid("roof", Rect::new(20.0, 100.0, 80.0, 188.0)));
        let rows = [
            Row(0, (50.0, 200.0), r, "duck", ""),
            Row(1, (50.0, 200.0), r, "stand", ""),
            Row(2, (50.0, 200.0), r, "duck", ""),
        ];
        let report = check(&low, hero(0), &rows);
        assert_eq!(short(&report), vec![found("no_headroom", "yard/roof", (1, 1), 8.0, "reshaped")]);
        let finding = &report.findings[0];
        assert_eq!(at(finding).worst.push, Vec2::new(0.0, 1.0));
        assert!(finding.fix.contains("the top edge of body 8.00 px down on stand 0"), "{}", finding.fix);
        // The fix: it stays low.
        let low_all = [Row(0, (50.0, 200.0), r, "duck", ""), Row(1, (50.0, 200.0), r, "duck", "")];
        assert_eq!(short(&check(&low, hero(0), &low_all)), []);
    }
}
