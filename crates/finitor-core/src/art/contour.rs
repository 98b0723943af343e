//! The boundary of a mask, along pixel edges.

use super::Mask;
use crate::geometry::{Point, Polygon, PolygonError};

/// A corner of the pixel lattice, cell space.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct LatticePoint {
    /// Columns from the left.
    pub x: i32,
    /// Rows from the top.
    pub y: i32,
}

impl From<LatticePoint> for Point {
    fn from(p: LatticePoint) -> Point {
        Point::new(p.x.into(), p.y.into())
    }
}

/// One closed curve of a boundary, as its corners. The mask lies to its right: round an island it runs clockwise on
/// screen, round a hole anticlockwise.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LatticeRing {
    corners: Vec<LatticePoint>,
}

impl LatticeRing {
    /// The corners in order; every second edge is horizontal.
    pub fn corners(&self) -> &[LatticePoint] {
        &self.corners
    }

    /// The corners as points.
    pub fn points(&self) -> Vec<Point> {
        self.corners.iter().map(|&corner| corner.into()).collect()
    }

    /// Area in px2, negative for a hole.
    pub fn area(&self) -> i64 {
        let n = self.corners.len();
        let twice: i64 = (0..n)
            .map(|i| {
                let (a, b) = (self.corners[i], self.corners[(i + 1) % n]);
                i64::from(a.x) * i64::from(b.y) - i64::from(b.x) * i64::from(a.y)
            })
            .sum();
        twice / 2
    }

    /// The ring as a polygon.
    ///
    /// # Errors
    /// [`PolygonError`] when the ring touches itself, which those of a [filled](Mask::filled) mask never do.
    pub fn polygon(&self) -> Result<Polygon, PolygonError> {
        Polygon::new(self.points())
    }
}

/// Ways along pixel edges, clockwise.
const WAYS: [(i32, i32); 4] = [(1, 0), (0, 1), (-1, 0), (0, -1)];

/// The exact boundary of the mask: one ring an island and one a hole, in the order of their topmost, then leftmost
/// edge. Pixels that touch only at a corner are apart: the curve keeps to the pixel it runs along.
///
/// # Complexity
/// O(pixels).
pub fn contours(mask: &Mask) -> Vec<LatticeRing> {
    let (width, height) = (mask.width() as usize, mask.height() as usize);
    // Edges that run to the right have a set pixel below and an unset one above; each ring has one at least.
    let mut traced = vec![false; width * height];
    let mut rings = Vec::new();
    for y in 0..height {
        for x in 0..width {
            let starts = mask.get(x as i64, y as i64) && !mask.get(x as i64, y as i64 - 1);
            if starts && !traced[y * width + x] {
                rings.push(trace(mask, LatticePoint { x: x as i32, y: y as i32 }, &mut traced));
            }
        }
    }
    rings
}

fn trace(mask: &Mask, start: LatticePoint, traced: &mut [bool]) -> LatticeRing {
    let mut corners = Vec::new();
    let (mut at, mut way) = (start, 0);
    loop {
        if way == 0 {
            traced[at.y as usize * mask.width() as usize + at.x as usize] = true;
        }
        let (dx, dy) = WAYS[way];
        at = LatticePoint { x: at.x + dx, y: at.y + dy };
        let turned = next_way(mask, at, way);
        if turned != way {
            corners.push(at);
        }
        way = turned;
        if at == start && way == 0 {
            break;
        }
    }
    // The start is a corner only if the ring turned there.
    let start_turns = corners.last() == Some(&start);
    corners.rotate_right(usize::from(start_turns));
    LatticeRing { corners }
}

/// The way on from a lattice point reached by going `way`.
fn next_way(mask: &Mask, at: LatticePoint, way: usize) -> usize {
    // The two pixels ahead, to the left and to the right of the way.
    let (dx, dy) = WAYS[way];
    let ahead = |side: i32| {
        // Doubled coordinates of the pixel's middle relative to the lattice point: way plus or minus its normal.
        let (nx, ny) = (-dy * side, dx * side);
        let (mx, my) = (dx + nx, dy + ny);
        mask.get(i64::from(at.x) + i64::from((mx - 1) / 2), i64::from(at.y) + i64::from((my - 1) / 2))
    };
    let (left, right) = (ahead(-1), ahead(1));
    if !right {
        // Also where the left pixel is set: it touches the current one only at this corner, so it is apart.
        (way + 1) % 4
    } else if left {
        (way + 3) % 4
    } else {
        way
    }
}
