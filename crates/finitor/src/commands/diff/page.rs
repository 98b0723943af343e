//! Frames before and after, as a picture.

use super::grouped;
use crate::session::Session;
use finitor_app::results::{DiffResult, ShapeDiff};
use finitor_app::{Drawing, Failure, Version};
use finitor_core::Point;
use finitor_core::actor::Role;
use finitor_core::art::Picture;
use finitor_draw::{DiffCell, DiffShape, DiffSheet, diff_sheet};
use finitor_files::{FrameFits, counted};
use std::io::Write;
use std::path::Path;

/// Frames on a page.
const MOST: usize = 12;

/// A frame that has shapes which changed, and those of its animation on which the same changed.
struct Changed<'r> {
    actor: &'r str,
    animation: &'r str,
    frame: usize,
    alike: Vec<u32>,
    shapes: Vec<&'r ShapeDiff>,
}

impl Changed<'_> {
    /// The least IoU: how much it changed.
    fn worst(&self) -> f64 {
        self.shapes.iter().map(|shape| shape.iou.unwrap_or(0.0)).fold(1.0, f64::min)
    }

    fn words(&self) -> Vec<String> {
        let of = |shape: &&ShapeDiff| {
            let words = super::words(shape);
            if words.is_empty() {
                format!("{} {}", shape.shape, shape.change)
            } else {
                format!("{}: {words}", shape.shape)
            }
        };
        self.shapes.iter().map(of).collect()
    }
}

/// Frames on which the same changed, as the first of them.
fn joined(mut group: Vec<Changed<'_>>) -> Changed<'_> {
    let alike = group.iter().flat_map(|of| of.alike.clone()).collect();
    Changed { alike, ..group.swap_remove(0) }
}

fn changed(result: &DiffResult) -> Vec<Changed<'_>> {
    let mut all: Vec<Changed<'_>> = Vec::new();
    // Where a shape came or went, or is elsewhere, there is something to see. The shapes of a frame stand together.
    for shape in result.shapes.iter().filter(|shape| shape.change != "changed") {
        let (actor, animation, frame) = (shape.actor.as_str(), shape.animation.as_str(), shape.frame);
        match all.last_mut().filter(|of| (of.actor, of.animation, of.frame) == (actor, animation, frame)) {
            Some(of) => of.shapes.push(shape),
            None => all.push(Changed { actor, animation, frame, alike: vec![frame as u32], shapes: vec![shape] }),
        }
    }
    let alike = grouped(all, |of| (of.actor.to_string(), of.animation.to_string(), of.words()));
    let mut first: Vec<Changed<'_>> = alike.into_iter().map(joined).collect();
    first.sort_by(|a, b| a.worst().total_cmp(&b.worst()));
    first
}

/// Draws the frames whose shapes changed most.
pub(super) fn draw(
    session: &Session<'_>,
    result: &DiffResult,
    versions: [&Version; 2],
    folder: &Path,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let all = changed(result);
    if all.is_empty() {
        session.note("note: no shape moved, so there is nothing to draw");
        return Ok(());
    }
    let shown = &all[..all.len().min(MOST)];
    let pictures = shown.iter().map(|of| picture(session, of)).collect::<Result<Vec<_>, Failure>>()?;
    let cells = shown.iter().zip(&pictures).map(|(of, picture)| cell(of, picture.as_ref(), versions)).collect();
    let frames = |of: &[Changed<'_>]| of.iter().map(|of| of.alike.len()).sum::<usize>();
    let words = match frames(&all) - frames(shown) {
        0 => {
            format!("{} with shapes that moved, came or went, the most changed first", counted(frames(shown), "frame"))
        }
        more => format!("the {} frames that changed most, of {}", frames(shown), frames(shown) + more),
    };
    let scene = diff_sheet(&DiffSheet { title: format!("{} -> {}", result.old, result.new), words, cells });
    session.save(&Drawing { stem: folder.join("diff"), scene }, out)
}

/// The art of a frame in the project, where it is there.
fn picture(session: &Session<'_>, of: &Changed<'_>) -> Result<Option<Picture>, Failure> {
    let Some(file) = session.actor_files()?.iter().find(|file| file.name == of.actor) else { return Ok(None) };
    let animation = file.animations.iter().find(|animation| animation.name == of.animation);
    let Some(index) = animation.and_then(|animation| animation.frames.clone().nth(of.frame)) else { return Ok(None) };
    let art = file.gallery().frame(&file.frames[index].source).map_err(finitor_files::Problems::from)?;
    Ok(Some(art.picture))
}

fn cell<'p>(of: &Changed<'_>, picture: Option<&'p Picture>, versions: [&Version; 2]) -> DiffCell<'p> {
    let is_it = |frame: &&FrameFits| frame.animation == of.animation && frame.frame == of.frame;
    let frames = versions.map(|version| version.fits.get(of.actor)?.frames.iter().find(is_it));
    let size = frames.iter().flatten().next().map_or((1, 1), |frame| (frame.rect[2], frame.rect[3]));
    DiffCell {
        name: format!("{} {} {}", of.actor, of.animation, finitor_files::ranges(&of.alike)),
        picture,
        size,
        words: of.words(),
        shapes: frames.map(|frame| frame.map_or_else(Vec::new, |frame| shapes(of, frame))),
    }
}

/// The shapes of a frame that changed, cell px.
fn shapes(of: &Changed<'_>, frame: &FrameFits) -> Vec<DiffShape> {
    let [x, y] = frame.pivot;
    let ring = |ring: &[[f64; 2]]| ring.iter().map(|p| Point::new(p[0] + x, p[1] + y)).collect();
    let changed = frame.shapes.iter().filter(|shape| of.shapes.iter().any(|known| known.shape == shape.name));
    let shape = |shape: &finitor_files::ShapeFits| DiffShape {
        role: Role::parse(&shape.role).unwrap_or(Role::Body),
        rings: shape.points.all().into_iter().map(ring).collect(),
    };
    changed.map(shape).collect()
}
