//! Whether an actor's fits are what another fit would write, told without decoding a picture or reading a shape.
//!
//! The first line of a fits file lists the files that went into it, and a hash of their bytes, of the names beside them, and
//! of the shapes as they were written. Where all of it is the same, another fit has nothing to do.

use crate::actor_toml::ActorFile;
use crate::fits_json::{FITS_SCHEMA, FitsFile, Settled, fits_path};
use crate::fits_text::FitsText;
use crate::project::Project;
use crate::survey::short_hash;
use crate::tiles_toml::stage_sources;
use rayon::prelude::*;
use serde::Deserialize;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

/// Fits that another fit would not change.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Settlement {
    /// The actor.
    pub actor: String,
    /// The fits file.
    pub path: PathBuf,
    /// Frames in it.
    pub frames: usize,
    /// Shapes in it.
    pub shapes: usize,
}

/// Other versions of the program may fit otherwise.
const VERSION: &str = concat!("finitor ", env!("CARGO_PKG_VERSION"), " settled 1");

/// Notes in the fits what they were made from; the text that is then theirs. Fits that cannot be noted so are fitted again next
/// time, no more.
///
/// # Errors
/// Those of the JSON writer.
pub fn settle(fits: &mut FitsFile, actor: &ActorFile, project: &Project) -> serde_json::Result<FitsText> {
    let tiles: Vec<PathBuf>;
    let mut paths: BTreeSet<&Path> = BTreeSet::new();
    let config = project.root.join("finitor.toml");
    paths.extend([config.as_path(), actor.path.as_path()]);
    for frame in &actor.frames {
        paths.insert(&frame.source.file.path);
        paths.extend(frame.source.parts.iter().map(|parts| parts.path.as_path()));
    }
    if actor.shapes.iter().any(|shape| shape.height_from.is_some()) {
        tiles = project.stages.iter().flat_map(|stage| stage_sources(stage)).collect();
        paths.extend(project.stages.iter().chain(&tiles).map(PathBuf::as_path));
    }
    let root = std::fs::canonicalize(&project.root).ok();
    let inside = |path: &Path| {
        let path = std::fs::canonicalize(path).ok()?;
        Some(path.strip_prefix(root.as_ref()?).ok()?.to_str()?.to_string())
    };
    let files: Option<Vec<String>> = paths.into_par_iter().map(inside).collect();
    let shapes = fits.frame_lines()?;
    fits.settled = files.and_then(|files| {
        let hash = hash(&project.root, &actor.path, &files, &shapes)?;
        Some(Settled { hash, files })
    });
    fits.text_with(&shapes)
}

/// The first line of a fits file.
#[derive(Deserialize)]
struct Head {
    schema: String,
    actor: String,
    #[serde(default)]
    settled: Option<Settled>,
}

/// An actor's fits, if another fit would not change them; `None` where that is not sure.
///
/// # Complexity
/// O(bytes of the files named).
pub fn settlement(actor_path: &Path, project: &Project) -> Option<Settlement> {
    let path = fits_path(actor_path);
    let text = std::fs::read_to_string(&path).ok()?;
    let (head, shapes) = text.split_once('\n')?;
    let head: Head = serde_json::from_str(&format!("{head}]}}")).ok()?;
    // Those of another program are read, and then refused, by those who want them.
    let settled = head.settled.filter(|_| head.schema == FITS_SCHEMA)?;
    if hash(&project.root, actor_path, &settled.files, shapes.as_bytes())? != settled.hash {
        return None;
    }
    let (mut frames, mut count) = (0, 0);
    for line in shapes.lines() {
        frames += usize::from(line.starts_with(" {"));
        count += usize::from(line.starts_with("  {"));
    }
    Some(Settlement { actor: head.actor, path, frames, shapes: count })
}

/// Hash of the files' bytes, of what lies beside them, and of the shapes; `None` when a file cannot be read.
fn hash(root: &Path, actor_path: &Path, files: &[String], shapes: &[u8]) -> Option<String> {
    let read = |name: &String| Some(short_hash(&std::fs::read(root.join(name)).ok()?));
    let hashes = || files.par_iter().map(read).collect::<Option<Vec<String>>>();
    let (hashes, beside) = rayon::join(hashes, || names_beside(root, actor_path, files));
    let mut all = format!("{VERSION}\n{}\n", short_hash(shapes));
    for (name, hash) in files.iter().zip(hashes?) {
        all.extend([name, " ", &hash, "\n"]);
    }
    all.push_str(&beside?);
    Some(short_hash(all.as_bytes()))
}

/// The names in the files' folders, a line each: new files may match a pattern, and new folders too.
fn names_beside(root: &Path, actor_path: &Path, files: &[String]) -> Option<String> {
    let mut folders: BTreeSet<PathBuf> = BTreeSet::new();
    // Both as given: the listing goes up from the files to the actor's folder.
    let base = actor_path.parent()?;
    let base = root.join(base.strip_prefix(root).unwrap_or(base));
    for name in files {
        let path = root.join(name);
        let mut folder = path.parent();
        while let Some(here) = folder.filter(|here| here.starts_with(&base) && !folders.contains(*here)) {
            folders.insert(here.to_path_buf());
            folder = here.parent();
        }
    }
    let mut all = String::new();
    for folder in folders {
        let entries = std::fs::read_dir(folder).ok()?;
        let mut names: Vec<_> = entries.filter_map(|entry| Some(entry.ok()?.file_name())).collect();
        names.retain(|name| is_picture_or_folder(name));
        names.sort();
        all.push_str(&format!("{names:?}\n"));
    }
    Some(all)
}

/// Names with another ending do not matter: the fits themselves, notes, pictures being drawn from.
fn is_picture_or_folder(name: &std::ffi::OsStr) -> bool {
    let ending = Path::new(name).extension().and_then(|ending| ending.to_str()).unwrap_or_default();
    ending.is_empty() || ["png", "gif", "apng"].iter().any(|known| ending.eq_ignore_ascii_case(known))
}
