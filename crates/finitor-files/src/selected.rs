//! The pixels of a frame that shapes are fitted to, decoded again only where what is remembered of them does not do.

use crate::actor_toml::LoadedFrame;
use crate::gallery::Gallery;
use crate::problem::Problem;
use crate::survey::USUAL_ALPHA;
use finitor_core::fit::{Fitting, FrameArt, Selection, selection, selection_of_opaque};
use std::cell::OnceCell;

/// A frame's selections.
pub struct FrameSelections<'f> {
    frame: &'f LoadedFrame,
    gallery: &'f Gallery,
    art: OnceCell<FrameArt>,
}

impl<'f> FrameSelections<'f> {
    /// Those of a frame, whose picture the gallery has.
    pub fn new(frame: &'f LoadedFrame, gallery: &'f Gallery) -> FrameSelections<'f> {
        FrameSelections { frame, gallery, art: OnceCell::new() }
    }

    /// The pixels that a recipe selects.
    ///
    /// # Errors
    /// A [`Problem`] of the picture or of its part map, where they are needed.
    pub fn of(&self, fitting: &Fitting) -> Result<Selection, Problem> {
        if fitting.alpha == USUAL_ALPHA && !fitting.needs_parts() {
            return Ok(selection_of_opaque(self.frame.imprint.opaque(), fitting));
        }
        if let Some(art) = self.art.get() {
            return Ok(selection(art, fitting));
        }
        let art = self.gallery.frame(&self.frame.source)?;
        Ok(selection(self.art.get_or_init(|| art), fitting))
    }
}
