//! Fitting a whole actor: which shapes to fit again, which to keep, and what to write.

use finitor_core::Polygon;
use finitor_core::art::Mask;
use finitor_core::fit::{
    Exact, FitError, Fitting, Geometry, Source, fit_shape, given_shape, measure, selection, strip_along,
};
use finitor_core::layers::LayerSet;
use finitor_files::{
    ActorFile, FITS_SCHEMA, FitGroup, FitsFile, FrameFits, Problem, Problems, QualityFits, Rings, ShapeFits, ShapeSpec,
    fit_groups, fits_path, geometry_of,
};
use rayon::prelude::*;

/// Why a shape of the new fits is as it is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Status {
    /// Fitted in this run.
    Fitted,
    /// Its recipe and art are those of the last run.
    Unchanged,
    /// Locked or changed by hand.
    ByHand,
}

/// The new fits and how they came about.
pub(crate) struct Outcome {
    pub(crate) fits: FitsFile,
    /// By frame, in step with its shapes.
    pub(crate) statuses: Vec<Vec<Status>>,
    /// Shapes that a frame has nothing for, in words.
    pub(crate) notes: Vec<String>,
}

impl Outcome {
    pub(crate) fn count(&self, status: Status) -> usize {
        self.statuses.iter().flatten().filter(|known| **known == status).count()
    }
}

/// Fits an actor. Shapes locked or changed by hand since `old` was written stay; so do, unless `all`, those whose
/// recipe and art have not changed.
///
/// # Errors
/// Shapes that cannot be fitted at all, and hand-made ones that are no polygon.
pub(crate) fn fit_actor(actor: &ActorFile, old: Option<&FitsFile>, all: bool) -> Result<Outcome, Problems> {
    let groups = fit_groups(actor);
    // Strips follow other shapes, so those come first.
    let (strips, firm): (Vec<&FitGroup>, Vec<&FitGroup>) =
        groups.iter().partition(|group| matches!(actor.shapes[group.shape].source, Source::Along(_)));
    let mut made = vec![vec![None; actor.shapes.len()]; actor.frames.len()];
    let mut problems = Problems::default();
    let mut notes = Vec::new();
    for round in [firm, strips] {
        let fitted: Vec<GroupResult> =
            round.into_par_iter().map(|group| fit_group(actor, old, all, group, &made)).collect();
        for result in fitted {
            problems.0.extend(result.problems);
            notes.extend(result.notes);
            for (frame, shape, piece) in result.shapes {
                made[frame][shape] = Some(piece);
            }
        }
    }
    let mut statuses = Vec::new();
    let mut frames = Vec::new();
    for (frame, shapes) in made.into_iter().enumerate() {
        let (mut fits, mut status): (Vec<ShapeFits>, Vec<Status>) = shapes.into_iter().flatten().unzip();
        add_hand_made(actor, old, frame, &mut fits, &mut status);
        frames.push(frame_fits(actor, frame, fits));
        statuses.push(status);
    }
    let fits = FitsFile { schema: FITS_SCHEMA.to_string(), actor: actor.name.clone(), frames };
    problems.or(Outcome { fits, statuses, notes })
}

/// Shapes that a hand put on a frame and no recipe asks for stay where they are.
fn add_hand_made(
    actor: &ActorFile,
    old: Option<&FitsFile>,
    frame: usize,
    fits: &mut Vec<ShapeFits>,
    status: &mut Vec<Status>,
) {
    let loaded = &actor.frames[frame];
    let animation = &actor.animations[loaded.animation].name;
    let written = old
        .and_then(|old| old.frames.iter().find(|known| known.animation == *animation && known.frame == loaded.number));
    for shape in written.into_iter().flat_map(|written| &written.shapes) {
        if shape.is_hand_made() && !fits.iter().any(|known| known.name == shape.name) {
            fits.push(shape.clone());
            status.push(Status::ByHand);
        }
    }
}

fn frame_fits(actor: &ActorFile, frame: usize, shapes: Vec<ShapeFits>) -> FrameFits {
    let loaded = &actor.frames[frame];
    let pivot = actor.pivot;
    let anchors = actor.anchors.iter().filter_map(|anchor| {
        let at = anchor.on(loaded.animation, loaded.number)?;
        Some((anchor.name.clone(), [at.x - pivot.x, at.y - pivot.y]))
    });
    FrameFits {
        animation: actor.animations[loaded.animation].name.clone(),
        frame: loaded.number,
        image: loaded.image.clone(),
        rect: [loaded.rect.x, loaded.rect.y, loaded.rect.width, loaded.rect.height],
        pivot: [pivot.x, pivot.y],
        ticks: loaded.ticks,
        faces: actor.faces.name().to_string(),
        art: loaded.art_hash.clone(),
        anchors: anchors.collect(),
        shapes,
    }
}

type Made = Vec<Vec<Option<(ShapeFits, Status)>>>;

#[derive(Default)]
struct GroupResult {
    shapes: Vec<(usize, usize, (ShapeFits, Status))>,
    notes: Vec<String>,
    problems: Vec<Problem>,
}

fn fit_group(actor: &ActorFile, old: Option<&FitsFile>, all: bool, group: &FitGroup, made: &Made) -> GroupResult {
    let spec = &actor.shapes[group.shape];
    let mut result = GroupResult::default();
    if let (Source::Fitted(_), Some(sizes)) = (&spec.source, uneven_sizes(actor, group)) {
        let message = format!("{} cannot be held over frames of different sizes: {sizes}", spec.name);
        let hint = "hold it by animation or frame, or claim frames of one size with `animations`";
        result.problems.push(Problem::of_file(&actor.path, message).with_hint(hint));
        return result;
    }
    let written = |frame: usize| {
        let loaded = &actor.frames[frame];
        old?.shape(&actor.animations[loaded.animation].name, loaded.number, &spec.name)
    };
    let by_hand = |frame: usize| written(frame).is_some_and(ShapeFits::is_hand_made);
    let current = |frame: usize| written(frame).is_some_and(|shape| shape.recipe == group.recipe);
    let reuse = !all && group.frames.iter().all(|&frame| by_hand(frame) || current(frame));
    let mut fresh: Option<Result<Option<Geometry>, FitError>> = None;
    for &frame in &group.frames {
        let place = format!("{} on {}", spec.name, actor.frame_name(frame));
        let kept = if by_hand(frame) { Some(Status::ByHand) } else { reuse.then_some(Status::Unchanged) };
        let shape = if let (Some(status), Some(shape)) = (kept, written(frame)) {
            renewed(actor, spec, frame, shape).map(|shape| (shape, status))
        } else {
            match fresh.get_or_insert_with(|| geometry(actor, spec, group, made)) {
                Ok(Some(geometry)) => Ok((shape_fits(actor, spec, frame, geometry, &group.recipe), Status::Fitted)),
                Ok(None) => {
                    result.notes.push(format!("{place}: nothing to follow or no pixel selected, so no shape"));
                    continue;
                }
                Err(error) => {
                    let message = format!("{place} cannot be fitted: {error}");
                    result.problems.push(Problem::of_file(&actor.path, message));
                    break;
                }
            }
        };
        match shape {
            Ok(shape) => result.shapes.push((frame, group.shape, shape)),
            Err(problem) => result.problems.push(problem),
        }
    }
    result
}

/// The geometry of a group, local; `None` when there is nothing to fit to.
fn geometry(actor: &ActorFile, spec: &ShapeSpec, group: &FitGroup, made: &Made) -> Result<Option<Geometry>, FitError> {
    let local = |geometry: Geometry| geometry.translated(-actor.pivot.x, -actor.pivot.y);
    match &spec.source {
        Source::Given(given) => given_shape(given).map(|geometry| Some(local(geometry))),
        Source::Fitted(fitting) => match fit_shape(&group_selection(actor, group, fitting), fitting) {
            Ok(geometry) => Ok(Some(local(geometry))),
            Err(FitError::NothingSelected) => Ok(None),
            Err(error) => Err(error),
        },
        Source::Along(along) => {
            let base = actor.shapes.iter().position(|shape| shape.name == along.shape);
            let frame = group.frames.first().copied();
            let followed = base.zip(frame).and_then(|(base, frame)| made[frame][base].as_ref());
            let Some((followed, _)) = followed else {
                return Ok(None);
            };
            let polygons = geometry_of(followed)?;
            let bounds = Geometry { polygons, exact: None }.bounds();
            bounds.map(|bounds| strip_along(bounds, along, actor.faces)).transpose()
        }
    }
}

/// All pixels selected on any frame of the group. Its frames are of one size, so they share the pivot and the lattice.
fn group_selection(actor: &ActorFile, group: &FitGroup, fitting: &Fitting) -> Mask {
    let masks = group.frames.iter().map(|&frame| selection(&actor.frames[frame].art, fitting));
    let all = masks.reduce(|all, mask| all.or(&mask));
    all.map_or_else(|| Mask::from_fn(0, 0, |_, _| false), |all| all.filled())
}

/// Two frames of a group that are of different sizes.
fn uneven_sizes(actor: &ActorFile, group: &FitGroup) -> Option<String> {
    let size = |frame: usize| (actor.frames[frame].rect.width, actor.frames[frame].rect.height);
    let (first, other) =
        group.frames.iter().find(|&&f| size(f) != size(group.frames[0])).map(|&f| (group.frames[0], f))?;
    let told = |frame| format!("{} is {} x {} px", actor.frame_name(frame), size(frame).0, size(frame).1);
    Some(format!("{}, {}", told(first), told(other)))
}

fn pairs(points: &[finitor_core::Point]) -> Vec<[f64; 2]> {
    points.iter().map(|p| [p.x, p.y]).collect()
}

fn rings(polygons: &[Polygon]) -> Rings {
    match polygons {
        [one] => Rings::One(pairs(one.points())),
        several => Rings::Many(several.iter().map(|p| pairs(p.points())).collect()),
    }
}

fn pieces(polygons: &[Polygon]) -> Vec<Vec<[f64; 2]>> {
    polygons.iter().flat_map(Polygon::pieces).map(|piece| pairs(piece.points())).collect()
}

fn shape_fits(actor: &ActorFile, spec: &ShapeSpec, frame: usize, geometry: &Geometry, recipe: &str) -> ShapeFits {
    let (mut rect, mut circle, mut capsule) = (None, None, None);
    match geometry.exact {
        Some(Exact::Box(numbers)) => rect = Some(numbers),
        Some(Exact::Circle(numbers)) => circle = Some(numbers),
        Some(Exact::Capsule(numbers)) => capsule = Some(numbers),
        None => {}
    }
    let pieces = pieces(&geometry.polygons);
    let mut shape = ShapeFits {
        name: spec.name.clone(),
        role: spec.role.name().to_string(),
        kind: spec.kind_name().to_string(),
        rect,
        circle,
        capsule,
        points: rings(&geometry.polygons),
        quality: quality(actor, spec, frame, geometry, pieces.len()),
        pieces,
        layer: LayerSet::NONE.0,
        mask: LayerSet::NONE.0,
        part: None,
        group: None,
        factor: None,
        damage: None,
        recipe: recipe.to_string(),
        made: String::new(),
        locked: false,
    };
    shape.made = shape.geometry_hash();
    with_meaning(shape, spec)
}

/// What the actor file says beside the geometry; it is taken over whether or not a shape is fitted again.
fn with_meaning(shape: ShapeFits, spec: &ShapeSpec) -> ShapeFits {
    ShapeFits {
        role: spec.role.name().to_string(),
        layer: spec.layer.0,
        mask: spec.mask.0,
        part: spec.part.clone(),
        group: spec.group.clone(),
        factor: spec.factor,
        damage: spec.damage,
        ..shape
    }
}

/// A shape of the last run that stays: its points are kept to the letter, what follows from them is computed again.
fn renewed(actor: &ActorFile, spec: &ShapeSpec, frame: usize, old: &ShapeFits) -> Result<ShapeFits, Problem> {
    let polygons = geometry_of(old).map_err(|error| {
        let place = format!("{} on {}", spec.name, actor.frame_name(frame));
        Problem::of_file(&fits_path(&actor.path), format!("{place}, changed by hand, is no polygon: {error}"))
            .with_hint("mend its points, or delete the shape to have it fitted again")
    })?;
    if !old.is_hand_made() {
        return Ok(with_meaning(old.clone(), spec));
    }
    let pieces = pieces(&polygons);
    let quality = quality(actor, spec, frame, &Geometry { polygons, exact: None }, pieces.len());
    Ok(with_meaning(ShapeFits { pieces, quality, ..old.clone() }, spec))
}

/// Quality against the frame's own selection, also where the shape is held over several frames.
fn quality(
    actor: &ActorFile,
    spec: &ShapeSpec,
    frame: usize,
    geometry: &Geometry,
    pieces: usize,
) -> Option<QualityFits> {
    let Source::Fitted(fitting) = &spec.source else {
        return None;
    };
    let selected = selection(&actor.frames[frame].art, fitting);
    let found = measure(&geometry.translated(actor.pivot.x, actor.pivot.y), &selected)?;
    Some(QualityFits {
        iou: found.iou,
        covered: found.covered,
        excess: found.excess,
        deviation: found.deviation,
        points: geometry.point_count(),
        pieces,
    })
}
