//! What a check found.

use super::{FootPoints, Footing, PairTally};
use crate::book;
use crate::finding::{Finding, Root, Span};
use crate::geometry::Point;
use crate::stage::Effect;
use std::collections::BTreeMap;

/// What a take holds.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Report {
    /// Number of ticks that have a sample.
    pub ticks: u64,
    /// Number of samples.
    pub samples: u64,
    /// The actor instances met, in the order of their labels.
    pub actors: Vec<String>,
    /// Findings by first tick, then rule, actor and thing.
    pub findings: Vec<Finding>,
    /// Zone events in the order in which they happened.
    pub events: Vec<Event>,
    /// What each instance had to do with each zone that it was in, by instance and in the order of the zones.
    pub stays: Vec<Stay>,
    /// First contacts of hits, in the order in which they happened.
    pub hits: Vec<Hit>,
    /// Swings in which a hit shape was out, by the tick on which they ended, where that was asked for.
    pub swings: Vec<SwingSeen>,
    /// What met what, where that was asked for.
    pub pairs: Vec<PairTally>,
    /// How the game writes and what gaps it keeps.
    pub written: Written,
    /// On which ticks instances were carried, by label, where that was asked for.
    pub footing: Vec<Footing>,
}

/// How a take is written, as found in it: what is less than this touches.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Written {
    /// The step in which places are written, px; 0 where they are as exact as they can be.
    pub step: f64,
    /// The gaps that bodies keep from the ground that they rest on, by label.
    pub gaps: Vec<Gap>,
    /// By which points of their feet figures stand on slopes, by label, where it is not the body that lies on them.
    pub slopes: Vec<OnSlopes>,
    /// Whether nothing falls in it, although something rises and sinks, and the project does not say that it is seen from above.
    pub nothing_falls: bool,
}

/// The gap that a body keeps from the ground.
#[derive(Clone, Debug, PartialEq)]
pub struct Gap {
    /// The instance.
    pub actor: String,
    /// From its bottom to the ground, px; below 0 where it rests in the ground.
    pub px: f64,
}

/// A figure that stands on slopes by points of its feet.
#[derive(Clone, Debug, PartialEq)]
pub struct OnSlopes {
    /// The instance.
    pub actor: String,
    /// The points.
    pub by: FootPoints,
    /// The deepest that its body lay in a slope for that, px.
    pub px: f64,
}

impl Report {
    /// The findings that follow from no other one of this report, in its order, each with how many follow from it.
    ///
    /// # Complexity
    /// O(n log n) for n findings.
    pub fn roots(&self) -> Vec<RootFinding<'_>> {
        let key = |root: Root| (book::position(root.rule), root.subject, root.with, root.first);
        let own = |finding: &Finding| finding.as_root().map(key);
        let after = |finding: &Finding| finding.in_take().and_then(|at| at.after.clone()).map(key);
        let mut follow: BTreeMap<_, usize> = self.findings.iter().filter_map(own).map(|name| (name, 0)).collect();
        for root in self.findings.iter().filter_map(after) {
            follow.entry(root).and_modify(|count| *count += 1);
        }
        let is_root = |finding: &&Finding| after(finding).is_none_or(|root| !follow.contains_key(&root));
        let count = |finding| own(finding).and_then(|name| follow.get(&name)).copied().unwrap_or(0);
        let roots = self.findings.iter().filter(is_root);
        roots.map(|finding| RootFinding { finding, follow: count(finding) }).collect()
    }
}

/// A finding that stands for itself.
#[derive(Clone, Copy, Debug)]
pub struct RootFinding<'r> {
    /// The finding.
    pub finding: &'r Finding,
    /// How many others follow from it.
    pub follow: usize,
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

/// All that an instance had to do with a zone over a take.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Stay {
    /// The zone's name.
    pub zone: String,
    /// What the zone does: this shows whether a hazard was reached.
    pub effect: Effect,
    /// The actor instance.
    pub actor: String,
    /// How often it entered with an effect: not while `cooldown` or `once` rule that out.
    pub entered: u64,
    /// On how many of the take's ticks it was inside.
    pub ticks: u64,
    /// The first of them.
    pub first_tick: u64,
    /// The last of them.
    pub last_tick: u64,
}

/// A swing: one run of an animation in which a hit shape was out.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SwingSeen {
    /// The instance.
    pub by: String,
    /// The animation.
    pub animation: String,
    /// The first and the last tick of the animation: startup is what comes before the active ticks, recovery what comes after.
    pub whole: Span,
    /// The first and the last tick on which a hit shape was out.
    pub active: Span,
    /// The instances that were struck, in their order.
    pub struck: Vec<String>,
    /// Those that would have been struck, were it not for a solid between.
    pub blocked: Vec<Blocked>,
}

/// A strike that a solid stopped.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Blocked {
    /// The instance that was not struck.
    pub on: String,
    /// The solid.
    pub by: String,
}

/// A hit's first contact with a target.
#[derive(Clone, Debug, PartialEq)]
pub struct Hit {
    /// The tick.
    pub tick: u64,
    /// The instance that strikes.
    pub by: String,
    /// Its hit shape.
    pub shape: String,
    /// The instance that is struck.
    pub on: String,
    /// Its hurt shape with the largest overlap.
    pub hurt: String,
    /// That shape's part, where it has one.
    pub part: Option<String>,
    /// The part's group.
    pub group: Option<String>,
    /// What damage is multiplied by there.
    pub factor: f64,
    /// Whether the file says so; else it counts 1.
    pub has_factor: bool,
    /// Whether the part is vital: the hit is the end, whatever its damage.
    pub is_vital: bool,
    /// The hit's damage times the factor, where the hit has any.
    pub damage: Option<f64>,
    /// The middle of what overlaps, world space.
    pub at: Point,
    /// How much overlaps, px2.
    pub area: f64,
    /// Whether the same swing had struck this target before and lost it: see `repeat_hit`.
    pub is_again: bool,
}
