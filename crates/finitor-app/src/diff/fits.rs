//! Fits against fits.

use crate::results::{DiffResult, FrameDiff, ShapeDiff, ValueDiff};
use finitor_core::fit::{Geometry, pieces_of};
use finitor_core::geometry::shared_area;
use finitor_files::{FitsFile, FrameFits, ShapeFits, is_same_shape};
use std::collections::{BTreeMap, BTreeSet};

/// A place moved by less has not moved, px.
const UNMOVED: f64 = 1e-9;

/// Adds what changed, by actor, in the order of the new frames; what is gone comes last.
pub(super) fn compare(old: &BTreeMap<String, FitsFile>, new: &BTreeMap<String, FitsFile>, result: &mut DiffResult) {
    let actors: BTreeSet<&String> = old.keys().chain(new.keys()).collect();
    for actor in actors {
        let [before, after] = [old, new].map(|of| of.get(actor).map_or(&[][..], |fits| &fits.frames));
        let known: BTreeMap<_, &FrameFits> = before.iter().map(|frame| (key(frame), frame)).collect();
        for frame in after {
            of_frame(actor, known.get(&key(frame)).copied(), Some(frame), result);
        }
        let kept: BTreeSet<_> = after.iter().map(key).collect();
        for frame in before.iter().filter(|frame| !kept.contains(&key(frame))) {
            of_frame(actor, Some(frame), None, result);
        }
    }
}

/// What tells a frame from the others of its actor.
fn key(frame: &FrameFits) -> (&str, usize) {
    (&frame.animation, frame.frame)
}

fn of_frame(actor: &str, old: Option<&FrameFits>, new: Option<&FrameFits>, result: &mut DiffResult) {
    let Some(at) = new.or(old) else { return };
    let (change, what) = match (old, new) {
        (None, _) => ("added", Vec::new()),
        (_, None) => ("gone", Vec::new()),
        (Some(old), Some(new)) => ("changed", changed(old, new)),
    };
    if change != "changed" || !what.is_empty() {
        result.frames.push(FrameDiff {
            actor: actor.to_string(),
            animation: at.animation.clone(),
            frame: at.frame,
            change: change.to_string(),
            what,
        });
    }
    // The shapes of a frame that came or went go with it.
    let (Some(old), Some(new)) = (old, new) else { return };
    let diff = |shape: &str, change: &str| ShapeDiff {
        actor: actor.to_string(),
        animation: at.animation.clone(),
        frame: at.frame,
        shape: shape.to_string(),
        change: change.to_string(),
        edges_px: None,
        iou: None,
        values: Vec::new(),
    };
    for shape in &new.shapes {
        match old.shapes.iter().find(|known| known.name == shape.name) {
            None => result.shapes.push(diff(&shape.name, "added")),
            Some(known) => {
                let (moved, values) = (moved(known, shape), values(known, shape));
                let change = if moved.is_some() { "moved" } else { "changed" };
                if moved.is_some() || !values.is_empty() {
                    let (edges_px, iou) = moved.map_or((None, None), |moved| (Some(moved.edges), moved.iou));
                    result.shapes.push(ShapeDiff { edges_px, iou, values, ..diff(&shape.name, change) });
                }
            }
        }
    }
    let is_there = |name: &str| new.shapes.iter().any(|shape| shape.name == name);
    result
        .shapes
        .extend(old.shapes.iter().filter(|shape| !is_there(&shape.name)).map(|shape| diff(&shape.name, "gone")));
}

/// What changed of a frame beside its shapes.
fn changed(old: &FrameFits, new: &FrameFits) -> Vec<String> {
    let all = [
        ("art", old.art != new.art),
        ("ticks", old.ticks != new.ticks),
        ("pivot", old.pivot != new.pivot),
        ("picture", (&old.image, old.image_number, old.rect) != (&new.image, new.image_number, new.rect)),
        ("facing", old.faces != new.faces),
        ("anchors", old.anchors != new.anchors),
    ];
    all.iter().filter(|(_, is)| *is).map(|(what, _)| (*what).to_string()).collect()
}

/// How a geometry changed.
struct Moved {
    edges: [f64; 4],
    iou: Option<f64>,
}

fn geometry(shape: &ShapeFits) -> Option<Geometry> {
    Some(Geometry { exact: None, ..shape.geometry().ok()? })
}

fn moved(old: &ShapeFits, new: &ShapeFits) -> Option<Moved> {
    let (before, after) = (geometry(old)?, geometry(new)?);
    if is_same_shape(old, &after, UNMOVED) {
        return None;
    }
    let (a, b) = (before.bounds()?, after.bounds()?);
    let edges = [b.x0 - a.x0, b.y0 - a.y0, b.x1 - a.x1, b.y1 - a.y1];
    let shared = shared_area(&pieces_of(&before, usize::MAX), &pieces_of(&after, usize::MAX));
    let whole = before.area() + after.area() - shared;
    let rounded = |number: f64| (number * 1e6).round() / 1e6 + 0.0;
    Some(Moved { edges: edges.map(rounded), iou: (whole > 0.0).then(|| rounded(shared / whole)) })
}

/// What a shape is and means, where that changed.
fn values(old: &ShapeFits, new: &ShapeFits) -> Vec<ValueDiff> {
    let points = |shape: &ShapeFits| {
        let all = shape.points.all().iter().map(|ring| ring.len()).sum::<usize>();
        (all + shape.holes.iter().map(Vec::len).sum::<usize>()).to_string()
    };
    let text = |text: &Option<String>| text.clone().unwrap_or_default();
    let number = |number: Option<f64>| number.map(|number| number.to_string()).unwrap_or_default();
    let factor = |shape: &ShapeFits| if shape.is_vital { "all".to_string() } else { number(shape.factor) };
    let all = |shape: &ShapeFits| {
        [
            ("points", points(shape)),
            ("kind", shape.kind.clone()),
            ("role", shape.role.clone()),
            ("layer", shape.layer.to_string()),
            ("mask", shape.mask.to_string()),
            ("part", text(&shape.part)),
            ("group", text(&shape.group)),
            ("factor", factor(shape)),
            ("damage", number(shape.damage)),
            ("locked", shape.locked.to_string()),
        ]
    };
    let pairs = all(old).into_iter().zip(all(new));
    let differ = pairs.filter(|((_, old), (_, new))| old != new);
    differ.map(|((key, old), (_, new))| ValueDiff { key: key.to_string(), old, new }).collect()
}
