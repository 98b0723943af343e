//! Where on a stage a body has room: the places its pivot may be, passages and what is short in them, where it must stay low, and
//! pockets that it cannot leave.

mod chains;
mod low;
mod passages;
mod pockets;
mod space;
mod stance;
mod strips;
mod ways;

pub use low::{LowStretch, low_stretches};
pub(crate) use passages::{Border, least_room};
pub use passages::{Lie, Passage, Room, passages};
pub use pockets::{Pocket, pockets};
pub use space::{Column, Gap, Space};
pub use stance::{Stance, StanceShape};
pub(crate) use ways::{Seen, Ways};

use crate::geometry::{Convex, Point, convex_hull};

/// The places of a pivot from which the body's piece overlaps the obstacle: their Minkowski difference. Inside is an overlap, the
/// border a touch.
///
/// # Complexity
/// O(n m log(n m)), n and m corners.
pub fn pivots_hit(obstacle: &Convex, body: &Convex) -> Convex {
    let all = obstacle.points().iter().flat_map(|s| body.points().iter().map(|b| Point::new(s.x - b.x, s.y - b.y)));
    let all: Vec<Point> = all.collect();
    Convex::from_clockwise(convex_hull(&all))
}
