//! What a target shows of a blow: another animation, or a kick.

use super::CheckInput;
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
    is_kicked: bool,
}

impl Reaction {
    /// Before anything is shown, but for what is written on the tick of the blow itself.
    pub(crate) fn new(striker: &Way, target: &Way) -> Reaction {
        let away = (target.now.at.x - striker.now.at.x).signum();
        let going = motion(target).unwrap_or_default();
        let begun = begins(target).then_some(target.now.animation);
        Reaction {
            away,
            tick: target.now.tick,
            during: target.now.animation,
            going,
            steps: 0,
            held: 0,
            begun,
            is_kicked: false,
        }
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
        if begins(way) {
            self.begun = Some(way.now.animation);
        }
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

    /// Whether what comes later does not count.
    pub(crate) fn is_over(&self, input: &CheckInput<'_>) -> bool {
        self.steps as f64 * input.pace() >= STEPS.max(2.0 * input.pace())
            || self.held as f64 * input.pace() >= pause::LATE as f64
    }

    /// The animation that it began.
    pub(crate) fn begun(&self) -> Option<usize> {
        self.begun
    }

    /// Whether the blow may have counted, with the animation that blows put the target into: it is put into that, or is in it and is
    /// kicked, or held as games hold who is struck. Where it does what it wants, that may be its own doing.
    pub(crate) fn may_count(&self, reels: Option<usize>) -> bool {
        let is_moved = self.is_kicked || self.held > 0;
        reels.is_none_or(|reels| self.begun == Some(reels) || (self.during == reels && is_moved))
    }
}

/// Whether an animation begins on a tick, or begins anew.
fn begins(way: &Way) -> bool {
    let is_new = |before: &super::moment::Moment| before.animation != way.now.animation || way.now.frame < before.frame;
    way.before.as_ref().is_some_and(is_new)
}

fn motion(way: &Way) -> Option<Vec2> {
    let before = way.before.filter(|before| before.tick + 1 == way.now.tick)?;
    Some(way.now.at - before.at)
}
