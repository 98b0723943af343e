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
    // The project folder's own name may hold characters that mean something in a pattern.
    let below = rooted.strip_prefix(root).unwrap_or(&rooted);
    let escaped = glob::Pattern::escape(&root.to_string_lossy());
    let whole = Path::new(&escaped).join(below);
    let found = glob::glob(&whole.to_string_lossy()).map_err(|error| format!("is no file pattern: {error}"))?;
    let mut paths = Vec::new();
    for path in found.filter_map(Result::ok) {
        let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
        if !path.is_file() || (name.contains(PART_MAP) && !pattern.contains(PART_MAP)) {
            continue;
        }
        let inside = path.strip_prefix(base).unwrap_or(&path).to_string_lossy().into_owned();
        resolve(root, base, &inside)?;
        if paths.len() == MOST {
            return Err(format!("\"{pattern}\" names more than {MOST} files"));
        }
        paths.push(path);
    }
    paths.sort_by(|a, b| natural_order(&a.to_string_lossy(), &b.to_string_lossy()));
    Ok(paths)
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
