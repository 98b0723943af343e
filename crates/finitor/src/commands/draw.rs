//! `finitor draw`.

mod kinds;

use crate::cli::{DrawArgs, Format};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{
    Drawing, Failure, TakeChecks, TakeMoment, actor_sheet, check_recording, draw_moment, stage_at_start, unknown,
};
use finitor_files::TakeReader;
use kinds::KindsRequest;
use std::io::Write;

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
    // With a take and nothing named the take's stage is what is wanted, not every contact sheet again.
    let wanted = |name: &str| args.names.iter().any(|known| known == name);
    let all = args.names.is_empty();
    for (file, actor) in files.iter().zip(&actors) {
        if wanted(&file.name) || (all && args.take.is_none()) {
            let pages = actor_sheet(file, actor, args.scale)?;
            let several = pages.len() > 1;
            let drawings = pages.into_iter().enumerate().map(|(index, scene)| {
                let name = if several { format!("{}-{}", file.name, index + 1) } else { file.name.clone() };
                Drawing { stem: folder.join(name), scene }
            });
            session.save_all(&drawings.collect::<Vec<_>>(), out)?;
        }
    }
    let Some(take) = &args.take else {
        for stage in stages.iter().filter(|stage| all || wanted(&stage.name)) {
            let scene = stage_at_start(&files, &actors, stage, args.scale)?;
            session.save(&Drawing { stem: folder.join(&stage.name), scene }, out)?;
        }
        return Ok(Exit::Done);
    };
    let named = args.names.iter().find(|name| stages.iter().any(|stage| stage.name == **name));
    let stage = session.stage(&stages, named.map(String::as_str))?;
    let checks = TakeChecks::plain(session, stage, &stages, &actors);
    let recording = TakeReader::open(&session.take_path(take), &actors, session.flip(stage))?.record()?;
    let checked = check_recording(checks, take, &recording);
    let (recording, take) = (&recording, &checked);
    let (tick, scale) = (args.tick, args.scale);
    let moment = TakeMoment { project: session, files: &files, actors: &actors, stage, recording, take, tick, scale };
    session.save(&draw_moment(&moment, &folder)?, out)?;
    Ok(Exit::Done)
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
