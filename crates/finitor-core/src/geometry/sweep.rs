//! When a convex piece in straight motion meets another, and how deep it gets on the way.

use super::overlap::{Reach, reaches};
use super::{Convex, TOUCH, Vec2};

/// One piece passing through another on a straight way. Times run from 0 (start) to 1 (end).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Sweep {
    /// First time at which the interiors meet.
    pub enter: f64,
    /// Last time at which they do.
    pub exit: f64,
    /// The way in which the first piece would have been stopped: the normal of the side it came in through.
    pub push: Vec2,
    /// The time at which the overlap is deepest.
    pub deepest_time: f64,
    /// The depth then, px.
    pub depth: f64,
}

/// The passage of `first` (moved by `offset`, then along `velocity` for one unit of time, relative to `second`)
/// through `second`; `None` when their interiors never meet on the way.
///
/// Along each edge normal the overlap is a linear function of time, so the times of entry and exit are exact, and
/// the depth is the least of linear functions: concave, with its top found by walking from crossing to crossing.
///
/// # Complexity
/// O(k2) at worst and O(k) as a rule, k edges of both.
///
/// # Source
/// The linear-function form of separating axes over time: David Eberly, "Intersection of convex objects: the method
/// of separating axes" (2001).
pub fn sweep(first: &Convex, offset: Vec2, velocity: Vec2, second: &Convex) -> Option<Sweep> {
    let (enter, exit, push) = times_deeper(first, offset, velocity, second, TOUCH)?;
    // Few get here: only they are worth a list.
    let reaches: Vec<Reach> = reaches(first, offset, velocity, second).collect();
    let (deepest_time, depth) = deepest(&reaches, enter, exit);
    let push = push.unwrap_or_else(|| least(&reaches, enter).push);
    Some(Sweep { enter, exit, push, deepest_time, depth })
}

/// First and last time on a straight way at which one piece is deeper than `than` px in another, and the normal of the side through
/// which it got there, where it did not begin there; `None` when it never is.
///
/// # Complexity
/// O(k2), k edges of both.
pub(crate) fn times_deeper(
    first: &Convex,
    offset: Vec2,
    velocity: Vec2,
    second: &Convex,
    than: f64,
) -> Option<(f64, f64, Option<Vec2>)> {
    let (mut enter, mut exit, mut push) = (0.0_f64, 1.0_f64, None);
    for reach in reaches(first, offset, velocity, second) {
        let above = reach.base - than;
        if reach.rate == 0.0 {
            if above <= 0.0 {
                return None;
            }
        } else if reach.rate > 0.0 {
            let time = -above / reach.rate;
            if time > enter || (push.is_none() && time == enter) {
                (enter, push) = (time, Some(reach.push));
            }
        } else {
            exit = exit.min(-above / reach.rate);
        }
    }
    (enter < exit).then_some((enter, exit, push))
}

/// A depth, px, that a piece on a straight way never goes beyond in another, by each edge normal alone: little where it slides along it
/// or keeps off.
///
/// # Complexity
/// O(k2), k edges of both.
pub(crate) fn depth_at_most(first: &Convex, offset: Vec2, velocity: Vec2, second: &Convex) -> f64 {
    let ends = reaches(first, offset, velocity, second).map(|reach| reach.at(0.0).max(reach.at(1.0)));
    ends.fold(f64::INFINITY, f64::min)
}

fn least(reaches: &[Reach], time: f64) -> Reach {
    let mut best = reaches[0];
    for reach in &reaches[1..] {
        // Among equals the flatter line, so that the walk below sees which way the depth goes on.
        let (a, b) = (reach.at(time), best.at(time));
        if a < b || (a == b && reach.rate.abs() < best.rate.abs()) {
            best = *reach;
        }
    }
    best
}

/// Top of the concave function "least reach" between two times.
fn deepest(reaches: &[Reach], from: f64, to: f64) -> (f64, f64) {
    let (mut low, mut high) = (least(reaches, from), least(reaches, to));
    if low.rate <= 0.0 {
        return (from, low.at(from));
    }
    if high.rate >= 0.0 {
        return (to, high.at(to));
    }
    // Each round cuts with the rising and the falling line found so far; every line is taken up once at most.
    for _ in 0..=reaches.len() {
        let time = (high.base - low.base) / (low.rate - high.rate);
        let found = least(reaches, time);
        let height = found.at(time);
        let settled = height >= low.at(time) - TOUCH;
        if settled || found.rate == 0.0 {
            return (time, height);
        }
        if found.rate > 0.0 {
            low = found;
        } else {
            high = found;
        }
    }
    let time = (high.base - low.base) / (low.rate - high.rate);
    (time, least(reaches, time).at(time))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::{Polygon, Rect};

    fn boxed(x0: f64, y0: f64, x1: f64, y1: f64) -> Convex {
        Convex::new(&Polygon::from_rect(Rect::new(x0, y0, x1, y1)).unwrap()).unwrap()
    }

    #[test]
    fn a_fast_body_passes_a_thin_plank_between_two_ticks() {
        let (body, plank) = (boxed(-5.0, -20.0, 5.0, 0.0), boxed(-40.0, 0.0, 40.0, 4.0));
        let passage = sweep(&body, Vec2::new(0.0, -10.0), Vec2::new(0.0, 40.0), &plank).unwrap();
        assert!((passage.enter - 0.25).abs() < 1e-9 && (passage.exit - 0.85).abs() < 1e-9, "{passage:?}");
        assert_eq!(passage.push, Vec2::new(0.0, -1.0));
        assert!((passage.depth - 12.0).abs() < 1e-9, "half of body and plank together: {passage:?}");
        assert_eq!(sweep(&body, Vec2::new(0.0, -10.0), Vec2::new(0.0, 10.0), &plank), None, "stops at a touch");
        assert_eq!(sweep(&body, Vec2::ZERO, Vec2::new(30.0, 0.0), &plank), None, "slides along");
    }
}
