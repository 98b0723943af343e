//! Elements as outlines.

use finitor_core::fit::{Geometry, USUAL_PIECE_POINTS, pieces_of};
use finitor_core::stage::Outline;
use finitor_core::{Point, Polygon, Rect, Vec2};
use kurbo::{Affine, BezPath, Circle, Ellipse, PathEl, RoundedRect, Shape};
use roxmltree::Node;
use std::str::FromStr;

/// Coordinates beyond this are mistakes, px.
const FARTHEST: f64 = 1e7;
/// Points of one element at most.
const MOST_POINTS: usize = 10_000;

/// An element's rings in px of the stage.
#[derive(Clone, Debug)]
pub(super) struct Element {
    /// Its rings; open lines are not closed yet.
    rings: Vec<Vec<Point>>,
    /// The thickness of a line, px; `None` for what is filled.
    pub(super) line: Option<f64>,
}

impl Element {
    /// The middle of its extent.
    pub(super) fn middle(&self) -> Point {
        let points = self.rings.iter().flatten();
        let mut bounds: Option<Rect> = None;
        for point in points {
            let own = Rect::from_points(*point, *point);
            bounds = Some(bounds.map_or(own, |bounds| bounds.union(own)));
        }
        bounds.unwrap_or(Rect::ZERO).center()
    }

    /// The points of an open line, where it is one.
    pub(super) fn chain(&self) -> Option<&[Point]> {
        self.line.and(self.rings.first()).map(Vec::as_slice)
    }

    /// What it fills: outlines with the holes in them, by the rule that a place inside of an odd number of rings is filled.
    pub(super) fn outlines(&self) -> Result<Vec<Outline>, String> {
        let mut rings = Vec::new();
        for ring in self.rings.iter().filter(|ring| ring.len() > 2) {
            let polygon = Polygon::new(ring.clone()).map_err(|error| format!("it is no outline: {error}"))?;
            rings.push(polygon);
        }
        let within = |i: usize| -> Vec<usize> {
            let first = rings[i].points()[0];
            (0..rings.len()).filter(|&j| j != i && rings[j].contains(first)).collect()
        };
        let depth: Vec<Vec<usize>> = (0..rings.len()).map(within).collect();
        let mut found = Vec::new();
        for (index, polygon) in rings.iter().enumerate().filter(|(index, _)| depth[*index].len().is_multiple_of(2)) {
            let own = |hole: &usize| depth[*hole].len() == depth[index].len() + 1 && depth[*hole].contains(&index);
            let holes: Vec<Polygon> = (0..rings.len()).filter(own).map(|hole| rings[hole].clone()).collect();
            if holes.is_empty() {
                found.push(Outline::from(polygon.clone()));
                continue;
            }
            let whole = Geometry { polygons: vec![polygon.clone()], holes: holes.clone(), exact: None };
            let pieces = pieces_of(&whole, USUAL_PIECE_POINTS);
            found.push(Outline::new(polygon.clone(), holes, pieces));
        }
        if found.is_empty() {
            return Err("it has no ring of three points".into());
        }
        Ok(found)
    }
}

/// An element's rings, curves followed within `tolerance` px; `None` where it has no extent by its own numbers.
pub(super) fn subpaths(node: Node<'_, '_>, to_stage: Affine, tolerance: f64) -> Result<Option<Element>, String> {
    let Some(path) = path_of(node, tolerance)? else { return Ok(None) };
    let path = if to_stage == Affine::IDENTITY { path } else { to_stage * path };
    let rings = flattened(&path, tolerance)?;
    let scale = to_stage.determinant().abs().sqrt();
    let line = match node.tag_name().name() == "line" {
        true => Some(number(node, "stroke-width").ok().filter(|width| *width > 0.0).unwrap_or(1.0) * scale),
        false => None,
    };
    Ok((!rings.is_empty()).then_some(Element { rings, line }))
}

/// An element's path by its own numbers; `None` where it has no extent.
fn path_of(node: Node<'_, '_>, tolerance: f64) -> Result<Option<BezPath>, String> {
    let number = |key: &str| number(node, key);
    Ok(Some(match node.tag_name().name() {
        "rect" => {
            let (x, y, w, h) = (number("x")?, number("y")?, number("width")?, number("height")?);
            if w <= 0.0 || h <= 0.0 {
                return Ok(None);
            }
            let (rx, ry) = (attribute(node, "rx")?, attribute(node, "ry")?);
            let (rx, ry) = (rx.or(ry).unwrap_or(0.0).min(w / 2.0), ry.or(rx).unwrap_or(0.0).min(h / 2.0));
            let rect = Rect::new(x, y, x + w, y + h);
            if rx > 0.0 && ry > 0.0 {
                // Round corners with one radius, squeezed to two.
                let squeezed = Rect::new(x, y * rx / ry, x + w, (y + h) * rx / ry);
                let round = RoundedRect::from_rect(squeezed, rx).to_path(tolerance / 10.0);
                Affine::scale_non_uniform(1.0, ry / rx) * round
            } else {
                rect.to_path(tolerance)
            }
        }
        "circle" => {
            let r = number("r")?;
            if r <= 0.0 {
                return Ok(None);
            }
            Circle::new((number("cx")?, number("cy")?), r).to_path(tolerance / 10.0)
        }
        "ellipse" => {
            let radii = (number("rx")?, number("ry")?);
            if radii.0 <= 0.0 || radii.1 <= 0.0 {
                return Ok(None);
            }
            Ellipse::new((number("cx")?, number("cy")?), radii, 0.0).to_path(tolerance / 10.0)
        }
        "line" => {
            let ends = [(number("x1")?, number("y1")?), (number("x2")?, number("y2")?)];
            lines(&ends.map(Point::from), false)
        }
        "polygon" | "polyline" => {
            let text = node.attribute("points").unwrap_or_default();
            let points: Vec<Point> = svgtypes::PointsParser::from(text).map(Point::from).collect();
            if points.is_empty() {
                return Err("its `points` cannot be read".into());
            }
            lines(&points, true)
        }
        _ => {
            let data = node.attribute("d").unwrap_or_default();
            BezPath::from_svg(data).map_err(|error| format!("its `d` cannot be read: {error}"))?
        }
    }))
}

fn lines(points: &[Point], closed: bool) -> BezPath {
    let mut path = BezPath::new();
    for (index, point) in points.iter().enumerate() {
        if index == 0 { path.move_to(*point) } else { path.line_to(*point) }
    }
    if closed {
        path.close_path();
    }
    path
}

/// The rings of a path.
fn flattened(path: &BezPath, tolerance: f64) -> Result<Vec<Vec<Point>>, String> {
    let far = |p: &Point| !(p.x.abs() <= FARTHEST && p.y.abs() <= FARTHEST);
    let wild = path.elements().iter().any(|element| match element {
        PathEl::MoveTo(a) | PathEl::LineTo(a) => far(a),
        PathEl::QuadTo(a, b) => far(a) || far(b),
        PathEl::CurveTo(a, b, c) => far(a) || far(b) || far(c),
        PathEl::ClosePath => false,
    });
    if wild {
        return Err(format!("a coordinate lies beyond {FARTHEST} px, or is no number"));
    }
    let mut rings: Vec<Vec<Point>> = Vec::new();
    let mut count = 0;
    kurbo::flatten(path, tolerance, |element| {
        let (at, starts) = match element {
            PathEl::MoveTo(at) => (at, true),
            PathEl::LineTo(at) => (at, false),
            _ => return,
        };
        count += 1;
        match rings.last_mut() {
            _ if count > MOST_POINTS => {}
            Some(ring) if !starts => ring.push(at),
            _ => rings.push(vec![at]),
        }
    });
    if count > MOST_POINTS {
        return Err(format!("it has more than {MOST_POINTS} points"));
    }
    for ring in &mut rings {
        // Many a ring is closed by its first point.
        while ring.len() > 1 && (ring[0] - ring[ring.len() - 1]).hypot() < 1e-9 {
            ring.pop();
        }
    }
    Ok(rings)
}

/// A length; 0 where it is not given.
fn number(node: Node<'_, '_>, key: &str) -> Result<f64, String> {
    Ok(attribute(node, key)?.unwrap_or(0.0))
}

fn attribute(node: Node<'_, '_>, key: &str) -> Result<Option<f64>, String> {
    let Some(text) = node.attribute(key) else { return Ok(None) };
    let length = svgtypes::Length::from_str(text).map_err(|_| format!("`{key}` is no length: \"{text}\""))?;
    match length.unit {
        svgtypes::LengthUnit::None | svgtypes::LengthUnit::Px => Ok(Some(length.number)),
        _ => Err(format!("`{key}` = \"{text}\": lengths are plain numbers or px here")),
    }
}

/// Two numbers parted by a space or a comma.
pub(super) fn pair(text: &str) -> Option<Vec2> {
    let numbers: Option<Vec<f64>> = text
        .split(|c: char| c == ',' || c.is_whitespace())
        .filter(|part| !part.is_empty())
        .map(|part| part.parse().ok().filter(|n: &f64| n.abs() <= FARTHEST))
        .collect();
    match numbers?.as_slice() {
        [x, y] => Some(Vec2::new(*x, *y)),
        _ => None,
    }
}
