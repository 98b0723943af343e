//! Frames as files of a folder: which files a pattern names, in which order.

use crate::paths::resolve;
use std::cmp::Ordering;
use std::path::{Path, PathBuf};

/// Most files that one animation may have.
const MOST: usize = 20_000;

/// Part maps lie beside the art; a pattern for the art does not mean them.
const PART_MAP: &str = ".parts.";

/// The files that a pattern names, in natural order: numbers within names count as numbers, so 2 comes before 10.
/// Part maps are left out unless the pattern names them.
///
/// # Errors
/// What is wrong with the pattern or with a file, in words.
pub(crate) fn matching(root: &Path, base: &Path, pattern: &str) -> Result<Vec<PathBuf>, String> {
    let rooted = resolve(root, base, pattern)?;
    let (folder, name) = (rooted.parent().unwrap_or(base), rooted.file_name().unwrap_or_default());
    let mut names = Vec::new();
    for folder in folders(root, folder)? {
        for name in names_in(root, base, &folder, &name.to_string_lossy())? {
            names.push((folder.clone(), name));
            if names.len() > MOST {
                return Err(format!("\"{pattern}\" names more than {MOST} files"));
            }
        }
    }
    Ok(names.into_iter().map(|(folder, name)| folder.join(name)).collect())
}

/// The folders that a pattern names, in natural order: one, unless there are wild letters in it.
fn folders(root: &Path, folder: &Path) -> Result<Vec<PathBuf>, String> {
    // The project folder's own name may hold characters that mean something in a pattern.
    let below = folder.strip_prefix(root).unwrap_or(folder);
    if !below.to_string_lossy().contains(['*', '?', '[']) {
        return Ok(vec![folder.to_path_buf()]);
    }
    let whole = Path::new(&glob::Pattern::escape(&root.to_string_lossy())).join(below);
    let found = glob::glob(&whole.to_string_lossy()).map_err(|error| format!("is no file pattern: {error}"))?;
    let mut folders: Vec<PathBuf> = found.filter_map(Result::ok).filter(|path| path.is_dir()).collect();
    folders.sort_by(|a, b| natural_order(&a.to_string_lossy(), &b.to_string_lossy()));
    Ok(folders)
}

/// The names of a folder's files that a pattern matches, in natural order.
fn names_in(root: &Path, base: &Path, folder: &Path, pattern: &str) -> Result<Vec<String>, String> {
    let inside = |path: &Path| resolve(root, base, &path.strip_prefix(base).unwrap_or(path).to_string_lossy());
    let wanted = glob::Pattern::new(pattern).map_err(|error| format!("is no file pattern: {error}"))?;
    inside(folder)?;
    // The path of the folder one is in may be written as nothing at all.
    let here = if folder.as_os_str().is_empty() { Path::new(".") } else { folder };
    let Ok(entries) = std::fs::read_dir(here) else {
        return Ok(Vec::new());
    };
    let mut names = Vec::new();
    for entry in entries.filter_map(Result::ok) {
        let name = entry.file_name().to_string_lossy().into_owned();
        if !wanted.matches(&name) || (name.contains(PART_MAP) && !pattern.contains(PART_MAP)) {
            continue;
        }
        // A file can lead out of the project only by being a link.
        let kind = entry.file_type();
        if kind.as_ref().is_ok_and(std::fs::FileType::is_symlink) {
            inside(&entry.path())?;
        }
        if kind.is_ok_and(|kind| kind.is_file()) || entry.path().is_file() {
            names.push(name);
        }
    }
    names.sort_by(|a, b| natural_order(a, b));
    Ok(names)
}

/// Whether a pattern for frames takes a file name.
pub fn name_matches(pattern: &str, name: &str) -> bool {
    let matches = glob::Pattern::new(pattern).is_ok_and(|pattern| pattern.matches(name));
    matches && (!name.contains(PART_MAP) || pattern.contains(PART_MAP))
}

/// Compares names with numbers in them: runs of digits by their value, all else by its letters.
pub fn natural_order(one: &str, other: &str) -> Ordering {
    let (mut a, mut b) = (one, other);
    while let (Some(x), Some(y)) = (a.chars().next(), b.chars().next()) {
        let order = if x.is_ascii_digit() && y.is_ascii_digit() {
            let (first, second) = (digits(a), digits(b));
            a = &a[first.len()..];
            b = &b[second.len()..];
            let (first, second) = (first.trim_start_matches('0'), second.trim_start_matches('0'));
            first.len().cmp(&second.len()).then_with(|| first.cmp(second))
        } else {
            a = &a[x.len_utf8()..];
            b = &b[y.len_utf8()..];
            x.cmp(&y)
        };
        if order != Ordering::Equal {
            return order;
        }
    }
    // Names that differ only in leading zeros still have one order.
    a.len().cmp(&b.len()).then_with(|| one.cmp(other))
}

fn digits(text: &str) -> &str {
    let end = text.find(|c: char| !c.is_ascii_digit()).unwrap_or(text.len());
    &text[..end]
}

#[cfg(test)]
mod tests {
    use super::natural_order;

    #[test]
    fn numbers_in_names_count_as_numbers() {
        let mut names = ["walk_10", "walk_2", "walk_02", "walk_1b", "walk_1", "idle_99999999999999999999", "walk"];
        names.sort_by(|a, b| natural_order(a, b));
        assert_eq!(names, ["idle_99999999999999999999", "walk", "walk_1", "walk_1b", "walk_02", "walk_2", "walk_10"]);
    }
}
