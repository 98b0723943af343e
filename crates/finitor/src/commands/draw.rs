//! `finitor draw`.

mod kinds;

use crate::cli::{DrawArgs, Format};
use crate::commands::check::check_take;
use crate::exit::{Exit, Failure};
use crate::session::Session;
use finitor_core::Facing;
use finitor_core::actor::Actor;
use finitor_core::art::Picture;
use finitor_core::check::{Finding, Report};
use finitor_core::stage::Stage;
use finitor_core::take::Sample;
use finitor_draw::{
    Art, ContactSheet, Scene, SheetFrame, StageActor, StageView, contact_sheet, stage_view, to_png, to_svg,
};
use finitor_files::{ActorFile, FlipAbout, Problems, TakeReader, write_atomically};
use std::io::Write;
use std::path::{Path, PathBuf};

/// Draws what was asked for, each as PNG and SVG, and names the files.
pub(crate) fn run(session: &Session, args: &DrawArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let files = session.actors(&[])?;
    if let Some(frame) = &args.kinds {
        let folder = session.pictures(args.out.as_ref());
        let file = match args.names.as_slice() {
            [name] => files.iter().find(|file| file.name == *name),
            _ => None,
        };
        let Some(file) = file else {
            return Err(Failure::Usage("--kinds: name one actor, such as `finitor draw keeper --kinds walk:0`".into()));
        };
        return kinds::draw(session, file, frame, args.scale, &folder, out);
    }
    let actors = session.fitted(&files)?;
    let stages = session.stages()?;
    let folder = session.pictures(args.out.as_ref());
    let known = |name: &String| files.iter().any(|f| f.name == *name) || stages.iter().any(|s| s.name == *name);
    if let Some(unknown) = args.names.iter().find(|name| !known(name)) {
        let mut names: Vec<&str> = files.iter().map(|file| file.name.as_str()).collect();
        names.extend(stages.iter().map(|stage| stage.name.as_str()));
        return Err(Failure::Usage(format!(
            "there is no actor or stage \"{unknown}\"; the project has {}",
            names.join(", ")
        )));
    }
    // With a take and nothing named the take's stage is what is wanted, not every contact sheet again.
    let wanted = |name: &str| args.names.iter().any(|known| known == name);
    let all = args.names.is_empty();
    for (file, actor) in files.iter().zip(&actors) {
        if wanted(&file.name) || (all && args.take.is_none()) {
            let pictures = pictures(file)?;
            let scene = contact_sheet(&sheet(file, actor, &pictures, args.scale));
            save(session, &folder.join(&file.name), &scene, out)?;
        }
    }
    if let Some(take) = &args.take {
        let named = args.names.iter().find(|name| stages.iter().any(|stage| stage.name == **name));
        let stage = session.stage(&stages, named.map(String::as_str))?;
        draw_take(session, (&files, &actors), stage, &session.take_path(take), args, &folder, out)?;
    } else {
        for stage in stages.iter().filter(|stage| all || wanted(&stage.name)) {
            let scene = stage_at_start((&files, &actors), stage, args.scale)?;
            save(session, &folder.join(&stage.name), &scene, out)?;
        }
    }
    Ok(Exit::Done)
}

type Cast<'a> = (&'a [ActorFile], &'a [Actor]);

/// The pixels of all frames of an actor.
pub(crate) fn pictures(file: &ActorFile) -> Result<Vec<Picture>, Problems> {
    let gallery = file.gallery();
    file.frames.iter().map(|frame| Ok(gallery.frame(&frame.source)?.picture)).collect()
}

fn sheet<'a>(file: &'a ActorFile, actor: &'a Actor, pictures: &'a [Picture], scale: Option<u32>) -> ContactSheet<'a> {
    let animations = file.animations.iter().zip(&actor.animations).map(|(spec, animation)| {
        let frames = spec.frames.clone().zip(&animation.frames);
        let frames = frames.map(|(frame, poses)| SheetFrame { art: both_arts(file, actor, pictures, frame), poses });
        (spec.name.as_str(), frames.collect())
    });
    let axis = match file.flip_about {
        FlipAbout::Pivot => "the other side is its mirror image about the pivot",
        FlipAbout::Cell => "the other side is flipped about the middle of its cell, shapes about the pivot",
    };
    let words = format!("art drawn facing {}; {axis}", file.faces);
    ContactSheet { actor: &file.name, words, animations: animations.collect(), scale }
}

/// The art that is seen of a frame, by facing.
pub(crate) fn both_arts<'a>(file: &ActorFile, actor: &Actor, pictures: &'a [Picture], frame: usize) -> [Art<'a>; 2] {
    let loaded = &file.frames[frame];
    Facing::BOTH.map(|facing| {
        let (frame, flipped) = shown_frame(file, actor, loaded.animation, loaded.number, facing);
        art(file, &pictures[frame], frame, flipped)
    })
}

fn art<'a>(file: &ActorFile, picture: &'a Picture, frame: usize, flipped: bool) -> Art<'a> {
    Art { picture, pivot: file.frames[frame].pivot, flipped, drift: file.flip_drift(frame) }
}

/// The frame whose art is seen, and whether it is flipped.
fn shown_frame(file: &ActorFile, actor: &Actor, animation: usize, frame: usize, facing: Facing) -> (usize, bool) {
    let shown = actor.shown(animation, frame, facing);
    (file.animations[shown.animation].frames.start + shown.frame, shown.flipped)
}

/// Names the files that were drawn beside a result: with it for people; on standard error where rows for programs stay rows.
pub(crate) fn tell_saved(session: &Session, format: Format, words: &[u8], out: &mut dyn Write) -> std::io::Result<()> {
    if format == Format::Table {
        return out.write_all(words);
    }
    session.tell(String::from_utf8_lossy(words).trim());
    Ok(())
}

/// Writes a scene as PNG and SVG, and names the files.
pub(crate) fn save(session: &Session, stem: &Path, scene: &Scene, out: &mut dyn Write) -> Result<(), Failure> {
    let png = to_png(scene).map_err(|error| Failure::Usage(error.to_string()))?;
    let with = |ending: &str| PathBuf::from(format!("{}.{ending}", stem.display()));
    write_atomically(&with("png"), &png)?;
    write_atomically(&with("svg"), to_svg(scene).as_bytes())?;
    let (width, height) = (scene.width.ceil(), scene.height.ceil());
    writeln!(out, "{} and .svg, {width} x {height} px", session.shown(&with("png")))?;
    Ok(())
}

/// Draws the stage at a tick of a take.
fn draw_take(
    session: &Session,
    cast: Cast<'_>,
    stage: &Stage,
    take: &Path,
    args: &DrawArgs,
    folder: &Path,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let report = check_take(session, stage, cast.1, take)?;
    let tick = args.tick.or_else(|| worst_tick(&report));
    let (tick, samples) = samples_at(session, stage, cast.1, take, tick)?;
    let mut findings: Vec<&Finding> =
        report.findings.iter().filter(|f| f.ticks.0 <= tick && tick <= f.ticks.1).collect();
    findings.sort_by(|a, b| b.worst.depth.total_cmp(&a.worst.depth));
    let name = take.file_stem().map_or_else(|| "take".to_string(), |stem| stem.to_string_lossy().into_owned());
    let seconds = tick as f64 / session.project.tick_rate;
    let title = format!("{} at tick {tick} ({seconds:.2} s) of {name}", stage.name);
    let pictures = pictures_of(cast, &samples)?;
    let actors = samples.iter().zip(&pictures).map(|(sample, picture)| on_stage(cast, sample, picture)).collect();
    let scene = stage_view(&StageView { stage, title, actors, findings, scale: args.scale, layers: None });
    save(session, &folder.join(format!("{}-{name}-{tick}", stage.name)), &scene, out)
}

fn worst_tick(report: &Report) -> Option<u64> {
    let worst = report.findings.iter().max_by(|a, b| {
        a.severity.cmp(&b.severity).then(a.worst.depth.total_cmp(&b.worst.depth)).then(b.ticks.cmp(&a.ticks))
    });
    worst.map(|finding| finding.worst.tick)
}

/// The samples of a tick of the take, or of its first tick.
fn samples_at(
    session: &Session,
    stage: &Stage,
    actors: &[Actor],
    take: &Path,
    wanted: Option<u64>,
) -> Result<(u64, Vec<Sample>), Failure> {
    let mut reader = TakeReader::open(take, actors, session.flip(stage))?;
    let (mut first, mut last) = (None, 0);
    while let Some((tick, samples)) = reader.next_tick()? {
        if wanted.is_none_or(|wanted| wanted == tick) {
            return Ok((tick, samples.to_vec()));
        }
        first = first.or(Some(tick));
        last = tick;
    }
    Err(Failure::Usage(format!(
        "{} has no tick {}; it runs from {} to {last}, and ticks may be left out",
        take.display(),
        wanted.unwrap_or(0),
        first.unwrap_or(0)
    )))
}

/// The pixels that samples show, one each.
fn pictures_of((files, actors): Cast<'_>, samples: &[Sample]) -> Result<Vec<Picture>, Problems> {
    let picture = |sample: &Sample| {
        let (file, actor) = (&files[sample.actor], &actors[sample.actor]);
        let (frame, _) = shown_frame(file, actor, sample.animation, sample.frame, sample.facing);
        Ok(file.gallery().frame(&file.frames[frame].source)?.picture)
    };
    samples.iter().map(picture).collect()
}

fn on_stage<'a>((files, actors): Cast<'a>, sample: &'a Sample, picture: &'a Picture) -> StageActor<'a> {
    let (file, actor) = (&files[sample.actor], &actors[sample.actor]);
    let (frame, flipped) = shown_frame(file, actor, sample.animation, sample.frame, sample.facing);
    StageActor {
        label: &sample.label,
        at: sample.at,
        // Where the take tells how the art was drawn, it is seen so.
        art: art(file, picture, frame, sample.flipped_art.unwrap_or(flipped)),
        pose: actor.pose(sample.animation, sample.frame, sample.facing),
    }
}

/// The stage with every actor at its spawn point, on its first frame.
fn stage_at_start(cast: Cast<'_>, stage: &Stage, scale: Option<u32>) -> Result<Scene, Problems> {
    let samples: Vec<Sample> = stage
        .spawns
        .iter()
        .filter_map(|spawn| {
            let actor = cast.1.iter().position(|actor| actor.name == spawn.actor)?;
            Some(Sample {
                label: spawn.actor.clone(),
                actor,
                at: spawn.at,
                facing: spawn.facing,
                animation: 0,
                frame: 0,
                states: Vec::new(),
                flipped_art: None,
            })
        })
        .collect();
    let pictures = pictures_of(cast, &samples)?;
    let actors = samples.iter().zip(&pictures).map(|(sample, picture)| on_stage(cast, sample, picture)).collect();
    let title = format!("stage {}, actors at their spawn points", stage.name);
    Ok(stage_view(&StageView { stage, title, actors, findings: Vec::new(), scale, layers: None }))
}
