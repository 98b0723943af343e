//! Fitting shapes to art.
//!
//! A [`Fitting`] says which pixels count (the *selection*), which kind of shape is wanted and what it must keep to.
//! All of it happens in cell space; [`fit_shape`] returns cell coordinates, and the caller moves them to the pivot.

mod along;
mod arcs;
mod auto;
mod brought_down;
mod by_area;
mod capsule;
mod chain;
mod circle;
mod crossings;
mod fitted;
mod hull;
mod inner;
mod island;
mod least_area;
mod outline;
mod pieces;
mod quality;
mod recipe;
mod rectangle;
mod reduce;
mod refine;
mod ring;
mod row_sums;
mod search;
mod selection;
mod shortcuts;
mod siblings;
mod sides;
mod snap;
mod symmetric;
mod trade;
mod wedge;

pub use along::{foot_of, strip_along};
pub use fitted::{Fitted, fit_selection};
pub use pieces::{USUAL_PIECE_POINTS, pieces_of};
pub use quality::{Quality, RunRows, area_inside, measure};
pub use recipe::{
    Along, Angle, BandSide, FitGoal, Fitting, Forgiving, Given, Kind, Region, Share, Side, Source, StripEnds, Tidying,
};
pub use selection::{FrameArt, Selection, selection, selection_of_opaque};
pub use siblings::part_siblings;
pub use sides::Sides;

use crate::art::Mask;
use crate::geometry::{Polygon, PolygonError, Rect};
use std::borrow::Cow;
use thiserror::Error;

/// The numbers of a round or rectangular shape beside its polygon.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Exact {
    /// Left, top, width, height.
    Box([f64; 4]),
    /// Middle and radius.
    Circle([f64; 3]),
    /// The two ends of the spine and the radius.
    Capsule([f64; 5]),
}

/// A shape's geometry in one space.
#[derive(Clone, Debug, PartialEq)]
pub struct Geometry {
    /// The outline: polygons whose interiors do not meet. Round kinds are polygons here too.
    pub polygons: Vec<Polygon>,
    /// Holes in them, clockwise like any polygon; they may touch the outline and each other at corners only.
    pub holes: Vec<Polygon>,
    /// Exact numbers, for the kinds that have them.
    pub exact: Option<Exact>,
}

/// Why a shape cannot be fitted.
#[derive(Clone, Debug, PartialEq, Error)]
pub enum FitError {
    /// No pixel is left after alpha, paint, region and given sides.
    #[error("no pixel is selected")]
    NothingSelected,
    /// The given sides leave no room between them.
    #[error("the given sides leave no width or no height")]
    SidesCross,
    /// No pixel square leaves room for the shape.
    #[error("there is no room for it inside the selected pixels")]
    NoRoomInside,
    /// A size given is too small to cover.
    #[error("{given} px given is too small to cover every pixel: {needed:.3} px are needed")]
    TooSmall {
        /// What is given, px.
        given: f64,
        /// What is needed, px.
        needed: f64,
    },
    /// A size given is too large to stay inside.
    #[error("{given} px given is too large to stay inside: there is room for {most:.3} px")]
    TooLarge {
        /// What is given, px.
        given: f64,
        /// What there is room for, px.
        most: f64,
    },
    /// A kind and a keep that make no sense together.
    #[error("{0}")]
    NoSuchKeep(&'static str),
    /// Too few corners to cover the selection.
    #[error("{most} points are too few: {needed} are needed at least")]
    TooFewPoints {
        /// What is given.
        most: usize,
        /// What is needed.
        needed: usize,
    },
    /// Nothing is left of the shape on the grid.
    #[error("a grid of {grid} px is too coarse for the shape")]
    SnapTooCoarse {
        /// The grid, px.
        grid: f64,
    },
    /// Corners moved onto a grid may break the promise.
    #[error("corners moved onto a grid would no longer keep to the pixels exactly")]
    SnapBreaksPromise,
    /// A round end cannot hold the corner pixels at a side that may not move.
    #[error("a capsule that covers every pixel cannot keep a given side: its round end would cut the corners there")]
    CoverWithGivenSide,
    /// The numbers given make no polygon.
    #[error(transparent)]
    BadPolygon(#[from] PolygonError),
    /// A given size is not above 0.
    #[error("a width, height or radius must be above 0")]
    NoSize,
    /// The inset takes all of the side that a strip lies along.
    #[error("its inset of {inset} px at both ends leaves nothing of a side {side} px long; make it smaller")]
    InsetTooWide {
        /// Inset, px.
        inset: f64,
        /// Length of the side, px.
        side: f64,
    },
}

/// Why a hull does not go inside.
const HULL_INSIDE: &str = "the greatest convex polygon inside is not fitted; take fit = \"cover\" or \"balance\", or for \
                           pieces inside kind = \"pieces\", or a box, circle or capsule inside";

/// Fits one shape to pixels, in their space. The fitting's selection, symmetry and grid are not this function's: see
/// [`fit_selection`].
///
/// # Errors
/// [`FitError`] when nothing is selected or the options contradict one another.
pub fn fit_shape(selection: &Mask, fitting: &Fitting) -> Result<Geometry, FitError> {
    let sides = fitting.sides;
    if sides.contradict() {
        return Err(FitError::SidesCross);
    }
    let bound = |side: Option<f64>, open: f64| side.unwrap_or(open);
    let usable = match sides.has_side() {
        true => Cow::Owned(selection.within(
            bound(sides.left, f64::NEG_INFINITY),
            bound(sides.top, f64::NEG_INFINITY),
            bound(sides.right, f64::INFINITY),
            bound(sides.bottom, f64::INFINITY),
        )),
        false => Cow::Borrowed(selection),
    };
    if usable.is_empty() {
        return Err(FitError::NothingSelected);
    }
    let limit = fitting.max_points.map_or(outline::Limit::Tolerance(fitting.tolerance), outline::Limit::Points);
    match (fitting.kind, fitting.goal) {
        (Kind::Box, goal) => rectangle::fit(&usable, sides, goal).and_then(Geometry::from_rect),
        (Kind::Circle, goal) => circle::fit(&usable, sides, goal),
        (Kind::Capsule, FitGoal::Cover) if sides.has_side() => Err(FitError::CoverWithGivenSide),
        (Kind::Capsule, goal) => capsule::fit(&usable, sides, fitting.angle, goal),
        (Kind::Hull, FitGoal::Inside) => Err(FitError::NoSuchKeep(HULL_INSIDE)),
        (Kind::Hull, FitGoal::Cover) => hull::covering(&usable),
        (Kind::Hull, FitGoal::Balance) => hull::balanced(&usable, sides.axis),
        (Kind::Outline, goal) => outline::fit_limited(&usable, limit, goal),
        (Kind::Pieces, goal) => pieces::fit(&usable, limit, goal, fitting.max_piece_points),
        (Kind::Auto, _) => auto::fit(&usable, fitting).map(|chosen| chosen.geometry),
    }
}

/// The geometry of a shape given by its numbers, in the space of those numbers.
///
/// # Errors
/// [`FitError`] when they describe no shape.
pub fn given_shape(given: &Given) -> Result<Geometry, FitError> {
    match given {
        Given::Box([x, y, width, height]) => {
            if !(*width > 0.0 && *height > 0.0) {
                return Err(FitError::NoSize);
            }
            Geometry::from_rect(Rect::new(*x, *y, x + width, y + height))
        }
        Given::Circle([x, y, radius]) => arcs::circle([*x, *y, *radius]),
        Given::Capsule(numbers) => arcs::capsule(*numbers),
        Given::Points(points) => Ok(Geometry::new(vec![Polygon::new(points.clone())?], None)),
    }
}

impl Geometry {
    /// A geometry without holes.
    pub fn new(polygons: Vec<Polygon>, exact: Option<Exact>) -> Geometry {
        Geometry { polygons, holes: Vec::new(), exact }
    }

    /// Area without the holes, px2.
    pub fn area(&self) -> f64 {
        let sum = |of: &[Polygon]| of.iter().map(Polygon::area).sum::<f64>();
        sum(&self.polygons) - sum(&self.holes)
    }

    pub(crate) fn from_rect(rect: Rect) -> Result<Geometry, FitError> {
        let numbers = [rect.x0, rect.y0, rect.width(), rect.height()];
        Ok(Geometry::new(vec![Polygon::from_rect(rect)?], Some(Exact::Box(numbers))))
    }

    /// The geometry moved by (dx, dy).
    #[must_use]
    pub fn translated(&self, dx: f64, dy: f64) -> Geometry {
        let moved = |of: &[Polygon]| of.iter().map(|p| p.translated((dx, dy).into())).collect();
        let exact = self.exact.map(|exact| match exact {
            Exact::Box([x, y, w, h]) => Exact::Box([x + dx, y + dy, w, h]),
            Exact::Circle([x, y, r]) => Exact::Circle([x + dx, y + dy, r]),
            Exact::Capsule([x1, y1, x2, y2, r]) => Exact::Capsule([x1 + dx, y1 + dy, x2 + dx, y2 + dy, r]),
        });
        Geometry { polygons: moved(&self.polygons), holes: moved(&self.holes), exact }
    }

    /// The mirror image about x = 0. Twice is the same bits, but for the width of a box, which is rounded.
    #[must_use]
    pub fn mirrored(&self) -> Geometry {
        let flipped = |of: &[Polygon]| of.iter().map(Polygon::mirrored).collect();
        let exact = self.exact.map(|exact| match exact {
            Exact::Box([x, y, w, h]) => Exact::Box([0.0 - (x + w), y, w, h]),
            Exact::Circle([x, y, r]) => Exact::Circle([0.0 - x, y, r]),
            Exact::Capsule([x1, y1, x2, y2, r]) => Exact::Capsule([0.0 - x1, y1, 0.0 - x2, y2, r]),
        });
        Geometry { polygons: flipped(&self.polygons), holes: flipped(&self.holes), exact }
    }

    /// Number of corners over all rings.
    pub fn point_count(&self) -> usize {
        self.polygons.iter().chain(&self.holes).map(|p| p.points().len()).sum()
    }

    /// The smallest rectangle around it; `None` when it has no ring.
    pub fn bounds(&self) -> Option<Rect> {
        self.polygons.iter().map(Polygon::bounds).reduce(|a, b| a.union(b))
    }
}
