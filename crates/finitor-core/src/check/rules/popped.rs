//! popped: a standing body is much higher a tick later.

use crate::change::{Change, ChangeOf, NewValue};
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::walk::STEEPEST;
use crate::check::words::{number, px};
use crate::finding::{Cause, Span};
use crate::geometry::{Vec2, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Outline;

#[derive(Debug, Default)]
pub(crate) struct Popped {
    /// Rises of the tick before, which are pops if the actor then stands.
    risen: PerInstance<Option<Risen>>,
}

/// A rise to a floor that nothing explains.
#[derive(Clone, Copy, Debug)]
struct Risen {
    way: Way,
    rise: f64,
}

impl TakeRule for Popped {
    const SPEC: Spec = Spec {
        code: "popped",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body that is grounded on two ticks in a row is higher on the second by more than its step, its speed \
                    or a slope explains.",
            matters: "It jumps up ledges at a touch.",
            measured: "The rise in a tick against [moves] step (4 px by default), the rise of the tick before with that \
                       step, and twice the way across; and the tick after it still stands, for a jump goes on. So it is \
                       reported one tick late.",
            fix: "Stop at the edge; or set a greater step if it may climb so high.",
            drawing: "          [ ]\n          ####\n   [ ] -> ####   figure\n   ###########\n",
        },
    };
    const LATE: u64 = 1;
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "warp_blocked", "caught_rising", "hover"];
    type Seen = ();

    fn new(_: &Settings) -> Popped {
        Popped::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.risen.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, ()>) {
        let step = look.step;
        // Most have none, and then nothing is moved.
        let before = self.risen.of(step.instance()).take_if(|_| true);
        let Some(motion) = step.motion() else { return };
        if let Some(risen) = before.filter(|_| is_standing(look, motion)) {
            report(look, risen, out);
        }
        let rise = 0.0 - motion.y;
        let is_pop = rise > step.slack
            && look.seat.ground.was_carried
            && rise > explained(step, step.actor.moves.step_height())
            && step.may_stand()
            && look.floors().has_floor_under(step);
        let is_lifted = || look.is_held_by_body(Vec2::new(0.0, 1.0));
        if is_pop && !came_out(look) && !is_lifted() {
            *self.risen.of(step.instance()) = Some(Risen { way: step.way, rise });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, ()>) -> Words {
        let (step, rise) = (scene.step(case.to_fix.way), case.to_fix.figure);
        Words {
            message: format!(
                "{} rose {} in one tick while grounded",
                scene.label(case.key.instance),
                px(case.worst.figure)
            ),
            fix: format!(
                "Stop at edges higher than {}, or set `[moves] step = {}`.",
                px(step.actor.moves.step_height()),
                number(rise)
            ),
            remains: (rise - explained(&step, rise)).max(0.0),
            end_at: None,
            change: Some(Change {
                of: ChangeOf::Moves(step.actor.name.clone()),
                key: "step",
                value: NewValue::Number(rise),
            }),
        }
    }
}

/// Whether an actor that rose a tick ago stands now: a jump, or a spring, takes it further up.
fn is_standing(look: &Look<'_, '_>, motion: Vec2) -> bool {
    let step = look.step;
    let on_slope = motion.x.abs() * STEEPEST;
    motion.y >= 0.0 - on_slope - step.rough() && look.floors().has_floor_under(step)
}

/// Coming up out of something is the end of that fault, and no other.
fn came_out(look: &Look<'_, '_>) -> bool {
    let step = look.step;
    let old = step.old_body.zip(step.before());
    let was_in = |outline: &Outline| {
        old.and_then(|(body, before)| deepest_overlap(&body.pieces, before.at.to_vec2(), &outline.pieces))
            .is_some_and(|found| found.overlap.depth > step.allowed(&found.overlap))
    };
    look.floors().supports(step).any(was_in)
}

fn report<'a>(look: &Look<'_, 'a>, risen: Risen, out: &mut Ledger<'a, ()>) {
    let key = Key { instance: look.step.instance(), with: With::Stage };
    let Risen { way, rise } = risen;
    let Some(then) = Step::new(look.input(), way) else { return };
    out.see(key, Span::at(way.now.tick), rise, || Sighting {
        tick: way.now.tick,
        figure: rise,
        at: way.now.at,
        push: Vec2::new(0.0, -1.0),
        cause: Cause::Moved,
        shape: &then.body.name,
        way,
        seen: (),
    });
}

/// The rise that is no fault for an actor that steps up so much, px.
fn explained(step: &Step<'_>, own: f64) -> f64 {
    let speed = step.way.last_move.map_or(0.0, |last| 0.0 - last.y).max(0.0);
    let slope = step.motion().map_or(0.0, |motion| motion.x.abs() * STEEPEST);
    own.max(slope).max(speed + own) + step.rough()
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::testing::*;

    #[test]
    fn a_leap_up_an_edge_is_told_beyond_the_step_and_a_walk_up_a_slope_is_not() {
        let mut stage = floored();
        stage.solids.push(solid("crate", Rect::new(100.0, LEVEL - 9.0, 160.0, LEVEL)));
        let up = [(92.0, LEVEL), (94.0, LEVEL), (96.0, LEVEL), (98.0, LEVEL - 9.0), (100.0, LEVEL - 9.0)];
        let report = check(&stage, hero(0), &path(&up));
        assert_eq!(brief(&report), [("popped", (3, 3), 9.0)]);
        assert!(report.findings[0].fix.contains("[moves] step = 9.00"), "{}", report.findings[0].fix);
        // The mend: a hero that may climb so high.
        let mut climber = hero(0);
        climber.moves.step = Some(9.0);
        assert_eq!(brief(&check(&stage, climber, &path(&up))), []);
        // A jump onto it is no leap: it is in the air before.
        let jump =
            [(92.0, LEVEL), (94.0, LEVEL - 8.0), (96.0, LEVEL - 14.0), (98.0, LEVEL - 12.0), (100.0, LEVEL - 9.0)];
        assert_eq!(brief(&check(&stage, hero(0), &path(&jump))), []);
        let mut hill = floored();
        hill.solids.push(slope("hill", &[(100.0, LEVEL), (200.0, LEVEL - 100.0), (200.0, LEVEL)]));
        // Up a slope of 45 degrees at 5 px a tick.
        let climb: Vec<(f64, f64)> =
            (0..12).map(|k| 100.0 + 5.0 * f64::from(k)).map(|x| (x, LEVEL - (x + 4.0 - 100.0))).collect();
        assert_eq!(brief(&check(&hill, hero(0), &path(&climb))), []);
    }
}
