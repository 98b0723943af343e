//! Standing actors whose art is off the ground: what is common to `hover` and `sunk_feet`.

use super::ledger::{Key, Ledger, Sighting, With};
use super::look::Look;
use super::standing::{Off, Standing};
use super::step::Step;
use crate::finding::Span;
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
    let Some((before, now)) = look.seat.ground.stood.zip(look.seat.ground.now.standing) else { return };
    let tick = step.now().tick;
    // A body in the air falls faster and faster: the top of a hop is no standing.
    let motions = step.motion().zip(step.way.last_move);
    let steady = STEADY * step.pace * step.pace + 2.0 * step.grain;
    let is_steady = motions.is_some_and(|(motion, last)| (motion.y - last.y).abs() <= steady);
    let (cause, since) = (before.cause, before.since);
    let (before, now) = (off(&before), off(&now));
    let is_same = before.by > allowed && now.by > allowed && (now.by - before.by).abs() <= step.slack;
    if !(is_steady && is_same && since + held(step) <= tick && step.is_on_foot()) {
        return;
    }
    // On a corner that its strip leaves out, or that it is over by less than places are rounded, it stands all the same.
    if push.y > 0.0 && look.floors().stands_on_corner(step, allowed) {
        return;
    }
    let key = Key { instance: step.instance(), with: With::Stage };
    let passing = look.floors().passing;
    let sighting = |tick: u64, off: Off| Sighting {
        tick,
        figure: off.by,
        at: off.at,
        push,
        cause,
        shape: step.body.name.as_str(),
        way: step.way,
        seen: OffGround { off, passing: passing.to_vec() },
    };
    // It was so on the ticks before, too, and is known only now.
    if !out.is_running(key, tick) && since < tick {
        let ticks = Span { first: since, last: tick - 1 };
        out.see(key, ticks, before.by, || sighting(since, before));
    }
    out.see(key, Span::at(tick), now.by, || sighting(tick, now));
}
