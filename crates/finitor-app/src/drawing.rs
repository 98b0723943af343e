//! Pictures as scenes: contact sheets, a stage at its start, and takes.

mod arts;
mod take;
mod timeline;

use crate::failure::Failure;
use arts::{Arts, Cast};
use finitor_core::Facing;
use finitor_core::actor::{Actor, ActorIndex, Shown};
use finitor_core::art::Picture;
use finitor_core::stage::Stage;
use finitor_core::take::Sample;
use finitor_draw::{Aids, Art, ContactSheet, Scene, SheetFrame, StageView, contact_sheet, stage_view, to_png, to_svg};
use finitor_files::{ActorFile, FlipAbout, Problems, write_atomically};
use std::path::PathBuf;
pub use take::TakePicture;

/// A scene and where it is to be written.
pub struct Drawing {
    /// The path without its ending.
    pub stem: PathBuf,
    /// What is drawn.
    pub scene: Scene,
}

impl Drawing {
    /// The PNG's path.
    pub fn png_path(&self) -> PathBuf {
        PathBuf::from(format!("{}.png", self.stem.display()))
    }

    /// The same, made smaller where it is larger than anything opens and no scale was asked for.
    #[must_use]
    pub fn sized(self, scale: Option<u32>) -> Drawing {
        Drawing { scene: self.scene.sized(scale), ..self }
    }

    /// Writes it as PNG and SVG.
    ///
    /// # Errors
    /// When a file cannot be written, or the scene is too large to be drawn.
    pub fn write(&self) -> Result<(), Failure> {
        let (png, svg) = rayon::join(|| to_png(&self.scene), || to_svg(&self.scene));
        write_atomically(&self.png_path(), &png.map_err(|error| Failure::Usage(error.to_string()))?)?;
        write_atomically(&PathBuf::from(format!("{}.svg", self.stem.display())), svg.as_bytes())?;
        Ok(())
    }
}

/// What all pictures can have.
#[derive(Clone, Copy, Debug, Default)]
pub struct PictureWishes {
    /// Page px per px; chosen to suit the page when `None`.
    pub scale: Option<u32>,
    /// Lines and figures to read places off.
    pub aids: Aids,
}

/// The pixels of all frames of an actor.
///
/// # Errors
/// Pictures that cannot be read any more.
pub fn pictures(file: &ActorFile) -> Result<Vec<Picture>, Problems> {
    let gallery = file.gallery();
    file.frames.iter().map(|frame| Ok(gallery.frame(&frame.source)?.picture)).collect()
}

/// Every frame of an actor in both facings, on as many pages as it takes.
///
/// # Errors
/// Pictures that cannot be read any more.
pub fn actor_sheet(file: &ActorFile, actor: &Actor, wishes: PictureWishes) -> Result<Vec<Scene>, Failure> {
    let pictures = pictures(file)?;
    let animations = file.animations.iter().zip(&actor.animations).map(|(spec, animation)| {
        let frames = spec.frames.clone().zip(&animation.frames);
        let frames = frames.map(|(frame, poses)| SheetFrame { art: both_arts(file, actor, &pictures, frame), poses });
        (spec.name.as_str(), frames.collect())
    });
    let axis = match file.flip_about {
        FlipAbout::Pivot => "the other side is its mirror image about the pivot",
        FlipAbout::Cell => "the other side is flipped about the middle of its cell, shapes about the pivot",
    };
    let words = format!("art drawn facing {}; {axis}", file.faces);
    let PictureWishes { scale, aids } = wishes;
    Ok(contact_sheet(&ContactSheet { actor: &file.name, words, animations: animations.collect(), scale, aids }))
}

/// The art that is seen of a frame, by facing.
pub fn both_arts<'a>(file: &ActorFile, actor: &Actor, pictures: &'a [Picture], frame: usize) -> [Art<'a>; 2] {
    let loaded = &file.frames[frame];
    Facing::BOTH.map(|facing| {
        let shown = shown(file, actor.shown(loaded.animation, loaded.number, facing));
        Art { flipped: shown.flipped, ..art(file, &pictures[shown.frame], shown.frame) }
    })
}

fn art<'a>(file: &ActorFile, picture: &'a Picture, frame: usize) -> Art<'a> {
    Art { picture, pivot: file.frames[frame].pivot, flipped: false, drift: file.flip_drift(frame) }
}

/// The frame of a file whose art is seen.
struct ShownFrame {
    frame: usize,
    flipped: bool,
}

fn shown(file: &ActorFile, shown: Shown) -> ShownFrame {
    ShownFrame { frame: file.animations[shown.animation].frames.start + shown.frame, flipped: shown.flipped }
}

/// The stage with every actor at its spawn point, on its first frame.
///
/// # Errors
/// Pictures that cannot be read any more.
pub fn stage_at_start(
    files: &[&ActorFile],
    actors: &[Actor],
    stage: &Stage,
    wishes: PictureWishes,
) -> Result<Scene, Problems> {
    let cast = Cast { files, actors };
    let samples: Vec<Sample> = stage
        .spawns
        .iter()
        .filter_map(|spawn| {
            let actor = actors.iter().position(|actor| actor.name == spawn.actor)?;
            let sample = Sample::new(spawn.actor.clone(), ActorIndex(actor), spawn.at);
            Some(Sample { facing: spawn.facing, ..sample })
        })
        .collect();
    let arts = Arts::of(cast, samples.iter())?;
    let title = format!("stage {}, actors at their spawn points", stage.name);
    let actors = arts.on_stage(cast, &samples);
    let PictureWishes { scale, aids } = wishes;
    Ok(stage_view(&StageView { title, actors, scale, aids, ..StageView::of(stage) }))
}
