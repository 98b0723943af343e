//! What a target shows of a blow: another animation, or a kick.

use super::CheckInput;
use super::moment::Moment;
use super::pause;
use super::step::Way;
use crate::geometry::Vec2;

/// Steps after a blow that show it, at 60 ticks a second, besides those on which all is held still.
const STEPS: f64 = 3.0;

/// By how many ticks a rule is late that waits for them.
pub(crate) const LATE: u64 = pause::LATE + STEPS as u64;

/// What is faster by less, away from the blow or up, may be its own doing, px a tick at 60 ticks a second.
const KICK: f64 = 1.0;

/// A target from the tick of a blow on.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Reaction {
    /// Away from where the blow came from, across.
    away: f64,
    tick: u64,
    /// What it played as the blow landed.
    during: usize,
    /// How it went as the blow landed.
    going: Vec2,
    steps: u64,
    held: u64,
    /// The animation that it began, or began anew.
    begun: Option<usize>,
    /// The one that it began after another.
    entered: Option<usize>,
    is_kicked: bool,
}

impl Reaction {
    /// Before anything is shown, but for what is written on the tick of the blow itself.
    pub(crate) fn new(striker: &Way, target: &Way) -> Reaction {
        let away = (target.now.at.x - striker.now.at.x).signum();
        let going = motion(target).unwrap_or_default();
        let (tick, during) = (target.now.tick, target.now.animation);
        let mut new =
            Reaction { away, tick, during, going, steps: 0, held: 0, begun: None, entered: None, is_kicked: false };
        new.see_animation(target);
        new
    }

    /// The tick of the blow.
    pub(crate) fn tick(&self) -> u64 {
        self.tick
    }

    /// Takes in a tick of the target.
    pub(crate) fn see(&mut self, input: &CheckInput<'_>, way: &Way) {
        if self.is_over(input) {
            return;
        }
        self.see_animation(way);
        let motion = motion(way);
        let kick = KICK * input.pace() * input.size + input.grain;
        if pause::stays(motion) && self.going.hypot() > kick && self.steps == 0 {
            self.held += 1;
            return;
        }
        self.steps += 1;
        let by = |now: f64, before: f64| now > kick * 0.5 && now - before > kick;
        self.is_kicked |= motion.is_some_and(|motion| {
            by(motion.x * self.away, self.going.x * self.away) || by(0.0 - motion.y, 0.0 - self.going.y)
        });
    }

    fn see_animation(&mut self, way: &Way) {
        let now = &way.now;
        let is_new = |before: &Moment| before.animation != now.animation;
        let is_anew = |before: &Moment| now.frame < before.frame;
        let before = way.before.as_ref();
        if before.is_some_and(is_new) {
            (self.begun, self.entered) = (Some(now.animation), Some(now.animation));
        } else if before.is_some_and(is_anew) {
            self.begun = Some(now.animation);
        }
    }

    /// Whether what comes later does not count.
    pub(crate) fn is_over(&self, input: &CheckInput<'_>) -> bool {
        self.steps as f64 * input.pace() >= STEPS.max(2.0 * input.pace())
            || self.held as f64 * input.pace() >= pause::LATE as f64
    }

    /// The animation that it was put into: one that only begins anew may do so by itself.
    pub(crate) fn entered(&self) -> Option<usize> {
        self.entered
    }

    /// Whether the blow may have counted, with the animation that blows put the target into: it is put into that, or is in it and is
    /// kicked, or held as games hold who is struck. Where it does what it wants, that may be its own doing.
    pub(crate) fn may_count(&self, reels: Option<usize>) -> bool {
        let is_moved = self.is_kicked || self.held > 0;
        reels.is_none_or(|reels| self.begun == Some(reels) || (self.during == reels && is_moved))
    }
}

fn motion(way: &Way) -> Option<Vec2> {
    let before = way.before.filter(|before| before.tick + 1 == way.now.tick)?;
    Some(way.now.at - before.at)
}
