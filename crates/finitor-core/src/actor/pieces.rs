//! The convex pieces of a shape.

use crate::fit::{Geometry, pieces_of};
use crate::geometry::{Convex, Rect, bounds_of_pieces};
use std::fmt;
use std::ops::Deref;
use std::sync::{Arc, OnceLock};

/// Convex pieces that tile a shape's outline without its holes: the fewest, cut when they are first asked for. Of a large actor a take
/// shows few frames, and the rest is never cut.
#[derive(Clone)]
pub struct Pieces(Arc<Uncut>);

struct Uncut {
    from: Source,
    bounds: Rect,
    pieces: OnceLock<Vec<Convex>>,
    /// How thin the thinnest of them is, px, once that was asked.
    thinnest: OnceLock<f64>,
}

/// What pieces are made from.
enum Source {
    Outline(Geometry),
    /// The mirror image about the pivot of others, so that both facings are cut alike.
    MirrorOf(Pieces),
    /// They were given.
    Nothing,
}

impl Pieces {
    /// Those of an outline.
    pub fn of(outline: Geometry) -> Pieces {
        let bounds = outline.bounds().unwrap_or(Rect::ZERO);
        Pieces(Arc::new(Uncut {
            from: Source::Outline(outline),
            bounds,
            pieces: OnceLock::new(),
            thinnest: OnceLock::new(),
        }))
    }

    /// The mirror image about the pivot.
    #[must_use]
    pub fn mirrored(&self) -> Pieces {
        let Rect { x0, y0, x1, y1 } = self.0.bounds;
        let bounds = Rect { x0: 0.0 - x1, x1: 0.0 - x0, y0, y1 };
        let from = Source::MirrorOf(self.clone());
        Pieces(Arc::new(Uncut { from, bounds, pieces: OnceLock::new(), thinnest: OnceLock::new() }))
    }

    /// How thin the thinnest of them is, px; without bound where there are none.
    pub(crate) fn thinnest(&self) -> f64 {
        *self.0.thinnest.get_or_init(|| self.iter().map(Convex::thickness).fold(f64::INFINITY, f64::min))
    }

    /// The smallest rectangle around them, without cutting.
    pub fn bounds(&self) -> Rect {
        self.0.bounds
    }
}

impl Deref for Pieces {
    type Target = [Convex];

    fn deref(&self) -> &[Convex] {
        self.0.pieces.get_or_init(|| match &self.0.from {
            Source::Outline(outline) => pieces_of(outline, usize::MAX),
            Source::MirrorOf(others) => others.iter().map(Convex::mirrored).collect(),
            Source::Nothing => Vec::new(),
        })
    }
}

impl From<Vec<Convex>> for Pieces {
    fn from(pieces: Vec<Convex>) -> Pieces {
        let bounds = bounds_of_pieces(&pieces).unwrap_or(Rect::ZERO);
        let (from, pieces) = (Source::Nothing, OnceLock::from(pieces));
        Pieces(Arc::new(Uncut { from, bounds, pieces, thinnest: OnceLock::new() }))
    }
}

impl<'p> IntoIterator for &'p Pieces {
    type Item = &'p Convex;
    type IntoIter = std::slice::Iter<'p, Convex>;

    fn into_iter(self) -> Self::IntoIter {
        self.iter()
    }
}

impl PartialEq for Pieces {
    fn eq(&self, other: &Pieces) -> bool {
        if Arc::ptr_eq(&self.0, &other.0) {
            return true;
        }
        // Equal bounds come first: they are known without cutting.
        self.0.bounds == other.0.bounds
            && match (&self.0.from, &other.0.from) {
                (Source::Outline(one), Source::Outline(two)) => one == two,
                (Source::MirrorOf(one), Source::MirrorOf(two)) => one == two,
                _ => self[..] == other[..],
            }
    }
}

impl fmt::Debug for Pieces {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.debug_list().entries(self.iter()).finish()
    }
}
