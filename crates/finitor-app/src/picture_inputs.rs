//! Pictures named one by one or by their folder.

use finitor_files::{Problem, Problems, first_few, natural_order};
use std::path::{Path, PathBuf};

/// A picture that was asked for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PictureInput {
    /// The file.
    pub path: PathBuf,
    /// Where it lies below the folder that was named; its file name where it was named itself.
    pub below: PathBuf,
}

/// Endings of pictures.
const ENDINGS: [&str; 3] = ["png", "apng", "gif"];

/// Whether a file is a picture by its ending.
pub fn is_picture(path: &Path) -> bool {
    path.extension().is_some_and(|ending| ENDINGS.contains(&ending.to_string_lossy().to_lowercase().as_str()))
}

/// The pictures of files and folders, those of a folder in the natural order of their names, with those of the folders in it.
///
/// # Errors
/// A folder without any picture, or one that cannot be read.
pub fn picture_inputs(named: &[PathBuf]) -> Result<Vec<PictureInput>, Problems> {
    let mut found: Vec<PictureInput> = Vec::new();
    for path in named {
        if !path.is_dir() {
            let below = path.file_name().map(PathBuf::from).unwrap_or_default();
            found.push(PictureInput { path: path.clone(), below });
            continue;
        }
        let mut inside = files_in(path, 1)?;
        if inside.is_empty() {
            let problem = Problem::of_file(path, "neither the folder nor one in it holds a picture");
            return Err(problem.with_hint(deeper(path)?).into());
        }
        inside.sort_by(|a, b| natural_order(&a.to_string_lossy(), &b.to_string_lossy()));
        found.extend(inside.into_iter().map(|file| {
            let below = file.strip_prefix(path).map(Path::to_path_buf).unwrap_or_default();
            PictureInput { path: file, below }
        }));
    }
    Ok(found)
}

/// What to name in place of a folder without pictures: those of its folders that have some deeper down.
fn deeper(folder: &Path) -> Result<String, Problems> {
    const LEVELS: usize = 4;
    let first = |file: &PathBuf| {
        Some(file.strip_prefix(folder).ok()?.components().next()?.as_os_str().to_string_lossy().into_owned())
    };
    let mut folders: Vec<String> = files_in(folder, LEVELS)?.iter().filter_map(first).collect();
    folders.sort_by(|a, b| natural_order(a, b));
    folders.dedup();
    Ok(match folders.as_slice() {
        [] => "name a folder with PNG or GIF files in it, or files".to_string(),
        some => format!("pictures lie deeper: name {}", first_few(some, 4, " or ")),
    })
}

/// The pictures in a folder and in its folders, down to some level.
fn files_in(folder: &Path, levels: usize) -> Result<Vec<PathBuf>, Problems> {
    let read = |error: std::io::Error| Problems::from(Problem::of_file(folder, format!("cannot be read: {error}")));
    let mut found = Vec::new();
    for entry in std::fs::read_dir(folder).map_err(read)? {
        let path = entry.map_err(read)?.path();
        if path.is_dir() && levels > 0 {
            found.extend(files_in(&path, levels - 1)?);
        } else if path.is_file() && is_picture(&path) {
            found.push(path);
        }
    }
    Ok(found)
}
