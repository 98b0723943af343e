//! Shapes that rows have and an actor file lacks.

use finitor_core::actor::Role;
use finitor_core::fit::Kind;
use finitor_core::layers::{LayerSet, Layers};
use finitor_files::pack::ShapeRow;
use finitor_files::{ActorFile, NAME_HINT, NewFrames, NewKey, NewShape, can_name, nearest};
use std::collections::{BTreeMap, BTreeSet};

/// Shapes that an actor file lacks, in the rows' order.
#[derive(Clone, Debug, Default)]
pub(super) struct Missing {
    found: Vec<Found>,
}

#[derive(Clone, Debug)]
struct Found {
    shape: NewShape,
    /// Frames among the actor's.
    frames: BTreeSet<usize>,
}

/// Where a layer may be known from.
type Known<'k> = (&'k [&'k ActorFile], &'k Layers);

impl Missing {
    /// Notes that a row has a shape which the file lacks.
    pub(super) fn add(
        &mut self,
        row: &ShapeRow,
        (file, frame): (&ActorFile, usize),
        kind: &str,
        known: &Known<'_>,
    ) -> Result<(), String> {
        let name = &row.meaning.name;
        if let Some(found) = self.found.iter_mut().find(|found| found.shape.name == *name) {
            if !row.meaning.role.is_empty() && found.shape.role != row.meaning.role {
                return Err(format!("{name} is a {} shape above, the row says {}", found.shape.role, row.meaning.role));
            }
            found.frames.insert(frame);
            return Ok(());
        }
        let roles = Role::ALL.map(Role::name);
        let role = Role::parse(&row.meaning.role).ok_or_else(|| {
            let names: Vec<&str> = file.shapes.iter().map(|shape| shape.name.as_str()).collect();
            match (row.meaning.role.as_str(), nearest(name, &names)) {
                ("", Some(near)) => format!("{} has no shape \"{name}\"; did you mean \"{near}\"?", file.name),
                ("", None) => format!("{} has no shape \"{name}\"; add a column `role` to make one", file.name),
                (role, _) => format!("`role` must be one of {}; found \"{role}\"", roles.join(", ")),
            }
        })?;
        if !can_name(name) {
            return Err(format!("\"{name}\" cannot be a shape's name: {NAME_HINT}"));
        }
        let Sets { layers, masks } = sets(row, role, file, known)?;
        let kind = if Kind::ALL.iter().any(|known| known.name() == kind) { kind } else { "outline" };
        self.found.push(Found {
            shape: NewShape {
                name: name.clone(),
                role: role.name().to_string(),
                kind: kind.to_string(),
                layers,
                masks,
                keys: keys(row),
                frames: Vec::new(),
            },
            frames: BTreeSet::from([frame]),
        });
        Ok(())
    }

    /// The shapes with their frames.
    pub(super) fn shapes(&self, file: &ActorFile) -> Vec<NewShape> {
        let shape = |found: &Found| {
            let mut by_animation: BTreeMap<usize, Vec<u32>> = BTreeMap::new();
            for &frame in &found.frames {
                let of = &file.frames[frame];
                by_animation.entry(of.animation).or_default().push(of.number as u32);
            }
            // On all frames of the actor: nothing need be said.
            let is_whole = found.frames.len() == file.frames.len();
            let frames = by_animation.into_iter().filter(|_| !is_whole).map(|(animation, numbers)| NewFrames {
                animation: file.animations[animation].name.clone(),
                numbers,
                length: file.animations[animation].frames.len(),
            });
            NewShape { frames: frames.collect(), ..found.shape.clone() }
        };
        self.found.iter().map(shape).collect()
    }
}

/// What a new shape is on and detects, by name.
struct Sets {
    layers: Vec<String>,
    masks: Vec<String>,
}

/// Of a new shape: the row's, else those of the first shape of the same role in the file, else in another.
fn sets(row: &ShapeRow, role: Role, file: &ActorFile, (others, layers): &Known<'_>) -> Result<Sets, String> {
    check_layers(row.layers.iter().chain(&row.masks), layers)?;
    if !row.layers.is_empty() || role == Role::Sensor {
        return Ok(Sets { layers: row.layers.clone(), masks: row.masks.clone() });
    }
    let all = std::iter::once(file).chain(others.iter().copied());
    let like = all.flat_map(|file| &file.shapes).find(|shape| shape.role == role && !shape.layer.is_empty());
    let like =
        like.ok_or_else(|| format!("no {} shape of the project says which layer; add a column `layer`", role.name()))?;
    let names = |set: LayerSet| set.bits().filter_map(|bit| layers.names.get(bit).cloned()).collect();
    let is_own = row.masks.is_empty() && like.mask != layers.default_mask(like.layer);
    Ok(Sets { layers: names(like.layer), masks: if is_own { names(like.mask) } else { row.masks.clone() } })
}

fn check_layers<'n>(mut names: impl Iterator<Item = &'n String>, layers: &Layers) -> Result<(), String> {
    match names.find(|name| layers.named(name).is_none()) {
        Some(name) => Err(format!("there is no layer \"{name}\"; known: {}", layers.names.join(", "))),
        None => Ok(()),
    }
}

/// What else the row says of the shape.
fn keys(row: &ShapeRow) -> Vec<NewKey> {
    let words = |words: &String| format!("{words:?}");
    let part = &row.meaning.part;
    let factor = if part.is_vital { Some("\"all\"".to_string()) } else { part.factor.map(|factor| factor.to_string()) };
    let all = [
        ("part", part.part.as_ref().map(words)),
        ("group", part.group.as_ref().map(words)),
        ("factor", factor),
        ("damage", row.meaning.damage.map(|damage| damage.to_string())),
    ];
    all.into_iter().filter_map(|(key, value)| Some(NewKey { key, value: value? })).collect()
}
