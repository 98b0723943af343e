//! What changed in fits, a line a shape.

use crate::take_cast::{CastMember, TakeCast};
use finitor_files::{FrameFits, ShapeFits};
use std::collections::BTreeMap;

/// A shape of an actor that changed on some frames.
#[derive(Clone, Debug, PartialEq)]
pub struct FitNews {
    /// The actor.
    pub actor: String,
    /// The shape.
    pub shape: String,
    /// The frames on which it is another than before, or was not there, or no longer is.
    pub frames: usize,
    /// Its mean IoU on these before, 0 to 1; `None` where it was not measured.
    pub iou_before: Option<f64>,
    /// Its mean IoU on these now.
    pub iou_now: Option<f64>,
}

/// What is known of a shape so far.
#[derive(Clone, Copy, Debug, Default)]
struct Tally {
    frames: usize,
    before: Mean,
    now: Mean,
}

#[derive(Clone, Copy, Debug, Default)]
struct Mean {
    sum: f64,
    count: usize,
}

impl Mean {
    fn add(&mut self, shape: Option<&ShapeFits>) {
        if let Some(quality) = shape.and_then(|shape| shape.quality) {
            self.sum += quality.iou;
            self.count += 1;
        }
    }

    fn value(self) -> Option<f64> {
        (self.count > 0).then(|| self.sum / self.count as f64)
    }
}

/// The shapes that changed, by actor and name; nothing of actors that were not there before.
///
/// # Complexity
/// O(shapes).
pub(super) fn news(before: &TakeCast, now: &TakeCast) -> Vec<FitNews> {
    let mut all: BTreeMap<(String, String), Tally> = BTreeMap::new();
    for CastMember { file, fits: now } in now.members.iter().flatten() {
        let actor = &file.name;
        let mut members = before.members.iter().flatten();
        let Some(CastMember { fits: before, .. }) = members.find(|member| member.file.name == *actor) else { continue };
        let known: BTreeMap<(&str, usize), &FrameFits> =
            before.frames.iter().map(|frame| (key(frame), frame)).collect();
        for frame in &now.frames {
            let old = known.get(&key(frame)).map_or(&[][..], |frame| &frame.shapes);
            let gone = old.iter().filter(|shape| !frame.shapes.iter().any(|other| other.name == shape.name));
            let pairs =
                frame.shapes.iter().map(|shape| (old.iter().find(|other| other.name == shape.name), Some(shape)));
            for (old, new) in pairs.chain(gone.map(|shape| (Some(shape), None))) {
                let Some(of) = new.or(old) else { continue };
                if old.map(geometry) != new.map(geometry) {
                    let tally = all.entry((actor.clone(), of.name.clone())).or_default();
                    tally.frames += 1;
                    tally.before.add(old);
                    tally.now.add(new);
                }
            }
        }
    }
    let news = all.into_iter().map(|((actor, shape), tally)| FitNews {
        actor,
        shape,
        frames: tally.frames,
        iou_before: tally.before.value(),
        iou_now: tally.now.value(),
    });
    news.collect()
}

fn key(frame: &FrameFits) -> (&str, usize) {
    (&frame.animation, frame.frame)
}

/// What a game would see of a shape: without hashes and figures of quality.
fn geometry(shape: &ShapeFits) -> ShapeFits {
    ShapeFits { recipe: String::new(), made: String::new(), quality: None, why: None, ..shape.clone() }
}
