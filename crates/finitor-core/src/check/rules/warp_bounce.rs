//! warp_bounce: a warp put a body where a warp takes it again.

use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::step::Step;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::geometry::{Vec2, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Zone;
use crate::world::World;

#[derive(Debug)]
pub(crate) struct WarpBounce;

/// The way out of the warp.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Escape {
    by: f64,
    /// 1 to the right, -1 to the left.
    way: f64,
    word: &'static str,
    remains: f64,
}

impl TakeRule for WarpBounce {
    const SPEC: Spec = Spec {
        code: "warp_bounce",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A warp put a body where it overlaps a warp that takes it again.",
            matters: "It goes back and forth, or far on, without the player's doing.",
            measured: "On the tick on which it was put there, or where the warp that it came by has a cooldown, when that \
                       ends and it has not left. The figure is how far it must move left or right to be out.",
            fix: "Move the landing by the figure, or give the warp a cooldown.",
            drawing: "   :zone: --> :zone:\n   :    : <-- :  + :\n",
        },
    };
    type Seen = Escape;

    fn new(_: &Settings) -> WarpBounce {
        WarpBounce
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Escape>) {
        let step = look.step;
        for contact in look.zones.iter().filter(|contact| contact.bounces) {
            let escape = escape(look.world(), step, look.world().zone(contact.zone));
            let key = Key { instance: step.instance(), with: With::Zone(contact.zone) };
            out.see(key, Span::at(step.now().tick), escape.by, || Sighting {
                tick: step.now().tick,
                figure: escape.by,
                at: step.bounds().center(),
                push: Vec2::new(escape.way, 0.0),
                cause: Cause::Warped,
                shape: &step.body.name,
                way: step.way,
                seen: escape,
            });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Escape>) -> Words {
        let Escape { by, word, remains, .. } = case.to_fix.seen;
        let by = px(by);
        let (label, with) = (scene.label(case.key.instance), scene.name(case.key.with));
        Words {
            message: format!("{label} landed inside {with}, which sends it back"),
            fix: format!("Move the landing {by} {word}, or set a `cooldown` that lasts until it has walked {by}."),
            remains,
            end_at: None,
            change: None,
        }
    }
}

/// The shorter way out of a warp first; the other where a solid is in the way.
fn escape(world: &World<'_>, step: &Step<'_>, zone: &Zone) -> Escape {
    let (body, zone_box) = (step.bounds(), zone.outline.bounds);
    let (left, right) = (body.x1 - zone_box.x0, zone_box.x1 - body.x0);
    let mut ways = [(left, -1.0, "left"), (right, 1.0, "right")];
    ways.sort_by(|a, b| a.0.total_cmp(&b.0));
    let rest = |by: f64, way: f64| {
        let at = step.now().at + Vec2::new(by * way, 0.0);
        let in_zone = deepest_overlap(&step.body.pieces, at.to_vec2(), &zone.outline.pieces).is_some();
        if in_zone || world.depth(step.meeting(), at) > step.slack { by } else { 0.0 }
    };
    let has_room = ways.into_iter().find(|(by, way, _)| rest(*by, *way) == 0.0);
    let (by, way, word) = has_room.unwrap_or(ways[0]);
    Escape { by, way, word, remains: rest(by, way) }
}

#[cfg(test)]
mod tests {
    use crate::stage::{Effect, Warp};
    use crate::testing::*;
    use crate::{Facing, Rect, Vec2};

    #[test]
    fn a_warp_that_takes_back_is_told_at_once_or_when_its_cooldown_ends() {
        let gates = |cooldown: u32| {
            let mut stage = floored();
            for (name, x, to) in [("low", 100.0, 1), ("high", 200.0, 0)] {
                let mut gate = zone(name, Rect::new(x, LEVEL - 30.0, x + 16.0, LEVEL), Effect::Warp);
                gate.warp = Some(Warp { to, landing: Vec2::ZERO, facing: None, turns_velocity: false });
                gate.cooldown = cooldown;
                stage.zones.push(gate);
            }
            stage
        };
        let row = |tick: u64, x: f64, states: &'static str| Row(tick, (x, LEVEL), Facing::Right, "stand", states);
        // In at x 97, out at 208: 14 px to be clear of the left side, 14 of the right.
        let still = |leave: u64| -> Vec<Row> {
            let mut all = vec![row(0, 90.0, ""), row(1, 97.0, ""), row(2, 208.0, "warped")];
            all.extend((3..14).map(|tick| row(tick, if tick < leave { 208.0 } else { 223.0 }, "")));
            all
        };
        assert_eq!(brief(&check(&gates(0), hero(0), &still(99))), [("warp_bounce", (2, 2), 12.0)]);
        assert_eq!(brief(&check(&gates(8), hero(0), &still(99))), [("warp_bounce", (10, 10), 12.0)]);
        assert_eq!(brief(&check(&gates(8), hero(0), &still(9))), [], "gone before the cooldown ends");
        // The mend: the landing as much further on.
        let clear = vec![row(0, 90.0, ""), row(1, 97.0, ""), row(2, 196.0, "warped"), row(3, 196.0, "")];
        assert_eq!(brief(&check(&gates(0), hero(0), &clear)), []);
    }
}
