//! The poses that takes show, each once.

use finitor_core::Facing;
use finitor_core::actor::Actor;
use finitor_core::take::Sample;
use std::collections::HashMap;

/// A frame as a take shows it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub(super) struct PoseKey {
    pub(super) animation: usize,
    pub(super) frame: usize,
    pub(super) facing: Facing,
    /// Whether the picture is flipped.
    pub(super) flipped: bool,
}

/// The poses of each actor, in the order in which they came.
#[derive(Debug)]
pub(super) struct PoseTable<'a> {
    actors: &'a [Actor],
    of_actors: Vec<OfActor>,
}

#[derive(Clone, Debug, Default)]
struct OfActor {
    poses: Vec<PoseKey>,
    /// For looking up only: its order shows nowhere.
    places: HashMap<PoseKey, usize>,
}

impl<'a> PoseTable<'a> {
    pub(super) fn new(actors: &'a [Actor]) -> PoseTable<'a> {
        PoseTable { actors, of_actors: vec![OfActor::default(); actors.len()] }
    }

    /// The pose of a sample.
    pub(super) fn index(&mut self, sample: &Sample) -> usize {
        let Sample { animation, frame, facing, .. } = *sample;
        let shown = self.actors[sample.actor.0].shown(animation, frame, facing);
        let flipped = sample.flipped_art.unwrap_or(shown.flipped);
        self.place(sample.actor.0, PoseKey { animation, frame, facing, flipped })
    }

    /// A frame as it is drawn.
    pub(super) fn drawn(&mut self, actor: usize, animation: usize, frame: usize) -> usize {
        let facing = self.actors[actor].animations[animation].faces;
        self.place(actor, PoseKey { animation, frame, facing, flipped: false })
    }

    fn place(&mut self, actor: usize, key: PoseKey) -> usize {
        let OfActor { poses, places } = &mut self.of_actors[actor];
        *places.entry(key).or_insert_with(|| {
            poses.push(key);
            poses.len() - 1
        })
    }

    /// Those of an actor.
    pub(super) fn of(&self, actor: usize) -> &[PoseKey] {
        &self.of_actors[actor].poses
    }
}
