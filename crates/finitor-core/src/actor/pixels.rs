//! The opaque pixels of a frame as values that areas and distances are measured on.

use crate::art::Run;
use crate::geometry::{Point, Rect, Vec2, rects_overlap};

/// A frame's opaque pixels, local space: a box a run.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct PixelRuns {
    runs: Vec<Rect>,
    bounds: Rect,
}

/// What lies between two parallel lines, by its ends across them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Band {
    pub(crate) low: f64,
    pub(crate) high: f64,
}

impl PixelRuns {
    /// The opaque pixels of a frame from their runs, row by row.
    pub fn new(runs: &[Run], pivot: Point) -> PixelRuns {
        let rect = |run: &Run| {
            let (row, start, end) = (f64::from(run.row), f64::from(run.start), f64::from(run.end));
            Rect::new(start, row, end, row + 1.0) - pivot.to_vec2()
        };
        PixelRuns::of(runs.iter().map(rect).collect())
    }

    fn of(runs: Vec<Rect>) -> PixelRuns {
        let bounds = runs.iter().copied().reduce(|a, b| a.union(b)).unwrap_or(Rect::ZERO);
        PixelRuns { runs, bounds }
    }

    /// The runs, each a px high.
    pub fn runs(&self) -> &[Rect] {
        &self.runs
    }

    /// The smallest rectangle around them.
    pub fn bounds(&self) -> Rect {
        self.bounds
    }

    /// Those of art that is flipped and so moved by `drift` px against the pivot.
    pub(super) fn flipped(&self, drift: f64) -> PixelRuns {
        PixelRuns::of(self.runs.iter().map(|run| Rect::new(drift - run.x1, run.y0, drift - run.x0, run.y1)).collect())
    }

    /// Those whose middle is wanted, and the others.
    #[must_use]
    pub(crate) fn parted(&self, mut wanted: impl FnMut(Point) -> bool) -> [PixelRuns; 2] {
        let mut parts: [Vec<Rect>; 2] = [Vec::new(), Vec::new()];
        for run in &self.runs {
            let mut last = None;
            for pixel in 0..run.width() as u32 {
                let left = run.x0 + f64::from(pixel);
                let part = usize::from(!wanted(Point::new(left + 0.5, run.y0 + 0.5)));
                match (last == Some(part)).then(|| parts[part].last_mut()).flatten() {
                    Some(known) => known.x1 = left + 1.0,
                    None => parts[part].push(Rect::new(left, run.y0, left + 1.0, run.y1)),
                }
                last = Some(part);
            }
        }
        parts.map(PixelRuns::of)
    }

    /// The area that these, moved by `offset`, and others share, and its middle in the space of the others.
    ///
    /// # Complexity
    /// O(n log m + k), n and m runs, k pairs in the same rows.
    pub(crate) fn shared(&self, offset: Vec2, other: &PixelRuns) -> Option<(f64, Point)> {
        if self.runs.is_empty() || !rects_overlap(self.bounds + offset, other.bounds) {
            return None;
        }
        let (mut area, mut moment) = (0.0, Vec2::ZERO);
        for run in self.runs.iter().map(|run| *run + offset) {
            let first = other.runs.partition_point(|known| known.y1 <= run.y0);
            for theirs in other.runs[first..].iter().take_while(|known| known.y0 < run.y1) {
                let both = run.intersect(*theirs);
                let own = both.area();
                area += own;
                moment += both.center().to_vec2() * own;
            }
        }
        (area > 0.0).then(|| (area, (moment / area).to_point()))
    }

    /// How far these, moved by `offset`, are from others, px; `None` where there are none.
    ///
    /// # Complexity
    /// O(n m), n and m runs.
    pub(crate) fn gap(&self, offset: Vec2, other: &PixelRuns) -> Option<f64> {
        let pairs = self.runs.iter().flat_map(|own| other.runs.iter().map(move |theirs| (*own + offset, *theirs)));
        let apart = pairs.map(|(a, b)| {
            let across = (b.x0 - a.x1).max(a.x0 - b.x1).max(0.0);
            let upright = (b.y0 - a.y1).max(a.y0 - b.y1).max(0.0);
            across.hypot(upright)
        });
        apart.min_by(f64::total_cmp)
    }

    /// How far they reach along a direction, those of them that lie within a band along (-y, x) of it.
    pub(crate) fn reach(&self, way: Vec2, band: Band) -> Option<f64> {
        let across = Vec2::new(0.0 - way.y, way.x);
        let extent = |run: &Rect, axis: Vec2| {
            let corners = [(run.x0, run.y0), (run.x1, run.y0), (run.x1, run.y1), (run.x0, run.y1)];
            let along = corners.map(|(x, y)| Vec2::new(x, y).dot(axis));
            (along.into_iter().fold(f64::INFINITY, f64::min), along.into_iter().fold(f64::NEG_INFINITY, f64::max))
        };
        let within = self.runs.iter().filter(|run| {
            let (first, last) = extent(run, across);
            first < band.high && band.low < last
        });
        within.map(|run| extent(run, way).1).max_by(f64::total_cmp)
    }
}
