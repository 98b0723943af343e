//! Which corners of a ring see each other.

use super::ears::Clipper;
use crate::geometry::{Point, on_segment, turn};

/// Pairs of corners, as bits.
pub(super) struct Pairs {
    words: usize,
    bits: Vec<u64>,
}

impl Pairs {
    fn new(corners: usize) -> Pairs {
        let words = corners.div_ceil(64);
        Pairs { words, bits: vec![0; words * corners] }
    }

    fn set(&mut self, one: usize, other: usize) {
        self.bits[one * self.words + other / 64] |= 1 << (other % 64);
        self.bits[other * self.words + one / 64] |= 1 << (one % 64);
    }

    fn clear(&mut self, one: usize, other: usize) {
        self.bits[one * self.words + other / 64] &= !(1 << (other % 64));
        self.bits[other * self.words + one / 64] &= !(1 << (one % 64));
    }

    /// The corners after one that it is paired with, ascending.
    pub(super) fn after(&self, corner: usize) -> impl Iterator<Item = usize> {
        let row = &self.bits[corner * self.words..(corner + 1) * self.words];
        (corner / 64..self.words).flat_map(move |word| {
            let passed = if word == corner / 64 { u64::MAX >> (63 - corner % 64) } else { 0 };
            let mut left = row[word] & !passed;
            std::iter::from_fn(move || {
                let bit = left.trailing_zeros() as usize;
                left &= left.wrapping_sub(1);
                (bit < 64).then_some(word * 64 + bit)
            })
        })
    }
}

/// The pairs of corners that see each other, one of them reflex: the way between them touches the ring at its ends alone; and those
/// that an edge joins. The ring is cut into triangles, and from each reflex corner the view is led on through their sides, ever narrower. `None` where the ring is not
/// simple.
///
/// # Complexity
/// O(r v) turns for r reflex corners that see v triangles each, wholly or in part; and cutting off ears.
///
/// # Source
/// Francisc Bungiu, Michael Hemmer, John Hershberger, Kan Huang and Alexander Kroller, "Efficient computation of visibility polygons",
/// EuroCG 2014.
pub(super) fn seen(points: &[Point], reflex: &[bool]) -> Option<Pairs> {
    let net = Net::new(points)?;
    let mut pairs = Pairs::new(points.len());
    for triangle in &net.triangles {
        for side in 0..3 {
            let (one, other) = (triangle[side], triangle[(side + 1) % 3]);
            if reflex[one] || reflex[other] {
                pairs.set(one, other);
            }
        }
    }
    // In a flat triangle the corner between two others is in their way.
    for &[a, b, c] in net.triangles.iter().filter(|[a, b, c]| turn(points[*a], points[*b], points[*c]) == 0.0) {
        for [one, other, between] in [[a, b, c], [b, c, a], [c, a, b]] {
            if on_segment(points[between], points[one], points[other]) {
                pairs.clear(one, other);
            }
        }
    }
    let mut views = Vec::new();
    for (triangle, corners) in net.triangles.iter().enumerate() {
        for (place, &corner) in corners.iter().enumerate().filter(|(_, corner)| reflex[**corner]) {
            let [left, right] = [corners[(place + 1) % 3], corners[(place + 2) % 3]];
            views.push(View { side: 3 * triangle + (place + 1) % 3, left, right });
            while let Some(view) = views.pop() {
                net.look(points[corner], view, &mut views).inspect(|goal| pairs.set(corner, *goal));
            }
        }
    }
    (0..points.len()).for_each(|corner| pairs.set(corner, (corner + 1) % points.len()));
    Some(pairs)
}

/// What a corner sees through a side of a triangle.
#[derive(Clone, Copy)]
struct View {
    /// Three times the triangle on this side of it, and its place there.
    side: usize,
    /// Corners in whose directions the view ends.
    left: usize,
    right: usize,
}

/// Triangles and what lies beyond their sides.
struct Net<'p> {
    points: &'p [Point],
    triangles: Vec<[usize; 3]>,
    /// By side: the side of the triangle beyond; [`OUTSIDE`] at the ring.
    beyond: Vec<usize>,
}

const OUTSIDE: usize = usize::MAX;

impl<'p> Net<'p> {
    fn new(points: &'p [Point]) -> Option<Net<'p>> {
        let triangles = Clipper::new(points).run();
        if triangles.len() + 2 != points.len() {
            return None;
        }
        let mut beyond = vec![OUTSIDE; 3 * triangles.len()];
        // By corner: the side that the edge from it to the next one left is of.
        let mut open = vec![OUTSIDE; points.len()];
        for (triangle, corners) in triangles.iter().enumerate() {
            let sides = if triangle + 1 == triangles.len() { 3 } else { 2 };
            for side in 0..sides {
                let (here, there) = (3 * triangle + side, open[corners[side]]);
                beyond[here] = there;
                if there != OUTSIDE {
                    beyond[there] = here;
                }
            }
            open[corners[0]] = 3 * triangle + 2;
        }
        Some(Net { points, triangles, beyond })
    }

    /// Leads a view from a place on by one triangle: what of it goes on, and the corner there if it is seen.
    fn look(&self, from: Point, view: View, onward: &mut Vec<View>) -> Option<usize> {
        let View { left, right, .. } = view;
        let beyond = self.beyond[view.side];
        if beyond == OUTSIDE {
            return None;
        }
        let (triangle, place) = (beyond / 3, beyond % 3);
        let corner = self.triangles[triangle][(place + 2) % 3];
        let [far_left, far_right] = [3 * triangle + (place + 1) % 3, 3 * triangle + (place + 2) % 3];
        let is_right_of_left = turn(from, self.points[left], self.points[corner]) > 0.0;
        let is_left_of_right = turn(from, self.points[corner], self.points[right]) > 0.0;
        let is_seen = is_right_of_left && is_left_of_right;
        if is_right_of_left {
            onward.push(View { side: far_left, left, right: if is_seen { corner } else { right } });
        }
        if is_left_of_right {
            onward.push(View { side: far_right, left: if is_seen { corner } else { left }, right });
        }
        is_seen.then_some(corner)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Polygon;
    use crate::art::{Mask, contours};
    use crate::geometry::segments_meet;
    use crate::testing::dice::Dice;

    /// Whether the way between two corners runs inside and meets no edge but at its ends.
    fn sees(ring: &Polygon, from: usize, to: usize) -> bool {
        let points = ring.points();
        let n = points.len();
        let (a, b) = (points[from], points[to]);
        let is_free = |edge: usize| {
            let (c, d) = (edge, (edge + 1) % n);
            let touches = |corner: usize| corner != from && corner != to && on_segment(points[corner], a, b);
            let joins = [c, d].iter().any(|corner| [from, to].contains(corner));
            !touches(c) && !touches(d) && (joins || !segments_meet(a, b, points[c], points[d]))
        };
        let middle = a.midpoint(b);
        (0..n).all(is_free)
            && ring.contains(middle)
            && !(0..n).any(|edge| on_segment(middle, points[edge], points[(edge + 1) % n]))
    }

    #[test]
    fn corners_see_each_other_as_every_pair_tried_against_every_edge_says() {
        let mut dice = Dice::new(11);
        let mut seen_pairs = 0;
        for _ in 0..300 {
            // Discs and rectangles on a grid: corners in line, steps, arms that hide each other.
            let spots: Vec<[i64; 3]> = (0..6).map(|_| [(); 3].map(|()| dice.whole(0, 14) as i64)).collect();
            let mask = Mask::from_fn(15, 15, |x, y| {
                let away = |[cx, cy, _]: &[i64; 3]| [(i64::from(x) - cx).abs(), (i64::from(y) - cy).abs()];
                spots.iter().any(|spot| {
                    let [dx, dy] = away(spot);
                    if spot[2] % 2 == 0 { dx + dy <= spot[2] / 3 } else { dx <= spot[2] / 4 && dy <= spot[0] / 4 }
                })
            });
            for ring in contours(&mask.filled()).iter().filter_map(|ring| ring.polygon().ok()) {
                let points = ring.points();
                let n = points.len();
                let reflex: Vec<bool> =
                    (0..n).map(|i| turn(points[(i + n - 1) % n], points[i], points[(i + 1) % n]) < 0.0).collect();
                let pairs = seen(points, &reflex).expect("a simple ring");
                for from in 0..n {
                    let found: Vec<usize> = pairs.after(from).filter(|to| !is_edge(n, from, *to)).collect();
                    let expected: Vec<usize> = (from + 1..n)
                        .filter(|to| (reflex[from] || reflex[*to]) && !is_edge(n, from, *to) && sees(&ring, from, *to))
                        .collect();
                    assert_eq!(found, expected, "from corner {from} of {points:?}");
                    seen_pairs += found.len();
                }
            }
        }
        assert!(seen_pairs > 5_000, "{seen_pairs}");
    }

    fn is_edge(n: usize, from: usize, to: usize) -> bool {
        to == from + 1 || (from == 0 && to == n - 1)
    }
}
