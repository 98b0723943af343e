//! The side an actor faces.

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
