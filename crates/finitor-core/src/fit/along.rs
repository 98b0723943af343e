//! Strips along a side of another shape.

use super::recipe::{Along, Side, StripEnds};
use super::{FitError, Geometry};
use crate::facing::Facing;
use crate::geometry::{Point, Polygon, Rect};

/// The strip beside a shape, in the shape's space, for art drawn facing that way; `None` where there is no shape.
///
/// # Errors
/// [`FitError::InsetTooWide`] when the inset eats the whole side, [`FitError::NoSize`] when the depth is not above 0.
///
/// # Complexity
/// O(n) for n corners.
pub fn strip_along(shape: &Geometry, along: &Along, drawn: Facing) -> Result<Option<Geometry>, FitError> {
    let Some(bounds) = shape.bounds() else { return Ok(None) };
    let Along { side, depth, inset, .. } = *along;
    let on = match side {
        Side::Below => Edge::Bottom,
        Side::Above => Edge::Top,
        Side::Ahead if drawn == Facing::Right => Edge::Right,
        Side::Behind if drawn == Facing::Left => Edge::Right,
        Side::Ahead | Side::Behind => Edge::Left,
    };
    let whole = match along.ends {
        StripEnds::Box => bounds,
        StripEnds::Shape => near_edge(&shape.polygons, bounds, on, depth),
    };
    let strip = match on {
        Edge::Bottom => Rect::new(whole.x0 + inset, bounds.y1, whole.x1 - inset, bounds.y1 + depth),
        Edge::Top => Rect::new(whole.x0 + inset, bounds.y0 - depth, whole.x1 - inset, bounds.y0),
        Edge::Right => Rect::new(bounds.x1, whole.y0 + inset, bounds.x1 + depth, whole.y1 - inset),
        Edge::Left => Rect::new(bounds.x0 - depth, whole.y0 + inset, bounds.x0, whole.y1 - inset),
    };
    let length = match on {
        Edge::Bottom | Edge::Top => whole.width(),
        Edge::Right | Edge::Left => whole.height(),
    };
    if length <= 2.0 * inset {
        return Err(FitError::InsetTooWide { inset, side: length });
    }
    if !(strip.width() > 0.0 && strip.height() > 0.0) {
        return Err(FitError::NoSize);
    }
    Geometry::from_rect(strip).map(Some)
}

/// The box around what a shape has within a depth of its lowest point: its foot.
pub fn foot_of(polygons: &[Polygon], depth: f64) -> Option<Rect> {
    let bounds = polygons.iter().map(Polygon::bounds).reduce(|one, other| one.union(other))?;
    Some(near_edge(polygons, bounds, Edge::Bottom, depth))
}

/// A side of a bounding box.
#[derive(Clone, Copy)]
enum Edge {
    Top,
    Bottom,
    Left,
    Right,
}

/// The box around what polygons have within a depth of a side of their bounding box.
fn near_edge(polygons: &[Polygon], bounds: Rect, on: Edge, depth: f64) -> Rect {
    let band = match on {
        Edge::Bottom => Rect { y0: bounds.y1 - depth, ..bounds },
        Edge::Top => Rect { y1: bounds.y0 + depth, ..bounds },
        Edge::Right => Rect { x0: bounds.x1 - depth, ..bounds },
        Edge::Left => Rect { x1: bounds.x0 + depth, ..bounds },
    };
    let edges = polygons.iter().flat_map(Polygon::edges);
    let ends = edges.filter_map(|(a, b)| share_within(a, b, band)).flat_map(|ends| ends.into_iter());
    let boxes = ends.map(|at| Rect::from_points(at, at));
    boxes.reduce(|one, other| one.union(other)).unwrap_or(bounds)
}

/// The ends of the part of a segment that lies in a box (Liang and Barsky, 1984).
fn share_within(a: Point, b: Point, within: Rect) -> Option<[Point; 2]> {
    let along = b - a;
    let (mut from, mut to) = (0.0_f64, 1.0_f64);
    for (start, step, low, high) in [(a.x, along.x, within.x0, within.x1), (a.y, along.y, within.y0, within.y1)] {
        if step == 0.0 {
            if start < low || start > high {
                return None;
            }
            continue;
        }
        let (one, other) = ((low - start) / step, (high - start) / step);
        (from, to) = (from.max(one.min(other)), to.min(one.max(other)));
    }
    (from <= to).then(|| [a + along * from, a + along * to])
}

#[cfg(test)]
mod tests {
    use super::*;

    fn along(ends: StripEnds, side: Side) -> Along {
        Along { shape: "body".into(), side, depth: 2.0, inset: 0.25, ends }
    }

    fn strip(points: &[(f64, f64)], along: &Along) -> Rect {
        let polygon = Polygon::new(points.iter().map(|at| Point::from(*at)).collect()).unwrap();
        strip_along(&Geometry::new(vec![polygon], None), along, Facing::Right).unwrap().unwrap().bounds().unwrap()
    }

    #[test]
    fn a_strip_by_the_shape_lies_under_its_foot_and_not_under_its_arms() {
        // A foot from -6 to 6, an arm to 12 that ends 10 px over it, and a heel that leans out by 1 px a px.
        let body = [
            (-6.0, -30.0),
            (6.0, -30.0),
            (12.0, -20.0),
            (12.0, -10.0),
            (6.0, -10.0),
            (6.0, 0.0),
            (-5.0, 0.0),
            (-8.0, -3.0),
        ];
        assert_eq!(strip(&body, &along(StripEnds::Box, Side::Below)), Rect::new(-7.75, 0.0, 11.75, 2.0));
        assert_eq!(strip(&body, &along(StripEnds::Shape, Side::Below)), Rect::new(-6.75, 0.0, 5.75, 2.0));
        let ahead = strip(&body, &along(StripEnds::Shape, Side::Ahead));
        assert_eq!((ahead.x0, ahead.x1, ahead.y1), (12.0, 14.0, -10.25));
        assert!((ahead.y0 + 20.0 + 2.0 * 10.0 / 6.0 - 0.25).abs() < 1e-9, "{ahead:?}");
    }
}
