//! What hits and hurt shapes carry: what is struck, and how hard.

use crate::hits::Settle;
use crate::layers::LayerSet;

/// A body part and what a hit on it does.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Part {
    /// Its name, where it has one of its own.
    pub name: Option<String>,
    /// The family that it belongs to.
    pub group: Option<String>,
    /// What damage to it is multiplied by.
    pub factor: Option<f64>,
    /// Whether a hit on it is the end, whatever its damage.
    pub is_vital: bool,
}

impl Part {
    /// Whether a file says what a hit does to it; else it counts 1.
    pub fn has_factor(&self) -> bool {
        self.factor.is_some() || self.is_vital
    }
}

/// An anchor that stands for a part of a hurt shape: the nearest to the contact says which part is struck.
#[derive(Clone, Debug, PartialEq)]
pub struct PartAnchor {
    /// The anchor's name.
    pub anchor: String,
    /// The part; without a name where the file gives the anchor none.
    pub part: Part,
}

/// What hits and hurt shapes carry.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Carried {
    /// The body part that a hurt shape stands for.
    pub part: Part,
    /// The anchors that say which part of a hurt shape is struck.
    pub anchors: Vec<PartAnchor>,
    /// What a hit does.
    pub damage: Option<f64>,
    /// How it is settled which part a hit strikes, where the hit says so.
    pub settle: Option<Settle>,
    /// After how many ticks one swing of a hit strikes the same target again; never where it does not say so.
    pub again_after: Option<u64>,
    /// Solids on these layers stop a hit on its way to the contact.
    pub blocked_by: LayerSet,
    /// The anchor that this way begins at; the middle of the body where it does not say so.
    pub blocked_from: Option<String>,
}
