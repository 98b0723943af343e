//! stuck_frame: what walks shows one frame of its animations all through the take.

use crate::check::ledger::{Case, Key, Ledger, With};
use crate::check::look::Look;
use crate::check::moment::Moment;
use crate::check::per_instance::PerInstance;
use crate::check::step::Way;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::and_more_instances;
use crate::check::{CheckInput, Settings, View};
use crate::finding::Span;
use crate::geometry::Vec2;
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

/// For how long a frame may be shown while one moves on, ticks at 60 ticks a second.
const HOLD: f64 = 30.0;

/// For how long beyond that it must have moved in all, ticks at 60 ticks a second.
const LONG: f64 = 90.0;

#[derive(Debug)]
pub(crate) struct StuckFrame {
    view: View,
    known: PerInstance<Known>,
}

/// What an instance has shown.
#[derive(Clone, Copy, Debug, Default)]
struct Known {
    /// Whether two rows with animations of several frames had another frame.
    has_changed: bool,
    /// The frame of all such rows.
    frame: Option<usize>,
    /// Whether it can walk, or has ever shown another animation or the other side: a crate does not.
    is_figure: bool,
    /// Ticks on which it moved since it shows what it shows.
    run: u64,
    /// Those that count.
    walk: Option<Walk>,
}

/// The ways of an instance in one frame.
#[derive(Clone, Copy, Debug)]
struct Walk {
    first: Way,
    last: u64,
    ticks: u64,
    /// Whether it went along each axis: seen from above a frame may be a direction.
    across: bool,
    up: bool,
}

/// What was found of the instance that moved longest in one frame.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Stuck {
    /// How many other instances are as it is.
    others: usize,
}

impl TakeRule for StuckFrame {
    const SPEC: Spec = Spec {
        code: "stuck_frame",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Ticks,
        thresholds: &[],
        text: RuleText {
            means: "An instance walks, its animations have several frames, and the take shows one of them all through: the \
                    recording writes the same number to `frame`, or the game's animation does not run.",
            matters: "Shapes go with the frame. Only those of one frame are checked; what the others would do is called clean \
                      unseen.",
            measured: "Instances that can walk, or have turned or changed their animation. The figure is the number of ticks \
                       on which they moved on, on the ground where the game is seen from the side, after the first 0.5 s in \
                       an animation; from 1.5 s on it is reported. All instances of a take are one finding.",
            fix: "Write to `frame` which frame of the animation is on the screen, counted from 0, on every tick.",
            drawing: "    o     o     o     o\n   /|\\   /|\\   /|\\   /|\\\n   / \\   / \\   / \\   / \\\n  walk 0     walk 0     walk 0   of 4\n",
        },
    };
    type Seen = Stuck;

    fn new(settings: &Settings) -> StuckFrame {
        StuckFrame { view: settings.view(), known: PerInstance::default() }
    }

    fn pose<'a>(&mut self, input: &CheckInput<'a>, way: &Way, _: &mut Ledger<'a, Stuck>) {
        let known = self.known.of(way.instance);
        if known.has_changed {
            return;
        }
        let now = &way.now;
        let is_as = |before: Moment| before.animation == now.animation && before.facing == now.facing;
        if way.before.is_some_and(|before| !is_as(before)) {
            (known.is_figure, known.run) = (true, 0);
        }
        if input.actor(way.actor).animations[now.animation].frames.len() > 1 {
            known.has_changed = *known.frame.get_or_insert(now.frame) != now.frame;
        }
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Stuck>) {
        // Seen from the side, what nothing happens to stands still or flies.
        if self.view == View::TopDown {
            self.step(look, out);
        }
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, _: &mut Ledger<'a, Stuck>) {
        let step = look.step;
        let known = self.known.of(step.instance());
        if known.has_changed || step.actor.animations[step.now().animation].frames.len() < 2 {
            return;
        }
        let Some(motion) = step.motion().filter(|motion| *motion != Vec2::ZERO) else { return };
        let walks = look.seat.ground.now.carries && motion.x != 0.0;
        if self.view == View::Side && !walks {
            return;
        }
        known.is_figure |= step.may_walk();
        known.run += 1;
        if (known.run as f64) * step.pace <= HOLD {
            return;
        }
        let tick = step.now().tick;
        let walk = known.walk.get_or_insert(Walk { first: step.way, last: tick, ticks: 0, across: false, up: false });
        (walk.last, walk.ticks) = (tick, walk.ticks + 1);
        let goes_across = motion.x.abs() >= motion.y.abs();
        walk.across |= goes_across;
        walk.up |= !goes_across;
    }

    fn finish<'a>(&mut self, scene: &Scene<'_, 'a>, _: u64, out: &mut Ledger<'a, Stuck>) {
        let pace = scene.input.pace();
        let stuck: Vec<Walk> = self
            .known
            .iter()
            .filter(|(_, known)| known.is_figure && !known.has_changed)
            .filter_map(|(_, known)| known.walk.filter(|walk| walk.ticks as f64 * pace >= LONG))
            .filter(|walk| self.view == View::Side || (walk.across && walk.up))
            .collect();
        // The first of those that moved longest.
        let Some(&Walk { first, last, ticks, .. }) = stuck.iter().rev().max_by_key(|walk| walk.ticks) else { return };
        let seen = Stuck { others: stuck.len() - 1 };
        let key = Key { instance: first.instance, with: With::Stage };
        out.see(key, Span { first: first.now.tick, last }, ticks as f64, || scene.of_take(first, ticks as f64, seen));
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Stuck>) -> Words {
        let (first, Stuck { others }) = (case.worst.way, case.worst.seen);
        let animation = &scene.input.actor(first.actor).animations[first.now.animation];
        let and_others = and_more_instances("", others);
        let message = format!(
            "{} walks {:.0} ticks on frame {} of {}, which has {}{and_others}: no other frame's shapes are checked",
            scene.label(case.key.instance),
            case.worst.figure,
            first.now.frame,
            animation.name,
            animation.frames.len()
        );
        let fix =
            "Write to `frame` which frame is on the screen, counted from 0 in its animation; if it is this one, the \
                   game's animation does not run."
                .into();
        Words { message, fix, remains: 0.0, end_at: None, change: None }
    }
}

#[cfg(test)]
mod tests {
    use crate::actor::Actor;
    use crate::check::{CheckInput, Checker, Settings, View};
    use crate::facing::Facing;
    use crate::testing::*;

    /// Where the hero is on a tick, and which frame it shows.
    type At = fn(u64) -> ((f64, f64), usize);

    /// A hero whose only animation has four frames.
    fn walker() -> Actor {
        let mut hero = hero(0);
        hero.animations.truncate(1);
        hero.animations[0].frames = vec![hero.animations[0].frames[0].clone(); 4];
        hero
    }

    fn told(actor: Actor, view: View, ticks: u64, at: At) -> Vec<String> {
        let (stage, layers, actors) = (floored(), layers(), [actor]);
        let mut settings = Settings::default();
        settings.set_view(view);
        let mut checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
        for tick in 0..ticks {
            let (place, frame) = at(tick);
            let mut row = sample(&actors, "hero", (place, Facing::Right), "stand", "");
            row.frame = frame;
            checker.tick(tick, &[row]);
        }
        let stuck = checker.finish().findings.into_iter().filter(|finding| finding.rule.code() == "stuck_frame");
        stuck.map(|finding| finding.message).collect()
    }

    /// A walk to the right.
    fn x(tick: u64) -> f64 {
        20.0 + 2.0 * tick as f64
    }

    #[test]
    fn one_frame_all_through_a_walk_is_told_and_any_other_ends_it() {
        let side = |actor: Actor, ticks: u64, at: At| told(actor, View::Side, ticks, at);
        let message = "hero walks 119 ticks on frame 0 of stand, which has 4: no other frame's shapes are checked";
        assert_eq!(side(walker(), 150, |tick| ((x(tick), LEVEL), 0)), [message]);
        // One frame among them is another; it stands as long; it walks for less.
        assert_eq!(side(walker(), 150, |tick| ((x(tick), LEVEL), usize::from(tick == 140))), [""; 0]);
        assert_eq!(side(walker(), 150, |_| ((20.0, LEVEL), 0)), [""; 0]);
        assert_eq!(side(walker(), 119, |tick| ((x(tick), LEVEL), 0)), [""; 0]);
        // What flies, what has one frame, and a crate that something pushes.
        assert_eq!(side(walker(), 150, |tick| ((x(tick), LEVEL - 60.0), 0)), [""; 0]);
        assert_eq!(side(hero(0), 150, |tick| ((x(tick), LEVEL), 0)), [""; 0]);
        assert_eq!(side(without_strip(walker()), 150, |tick| ((x(tick), LEVEL), 0)), [""; 0]);
    }

    #[test]
    fn seen_from_above_a_frame_may_be_a_direction_until_it_turns() {
        let straight: At = |tick| ((x(tick), 100.0), 0);
        let turning: At = |tick| if tick < 80 { ((x(tick), 100.0), 0) } else { ((x(80), tick as f64 + 20.0), 0) };
        assert_eq!(told(walker(), View::TopDown, 150, straight), [""; 0]);
        assert_eq!(told(walker(), View::TopDown, 150, turning).len(), 1);
    }
}
