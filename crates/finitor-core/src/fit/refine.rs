//! Corners moved off the lattice.

use super::chain::{Boundary, Bounds};
use super::ring::{Corner, Ring};

/// The outline with corners moved, and dropped where the others can be moved to make up for it. Every edge stays within
/// the bounds of its part of the boundary, and so does every corner of its anchor.
///
/// A point of an edge is within the tolerance of the boundary: either the part that the edge stands for passes it at
/// right angles, or it lies between a corner and the nearest point of the edge to that corner's anchor.
///
/// Edges are thought of as the lines that fit their parts of the boundary best, and corners as crossings of those.
///
/// # Complexity
/// O(corners of the boundary), each looked at in some tens of candidates.
///
/// # Source
/// Corners at the crossings of best lines: Peter Selinger, "Potrace: a polygon-based tracing algorithm" (2003).
pub(super) fn refined(boundary: &Boundary, kept: &[usize], bounds: Bounds) -> Option<Vec<Corner>> {
    let mut ring = Ring::new(boundary, kept, bounds)?;
    ring.drop_corners();
    for _ in 0..SWEEPS {
        ring.move_corners();
    }
    Some(ring.corners())
}

/// Rounds of moving; a third one changes next to nothing.
pub(super) const SWEEPS: usize = 2;
