//! Standing actors whose art is off the ground: what is common to `hover` and `sunk_feet`.

use super::aloft::{Aloft, over_ground};
use super::ledger::{Key, Ledger, Sighting, With};
use super::level_runs::Off;
use super::look::Look;
use super::pause::{outlasting, stays};
use super::standing::{Arrival, Standing};
use super::step::Step;
use crate::finding::{Cause, Span};
use crate::geometry::Vec2;
use crate::rule::{Threshold, Unit};
use crate::world::OneWayIndex;

/// From where on art off the ground counts.
pub(crate) const HOVER: Threshold = Threshold {
    key: "hover",
    about: "Art of a standing actor may be this far off the ground, over it or under it.",
    unit: Unit::Px,
    default: 1.0,
    least: 0.0,
    most: 1e7,
};

/// A change of speed beyond this is a fall, px a tick per tick; games with little gravity have twice as much.
const STEADY: f64 = 0.05;

/// Art must be off the ground for this many ticks of a game with 60 a second after the first: walks bob, and games that log whole px stay as high for some ticks
/// at the top of a hop.
pub(crate) const HELD: u64 = 9;

/// The same in ticks of this game.
pub(crate) fn held(step: &Step<'_>) -> u64 {
    (HELD as f64 / step.pace).ceil() as u64
}

/// Art off the ground on a tick.
#[derive(Clone, Debug)]
pub(crate) struct OffGround {
    pub(crate) off: Off,
    /// The platforms that the body was passing.
    pub(crate) passing: Vec<OneWayIndex>,
    pub(crate) on: On,
}

/// What a figure stands on that is off the ground.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum On {
    /// Its strip, or its body, feels ground.
    Ground,
    /// Nothing.
    Air,
}

/// Reports art that is off the ground on this tick and on the ones before, at the same height. `off` picks the distance that
/// matters; `push` is the way back to the ground.
pub(crate) fn see<'a>(
    look: &Look<'_, 'a>,
    allowed: f64,
    push: Vec2,
    off: impl Fn(&Standing) -> Off,
    out: &mut Ledger<'a, OffGround>,
) {
    let step = look.step;
    let Some(before) = look.seat.ground.stood else { return };
    let Some(now) = look.seat.ground.now.standing else {
        let was = Was { since: before.since, cause: before.cause, off: off(&before), allowed };
        if before.arrival == Arrival::Fell && was.off.by > allowed {
            see_jump(look, push, was, out);
        }
        return;
    };
    let (cause, since, arrival) = (before.cause, before.since, before.arrival);
    let (before, now) = (off(&before), off(&now));
    // As a rule it stands as it should, and nothing else is asked.
    if !(before.by > allowed && now.by > allowed && (now.by - before.by).abs() <= step.slack) {
        return;
    }
    let tick = step.now().tick;
    // A body in the air falls faster and faster: the top of a hop is no standing.
    let motions = step.motion().zip(step.way.last_move);
    let steady = step.change_of_speed(STEADY) + 2.0 * step.grain;
    let is_steady = motions.is_some_and(|(motion, last)| (motion.y - last.y).abs() <= steady);
    // What has just come there may be held in the air.
    let least = if arrival != Arrival::Stayed { outlasting(step, held(step)) } else { held(step) };
    if !(is_steady && since + least <= tick && step.is_on_foot()) {
        return;
    }
    // On a corner that its strip leaves out, or that it is over by less than places are rounded, it stands all the same.
    if push.y > 0.0 && look.floors().stands_on_corner(step, allowed) {
        return;
    }
    // What it stands on may be another body.
    if look.is_held_by_body(Vec2::new(0.0, 1.0)) {
        return;
    }
    let art = Art { step, push, cause, passing: look.floors().passing, on: On::Ground };
    art.see(before, now, since, out);
}

/// Reports a figure that stands on nothing, a little above the ground.
pub(crate) fn see_aloft<'a>(look: &Look<'_, 'a>, allowed: f64, known: Aloft, out: &mut Ledger<'a, OffGround>) {
    let Some(off) = over_ground(look).filter(|off| off.by > allowed) else { return };
    let (push, passing) = (Vec2::new(0.0, 1.0), look.floors().passing);
    let art = Art { step: look.step, push, cause: known.cause, passing, on: On::Air };
    art.see(off, off, known.since, out);
}

/// Reports art that was off the ground on the ticks before a jump, where the body stayed in place for no longer than a pause lasts:
/// what a pause held goes on as before, and does not jump.
fn see_jump<'a>(look: &Look<'_, 'a>, push: Vec2, was: Was, out: &mut Ledger<'a, OffGround>) {
    let Was { since, cause, off, allowed } = was;
    let rises = look.step.motion().is_some_and(|motion| motion.y < 0.0 - look.step.touch());
    let Some(step) = look.step.way.one_before().filter(|_| rises).and_then(|way| Step::new(look.input(), way)) else {
        return;
    };
    let (key, tick) = (Key { instance: step.instance(), with: With::Stage }, step.now().tick);
    if !stays(step.motion()) || since + held(&step) > tick || out.is_running(key, tick + 1) || !step.may_stand() {
        return;
    }
    let floors = look.floors();
    if push.y > 0.0 && floors.stands_on_corner(&step, allowed) {
        return;
    }
    let art = Art { step: &step, push, cause, passing: floors.passing, on: On::Ground };
    out.see(key, Span { first: since, last: tick }, off.by, || art.sighting(since, off));
}

/// How the art was off the ground, since when, and by what.
struct Was {
    since: u64,
    cause: Cause,
    off: Off,
    /// By how much it may be.
    allowed: f64,
}

/// Art on a step, and the way from it to the ground.
struct Art<'s, 'a> {
    step: &'s Step<'a>,
    push: Vec2,
    cause: Cause,
    passing: &'s [OneWayIndex],
    on: On,
}

impl<'a> Art<'_, 'a> {
    /// Reports it on this tick, and on those before on which it was so, too, which is known only now.
    fn see(&self, before: Off, now: Off, since: u64, out: &mut Ledger<'a, OffGround>) {
        let (key, tick) = (Key { instance: self.step.instance(), with: With::Stage }, self.step.now().tick);
        if !out.is_running(key, tick) && since < tick {
            out.see(key, Span { first: since, last: tick - 1 }, before.by, || self.sighting(since, before));
        }
        out.see(key, Span::at(tick), now.by, || self.sighting(tick, now));
    }

    /// The fault, as far as it lay off the ground on a tick.
    fn sighting(&self, tick: u64, off: Off) -> Sighting<'a, OffGround> {
        let step = self.step;
        Sighting {
            tick,
            figure: off.by,
            at: off.at,
            push: self.push,
            cause: self.cause,
            shape: step.body.name.as_str(),
            way: step.way,
            seen: OffGround { off, passing: self.passing.to_vec(), on: self.on },
        }
    }
}
