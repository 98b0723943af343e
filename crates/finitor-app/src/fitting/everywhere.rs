//! Hand edits copied to all frames over which a shape is held.

use finitor_files::{ActorFile, FitsFile, Problem, Problems, ShapeFits, fits_path, frames_held, match_frames};
use std::collections::BTreeMap;

/// The fits with each hand edit of a held shape on all the frames that it is held over.
///
/// # Errors
/// Shapes that were edited in different ways on several of their frames.
pub(super) fn everywhere(
    actor: &ActorFile,
    old: &FitsFile,
    is_wanted: impl Fn(usize) -> bool,
) -> Result<FitsFile, Problems> {
    let matching = match_frames(actor, old);
    let frames = old.frames.iter().enumerate();
    let places: BTreeMap<(&str, _), usize> =
        frames.map(|(place, of)| ((of.animation.as_str(), of.frame), place)).collect();
    let mut fits = old.clone();
    let mut problems = Problems::default();
    for (_, spec) in actor.shapes.iter().enumerate().filter(|(shape, _)| is_wanted(*shape)) {
        for frames in frames_held(actor, spec).into_iter().filter(|frames| frames.len() > 1) {
            let on = |frame: &usize| {
                let written = matching.frames[*frame]?;
                Some((*frame, written.shapes.iter().find(|known| known.name == spec.name)?))
            };
            let edited: Vec<(usize, &ShapeFits)> =
                frames.iter().filter_map(on).filter(|(_, written)| written.is_hand_made()).collect();
            match newest(&edited) {
                Newest::None => {}
                Newest::One(edit) => {
                    let written = frames.iter().filter_map(|frame| matching.frames[*frame]);
                    for place in written.map(|written| places[&(written.animation.as_str(), written.frame)]) {
                        let shapes = fits.frames[place].shapes.iter_mut().filter(|known| known.name == spec.name);
                        shapes.for_each(|known| known.clone_from(edit));
                    }
                }
                Newest::Several(one, other) => {
                    let (name, one, other) = (&spec.name, actor.frame_name(one), actor.frame_name(other));
                    let message = format!("{name} was edited in different ways on {one} and {other}");
                    let hint = format!(
                        "`finitor fit --unlock --only {name}` drops the edits; then make the one that all frames should have"
                    );
                    problems.0.push(Problem::of_file(&fits_path(&actor.path), message).with_hint(hint));
                }
            }
        }
    }
    problems.or(fits)
}

/// The edit to copy.
enum Newest<'e> {
    None,
    One(&'e ShapeFits),
    /// Frames with different edits.
    Several(usize, usize),
}

/// Of edits that are all the same, that one; of one beside others that are all the same, as an earlier copy leaves them, the one.
fn newest<'e>(edited: &[(usize, &'e ShapeFits)]) -> Newest<'e> {
    let Some((first, rest)) = edited.split_first() else { return Newest::None };
    let is_same = |a: &ShapeFits, b: &ShapeFits| a.points == b.points && a.holes == b.holes;
    let (like, unlike): (Vec<_>, Vec<_>) = rest.iter().partition(|(_, other)| is_same(first.1, other));
    let Some(other) = unlike.first() else { return Newest::One(first.1) };
    let are_one = unlike.iter().all(|(_, one)| is_same(one, other.1));
    match (like.len() + 1, unlike.len()) {
        (1, others) if others > 1 && are_one => Newest::One(first.1),
        (likes, 1) if likes > 1 => Newest::One(other.1),
        _ => Newest::Several(first.0, other.0),
    }
}
