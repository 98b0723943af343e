//! A recording, tick by tick, as values.

mod grain;
mod recording;

pub(crate) use grain::{GrainFinder, InstanceGrain, is_multiple};
pub use recording::{RecordedTick, Recording};

use crate::actor::{ActorIndex, DrawnArt};
use crate::facing::Facing;
use crate::geometry::{Point, Vec2};

/// The state word of an actor that lets itself drop through one-way platforms.
pub const DROP: &str = "drop";

/// The state word of an actor that was put elsewhere on this tick, by a warp or the game.
pub const WARPED: &str = "warped";

/// State words of an actor whose feet carry nothing, whatever is below: what holds for standing and walking does not.
pub const OFF_FOOT: [&str; 6] = ["jump", "dash", "climb", "hang", "swim", "fly"];

/// The name of the actor that an instance's label is of: `gull` of `gull:1`.
pub fn actor_of(label: &str) -> &str {
    label.split_once(':').map_or(label, |(actor, _)| actor)
}

/// Which way y counts in recordings.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum YAxis {
    /// From the top down, as in pictures.
    Down,
    /// From the bottom up.
    Up,
}

/// Where one actor instance is at the end of a tick.
#[derive(Clone, Debug, PartialEq)]
pub struct Sample {
    /// The instance: the actor's name, or `name:number`.
    pub label: String,
    /// The actor it is one of.
    pub actor: ActorIndex,
    /// The pivot, world space.
    pub at: Point,
    /// Where it looks.
    pub facing: Facing,
    /// Index of the animation.
    pub animation: usize,
    /// Index of the frame in it.
    pub frame: usize,
    /// The words that hold on this tick.
    pub states: Vec<String>,
    /// Whether the game drew the picture flipped, where the take tells.
    pub flipped_art: Option<bool>,
    /// Whether the game held it for grounded, where the take tells.
    pub grounded: Option<bool>,
    /// What the game held for its velocity, px per tick, y down, where the take tells.
    pub velocity: Option<Vec2>,
    /// Where it turned on its way since the tick before, world space, where the take tells: it went straight from one to the
    /// next.
    pub via: Vec<Point>,
}

impl Sample {
    /// Becomes the same as another, in the memory that it has.
    pub fn copy_from(&mut self, other: &Sample) {
        self.label.clone_from(&other.label);
        self.states.clone_from(&other.states);
        self.via.clone_from(&other.via);
        let (label, states, via) =
            (std::mem::take(&mut self.label), std::mem::take(&mut self.states), std::mem::take(&mut self.via));
        let Sample { actor, at, facing, animation, frame, flipped_art, grounded, velocity, .. } = *other;
        *self = Sample { label, actor, at, facing, animation, frame, states, flipped_art, grounded, velocity, via };
    }

    /// An instance at a place, on its first frame, looking right, of which nothing else is known.
    pub fn new(label: String, actor: ActorIndex, at: Point) -> Sample {
        Sample {
            label,
            actor,
            at,
            facing: Facing::Right,
            animation: 0,
            frame: 0,
            states: Vec::new(),
            flipped_art: None,
            grounded: None,
            velocity: None,
            via: Vec::new(),
        }
    }

    /// What the game drew of it.
    pub fn drawn_art(&self) -> DrawnArt {
        DrawnArt { animation: self.animation, frame: self.frame, facing: self.facing, flipped: self.flipped_art }
    }

    /// Whether a state holds.
    pub fn has_state(&self, word: &str) -> bool {
        self.states.iter().any(|state| state == word)
    }
}

/// The longest steps that takes hold, sideways and upright, actor by actor.
///
/// Steps from one tick to the next count, but for those of an actor that was warped, or that are longer than `teleport` px.
#[derive(Clone, Debug)]
pub struct LongestSteps {
    teleport: f64,
    last: Vec<(String, u64, Point)>,
    longest: Vec<Option<Vec2>>,
}

impl LongestSteps {
    /// Nothing seen yet of any actor.
    pub fn new(actors: usize, teleport: f64) -> LongestSteps {
        LongestSteps { teleport, last: Vec::new(), longest: vec![None; actors] }
    }

    /// Another take begins: no step leads into it.
    pub fn begin(&mut self) {
        self.last.clear();
    }

    /// Takes in a tick.
    pub fn tick(&mut self, tick: u64, samples: &[Sample]) {
        for sample in samples {
            let place = self.last.iter().position(|(label, ..)| *label == sample.label);
            let Some(place) = place else {
                self.last.push((sample.label.clone(), tick, sample.at));
                continue;
            };
            let (_, before, from) = &mut self.last[place];
            let step = sample.at - *from;
            if tick == *before + 1 && !sample.has_state(WARPED) && step.hypot() <= self.teleport {
                let longest = self.longest[sample.actor.0].get_or_insert(Vec2::ZERO);
                *longest = Vec2::new(longest.x.max(step.x.abs()), longest.y.max(step.y.abs()));
            }
            (*before, *from) = (tick, sample.at);
        }
    }

    /// The longest steps of an actor; none where it was not seen to take one.
    pub fn of(&self, actor: ActorIndex) -> Option<Vec2> {
        self.longest[actor.0]
    }
}
