//! What a turn does to an actor: how far its sides move, and how the art drawn for the other side compares.

use crate::actor::{Actor, Shape};
use crate::geometry::{Convex, Rect, ring_area, shared_area};

/// What a turn from the side an animation is drawn for to the other does to a body.
#[derive(Clone, Debug, PartialEq)]
pub struct Turn {
    /// Index of the animation.
    pub animation: usize,
    /// The body's name.
    pub shape: String,
    /// The frames with this very box.
    pub frames: Vec<usize>,
    /// How far it reaches ahead of the pivot as drawn, px.
    pub ahead: f64,
    /// How far it reaches behind.
    pub behind: f64,
    /// Its box as drawn, local.
    pub drawn: Rect,
    /// Its box on the other side.
    pub turned: Rect,
}

impl Turn {
    /// How far the left, top, right and bottom edge move; above 0 to the right and down.
    pub fn edges(&self) -> [f64; 4] {
        let (a, b) = (self.drawn, self.turned);
        [b.x0 - a.x0 + 0.0, b.y0 - a.y0 + 0.0, b.x1 - a.x1 + 0.0, b.y1 - a.y1 + 0.0]
    }

    /// The farthest that the left or right edge moves, px.
    pub fn moved(&self) -> f64 {
        let [left, _, right, _] = self.edges();
        left.abs().max(right.abs())
    }

    /// Room to be left before a wall in front so that turning away from it, and back, stays clear of it, px. For a body that
    /// is mirrored: what it reaches farther behind than ahead.
    pub fn room_ahead(&self) -> f64 {
        (self.behind - self.ahead).max(0.0)
    }

    /// Room to be left before a wall behind, px.
    pub fn room_behind(&self) -> f64 {
        (self.ahead - self.behind).max(0.0)
    }
}

/// What a turn does to the bodies of an actor, animation by animation, frames with the same box together.
pub fn turns(actor: &Actor) -> Vec<Turn> {
    let mut all: Vec<Turn> = Vec::new();
    for (index, animation) in actor.animations.iter().enumerate() {
        let first = all.len();
        for (frame, both) in animation.frames.iter().enumerate() {
            let (drawn, turned) = (&both[animation.faces.index()], &both[animation.faces.turned().index()]);
            let Some((body, other)) = drawn.body().zip(turned.body()) else { continue };
            let (a, b) = (body.bounds(), other.bounds());
            if let Some(known) = all[first..].iter_mut().find(|known| known.drawn == a && known.turned == b) {
                known.frames.push(frame);
                continue;
            }
            let (left, right) = (0.0 - a.x0, a.x1);
            let faces_right = animation.faces == crate::facing::Facing::Right;
            let (ahead, behind) = if faces_right { (right, left) } else { (left, right) };
            let shape = body.name.clone();
            all.push(Turn { animation: index, shape, frames: vec![frame], ahead, behind, drawn: a, turned: b });
        }
    }
    all
}

/// A shape drawn for the other side against the mirror image of the one that it stands for.
#[derive(Clone, Debug, PartialEq)]
pub struct TurnedShape {
    /// Index of the animation that it stands for.
    pub animation: usize,
    /// The frame.
    pub frame: usize,
    /// The shape's name.
    pub shape: String,
    /// Share of both that both have.
    pub iou: f64,
    /// How far its left, top, right and bottom edges are off the mirror image's; above 0 to the right and down.
    pub edges: [f64; 4],
}

/// All shapes of art drawn for the other side against the mirror images that they stand for.
///
/// # Complexity
/// O(shapes x pieces2).
pub fn turned_shapes(actor: &Actor) -> Vec<TurnedShape> {
    let mut all = Vec::new();
    for (index, animation) in actor.animations.iter().enumerate() {
        let Some(other) = animation.turned_by.map(|other| actor.animations[other].frames.len()) else { continue };
        for (frame, both) in animation.frames.iter().enumerate().take(other) {
            let mirrored = both[animation.faces.index()].turned(&actor.swaps);
            let drawn = &both[animation.faces.turned().index()];
            all.extend(drawn.shapes.iter().filter_map(|shape| {
                let twin = mirrored.shapes.iter().find(|twin| twin.name == shape.name)?;
                Some(compared(index, frame, shape, twin))
            }));
        }
    }
    all
}

fn compared(animation: usize, frame: usize, shape: &Shape, twin: &Shape) -> TurnedShape {
    let area = |pieces: &[Convex]| pieces.iter().map(|piece| ring_area(piece.points())).sum::<f64>();
    let shared = shared_area(&shape.pieces, &twin.pieces);
    let (a, b) = (shape.bounds(), twin.bounds());
    TurnedShape {
        animation,
        frame,
        shape: shape.name.clone(),
        iou: shared / (area(&shape.pieces) + area(&twin.pieces) - shared),
        edges: [a.x0 - b.x0 + 0.0, a.y0 - b.y0 + 0.0, a.x1 - b.x1 + 0.0, a.y1 - b.y1 + 0.0],
    }
}
