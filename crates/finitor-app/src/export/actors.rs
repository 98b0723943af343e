//! Actors of a pack.

use super::sides::{ByFrame, Drawn, sides};
use super::{ExportRequest, Facings};
use crate::project::FittedFile;
use finitor_core::actor::{Part, Role};
use finitor_core::hits::{Settle, attacks};
use finitor_files::pack::{
    Number, PackActor, PackAnimation, PackAttack, PackFrame, PackPart, PackPartAnchor, ShapeMeaning,
};
use finitor_files::{ActorFile, FRAMES_AT_ONCE, FitsFile, Progress, ShapeFits, ShapeSpec};
use rayon::prelude::*;

pub(super) fn pack_actor(
    file: &ActorFile,
    fitted: &FittedFile,
    request: &ExportRequest<'_>,
    progress: &dyn Progress,
) -> PackActor {
    let fits = &fitted.fits;
    let by_frame: ByFrame<'_> =
        fits.frames.iter().map(|frame| ((frame.animation.as_str(), frame.frame), frame)).collect();
    let meanings = meanings(file, fits, request);
    let drawn = Drawn { file, actor: &fitted.actor, by_frame: &by_frame, meanings: &meanings, request };
    let frames = file.frames.par_iter().enumerate().with_max_len(FRAMES_AT_ONCE).map(|(index, frame)| {
        let both = sides(&drawn, index);
        progress.done(1);
        PackFrame {
            animation: file.animations[frame.animation].name.clone(),
            frame: frame.number,
            ticks: frame.ticks,
            sides: match request.facings {
                Facings::Drawn => both.into_iter().take(1).collect(),
                Facings::Both => both,
            },
        }
    });
    let frames = frames.collect();
    let animations = file.animations.iter().map(|animation| PackAnimation {
        name: animation.name.clone(),
        faces: animation.faces.name().to_string(),
        stands_for: animation.stands_for.map(|of| file.animations[of].name.clone()),
        first: animation.frames.start,
        count: animation.frames.len(),
    });
    PackActor {
        name: file.name.clone(),
        attacks: pack_attacks(fitted, &meanings),
        animations: animations.collect(),
        frames,
        shapes: meanings,
    }
}

/// The shapes that are exported: those of the file, then those that a hand put on frames.
fn meanings(file: &ActorFile, fits: &FitsFile, request: &ExportRequest<'_>) -> Vec<ShapeMeaning> {
    let mut all: Vec<ShapeMeaning> = file.shapes.iter().map(of_spec).collect();
    let names: Vec<&str> = file.shapes.iter().map(|shape| shape.name.as_str()).collect();
    let others =
        fits.frames.iter().flat_map(|frame| &frame.shapes).filter(|shape| !names.contains(&shape.name.as_str()));
    for shape in others {
        if !all.iter().any(|known| known.name == shape.name) {
            all.push(by_hand(shape));
        }
    }
    let is_wanted = |of: &str, role: &str| request.only.iter().any(|name| name == of || name == role);
    all.retain(|of| request.only.is_empty() || is_wanted(&of.name, &of.role));
    all
}

fn of_spec(shape: &ShapeSpec) -> ShapeMeaning {
    let carries = &shape.carries;
    let anchors = carries.anchors.iter();
    ShapeMeaning {
        name: shape.name.clone(),
        role: shape.role.name().to_string(),
        layer: shape.layer.0,
        mask: shape.mask.0,
        part: pack_part(&carries.part),
        part_anchors: anchors
            .map(|of| PackPartAnchor { anchor: of.anchor.clone(), part: pack_part(&of.part) })
            .collect(),
        damage: carries.damage.map(Number),
        settle: carries.settle.map(|settle: Settle| settle.name().to_string()),
        again_after: carries.again_after,
        blocked_by: carries.blocked_by.0,
        blocked_from: carries.blocked_from.clone(),
    }
}

fn pack_part(part: &Part) -> PackPart {
    PackPart {
        part: part.name.clone(),
        group: part.group.clone(),
        factor: part.factor.map(Number),
        is_vital: part.is_vital,
    }
}

/// A shape that only the fits know.
fn by_hand(shape: &ShapeFits) -> ShapeMeaning {
    ShapeMeaning {
        name: shape.name.clone(),
        role: shape.role.clone(),
        layer: shape.layer,
        mask: shape.mask,
        part: PackPart {
            part: shape.part.clone(),
            group: shape.group.clone(),
            factor: shape.factor.map(Number),
            is_vital: shape.is_vital,
        },
        damage: shape.damage.map(Number),
        ..ShapeMeaning::default()
    }
}

fn pack_attacks(fitted: &FittedFile, meanings: &[ShapeMeaning]) -> Vec<PackAttack> {
    let actor = &fitted.actor;
    let is_exported = |shape: &str| meanings.iter().any(|of| of.name == shape && of.role == Role::Hit.name());
    let all = attacks(actor).into_iter().filter(|attack| is_exported(&attack.shape));
    let pack = all.map(|attack| PackAttack {
        animation: actor.animations[attack.animation].name.clone(),
        shape: attack.shape,
        frames: attack.frames,
        startup: attack.timing.startup,
        active: attack.timing.active,
        pauses: attack.timing.pauses,
        recovery: attack.timing.recovery,
    });
    pack.collect()
}
