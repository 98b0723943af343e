//! Edited paths read back into the fits.

use crate::edit_svg::path_id;
use crate::fits_json::{FitsFile, ShapeFits};
use crate::hand_made::{hand_made, is_same_ring};
use crate::problem::{Place, Problem, Problems};
use crate::stage_svg::transform;
use finitor_core::Point;
use finitor_core::Polygon;
use finitor_core::fit::Geometry;
use kurbo::{Affine, BezPath, PathEl};
use roxmltree::Node;
use std::collections::BTreeMap;
use std::path::Path;
use std::sync::Arc;

/// A point moved by less than this has not moved, px: editors write fewer digits than there are.
const UNMOVED: f64 = 1e-4;
/// Curves are followed to this, px of the art.
const FLATNESS: f64 = 0.05;
/// Groups in groups beyond which a file is no drawing.
const MOST_DEPTH: usize = 64;
/// Points of one path beyond which it is no outline.
const MOST_POINTS: usize = 10_000;

/// What became of a shape in the editor.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ShapeEdit {
    /// `keeper.walk.3.body`.
    pub path: String,
    /// Points that lie elsewhere now.
    pub moved: usize,
    /// Points that are new.
    pub added: usize,
    /// Points that are gone.
    pub deleted: usize,
}

/// What a drawing says.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Edits {
    /// Shapes whose points changed, in the fits' order.
    pub shapes: Vec<ShapeEdit>,
    /// Shapes of the fits' frames that the drawing has no path for.
    pub missing: Vec<String>,
    /// Ids of paths that name no shape.
    pub unknown: Vec<String>,
}

/// Reads a drawing and changes the fits by it: a shape whose points moved, or are more or fewer, has the new ones and is
/// locked. Shapes that did not change keep every bit.
///
/// # Errors
/// What is wrong with the drawing, by line; the fits may then be changed in part and are not to be written.
pub fn read_edit_svg(path: &Path, fits: &mut [&mut FitsFile]) -> Result<Edits, Problems> {
    let text: Arc<str> = std::fs::read_to_string(path)
        .map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?
        .into();
    let document = roxmltree::Document::parse(&text).map_err(|error| {
        let (line, column) = (error.pos().row, error.pos().col);
        Problem::of_file(path, format!("line {line}, column {column}: is no SVG: {error}"))
            .with_hint("export the drawing as plain SVG, without a document type")
    })?;
    let mut paths: BTreeMap<&str, Node<'_, '_>> = BTreeMap::new();
    let mut problems = Problems::default();
    let problem = |node: Node<'_, '_>, message: String, hint: &str| Problem {
        place: Some(Place::new(&text, node.range().start..node.range().start + 5)),
        ..Problem::of_file(path, message).with_hint(hint)
    };
    for node in document.descendants().filter(|node| node.is_element() && node.tag_name().name() == "path") {
        let Some(id) = node.attribute("id") else { continue };
        if paths.insert(id, node).is_some() {
            problems.0.push(problem(
                node,
                format!("two paths have the id \"{id}\""),
                "delete the copy, or give it another id",
            ));
        }
    }
    let mut edits = Edits::default();
    for fits in fits.iter_mut() {
        let actor = fits.actor.clone();
        for frame in &mut fits.frames {
            let shown = frame.clone();
            for shape in &mut frame.shapes {
                let id = path_id(&actor, &shown, shape);
                let Some(node) = paths.remove(id.as_str()) else {
                    edits.missing.push(id);
                    continue;
                };
                match rings(node, &shown.pivot).and_then(|rings| changed(shape, rings)) {
                    Ok(None) => {}
                    Ok(Some((edit, new))) => {
                        edits.shapes.push(ShapeEdit { path: id, ..edit });
                        *shape = new;
                    }
                    Err(reason) => problems.0.push(problem(
                        node,
                        format!("path \"{id}\": {reason}"),
                        "fix it in the editor and save again; nothing was changed",
                    )),
                }
            }
        }
    }
    edits.unknown = paths.into_keys().map(str::to_string).collect();
    problems.or(edits)
}

/// The subpaths of a path in the shape's own coordinates.
fn rings(node: Node<'_, '_>, pivot: &[f64; 2]) -> Result<Vec<Vec<[f64; 2]>>, String> {
    let data = node.attribute("d").unwrap_or_default();
    let path = BezPath::from_svg(data).map_err(|error| format!("its `d` cannot be read: {error}"))?;
    let to_local = to_local(node, pivot)?;
    let mut rings: Vec<Vec<[f64; 2]>> = Vec::new();
    let mut count = 0;
    let mut broken = false;
    let exact = to_local == Affine::IDENTITY;
    kurbo::flatten(path, FLATNESS, |element| {
        let (at, starts) = match element {
            PathEl::MoveTo(at) => (at, true),
            PathEl::LineTo(at) => (at, false),
            _ => return,
        };
        let at = if exact { at } else { to_local * at };
        broken |= !(at.x.is_finite() && at.y.is_finite());
        count += 1;
        if count > MOST_POINTS {
            return;
        }
        match rings.last_mut() {
            Some(ring) if !starts => ring.push([at.x, at.y]),
            _ => rings.push(vec![[at.x, at.y]]),
        }
    });
    if broken {
        return Err("a coordinate is not a finite number".into());
    }
    if count > MOST_POINTS {
        return Err(format!("it has more than {MOST_POINTS} points"));
    }
    for ring in &mut rings {
        // Some editors close a ring with its first point.
        if ring.len() > 1 && near(ring[0], ring[ring.len() - 1]) {
            ring.pop();
        }
    }
    rings.retain(|ring| ring.len() > 1);
    Ok(rings)
}

/// From a path's numbers to local coordinates: by way of the art beside it, which every editor moves along with its group.
fn to_local(node: Node<'_, '_>, pivot: &[f64; 2]) -> Result<Affine, String> {
    let is_art = |node: &Node<'_, '_>| node.tag_name().name() == "image";
    let group = node.ancestors().skip(1).take(MOST_DEPTH).find(|group| group.children().any(|child| is_art(&child)));
    let art = group.and_then(|group| group.children().find(is_art)).ok_or("its frame's picture is not beside it")?;
    let (own, of_art) = (chain(node)?, chain(art)?);
    let number = |name: &str| -> f64 { art.attribute(name).and_then(|text| text.trim().parse().ok()).unwrap_or(0.0) };
    let corner = Affine::translate((number("x") + pivot[0], number("y") + pivot[1]));
    if own == of_art && corner == Affine::IDENTITY {
        return Ok(Affine::IDENTITY);
    }
    if of_art.determinant().abs() < 1e-12 {
        return Err("its frame's picture has no size".into());
    }
    Ok(corner.inverse() * of_art.inverse() * own)
}

/// All transforms over a node, outermost first.
fn chain(node: Node<'_, '_>) -> Result<Affine, String> {
    let mut all = Affine::IDENTITY;
    for (depth, node) in node.ancestors().enumerate() {
        if depth > MOST_DEPTH {
            return Err(format!("it lies in more than {MOST_DEPTH} groups"));
        }
        if let Some(text) = node.attribute("transform") {
            all = transform(text)? * all;
        }
    }
    Ok(all)
}

fn near(a: [f64; 2], b: [f64; 2]) -> bool {
    (a[0] - b[0]).abs() <= UNMOVED && (a[1] - b[1]).abs() <= UNMOVED
}

/// The shape with new rings; `None` when they are the old ones.
fn changed(shape: &ShapeFits, rings: Vec<Vec<[f64; 2]>>) -> Result<Option<(ShapeEdit, ShapeFits)>, String> {
    let old: Vec<&[[f64; 2]]> = shape.points.all().into_iter().chain(shape.holes.iter().map(Vec::as_slice)).collect();
    if old.len() == rings.len() && old.iter().zip(&rings).all(|(old, new)| is_same_ring(old, new, UNMOVED)) {
        return Ok(None);
    }
    let polygons: Vec<Polygon> = rings
        .iter()
        .map(|ring| {
            Polygon::new(ring.iter().map(|&[x, y]| Point::new(x, y)).collect()).map_err(|error| error.to_string())
        })
        .collect::<Result<_, String>>()?;
    if polygons.is_empty() {
        return Err("it has no points left; delete the shape in the actor file instead".into());
    }
    let (was, is) = (old.concat(), rings.concat());
    let same = is.iter().filter(|p| was.iter().any(|q| near(**p, *q))).count().min(was.len());
    let (lost, new) = (was.len() - same, is.len() - same);
    let moved = lost.min(new);
    // A ring inside an odd number of others is a hole.
    let inside = |i: usize| {
        let first = polygons[i].points()[0];
        (0..polygons.len()).filter(|&j| j != i && polygons[j].contains(first)).count() % 2 == 1
    };
    let (holes, outlines): (Vec<usize>, Vec<usize>) = (0..polygons.len()).partition(|&i| inside(i));
    let all = |of: &[usize]| of.iter().map(|&i| polygons[i].clone()).collect();
    let whole = Geometry { polygons: all(&outlines), holes: all(&holes), exact: None };
    let edit = ShapeEdit { path: String::new(), moved, added: new - moved, deleted: lost - moved };
    Ok(Some((edit, hand_made(shape, "points", &whole))))
}
