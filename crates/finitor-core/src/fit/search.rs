//! Pattern search: a shape's numbers moved as long as it gets better.

use super::arcs::HalfCircles;
use super::row_sums::RowSums;
use crate::geometry::Point;

/// Places and radii of round shapes are found to this, px.
pub(super) const PRECISION: f64 = 1.0 / 16.0;

/// How far numbers are moved, px.
#[derive(Clone, Copy, Debug)]
pub(super) struct Steps {
    /// At first; half as far whenever no move helps.
    pub(super) first: f64,
    /// At last, at least.
    pub(super) last: f64,
}

/// The numbers with the highest score found from any of the starts: each move is tried forward and backward, in steps that halve
/// whenever none helps. The first of equals. The score is asked of numbers and of what they have to beat; where they cannot, it may be
/// any value up to that.
///
/// # Complexity
/// Some hundred scores a start, for steps from 4 px to 1/16. No place is asked for twice in a row: a step is halved once all moves from a
/// place have failed, and a move that helped is not taken back at once.
///
/// # Source
/// Robert Hooke and T. A. Jeeves, "Direct search solution of numerical and statistical problems", Journal of the ACM 8
/// (1961).
pub(super) fn climbed<const N: usize>(
    starts: &[[f64; N]],
    moves: &[[f64; N]],
    steps: Steps,
    mut score: impl FnMut([f64; N], f64) -> f64,
) -> [f64; N] {
    let mut best: Option<([f64; N], f64)> = None;
    for &start in starts {
        let mut here = (start, score(start, f64::NEG_INFINITY));
        let mut step = steps.first;
        let mut failed = 0;
        // Each move forward, then backward.
        let mut next = 0;
        while step >= steps.last {
            let is_forward = next % 2 == 0;
            let by = if is_forward { step } else { -step };
            let mut moved = here.0;
            moved.iter_mut().zip(&moves[next / 2]).for_each(|(value, change)| *value += by * change);
            let value = score(moved, here.1);
            failed += 1;
            next += 1;
            if value > here.1 {
                here = (moved, value);
                // Backward after forward leads to where this came from: that fails untried.
                failed = usize::from(is_forward);
                next += usize::from(is_forward);
            }
            next %= 2 * moves.len();
            if failed == 2 * moves.len() {
                (step, failed, next) = (step / 2.0, 0, 0);
            }
        }
        if best.is_none_or(|(_, known)| here.1 > known) {
            best = Some(here);
        }
    }
    best.map_or([0.0; N], |(numbers, _)| numbers)
}

/// A family of round shapes by its numbers, and the pixels that one of them is to agree with best.
pub(super) struct RoundFamily<'s, const N: usize, Drawn> {
    sums: &'s RowSums,
    moves: &'s [[f64; N]],
    drawn: Drawn,
}

impl<'s, const N: usize, Drawn> RoundFamily<'s, N, Drawn>
where
    Drawn: Fn(&mut HalfCircles, [f64; N]) -> Option<&[Point]>,
{
    /// A family by the rings that it draws (`None` where some numbers have none) and how numbers may change, in steps.
    pub(super) fn new(sums: &'s RowSums, moves: &'s [[f64; N]], drawn: Drawn) -> Self {
        RoundFamily { sums, moves, drawn }
    }

    /// IoU of the shape of some numbers, 0 where there is none.
    pub(super) fn iou(&self, numbers: [f64; N]) -> f64 {
        (self.drawn)(&mut HalfCircles::default(), numbers).map_or(0.0, |ring| self.sums.iou(ring))
    }

    /// The numbers within a pixel of those that agree best, of what is found from the starts: the best within two pixels goes on.
    ///
    /// # Complexity
    /// Some fifty measurements a start, by [`RowSums::rough_iou`].
    pub(super) fn near_best(&self, starts: &[[f64; N]]) -> [f64; N] {
        let mut halves = HalfCircles::default();
        let mut score = |numbers: [f64; N], _: f64| {
            (self.drawn)(&mut halves, numbers).map_or(0.0, |ring| self.sums.rough_iou(ring))
        };
        let far = climbed(starts, self.moves, Steps { first: 4.0, last: 2.0 }, &mut score);
        climbed(&[far], self.moves, Steps { first: 1.0, last: 1.0 }, score)
    }

    /// Those that agree best of what is found from there, to [`PRECISION`].
    ///
    /// # Complexity
    /// Some fifty measurements, by [`RowSums::iou`].
    pub(super) fn best_near(&self, start: [f64; N]) -> [f64; N] {
        let mut halves = HalfCircles::default();
        climbed(&[start], self.moves, Steps { first: 0.5, last: PRECISION }, |numbers, _| {
            (self.drawn)(&mut halves, numbers).map_or(0.0, |ring| self.sums.iou(ring))
        })
    }
}
