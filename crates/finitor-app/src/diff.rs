//! What changed between two versions: of fits, or of what a check found.

pub(crate) mod checks;
mod fits;
mod versions;

use crate::failure::Failure;
use crate::results::{DIFF_SCHEMA, DiffResult};
use std::path::Path;
pub use versions::{Version, VersionName};

/// Compares two versions.
///
/// # Errors
/// Versions that cannot be read, and two that are not of the same sort.
///
/// # Complexity
/// O(shapes), and that of cutting the geometry of those that differ into convex pieces.
pub fn diff(old: &Version, new: &Version) -> Result<DiffResult, Failure> {
    let mut result = DiffResult {
        schema: DIFF_SCHEMA.to_string(),
        old: old.name.clone(),
        new: new.name.clone(),
        ..DiffResult::default()
    };
    match (&old.check, &new.check) {
        (Some(old), Some(new)) => result.findings = checks::findings(old, new),
        (None, None) => fits::compare(&old.fits, &new.fits, &mut result),
        _ => {
            let message = format!("one of {} and {} is fits, the other what a check found", old.name, new.name);
            return Err(Failure::Usage(message));
        }
    }
    Ok(result)
}

/// A path as it is typed.
fn shown(path: &Path) -> String {
    path.display().to_string()
}
