//! What Finitor computes: shapes fitted to sprite frames, their mirror images, who sees whom, and where a recorded
//! take clips. Values in, values out: no files, no clock, no terminal, no global state.
//!
//! # Spaces
//!
//! ```text
//!  cell space          local space             world space
//!  (0,0)----> x             |                  (0,0)----> x
//!    |  art               --+--> the way         |   x, y: the pivot
//!    v y                    |    it is drawn     v y
//! ```
//!
//! * *Cell*: origin at the cell's top left. Pixel (c, r) fills the closed square [c, c+1] x [r, r+1].
//! * *Local*: cell space minus the pivot; +x points the way the art is drawn.
//! * *World*: `position + M * local`, M mirroring x when the facing is not the drawn one.
//!
//! y points down in all three. Lengths are pixels, areas px2, times ticks. A ring that runs clockwise as seen on
//! screen has positive area, and every [`Polygon`] does. Shapes are closed: at distance 0 they *touch*, which is
//! depth 0 and never a fault; they *overlap* when their interiors meet.
//!
//! # The path of a value
//!
//! [`art::Picture`] -> [`art::Mask`] -> [`fit::fit_shape`] -> [`actor::Actor`] (both facings) -> [`check::Checker`]
//! -> [`finding::Finding`]. What a [`rule::Rule`] is and does has one file; all of them are in the [`book`].

pub mod actor;
pub mod art;
pub mod book;
pub mod change;
pub mod check;
pub mod clearance;
pub mod facing;
pub mod finding;
pub mod fit;
pub mod geometry;
pub mod hits;
pub mod layers;
pub mod lint;
pub mod rule;
pub mod stage;
pub mod symptoms;
pub mod take;
pub mod world;

// The tests in files of rules build their worlds as those in `tests/` do.
#[cfg(test)]
extern crate self as finitor_core;
#[cfg(test)]
#[path = "../tests/world/mod.rs"]
mod testing;

pub use facing::Facing;
pub use geometry::{Convex, Point, Polygon, Rect, Vec2};
