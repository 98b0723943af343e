//! The line on top of TOML files by which editors find the schema, and the schemas beside them.

use super::schema::text_of;
use finitor_app::Failure;
use finitor_files::write_atomically;
use std::path::Path;

/// The folder of a project that holds them.
const FOLDER: &str = "schemas";

/// A file's schema, and the way to it from the file.
fn schema_of(path: &str) -> Option<(&'static str, &'static str)> {
    match path {
        "finitor.toml" => Some(("project", "")),
        _ if path.starts_with("actors/") && path.ends_with(".toml") => Some(("actor", "../")),
        _ if path.starts_with("stages/") && path.ends_with(".toml") => Some(("stage", "../")),
        _ => None,
    }
}

/// A file's text with the line on top that editors read; other files stay as they are.
pub(super) fn with_schema_line(path: &str, text: &str) -> String {
    match schema_of(path) {
        Some((name, up)) => format!("#:schema {up}{FOLDER}/{name}.json\n{text}"),
        None => text.to_string(),
    }
}

/// Writes the schemas that the lines name.
pub(super) fn write_schemas(project: &Path) -> Result<(), Failure> {
    for name in ["project", "actor", "stage"] {
        write_atomically(&project.join(FOLDER).join(format!("{name}.json")), text_of(name)?.as_bytes())?;
    }
    Ok(())
}

/// Whether a project has them.
pub(super) fn has_schemas(project: &Path) -> bool {
    project.join(FOLDER).join("actor.json").is_file()
}
