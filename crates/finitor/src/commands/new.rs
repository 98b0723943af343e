//! `finitor new`.

mod figure;
mod files;
mod setting;
mod takes;

use super::editor_schemas::{with_schema_line, write_schemas};
use super::new_folder::refuse_full;
use crate::cli::{Global, NewArgs};
use crate::exit::Exit;
use crate::output::sheet_table::{heading_words, painted_words};
use finitor_app::{Failure, Naming, OtherCut, What, other_cuts, starter};
use finitor_app::{PictureGroup, PictureInput, SeenPicture, actor_name, gather, is_picture, part_map, picture_inputs};
use finitor_core::art::{Background, Cutting, Grid, LookWishes};
use finitor_files::{NoProgress, Problem, Problems, Starter, StarterFrames, counted, encode_png, write_atomically};
use setting::Setting;
use std::io::Write;
use std::path::{Path, PathBuf};

/// The name of the actor that is drawn here.
const OWN_ACTOR: &str = "hand";

/// Writes a project that works as it stands: from pictures, or with a figure of its own.
pub(crate) fn run(args: &NewArgs, global: &Global, out: &mut dyn Write) -> Result<Exit, Failure> {
    refuse_mixed_up(args)?;
    let plan = plan(args, global)?;
    let folder = args.dir.join("actors");
    std::fs::create_dir_all(&folder).map_err(|error| {
        let problem = Problem::of_file(&args.dir, format!("cannot be made: {error}"));
        Failure::Input(problem.with_hint("name a folder where you may write").into())
    })?;
    let pictures = match args.from.is_empty() {
        true => vec![draw_own(&folder)?],
        false => copy(&plan.inputs, &args.dir)?,
    };
    let groups = gather(&pictures, &plan.wishes, global.max_mpx, &NoProgress)?;
    let starter = starter(&groups, &plan.naming(args, &folder)?).map_err(Failure::Usage)?;
    let setting = Setting::new(&plan, args.stage, &starter, &groups)?;
    let texts = [
        ("finitor.toml".to_string(), files::project(&setting)),
        (format!("actors/{}.toml", plan.actor), starter.to_text()),
        ("stages/yard.toml".to_string(), files::stage(&setting)),
        ("takes/first.csv".to_string(), takes::first(&setting)),
        ("takes/wall.csv".to_string(), takes::into_wall(&setting)),
    ];
    for (path, text) in &texts {
        write_atomically(&args.dir.join(path), with_schema_line(path, text).as_bytes())?;
    }
    write_schemas(&args.dir)?;
    let frames = starter_frames(&starter, &groups);
    announce(&args.dir, &format!("{}, with {}", plan.actor, counted(frames, "frame")), out)?;
    for seen in groups.iter().flat_map(|group| &group.seen) {
        let (What::Sheet(look) | What::Frame(look)) = &seen.what else { continue };
        let name = seen.path.file_name().unwrap_or_default().to_string_lossy();
        if let Background::Checkered([one, other]) = look.background {
            writeln!(out, "\n{name} is NOT transparent: {}.", painted_words(one, other))?;
        }
        if let Some(words) = heading_words(look) {
            writeln!(out, "\n{name}: {words}.")?;
        }
        if let Some(OtherCut { options, words }) = other_cuts(look).first() {
            writeln!(
                out,
                "\n{name} may be cut otherwise: `{options}` gives {words}. `finitor sheet {name}` lists all."
            )?;
        }
    }
    Ok(Exit::Done)
}

/// Refuses a folder with a project, or anything else that would be mixed with one, and a picture in the folder's place.
fn refuse_mixed_up(args: &NewArgs) -> Result<(), Failure> {
    let (dir, shown) = (&args.dir, args.dir.display());
    if is_picture(dir) && args.from.is_empty() {
        let stem = dir.file_stem().unwrap_or_default().to_string_lossy();
        let message = "is a picture; the folder of the new project comes first".to_string();
        let hint = format!("for example `finitor new {stem} --from {shown}`");
        return Err(Problems::from(Problem::of_file(dir, message).with_hint(hint)).into());
    }
    let is_project = ["finitor.toml", "actors", "stages", "takes"].iter().any(|name| dir.join(name).exists());
    let is_free_for_art = dir.is_dir() && !is_project;
    if is_free_for_art && !args.from.is_empty() {
        return Ok(());
    }
    let hint = match is_free_for_art && picture_inputs(std::slice::from_ref(dir)).is_ok() {
        true => format!("`finitor new {shown} --from {shown}` makes a project of the pictures in it, where they are"),
        false => {
            "name a new folder; `finitor sheet IMAGE --write actors/NAME.toml` adds an actor to a project".to_string()
        }
    };
    refuse_full(dir, &hint)
}

/// The actor of a new project.
struct Plan {
    project: String,
    actor: String,
    /// Names of its rows.
    rows: Vec<String>,
    inputs: Vec<PictureInput>,
    /// How its pictures are cut.
    wishes: LookWishes,
}

impl Plan {
    fn naming<'a>(&'a self, args: &NewArgs, folder: &'a Path) -> Result<Naming<'a>, Failure> {
        Ok(Naming {
            actor: &self.actor,
            folder,
            rows: &self.rows,
            layer: "hero",
            key: args.pictures.key()?,
            faces: args.pictures.facing(),
            alpha: self.wishes.alpha,
        })
    }
}

/// Looks at the pictures where they are: when one is bad, nothing is written.
fn plan(args: &NewArgs, global: &Global) -> Result<Plan, Failure> {
    let dir = args.dir.canonicalize().unwrap_or_else(|_| args.dir.clone());
    let project = dir.file_name().map_or_else(|| "first".to_string(), |name| name.to_string_lossy().into_owned());
    let project: String = project.chars().filter(|c| !c.is_control() && !"\"\\".contains(*c)).collect();
    let (wishes, pictures) = (args.pictures.wishes()?, &args.pictures);
    if args.from.is_empty() {
        let rows = vec!["idle".to_string(), "walk".to_string()];
        let cutting = Some(Cutting::Given(Grid::plain(figure::CELL.0, figure::CELL.1)));
        let actor = pictures.name.clone().unwrap_or_else(|| OWN_ACTOR.to_string());
        return Ok(Plan { project, actor, rows, inputs: Vec::new(), wishes: LookWishes { cutting, ..wishes } });
    }
    let inputs = picture_inputs(&args.from)?;
    let paths: Vec<PathBuf> = inputs.iter().map(|input| input.path.clone()).collect();
    let groups = gather(&paths, &wishes, global.max_mpx, &NoProgress)?;
    let actor = pictures.name.clone().unwrap_or_else(|| actor_name(&paths));
    let plan = Plan { project, actor, rows: pictures.row.clone(), inputs, wishes };
    starter(&groups, &plan.naming(args, Path::new("."))?).map_err(Failure::Usage)?;
    Ok(plan)
}

fn announce(dir: &Path, what: &str, out: &mut dyn Write) -> std::io::Result<()> {
    let dir = dir.display();
    writeln!(out, "{dir} is a project now: {what}, in a yard.")?;
    writeln!(out, "Its files have comments; change what you like. In {dir}:\n")?;
    for (command, words) in [
        ("finitor fit", "fits the shapes"),
        ("finitor draw", "draws them over the art, into pictures/"),
        ("finitor check takes/first.csv", "checks a recording: this one is clean"),
        ("finitor check takes/wall.csv", "another: here the actor walks into a wall"),
        ("finitor lint", "reports mistakes before any recording"),
    ] {
        writeln!(out, "  {command:<32} {words}")?;
    }
    Ok(())
}

fn draw_own(folder: &Path) -> Result<PathBuf, Failure> {
    let path = folder.join(format!("{OWN_ACTOR}.png"));
    if let Some(sheet) = figure::sheet() {
        write_atomically(&path, &encode_png(&sheet)?)?;
    }
    Ok(path)
}

/// Copies pictures, and the part maps beside them, into `actors`; those that lie in the project already stay where they are.
fn copy(from: &[PictureInput], project: &Path) -> Result<Vec<PathBuf>, Failure> {
    let root = project.canonicalize()?;
    let mut copies: Vec<PathBuf> = Vec::new();
    for PictureInput { path, below } in from {
        if path.canonicalize().is_ok_and(|real| real.starts_with(&root)) {
            copies.push(path.clone());
            continue;
        }
        let target = project.join("actors").join(below);
        if below.as_os_str().is_empty() {
            return Err(Failure::Usage(format!("--from {}: names no file", path.display())));
        }
        if copies.contains(&target) {
            return Err(Failure::Usage(format!("--from: two pictures are called {}; rename one", below.display())));
        }
        std::fs::create_dir_all(target.parent().unwrap_or(project))?;
        write_atomically(&target, &std::fs::read(path)?)?;
        if let Some(parts) = part_map(path) {
            let name = parts.file_name().unwrap_or_default();
            write_atomically(&target.with_file_name(name), &std::fs::read(&parts)?)?;
        }
        copies.push(target);
    }
    Ok(copies)
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
