//! What a check has to say.

use super::Rule;
use crate::geometry::{Point, Vec2};
use crate::stage::Effect;
use std::fmt;

/// How much a finding matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Severity {
    /// Not told.
    Off,
    /// Told in passing.
    Note,
    /// Worth a look.
    Warn,
    /// A fault.
    Error,
}

impl Severity {
    /// All severities, as the files name them.
    pub const ALL: [Severity; 4] = [Severity::Off, Severity::Note, Severity::Warn, Severity::Error];

    /// The severity's word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Severity::Off => "off",
            Severity::Note => "note",
            Severity::Warn => "warn",
            Severity::Error => "error",
        }
    }

    /// Reads a severity's word.
    pub fn parse(word: &str) -> Option<Severity> {
        Severity::ALL.into_iter().find(|severity| severity.name() == word)
    }
}

impl fmt::Display for Severity {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// What first made a fault: the first of the steps between two ticks after which it was there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Cause {
    /// The actor moved.
    Moved,
    /// It turned.
    Turned,
    /// Its frame, and with it its shape, changed.
    Reshaped,
    /// A state changed what it looks for.
    State,
    /// It appeared there.
    Spawned,
    /// It was put there.
    Warped,
    /// Another body pushed it.
    Pushed,
}

impl Cause {
    /// The cause as one word.
    pub fn name(self) -> &'static str {
        match self {
            Cause::Moved => "moved",
            Cause::Turned => "turned",
            Cause::Reshaped => "reshaped",
            Cause::State => "state",
            Cause::Spawned => "spawned",
            Cause::Warped => "warped",
            Cause::Pushed => "pushed",
        }
    }
}

/// The worst moment of a finding.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Worst {
    /// The tick.
    pub tick: u64,
    /// The rule's figure then, px; what it measures is told by [`Rule::text`].
    pub depth: f64,
    /// The place, world space.
    pub at: Point,
    /// Unit vector of the way in which `depth` px would end it; zero where there is none.
    pub push: Vec2,
}

/// A fault over a span of ticks.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// The rule it breaks.
    pub rule: Rule,
    /// How much it matters here.
    pub severity: Severity,
    /// The actor instance.
    pub actor: String,
    /// Its shape.
    pub shape: String,
    /// What it clipped into or missed: `stage/thing`, or `actor.shape`.
    pub with: String,
    /// First and last tick.
    pub ticks: (u64, u64),
    /// The worst moment.
    pub worst: Worst,
    /// What first made it.
    pub cause: Cause,
    /// What happened, in one sentence.
    pub message: String,
    /// What to change, with the number.
    pub remedy: String,
    /// The rule's figure once the remedy was applied in memory and the fault measured again: 0 where it is gone. `None` where a
    /// remedy cannot be applied there.
    pub remains: Option<f64>,
}

/// Whether a zone event is the beginning or the end.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum EventKind {
    /// The body overlaps the zone and did not before.
    Enter,
    /// It no longer does.
    Exit,
}

impl EventKind {
    /// The kind as one word.
    pub fn name(self) -> &'static str {
        match self {
            EventKind::Enter => "enter",
            EventKind::Exit => "exit",
        }
    }
}

/// All that an instance had to do with a zone over a take.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Stay {
    /// The zone's name.
    pub zone: String,
    /// What the zone does: whether a hazard was reached is told by this.
    pub effect: Effect,
    /// The actor instance.
    pub actor: String,
    /// How often it entered so that the zone took note: not while `cooldown` or `once` leave it out.
    pub entered: u64,
    /// On how many of the take's ticks it was inside.
    pub ticks: u64,
    /// The first of them.
    pub first_tick: u64,
    /// The last of them.
    pub last_tick: u64,
}

/// A body entering or leaving a zone.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Event {
    /// The tick.
    pub tick: u64,
    /// The zone's name.
    pub zone: String,
    /// The actor instance.
    pub actor: String,
    /// Beginning or end.
    pub kind: EventKind,
}
