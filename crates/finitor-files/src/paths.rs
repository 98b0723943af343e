//! Paths in project files: relative to the file that names them, never out of the project.

use std::path::{Component, Path, PathBuf};

/// Resolves a path written in a file of the folder `base`.
///
/// # Errors
/// The reason, when the path is absolute or leaves the project at `root`.
pub(crate) fn resolve(root: &Path, base: &Path, written: &str) -> Result<PathBuf, String> {
    let outside = || format!("\"{written}\" leaves the project's folder; keep its files inside");
    let mut path = base.to_path_buf();
    for part in Path::new(&written.replace('\\', "/")).components() {
        match part {
            Component::CurDir => {}
            Component::Normal(name) => path.push(name),
            Component::ParentDir => {
                if path == root || !path.pop() {
                    return Err(outside());
                }
            }
            Component::RootDir | Component::Prefix(_) => {
                return Err(format!("\"{written}\" is an absolute path; write it relative to this file"));
            }
        }
    }
    // A link may lead outside although its name does not.
    if let (Ok(real), Ok(real_root)) = (path.canonicalize(), root.canonicalize())
        && !real.starts_with(real_root)
    {
        return Err(outside());
    }
    Ok(path)
}
