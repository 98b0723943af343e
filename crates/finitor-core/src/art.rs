//! Pictures, the pixels chosen from them, and the exact edges of those pixels.

mod contour;
mod mask;
mod picture;

pub use contour::{LatticePoint, LatticeRing, contours};
pub use mask::{Mask, Run};
pub use picture::{Colour, Picture, PixelRect};
