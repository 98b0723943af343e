//! Actors as they stand on a stage, with the art that samples show of them.

use super::{art, shown};
use finitor_core::actor::Actor;
use finitor_core::art::Picture;
use finitor_core::take::Sample;
use finitor_draw::{Art, StageActor};
use finitor_files::{ActorFile, Gallery, Problems};
use std::collections::BTreeMap;
use std::collections::btree_map::Entry;

/// Actor files and the actors made of them, in step.
#[derive(Clone, Copy)]
pub(super) struct Cast<'a> {
    pub(super) files: &'a [&'a ActorFile],
    pub(super) actors: &'a [Actor],
}

/// A frame of an actor's file.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct FrameOf {
    actor: usize,
    frame: usize,
}

/// The pixels that samples show, each frame once.
pub(super) struct Arts(BTreeMap<FrameOf, Picture>);

impl Arts {
    /// Those of samples.
    ///
    /// # Errors
    /// Pictures that cannot be read any more.
    pub(super) fn of<'s>(cast: Cast<'_>, samples: impl Iterator<Item = &'s Sample>) -> Result<Arts, Problems> {
        let galleries: Vec<Gallery> = cast.files.iter().map(|file| file.gallery()).collect();
        let mut pictures = BTreeMap::new();
        for sample in samples {
            let (of, _) = seen(cast, sample);
            if let Entry::Vacant(place) = pictures.entry(of) {
                let source = &cast.files[of.actor].frames[of.frame].source;
                place.insert(galleries[of.actor].frame(source)?.picture);
            }
        }
        Ok(Arts(pictures))
    }

    /// The actors of samples that these are of.
    pub(super) fn on_stage<'a>(&'a self, cast: Cast<'a>, samples: &'a [Sample]) -> Vec<StageActor<'a>> {
        let actor = |sample: &'a Sample| {
            let (of, flipped) = seen(cast, sample);
            let (file, actor) = (cast.files[of.actor], &cast.actors[of.actor]);
            Some(StageActor {
                label: &sample.label,
                at: sample.at,
                // Where the take says how the art was drawn, it is seen so.
                art: Art { flipped: sample.flipped_art.unwrap_or(flipped), ..art(file, self.0.get(&of)?, of.frame) },
                pose: actor.pose(sample.animation, sample.frame, sample.facing),
            })
        };
        samples.iter().filter_map(actor).collect()
    }
}

/// The frame whose art a sample shows, and whether it is flipped as a rule.
fn seen(cast: Cast<'_>, sample: &Sample) -> (FrameOf, bool) {
    let actor = sample.actor.0;
    let seen = shown(cast.files[actor], cast.actors[actor].shown(sample.animation, sample.frame, sample.facing));
    (FrameOf { actor, frame: seen.frame }, seen.flipped)
}
