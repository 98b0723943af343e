//! Shapes held over several frames: what all of them select, laid over each other by their pivots.

use finitor_core::art::Mask;
use finitor_core::fit::{FitError, Fitting, Geometry, fit_shape};
use finitor_core::{Point, Vec2};
use finitor_files::{ActorFile, FitGroup};
use std::sync::{Mutex, PoisonError};

/// The selections of a group's frames on one canvas: the cell of the group's first frame, enlarged as the others need.
pub(super) struct HeldArt {
    /// The first frame's pivot, its cell.
    pivot: Point,
    /// The canvas's corner, in the first frame's cell: whole numbers.
    origin: Vec2,
    mask: Mutex<Mask>,
}

/// A canvas larger than this a side would take more memory than any figure is worth; pivots far apart ask for it.
const MOST_SIDE: f64 = 32_768.0;

impl HeldArt {
    /// An empty canvas for all frames of a group; `None` when their pivots lie too far apart for one.
    pub(super) fn new(actor: &ActorFile, group: &FitGroup) -> Option<HeldArt> {
        let pivot = actor.frames[group.frames[0]].pivot;
        let (mut low, mut high) = (Vec2::ZERO, Vec2::ZERO);
        for &frame in &group.frames {
            let frame = &actor.frames[frame];
            let by = pivot - frame.pivot;
            low = Vec2::new(low.x.min(by.x.floor()), low.y.min(by.y.floor()));
            let end = by + Vec2::new(f64::from(frame.rect.width), f64::from(frame.rect.height));
            high = Vec2::new(high.x.max(end.x.ceil()), high.y.max(end.y.ceil()));
        }
        let size = high - low;
        if size.x > MOST_SIDE || size.y > MOST_SIDE {
            return None;
        }
        let mask = Mask::from_fn(size.x as u32, size.y as u32, |_, _| false);
        Some(HeldArt { pivot, origin: low, mask: Mutex::new(mask) })
    }

    /// Adds what a frame selects. The order in which frames come does not matter.
    pub(super) fn add(&self, selected: &Mask, pivot: Point) {
        let by = self.pivot - pivot - self.origin;
        self.mask.lock().unwrap_or_else(PoisonError::into_inner).stamp(selected, by.x, by.y);
    }

    /// Fits a shape to all of it, local; `None` when nothing is selected on any frame. Sides given by hand are in the
    /// first frame's cell.
    pub(super) fn fit(&self, fitting: &Fitting) -> Result<Option<Geometry>, FitError> {
        let all = self.mask.lock().unwrap_or_else(PoisonError::into_inner).filled();
        let sides = fitting.sides.moved(0.0 - self.origin.x, 0.0 - self.origin.y);
        let to_local = self.origin - self.pivot.to_vec2();
        match fit_shape(&all, &Fitting { sides, ..fitting.clone() }) {
            Ok(geometry) => Ok(Some(geometry.translated(to_local.x, to_local.y))),
            Err(FitError::NothingSelected) => Ok(None),
            Err(error) => Err(error),
        }
    }
}
