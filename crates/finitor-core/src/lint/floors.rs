//! What bodies walk on: floors, and where they go on at another height or on another solid.

use crate::geometry::{Point, TOUCH};
use crate::stage::Stage;
use crate::world::Space;

/// Slits and lips under this are nobody's wish, px.
pub(super) const LEAST_SEAM: f64 = 1.0;

/// Where a floor goes on at another height, or on another solid.
pub(super) struct Joint {
    pub(super) at: Point,
    /// How much higher the one side is than the other, px, from 0 on.
    pub(super) rise: f64,
    /// The lower solid and the higher one, by index; left and right where they are level.
    pub(super) low: usize,
    pub(super) high: usize,
}

/// A stretch of floor.
pub(super) struct Floor {
    pub(super) from: Point,
    pub(super) to: Point,
    /// By index.
    pub(super) solid: usize,
}

/// What lies free over a stage's solids, strip by strip.
pub(super) struct Surfaces {
    space: Space,
    /// Of each piece its solid, by index.
    solids: Vec<usize>,
}

impl Surfaces {
    /// Of all solids of a stage.
    pub(super) fn new(stage: &Stage) -> Surfaces {
        let (pieces, solids) = stage.pieces(|_| true);
        Surfaces { space: Space::new(&pieces, stage.area()), solids }
    }

    /// Where floors go on at another height, or on another solid.
    pub(super) fn joints(&self) -> Vec<Joint> {
        joints(&self.space, &self.solids)
    }

    /// The floors, as long as they are straight and of one solid.
    pub(super) fn floors(&self) -> Vec<Floor> {
        floors(&self.space, &self.solids)
    }
}

impl Joint {
    /// Whether it is between two solids that meet flush, or nearly so.
    pub(super) fn is_seam(&self) -> bool {
        self.low != self.high && self.rise <= LEAST_SEAM
    }
}

fn joints(space: &Space, solids: &[usize]) -> Vec<Joint> {
    let strips: Vec<_> = space.columns().iter().skip(1).step_by(2).collect();
    let mut found = Vec::new();
    for pair in strips.windows(2) {
        for left in &pair[0].gaps {
            for right in &pair[1].gaps {
                let shared = left.bottom[1].min(right.bottom[0]) - left.top[1].max(right.top[0]);
                let (Some(a), Some(b)) = (left.below, right.below) else { continue };
                // A lip and not a seam between pieces: what walks there has room over it.
                if shared <= LEAST_SEAM {
                    continue;
                }
                let rise = left.bottom[1] - right.bottom[0];
                let (a, b) = (solids[a], solids[b]);
                let (low, high) = if rise >= 0.0 { (a, b) } else { (b, a) };
                let at = Point::new(pair[1].x0, left.bottom[1].min(right.bottom[0]));
                found.push(Joint { at, rise: rise.abs(), low, high });
            }
        }
    }
    found
}

/// The floors of the stage, as long as they are straight and of one solid.
fn floors(space: &Space, solids: &[usize]) -> Vec<Floor> {
    let mut all: Vec<Floor> = Vec::new();
    for column in space.columns().iter().skip(1).step_by(2) {
        for gap in column.gaps.iter().filter(|gap| gap.bottom[0] - gap.top[0] + gap.bottom[1] - gap.top[1] > TOUCH) {
            let Some(below) = gap.below else { continue };
            let (from, to) = (Point::new(column.x0, gap.bottom[0]), Point::new(column.x1, gap.bottom[1]));
            let goes_on = |known: &&mut Floor| {
                let way = known.to - known.from;
                known.solid == solids[below]
                    && (known.to - from).hypot() <= TOUCH
                    && way.cross(to - known.from).abs() <= 1e-6 * way.hypot() * (to - known.from).hypot()
            };
            match all.iter_mut().rev().find(goes_on) {
                Some(known) => known.to = to,
                None => all.push(Floor { from, to, solid: solids[below] }),
            }
        }
    }
    all
}
