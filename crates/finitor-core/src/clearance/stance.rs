//! Bodies as they take up room.

use crate::actor::{Actor, Shape};
use crate::facing::Facing;
use crate::geometry::{Convex, Rect};
use crate::layers::LayerSet;
use crate::stage::Stage;
use crate::world::{Space, pivots_hit};

/// A body on a frame, in a facing.
#[derive(Clone, Debug, PartialEq)]
pub struct StanceShape {
    /// The first frame that has it: `walk 2`.
    pub frame: String,
    /// Its convex pieces, local space as mirrored for the facing.
    pub pieces: Vec<Convex>,
    /// The smallest rectangle around it.
    pub bounds: Rect,
}

/// A body of an actor, over all frames that have it and both facings: it has room where each of them has.
#[derive(Clone, Debug, PartialEq)]
pub struct Stance {
    /// The actor's name.
    pub actor: String,
    /// The shape's name.
    pub shape: String,
    /// What it is on.
    pub layer: LayerSet,
    /// What it looks for.
    pub mask: LayerSet,
    /// Its shapes, each different one once.
    pub shapes: Vec<StanceShape>,
}

impl Stance {
    /// The bodies of an actor, the tallest first.
    pub fn of(actor: &Actor) -> Vec<Stance> {
        let mut all: Vec<Stance> = Vec::new();
        for animation in &actor.animations {
            for (number, poses) in animation.frames.iter().enumerate() {
                for body in Facing::BOTH.into_iter().filter_map(|facing| poses[facing.index()].body()) {
                    note(&mut all, actor, body, || format!("{} {number}", animation.name));
                }
            }
        }
        all.sort_by(|a, b| b.height().total_cmp(&a.height()));
        all
    }

    /// `actor.shape`.
    pub fn name(&self) -> String {
        format!("{}.{}", self.actor, self.shape)
    }

    /// The greatest height, px.
    pub fn height(&self) -> f64 {
        self.shapes.iter().map(|shape| shape.bounds.height()).fold(0.0, f64::max)
    }

    /// The greatest width, px.
    pub fn width(&self) -> f64 {
        self.shapes.iter().map(|shape| shape.bounds.width()).fold(0.0, f64::max)
    }

    /// The body in the frame and facing in which it is the least wide.
    pub(crate) fn slimmest(&self) -> Stance {
        let width = |shape: &&StanceShape| shape.bounds.width();
        let least = self.shapes.iter().min_by(|a, b| width(a).total_cmp(&width(b)));
        Stance { shapes: least.cloned().into_iter().collect(), ..self.clone() }
    }

    /// The smallest rectangle around all its shapes, local space.
    pub(crate) fn reach(&self) -> Rect {
        self.shapes.iter().map(|shape| shape.bounds).reduce(|a, b| a.union(b)).unwrap_or(Rect::ZERO)
    }

    /// Where its pivot may be on a stage, as far as solids go.
    pub fn space(&self, stage: &Stage) -> Space {
        Space::new(&self.obstacles(stage).0, stage.area())
    }

    /// Where its pivot may not be for the stage's solids, with the solid of each.
    pub(crate) fn obstacles(&self, stage: &Stage) -> (Vec<Convex>, Vec<usize>) {
        let mut of = Vec::new();
        let mut hit = Vec::new();
        for (index, solid) in stage.solids.iter().enumerate().filter(|(_, solid)| self.mask.sees(solid.layer)) {
            for piece in &solid.outline.pieces {
                for own in self.shapes.iter().flat_map(|shape| &shape.pieces) {
                    hit.push(pivots_hit(piece, own));
                    of.push(index);
                }
            }
        }
        (hit, of)
    }
}

fn note(all: &mut Vec<Stance>, actor: &Actor, body: &Shape, frame: impl Fn() -> String) {
    let shape = || StanceShape { frame: frame(), pieces: body.pieces.to_vec(), bounds: body.bounds() };
    match all.iter_mut().find(|known| known.shape == body.name) {
        Some(known) if known.shapes.iter().any(|shape| shape.pieces[..] == body.pieces[..]) => {}
        Some(known) => known.shapes.push(shape()),
        None => all.push(Stance {
            actor: actor.name.clone(),
            shape: body.name.clone(),
            layer: body.layer,
            mask: body.mask,
            shapes: vec![shape()],
        }),
    }
}
