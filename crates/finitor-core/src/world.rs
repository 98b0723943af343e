//! The still world, and questions about bodies in it.
//!
//! Whatever moves, checks, lints or measures asks here, so that no two parts of the program can disagree about what a
//! body meets, where it is clear, what carries it, or when a one-way platform stops it.

mod between;
mod body;
mod chains;
mod ground;
mod index;
mod one_way;
mod passage;
mod room;
mod space;

pub(crate) use between::first_between;
pub(crate) use body::Body;
pub(crate) use chains::Chains;
pub(crate) use ground::{HAIR, Strip, UPWARDS, has_surface, highest_surface};
pub(crate) use index::{Near, NearThings, Vicinity};
pub use index::{OneWayIndex, SolidIndex, Thing, World, ZoneIndex};
pub(crate) use one_way::{Approach, shared_across, stands_over, stops};
pub(crate) use passage::{Path, Through, is_always_shown};
pub(crate) use room::{Cut, InSolid, cut_needed};
pub(crate) use space::difference;
pub use space::{Column, Gap, Space, pivots_hit};
