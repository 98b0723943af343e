//! The pixels a shape is fitted to.

use super::recipe::{BandSide, Fitting, Region};
use crate::art::{Mask, Picture};

/// One frame's pictures.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FrameArt {
    /// The frame.
    pub picture: Picture,
    /// Its part map, of the same size: one flat colour a body part.
    pub parts: Option<Picture>,
}

/// The pixels of a frame that a shape is fitted to: opaque, of the paint asked for, inside the region, with enclosed
/// holes [filled](Mask::filled). May be empty.
///
/// # Complexity
/// O(pixels).
pub fn selection(art: &FrameArt, fitting: &Fitting) -> Mask {
    let opaque = art.picture.opaque(fitting.alpha);
    let mut chosen = opaque.clone();
    if !fitting.paint.is_empty() {
        chosen = match &art.parts {
            Some(parts) => chosen.and(&parts.painted(&fitting.paint)),
            None => Mask::from_fn(opaque.width(), opaque.height(), |_, _| false),
        };
    }
    if let Some(region) = fitting.region {
        chosen = within_region(&chosen, &opaque, region);
    }
    chosen.filled()
}

fn within_region(chosen: &Mask, opaque: &Mask, region: Region) -> Mask {
    match region {
        Region::Box([x, y, width, height]) => chosen.within(x, y, x + width, y + height),
        Region::Band(side, share) => {
            let Some(bounds) = opaque.bounds() else {
                return chosen.clone();
            };
            let (x0, y0) = (f64::from(bounds.x), f64::from(bounds.y));
            let (width, height) = (f64::from(bounds.width), f64::from(bounds.height));
            let (x1, y1) = (x0 + width, y0 + height);
            match side {
                BandSide::Top => chosen.within(x0, y0, x1, y0 + share * height),
                BandSide::Bottom => chosen.within(x0, y1 - share * height, x1, y1),
                BandSide::Left => chosen.within(x0, y0, x0 + share * width, y1),
                BandSide::Right => chosen.within(x1 - share * width, y0, x1, y1),
            }
        }
    }
}
