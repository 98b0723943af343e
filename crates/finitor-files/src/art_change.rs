//! What became of the art since the fits were written: frames redrawn, moved, come and gone.

use crate::actor_toml::ActorFile;
use crate::fits_json::{FitsFile, FrameFits};
use crate::words::counted;
use finitor_core::art::{Imprint, ImprintChange};
use std::collections::BTreeMap;

/// What became of one frame.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum FrameChange {
    /// Some of its pixels changed.
    Redrawn(ImprintChange),
    /// It has another size: width and height before.
    Resized(u32, u32),
    /// It is the frame that had this number.
    Moved(usize),
    /// The fits do not say what it looked like.
    Unknown,
}

/// An animation whose art is not what the fits were made from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ArtChange {
    /// Its name.
    pub animation: String,
    /// How many frames the fits have of it.
    pub before: usize,
    /// How many frames it has.
    pub now: usize,
    /// The frames that changed, by their number now.
    pub frames: Vec<(usize, FrameChange)>,
    /// For an animation that is gone: one that is new and has the same art.
    pub like: Option<String>,
}

/// The frames of fits set against those of the actor file.
#[derive(Clone, Debug)]
pub struct Matching<'a> {
    /// By frame of the actor: the fits of the same frame, found by its number and by its art.
    pub frames: Vec<Option<&'a FrameFits>>,
    /// Frames of the fits that the actor no longer has.
    pub gone: Vec<&'a FrameFits>,
    /// What changed, animation by animation.
    pub changes: Vec<ArtChange>,
}

/// Sets the frames of fits against those of the actor file. A frame keeps its number where its art is the same; else one of
/// the same animation with the same art is taken for it, so that shapes follow art that moved; else the number decides.
///
/// # Complexity
/// O(n log n), n frames.
pub fn match_frames<'a>(actor: &ActorFile, fits: &'a FitsFile) -> Matching<'a> {
    let mut before: BTreeMap<&str, Vec<&FrameFits>> = BTreeMap::new();
    for frame in &fits.frames {
        before.entry(&frame.animation).or_default().push(frame);
    }
    let mut frames = vec![None; actor.frames.len()];
    let (mut gone, mut changes) = (Vec::new(), Vec::new());
    for animation in &actor.animations {
        let old = before.remove(animation.name.as_str()).unwrap_or_default();
        let range = animation.frames.clone();
        let (matched, left) = matched(actor, range.clone(), &old);
        gone.extend(left);
        let start = range.start;
        let change = |index: usize| Some((index - start, change(actor, index, matched[index - start]?)?));
        let change = ArtChange {
            animation: animation.name.clone(),
            before: old.len(),
            now: range.len(),
            frames: range.clone().filter_map(change).collect(),
            like: None,
        };
        frames[range].copy_from_slice(&matched);
        if change.before != change.now || !change.frames.is_empty() {
            changes.push(change);
        }
    }
    for (name, old) in before {
        let like = actor.animations.iter().find(|animation| {
            let fresh = !fits.frames.iter().any(|frame| frame.animation == animation.name);
            let same = |number: usize| {
                animation.frames.clone().nth(number).is_some_and(|f| actor.frames[f].art_hash == old[number].art)
            };
            fresh && 2 * (0..old.len()).filter(|number| same(*number)).count() > old.len()
        });
        changes.push(ArtChange {
            animation: name.to_string(),
            before: old.len(),
            now: 0,
            frames: Vec::new(),
            like: like.map(|animation| animation.name.clone()),
        });
        gone.extend(old);
    }
    Matching { frames, gone, changes }
}

type Matched<'a> = (Vec<Option<&'a FrameFits>>, Vec<&'a FrameFits>);

/// One animation's frames, and what is left of the old ones.
fn matched<'a>(actor: &ActorFile, range: std::ops::Range<usize>, old: &[&'a FrameFits]) -> Matched<'a> {
    let mut by_number: BTreeMap<usize, &FrameFits> = old.iter().map(|frame| (frame.frame, *frame)).collect();
    let mut found = vec![None; range.len()];
    for (number, slot) in found.iter_mut().enumerate() {
        if by_number.get(&number).is_some_and(|frame| frame.art == actor.frames[range.start + number].art_hash) {
            *slot = by_number.remove(&number);
        }
    }
    let mut by_art: BTreeMap<&str, Vec<usize>> = BTreeMap::new();
    for (number, frame) in by_number.iter().rev() {
        by_art.entry(&frame.art).or_default().push(*number);
    }
    for (number, slot) in found.iter_mut().enumerate().filter(|(_, slot)| slot.is_none()) {
        let art = actor.frames[range.start + number].art_hash.as_str();
        if let Some(moved) = by_art.get_mut(art).and_then(Vec::pop) {
            *slot = by_number.remove(&moved);
        }
    }
    for (number, slot) in found.iter_mut().enumerate().filter(|(_, slot)| slot.is_none()) {
        *slot = by_number.remove(&number);
    }
    (found, by_number.into_values().collect())
}

/// What became of a frame; `None` when nothing did.
fn change(actor: &ActorFile, index: usize, old: &FrameFits) -> Option<FrameChange> {
    let frame = &actor.frames[index];
    if frame.art_hash == old.art {
        return (frame.number != old.frame).then_some(FrameChange::Moved(old.frame));
    }
    let [_, _, width, height] = old.rect;
    if (width, height) != (frame.rect.width, frame.rect.height) {
        return Some(FrameChange::Resized(width, height));
    }
    let known = Imprint::parse(&old.seen, width, height).filter(|_| !old.seen.is_empty());
    let change = known.and_then(|known| frame.imprint.since(&known));
    Some(change.map_or(FrameChange::Unknown, FrameChange::Redrawn))
}

impl FrameChange {
    /// The change in words, with its number of pixels.
    pub fn sentences(&self) -> String {
        match self {
            FrameChange::Redrawn(change) => told_pixels(change),
            FrameChange::Resized(width, height) => format!("was {width} x {height} px before"),
            FrameChange::Moved(from) => format!("is what was frame {from}"),
            FrameChange::Unknown => "changed".to_string(),
        }
    }
}

/// `changed by 9 px (5 came, 4 went)`.
fn told_pixels(change: &ImprintChange) -> String {
    let ImprintChange { came, went, recoloured } = *change;
    let counts = [(came, "came"), (went, "went"), (recoloured.unwrap_or(0), "recoloured")];
    let changes: Vec<String> =
        counts.iter().filter(|(count, _)| *count > 0).map(|(count, what)| format!("{count} {what}")).collect();
    match (changes.is_empty(), recoloured) {
        (false, Some(_)) => format!("changed by {} px ({})", change.pixels(), changes.join(", ")),
        (false, None) => format!("changed by {} px ({}), colours not counted", change.pixels(), changes.join(", ")),
        (true, Some(_)) => "changed in faint pixels alone (alpha below 128): 0 px count".to_string(),
        (true, None) => "has other colours, its silhouette is the same to the pixel".to_string(),
    }
}

impl ArtChange {
    /// The change in words, a line each.
    pub fn sentences(&self) -> Vec<String> {
        let name = &self.animation;
        let frames = |count: usize| counted(count, "frame");
        let mut lines = Vec::new();
        match (self.before, self.now) {
            (0, now) => lines.push(format!("{name} is new, with {}", frames(now))),
            (before, 0) => lines.push(format!("{name} is gone; it had {}", frames(before))),
            (before, now) if now > before => {
                lines.push(format!("{name} gained {}: {before} before, {now} now", frames(now - before)));
            }
            (before, now) if now < before => {
                lines.push(format!("{name} lost {}: {before} before, {now} now", frames(before - now)));
            }
            _ => {}
        }
        lines.extend(self.frames.iter().map(|(number, change)| format!("{name} {number} {}", change.sentences())));
        lines
    }
}
