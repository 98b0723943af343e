//! `finitor draw`.

mod kinds;
mod preview;

use crate::cli::{DrawArgs, Format};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{
    Drawing, Failure, PictureWishes, TakeChecks, TakePicture, actor_sheet, check_recording, stage_at_start, unknown,
};
use finitor_core::finding::Span;
use finitor_core::stage::Stage;
use finitor_draw::{Aids, Moving, Pace, PagePixels, animation, to_pixels};
use finitor_files::{TakeReader, write_atomically};
use kinds::KindsRequest;
use rayon::prelude::*;
use std::io::Write;
use std::path::{Path, PathBuf};

/// Draws what was asked for, each as PNG and SVG, and names the files.
pub(crate) fn run(session: &Session<'_>, args: &DrawArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let files = session.select(&[])?;
    let folder = session.pictures(args.out.as_ref());
    if let Some(frame) = &args.kinds {
        let file = match args.names.as_slice() {
            [name] => files.iter().find(|file| file.name == *name),
            _ => None,
        };
        let Some(file) = file else {
            return Err(Failure::Usage("--kinds: name one actor, such as `finitor draw keeper --kinds walk:0`".into()));
        };
        return kinds::draw(session, &KindsRequest { file, frame, scale: args.scale, folder: &folder }, out);
    }
    let actors = session.fitted(&files)?;
    let stages = session.stages()?;
    let known: Vec<&str> =
        files.iter().map(|file| file.name.as_str()).chain(stages.iter().map(|stage| stage.name.as_str())).collect();
    if let Some(name) = args.names.iter().find(|name| !known.contains(&name.as_str())) {
        return Err(unknown("actor or stage", name, &known));
    }
    let wishes =
        PictureWishes { scale: args.scale, aids: Aids { grid: args.grid, numbers: args.numbers, up_from: None } };
    let on_stage =
        |stage: &Stage| PictureWishes { aids: Aids { up_from: session.flip(stage), ..wishes.aids }, ..wishes };
    // With a take and nothing named the take's stage is what is wanted, not every contact sheet again.
    let wanted = |name: &str| args.names.iter().any(|known| known == name);
    let all = args.names.is_empty();
    for (file, actor) in files.iter().zip(&actors) {
        if wanted(&file.name) || (all && args.take.is_none()) {
            let pages = actor_sheet(file, actor, wishes)?;
            let several = pages.len() > 1;
            let drawings = pages.into_iter().enumerate().map(|(index, scene)| {
                let name = if several { format!("{}-{}", file.name, index + 1) } else { file.name.clone() };
                Drawing { stem: folder.join(name), scene }
            });
            save(session, args, drawings.collect(), out)?;
        }
    }
    let Some(take) = &args.take else {
        for stage in stages.iter().filter(|stage| all || wanted(&stage.name)) {
            let scene = stage_at_start(&files, &actors, stage, on_stage(stage))?;
            save(session, args, vec![Drawing { stem: folder.join(&stage.name), scene }], out)?;
        }
        return Ok(Exit::Done);
    };
    let named = args.names.iter().find(|name| stages.iter().any(|stage| stage.name == **name));
    let stage = session.stage(&stages, named.map(String::as_str))?;
    let plain = TakeChecks::plain(session, stage, &stages, &actors);
    let checks = TakeChecks { has_footing: args.timeline, has_swings: args.timeline, ..plain };
    let recording = TakeReader::open(&session.take_path(take), &actors, session.flip(stage))?.record()?;
    let checked = check_recording(checks, take, &recording);
    let (recording, take, wishes) = (&recording, &checked, on_stage(stage));
    let picture = TakePicture { project: session, files: &files, actors: &actors, stage, recording, take, wishes };
    if let (Some(ticks), Some(moving)) = (args.ticks, args.form.moving()) {
        let path = move_on(session, args, &Motion { picture: &picture, ticks, moving, folder: &folder })?;
        writeln!(out, "{}", session.shown(&path))?;
        return Ok(Exit::Done);
    }
    let drawing = match args.ticks {
        Some(ticks) => picture.strip(ticks, &folder)?,
        None if args.path => picture.path(&folder),
        None if args.timeline => picture.timeline(&folder),
        None => picture.moment(args.tick, args.onion, &folder)?,
    };
    save(session, args, vec![drawing], out)?;
    Ok(Exit::Done)
}

/// Writes drawings in the wanted colours, names the files, and shows them where that is asked for.
fn save(session: &Session<'_>, args: &DrawArgs, drawings: Vec<Drawing>, out: &mut dyn Write) -> Result<(), Failure> {
    let theme = args.theme.theme();
    let themed = drawings.into_iter().map(|of| Drawing { scene: of.scene.themed(theme).sized(args.scale), ..of });
    let drawings: Vec<Drawing> = themed.collect();
    session.save_all(&drawings, out)?;
    if args.preview {
        drawings.iter().try_for_each(|drawing| preview::show(session, &drawing.scene, out))?;
    }
    Ok(())
}

/// What moves.
struct Motion<'m> {
    picture: &'m TakePicture<'m>,
    ticks: Span,
    moving: Moving,
    folder: &'m Path,
}

/// Writes ticks as a moving file, as fast as they were recorded.
fn move_on(session: &Session<'_>, args: &DrawArgs, of: &Motion<'_>) -> Result<PathBuf, Failure> {
    let progress = session.sink().task("drawing");
    let pages = of.picture.pages(of.ticks)?;
    let wrong = |error: finitor_draw::DrawError| Failure::Usage(error.to_string());
    let pixels: Vec<PagePixels> = session.pool.install(|| {
        let draw =
            |page: finitor_draw::Scene| to_pixels(&page.sized(args.scale).themed(args.theme.theme())).map_err(wrong);
        pages.into_par_iter().map(draw).collect::<Result<Vec<PagePixels>, Failure>>()
    })?;
    let pace = Pace { per_second: session.project.tick_rate };
    let bytes = animation(&pixels, of.moving, pace).map_err(wrong)?;
    drop(progress);
    let ending = if of.moving == Moving::Gif { "gif" } else { "apng" };
    let path = PathBuf::from(format!("{}.{ending}", of.picture.stem_of(of.ticks, of.folder).display()));
    write_atomically(&path, &bytes)?;
    Ok(path)
}

/// Names the files that were drawn beside a result: with it for people; on standard error where rows for programs stay rows.
pub(crate) fn name_drawings(
    session: &Session<'_>,
    format: Format,
    words: &[u8],
    out: &mut dyn Write,
) -> std::io::Result<()> {
    if format == Format::Table {
        return out.write_all(words);
    }
    session.note(String::from_utf8_lossy(words).trim());
    Ok(())
}
