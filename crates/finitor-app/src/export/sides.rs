//! A frame in both facings: as fitted, and as the game shows the other one.

use super::ExportRequest;
use finitor_core::Convex;
use finitor_core::actor::Actor;
use finitor_core::fit::{Geometry, pieces_of};
use finitor_files::pack::{Art, Number, PackPoint, PackShape, PackSide, Ring, ShapeMeaning};
use finitor_files::{ActorFile, FrameFits, ShapeFits};
use std::collections::BTreeMap;

/// The frames of a fits file by animation and number.
pub(super) type ByFrame<'f> = BTreeMap<(&'f str, usize), &'f FrameFits>;

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

/// Where a frame's picture is.
pub(crate) fn drawn_art(file: &ActorFile, index: usize) -> Art {
    let frame = &file.frames[index];
    let rect = frame.rect;
    Art {
        image: frame.source.file.name.clone(),
        image_number: frame.source.image,
        rect: [rect.x, rect.y, rect.width, rect.height],
        flipped: false,
        pivot: PackPoint::from([frame.pivot.x, frame.pivot.y]),
    }
}

/// The same as the game flips it.
pub(crate) fn flipped_art(file: &ActorFile, index: usize) -> Art {
    let art = drawn_art(file, index);
    let x = f64::from(art.rect[2]) - art.pivot.x - file.flip_drift(index);
    Art { flipped: true, pivot: PackPoint { x, y: art.pivot.y }, ..art }
}

/// A frame as it is drawn.
fn side(of: &Drawn<'_>, index: usize) -> PackSide {
    let frame = &of.file.frames[index];
    let animation = of.file.animations[frame.animation].name.as_str();
    let fits = of.by_frame.get(&(animation, frame.number));
    let pivot = frame.pivot;
    let anchors = frame.anchors.iter();
    let anchors = anchors.map(|(name, at)| (name.clone(), PackPoint::from([at.x - pivot.x, at.y - pivot.y])));
    PackSide {
        facing: of.file.faces(index).name().to_string(),
        art: drawn_art(of.file, index),
        anchors: anchors.collect(),
        shapes: fits.map_or_else(Vec::new, |fits| shapes(of, fits)),
    }
}

fn shapes(of: &Drawn<'_>, fits: &FrameFits) -> Vec<PackShape> {
    let exported = fits.shapes.iter().filter(|shape| of.meanings.iter().any(|known| known.name == shape.name));
    exported.map(|shape| pack_shape(shape, &pieces(of, shape))).collect()
}

fn ring(points: &[[f64; 2]]) -> Ring {
    points.iter().map(|&at| PackPoint::from(at)).collect()
}

/// Its convex pieces, of as many corners as the request or the recipe allows; none where its points are no polygon.
fn pieces(of: &Drawn<'_>, shape: &ShapeFits) -> Vec<Convex> {
    let Some(most) = of.request.piece_points else { return of.file.pieces(shape) };
    // Round kinds too, where a game asks for pieces.
    shape.geometry().map_or_else(|_| Vec::new(), |geometry| pieces_of(&Geometry { exact: None, ..geometry }, most))
}

fn pack_shape(shape: &ShapeFits, pieces: &[Convex]) -> PackShape {
    let corners = |piece: &Convex| piece.points().iter().map(|at| PackPoint { x: at.x, y: at.y }).collect();
    PackShape {
        shape: shape.name.clone(),
        kind: shape.kind.clone(),
        rect: shape.rect.map(|numbers| numbers.map(Number)),
        circle: shape.circle.map(|numbers| numbers.map(Number)),
        capsule: shape.capsule.map(|numbers| numbers.map(Number)),
        outline: shape.points.all().into_iter().map(ring).collect(),
        holes: shape.holes.iter().map(|hole| ring(hole)).collect(),
        pieces: pieces.iter().map(corners).collect(),
    }
}

/// The mirror image about the pivot, with the art flipped as the game flips it, and names that hold a side changed over.
fn mirrored(of: &Drawn<'_>, own: &PackSide, index: usize) -> PackSide {
    let mut anchors: BTreeMap<String, PackPoint> =
        own.anchors.iter().map(|(name, at)| (name.clone(), at.mirrored())).collect();
    let mut shapes: Vec<PackShape> = own.shapes.iter().map(PackShape::mirrored).collect();
    for (one, other) in &of.file.swaps {
        change_over(&mut shapes, one, other);
        let (first, second) = (anchors.remove(one), anchors.remove(other));
        anchors.extend(second.map(|at| (one.clone(), at)));
        anchors.extend(first.map(|at| (other.clone(), at)));
    }
    let art = flipped_art(of.file, index);
    PackSide { facing: of.file.faces(index).turned().name().to_string(), art, anchors, shapes }
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
