//! What a rule reports, whether it reads a take or the files.

use crate::change::Change;
use crate::geometry::{Point, Vec2};
use crate::rule::{Rule, Severity};

/// What first made a fault: the first of the changes within a step after which it was there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Cause {
    /// The actor moved.
    Moved,
    /// It turned.
    Turned,
    /// Its frame, and with it its shape, changed.
    Reshaped,
    /// A state changed what it detects.
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

/// From a first to a last tick, both included.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Span {
    /// The first tick.
    pub first: u64,
    /// The last one.
    pub last: u64,
}

impl Span {
    /// A single tick.
    pub fn at(tick: u64) -> Span {
        Span { first: tick, last: tick }
    }

    /// How many ticks it is long.
    pub fn ticks(self) -> u64 {
        self.last - self.first + 1
    }

    /// Whether it shares a tick with another.
    pub fn meets(self, other: Span) -> bool {
        self.first <= other.last && other.first <= self.last
    }
}

/// The worst moment of a finding.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Worst {
    /// The tick.
    pub tick: u64,
    /// The place, world space.
    pub at: Point,
    /// Unit vector of the way in which the figure, where it is a depth, would end; zero where there is none.
    pub push: Vec2,
}

/// Where a step is to end, as the fix of a finding has it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct EndAt {
    /// The tick.
    pub tick: u64,
    /// The place of the pivot, world space.
    pub at: Point,
}

/// The finding from which another one follows.
#[derive(Clone, Debug, PartialEq)]
pub struct Root {
    /// The rule it breaks.
    pub rule: Rule,
    /// The actor instance.
    pub subject: String,
    /// What it overlapped or missed.
    pub with: String,
    /// Its first tick.
    pub first: u64,
}

/// Where in a take a rule was broken.
#[derive(Clone, Debug, PartialEq)]
pub struct InTake {
    /// The shape of the instance.
    pub shape: String,
    /// What it overlapped or missed: `stage/thing`, or `actor.shape`.
    pub with: String,
    /// From the first to the last tick.
    pub ticks: Span,
    /// The worst moment.
    pub worst: Worst,
    /// What first made it.
    pub cause: Cause,
    /// The finding from which it follows; `None` where it stands for itself.
    pub after: Option<Root>,
    /// Where the step that went wrong is to end; `None` where the fix is no such place, or there is none.
    pub end_at: Option<EndAt>,
}

/// Where a rule was broken.
#[derive(Clone, Debug, PartialEq)]
pub enum Place {
    /// On ticks of a take.
    Take(InTake),
    /// On a frame, an animation or a shape of an actor: `walk`, `walk 2`.
    Actor(String),
    /// At a thing, or a stretch, of a stage.
    Stage(String),
    /// At a layer or an alias of the project.
    Layers(String),
}

impl Place {
    /// The place in the files, in words; of a take nothing.
    pub fn name(&self) -> &str {
        match self {
            Place::Take(_) => "",
            Place::Actor(name) | Place::Stage(name) | Place::Layers(name) => name,
        }
    }
}

/// A fault: in a take, or in the files before any take.
#[derive(Clone, Debug, PartialEq)]
pub struct Finding {
    /// The rule it breaks.
    pub rule: Rule,
    /// How much it matters here.
    pub severity: Severity,
    /// The actor instance of a take; else the actor, the stage, or `layers`.
    pub subject: String,
    /// Where.
    pub place: Place,
    /// The rule's figure at its worst, in [`Rule::unit`]; [`Rule::text`] says what it measures.
    pub figure: f64,
    /// What happened, in one sentence.
    pub message: String,
    /// What to change, with its number.
    pub fix: String,
    /// The figure once the fix was applied in memory and the fault measured again: 0 where it is gone. `None` where a fix
    /// cannot be applied there.
    pub remains: Option<f64>,
    /// The one value in one file that fixes it, where the fix is such.
    pub change: Option<Change>,
}

impl Finding {
    /// Where in a take it is; `None` for one of the files.
    pub fn in_take(&self) -> Option<&InTake> {
        match &self.place {
            Place::Take(place) => Some(place),
            _ => None,
        }
    }

    /// What a finding that follows from this one names; `None` for one of the files.
    pub fn as_root(&self) -> Option<Root> {
        let InTake { with, ticks, .. } = self.in_take()?;
        Some(Root { rule: self.rule, subject: self.subject.clone(), with: with.clone(), first: ticks.first })
    }
}
