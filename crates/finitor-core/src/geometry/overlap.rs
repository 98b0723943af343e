//! How deep two convex pieces overlap, and which way out is the shortest.

use super::{Convex, Point, Polygon, TOUCH, Vec2, rects_overlap, ring_area};

/// How two overlapping shapes come apart.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Overlap {
    /// Length in px of the shortest translation that ends the overlap, above 0.
    pub depth: f64,
    /// Unit vector: moving the first shape by `depth` along it ends the overlap.
    pub push: Vec2,
}

/// How far the pieces overlap along one edge normal, as a function of time: `base + rate * t`.
#[derive(Clone, Copy, Debug)]
pub(super) struct Reach {
    /// Overlap in px at time 0; at or below 0 the normal separates the pieces.
    pub(super) base: f64,
    /// Change in px per unit of time.
    pub(super) rate: f64,
    /// The way in which the first piece would leave.
    pub(super) push: Vec2,
}

impl Reach {
    pub(super) fn at(&self, time: f64) -> f64 {
        self.base + self.rate * time
    }
}

/// The reach along every edge normal of both pieces; `offset` moves the first piece, `velocity` is its motion
/// relative to the second.
///
/// The edges of the Minkowski difference of two convex polygons carry exactly these normals, so the least reach over
/// all of them is the depth of the overlap, with no approximation.
pub(super) fn reaches<'a>(
    first: &'a Convex,
    offset: Vec2,
    velocity: Vec2,
    second: &'a Convex,
) -> impl Iterator<Item = Reach> + 'a {
    let own = own_reaches(first, offset, velocity, second);
    let others = second.normals().iter().zip(second.points()).map(move |(normal, on_edge)| {
        let face = on_edge.to_vec2().dot(*normal);
        let nearest = first.lowest(*normal) + offset.dot(*normal);
        Reach { base: face - nearest, rate: 0.0 - velocity.dot(*normal), push: *normal }
    });
    own.chain(others)
}

/// The same along those of the first alone.
fn own_reaches<'a>(
    first: &'a Convex,
    offset: Vec2,
    velocity: Vec2,
    second: &'a Convex,
) -> impl Iterator<Item = Reach> + 'a {
    first.normals().iter().zip(first.points()).map(move |(normal, on_edge)| {
        let face = (on_edge.to_vec2() + offset).dot(*normal);
        let nearest = second.lowest(*normal);
        Reach { base: face - nearest, rate: velocity.dot(*normal), push: Vec2::ZERO - *normal }
    })
}

/// The overlap of two convex pieces, the first moved by `offset`; `None` when they are apart or only touch.
///
/// # Complexity
/// O(n m), n and m points.
///
/// # Source
/// Separating axes: Stefan Gottschalk, Ming C. Lin and Dinesh Manocha, "OBBTree", SIGGRAPH 1996, for polygons.
pub fn overlap(first: &Convex, offset: Vec2, second: &Convex) -> Option<Overlap> {
    // Of two boxes both have the same normals.
    let least = if first.is_box() && second.is_box() {
        least_of(own_reaches(first, offset, Vec2::ZERO, second))
    } else {
        least_of(reaches(first, offset, Vec2::ZERO, second))
    };
    least.map(|reach| Overlap { depth: reach.base, push: reach.push })
}

/// The least reach, the first of equals; `None` where one parts the pieces.
fn least_of(reaches: impl Iterator<Item = Reach>) -> Option<Reach> {
    let mut least: Option<Reach> = None;
    for reach in reaches {
        if reach.base <= TOUCH {
            return None;
        }
        if least.is_none_or(|l| reach.base < l.base) {
            least = Some(reach);
        }
    }
    least
}

/// Whether two convex pieces overlap, touch or, along all edge normals, come within `within` px; the first moved by `offset`.
///
/// # Complexity
/// O(n m), n and m points; by separating axes, as [`overlap`].
pub fn near(first: &Convex, offset: Vec2, second: &Convex, within: f64) -> bool {
    reaches(first, offset, Vec2::ZERO, second).all(|reach| reach.base >= -within)
}

/// How far two convex pieces are apart along the edge normal that parts them most, 0 where none does, and the way in which the first
/// must move to close that; no more than their distance.
pub(crate) fn separation(first: &Convex, second: &Convex) -> (f64, Vec2) {
    let least = reaches(first, Vec2::ZERO, Vec2::ZERO, second).min_by(|a, b| a.base.total_cmp(&b.base));
    least.map_or((0.0, Vec2::ZERO), |reach| ((0.0 - reach.base).max(0.0), Vec2::ZERO - reach.push))
}

/// The deepest of the overlaps of two sets of pieces.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Deepest {
    /// That of the pair.
    pub overlap: Overlap,
    /// Which piece of the first set.
    pub own: usize,
    /// Which piece of the second.
    pub other: usize,
}

/// The deepest overlap over all pairs of pieces; the first of equals.
pub fn deepest_overlap(first: &[Convex], offset: Vec2, second: &[Convex]) -> Option<Deepest> {
    let mut deepest: Option<Deepest> = None;
    for (own, a) in first.iter().enumerate() {
        for (other, b) in second.iter().enumerate() {
            if !super::rects_overlap(a.bounds() + offset, b.bounds()) {
                continue;
            }
            if let Some(found) = overlap(a, offset, b)
                && deepest.is_none_or(|best| found.depth > best.overlap.depth)
            {
                deepest = Some(Deepest { overlap: found, own, other });
            }
        }
    }
    deepest
}

/// The depth of the deepest overlap over all pairs of pieces, px; 0 where none overlap.
pub(crate) fn overlap_depth(first: &[Convex], offset: Vec2, second: &[Convex]) -> f64 {
    deepest_overlap(first, offset, second).map_or(0.0, |found| found.overlap.depth)
}

/// The area two convex pieces share, and its middle; `None` when they share none.
///
/// # Complexity
/// O(n m), n and m points.
///
/// # Source
/// Ivan E. Sutherland and Gary W. Hodgman, "Reentrant polygon clipping", Communications of the ACM 17 (1974).
pub fn overlap_region(first: &Convex, offset: Vec2, second: &Convex) -> Option<(f64, Point)> {
    let mut ring: Vec<Point> = first.points().iter().map(|p| *p + offset).collect();
    for (normal, on_edge) in second.normals().iter().zip(second.points()) {
        let limit = on_edge.to_vec2().dot(*normal);
        ring = clipped(&ring, *normal, limit);
    }
    let area = ring_area(&ring);
    (area > 0.0).then(|| (area, centroid(&ring, area)))
}

/// The area that two sets of convex pieces share, px2; pieces of one set must not overlap.
///
/// # Complexity
/// O(p q n m), p and q pieces of n and m corners.
pub fn shared_area(one: &[Convex], other: &[Convex]) -> f64 {
    let pairs = one.iter().flat_map(|a| other.iter().map(move |b| (a, b)));
    pairs.filter_map(|(a, b)| overlap_region(a, Vec2::ZERO, b)).map(|(area, _)| area).sum()
}

/// What two sets of convex pieces share.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct SharedRegion {
    /// Its area, px2.
    pub(crate) area: f64,
    /// Its middle, in the second's own space.
    pub(crate) middle: Point,
}

/// What two sets of convex pieces share, the first moved by an offset; `None` where that is nothing. Pieces of one set must not
/// overlap.
pub(crate) fn shared_region(one: &[Convex], offset: Vec2, other: &[Convex]) -> Option<SharedRegion> {
    let (mut area, mut moment) = (0.0, Vec2::ZERO);
    for a in one {
        for b in other.iter().filter(|b| rects_overlap(a.bounds() + offset, b.bounds())) {
            if let Some((own, middle)) = overlap_region(a, offset, b) {
                area += own;
                moment += middle.to_vec2() * own;
            }
        }
    }
    (area > 0.0).then(|| SharedRegion { area, middle: (moment / area).to_point() })
}

/// The part of a convex ring where `p . normal <= limit`.
pub(crate) fn clipped(ring: &[Point], normal: Vec2, limit: f64) -> Vec<Point> {
    let mut kept = Vec::with_capacity(ring.len() + 1);
    for (i, &from) in ring.iter().enumerate() {
        let to = ring[(i + 1) % ring.len()];
        let (a, b) = (from.to_vec2().dot(normal) - limit, to.to_vec2().dot(normal) - limit);
        if a <= 0.0 {
            kept.push(from);
        }
        if (a < 0.0 && b > 0.0) || (a > 0.0 && b < 0.0) {
            kept.push(from.lerp(to, a / (a - b)));
        }
    }
    kept
}

fn centroid(ring: &[Point], area: f64) -> Point {
    let origin = ring[0];
    let mut moment = Vec2::ZERO;
    for pair in ring.windows(2) {
        let (a, b) = (pair[0] - origin, pair[1] - origin);
        moment += (a + b) * a.cross(b);
    }
    origin + moment / (6.0 * area)
}

impl Polygon {
    /// Convex pieces that tile the polygon; see [`super::convex_pieces`].
    pub fn pieces(&self) -> Vec<Convex> {
        super::convex_pieces(self)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Rect;

    fn boxed(x0: f64, y0: f64, x1: f64, y1: f64) -> Convex {
        Convex::new(&Polygon::from_rect(Rect::new(x0, y0, x1, y1)).unwrap()).unwrap()
    }

    #[test]
    fn depth_is_the_shortest_way_out_and_a_touch_is_none() {
        let (hero, wall) = (boxed(0.0, 0.0, 10.0, 20.0), boxed(7.0, -50.0, 30.0, 50.0));
        let found = overlap(&hero, Vec2::ZERO, &wall).unwrap();
        assert_eq!((found.depth, found.push), (3.0, Vec2::new(-1.0, 0.0)));
        assert_eq!(overlap(&hero, Vec2::new(-3.0, 0.0), &wall), None);
        assert_eq!(overlap(&hero, Vec2::new(-3.0 - 1e-10, 0.0), &wall), None);
        let (area, middle) = overlap_region(&hero, Vec2::ZERO, &wall).unwrap();
        assert_eq!((area, middle), (60.0, Point::new(8.5, 10.0)));
        let corner = overlap(&hero, Vec2::new(-10.0, 30.0), &boxed(0.0, 0.0, 5.0, 30.0));
        assert_eq!(corner, None, "a shared corner is a touch");
    }

    #[test]
    fn inside_out_and_order_of_the_pair_do_not_matter() {
        let (small, big) = (boxed(4.0, 4.0, 6.0, 6.0), boxed(0.0, 0.0, 20.0, 9.0));
        let one = overlap(&small, Vec2::ZERO, &big).unwrap();
        let other = overlap(&big, Vec2::ZERO, &small).unwrap();
        assert_eq!((one.depth, other.depth), (5.0, 5.0));
        assert_eq!(one.push, Vec2::ZERO - other.push);
    }
}
