//! Figures that stand on nothing, not far above the ground: they show what they show on the ground, and neither rise nor fall.

use super::contacts::ContactState;
use super::level_runs::Off;
use super::look::Look;
use crate::finding::Cause;
use crate::geometry::Point;

/// What lies further below is not what a small figure should stand on, px.
const FAR: f64 = 16.0;
/// For how long it must stand there, ticks of a game with 60 a second: longer than games hold everything still.
const LEAST: f64 = 30.0;
/// By how many ticks a rule is late that waits for that.
pub(crate) const LATE: u64 = LEAST as u64;
/// An animation that was shown on the ground for as long is one of the ground, ticks of a game with 60 a second.
const KNOWN: f64 = 15.0;
/// If it was shown on the ground on this many ticks for each on which it rose or fell.
const MOSTLY: u32 = 4;

/// Where an animation was shown.
#[derive(Clone, Copy, Debug, Default)]
struct Shown {
    carried: u32,
    /// While nothing carried it, and it rose or fell.
    aloft: u32,
}

/// How it came to where nothing carries it.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
enum Arrival {
    /// It went on from the ground, or fell.
    #[default]
    Moved,
    /// It was put there.
    Put,
    /// It rose, as on a ladder, or on what the take leaves out.
    Rose,
}

/// A figure at one height over nothing.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Aloft {
    /// The first tick.
    pub(crate) since: u64,
    /// How it came there.
    pub(crate) cause: Cause,
    y: f64,
}

/// What is known of an instance.
#[derive(Clone, Debug, Default)]
pub(crate) struct AloftMemory {
    /// Of each animation.
    shown: Vec<Shown>,
    arrival: Arrival,
    run: Option<Aloft>,
}

impl AloftMemory {
    /// Takes in a tick; what it has been at for long, if it is that still.
    pub(crate) fn see(&mut self, look: &Look<'_, '_>) -> Option<Aloft> {
        let (step, tick) = (look.step, look.step.now().tick);
        let index = step.now().animation;
        if self.shown.len() <= index {
            self.shown.resize(index + 1, Shown::default());
        }
        let shown = &mut self.shown[index];
        if look.seat.ground.now.carries {
            shown.carried += 1;
            (self.run, self.arrival) = (None, Arrival::Moved);
            return None;
        }
        let Some(motion) = step.motion() else {
            (self.run, self.arrival) = (None, Arrival::Put);
            return None;
        };
        if motion.y.abs() > step.touch() {
            shown.aloft += 1;
            self.run = None;
            self.arrival = if motion.y > 0.0 { Arrival::Moved } else { Arrival::Rose };
            return None;
        }
        let is_of_ground = f64::from(shown.carried) * step.pace >= KNOWN && shown.carried >= MOSTLY * shown.aloft;
        let says_so = step.now().grounded == Some(true);
        let for_long = |run: Aloft| (tick - run.since) as f64 * step.pace >= LEAST;
        let goes_on = self.run.is_some_and(for_long);
        let shows_it = (is_of_ground && !look.weight().is_weightless()) || says_so || goes_on;
        let may_be = self.arrival != Arrival::Rose && shows_it && step.is_on_foot();
        if !may_be || is_held(look) {
            self.run = None;
            return None;
        }
        let y = step.now().at.y;
        let cause = if self.arrival == Arrival::Put { Cause::Warped } else { Cause::Moved };
        let same = self.run.filter(|run| (run.y - y).abs() <= step.rough());
        let run = *self.run.insert(same.unwrap_or(Aloft { since: tick, cause, y }));
        Some(run).filter(|run| for_long(*run))
    }
}

/// Whether anything but ground may hold it: what it is in, or passes, or another body.
fn is_held(look: &Look<'_, '_>) -> bool {
    let is_inside = look.contacts.iter().any(|contact| matches!(contact.state, ContactState::Inside { .. }));
    is_inside || look.seat.meets_body || !look.floors().passing.is_empty()
}

/// How far the lowest opaque row is over the ground that lies not far below a body.
pub(crate) fn over_ground(look: &Look<'_, '_>) -> Option<Off> {
    let step = look.step;
    let body = step.bounds();
    let surface = look.floors().ground_below(step, step.far(FAR))?;
    let foot = step.foot().map_or(body.y1, |foot| foot.y + step.now().at.y);
    let by = surface.y - foot;
    (surface.y > body.y1 + step.rough()).then_some(Off { by, at: Point::new(surface.x, foot) })
}
