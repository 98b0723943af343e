//! Shapes as the fits file has them.

use super::request::Status;
use finitor_core::Point;
use finitor_core::fit::{Fitted, Geometry, Selection, Source, measure};
use finitor_files::{ActorFile, FrameFits, Problem, QualityFits, ShapeFits, ShapeSpec, fits_path};

/// A frame with its shapes.
pub(super) fn frame_fits(actor: &ActorFile, frame: usize, shapes: Vec<ShapeFits>) -> FrameFits {
    let loaded = &actor.frames[frame];
    let pivot = loaded.pivot;
    let anchors = loaded.anchors.iter().map(|(name, at)| (name.clone(), [at.x - pivot.x, at.y - pivot.y]));
    FrameFits {
        animation: actor.animations[loaded.animation].name.clone(),
        frame: loaded.number,
        image: loaded.source.file.name.clone(),
        image_number: loaded.source.image,
        rect: [loaded.rect.x, loaded.rect.y, loaded.rect.width, loaded.rect.height],
        pivot: [pivot.x, pivot.y],
        ticks: loaded.ticks,
        faces: actor.faces(frame).name().to_string(),
        art: loaded.art_hash.clone(),
        seen: loaded.imprint.to_text(),
        anchors: anchors.collect(),
        shapes,
    }
}

/// Shapes that a hand put on a frame and no recipe asks for stay where they are.
pub(super) fn add_hand_made(written: Option<&FrameFits>, fits: &mut Vec<ShapeFits>, status: &mut Vec<Status>) {
    for shape in written.into_iter().flat_map(|written| &written.shapes) {
        if shape.is_hand_made() && !fits.iter().any(|known| known.name == shape.name) {
            fits.push(shape.clone());
            status.push(Status::ByHand);
        }
    }
}

/// A shape as fitted, without its quality.
pub(super) fn shape_fits(spec: &ShapeSpec, fitted: &Fitted, recipe: &str) -> ShapeFits {
    let geometry = &fitted.geometry;
    let kind = match &spec.source {
        Source::Fitted(_) => fitted.kind.name(),
        _ => spec.kind_name(),
    };
    let shape = ShapeFits {
        kind: kind.to_string(),
        why: fitted.why.clone(),
        recipe: recipe.to_string(),
        ..ShapeFits::named(&spec.name)
    };
    let mut shape = shape.with_geometry(geometry);
    shape.made = shape.geometry_hash();
    with_meaning(shape, spec)
}

/// What the actor file says beside the geometry; it is taken over whether or not a shape is fitted again.
pub(super) fn with_meaning(shape: ShapeFits, spec: &ShapeSpec) -> ShapeFits {
    let carries = &spec.carries;
    ShapeFits {
        role: spec.role.name().to_string(),
        layer: spec.layer.0,
        mask: spec.mask.0,
        part: carries.part.name.clone(),
        group: carries.part.group.clone(),
        factor: carries.part.factor,
        is_vital: carries.part.is_vital,
        damage: carries.damage,
        ..shape
    }
}

/// A shape changed by hand: its points are kept to the letter.
pub(super) fn by_hand(
    actor: &ActorFile,
    spec: &ShapeSpec,
    frame: usize,
    old: &ShapeFits,
) -> Result<ShapeFits, Problem> {
    let wrong = |error| {
        let place = format!("{} on {}", spec.name, actor.frame_name(frame));
        Problem::of_file(&fits_path(&actor.path), format!("{place}, hand-edited, is not a polygon: {error}"))
            .with_hint("fix its points, or delete the shape to fit it again")
    };
    old.geometry().map_err(wrong)?;
    Ok(with_meaning(ShapeFits { quality: None, ..old.clone() }, spec))
}

/// Quality of a shape, from the pivot, against what is selected on its frame; `None` where nothing is.
pub(super) fn quality(geometry: &Geometry, pivot: Point, selected: &Selection) -> Option<QualityFits> {
    let by = pivot.to_vec2() - selected.corner();
    let found = measure(&geometry.translated(by.x, by.y), &selected.mask)?;
    Some(QualityFits {
        iou: found.iou,
        covered: found.covered,
        excess: found.excess,
        deviation: found.deviation,
        points: geometry.point_count(),
    })
}
