//! A frame in both facings: as fitted, and as the game shows the other one.

use super::ExportRequest;
use super::actors::ByFrame;
use finitor_core::Facing;
use finitor_core::actor::Actor;
use finitor_core::fit::{Geometry, pieces_of};
use finitor_files::pack::{Art, Number, PackPoint, PackShape, PackSide, Ring, ShapeMeaning};
use finitor_files::{ActorFile, FrameFits, ShapeFits, geometry_of, holes_of};
use std::collections::BTreeMap;

/// What a frame's sides are made from.
pub(super) struct Drawn<'d> {
    pub(super) file: &'d ActorFile,
    pub(super) actor: &'d Actor,
    pub(super) by_frame: &'d ByFrame<'d>,
    pub(super) meanings: &'d [ShapeMeaning],
    pub(super) request: &'d ExportRequest<'d>,
}

/// The facing a frame is drawn in, then the other one; local space, px.
pub(super) fn sides(of: &Drawn<'_>, index: usize) -> Vec<PackSide> {
    let frame = &of.file.frames[index];
    let faces = of.file.faces(index);
    let own = side(of, index);
    let shown = of.actor.shown(frame.animation, frame.number, faces.turned());
    let other = if shown.flipped {
        mirrored(of, &own, index)
    } else {
        let first = of.file.animations[shown.animation].frames.start;
        side(of, first + shown.frame)
    };
    vec![own, PackSide { facing: faces.turned().name().to_string(), ..other }]
}

/// A frame as it is drawn.
fn side(of: &Drawn<'_>, index: usize) -> PackSide {
    let frame = &of.file.frames[index];
    let animation = of.file.animations[frame.animation].name.as_str();
    let fits = of.by_frame.get(&(animation, frame.number));
    let pivot = frame.pivot;
    let anchors = frame.anchors.iter();
    let anchors = anchors.map(|(name, at)| (name.clone(), PackPoint::from([at.x - pivot.x, at.y - pivot.y])));
    let rect = frame.rect;
    PackSide {
        facing: of.file.faces(index).name().to_string(),
        art: Art {
            image: frame.source.file.name.clone(),
            image_number: frame.source.image,
            rect: [rect.x, rect.y, rect.width, rect.height],
            flipped: false,
            pivot: PackPoint::from([pivot.x, pivot.y]),
        },
        anchors: anchors.collect(),
        shapes: fits.map_or_else(Vec::new, |fits| shapes(of, fits)),
    }
}

fn shapes(of: &Drawn<'_>, fits: &FrameFits) -> Vec<PackShape> {
    let exported = fits.shapes.iter().filter(|shape| of.meanings.iter().any(|known| known.name == shape.name));
    exported.map(|shape| pack_shape(shape, of.request.piece_points)).collect()
}

fn ring(points: &[[f64; 2]]) -> Ring {
    points.iter().map(|&at| PackPoint::from(at)).collect()
}

fn pack_shape(shape: &ShapeFits, piece_points: Option<usize>) -> PackShape {
    let cut = |most: usize| {
        let (polygons, holes) = (geometry_of(shape).ok()?, holes_of(shape).ok()?);
        let pieces = pieces_of(&Geometry { polygons, holes, exact: None }, most);
        Some(
            pieces
                .iter()
                .map(|piece| piece.points().iter().map(|at| PackPoint { x: at.x, y: at.y }).collect())
                .collect(),
        )
    };
    let pieces = piece_points.and_then(cut);
    PackShape {
        shape: shape.name.clone(),
        kind: shape.kind.clone(),
        rect: shape.rect.map(|numbers| numbers.map(Number)),
        circle: shape.circle.map(|numbers| numbers.map(Number)),
        capsule: shape.capsule.map(|numbers| numbers.map(Number)),
        outline: shape.points.all().into_iter().map(ring).collect(),
        holes: shape.holes.iter().map(|hole| ring(hole)).collect(),
        pieces: pieces.unwrap_or_else(|| shape.pieces.iter().map(|piece| ring(piece)).collect()),
    }
}

/// The mirror image about the pivot, with the art flipped as the game flips it, and names that hold a side changed over.
fn mirrored(of: &Drawn<'_>, own: &PackSide, index: usize) -> PackSide {
    let mut anchors: BTreeMap<String, PackPoint> =
        own.anchors.iter().map(|(name, at)| (name.clone(), mirrored_point(*at))).collect();
    let mut shapes: Vec<PackShape> = own.shapes.iter().map(mirrored_shape).collect();
    for (one, other) in &of.file.swaps {
        change_over(&mut shapes, one, other);
        let (first, second) = (anchors.remove(one), anchors.remove(other));
        anchors.extend(second.map(|at| (one.clone(), at)));
        anchors.extend(first.map(|at| (other.clone(), at)));
    }
    let width = f64::from(own.art.rect[2]);
    let x = width - own.art.pivot.x - of.file.flip_drift(index);
    let art = Art { flipped: true, pivot: PackPoint { x, y: own.art.pivot.y }, ..own.art.clone() };
    PackSide { facing: Facing::name(of.file.faces(index).turned()).to_string(), art, anchors, shapes }
}

/// Two shapes whose names hold a side have each other's place; where a frame has one of them alone, it takes the other's name.
fn change_over(shapes: &mut [PackShape], one: &str, other: &str) {
    let place = |name: &str| shapes.iter().position(|shape| shape.shape == name);
    match (place(one), place(other)) {
        (Some(i), Some(j)) => {
            shapes.swap(i, j);
            (shapes[i].shape, shapes[j].shape) = (one.to_string(), other.to_string());
        }
        (Some(i), None) => shapes[i].shape = other.to_string(),
        (None, Some(j)) => shapes[j].shape = one.to_string(),
        (None, None) => {}
    }
}

fn mirrored_point(at: PackPoint) -> PackPoint {
    // Not the negative, which would make -0.0 of 0.0.
    PackPoint { x: 0.0 - at.x, y: at.y }
}

fn mirrored_ring(ring: &Ring) -> Ring {
    let mut ring: Ring = ring.iter().map(|at| mirrored_point(*at)).collect();
    // Clockwise again, with the same first point.
    if let Some(rest) = ring.get_mut(1..) {
        rest.reverse();
    }
    ring
}

fn mirrored_shape(shape: &PackShape) -> PackShape {
    let turned = |x: Number| Number(0.0 - x.0);
    let rings = |rings: &[Ring]| rings.iter().map(mirrored_ring).collect();
    PackShape {
        shape: shape.shape.clone(),
        kind: shape.kind.clone(),
        rect: shape.rect.map(|[x, y, w, h]| [Number(0.0 - (x.0 + w.0)), y, w, h]),
        circle: shape.circle.map(|[x, y, r]| [turned(x), y, r]),
        capsule: shape.capsule.map(|[x1, y1, x2, y2, r]| [turned(x1), y1, turned(x2), y2, r]),
        outline: rings(&shape.outline),
        holes: rings(&shape.holes),
        pieces: rings(&shape.pieces),
    }
}
