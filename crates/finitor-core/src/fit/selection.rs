//! The pixels a shape is fitted to.

use super::recipe::{BandSide, Fitting, Region};
use crate::art::{Mask, Picture};
use crate::geometry::Vec2;

/// One frame's pictures.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FrameArt {
    /// The frame.
    pub picture: Picture,
    /// Its part map, of the same size: one flat colour a body part.
    pub parts: Option<Picture>,
}

/// Pixels on a canvas that may reach beyond the cell.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Selection {
    /// The pixels.
    pub mask: Mask,
    /// The canvas's top left corner, columns and rows of the cell.
    pub origin: (i64, i64),
}

impl Selection {
    /// A selection that keeps to the cell.
    pub fn in_cell(mask: Mask) -> Selection {
        Selection { mask, origin: (0, 0) }
    }

    /// The canvas's corner, cell space.
    pub fn corner(&self) -> Vec2 {
        Vec2::new(self.origin.0 as f64, self.origin.1 as f64)
    }

    /// The mirror image about the cell's left border.
    #[must_use]
    pub fn mirrored(&self) -> Selection {
        let right = self.origin.0 + i64::from(self.mask.width());
        Selection { mask: self.mask.mirrored(), origin: (0 - right, self.origin.1) }
    }

    /// Whether no pixel is selected.
    pub fn is_empty(&self) -> bool {
        self.mask.is_empty()
    }
}

/// The pixels of a frame that a shape is fitted to: opaque, of the paint asked for, inside the region, and tidied: gaps
/// closed, enclosed holes filled, thin features dropped, small islands dropped, grown or shrunk, in this order. May be empty.
///
/// # Complexity
/// O(pixels).
pub fn selection(art: &FrameArt, fitting: &Fitting) -> Selection {
    chosen(art.picture.opaque(fitting.alpha), art.parts.as_ref(), fitting)
}

/// The same by the pixels that are opaque alone, for a recipe that needs no part map.
pub fn selection_of_opaque(opaque: Mask, fitting: &Fitting) -> Selection {
    chosen(opaque, None, fitting)
}

fn chosen(opaque: Mask, parts: Option<&Picture>, fitting: &Fitting) -> Selection {
    if !fitting.needs_parts() && fitting.region.is_none() {
        return tidied(opaque, fitting);
    }
    let mut chosen = opaque.clone();
    if !fitting.paint.is_empty() {
        chosen = match parts {
            Some(parts) => chosen.and(&parts.painted(&fitting.paint)),
            None => Mask::empty(opaque.width(), opaque.height()),
        };
    }
    if let Some(region) = fitting.region {
        chosen = within_region(&chosen, &opaque, region);
    }
    let mut selected = tidied(chosen, fitting);
    if let Some(parts) = parts.filter(|_| !fitting.spared.is_empty()) {
        let spared = opaque.and(&parts.painted(&fitting.spared));
        let (width, height) = (selected.mask.width(), selected.mask.height());
        let spared = spared.placed(width, height, (-selected.origin.0, -selected.origin.1));
        selected.mask = selected.mask.without(&spared);
    }
    selected
}

/// A mask tidied as a recipe asks; steps that would change nothing are passed over.
fn tidied(mask: Mask, fitting: &Fitting) -> Selection {
    let tidying = &fitting.tidying;
    let filled = |mask: &Mask| mask.filled_below(tidying.min_hole);
    let mut chosen = if tidying.close_gaps > 1 { filled(&mask.closed(tidying.close_gaps)) } else { filled(&mask) };
    let share =
        |mask: &Mask| mask.bounds().map_or(0.0, |bounds| tidying.min_thickness_share * f64::from(bounds.height));
    let min_thickness = match tidying.min_thickness_share > 0.0 {
        true => tidying.min_thickness.max(share(&chosen).round() as u32),
        false => tidying.min_thickness,
    };
    if min_thickness > 1 {
        // Where features leave, holes may open.
        chosen = filled(&chosen.opened(min_thickness));
    }
    if tidying.largest {
        chosen = chosen.largest_island();
    } else if tidying.min_island > 1 {
        chosen = chosen.without_islands_below(tidying.min_island);
    }
    if tidying.inset > 0.0 {
        chosen = chosen.shrunk(tidying.inset);
    }
    let mut origin = (0, 0);
    if tidying.outset > 0.0 {
        let room = tidying.outset.ceil() as i64;
        chosen = filled(&chosen.grown(tidying.outset));
        origin = (-room, -room);
    }
    Selection { mask: chosen, origin }
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
