//! Parts of a body that are too thin to stop it, or to carry it.

use crate::actor::Pieces;
use crate::geometry::Convex;

/// Thinner than this a part ought to do neither, px.
pub(crate) const THIN: f64 = 4.0;

/// A body's pieces, the thin ones apart.
pub(crate) struct ThinParts {
    pub(crate) thin: Vec<Convex>,
    pub(crate) rest: Vec<Convex>,
}

impl ThinParts {
    /// Those of a body that has both.
    pub(crate) fn of(pieces: &Pieces) -> Option<ThinParts> {
        if pieces.thinnest() >= THIN {
            return None;
        }
        let is_thin = |piece: &Convex| piece.thickness() < THIN;
        let (thin, rest): (Vec<Convex>, Vec<Convex>) = pieces.iter().cloned().partition(is_thin);
        (!rest.is_empty()).then_some(ThinParts { thin, rest })
    }
}
