//! Pictures as scenes: contact sheets, a stage at its start, a stage at a tick of a take.

use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_core::Facing;
use finitor_core::actor::{Actor, ActorIndex, Shown};
use finitor_core::art::Picture;
use finitor_core::check::Report;
use finitor_core::finding::Finding;
use finitor_core::stage::Stage;
use finitor_core::take::{RecordedTick, Recording, Sample};
use finitor_draw::{
    Art, ContactSheet, Scene, SheetFrame, StageActor, StageView, contact_sheet, stage_view, to_png, to_svg,
};
use finitor_files::{ActorFile, FlipAbout, Problems, STANDARD_INPUT, TakeInFile, write_atomically};
use std::path::{Path, PathBuf};

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

    /// Writes it as PNG and SVG.
    ///
    /// # Errors
    /// When a file cannot be written, or the scene is too large to be drawn.
    pub fn write(&self) -> Result<(), Failure> {
        let png = to_png(&self.scene).map_err(|error| Failure::Usage(error.to_string()))?;
        write_atomically(&self.png_path(), &png)?;
        let svg = PathBuf::from(format!("{}.svg", self.stem.display()));
        write_atomically(&svg, to_svg(&self.scene).as_bytes())?;
        Ok(())
    }
}

/// Actor files and the actors made of them, in step.
#[derive(Clone, Copy)]
struct Cast<'a> {
    files: &'a [&'a ActorFile],
    actors: &'a [Actor],
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
pub fn actor_sheet(file: &ActorFile, actor: &Actor, scale: Option<u32>) -> Result<Vec<Scene>, Failure> {
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
    Ok(contact_sheet(&ContactSheet { actor: &file.name, words, animations: animations.collect(), scale }))
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

/// A moment of a take to draw.
#[derive(Clone, Copy)]
pub struct TakeMoment<'m> {
    /// The project.
    pub project: &'m OpenProject<'m>,
    /// Its actor files.
    pub files: &'m [&'m ActorFile],
    /// Those with their fits.
    pub actors: &'m [Actor],
    /// The stage that the take was recorded on.
    pub stage: &'m Stage,
    /// The take.
    pub recording: &'m Recording,
    /// The same, checked.
    pub take: &'m CheckedTake,
    /// The tick; that of the worst finding, or the first one, when `None`.
    pub tick: Option<u64>,
    /// Page px per px.
    pub scale: Option<u32>,
}

/// Draws the stage at a tick of a take, with its findings then.
///
/// # Errors
/// A tick that the take does not have, and pictures that cannot be read.
pub fn draw_moment(of: &TakeMoment<'_>, folder: &Path) -> Result<Drawing, Failure> {
    let TakeMoment { project, stage, take, .. } = *of;
    let cast = Cast { files: of.files, actors: of.actors };
    let wanted = of.tick.or_else(|| worst_tick(&take.report));
    let RecordedTick { tick, samples } = moment_at(of.recording, take, wanted)?;
    let is_then =
        |finding: &&Finding| finding.in_take().is_some_and(|at| at.ticks.first <= tick && tick <= at.ticks.last);
    let mut findings: Vec<&Finding> = take.report.findings.iter().filter(is_then).collect();
    findings.sort_by(|a, b| b.severity.cmp(&a.severity).then(b.figure.total_cmp(&a.figure)));
    let name = picture_name(take);
    let seconds = tick as f64 / project.project.tick_rate;
    let title = format!("{} at tick {tick} ({seconds:.2} s) of {name}", stage.name);
    let pictures = pictures_of(cast, samples)?;
    let actors = on_stage(cast, samples, &pictures);
    let scene = stage_view(&StageView { stage, title, actors, findings, scale: of.scale, layers: None });
    Ok(Drawing { stem: folder.join(format!("{}-{name}-{tick}", stage.name)), scene })
}

/// What pictures of a take are called after: its file, and its name there where the file holds several.
fn picture_name(take: &CheckedTake) -> String {
    if take.path == Path::new(STANDARD_INPUT) {
        return "input".to_string();
    }
    let stem = |path: &Path| path.file_stem().unwrap_or_default().to_string_lossy().into_owned();
    let Some(TakeInFile { file, take }) = TakeInFile::of(&take.path) else { return stem(&take.path) };
    let plain = |letter: char| if letter.is_alphanumeric() || "-_.".contains(letter) { letter } else { '_' };
    format!("{}-{}", stem(&file), take.chars().map(plain).collect::<String>())
}

fn worst_tick(report: &Report) -> Option<u64> {
    let worst = report.findings.iter().max_by(|a, b| {
        let earlier = || b.in_take().map(|at| at.ticks).cmp(&a.in_take().map(|at| at.ticks));
        a.severity.cmp(&b.severity).then(a.figure.total_cmp(&b.figure)).then_with(earlier)
    });
    worst.and_then(Finding::in_take).map(|at| at.worst.tick)
}

/// A tick of the take, or its first one.
fn moment_at<'r>(
    recording: &'r Recording,
    take: &CheckedTake,
    wanted: Option<u64>,
) -> Result<RecordedTick<'r>, Failure> {
    let found = wanted.map_or_else(|| recording.ticks().next(), |tick| recording.at(tick));
    if let Some(found) = found {
        return Ok(found);
    }
    let (name, wanted) = (take.path.display(), wanted.unwrap_or(0));
    Err(Failure::Usage(match take.span {
        Some(span) => {
            format!("{name} has no tick {wanted}; it has {} to {}, and ticks may be missing", span.first, span.last)
        }
        None => format!("{name} has no ticks"),
    }))
}

/// The pixels that samples show, one each.
fn pictures_of(cast: Cast<'_>, samples: &[Sample]) -> Result<Vec<Picture>, Problems> {
    let picture = |sample: &Sample| {
        let (file, actor) = (cast.files[sample.actor.0], &cast.actors[sample.actor.0]);
        let shown = shown(file, actor.shown(sample.animation, sample.frame, sample.facing));
        Ok(file.gallery().frame(&file.frames[shown.frame].source)?.picture)
    };
    samples.iter().map(picture).collect()
}

fn on_stage<'a>(cast: Cast<'a>, samples: &'a [Sample], pictures: &'a [Picture]) -> Vec<StageActor<'a>> {
    let actor = |(sample, picture): (&'a Sample, &'a Picture)| {
        let (file, actor) = (cast.files[sample.actor.0], &cast.actors[sample.actor.0]);
        let shown = shown(file, actor.shown(sample.animation, sample.frame, sample.facing));
        StageActor {
            label: &sample.label,
            at: sample.at,
            // Where the take says how the art was drawn, it is seen so.
            art: Art { flipped: sample.flipped_art.unwrap_or(shown.flipped), ..art(file, picture, shown.frame) },
            pose: actor.pose(sample.animation, sample.frame, sample.facing),
        }
    };
    samples.iter().zip(pictures).map(actor).collect()
}

/// The stage with every actor at its spawn point, on its first frame.
///
/// # Errors
/// Pictures that cannot be read any more.
pub fn stage_at_start(
    files: &[&ActorFile],
    actors: &[Actor],
    stage: &Stage,
    scale: Option<u32>,
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
    let pictures = pictures_of(cast, &samples)?;
    let title = format!("stage {}, actors at their spawn points", stage.name);
    let actors = on_stage(cast, &samples, &pictures);
    Ok(stage_view(&StageView { stage, title, actors, findings: Vec::new(), scale, layers: None }))
}
