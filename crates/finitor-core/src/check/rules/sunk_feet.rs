//! sunk_feet: a standing actor's art is under the ground.

use crate::check::Settings;
use crate::check::feet::{self, HOVER, OffGround};
use crate::check::ledger::{Case, Ledger};
use crate::check::look::Look;
use crate::check::pause;
use crate::check::standing::Floors;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::geometry::Vec2;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug)]
pub(crate) struct SunkFeet {
    allowed: f64,
}

impl TakeRule for SunkFeet {
    const SPEC: Spec = Spec {
        code: "sunk_feet",
        severity: Severity::Warn,
        views: Views::Side,
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
    const LATE: u64 = pause::LATE + 1;
    const AFTER: &'static [&'static str] = &["facing_split", "embedded", "hover"];
    type Seen = OffGround;

    fn new(settings: &Settings) -> SunkFeet {
        SunkFeet { allowed: settings.get(&HOVER) }
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, OffGround>) {
        feet::see(look, self.allowed, Vec2::new(0.0, -1.0), |standing| standing.sunk, out);
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, OffGround>) -> Words {
        let OffGround { off, passing, .. } = &case.to_fix.seen;
        let step = scene.step(case.to_fix.way);
        let drawn_low = 0.0 - step.drawn_high();
        let animation = &step.actor.animations[step.now().animation].name;
        let fix = if drawn_low >= off.by - step.slack {
            let shape = &step.body.name;
            format!("Move the bottom of {shape} {} down on {animation}, to where the art ends.", px(drawn_low))
        } else {
            format!("End the fall at y {}, {} higher.", scene.y(step.now().at.y - off.by), px(off.by))
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
            change: None,
        }
    }
}

#[cfg(test)]
mod tests {
    use crate::Point;
    use crate::actor::{Actor, Foot};
    use crate::art::Mask;
    use crate::testing::*;

    /// The hero with art that ends this many px under its pivot's line.
    fn sunk_hero(deep: u32) -> Actor {
        let mut actor = hero(0);
        let opaque = Mask::from_fn(20, 24 + deep, |x, y| (4..14).contains(&x) && y >= 4);
        for pose in actor.animations.iter_mut().flat_map(|animation| animation.frames.iter_mut().flatten()) {
            pose.foot = Foot::new(&opaque.runs(), Point::new(10.0, 24.0));
        }
        actor
    }

    #[test]
    fn feet_under_level_ground_are_told_and_on_a_slope_they_are_not() {
        let stage = floored();
        let still = path(&[(50.0, LEVEL); 11]);
        assert_eq!(brief(&check(&stage, sunk_hero(3), &still)), [("sunk_feet", (0, 10), 3.0)]);
        let report = check(&stage, sunk_hero(3), &still);
        assert!(report.findings[0].fix.contains("the bottom of body 3.00 px down"), "{:?}", report.findings);
        // Within the allowance of 1 px, and with the pivot as much lower: the mend.
        assert_eq!(brief(&check(&stage, sunk_hero(1), &still)), []);
        assert_eq!(brief(&check(&stage, hero(0), &still)), []);
        // The body itself too deep is one fault, and not two.
        assert_eq!(brief(&check(&stage, hero(0), &path(&[(50.0, LEVEL + 4.0); 4]))), [("embedded", (0, 3), 4.0)]);
        let mut hill = floored();
        hill.solids.push(slope("hill", &[(100.0, LEVEL), (200.0, LEVEL - 50.0), (300.0, LEVEL)]));
        // Resting on the slope by its front corner, 4 px ahead of the pivot; the art's back foot hangs over lower ground.
        let on_slope = |x: f64| (x, LEVEL - (x + 4.0 - 100.0) / 2.0);
        assert_eq!(brief(&check(&hill, hero(0), &path(&[on_slope(140.0); 4]))), []);
    }
}
