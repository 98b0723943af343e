//! All that there is to say of the room on a stage.

use super::{LowStretch, Passage, Pocket, Room, Stance, low_stretches, passages, pockets};
use crate::actor::Actor;
use crate::stage::Stage;

/// Where one body of an actor must stay low for a taller one.
#[derive(Clone, Debug, PartialEq)]
pub struct LowPlace {
    /// The low body, by its place in the list given.
    pub low: usize,
    /// The tall one.
    pub tall: usize,
    /// Where.
    pub stretch: LowStretch,
}

/// A pocket of a body.
#[derive(Clone, Debug, PartialEq)]
pub struct BodyPocket {
    /// The body, by its place in the list given.
    pub stance: usize,
    /// Where.
    pub pocket: Pocket,
}

/// The room that bodies have on a stage.
#[derive(Clone, Debug, PartialEq)]
pub struct StageClearance<'a> {
    /// The stage.
    pub stage: &'a Stage,
    /// Passages that are tight for a body, or too tight.
    pub passages: Vec<Passage>,
    /// Where actors must stay low.
    pub low: Vec<LowPlace>,
    /// What they cannot leave; of those only that have a jump.
    pub pockets: Vec<BodyPocket>,
}

impl<'a> StageClearance<'a> {
    /// The room of the bodies of actors. Passages count that leave a body less than `within` px, or miss it by no more.
    ///
    /// # Complexity
    /// That of [`passages`], and of [`low_stretches`] and [`pockets`] for each body.
    pub fn new(stage: &'a Stage, actors: &[Actor], stances: &[Stance], within: f64) -> StageClearance<'a> {
        let mut low = Vec::new();
        let mut caught = Vec::new();
        for actor in actors {
            let own: Vec<usize> = (0..stances.len()).filter(|i| stances[*i].actor == actor.name).collect();
            let starts: Vec<_> = stage.starts(&actor.name).collect();
            let (Some(&tallest), Some(&lowest)) = (own.first(), own.last()) else { continue };
            for &lower in own.iter().skip(1).filter(|_| !starts.is_empty()) {
                let stretches = low_stretches(stage, &stances[lower], &stances[tallest]);
                low.extend(stretches.into_iter().map(|stretch| LowPlace { low: lower, tall: tallest, stretch }));
            }
            let Some(jump) = actor.moves.jump else { continue };
            // The lowest body gets everywhere that the actor gets.
            let mut found: Vec<Pocket> = Vec::new();
            for pocket in starts.iter().flat_map(|spawn| pockets(stage, &stances[lowest], spawn.at, jump)) {
                if !found.contains(&pocket) {
                    found.push(pocket);
                }
            }
            caught.extend(found.into_iter().map(|pocket| BodyPocket { stance: lowest, pocket }));
        }
        let mut passages = passages(stage, stances, within);
        // What even the smallest body misses by more than that was never meant to be passed.
        let nearly = |room: &Room| room.spare.is_some_and(|spare| spare >= -within);
        passages.retain(|passage| passage.rooms.iter().any(nearly));
        // Nobody comes into a hole that is closed all round and too small.
        passages.retain(|passage| passage.open != [false; 2] || !passage.rooms.iter().all(Room::is_short));
        StageClearance { stage, passages, low, pockets: caught }
    }
}

impl Room {
    /// Whether the body does not get through.
    pub fn is_short(&self) -> bool {
        self.spare.is_none_or(|spare| spare < 0.0)
    }
}

impl Passage {
    /// The names of the solids on both sides.
    pub fn between_names(&self, stage: &Stage) -> [String; 2] {
        let (one, other) = self.between;
        [stage.solids[one].name.clone(), stage.solids[other].name.clone()]
    }
}
