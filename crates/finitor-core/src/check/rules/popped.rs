//! popped: a standing body is much higher a tick later.

use crate::actor::DEFAULT_STEP;
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::step::Step;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{number, px};
use crate::finding::{Cause, Span};
use crate::geometry::{Vec2, deepest_overlap};
use crate::rule::{RuleText, Severity, Spec, Unit};
use crate::stage::Outline;

#[derive(Debug)]
pub(crate) struct Popped;

impl TakeRule for Popped {
    const SPEC: Spec = Spec {
        code: "popped",
        severity: Severity::Warn,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body that is grounded on two ticks in a row is higher on the second by more than its step, its speed \
                    or a slope explains.",
            matters: "It jumps up ledges at a touch.",
            measured: "The rise in a tick against [moves] step (4 px by default), the rise of the tick before with that \
                       step, and twice the way across.",
            fix: "Stop at the edge; or set a greater step if it may climb so high.",
            drawing: "          [ ]\n          ####\n   [ ] -> ####   figure\n   ###########\n",
        },
    };
    type Seen = ();

    fn new(_: &Settings) -> Popped {
        Popped
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, ()>) {
        let step = look.step;
        let ground = &look.seat.ground;
        let Some(motion) = step.motion().filter(|motion| motion.y < 0.0 - step.slack) else { return };
        let rise = 0.0 - motion.y;
        if !(ground.was_carried && ground.now.carries) || rise <= explained(step, own_step(step)) {
            return;
        }
        // Coming up out of something is the end of that fault, and no other.
        let old = step.old_body.zip(step.before());
        let was_in = |outline: &Outline| {
            old.and_then(|(body, before)| deepest_overlap(&body.pieces, before.at.to_vec2(), &outline.pieces))
                .is_some_and(|(found, ..)| found.depth > step.slack)
        };
        if look.floors().supports(step).any(was_in) {
            return;
        }
        let key = Key { instance: step.instance(), with: With::Stage };
        out.see(key, Span::at(step.now().tick), rise, || Sighting {
            tick: step.now().tick,
            figure: rise,
            at: step.now().at,
            push: Vec2::new(0.0, -1.0),
            cause: Cause::Moved,
            shape: &step.body.name,
            way: step.way,
            seen: (),
        });
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
                px(own_step(&step)),
                number(rise)
            ),
            remains: (rise - explained(&step, rise)).max(0.0),
        }
    }
}

/// The highest edge that the actor steps up, px.
fn own_step(step: &Step<'_>) -> f64 {
    step.actor.moves.step.unwrap_or(DEFAULT_STEP)
}

/// The rise that is no fault for an actor that steps up so much, px.
fn explained(step: &Step<'_>, own: f64) -> f64 {
    /// As steep as any floor is: 2 in 1.
    const STEEPEST: f64 = 2.0;
    let speed = step.way.last_move.map_or(0.0, |last| 0.0 - last.y).max(0.0);
    let slope = step.motion().map_or(0.0, |motion| motion.x.abs() * STEEPEST);
    own.max(slope).max(speed + own) + step.slack
}
