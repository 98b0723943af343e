//! The shapes that fit worst, as they are written.

use crate::Outcome;
use finitor_files::{ActorFile, FrameFits, QualityFits, ShapeFits};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`WorstFits`].
pub const WORST_FITS_SCHEMA: &str = "finitor.fit_worst/1";

/// The shapes to look at.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct WorstFits {
    /// [`WORST_FITS_SCHEMA`].
    pub schema: String,
    /// By IoU, the lowest first; of equals the one with the larger deviation.
    pub worst: Vec<WorstFit>,
}

/// A shape on a frame.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct WorstFit {
    /// The actor.
    pub actor: String,
    /// The animation.
    pub animation: String,
    /// The frame in it.
    pub frame: usize,
    /// The shape.
    pub shape: String,
    /// What it was fitted as.
    pub kind: String,
    /// Intersection over union with the selected pixels, 0 to 1.
    pub iou: f64,
    /// Share of the selected pixels inside, 0 to 1.
    pub covered: f64,
    /// Area beside the selected pixels.
    pub excess_px2: f64,
    /// Greatest distance between outline and pixels.
    pub deviation_px: f64,
    /// Corners.
    pub points: usize,
    /// Convex pieces.
    pub pieces: usize,
}

impl WorstFits {
    /// As many as asked for, of all shapes of fitted actors that are measured.
    pub fn new(fitted: &[(&ActorFile, &Outcome)], most: usize) -> WorstFits {
        let mut worst: Vec<(&ActorFile, &FrameFits, &ShapeFits, QualityFits)> = Vec::new();
        for (actor, outcome) in fitted {
            for frame in &outcome.fits.frames {
                worst.extend(frame.shapes.iter().filter_map(|shape| Some((*actor, frame, shape, shape.quality?))));
            }
        }
        worst.sort_by(|(.., a), (.., b)| a.iou.total_cmp(&b.iou).then(b.deviation.total_cmp(&a.deviation)));
        worst.truncate(most);
        let worst = worst.into_iter().map(|(actor, frame, shape, quality)| WorstFit {
            actor: actor.name.clone(),
            animation: frame.animation.clone(),
            frame: frame.frame,
            shape: shape.name.clone(),
            kind: shape.kind.clone(),
            iou: quality.iou,
            covered: quality.covered,
            excess_px2: quality.excess,
            deviation_px: quality.deviation,
            points: quality.points,
            pieces: actor.pieces(shape).len(),
        });
        let worst = worst.collect();
        WorstFits { schema: WORST_FITS_SCHEMA.to_string(), worst }
    }
}
