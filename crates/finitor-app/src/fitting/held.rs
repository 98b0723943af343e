//! Shapes held over several frames: what they select, laid over each other by their pivots.

use finitor_core::art::Mask;
use finitor_core::fit::{FitError, Fitted, Fitting, Selection, Tidying, fit_selection};
use finitor_core::{Facing, Point, Vec2};
use finitor_files::{ActorFile, FitGroup};
use std::sync::{Mutex, PoisonError};

/// The selections of a group's frames on one canvas: the cell of the group's first frame, enlarged as the others need.
pub(super) struct HeldArt {
    /// The first frame's pivot, its cell.
    pivot: Point,
    /// The canvas's corner, in the first frame's cell: whole numbers.
    origin: Vec2,
    size: (u32, u32),
    /// On how many frames a pixel is to be selected.
    least: u32,
    laid: Mutex<Laid>,
}

/// What was laid on the canvas so far.
enum Laid {
    /// Pixels selected on any frame.
    Any(Mask),
    /// By pixel, row by row: on how many frames it is selected.
    Counted(Vec<u32>),
}

/// A canvas larger than this a side would take more memory than any figure is worth; pivots far apart ask for it.
const MOST_SIDE: f64 = 32_768.0;
/// Most pixels of a canvas on which frames are counted.
const MOST_COUNTED: f64 = 64_000_000.0;

impl HeldArt {
    /// An empty canvas for all frames of a group; `None` when their pivots lie too far apart for one.
    pub(super) fn new(actor: &ActorFile, group: &FitGroup, fitting: &Fitting) -> Option<HeldArt> {
        let pivot = actor.frames[group.frames[0]].pivot;
        let room = fitting.tidying.outset.ceil();
        let (mut low, mut high) = (Vec2::new(-room, -room), Vec2::ZERO);
        for &frame in &group.frames {
            let frame = &actor.frames[frame];
            let by = pivot - frame.pivot;
            low = Vec2::new(low.x.min(by.x.floor() - room), low.y.min(by.y.floor() - room));
            let end = by + Vec2::new(f64::from(frame.rect.width) + room, f64::from(frame.rect.height) + room);
            high = Vec2::new(high.x.max(end.x.ceil()), high.y.max(end.y.ceil()));
        }
        let size = high - low;
        let counted = fitting.presence > 0.0;
        if size.x > MOST_SIDE || size.y > MOST_SIDE || (counted && size.x * size.y > MOST_COUNTED) {
            return None;
        }
        let size = (size.x as u32, size.y as u32);
        let laid = match counted {
            true => Laid::Counted(vec![0; size.0 as usize * size.1 as usize]),
            false => Laid::Any(Mask::empty(size.0, size.1)),
        };
        let least = (fitting.presence * group.frames.len() as f64 - 1e-9).ceil().max(1.0) as u32;
        Some(HeldArt { pivot, origin: low, size, least, laid: Mutex::new(laid) })
    }

    /// Adds what a frame selects. The order in which frames come does not matter.
    pub(super) fn add(&self, selected: &Selection, pivot: Point) {
        let by = self.pivot - pivot - self.origin + selected.corner();
        match &mut *self.laid.lock().unwrap_or_else(PoisonError::into_inner) {
            Laid::Any(mask) => mask.stamp(&selected.mask, by.x, by.y),
            Laid::Counted(counts) => {
                let mut mask = Mask::empty(self.size.0, self.size.1);
                mask.stamp(&selected.mask, by.x, by.y);
                for run in mask.runs() {
                    let row = run.row as usize * self.size.0 as usize;
                    counts[row + run.start as usize..row + run.end as usize].iter_mut().for_each(|count| *count += 1);
                }
            }
        }
    }

    /// Fits a shape to what enough frames have; `None` when nothing is. Sides given by hand are in the first frame's cell.
    pub(super) fn fit(&self, fitting: &Fitting, drawn: Facing) -> Result<Option<Fitted>, FitError> {
        let all = match &*self.laid.lock().unwrap_or_else(PoisonError::into_inner) {
            Laid::Any(mask) => mask.clone(),
            Laid::Counted(counts) => Mask::from_fn(self.size.0, self.size.1, |x, y| {
                counts[y as usize * self.size.0 as usize + x as usize] >= self.least
            }),
        };
        let mask = all.filled_below(fitting.tidying.min_hole);
        let selection = Selection { mask, origin: (self.origin.x as i64, self.origin.y as i64) };
        // Frame by frame it is tidy already.
        let tidying = Tidying { min_hole: fitting.tidying.min_hole, ..Tidying::default() };
        match fit_selection(&selection, &Fitting { tidying, ..fitting.clone() }, self.pivot, drawn) {
            Ok(fitted) => Ok(Some(fitted)),
            Err(FitError::NothingSelected) => Ok(None),
            Err(error) => Err(error),
        }
    }
}
