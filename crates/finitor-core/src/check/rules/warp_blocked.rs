//! warp_blocked: a warp, or the game, put a body into what stops it.

use crate::check::Settings;
use crate::check::contacts::Entry;
use crate::check::inside::{self, Inside, how_it_began, way_out};
use crate::check::ledger::{Case, Ledger, Sighting};
use crate::check::look::Look;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::geometry::Point;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct WarpBlocked;

impl TakeRule for WarpBlocked {
    const SPEC: Spec = Spec {
        code: "warp_blocked",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A warp, or the game, put a body into something that stops it.",
            matters: "It arrives stuck, or is thrown out when the overlap is resolved.",
            measured: "As embedded, where the state `warped` holds on that tick or the step was longer than \
                       check.teleport. The figure is the depth.",
            fix: "Move the landing by the figure; `finitor lint` reports each landing that is blocked.",
            drawing: "   :zone:      ___|###\n   : * -:---> |  +|#|#\n   :    :     |___|_|#\n",
        },
    };
    type Seen = Inside;

    fn new(_: &Settings) -> WarpBlocked {
        WarpBlocked
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Inside>) {
        inside::see(look, Entry::Warped, out, |inside| inside);
    }

    fn spot<'a>(scene: &Scene<'_, 'a>, seen: &Sighting<'a, Inside>) -> Point {
        inside::middle(scene, seen, &seen.seen)
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Inside>) -> Words {
        let step = scene.step(case.first.way);
        let out = way_out(scene, &step, &case.first.seen);
        let (who, with) = (scene.subject(case), scene.name(case.key.with));
        Words {
            message: format!("The warp put {who} {} inside {with}{}", px(case.worst.figure), how_it_began(case)),
            fix: format!("Move the landing {}.", out.moved()),
            remains: out.remains,
            end_at: out.end_of(&step),
            change: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::testing::*;

    #[test]
    fn a_body_that_a_warp_puts_into_a_wall_is_reported() {
        let (stage, r) = (with_wall(), Facing::Right);
        let warped = [Row(0, (40.0, 200.0), r, "stand", ""), Row(1, (97.0, 200.0), r, "stand", "warped")];
        assert_eq!(
            short(&check(&stage, hero(0), &warped)),
            [found("warp_blocked", "yard/wall", (1, 1), 1.0, "warped")]
        );
        // The fix: the landing as much further back.
        let clear = [Row(0, (40.0, 200.0), r, "stand", ""), Row(1, (96.0, 200.0), r, "stand", "warped")];
        assert_eq!(short(&check(&stage, hero(0), &clear)), []);
    }
}
