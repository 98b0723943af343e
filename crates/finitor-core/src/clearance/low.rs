//! Floors on which a lower body rests and a taller one has no room.

use super::Stance;
use crate::geometry::{Convex, Point, TOUCH};
use crate::stage::Stage;
use crate::world::Space;

/// A stretch of floor on which an actor must stay as low as it is.
#[derive(Clone, Debug, PartialEq)]
pub struct LowStretch {
    /// The pivot from x to x.
    pub span: (f64, f64),
    /// The pivot's y at both ends.
    pub y: (f64, f64),
    /// The solid that it rests on, by index.
    pub floor: usize,
    /// What is in the way of the taller body, by index, and how deep it would be, at the worst place of those tried: the ends, the
    /// middle, and where the floor bends.
    pub ceiling: usize,
    /// How deep, px.
    pub depth: f64,
}

/// Where the low body rests on a solid and the tall one, with its pivot in the same place, would overlap one; from left to right.
///
/// # Complexity
/// That of [`Space::new`], and O(f a), f floors and a obstacles of the tall body over one x.
pub fn low_stretches(stage: &Stage, low: &Stance, tall: &Stance) -> Vec<LowStretch> {
    let (hit, of) = low.obstacles(stage);
    let space = Space::new(&hit, stage.area());
    let (in_way, in_way_of) = tall.obstacles(stage);
    let mut order: Vec<usize> = (0..in_way.len()).collect();
    order.sort_by(|&a, &b| in_way[a].bounds().x0.total_cmp(&in_way[b].bounds().x0).then(a.cmp(&b)));
    let mut coming = order.into_iter().peekable();
    // Obstacles over the column, and stretches that reach its left.
    let mut over: Vec<usize> = Vec::new();
    let mut found: Vec<LowStretch> = Vec::new();
    let mut open: Vec<usize> = Vec::new();
    for column in space.columns().iter().filter(|column| column.x1 > column.x0) {
        over.retain(|&piece| in_way[piece].bounds().x1 > column.x0);
        while let Some(piece) = coming.next_if(|&piece| in_way[piece].bounds().x0 < column.x1) {
            over.push(piece);
        }
        let mut next_open = Vec::new();
        for gap in &column.gaps {
            let Some(below) = gap.below else { continue };
            let on = |x: f64| {
                let part = (x - column.x0) / (column.x1 - column.x0);
                Point::new(x, gap.bottom[0] + (gap.bottom[1] - gap.bottom[0]) * part)
            };
            let pieces = over.iter().map(|piece| &in_way[*piece]);
            for (from, to) in covered((on(column.x0), on(column.x1)), pieces) {
                let (a, b) = (on(from), on(to));
                let goes_on = |known: &&usize| {
                    let known = &found[**known];
                    known.floor == of[below] && (known.span.1 - from).abs() <= TOUCH && (known.y.1 - a.y).abs() <= TOUCH
                };
                let place = open.iter().find(goes_on).copied().unwrap_or(found.len());
                if place == found.len() {
                    let (floor, span, y) = (of[below], (from, to), (a.y, b.y));
                    found.push(LowStretch { span, y, floor, ceiling: 0, depth: 0.0 });
                }
                let stretch = &mut found[place];
                (stretch.span.1, stretch.y.1) = (to, b.y);
                for (at, piece) in
                    [a, a.midpoint(b), b].into_iter().flat_map(|at| over.iter().map(move |piece| (at, *piece)))
                {
                    // How deep the body would be: the way from inside of the places that are hit to their border.
                    let depth = depth_in(&in_way[piece], at);
                    if depth > stretch.depth {
                        (stretch.depth, stretch.ceiling) = (depth, in_way_of[piece]);
                    }
                }
                next_open.push(place);
            }
        }
        open = next_open;
    }
    found.retain(|stretch| stretch.depth > TOUCH);
    found.sort_by(|a, b| a.span.0.total_cmp(&b.span.0).then(a.y.0.total_cmp(&b.y.0)));
    found
}

/// How far inside of a piece a place lies, px; below 0 outside.
fn depth_in(piece: &Convex, at: Point) -> f64 {
    let edges = piece.normals().iter().zip(piece.points());
    edges.map(|(normal, on_edge)| (*on_edge - at).dot(*normal)).fold(f64::INFINITY, f64::min)
}

/// The parts of a line, by x, that lie inside of any of the pieces.
fn covered<'a>((from, to): (Point, Point), pieces: impl Iterator<Item = &'a Convex>) -> Vec<(f64, f64)> {
    let way = to - from;
    let mut parts: Vec<(f64, f64)> = pieces.filter_map(|piece| inside(piece, from, to)).collect();
    parts.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut joined: Vec<(f64, f64)> = Vec::new();
    for (start, end) in parts {
        match joined.last_mut() {
            Some(last) if start <= last.1 => last.1 = last.1.max(end),
            _ => joined.push((start, end)),
        }
    }
    joined.into_iter().map(|(start, end)| (from.x + way.x * start, from.x + way.x * end)).collect()
}

/// The part of the way between two places that is deeper inside of a piece than a touch.
fn inside(piece: &Convex, from: Point, to: Point) -> Option<(f64, f64)> {
    let (mut start, mut end): (f64, f64) = (0.0, 1.0);
    for (normal, on_edge) in piece.normals().iter().zip(piece.points()) {
        let limit = on_edge.to_vec2().dot(*normal) - TOUCH;
        let (a, b) = (from.to_vec2().dot(*normal) - limit, to.to_vec2().dot(*normal) - limit);
        match (a < 0.0, b < 0.0) {
            (false, false) => return None,
            (true, false) => end = end.min(a / (a - b)),
            (false, true) => start = start.max(a / (a - b)),
            (true, true) => {}
        }
    }
    (start < end).then_some((start, end))
}
