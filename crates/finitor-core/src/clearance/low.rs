//! Floors on which a lower body rests and a taller one has no room.

use super::{Space, Stance};
use crate::geometry::{Convex, Point, Rect, TOUCH, deepest_overlap};
use crate::stage::Stage;

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
/// That of [`Space::new`], and O(f n), f floors and n pieces of solids.
pub fn low_stretches(stage: &Stage, low: &Stance, tall: &Stance) -> Vec<LowStretch> {
    let area = Rect::new(0.0, 0.0, stage.size.x, stage.size.y);
    let (hit, of) = low.obstacles(stage);
    let space = Space::new(&hit, area);
    let (in_way, _) = tall.obstacles(stage);
    let mut found: Vec<LowStretch> = Vec::new();
    for column in space.columns().iter().filter(|column| column.x1 > column.x0) {
        for gap in &column.gaps {
            let Some(below) = gap.below else { continue };
            let on = |x: f64| {
                let part = (x - column.x0) / (column.x1 - column.x0);
                Point::new(x, gap.bottom[0] + (gap.bottom[1] - gap.bottom[0]) * part)
            };
            for (from, to) in covered((on(column.x0), on(column.x1)), &in_way) {
                let (a, b) = (on(from), on(to));
                match found.iter_mut().rev().find(|known| {
                    known.floor == of[below] && (known.span.1 - from).abs() <= TOUCH && (known.y.1 - a.y).abs() <= TOUCH
                }) {
                    Some(known) => (known.span.1, known.y.1) = (to, b.y),
                    None => found.push(LowStretch {
                        span: (from, to),
                        y: (a.y, b.y),
                        floor: of[below],
                        ceiling: 0,
                        depth: 0.0,
                    }),
                }
                let Some(known) = found.iter_mut().rev().find(|known| known.span.1 == to && known.y.1 == b.y) else {
                    continue;
                };
                for at in [a, a.midpoint(b), b] {
                    if let Some((depth, ceiling)) = deepest(stage, tall, at)
                        && depth > known.depth
                    {
                        (known.depth, known.ceiling) = (depth, ceiling);
                    }
                }
            }
        }
    }
    found.retain(|stretch| stretch.depth > TOUCH);
    found.sort_by(|a, b| a.span.0.total_cmp(&b.span.0).then(a.y.0.total_cmp(&b.y.0)));
    found
}

/// The deepest that a body would lie in a solid, with the solid.
pub(super) fn deepest(stage: &Stage, stance: &Stance, at: Point) -> Option<(f64, usize)> {
    let seen = stage.solids.iter().enumerate().filter(|(_, solid)| stance.mask.sees(solid.layer));
    let depths = seen.flat_map(|(index, solid)| {
        let shapes = stance.shapes.iter();
        shapes.filter_map(move |shape| {
            let (overlap, ..) = deepest_overlap(&shape.pieces, at.to_vec2(), &solid.outline.pieces)?;
            Some((overlap.depth, index))
        })
    });
    depths.max_by(|a, b| a.0.total_cmp(&b.0).then(b.1.cmp(&a.1)))
}

/// The parts of a line, by x, that lie inside of any of the pieces.
fn covered((from, to): (Point, Point), pieces: &[Convex]) -> Vec<(f64, f64)> {
    let way = to - from;
    let mut parts: Vec<(f64, f64)> = pieces.iter().filter_map(|piece| inside(piece, from, to)).collect();
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
