//! Pictures, the pixels chosen from them, and the exact edges of those pixels; sheets, and how they are cut.

mod axis_cuts;
mod background;
mod boxed;
mod composite;
mod contour;
mod gaps;
mod grid;
mod guess;
mod guess_tiles;
mod imprint;
mod landmark;
mod lines;
mod look;
mod mask;
mod patches;
mod picture;
mod reading;
mod run;
mod summed;
mod tidy;
mod view;

pub use background::Background;
pub use composite::{Blend, Canvas, Disposal};
pub use contour::{LatticePoint, LatticeRing, contours};
pub use gaps::cells_by_gaps;
pub use grid::Grid;
pub use guess::{GridEvidence, GridGuess, guess_grid};
pub use guess_tiles::guess_tiles;
pub use imprint::{Imprint, ImprintChange};
pub use landmark::{Landmark, Stance, centroid, feet, landmark, stance};
pub use look::{CellLook, Cutting, LookWishes, SheetLook, look};
pub use mask::Mask;
pub use picture::{Colour, Key, Picture, PixelRect};
pub use run::Run;
pub(crate) use summed::SummedArea;
pub use view::View;
