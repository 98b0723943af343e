//! What kinds of tiles fill, taken apart by the sides of a cell.

use crate::geometry::{Convex, Point, Polygon};

/// What a kind of tile fills of its cell.
#[derive(Clone, Debug, PartialEq)]
pub enum TileFill {
    /// Nothing.
    Nothing,
    /// All of it.
    Cell,
    /// Polygons in it, px from the cell's top left, whose interiors do not meet.
    Shape(Vec<Polygon>),
}

/// Where a side of a cell is covered, ascending, px along it.
pub(super) type Covered = Vec<(f64, f64)>;

/// A kind of tile, taken apart.
pub(super) struct Kind {
    pub(super) is_cell: bool,
    /// Whether it fills a part of its cell.
    pub(super) is_part: bool,
    /// Top, right, bottom, left.
    pub(super) sides: [Covered; 4],
    /// Corners on the sides, px along them.
    pub(super) corners: [Vec<f64>; 4],
    /// Edges that lie on no side.
    pub(super) inside: Vec<(Point, Point)>,
    pub(super) pieces: Vec<Convex>,
}

pub(super) const TOP: usize = 0;
pub(super) const RIGHT: usize = 1;
pub(super) const BOTTOM: usize = 2;
pub(super) const LEFT: usize = 3;

impl Kind {
    pub(super) fn new(fill: &TileFill, (width, height): (f64, f64)) -> Kind {
        let mut kind = Kind {
            is_cell: false,
            is_part: false,
            sides: Default::default(),
            corners: Default::default(),
            inside: Vec::new(),
            pieces: Vec::new(),
        };
        match fill {
            TileFill::Nothing => {}
            TileFill::Cell => {
                kind.is_cell = true;
                kind.sides = [vec![(0.0, width)], vec![(0.0, height)], vec![(0.0, width)], vec![(0.0, height)]];
            }
            TileFill::Shape(polygons) => {
                kind.is_part = true;
                for p in polygons.iter().flat_map(Polygon::points) {
                    let on = [(p.y == 0.0, p.x), (p.x == width, p.y), (p.y == height, p.x), (p.x == 0.0, p.y)];
                    for (side, (_, along)) in on.into_iter().enumerate().filter(|(_, (on, _))| *on) {
                        kind.corners[side].push(along);
                    }
                }
                for (a, b) in polygons.iter().flat_map(Polygon::edges) {
                    // Clockwise on screen: the top runs right, the right side down, and so on.
                    if a.y == 0.0 && b.y == 0.0 {
                        kind.sides[TOP].push((a.x, b.x));
                    } else if a.x == width && b.x == width {
                        kind.sides[RIGHT].push((a.y, b.y));
                    } else if a.y == height && b.y == height {
                        kind.sides[BOTTOM].push((b.x, a.x));
                    } else if a.x == 0.0 && b.x == 0.0 {
                        kind.sides[LEFT].push((b.y, a.y));
                    } else {
                        kind.inside.push((a, b));
                    }
                }
                kind.sides.iter_mut().for_each(|side| side.sort_by(|a, b| a.0.total_cmp(&b.0)));
                kind.pieces = polygons.iter().flat_map(Polygon::pieces).collect();
            }
        }
        kind
    }
}

/// The parts of the first that are not in the second, both ascending.
pub(super) fn minus(one: &[(f64, f64)], other: &[(f64, f64)]) -> Covered {
    if one.is_empty() {
        return Vec::new();
    }
    let mut left = Vec::new();
    for &(from, to) in one {
        let mut at = from;
        for &(a, b) in other.iter().filter(|(a, b)| *b > from && *a < to) {
            if a > at {
                left.push((at, a));
            }
            at = at.max(b);
        }
        if at < to {
            left.push((at, to));
        }
    }
    left
}

/// Spans cut at the places inside them.
pub(super) fn cut(spans: Covered, places: [&[f64]; 2]) -> Covered {
    if places.iter().all(|places| places.is_empty()) {
        return spans;
    }
    let mut parts = Vec::new();
    for (from, to) in spans {
        let mut at: Vec<f64> = places.iter().flat_map(|p| p.iter()).copied().filter(|p| *p > from && *p < to).collect();
        at.extend([from, to]);
        at.sort_by(f64::total_cmp);
        at.dedup();
        parts.extend(at.windows(2).map(|pair| (pair[0], pair[1])));
    }
    parts
}

pub(super) fn meet(one: &[(f64, f64)], other: &[(f64, f64)]) -> bool {
    one.iter().any(|(a, b)| other.iter().any(|(c, d)| a.max(*c) < b.min(*d)))
}
