//! A project as a game loads it: [`Pack`]s in the space that was asked for.

mod actors;
mod sides;
mod stages;

pub(crate) use sides::{drawn_art, flipped_art};

use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_core::layers::{Contact, Layers};
use finitor_core::stage::Stage;
use finitor_files::ActorFile;
use finitor_files::pack::{Number, PACK_SCHEMA, Pack, PackAlias, PackChange, PackLayer, PackLayers, PackState, Space};
use rayon::prelude::*;

/// Which facings of frames are exported.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Facings {
    /// The one that the art is drawn in.
    Drawn,
    /// Both; the other one as the game shows it, mirrored or from the art drawn for it.
    #[default]
    Both,
}

/// What is exported.
#[derive(Clone, Debug)]
pub struct ExportRequest<'a> {
    /// The actors.
    pub actors: Vec<&'a ActorFile>,
    /// The stages.
    pub stages: Vec<&'a Stage>,
    /// Which facings.
    pub facings: Facings,
    /// Roles and names of shapes; all where it is empty.
    pub only: Vec<String>,
    /// Corners of a convex piece at most, where other than the fits have.
    pub piece_points: Option<usize>,
    /// How coordinates are counted.
    pub space: Space,
}

/// Makes a pack.
///
/// # Errors
/// Fits that are missing or wrong; a name in `only` that no shape has.
///
/// # Complexity
/// O(points), and that of cutting pieces where their corners are limited anew; actors on all threads.
pub fn export(open: &OpenProject<'_>, request: &ExportRequest<'_>) -> Result<Pack, Failure> {
    check_only(request)?;
    let fitted = open.fitted_files(&request.actors)?;
    let frames = fitted.iter().map(|fitted| fitted.fits.frames.len());
    let progress = open.sink().task("exporting");
    progress.expect(frames.sum::<usize>());
    let pairs: Vec<_> = request.actors.iter().zip(&fitted).collect();
    let actors = open.pool.install(|| {
        pairs.par_iter().map(|(file, fitted)| actors::pack_actor(file, fitted, request, progress.as_ref())).collect()
    });
    let pack = Pack {
        schema: PACK_SCHEMA.to_string(),
        project: open.project.name.clone(),
        tick_rate: Number(open.project.tick_rate),
        space: Space::OWN,
        layers: pack_layers(&open.project.layers),
        actors,
        stages: request.stages.iter().map(|stage| stages::pack_stage(stage)).collect(),
    };
    Ok(pack.in_space(request.space))
}

fn check_only(request: &ExportRequest<'_>) -> Result<(), Failure> {
    let shapes = request.actors.iter().flat_map(|actor| &actor.shapes);
    let mut known: Vec<&str> = finitor_core::actor::Role::ALL.iter().map(|role| role.name()).collect();
    for shape in shapes {
        if !known.contains(&shape.name.as_str()) {
            known.push(&shape.name);
        }
    }
    match request.only.iter().find(|name| !known.contains(&name.as_str())) {
        Some(name) => Err(crate::failure::unknown("shape or role", name, &known)),
        None => Ok(()),
    }
}

fn pack_layers(layers: &Layers) -> PackLayers {
    let names = layers.names.iter().zip(&layers.masks).enumerate();
    let states = layers.states.iter().map(|state| PackState {
        name: state.name.clone(),
        changes: state
            .changes
            .iter()
            .map(|change| PackChange {
                layer: change.layer as u32,
                add: change.add.0,
                drop: change.drop.0,
                join: change.join.0,
                leave: change.leave.0,
            })
            .collect(),
    });
    PackLayers {
        contact: match layers.contact {
            Contact::Either => "either".to_string(),
            Contact::Both => "both".to_string(),
        },
        names: names
            .map(|(bit, (name, mask))| PackLayer { name: name.clone(), bit: bit as u32, mask: mask.0 })
            .collect(),
        aliases: layers
            .aliases
            .iter()
            .map(|alias| PackAlias { name: alias.name.clone(), layers: alias.layers.0 })
            .collect(),
        states: states.collect(),
    }
}
