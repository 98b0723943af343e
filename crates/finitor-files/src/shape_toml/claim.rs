//! Which frames a shape is on.

use super::ShapeSpec;
use crate::animation_toml::AnimationSpec;
use crate::cells::{frame_list, parse_list};
use crate::toml_table::{At, Table, nearest};
use finitor_core::actor::Role;
use finitor_core::fit::Source;
use std::ops::Range;

/// Which frames a shape asks for.
#[derive(Clone, Debug)]
pub(super) struct Claim {
    pub(super) span: Range<usize>,
    pub(super) animations: Option<Vec<At<String>>>,
    pub(super) frames: Option<Frames>,
    /// Whether the file gave a mask; strips take over that of the shape they follow.
    pub(super) masked: bool,
    /// Whether the file gave a kind.
    pub(super) has_kind: bool,
    /// The parts that a rule by part makes shapes for; all where `None`.
    pub(super) part_names: Option<Vec<At<String>>>,
    /// The place of the shape it follows or is like.
    pub(super) along_span: Range<usize>,
    /// All anchors that it names.
    pub(super) anchors: Vec<At<String>>,
    /// Those that stand for its parts.
    pub(super) part_anchors: Vec<At<String>>,
}

/// The frames of animations that a shape names.
#[derive(Clone, Debug)]
pub(super) enum Frames {
    /// The same of all its animations.
    Same(At<Vec<u32>>),
    /// By animation.
    Each(Vec<OfAnimation>),
}

/// Frames of an animation.
#[derive(Clone, Debug)]
pub(super) struct OfAnimation {
    animation: At<String>,
    frames: At<Vec<u32>>,
}

/// Reads `frames`: a list for all animations, or a table with a list for each.
pub(super) fn frames_claimed(table: &Table<'_>) -> Option<Frames> {
    if !table.has("frames") || table.is_string("frames") {
        return frame_list(table, "frames").map(Frames::Same);
    }
    if table.has("animations") {
        let message = "`frames` names animations here, so `animations` says nothing more";
        table.wrong(table.value_span("animations"), message, Some("drop one of the two".into()));
    }
    let mut all = Vec::new();
    for (animation, lists) in table.string_lists("frames", "{ swing = \"2-3\" }") {
        for list in lists {
            match parse_list(&list.value) {
                Ok(value) => {
                    let frames = At { value, span: list.span };
                    all.push(OfAnimation { animation: animation.clone(), frames });
                }
                Err(reason) => {
                    let hint = "frames count from 0, for example { swing = \"2-3\" }";
                    table.wrong(list.span, reason, Some(hint.into()));
                }
            }
        }
    }
    Some(Frames::Each(all))
}

/// Gives every shape the frames it is on. A strip that names none is where the shape is that it follows. Of several bodies on a frame the one that claims fewest frames wins; two
/// that claim as many are a mistake.
pub(crate) fn assign_frames(top: &Table<'_>, shapes: &mut [ShapeSpec], animations: &[AnimationSpec]) {
    for shape in shapes.iter_mut() {
        shape.frames = claimed(top, &shape.claim, animations);
    }
    let claims: Vec<(Role, usize, Vec<usize>)> =
        shapes.iter().map(|s| (s.role, s.frames.len(), s.frames.clone())).collect();
    for i in 0..shapes.len() {
        if shapes[i].role != Role::Body {
            continue;
        }
        let size = claims[i].1;
        let mut clash: Option<(usize, usize)> = None;
        shapes[i].frames.retain(|frame| {
            claims.iter().enumerate().filter(|(j, _)| *j != i).all(|(j, (role, other, frames))| {
                let both = *role == Role::Body && frames.contains(frame);
                if both && *other == size && j < i {
                    clash = clash.or(Some((j, *frame)));
                }
                !(both && *other < size)
            })
        });
        if let Some((j, frame)) = clash {
            let at = animations.iter().find(|a| a.frames.contains(&frame));
            let place = at.map_or_else(String::new, |a| format!("{} {}", a.name, frame - a.frames.start));
            let message = format!(
                "two bodies on {place}: `{}` and `{}` both claim {size} frames",
                shapes[j].name, shapes[i].name
            );
            let hint = "name `animations` or `frames` so that one claims fewer: the narrower claim wins".to_string();
            top.wrong(shapes[i].claim.span.clone(), message, Some(hint));
        }
    }
    assign_strips(shapes);
}

/// Strips without a claim of their own go with the shape they follow.
fn assign_strips(shapes: &mut [ShapeSpec]) {
    let bases: Vec<(String, Vec<usize>)> = shapes.iter().map(|s| (s.name.clone(), s.frames.clone())).collect();
    for shape in shapes {
        let Source::Along(along) = &shape.source else {
            continue;
        };
        let free = shape.claim.animations.is_none() && shape.claim.frames.is_none();
        if let Some((_, frames)) = bases.iter().find(|(name, _)| free && *name == along.shape) {
            shape.frames.clone_from(frames);
        }
    }
}

fn claimed(top: &Table<'_>, claim: &Claim, animations: &[AnimationSpec]) -> Vec<usize> {
    let named = |names: &[At<String>]| -> Vec<&AnimationSpec> {
        names.iter().filter_map(|name| named_animation(top, name, animations)).collect()
    };
    let mut frames = Vec::new();
    match &claim.frames {
        Some(Frames::Each(all)) => {
            for OfAnimation { animation, frames: numbers } in all {
                let chosen = named(std::slice::from_ref(animation));
                frames.extend(numbered(top, numbers, &with_turned(chosen, animations)));
            }
        }
        chosen => {
            let of = claim.animations.as_deref().map_or_else(|| animations.iter().collect(), named);
            let of = with_turned(of, animations);
            match chosen {
                Some(Frames::Same(numbers)) => frames.extend(numbered(top, numbers, &of)),
                _ => frames.extend(of.iter().flat_map(|of| of.animation.frames.clone())),
            }
        }
    }
    frames.sort_unstable();
    frames.dedup();
    frames
}

/// An animation that a shape is on.
struct Chosen<'a> {
    animation: &'a AnimationSpec,
    /// Whether the file names it, rather than the one it is drawn for.
    is_named: bool,
}

/// What is on an animation is also on the one drawn for the other side.
fn with_turned<'a>(named: Vec<&'a AnimationSpec>, animations: &'a [AnimationSpec]) -> Vec<Chosen<'a>> {
    let turned = animations.iter().filter(|other| {
        let of = other.stands_for.map(|of| &animations[of].name);
        let is = |name: &String| named.iter().any(|known| known.name == *name);
        of.is_some_and(is) && !is(&other.name)
    });
    let turned: Vec<&AnimationSpec> = turned.collect();
    let chosen = |is_named: bool| move |animation| Chosen { animation, is_named };
    named.into_iter().map(chosen(true)).chain(turned.into_iter().map(chosen(false))).collect()
}

/// Frames of animations by their numbers.
fn numbered(top: &Table<'_>, numbers: &At<Vec<u32>>, of: &[Chosen<'_>]) -> Vec<usize> {
    let mut frames = Vec::new();
    for Chosen { animation, is_named } in of {
        let length = animation.frames.len();
        if *is_named && let Some(past) = numbers.value.iter().find(|number| **number as usize >= length) {
            let message = format!("{} has {length} frames, there is no frame {past}", animation.name);
            let hint = "name `animations` that have it; frames count from 0".to_string();
            top.wrong(numbers.span.clone(), message, Some(hint));
        }
        let inside = numbers.value.iter().map(|number| *number as usize).filter(|number| *number < length);
        frames.extend(inside.map(|number| animation.frames.start + number));
    }
    frames
}

fn named_animation<'a>(
    top: &Table<'_>,
    name: &At<String>,
    animations: &'a [AnimationSpec],
) -> Option<&'a AnimationSpec> {
    let found = animations.iter().find(|animation| animation.name == name.value);
    if found.is_none() {
        let names: Vec<&str> = animations.iter().map(|a| a.name.as_str()).collect();
        let hint = match nearest(&name.value, &names) {
            Some(near) => format!("did you mean \"{near}\"?"),
            None => format!("there are: {}", names.join(", ")),
        };
        top.wrong(name.span.clone(), format!("there is no animation \"{}\"", name.value), Some(hint));
    }
    found
}
