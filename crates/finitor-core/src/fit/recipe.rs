//! What a shape is to be fitted to, and how.

use crate::art::Colour;
use crate::geometry::Point;

/// The kind of shape to fit.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Kind {
    /// An upright rectangle.
    Box,
    /// A rectangle with two round ends, upright or lying.
    Capsule,
    /// A convex polygon.
    Hull,
    /// A polygon along the edges of the art, one ring an island.
    Outline,
}

/// What a fitted shape must keep to.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Keep {
    /// Contain every selected pixel, with the least area.
    Cover,
    /// Lie inside the selection, with the greatest area.
    Inside,
    /// Agree best with the selection: the highest IoU for the kind, or for an outline the tolerance both ways.
    Balance,
}

/// Over which frames one and the same shape is held.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Hold {
    /// A shape of its own for each frame.
    Frame,
    /// One shape an animation.
    Animation,
    /// One shape for all frames it is on.
    Actor,
}

/// The part of a cell that counts.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Region {
    /// Left, top, width and height in cell px.
    Box([f64; 4]),
    /// A share (0 to 1) of the opaque pixels' bounding box, from one of its sides.
    Band(BandSide, f64),
}

/// A side of the opaque pixels' bounding box, as drawn.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum BandSide {
    /// From the top down.
    Top,
    /// From the bottom up.
    Bottom,
    /// From the left.
    Left,
    /// From the right.
    Right,
}

/// Sides fixed by hand, cell px; the others are fitted.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Sides {
    /// Left side.
    pub left: Option<f64>,
    /// Top side.
    pub top: Option<f64>,
    /// Right side.
    pub right: Option<f64>,
    /// Bottom side.
    pub bottom: Option<f64>,
}

impl Sides {
    /// The sides moved by (dx, dy).
    #[must_use]
    pub fn moved(self, dx: f64, dy: f64) -> Sides {
        let by = |side: Option<f64>, delta: f64| side.map(|side| side + delta);
        Sides { left: by(self.left, dx), top: by(self.top, dy), right: by(self.right, dx), bottom: by(self.bottom, dy) }
    }

    /// Whether two opposite sides leave no room between them.
    pub(super) fn contradict(self) -> bool {
        let crossed = |low: Option<f64>, high: Option<f64>| matches!((low, high), (Some(a), Some(b)) if a >= b);
        crossed(self.left, self.right) || crossed(self.top, self.bottom)
    }
}

/// How a shape is fitted.
#[derive(Clone, Debug, PartialEq)]
pub struct Fitting {
    /// The kind of shape.
    pub kind: Kind,
    /// What it must keep to.
    pub keep: Keep,
    /// Over which frames it is held.
    pub hold: Hold,
    /// Least alpha of a pixel that counts, 1 to 255.
    pub alpha: u8,
    /// The part of the cell that counts; all of it when `None`.
    pub region: Option<Region>,
    /// Colours of the part map that count; any when empty.
    pub paint: Vec<Colour>,
    /// For outlines: largest distance between the outline and the pixels' edges, px. 0 keeps every corner.
    pub tolerance: f64,
    /// Sides fixed by hand, for boxes and capsules.
    pub sides: Sides,
}

impl Fitting {
    /// The defaults for a kind: alpha 128, one shape a frame, tolerance 1 px; a hull covers, other kinds balance.
    pub fn of(kind: Kind) -> Fitting {
        let keep = if kind == Kind::Hull { Keep::Cover } else { Keep::Balance };
        Fitting {
            kind,
            keep,
            hold: Hold::Frame,
            alpha: 128,
            region: None,
            paint: Vec::new(),
            tolerance: 1.0,
            sides: Sides::default(),
        }
    }
}

/// A shape given by its numbers, cell px.
#[derive(Clone, Debug, PartialEq)]
pub enum Given {
    /// Left, top, width, height.
    Box([f64; 4]),
    /// Middle and radius.
    Circle([f64; 3]),
    /// The two ends of the spine and the radius.
    Capsule([f64; 5]),
    /// The corners of a simple polygon, in either direction.
    Points(Vec<Point>),
}

/// A side of a shape, seen by the actor.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Side {
    /// Under it.
    Below,
    /// Over it.
    Above,
    /// In front, the way the actor looks.
    Ahead,
    /// Behind it.
    Behind,
}

/// A strip along a side of another shape.
#[derive(Clone, Debug, PartialEq)]
pub struct Along {
    /// Name of the shape it follows.
    pub shape: String,
    /// On which side.
    pub side: Side,
    /// How far it reaches out, px, above 0.
    pub depth: f64,
    /// How much shorter it is than the side at each end, px.
    pub inset: f64,
}

/// Where a shape's geometry comes from.
#[derive(Clone, Debug, PartialEq)]
pub enum Source {
    /// Fitted to the art.
    Fitted(Fitting),
    /// Numbers from the actor file.
    Given(Given),
    /// A strip along another shape.
    Along(Along),
}
