//! Level floor under the feet, over the joints of outlines that are flush.

use super::step::Step;
use crate::geometry::{Point, Rect, Stretch, TOUCH};
use crate::stage::{Edge, Outline};

/// How far the lowest opaque row is off the ground, px, and where.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Off {
    pub(crate) by: f64,
    pub(crate) at: Point,
}

/// Level floor near a body, put together where outlines are flush.
#[derive(Debug, Default)]
pub(super) struct LevelRuns(Vec<LevelRun>);

/// A level upper edge.
#[derive(Clone, Copy, Debug)]
struct LevelRun {
    y: f64,
    left: f64,
    right: f64,
}

impl LevelRuns {
    /// Adds the level upper edges of an outline between a body's top and its foot, unless the body itself is in it.
    pub(super) fn add(&mut self, outline: &Outline, body: Rect, foot_y: f64, is_in: impl Fn() -> bool) {
        let is_between = |y: f64| y > body.y0 && y < foot_y - TOUCH;
        let is_level = |edge: &&Edge| edge.from.y == edge.to.y && is_between(edge.from.y);
        let mut level = outline.tops.iter().filter(is_level).peekable();
        // Few have any, and only then is it asked.
        if level.peek().is_some() && !is_in() {
            self.0.extend(level.map(|edge| LevelRun { y: edge.from.y, left: edge.from.x, right: edge.to.x }));
        }
    }

    /// How deep the foot lies under the highest level that is under all of one of its runs; 0 where under none.
    pub(super) fn sunk(&self, step: &Step<'_>) -> Off {
        let mut sunk = Off { by: 0.0, at: Point::ZERO };
        let (Some(foot), false) = (step.foot(), self.0.is_empty()) else { return sunk };
        let at = step.now().at;
        let under = |&(left, right): &(f64, f64)| self.under(Stretch { left: left + at.x, right: right + at.x });
        for surface in foot.runs.iter().filter_map(under) {
            let deep = foot.y + at.y - surface.y;
            if deep > sunk.by && deep > TOUCH {
                sunk = Off { by: deep, at: surface };
            }
        }
        sunk
    }

    /// The highest level that lies under all of a stretch.
    fn under(&self, stretch: Stretch) -> Option<Point> {
        let mut best: Option<f64> = None;
        for run in self.0.iter().filter(|run| run.left <= stretch.left && stretch.left <= run.right) {
            // From run to run, as far as they are flush.
            let mut reached = run.right;
            while reached < stretch.right {
                let flush = |next: &&LevelRun| next.y == run.y && next.left <= reached + TOUCH && next.right > reached;
                let Some(next) = self.0.iter().find(flush) else { break };
                reached = next.right;
            }
            if reached >= stretch.right && best.is_none_or(|known| run.y < known) {
                best = Some(run.y);
            }
        }
        best.map(|y| Point::new(f64::midpoint(stretch.left, stretch.right), y))
    }
}
