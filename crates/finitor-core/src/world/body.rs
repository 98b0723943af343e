//! A body as the still world meets it.

use crate::actor::Shape;
use crate::geometry::{Convex, Rect, bounds_of_pieces};
use crate::layers::LayerSet;

/// A body's pieces about its pivot, and what it detects.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Body<'a> {
    pub(crate) pieces: &'a [Convex],
    pub(crate) mask: LayerSet,
}

impl<'a> Body<'a> {
    /// A shape with the mask that it has on a tick.
    pub(crate) fn new(shape: &'a Shape, mask: LayerSet) -> Body<'a> {
        Body { pieces: &shape.pieces, mask }
    }

    /// The smallest rectangle around it, its pivot at the origin.
    pub(crate) fn bounds(&self) -> Rect {
        bounds_of_pieces(self.pieces).unwrap_or(Rect::ZERO)
    }
}
