//! Points, polygons and their exact relations. Conventions as in the [crate page](crate).

mod box_tree;
mod convex;
mod decompose;
mod deviation;
mod distance;
mod edge_grid;
mod extents;
mod overlap;
mod point;
mod polygon;
mod predicates;
mod stretches;
mod sweep;

pub(crate) use box_tree::BoxTree;
pub use convex::{Convex, convex_hull};
pub(crate) use decompose::without_holes;
pub use decompose::{convex_pieces, quick_convex_pieces, with_corners_at_most};
pub(crate) use deviation::squared_distance;
pub use deviation::{DEVIATION_PRECISION, deviation};
pub(crate) use distance::{cut_back, distance};
pub(crate) use edge_grid::{Edge, EdgeGrid};
pub(crate) use extents::{bounds_of_pieces, extent_along};
pub use overlap::{Deepest, Overlap, deepest_overlap, near, overlap, overlap_region, shared_area};
pub(crate) use overlap::{SharedRegion, shared_region};
pub(crate) use overlap::{clipped, overlap_depth, separation};
pub use point::{Point, Rect, TOUCH, Vec2, mirrored_point};
pub(crate) use point::{bounds_of, rects_meet, rects_overlap};
pub use polygon::{Polygon, PolygonError, ring_area};
pub use predicates::{on_segment, segments_cross, segments_meet, turn};
pub(crate) use stretches::{Stretch, add_stretches};
pub use sweep::{Sweep, sweep};
pub(crate) use sweep::{depth_at_most, times_deeper};
