//! Pattern search: a shape's numbers moved as long as it gets better.

/// The numbers with the highest score found from any of the starts: each move is tried forward and backward, in steps
/// that halve from 4 px to `precision` whenever none helps. The first of equals. The score is asked of numbers and of what
/// they have to beat; where they cannot, it may be any value up to that.
///
/// # Complexity
/// Some hundred scores a start.
///
/// # Source
/// Robert Hooke and T. A. Jeeves, "Direct search solution of numerical and statistical problems", Journal of the ACM 8
/// (1961).
pub(super) fn climbed<const N: usize>(
    starts: &[[f64; N]],
    moves: &[[f64; N]],
    precision: f64,
    mut score: impl FnMut([f64; N], f64) -> f64,
) -> [f64; N] {
    const FIRST_STEP: f64 = 4.0;
    let mut best: Option<([f64; N], f64)> = None;
    for &start in starts {
        let mut here = (start, score(start, f64::NEG_INFINITY));
        let mut step = FIRST_STEP;
        while step >= precision {
            let before = here.1;
            for change in moves {
                for sign in [step, -step] {
                    let mut moved = here.0;
                    moved.iter_mut().zip(change).for_each(|(value, by)| *value += sign * by);
                    let value = score(moved, here.1);
                    if value > here.1 {
                        here = (moved, value);
                    }
                }
            }
            if here.1 <= before {
                step /= 2.0;
            }
        }
        if best.is_none_or(|(_, known)| here.1 > known) {
            best = Some(here);
        }
    }
    best.map_or([0.0; N], |(numbers, _)| numbers)
}
