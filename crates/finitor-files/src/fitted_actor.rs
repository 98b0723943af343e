//! From an actor file and its fits to the actor that checks and drawings use.

use crate::actor_toml::ActorFile;
use crate::animation_toml::AnimationSpec;
use crate::fits_json::{FitsFile, FrameFits, Rings, ShapeFits};
use crate::gallery::Gallery;
use crate::problem::{Problem, Problems};
use crate::recipe_hash::recipe_hash;
use crate::selected::FrameSelections;
use crate::shape_toml::ShapeSpec;
use finitor_core::actor::{Actor, DrawnAnimation, Foot, Pieces, PixelRuns, Pose, Shape};
use finitor_core::fit::{Exact, Geometry, Share, Source, pieces_of};
use finitor_core::geometry::PolygonError;
use finitor_core::{Convex, Facing, Point, Polygon, Rect};
use std::collections::BTreeMap;
use std::path::Path;

/// Frames that share one geometry of a shape.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FitGroup {
    /// Index of the shape in the actor file.
    pub shape: usize,
    /// Indices of the frames.
    pub frames: Vec<usize>,
    /// Hash of all that decides the geometry: the recipe, the pivot and the frames' art.
    pub recipe: String,
}

/// All groups of an actor, shape by shape: one a frame, an animation or the whole actor, as each shape is held.
pub fn fit_groups(actor: &ActorFile) -> Vec<FitGroup> {
    let mut groups = Vec::new();
    for (index, shape) in actor.shapes.iter().enumerate() {
        groups.extend(frames_held(actor, shape).into_iter().map(|frames| {
            let recipe = recipe_hash(actor, shape, &frames);
            FitGroup { shape: index, frames, recipe }
        }));
    }
    groups
}

/// The frames of a shape, those together over which it is one and the same.
pub fn frames_held(actor: &ActorFile, shape: &ShapeSpec) -> Vec<Vec<usize>> {
    // Art drawn for the two sides is never laid over each other.
    let key = |frame: usize| (actor.faces(frame), held_over(actor, shape, frame));
    let mut known: BTreeMap<(Facing, [u64; 2]), usize> = BTreeMap::new();
    let mut over: Vec<Vec<usize>> = Vec::new();
    for &frame in &shape.frames {
        let group = *known.entry(key(frame)).or_insert(over.len());
        if group == over.len() {
            over.push(Vec::new());
        }
        over[group].push(frame);
    }
    over
}

/// Frames with the same of these share one geometry of the shape.
fn held_over(actor: &ActorFile, shape: &ShapeSpec, frame: usize) -> [u64; 2] {
    match &shape.source {
        Source::Fitted(fitting) => match fitting.share {
            Share::Frame => [frame as u64, 0],
            Share::Animation => [actor.frames[frame].animation as u64, 0],
            Share::Actor => [0, 0],
        },
        // Given in cell px, they are the same from the pivot as long as that stays.
        Source::Given(_) => [actor.frames[frame].pivot.x.to_bits(), actor.frames[frame].pivot.y.to_bits()],
        // Strips change with the shape they follow.
        Source::Along(_) => [frame as u64, 0],
    }
}

impl ShapeFits {
    /// Its geometry, with its exact numbers where it has any.
    ///
    /// # Errors
    /// Why its points, or those of its holes, are no polygon.
    pub fn geometry(&self) -> Result<Geometry, PolygonError> {
        let ring = |points: &[[f64; 2]]| Polygon::new(points.iter().map(|&[x, y]| Point::new(x, y)).collect());
        let polygons = self.points.all().into_iter().map(ring).collect::<Result<_, _>>()?;
        let holes = self.holes.iter().map(|hole| ring(hole)).collect::<Result<_, _>>()?;
        let exact = self.circle.map(Exact::Circle).or(self.capsule.map(Exact::Capsule)).or(self.rect.map(Exact::Box));
        Ok(Geometry { polygons, holes, exact })
    }

    /// The shape with a geometry, and its exact numbers where it has any.
    #[must_use]
    pub fn with_geometry(self, geometry: &Geometry) -> ShapeFits {
        let pairs = |points: &[Point]| -> Vec<[f64; 2]> { points.iter().map(|p| [p.x, p.y]).collect() };
        let (mut rect, mut circle, mut capsule) = (None, None, None);
        match geometry.exact {
            Some(Exact::Box(numbers)) => rect = Some(numbers),
            Some(Exact::Circle(numbers)) => circle = Some(numbers),
            Some(Exact::Capsule(numbers)) => capsule = Some(numbers),
            None => {}
        }
        ShapeFits {
            rect,
            circle,
            capsule,
            points: match &geometry.polygons[..] {
                [one] => Rings::One(pairs(one.points())),
                several => Rings::Many(several.iter().map(|of| pairs(of.points())).collect()),
            },
            holes: geometry.holes.iter().map(|hole| pairs(hole.points())).collect(),
            ..self
        }
    }
}

impl ActorFile {
    /// The convex pieces of a shape of this actor, of no more corners than its recipe allows; none where its points are no polygon.
    ///
    /// # Complexity
    /// That of [`pieces_of`].
    pub fn pieces(&self, shape: &ShapeFits) -> Vec<Convex> {
        let most = match self.shapes.iter().find(|spec| spec.name == shape.name).map(|spec| &spec.source) {
            Some(Source::Fitted(fitting)) => fitting.max_piece_points,
            _ => usize::MAX,
        };
        shape.geometry().map_or_else(|_| Vec::new(), |geometry| pieces_of(&geometry, most))
    }
}

/// What in the fits no longer goes with the actor file and its art.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Staleness {
    /// Frames and shapes, in words: `walk 3 body`.
    pub shapes: Vec<String>,
}

/// The actor for checks: geometry from the fits, layers and masks from the actor file. Also tells what is stale.
///
/// # Errors
/// Shapes whose points are no polygon.
pub fn actor_from_fits(file: &ActorFile, fits: &FitsFile, fits_path: &Path) -> Result<(Actor, Staleness), Problems> {
    let mut problems = Problems::default();
    let mut stale = Staleness::default();
    let mut recipes = vec![Vec::new(); file.frames.len()];
    for group in fit_groups(file) {
        for &frame in &group.frames {
            recipes[frame].push((group.shape, group.recipe.clone()));
        }
    }
    let written_frames: BTreeMap<(&str, usize), &FrameFits> =
        fits.frames.iter().map(|frame| ((frame.animation.as_str(), frame.frame), frame)).collect();
    let gallery = file.gallery();
    let mut animations = Vec::new();
    for animation in &file.animations {
        let mut poses = Vec::new();
        for index in animation.frames.clone() {
            let frame = &file.frames[index];
            let written = written_frames.get(&(animation.name.as_str(), frame.number));
            let mut shapes = Vec::new();
            recipes[index].sort();
            for (shape, recipe) in &recipes[index] {
                let spec = &file.shapes[*shape];
                let name = format!("{} {}", file.frame_name(index), spec.name);
                match written.and_then(|written| written.shapes.iter().find(|known| known.name == spec.name)) {
                    Some(written) => {
                        if written.recipe != *recipe && !written.is_hand_made() {
                            stale.shapes.push(name.clone());
                        }
                        shapes.extend(problems.take(shape_from(spec, written, fits_path, &name)));
                    }
                    None if nothing_to_fit(spec, file, index, &gallery)? => {}
                    None => stale.shapes.push(name),
                }
            }
            let anchors = frame.anchors.iter().map(|(name, at)| (name.clone(), *at - frame.pivot.to_vec2()));
            let runs = frame.imprint.opaque_runs();
            let (foot, pixels) = (Foot::new(&runs, frame.pivot), PixelRuns::new(&runs, frame.pivot));
            let (width, height) = frame.imprint.size();
            let corner = Point::ORIGIN - frame.pivot.to_vec2();
            let picture = Rect::from_origin_size(corner, (f64::from(width), f64::from(height)));
            let flip_drift = file.flip_drift(index);
            poses.push(Pose {
                shapes,
                anchors: anchors.collect(),
                foot,
                pixels,
                flip_drift,
                picture,
                ticks: frame.ticks,
            });
        }
        let AnimationSpec { faces, stands_for, .. } = *animation;
        animations.push(DrawnAnimation { name: animation.name.clone(), faces, frames: poses, stands_for });
    }
    let actor = Actor::new(file.name.clone(), animations, file.swaps.clone());
    problems.or((Actor { moves: file.moves, settle: file.settle, ..actor }, stale))
}

/// Whether a frame rightly lacks a shape: its selection there is empty.
fn nothing_to_fit(spec: &ShapeSpec, file: &ActorFile, frame: usize, gallery: &Gallery) -> Result<bool, Problem> {
    match &spec.source {
        Source::Fitted(fitting) => Ok(FrameSelections::new(&file.frames[frame], gallery).of(fitting)?.is_empty()),
        Source::Along(along) => match file.shapes.iter().find(|base| base.name == along.shape) {
            Some(base) if base.frames.contains(&frame) => nothing_to_fit(base, file, frame, gallery),
            _ => Ok(true),
        },
        Source::Given(_) => Ok(false),
    }
}

fn shape_from(spec: &ShapeSpec, written: &ShapeFits, path: &Path, name: &str) -> Result<Shape, Problems> {
    let wrong = |error: PolygonError| {
        Problem::of_file(path, format!("{name}: its points are no polygon: {error}"))
            .with_hint("fix the points, or delete the shape and run `finitor fit`")
    };
    let geometry = Geometry { exact: None, ..written.geometry().map_err(wrong)? };
    let (polygons, holes) = (geometry.polygons.clone(), geometry.holes.clone());
    let pieces = Pieces::of(geometry);
    let side = match &spec.source {
        Source::Along(along) => Some(along.side),
        _ => None,
    };
    Ok(Shape {
        name: spec.name.clone(),
        role: spec.role,
        polygons,
        holes,
        pieces,
        layer: spec.layer,
        mask: spec.mask,
        side,
        carries: spec.carries.clone(),
    })
}
