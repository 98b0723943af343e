//! `finitor new`.

mod figure;
mod files;

use super::new_folder::refuse_full;
use crate::cli::{Global, NewArgs};
use crate::exit::Exit;
use files::Setting;
use finitor_app::Failure;
use finitor_app::{Naming, starter};
use finitor_app::{PictureGroup, SeenPicture, gather, part_map};
use finitor_core::art::{Grid, LookWishes};
use finitor_files::{NoProgress, Problem, Starter, StarterFrames, counted, encode_png, write_atomically};
use std::io::Write;
use std::path::{Path, PathBuf};

/// The name of the actor that is drawn here.
const OWN_ACTOR: &str = "hand";

/// Writes a project that works as it stands: from pictures, or with a figure of its own.
pub(crate) fn run(args: &NewArgs, global: &Global, out: &mut dyn Write) -> Result<Exit, Failure> {
    refuse_full(
        &args.dir,
        "name a new folder; `finitor sheet IMAGE --write actors/NAME.toml` adds an actor to a project",
    )?;
    let project = args.dir.file_name().map_or_else(|| "first".to_string(), |name| name.to_string_lossy().into_owned());
    let project: String = project.chars().filter(|c| !c.is_control() && !"\"\\".contains(*c)).collect();
    let Plan { actor, rows, wishes } = plan(args, global)?;
    let folder = args.dir.join("actors");
    std::fs::create_dir_all(&folder).map_err(|error| {
        let problem = Problem::of_file(&args.dir, format!("cannot be made: {error}"));
        Failure::Input(problem.with_hint("name a folder where you may write").into())
    })?;
    let pictures = match args.from.is_empty() {
        true => vec![draw_own(&folder)?],
        false => copy(&args.from, &folder)?,
    };
    let groups = gather(&pictures, &wishes, global.max_mpx, &NoProgress)?;
    let naming = Naming { actor: &actor, folder: &folder, rows: &rows, layer: "hero", key: None };
    let starter = starter(&groups, &naming).map_err(Failure::Usage)?;
    let (standing, frames, animation) = played(&starter, &groups);
    let unit = unit(&groups);
    let setting = Setting { project: &project, actor: &actor, animation: &animation, frames, standing, unit };
    let texts = [
        ("finitor.toml".to_string(), files::project(&setting)),
        (format!("actors/{actor}.toml"), starter.to_text()),
        ("stages/yard.toml".to_string(), files::stage(&setting)),
        ("takes/first.csv".to_string(), files::take(&setting)),
    ];
    for (path, text) in &texts {
        write_atomically(&args.dir.join(path), text.as_bytes())?;
    }
    let frames = starter_frames(&starter, &groups);
    announce(&args.dir, &format!("{actor}, with {}", counted(frames, "frame")), out)?;
    Ok(Exit::Done)
}

/// The actor of a new project.
struct Plan {
    actor: String,
    /// Names of its rows.
    rows: Vec<String>,
    /// How its pictures are cut.
    wishes: LookWishes,
}

/// Looks at the pictures where they are: when one is bad, nothing is written.
fn plan(args: &NewArgs, global: &Global) -> Result<Plan, Failure> {
    Ok(match args.from.first() {
        Some(first) => {
            let groups = gather(&args.from, &LookWishes::default(), global.max_mpx, &NoProgress)?;
            let name = actor_name(first);
            let here = Path::new(".");
            let naming = Naming { actor: &name, folder: here, rows: &[], layer: "hero", key: None };
            starter(&groups, &naming).map_err(Failure::Usage)?;
            Plan { actor: name, rows: Vec::new(), wishes: LookWishes::default() }
        }
        None => {
            let wishes =
                LookWishes { grid: Some(Grid::plain(figure::CELL.0, figure::CELL.1)), ..LookWishes::default() };
            Plan { actor: OWN_ACTOR.to_string(), rows: vec!["idle".to_string(), "walk".to_string()], wishes }
        }
    })
}

fn announce(dir: &Path, what: &str, out: &mut dyn Write) -> std::io::Result<()> {
    let dir = dir.display();
    writeln!(out, "{dir} is a project now: {what}, in a yard.")?;
    writeln!(out, "Its files have comments; change what you like. In {dir}:\n")?;
    for (command, words) in [
        ("finitor fit", "fits the shapes"),
        ("finitor draw", "draws them over the art, into pictures/"),
        ("finitor check takes/first.csv", "checks a recording: this one is clean"),
        ("finitor lint", "reports mistakes before any recording"),
    ] {
        writeln!(out, "  {command:<32} {words}")?;
    }
    Ok(())
}

/// `keeper` for keeper.png, `walk` for walk_01.png; letters that no name may hold are replaced.
fn actor_name(path: &Path) -> String {
    let stem = path.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
    let base = stem.trim_end_matches(|c: char| c.is_ascii_digit()).trim_end_matches(['_', '-', ' ', '.']);
    let allowed = |c: char| if c.is_alphanumeric() || c == '_' || c == '-' { c } else { '_' };
    let name: String = base.chars().map(allowed).collect();
    if name.is_empty() { "figure".to_string() } else { name }
}

fn draw_own(folder: &Path) -> Result<PathBuf, Failure> {
    let path = folder.join(format!("{OWN_ACTOR}.png"));
    if let Some(sheet) = figure::sheet() {
        write_atomically(&path, &encode_png(&sheet)?)?;
    }
    Ok(path)
}

/// Copies pictures, and the part maps beside them, into the folder.
fn copy(from: &[PathBuf], folder: &Path) -> Result<Vec<PathBuf>, Failure> {
    let mut copies: Vec<PathBuf> = Vec::new();
    for path in from {
        let Some(name) = path.file_name() else {
            return Err(Failure::Usage(format!("--from {}: names no file", path.display())));
        };
        let target = folder.join(name);
        if copies.contains(&target) {
            return Err(Failure::Usage(format!(
                "--from: two pictures are called {}; rename one",
                name.to_string_lossy()
            )));
        }
        write_atomically(&target, &std::fs::read(path)?)?;
        if let Some(parts) = part_map(path) {
            let name = parts.file_name().unwrap_or_default();
            write_atomically(&folder.join(name), &std::fs::read(&parts)?)?;
        }
        copies.push(target);
    }
    Ok(copies)
}

/// The animation to record: whether it stands, its number of frames, its name. The longest of those that stand, or of all.
fn played(starter: &Starter, groups: &[PictureGroup]) -> (bool, usize, String) {
    let mut best: Option<(bool, usize, &str)> = None;
    for animation in &starter.animations {
        let frames = frames_of(&animation.frames, groups);
        let rank = (animation.standing, frames, animation.name.as_str());
        if best.is_none_or(|(standing, count, _)| (animation.standing, frames) > (standing, count)) {
            best = Some(rank);
        }
    }
    best.map_or_else(|| (true, 1, "idle".to_string()), |(stands, frames, name)| (stands, frames, name.to_string()))
}

fn frames_of(frames: &StarterFrames, groups: &[PictureGroup]) -> usize {
    match frames {
        StarterFrames::Cells(_, cells) => cells.len(),
        StarterFrames::Files(_, files) => files.len(),
        StarterFrames::File(file) => {
            let named = |group: &&PictureGroup| group.seen.iter().any(|seen| seen.path.ends_with(file));
            groups.iter().find(named).map_or(1, |group| group.seen.iter().map(SeenPicture::frames).sum())
        }
    }
}

fn starter_frames(starter: &Starter, groups: &[PictureGroup]) -> usize {
    starter.animations.iter().map(|animation| frames_of(&animation.frames, groups)).sum()
}

/// The larger side of a cell, as the measure of the stage; at least 16 px.
fn unit(groups: &[PictureGroup]) -> u32 {
    let sides = groups.iter().flat_map(|group| group.seen.iter().map(SeenPicture::longest_side));
    sides.max().unwrap_or(16).max(16)
}
