//! sunk_feet: a standing actor's art is under the ground.

use crate::check::Settings;
use crate::check::feet::{self, HELD, HOVER, OffGround, drawn_high};
use crate::check::ledger::{Case, Ledger};
use crate::check::look::Look;
use crate::check::standing::Floors;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{number, px};
use crate::geometry::Vec2;
use crate::rule::{RuleText, Severity, Spec, Unit};

#[derive(Debug)]
pub(crate) struct SunkFeet {
    allowed: f64,
}

impl TakeRule for SunkFeet {
    const SPEC: Spec = Spec {
        code: "sunk_feet",
        severity: Severity::Warn,
        unit: Unit::Px,
        thresholds: &[HOVER],
        text: RuleText {
            means: "An actor stands, and the lowest opaque row of its art is under the ground.",
            matters: "The feet are hidden by the floor, or drawn over it.",
            measured: "As hover, with the ground above the lowest row; only over floor that is level under a whole run of \
                       that row's pixels, so that slopes are silent. The figure is how deep. It counts beyond \
                       check.hover.",
            fix: "Move the body's bottom down to the lowest opaque row; or end the fall at the surface.",
            drawing: "    o\n   /|\\\n ##/#\\##  figure\n",
        },
    };
    /// Up to 240 ticks a second.
    const LATE: u64 = 4 * HELD + 1;
    const AFTER: &'static [&'static str] = &["facing_split", "embedded", "hover"];
    type Seen = OffGround;

    fn new(settings: &Settings) -> SunkFeet {
        SunkFeet { allowed: settings.get(&HOVER) }
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, OffGround>) {
        feet::see(look, self.allowed, Vec2::new(0.0, -1.0), |standing| standing.sunk, out);
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, OffGround>) -> Words {
        let OffGround { off, passing } = &case.to_fix.seen;
        let step = scene.step(case.to_fix.way);
        let drawn_low = 0.0 - drawn_high(&step);
        let animation = &step.actor.animations[step.now().animation].name;
        let fix = if drawn_low >= off.by - step.slack {
            let shape = &step.body.name;
            format!("Move the bottom of {shape} {} down on {animation}, to where the art ends.", px(drawn_low))
        } else {
            format!("End the fall at y {}, {} higher.", number(step.now().at.y - off.by), px(off.by))
        };
        let raised = step.ending_at(step.now().at - Vec2::new(0.0, off.by));
        let things = scene.world.things_in(raised.reach(raised.bounds()));
        let floors = Floors { world: scene.world, near: things.all(), passing };
        let label = scene.label(case.key.instance);
        Words {
            message: format!("{label} stands, but its art reaches {} into the ground", px(case.worst.figure)),
            fix,
            remains: floors.ground(&raised).standing.map_or(0.0, |standing| standing.sunk.by),
            end_at: None,
        }
    }
}
