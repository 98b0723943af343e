//! Where on a stage a body has room: the places its pivot may be, passages and what is short in them, where it must stay low, and
//! pockets that it cannot leave.

mod chains;
mod low;
mod passages;
mod pockets;
mod space;
mod stance;
mod strips;
mod survey;
mod ways;

pub use low::{LowStretch, low_stretches};
pub(crate) use passages::{Border, least_room};
pub use passages::{Passage, PassageKind, Room, passages};
pub use pockets::{Pocket, pockets};
pub use space::{Column, Gap, Space};
pub use stance::{Stance, StanceShape};
pub use survey::{BodyPocket, LowPlace, StageClearance};
pub(crate) use ways::{Seen, Ways};

use crate::geometry::{Convex, Point, convex_hull};

/// The places of a pivot from which the body's piece overlaps the obstacle: their Minkowski difference. Inside is an overlap, the
/// border a touch.
///
/// # Complexity
/// O(n m log(n m)), n and m corners.
pub fn pivots_hit(obstacle: &Convex, body: &Convex) -> Convex {
    difference(obstacle.points(), body.points())
}

/// The Minkowski difference of the convex hulls of points.
fn difference(ones: &[Point], others: &[Point]) -> Convex {
    let all = ones.iter().flat_map(|a| others.iter().map(|b| Point::new(a.x - b.x, a.y - b.y)));
    Convex::from_clockwise(convex_hull(&all.collect::<Vec<Point>>()))
}
