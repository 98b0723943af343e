//! The boundary of a mask, along pixel edges.

use super::Mask;
use super::patches::Patches;
use crate::geometry::{Point, Polygon, PolygonError};
use std::cell::OnceCell;

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
    /// None for the rings of [`contours`], which never touch themselves.
    pub fn polygon(&self) -> Result<Polygon, PolygonError> {
        Polygon::new(self.points())
    }
}

/// Ways along pixel edges, clockwise.
const WAYS: [(i32, i32); 4] = [(1, 0), (0, 1), (-1, 0), (0, -1)];

/// The exact boundary of the mask: one ring an island and one a hole, in the order of their topmost, then leftmost
/// edge.
///
/// Pixels that touch only at a corner are apart: the curve keeps to the pixel it runs along. Where both belong to one
/// island, joined some other way round, the curve runs on to the other one and so parts the hole between them from what
/// lies outside. So no ring touches itself, but two may touch at a corner.
///
/// # Complexity
/// O(pixels / 64 + length of the boundary).
pub fn contours(mask: &Mask) -> Vec<LatticeRing> {
    Tracer { mask, patches: OnceCell::new(), traced: vec![0; mask.width().div_ceil(64) as usize] }.run()
}

struct Tracer<'m> {
    mask: &'m Mask,
    /// Needed only where pixels touch at a corner.
    patches: OnceCell<Patches>,
    /// By row, as in the mask: pixels whose upper edge is traced.
    traced: Vec<u64>,
}

impl Tracer<'_> {
    fn run(mut self) -> Vec<LatticeRing> {
        let mask = self.mask;
        let stride = self.traced.len();
        self.traced.resize(stride * mask.height() as usize, 0);
        let mut rings = Vec::new();
        for y in 0..mask.height() {
            for index in 0..stride {
                let above = if y > 0 { mask.words(y - 1)[index] } else { 0 };
                // Edges that run to the right have a set pixel below and an unset one above; each ring has one at least.
                let upper = mask.words(y)[index] & !above;
                loop {
                    let open = upper & !self.traced[y as usize * stride + index];
                    if open == 0 {
                        break;
                    }
                    let x = index as u32 * 64 + open.trailing_zeros();
                    rings.push(self.trace(LatticePoint { x: x as i32, y: y as i32 }));
                }
            }
        }
        rings
    }

    fn trace(&mut self, start: LatticePoint) -> LatticeRing {
        let stride = self.mask.width().div_ceil(64) as usize;
        let mut corners = Vec::with_capacity(64);
        let (mut at, mut way) = (start, 0);
        loop {
            if way == 0 {
                self.traced[at.y as usize * stride + at.x as usize / 64] |= 1 << (at.x % 64);
            }
            let (dx, dy) = WAYS[way];
            at = LatticePoint { x: at.x + dx, y: at.y + dy };
            let turned = self.next_way(at, way);
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
    fn next_way(&self, at: LatticePoint, way: usize) -> usize {
        let (left, right) = (ahead(at, way), ahead(at, way + 1));
        let is_set = |pixel: LatticePoint| self.mask.get(pixel.x.into(), pixel.y.into());
        match (is_set(left), is_set(right)) {
            (false, true) => way,
            (true, true) => (way + 3) % 4,
            (false, false) => (way + 1) % 4,
            (true, false) => {
                // The pixel along which the curve came, and one that touches it only at this corner.
                let same = self.patch(left) == self.patch(ahead(at, way + 2));
                if same { (way + 3) % 4 } else { (way + 1) % 4 }
            }
        }
    }

    fn patch(&self, pixel: LatticePoint) -> Option<u32> {
        self.patches.get_or_init(|| Patches::of(self.mask)).at(pixel.x as u32, pixel.y as u32)
    }
}

/// The pixel ahead and to the left of a way from a lattice point, by its upper left corner; that to the right for the next way.
fn ahead(at: LatticePoint, way: usize) -> LatticePoint {
    const LEFT: [(i32, i32); 4] = [(0, -1), (0, 0), (-1, 0), (-1, -1)];
    let (dx, dy) = LEFT[way % 4];
    LatticePoint { x: at.x + dx, y: at.y + dy }
}
