//! Fitting shapes to art.
//!
//! A [`Fitting`] says which pixels count (the *selection*), which kind of shape is wanted and what it must keep to.
//! All of it happens in cell space; [`fit_shape`] returns cell coordinates, and the caller moves them to the pivot.

mod along;
mod arcs;
mod capsule;
mod chain;
mod crossings;
mod hull;
mod outline;
mod quality;
mod recipe;
mod rectangle;
mod refine;
mod selection;
mod shortcuts;
mod wedge;

pub use along::strip_along;
pub use quality::{Quality, RunRows, area_inside, measure};
pub use recipe::{Along, BandSide, Fitting, Given, Hold, Keep, Kind, Region, Side, Sides, Source};
pub use selection::{FrameArt, selection};

use crate::art::Mask;
use crate::geometry::{Polygon, PolygonError, Rect};
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

/// Fits one shape to a selection, cell space.
///
/// # Errors
/// [`FitError`] when nothing is selected or the options contradict one another.
pub fn fit_shape(selection: &Mask, fitting: &Fitting) -> Result<Geometry, FitError> {
    let sides = fitting.sides;
    if sides.contradict() {
        return Err(FitError::SidesCross);
    }
    let bound = |side: Option<f64>, open: f64| side.unwrap_or(open);
    let usable = selection.within(
        bound(sides.left, f64::NEG_INFINITY),
        bound(sides.top, f64::NEG_INFINITY),
        bound(sides.right, f64::INFINITY),
        bound(sides.bottom, f64::INFINITY),
    );
    if usable.is_empty() {
        return Err(FitError::NothingSelected);
    }
    match (fitting.kind, fitting.keep) {
        (Kind::Box, keep) => rectangle::fit(&usable, sides, keep).and_then(Geometry::from_rect),
        (Kind::Capsule, Keep::Cover) if sides != Sides::default() => Err(FitError::CoverWithGivenSide),
        (Kind::Capsule, Keep::Cover) => capsule::covering(&usable),
        (Kind::Capsule, Keep::Balance) => capsule::balanced(&usable, sides),
        (Kind::Capsule | Kind::Hull, Keep::Inside) => Err(FitError::NothingSelected),
        (Kind::Hull, Keep::Cover) => hull::covering(&usable),
        (Kind::Hull, Keep::Balance) => hull::balanced(&usable),
        (Kind::Outline, keep) => Ok(outline::fit(&usable, fitting.tolerance, keep)),
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

    /// Number of corners over all rings.
    pub fn point_count(&self) -> usize {
        self.polygons.iter().chain(&self.holes).map(|p| p.points().len()).sum()
    }

    /// The smallest rectangle around it; `None` when it has no ring.
    pub fn bounds(&self) -> Option<Rect> {
        self.polygons.iter().map(Polygon::bounds).reduce(|a, b| a.union(b))
    }
}
