//! What a shape is to be fitted to, and how.

use super::{Sides, USUAL_PIECE_POINTS};
use crate::art::Colour;
use crate::geometry::Point;

/// The kind of shape to fit, from the simplest on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Kind {
    /// An upright rectangle.
    Box,
    /// A circle.
    Circle,
    /// A rectangle with two round ends.
    Capsule,
    /// A convex polygon.
    Hull,
    /// A polygon along the edges of the art, one ring an island.
    Outline,
    /// An outline chosen so that it falls into few convex pieces.
    Pieces,
    /// The simplest of the others that agrees well enough.
    Auto,
}

impl Kind {
    /// All kinds, as the files name them.
    pub const ALL: [Kind; 7] =
        [Kind::Box, Kind::Circle, Kind::Capsule, Kind::Hull, Kind::Outline, Kind::Pieces, Kind::Auto];

    /// The kind's word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Kind::Box => "box",
            Kind::Circle => "circle",
            Kind::Capsule => "capsule",
            Kind::Hull => "hull",
            Kind::Outline => "outline",
            Kind::Pieces => "pieces",
            Kind::Auto => "auto",
        }
    }

    /// Whether it follows the art with as many corners as the tolerance asks for.
    pub fn is_traced(self) -> bool {
        matches!(self, Kind::Outline | Kind::Pieces)
    }
}

/// How a capsule lies.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Angle {
    /// Upright or lying, whichever agrees better.
    #[default]
    Square,
    /// Its spine runs up and down.
    Upright,
    /// Its spine runs left and right.
    Lying,
    /// At any angle.
    Any,
}

/// What is done to the selected pixels before a shape is fitted to them. All lengths px, 0 for not at all.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tidying {
    /// Islands of fewer pixels are dropped.
    pub min_island: u64,
    /// All islands but the largest are dropped.
    pub largest: bool,
    /// Enclosed holes of fewer pixels are filled; all by custom.
    pub min_hole: u64,
    /// Features thinner than this are dropped.
    pub min_thickness: u32,
    /// ... or than this share of the height of the pixels' bounding box, 0 to 1, where that is more.
    pub min_thickness_share: f64,
    /// Gaps narrower than this are closed.
    pub close_gaps: u32,
    /// Pixels within this of the edge are dropped.
    pub inset: f64,
    /// Pixels within this of the edge are added.
    pub outset: f64,
}

impl Default for Tidying {
    fn default() -> Tidying {
        Tidying {
            min_island: 0,
            largest: false,
            min_hole: u64::MAX,
            min_thickness: 0,
            min_thickness_share: 0.0,
            close_gaps: 0,
            inset: 0.0,
            outset: 0.0,
        }
    }
}

/// What a fitted shape is fitted for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FitGoal {
    /// Contain every selected pixel, with the least area.
    Cover,
    /// Lie inside the selection, with the greatest area.
    Inside,
    /// Agree best with the selection: the highest IoU for the kind, or for an outline the tolerance both ways.
    Balance,
}

/// Over which frames one and the same shape is shared.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Share {
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

/// How a shape is fitted.
#[derive(Clone, Debug, PartialEq)]
pub struct Fitting {
    /// The kind of shape.
    pub kind: Kind,
    /// What it is fitted for.
    pub goal: FitGoal,
    /// Over which frames it is shared.
    pub share: Share,
    /// Least alpha of a pixel that counts, 1 to 255.
    pub alpha: u8,
    /// The part of the cell that counts; all of it when `None`.
    pub region: Option<Region>,
    /// Colours of the part map that count; any when empty.
    pub paint: Vec<Colour>,
    /// Colours of the part map that never count, not even as holes filled.
    pub spared: Vec<Colour>,
    /// What is done to the pixels chosen so far.
    pub tidying: Tidying,
    /// For outlines: largest distance between the outline and the pixels' edges, px. 0 keeps every corner.
    pub tolerance: f64,
    /// For outlines: the most corners; the best IoU with them replaces a tolerance.
    pub max_points: Option<usize>,
    /// Corners of a convex piece at most, 3 or more.
    pub max_piece_points: usize,
    /// For capsules: how they lie.
    pub angle: Angle,
    /// Sides and sizes fixed by hand, cell px.
    pub sides: Sides,
    /// Whether the shape is equal left and right of the pivot, so that turning changes nothing.
    pub symmetric: bool,
    /// Whether its lower side lies on the pivot's line; for boxes.
    pub grounded: bool,
    /// Grid from the pivot on which the shape's numbers or corners lie, px.
    pub snap: Option<f64>,
    /// For shapes shared over frames: a pixel counts that is selected on this share of them, 0 to 1; 0 for any of them.
    pub presence: f64,
    /// For [`Kind::Auto`]: the IoU to reach.
    pub min_iou: f64,
    /// Distances by which sides are moved in at the end: how forgiving it is.
    pub forgiving: Forgiving,
}

/// How far sides of a box are moved in after it is fitted, px, as seen by the actor.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Forgiving {
    /// At the top.
    pub top: f64,
    /// At the front; of a symmetric shape at the back as well, where the front is the farther side.
    pub front: f64,
}

impl Fitting {
    /// Whether it goes by colours of the part map.
    pub fn needs_parts(&self) -> bool {
        !(self.paint.is_empty() && self.spared.is_empty())
    }

    /// The defaults for a kind: alpha 128, one shape a frame, tolerance 1 px; a hull covers, other kinds balance.
    /// [`Kind::Auto`] asks for an IoU of 0.8.
    pub fn of(kind: Kind) -> Fitting {
        let goal = if kind == Kind::Hull { FitGoal::Cover } else { FitGoal::Balance };
        Fitting {
            kind,
            goal,
            share: Share::Frame,
            alpha: 128,
            region: None,
            paint: Vec::new(),
            spared: Vec::new(),
            tidying: Tidying::default(),
            tolerance: 1.0,
            max_points: None,
            max_piece_points: USUAL_PIECE_POINTS,
            angle: Angle::default(),
            sides: Sides::default(),
            symmetric: false,
            grounded: false,
            snap: None,
            presence: 0.0,
            min_iou: 0.8,
            forgiving: Forgiving::default(),
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

/// Where a strip along a side ends.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum StripEnds {
    /// With the bounding box of the shape that it follows.
    #[default]
    Box,
    /// With what that shape has no further from the side than the strip is deep: with the foot of a body, not with its arms.
    Shape,
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
    /// Where the side ends.
    pub ends: StripEnds,
}

/// Where a shape's geometry comes from.
#[allow(clippy::large_enum_variant, reason = "most are fitted, and there are few")]
#[derive(Clone, Debug, PartialEq)]
pub enum Source {
    /// Fitted to the art.
    Fitted(Fitting),
    /// Numbers from the actor file.
    Given(Given),
    /// A strip along another shape.
    Along(Along),
}
