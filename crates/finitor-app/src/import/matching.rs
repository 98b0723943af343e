//! Which shape on which frame each row is about.

use super::missing::Missing;
use super::{AddedShape, Imported, ImportedShape, Unmatched};
use crate::export::{drawn_art, flipped_art};
use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_core::fit::{FitError, Geometry, Given, given_shape};
use finitor_core::{Facing, Point, Polygon, Rect};
use finitor_files::pack::{PackShape, Ring, ShapeRow, ShapeRows, Space};
use finitor_files::{ActorFile, FitsFile, FrameFits, Problems, fits_path, is_same_shape, nearest, read_fits};
use std::collections::{BTreeMap, BTreeSet};

/// A shape's new geometry on a frame, local space.
#[derive(Clone, Debug)]
pub(super) struct Edit {
    /// The frame among the actor's.
    pub(super) frame: usize,
    pub(super) shape: String,
    pub(super) kind: String,
    pub(super) geometry: Geometry,
}

/// All that happens to an actor.
#[derive(Debug)]
pub(super) struct ActorPlan<'a> {
    pub(super) file: &'a ActorFile,
    pub(super) fits: Option<FitsFile>,
    pub(super) edits: Vec<Edit>,
    pub(super) missing: Missing,
}

/// What becomes of all rows.
pub(super) struct Plan<'a> {
    pub(super) actors: Vec<ActorPlan<'a>>,
    open: &'a OpenProject<'a>,
    unchanged: usize,
    unmatched: Vec<Unmatched>,
    mirrored: usize,
    outside: usize,
}

/// A row with the frame that it is about.
struct OnFrame<'r> {
    row: &'r ShapeRow,
    actor: usize,
    frame: usize,
    /// The shape's name as drawn: another than the row's where names change over with the facing.
    name: String,
    /// Whether it is in the facing that is not drawn.
    is_turned: bool,
}

impl<'a> Plan<'a> {
    pub(super) fn new(open: &'a OpenProject<'a>, rows: &ShapeRows, space: &Space) -> Result<Plan<'a>, Failure> {
        let mut problems = Problems::default();
        let files = open.actor_files()?;
        let actor =
            |file: &'a ActorFile| ActorPlan { file, fits: None, edits: Vec::new(), missing: Missing::default() };
        let actors = files.iter().map(actor).collect();
        let mut plan = Plan { actors, open, unchanged: 0, unmatched: Vec::new(), mirrored: 0, outside: 0 };
        for actor in &mut plan.actors {
            actor.fits = problems.take(read_fits(&fits_path(&actor.file.path))).flatten();
        }
        problems.or(())?;
        let mut found: Vec<OnFrame<'_>> = Vec::new();
        for row in &rows.rows {
            match plan.place(row) {
                Ok(on) => found.push(on),
                Err(reason) => plan.unmatched.push(Unmatched { place: row.place.clone(), reason }),
            }
        }
        let drawn: BTreeSet<(usize, usize, String)> =
            found.iter().filter(|on| !on.is_turned).map(|on| (on.actor, on.frame, on.name.clone())).collect();
        let mut seen: BTreeMap<(usize, usize, String), String> = BTreeMap::new();
        for on in found {
            let key = (on.actor, on.frame, on.name.clone());
            if on.is_turned && drawn.contains(&key) {
                plan.mirrored += 1;
                continue;
            }
            let place = on.row.place.clone();
            if let Some(first) = seen.get(&key) {
                let reason = format!("{} has {} already", first, on.row.meaning.name);
                plan.unmatched.push(Unmatched { place, reason });
                continue;
            }
            match plan.take(&on, space) {
                Ok(()) => {
                    seen.insert(key, place);
                }
                Err(reason) => plan.unmatched.push(Unmatched { place, reason }),
            }
        }
        Ok(plan)
    }

    /// The frame that a row is about.
    fn place<'r>(&self, row: &'r ShapeRow) -> Result<OnFrame<'r>, String> {
        let names = |all: &mut dyn Iterator<Item = &str>, name: &str| {
            let all: Vec<&str> = all.collect();
            match nearest(name, &all) {
                Some(near) => format!("did you mean \"{near}\"?"),
                None => format!("known: {}", all.join(", ")),
            }
        };
        let actor = self.actors.iter().position(|actor| actor.file.name == row.actor).ok_or_else(|| {
            let hint = names(&mut self.actors.iter().map(|actor| actor.file.name.as_str()), &row.actor);
            format!("there is no actor \"{}\"; {hint}", row.actor)
        })?;
        let file = self.actors[actor].file;
        let animation = file.animations.iter().find(|animation| animation.name == row.animation).ok_or_else(|| {
            let hint = names(&mut file.animations.iter().map(|animation| animation.name.as_str()), &row.animation);
            format!("{} has no animation \"{}\"; {hint}", file.name, row.animation)
        })?;
        if row.frame >= animation.frames.len() {
            let count = animation.frames.len();
            return Err(format!("{} has {count} frames, there is no frame {}", animation.name, row.frame));
        }
        let frame = animation.frames.start + row.frame;
        let facing = match row.facing.as_deref() {
            None => file.faces(frame),
            Some("left") => Facing::Left,
            Some("right") => Facing::Right,
            Some(other) => return Err(format!("`facing` must be left or right; found \"{other}\"")),
        };
        let is_turned = facing != file.faces(frame);
        let own = &row.meaning.name;
        let swapped = file.swaps.iter().find_map(|(one, other)| match (one == own, other == own) {
            (true, _) => Some(other),
            (_, true) => Some(one),
            _ => None,
        });
        let name = swapped.filter(|_| is_turned).unwrap_or(own).clone();
        Ok(OnFrame { row, actor, frame, name, is_turned })
    }

    /// Notes what a row changes.
    fn take(&mut self, on: &OnFrame<'_>, space: &Space) -> Result<(), String> {
        let OnFrame { row, actor, frame, ref name, is_turned } = *on;
        let file = self.actors[actor].file;
        let art = if is_turned { flipped_art(file, frame) } else { drawn_art(file, frame) };
        let shape = space.shape_from(&art, row.shape.clone());
        let shape = if is_turned { shape.mirrored() } else { shape };
        let geometry = geometry(&shape)?;
        match file.shapes.iter().find(|known| known.name == *name) {
            Some(known) => {
                let (role, said) = (known.role.name(), row.meaning.role.as_str());
                if !said.is_empty() && said != role {
                    return Err(format!("{name} of {} is a {role} shape, the row says {said}", file.name));
                }
                if known.frames.binary_search(&frame).is_err() {
                    return Err(format!(
                        "{name} is not on {}; add the frame to `frames` or `animations` of [shape.{}]",
                        file.frame_name(frame),
                        known.siblings.as_ref().unwrap_or(name)
                    ));
                }
            }
            None => {
                let others: Vec<&ActorFile> = self.actors.iter().map(|actor| actor.file).collect();
                let kind = shape.kind.clone();
                self.actors[actor].missing.add(row, (file, frame), &kind, &(&others[..], &self.open.project.layers))?;
            }
        }
        if let Some(bounds) = geometry.bounds() {
            let corner = Point::new(0.0 - file.frames[frame].pivot.x, 0.0 - file.frames[frame].pivot.y);
            let size = (f64::from(art.rect[2]), f64::from(art.rect[3]));
            self.outside += usize::from(bounds.intersect(Rect::from_origin_size(corner, size)).area() == 0.0);
        }
        let fits = self.actors[actor].fits.as_ref();
        let known = fits.and_then(|fits| Some(&fits.frames[frame_in(fits, file, frame)?]));
        let known = known.and_then(|known| known.shapes.iter().find(|shape| shape.name == *name));
        if known.is_some_and(|known| is_same_shape(known, &geometry, space.rounding())) {
            self.unchanged += 1;
        } else {
            let edit = Edit { frame, shape: name.clone(), kind: shape.kind, geometry };
            self.actors[actor].edits.push(edit);
        }
        Ok(())
    }

    pub(super) fn result(self) -> Imported {
        let Plan { actors, open, unchanged, unmatched, mirrored, outside } = self;
        let mut result = Imported { unchanged, unmatched, mirrored, outside, ..Imported::default() };
        for actor in actors {
            let mut counts: BTreeMap<&str, usize> = BTreeMap::new();
            for edit in &actor.edits {
                *counts.entry(&edit.shape).or_default() += 1;
            }
            let changed = counts.into_iter();
            result.changed.extend(
                changed.map(|(shape, frames)| ImportedShape { name: format!("{}.{shape}", actor.file.name), frames }),
            );
            let file = open.shown(&actor.file.path);
            let added = actor.missing.shapes(actor.file).into_iter();
            result.added.extend(added.map(|shape| AddedShape { file: file.clone(), shape }));
        }
        result
    }
}

/// Where the fits have a frame: in the file's order, but where that changed since.
pub(super) fn frame_in(fits: &FitsFile, file: &ActorFile, frame: usize) -> Option<usize> {
    let of = &file.frames[frame];
    let animation = &file.animations[of.animation].name;
    let is_it = |known: &FrameFits| known.animation == *animation && known.frame == of.number;
    if fits.frames.get(frame).is_some_and(is_it) { Some(frame) } else { fits.frames.iter().position(is_it) }
}

/// The geometry of a row's shape: by its exact numbers where it has any.
fn geometry(shape: &PackShape) -> Result<Geometry, String> {
    let given = match (&shape.rect, &shape.circle, &shape.capsule) {
        (Some(rect), _, _) => Some(Given::Box(rect.map(|number| number.0))),
        (_, Some(circle), _) => Some(Given::Circle(circle.map(|number| number.0))),
        (_, _, Some(capsule)) => Some(Given::Capsule(capsule.map(|number| number.0))),
        _ => None,
    };
    let words = |error: FitError| error.to_string();
    if let Some(given) = given {
        return given_shape(&given).map_err(words);
    }
    let polygon = |ring: &Ring| {
        let points = ring.iter().map(|at| Point::new(at.x, at.y)).collect();
        Polygon::new(points).map_err(|error| format!("its points are no polygon: {error}"))
    };
    let all = |rings: &[Ring]| rings.iter().map(polygon).collect::<Result<Vec<Polygon>, String>>();
    let geometry = Geometry { polygons: all(&shape.outline)?, holes: all(&shape.holes)?, exact: None };
    if geometry.polygons.is_empty() { Err("it has no points".to_string()) } else { Ok(geometry) }
}
