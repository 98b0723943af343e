//! Facing, and mirroring about the pivot.

use crate::geometry::Point;
use std::fmt;

/// The side an actor looks to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Facing {
    /// To +x.
    Right,
    /// To -x.
    Left,
}

impl Facing {
    /// Both, in the order used for tables of two.
    pub const BOTH: [Facing; 2] = [Facing::Right, Facing::Left];

    /// Its place in [`Facing::BOTH`].
    pub fn index(self) -> usize {
        self as usize
    }

    /// The other one.
    #[must_use]
    pub fn turned(self) -> Facing {
        match self {
            Facing::Right => Facing::Left,
            Facing::Left => Facing::Right,
        }
    }

    /// Reads `right` or `left`.
    pub fn parse(word: &str) -> Option<Facing> {
        Facing::BOTH.into_iter().find(|facing| facing.name() == word)
    }

    /// `right` or `left`.
    pub fn name(self) -> &'static str {
        match self {
            Facing::Right => "right",
            Facing::Left => "left",
        }
    }
}

impl fmt::Display for Facing {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// The mirror image of a point in local space about the pivot's upright line. 0 stays 0, not -0, so that mirroring
/// twice gives the same bits.
#[must_use]
pub fn mirrored_point(point: Point) -> Point {
    Point::new(0.0 - point.x, point.y)
}
