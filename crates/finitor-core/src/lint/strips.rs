//! Strips under bodies, frame by frame: what is common to the rules about them.

use crate::actor::{Actor, Shape};

/// How far from the sides of a body its strip should end, px: no wall beside the body touches it then, and hardly any edge under
/// the body is lost.
pub const STRIP_INSET: f64 = 0.25;

/// The strip under the body of a frame.
#[derive(Clone, Copy, Debug)]
pub(super) struct FrameStrip<'a> {
    pub(super) strip: &'a Shape,
    pub(super) body: &'a Shape,
    pub(super) animation: usize,
    pub(super) frame: usize,
}

impl FrameStrip<'_> {
    /// The frame's name.
    pub(super) fn place(&self, actor: &Actor) -> String {
        format!("{} {}", actor.animations[self.animation].name, self.frame)
    }

    /// How deep it is under the body, px.
    pub(super) fn depth(&self) -> f64 {
        self.strip.bounds().y1 - self.body.bounds().y1
    }
}

/// The worst frame of a strip, and on how many it is wrong.
#[derive(Clone, Copy, Debug)]
pub(super) struct Worst<'a> {
    pub(super) at: FrameStrip<'a>,
    pub(super) figure: f64,
    frames: usize,
}

impl Worst<'_> {
    /// `, on 4 frames`; nothing for one.
    pub(super) fn more(&self) -> String {
        if self.frames > 1 { format!(", on {} frames", self.frames) } else { String::new() }
    }
}

/// Of each strip of an actor the frame on which its figure is the largest; `figure` is `None` where nothing is wrong.
pub(super) fn worst_strips<'a>(actor: &'a Actor, figure: impl Fn(&FrameStrip<'a>) -> Option<f64>) -> Vec<Worst<'a>> {
    let mut all: Vec<Worst<'a>> = Vec::new();
    for (animation, of) in actor.animations.iter().enumerate() {
        for frame in 0..of.frames.len() {
            let pose = actor.drawn_pose(animation, frame);
            let Some((strip, body)) = pose.strip_below().zip(pose.body()) else { continue };
            let at = FrameStrip { strip, body, animation, frame };
            let Some(figure) = figure(&at) else { continue };
            match all.iter_mut().find(|known| known.at.strip.name == strip.name) {
                Some(known) => {
                    known.frames += 1;
                    if figure > known.figure {
                        (known.at, known.figure) = (at, figure);
                    }
                }
                None => all.push(Worst { at, figure, frames: 1 }),
            }
        }
    }
    all
}
