//! `finitor sheet`.

use super::editor_schemas::{has_schemas, with_schema_line};
use crate::cli::{Format, Global, SheetArgs};
use crate::console::Console;
use crate::exit::Exit;
use crate::output::sheet_table::write_looks;
use finitor_app::results::SheetList;
use finitor_app::{Failure, Naming, PictureGroup, Sink, gather, picture_inputs, relative, starter, thread_pool};
use finitor_core::art::{Cutting, LookWishes};
use finitor_core::layers::Layers;
use finitor_files::{Problem, Problems, Project, counted, known_cut, write_atomically};
use std::io::Write;
use std::path::{Path, PathBuf};

/// Looks at the pictures, says what it sees, and writes or adds to an actor file where asked to.
pub(crate) fn run(args: &SheetArgs, global: &Global, console: &Console, out: &mut dyn Write) -> Result<Exit, Failure> {
    let of_file =
        [("--merge", args.merge), ("--row", !args.pictures.row.is_empty()), ("--name", args.pictures.name.is_some())];
    if let Some((option, _)) = of_file.into_iter().find(|(_, is_given)| *is_given && args.write.is_none()) {
        return Err(Failure::Usage(format!("{option} goes with --write actors/NAME.toml")));
    }
    let wishes = args.pictures.wishes()?;
    let target = args.write.as_deref().map(|path| Target::open(path, args.merge, global)).transpose()?;
    let images: Vec<PathBuf> = picture_inputs(&args.images)?.into_iter().map(|input| input.path).collect();
    let wishes = known(wishes, target.as_ref(), &images);
    let progress = console.task("looking");
    let groups = thread_pool(global.threads.map(usize::from))?
        .install(|| gather(&images, &wishes, global.max_mpx, progress.as_ref()));
    drop(progress);
    let groups = groups?;
    if let Some(bare) = groups.iter().flat_map(|group| &group.seen).find(|seen| seen.has_no_cell()) {
        let message = format!("no whole cell of this size fits into {}", bare.path.display());
        return Err(Failure::Usage(message));
    }
    match global.format {
        Format::Json => writeln!(out, "{}", serde_json::to_string_pretty(&SheetList::new(&groups))?)?,
        Format::Table | Format::Csv => write_looks(&groups, out)?,
    }
    if target.is_none() && global.format == Format::Table {
        // What was seen comes before what can be done with it.
        out.flush()?;
        console.note("note: `--write actors/NAME.toml` writes a starter actor file from this");
    }
    if let Some(target) = target {
        let words = target.write(args, &groups)?;
        if global.format == Format::Table {
            writeln!(out, "{words}")?;
        }
    }
    Ok(Exit::Done)
}

/// A sheet that the file cuts already is looked at as it is cut there.
fn known(wishes: LookWishes, target: Option<&Target>, images: &[PathBuf]) -> LookWishes {
    let cutting = wishes.cutting.or_else(|| target?.known_cut(images));
    LookWishes { cutting, ..wishes }
}

/// The actor file to write.
pub(crate) struct Target {
    path: PathBuf,
    /// The project's folder, with all links followed.
    root: PathBuf,
    /// The file's folder, within the project.
    folder: PathBuf,
    name: String,
    layer: String,
    /// Its text, where it is there already.
    old: Option<String>,
}

impl Target {
    fn open(path: &Path, merge: bool, global: &Global) -> Result<Target, Failure> {
        let wrong = |message: String, hint: &str| -> Failure {
            Problems::from(Problem::of_file(path, message).with_hint(hint)).into()
        };
        let old = match std::fs::read_to_string(path) {
            Ok(text) if merge => Some(text),
            Ok(_) => {
                return Err(wrong(
                    "already exists; nothing was written".into(),
                    "add --merge to add what is missing, or name another file",
                ));
            }
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => None,
            Err(error) => return Err(wrong(format!("cannot be read: {error}"), "name a TOML file to write")),
        };
        if path.extension().is_none_or(|ending| ending != "toml") {
            return Err(wrong(
                "is not an actor file by its name".into(),
                "end it in .toml, for example actors/keeper.toml",
            ));
        }
        let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
        let root = match &global.project {
            Some(root) => root.clone(),
            None => Project::find(existing(folder))?,
        };
        let project = Project::load(&root)?;
        let name = path.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
        let layer = figure_layer(&project.layers).ok_or_else(|| {
            wrong(
                "the project names no layer to put its shapes on".into(),
                "name some in [layers] of finitor.toml: names = [\"ground\", \"hero\"]",
            )
        })?;
        std::fs::create_dir_all(folder)?;
        let root = root.canonicalize()?;
        if !folder.canonicalize()?.starts_with(&root) {
            return Err(wrong("lies outside the project's folder".into(), "name a file inside it"));
        }
        Ok(Target { path: path.to_path_buf(), root, folder: folder.to_path_buf(), name, layer, old })
    }

    fn known_cut(&self, images: &[PathBuf]) -> Option<Cutting> {
        let image = relative(images.first()?, &self.folder).ok()?;
        known_cut(self.old.as_deref()?, &image)
    }

    /// Writes the starter, or adds to the file what it lacks; says what was done.
    fn write(&self, args: &SheetArgs, groups: &[PictureGroup]) -> Result<String, Failure> {
        let inside = |path: &Path| path.canonicalize().is_ok_and(|real| real.starts_with(&self.root));
        if let Some(outside) = groups.iter().flat_map(|group| &group.seen).find(|seen| !inside(&seen.path)) {
            let hint = format!("copy it to {} first; projects keep their files inside", self.folder.display());
            return Err(Problems::from(
                Problem::of_file(&outside.path, "lies outside the project's folder").with_hint(hint),
            )
            .into());
        }
        let pictures = &args.pictures;
        let naming = Naming {
            actor: pictures.name.as_deref().unwrap_or(&self.name),
            folder: &self.folder,
            rows: &pictures.row,
            layer: &self.layer,
            key: pictures.key()?,
            faces: pictures.facing(),
            alpha: pictures.alpha,
        };
        let starter = starter(groups, &naming).map_err(Failure::Usage)?;
        let path = self.path.display();
        let Some(old) = &self.old else {
            let is_beside = self.path.parent().is_some_and(|folder| folder.ends_with("actors"));
            let text = starter.to_text();
            let has_line = is_beside && has_schemas(&self.root);
            let text = if has_line { with_schema_line("actors/it.toml", &text) } else { text };
            write_atomically(&self.path, text.as_bytes())?;
            return Ok(format!(
                "wrote {path}: {}; `finitor fit {}` fits its shapes",
                counted(starter.animations.len(), "animation"),
                self.name
            ));
        };
        let (text, added) = starter.merged_into(old).map_err(|reason| {
            let first = reason.lines().next().unwrap_or("is no TOML").to_string();
            Failure::from(Problems::from(
                Problem::of_file(&self.path, first).with_hint("fix it first; nothing was written"),
            ))
        })?;
        if added.is_empty() {
            return Ok(format!("{path} has all of this already; it was left as it is"));
        }
        write_atomically(&self.path, text.as_bytes())?;
        Ok(format!("added to {path}: {}", added.join(", ")))
    }
}

/// The nearest folder above that exists.
fn existing(folder: &Path) -> &Path {
    folder.ancestors().find(|folder| folder.is_dir()).unwrap_or(Path::new("."))
}

/// The layer for a figure's shapes: the first that looks for something, else the last.
fn figure_layer(layers: &Layers) -> Option<String> {
    let looks = layers.masks.iter().position(|mask| *mask != finitor_core::layers::LayerSet::NONE);
    looks.and_then(|bit| layers.names.get(bit)).or(layers.names.last()).cloned()
}
