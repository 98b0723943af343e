//! midair_stop: a body that flew against a side lost its other speed as well.

use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::pause::{self, Rest, Rests};
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::walk::{COARSE, fronts};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::geometry::{TOUCH, Vec2};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Outline;
use crate::world::{Body, HAIR, SolidIndex, Strip, Thing};

/// What goes up or down by less is near the top of a jump, px a tick at 60 ticks a second.
const FLIGHT: f64 = 1.5;

/// Room that is enough to go on, px.
const ROOM: f64 = 1.0;

/// Steps after a stop that show what goes on there.
const SHOWN: usize = 3;
/// The same where places are written coarsely.
const SHOWN_COARSELY: usize = 8;

/// What stays in place for this many ticks does not slide.
const CLINGS: u64 = 2;

#[derive(Debug, Default)]
pub(crate) struct MidairStop {
    /// Stops that what follows has not told yet.
    stopped: PerInstance<Option<Stopped>>,
}

/// A body beside what stopped it.
#[derive(Clone, Copy, Debug)]
struct Stopped {
    way: Way,
    solid: SolidIndex,
    /// The upright speed that it had, px a tick; below 0 upwards.
    lost: f64,
    /// Whether gravity may have made the next step as well: the one after it decides.
    is_doubted: bool,
    /// How long it has stayed in place since.
    rests: Rests,
    /// How far it went down on each tick after that.
    steps: [f64; SHOWN_COARSELY],
    shown: usize,
}

/// What a body does after a stop.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum After {
    /// More ticks must show it.
    Unknown,
    /// It falls as from rest, or does not fall at all: its speed is gone.
    Lost,
    /// It slides down along the side by right, or goes on as it was.
    Right,
}

impl Stopped {
    /// Whether gravity alone makes the next step out of the one that was cut short: the rise was not lost there but let go, on the
    /// same tick by chance.
    fn flies_on(&self, next: f64, touch: f64) -> bool {
        let (Some(before), Some(gravity)) = (self.way.before, self.gravity()) else { return false };
        let (rise, slack) = (self.way.now.at.y - before.at.y, 0.02 + 4.0 * touch);
        rise < 0.0 - slack && gravity > 0.0 && (next - rise - gravity).abs() <= slack
    }

    fn gravity(&self) -> Option<f64> {
        Some(self.way.last_move?.y - self.way.earlier_move?.y)
    }

    /// Its speed up or down before: the step that met the side may have been a short one.
    fn speed(&self) -> f64 {
        let earlier = self.way.earlier_move.map_or(0.0, |earlier| earlier.y * self.lost.signum());
        self.lost.abs().max(earlier)
    }

    /// Takes in a tick after it.
    fn see(&mut self, motion: Vec2, step: &Step<'_>) -> After {
        let is_same = step.now().animation == self.way.now.animation;
        let is_coarse = step.grain > COARSE;
        if self.shown == 0 && !self.is_doubted {
            let rest = self.rests.see(step);
            if is_same && rest != Rest::Over {
                return if rest == Rest::Paused { After::Unknown } else { After::Lost };
            }
        }
        let is_held = is_same && motion.y >= 0.0 - step.touch() && motion.y < self.speed() * 0.5;
        if !is_held {
            // After a pause it goes on as fast as before.
            if self.shown == 0 && self.rests.ticks() >= CLINGS {
                let goes_on = motion.y * self.lost.signum() >= self.speed() * 0.5;
                return if goes_on { After::Right } else { After::Lost };
            }
            // In whole px the first steps of a fall may soon be as long as those before: each is longer than the one before.
            self.steps[self.shown] = motion.y;
            let steps = &self.steps[..=self.shown];
            let grows = self.shown >= 2 && steps.windows(2).all(|pair| pair[0] < pair[1]);
            let falls = is_same && is_coarse && grows && had(steps) <= step.grain;
            return if falls { After::Lost } else { After::Right };
        }
        if self.is_doubted {
            let is_slow = self.gravity().is_some_and(|gravity| motion.y < gravity * 0.5);
            return if is_slow { After::Lost } else { After::Right };
        }
        if self.shown == 0 && self.rests.ticks() == 0 && self.flies_on(motion.y, step.touch()) {
            self.is_doubted = true;
            return After::Unknown;
        }
        self.steps[self.shown] = motion.y;
        self.shown += 1;
        if is_coarse { self.falls_coarsely(step) } else { self.falls(step) }
    }

    /// Out of its first steps: from rest gravity makes each longer than the one before by as much as the first is long, or,
    /// where the speed is taken anew on each tick, all as long as that. A slide is slower than a fall, or goes at one speed.
    fn falls(&self, step: &Step<'_>) -> After {
        let slack = 0.02 + 2.0 * step.touch();
        let gravity = self.gravity().filter(|gravity| *gravity > slack);
        let [first, second, third, ..] = self.steps;
        match (self.shown, gravity) {
            (1, Some(gravity)) if first > 1.5 * gravity + slack => After::Right,
            (2, Some(gravity)) => {
                let more = second - first;
                let is_fall = more >= 0.75 * gravity - slack;
                let is_taken_anew = more.abs() <= slack && (first - gravity).abs() <= slack;
                if is_fall || is_taken_anew { After::Lost } else { After::Right }
            }
            // At its greatest speed gravity does not show.
            (SHOWN, None) => {
                let (one, other) = (second - first, third - second);
                let is_fall = one > slack && (other - one).abs() <= slack && first <= 1.5 * one + slack;
                if is_fall { After::Lost } else { After::Right }
            }
            _ => After::Unknown,
        }
    }

    /// The same in whole px: a fall goes much further in the second half of these ticks than in the first, a slide as far; and a fall
    /// out of a slide began with the speed of that.
    fn falls_coarsely(&self, step: &Step<'_>) -> After {
        /// Of fewer nothing is asked.
        const LEAST: usize = 4;
        if self.shown < LEAST || !self.shown.is_multiple_of(2) {
            return After::Unknown;
        }
        let steps = &self.steps[..self.shown];
        let (early, late) = steps.split_at(self.shown / 2);
        let more = late.iter().sum::<f64>() - early.iter().sum::<f64>();
        match self.shown {
            _ if more >= 3.0 * step.grain && had(steps) <= step.grain => After::Lost,
            SHOWN_COARSELY => After::Right,
            _ => After::Unknown,
        }
    }
}

/// The speed that a fall had before the first of these steps, of which there are two at least, where each is longer than the one
/// before by the same.
fn had(steps: &[f64]) -> f64 {
    let (all, half) = (steps.len() as f64, steps.len() / 2);
    let (early, late) = (&steps[..half], &steps[steps.len() - half..]);
    let gravity = (late.iter().sum::<f64>() - early.iter().sum::<f64>()) / (half as f64 * (all - half as f64));
    steps.iter().sum::<f64>() / all - gravity * (all + 1.0) / 2.0
}

impl TakeRule for MidairStop {
    const SPEC: Spec = Spec {
        code: "midair_stop",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "In the air a body met the side of a solid, and lost not only its speed towards it but its rise or \
                    fall too, for which there was room.",
            matters: "Jumps along walls catch at corners and at the seams of tiles, and the actor hangs there for a moment.",
            measured: "Without ground before or after it, the body lost three quarters of its speed on both axes in a \
                       tick, touches a side in front, has a px of room to go on up or down, and keeps its animation. Then it \
                       stays in place for 0.33 s, or moves on otherwise than before, or falls as from rest: what slides down \
                       the side at one speed does so by right, and what goes on as fast as before was held by a pause of the \
                       game. Of a rise, what gravity takes is left out; who dashes, and a round foot that \
                       lies on a corner, are silent. What takes hold of walls by right changes its animation. The figure is \
                       the upright speed lost, px a tick.",
            fix: "Take back the motion on each axis by itself: what meets a side keeps its rise or fall.",
            drawing: "        ####\n   [ ]->####\n    ^   ####   hangs here\n",
        },
    };
    const LATE: u64 = pause::LATE + SHOWN_COARSELY as u64;
    const AFTER: &'static [&'static str] = &["embedded", "no_headroom", "tunnelled", "caught_rising"];
    type Seen = f64;

    fn new(_: &Settings) -> MidairStop {
        MidairStop::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.stopped.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, f64>) {
        let step = look.step;
        let known = self.stopped.of(step.instance());
        // As a rule there is none, and nothing is moved.
        if known.is_none() {
            if let Some(now) = stopped(look) {
                *known = Some(now);
            }
            return;
        }
        let Some(mut before) = known.take() else { return };
        let Some(motion) = step.motion() else { return };
        match before.see(motion, step) {
            After::Lost => report(look, before, out),
            After::Unknown => *known = Some(before),
            After::Right => *known = stopped(look),
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, f64>) -> Words {
        let lost = case.to_fix.seen;
        let step = scene.step(case.to_fix.way);
        let to = step.now().at + Vec2::new(0.0, lost);
        let label = scene.label(case.key.instance);
        // Where places are written coarsely, where it would have come to is not known well.
        let is_free = step.grain <= COARSE && scene.has_room_at(&step, to);
        let axis = if lost < 0.0 { "rise" } else { "fall" };
        Words {
            message: format!(
                "The side of {} stopped {label} in the air, and {} a tick of its {axis} are lost too",
                scene.name(case.key.with),
                px(lost.abs())
            ),
            fix: match is_free {
                true => format!(
                    "Take back the motion across alone: with its {axis} kept {label} comes to {}.",
                    scene.place(to)
                ),
                false => {
                    format!("Take back the motion across alone, and keep as much of the {axis} as there is room for.")
                }
            },
            remains: if is_free { 0.0 } else { case.to_fix.figure },
            end_at: is_free.then(|| step.end_at(to)),
            change: None,
        }
    }
}

/// What pushes up by more, of 1, is no side.
const LEANS: f64 = 0.1;

/// A body in the air that lost both speeds on this step beside a side.
fn stopped(look: &Look<'_, '_>) -> Option<Stopped> {
    let step = look.step;
    let (motion, last, earlier) = (step.motion()?, step.way.last_move?, step.way.earlier_move?);
    // Most go on, and are asked nothing else.
    if motion.hypot2() * 16.0 > last.hypot2() || last == Vec2::ZERO {
        return None;
    }
    let ground = &look.seat.ground;
    let before = step.before()?;
    let says_air = !step.now().is_off_foot && step.now().grounded != Some(true);
    let is_flying = says_air && !ground.now.is_firm && before.animation == step.now().animation;
    let least = step.speed(FLIGHT).max(3.0 * step.grain);
    // The step that meets the side may have been a short one; of a rise gravity makes short ones.
    let upright = if last.y < least && last.y > 0.0 { earlier.y } else { last.y };
    // What is left of a rise at its top gravity takes.
    if upright < 0.0 && motion.y - upright <= step.jolt() + 2.0 * step.grain {
        return None;
    }
    // Who dashes holds its height.
    if last.x.abs().max(earlier.x.abs()) > step.run() {
        return None;
    }
    // The step that meets the side may have been a short one.
    let across = if last.x.abs() > earlier.x.abs() { last.x } else { earlier.x };
    // The side was met on the step before, and the fall went on: what ended it came later.
    if last.x.abs() <= TOUCH && last.y.abs() >= earlier.y.abs() * 0.5 {
        return None;
    }
    let is_stop = upright.abs() >= least && across.abs() >= least * 0.5;
    if !(is_flying && is_stop) {
        return None;
    }
    let front = fronts(look, across.signum(), (0.0 - motion.x * across.signum()).max(0.0)).into_iter().next()?;
    let on = step.now().at + Vec2::new(0.0, upright.signum() * upright.abs().min(ROOM));
    // A round foot may have landed on a corner, which no side does: not quite upright is enough.
    let landed = Strip::new(&step.old_body?.pieces, step.near());
    let is_under =
        |outline: &Outline| landed.overlap(before.at, outline).is_some_and(|found| found.push.y < 0.0 - LEANS);
    // So may any body have on another one.
    if look.floors().supports(step).any(is_under) || look.is_held_by_body(Vec2::new(0.0, upright.signum())) {
        return None;
    }
    // A ceiling may have ended the rise a tick before.
    let over = Body::new(step.old_body?, step.now().body_mask);
    let was_free =
        upright > 0.0 || look.world().depth(over, before.at - Vec2::new(0.0, ROOM + step.grain)) <= step.touch() + HAIR;
    (was_free && look.has_room(on)).then_some(Stopped {
        way: step.way,
        solid: front.solid,
        lost: upright,
        is_doubted: false,
        rests: Rests::default(),
        steps: [0.0; SHOWN_COARSELY],
        shown: 0,
    })
}

fn report<'a>(look: &Look<'_, 'a>, stopped: Stopped, out: &mut Ledger<'a, f64>) {
    let Stopped { way, solid, lost, .. } = stopped;
    let Some(then) = Step::new(look.input(), way) else { return };
    let key = Key { instance: way.instance, with: With::Thing(Thing::Solid(solid)) };
    out.see(key, Span::at(way.now.tick), lost.abs(), || Sighting {
        tick: way.now.tick,
        figure: lost.abs(),
        at: way.now.at,
        push: Vec2::new(0.0, lost.signum()),
        cause: Cause::Moved,
        shape: &then.body.name,
        way,
        seen: lost,
    });
}

#[cfg(test)]
mod tests {
    use crate::stage::Stage;
    use crate::testing::{Row, at, check, hero, path, short, solid, span, stage};
    use crate::{Facing, Rect};

    fn beside_a_block() -> Stage {
        let mut yard = stage();
        yard.solids.push(solid("floor", Rect::new(0.0, 280.0, 400.0, 300.0)));
        yard.solids.push(solid("block", Rect::new(100.0, 180.0, 160.0, 260.0)));
        yard
    }

    /// Flies up to the right, meets the block's side at x 96 on tick 5, stays there for some ticks in an animation, and falls.
    fn flight(rise: f64, stays: u64, animation: &'static str) -> Vec<Row> {
        let mut rows = Vec::new();
        let mut add = |x: f64, y: f64, animation| {
            rows.push(Row(rows.len() as u64, (x, y), Facing::Right, animation, ""));
        };
        (0..5).for_each(|k| add(88.1 + 1.7 * f64::from(k), 270.3 - 6.0 * f64::from(k), "stand"));
        add(96.0, 240.3, "stand");
        (1..=stays).for_each(|k| add(96.0, 240.3 - rise * k as f64, animation));
        (1..8).for_each(|k| add(96.0, 240.3 - rise * stays as f64 + 0.4 * f64::from(k * k), animation));
        rows
    }

    #[test]
    fn both_speeds_lost_at_a_side_are_reported_and_what_rises_on_or_takes_hold_is_not() {
        let yard = beside_a_block();
        let report = check(&yard, hero(0), &flight(0.0, 3, "stand"));
        assert_eq!(report.findings.len(), 1, "{:?}", short(&report));
        let found = &report.findings[0];
        assert_eq!((found.rule.code(), span(found), found.figure), ("midair_stop", (6, 6), 6.0));
        assert_eq!((at(found).with.as_str(), found.remains), ("yard/block", Some(0.0)));
        assert!(found.fix.ends_with("with its rise kept hero comes to (96.00, 234.30)."), "{}", found.fix);
        // It rises on along the side; it takes hold of the wall; it is stopped by a ceiling as well.
        assert_eq!(short(&check(&yard, hero(0), &flight(5.0, 3, "stand"))), []);
        assert_eq!(short(&check(&yard, hero(0), &flight(0.0, 9, "duck"))), []);
        let mut low = beside_a_block();
        low.solids.push(solid("roof", Rect::new(40.0, 200.0, 100.0, 220.3)));
        assert_eq!(short(&check(&low, hero(0), &flight(0.0, 3, "stand"))), []);
    }

    #[test]
    fn what_slides_down_a_side_or_goes_on_after_a_pause_is_not_reported() {
        let yard = beside_a_block();
        // Falls to the right, meets the block's side with a short step, stays for some ticks, and then goes down by each of these.
        let found = |stays: usize, down: &[f64]| {
            let mut places: Vec<(f64, f64)> =
                (0..5).map(|k| (88.1 + 1.7 * f64::from(k), 170.3 + 6.3 * f64::from(k))).collect();
            places.extend(vec![(96.0, 197.5); 1 + stays]);
            for by in down {
                places.push((96.0, places[places.len() - 1].1 + by));
            }
            short(&check(&yard, hero(0), &path(&places))).len()
        };
        assert_eq!(found(1, &[0.4, 0.8, 1.2, 1.6]), 1, "as from rest");
        assert_eq!(found(9, &[0.4, 0.8, 1.2, 1.6]), 1, "let go after a hold");
        assert_eq!(found(24, &[]), 1, "no pause is so long");
        assert_eq!(found(1, &[1.1; 6]), 0, "a slide at one speed");
        assert_eq!(found(9, &[1.1; 6]), 0, "one after a pause");
        assert_eq!(found(9, &[6.3, 6.3]), 0, "on as before");
    }
}
