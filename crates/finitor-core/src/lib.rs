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
//!
//! # An example
//!
//! Fit a body to a mask, place it over a floor, and check three ticks:
//!
//! ```
//! use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Pose, Role, Shape};
//! use finitor_core::art::Mask;
//! use finitor_core::check::{CheckInput, Checker, Settings};
//! use finitor_core::fit::{Fitting, Kind, fit_shape};
//! use finitor_core::layers::{LayerSet, Layers};
//! use finitor_core::stage::{Outline, Solid, Stage};
//! use finitor_core::take::Sample;
//! use finitor_core::{Facing, Polygon, Rect, Vec2};
//!
//! # fn main() -> Result<(), Box<dyn std::error::Error>> {
//! // A figure of 8 x 16 opaque pixels in a cell of 16 x 16, with its pivot between its feet.
//! let figure = Mask::from_fn(16, 16, |x, _| (4..12).contains(&x));
//! let fitted = fit_shape(&figure, &Fitting::of(Kind::Box))?.translated(-8.0, -16.0);
//! assert_eq!(fitted.bounds(), Some(Rect::new(-4.0, -16.0, 4.0, 0.0)));
//!
//! // Layer 0 is the ground, layer 1 the hero, who detects the ground.
//! let (ground, hero) = (LayerSet::of(0), LayerSet::of(1));
//! let layers = Layers {
//!     names: vec!["ground".into(), "hero".into()],
//!     masks: vec![LayerSet::NONE, ground],
//!     ..Layers::default()
//! };
//! let body = Shape {
//!     name: "body".into(),
//!     role: Role::Body,
//!     pieces: fitted.polygons[0].pieces().into(),
//!     polygons: fitted.polygons,
//!     holes: vec![],
//!     layer: hero,
//!     mask: ground,
//!     side: None,
//!     carries: Carried::default(),
//! };
//! let stand = DrawnAnimation {
//!     name: "stand".into(),
//!     faces: Facing::Right,
//!     frames: vec![Pose { shapes: vec![body], ticks: 6, ..Pose::default() }],
//!     stands_for: None,
//! };
//! let actors = [Actor::new("hero".into(), vec![stand], vec![])];
//!
//! let floor = Outline::from(Polygon::from_rect(Rect::new(0.0, 100.0, 200.0, 120.0))?);
//! let stage = Stage {
//!     name: "yard".into(),
//!     size: Vec2::new(200.0, 120.0),
//!     solids: vec![Solid { name: "floor".into(), outline: floor, layer: ground, mask: LayerSet::NONE }],
//!     one_ways: vec![],
//!     zones: vec![],
//!     spawns: vec![],
//!     spots: vec![],
//!     sealed: vec![],
//! };
//!
//! // On the second tick the pivot is 3 px too low.
//! let settings = Settings::default();
//! let mut checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
//! for (tick, y) in [(0, 100.0), (1, 103.0), (2, 100.0)] {
//!     checker.tick(tick, &[Sample::new("hero".into(), ActorIndex(0), (50.0, y).into())]);
//! }
//! let report = checker.finish();
//! let finding = &report.findings[0];
//! assert_eq!((finding.rule.code(), finding.figure), ("embedded", 3.0));
//! assert_eq!(finding.message, "hero.body overlaps yard/floor by 3.00 px");
//! # Ok(())
//! # }
//! ```
//!
//! # Versions
//!
//! By semantic versioning (semver.org) once it is 1.0; until then a new minor version may change any item, and the changelog says
//! which. Structs of results may gain fields in a minor version. The wording of messages is no part of the interface, codes of rules are.

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
