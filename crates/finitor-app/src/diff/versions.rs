//! Versions to compare: files, folders, and what a repository holds.

use super::shown;
use crate::failure::Failure;
use crate::results::{CHECK_SCHEMA, CheckResult};
use finitor_files::{
    FITS_SCHEMA, FITS_SCHEMA_BEFORE, FitsFile, Problem, Problems, Project, fits_path, parse_fits, read_fits,
};
use serde_json::Value;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;

/// Where a version is.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum VersionName {
    /// A fits file, a result of `check`, or a folder with fits in it.
    Path(PathBuf),
    /// The project's fits at a revision of the repository that it is in.
    Git(String),
}

impl VersionName {
    /// As it is typed: `git:HEAD~1`, or a path.
    pub fn parse(text: &str) -> VersionName {
        match text.strip_prefix("git:") {
            Some(revision) => VersionName::Git(revision.to_string()),
            None => VersionName::Path(PathBuf::from(text)),
        }
    }
}

/// A version that was read.
#[derive(Clone, Debug)]
pub struct Version {
    /// As it was named.
    pub name: String,
    /// Fits by actor.
    pub fits: BTreeMap<String, FitsFile>,
    /// What a check found, where it is that.
    pub check: Option<CheckResult>,
}

/// Folders deeper than this hold no fits of a project.
const MOST_DEPTH: usize = 8;

impl Version {
    /// Reads a version; `project` is the folder whose repository is asked.
    ///
    /// # Errors
    /// What cannot be read, is neither fits nor a check's result, or holds none.
    pub fn read(name: &VersionName, project: &Path) -> Result<Version, Failure> {
        match name {
            VersionName::Git(revision) => of_revision(revision, project),
            VersionName::Path(path) if path.is_dir() => of_folder(path),
            VersionName::Path(path) => of_file(path),
        }
    }

    fn of_fits(name: String, all: Vec<FitsFile>) -> Version {
        let fits = all.into_iter().map(|fits| (fits.actor.clone(), fits)).collect();
        Version { name, fits, check: None }
    }
}

fn wrong(path: &Path, message: impl Into<String>) -> Failure {
    Problems::from(Problem::of_file(path, message)).into()
}

fn of_file(path: &Path) -> Result<Version, Failure> {
    let text = std::fs::read_to_string(path).map_err(|error| wrong(path, format!("cannot be read: {error}")))?;
    let value: Value = serde_json::from_str(&text).map_err(|error| wrong(path, format!("is no JSON: {error}")))?;
    match value["schema"].as_str() {
        Some(FITS_SCHEMA | FITS_SCHEMA_BEFORE) => {
            let fits = read_fits(path)?;
            Ok(Version::of_fits(shown(path), fits.into_iter().collect()))
        }
        Some(CHECK_SCHEMA) => {
            let check = serde_json::from_value(value).map_err(|error| wrong(path, format!("is no result: {error}")))?;
            Ok(Version { name: shown(path), fits: BTreeMap::new(), check: Some(check) })
        }
        other => {
            let found =
                other.map_or_else(|| "has no `schema`".to_string(), |other| format!("has the schema \"{other}\""));
            Err(wrong(
                path,
                format!("{found}; expected {FITS_SCHEMA}, or {CHECK_SCHEMA} of `finitor check --format json`"),
            ))
        }
    }
}

fn of_folder(folder: &Path) -> Result<Version, Failure> {
    let mut paths = Vec::new();
    if folder.join("finitor.toml").is_file() {
        // A project: what its actors have, and not what else lies about in it.
        paths.extend(Project::load(folder)?.actors.iter().map(|path| fits_path(path)).filter(|path| path.is_file()));
    } else {
        find_fits(folder, 0, &mut paths);
    }
    paths.sort();
    if paths.is_empty() {
        return Err(wrong(folder, "holds no *.fits.json"));
    }
    let mut problems = Problems::default();
    let all = paths.iter().filter_map(|path| problems.take(read_fits(path)).flatten()).collect();
    let version = Version::of_fits(shown(folder), all);
    Ok(problems.or(version)?)
}

fn find_fits(folder: &Path, depth: usize, found: &mut Vec<PathBuf>) {
    for path in std::fs::read_dir(folder).into_iter().flatten().filter_map(Result::ok).map(|entry| entry.path()) {
        let name = path.file_name().unwrap_or_default().to_string_lossy().into_owned();
        if path.is_dir() && depth < MOST_DEPTH && !name.starts_with('.') {
            find_fits(&path, depth + 1, found);
        } else if name.ends_with(".fits.json") {
            found.push(path);
        }
    }
}

/// Asks the git program, which must be installed.
fn git(project: &Path, args: &[&str]) -> Result<Vec<u8>, Failure> {
    let output = Command::new("git").arg("-C").arg(project).args(args).output();
    let output =
        output.map_err(|error| Failure::Usage(format!("git cannot be run: {error}; compare with a folder instead")))?;
    if !output.status.success() {
        let said = String::from_utf8_lossy(&output.stderr);
        let said = said.lines().next().unwrap_or("no reason given").trim_start_matches("fatal: ").to_string();
        return Err(Failure::Usage(format!("git {}: {said}", args.join(" "))));
    }
    Ok(output.stdout)
}

fn of_revision(revision: &str, project: &Path) -> Result<Version, Failure> {
    let name = format!("git:{revision}");
    if revision.is_empty() || revision.starts_with('-') {
        return Err(Failure::Usage(format!("\"{name}\" names no revision; write for example git:HEAD~1")));
    }
    let list = git(project, &["ls-tree", "-r", "--name-only", "-z", revision, "--", "."])?;
    let mut all = Vec::new();
    for path in list.split(|byte| *byte == 0).map(String::from_utf8_lossy).filter(|path| path.ends_with(".fits.json")) {
        // Paths are from the project's folder, as the list was.
        let text = git(project, &["show", &format!("{revision}:./{path}")])?;
        let fits = parse_fits(&String::from_utf8_lossy(&text));
        all.push(fits.map_err(|error| {
            Failure::Usage(format!("{path} at {revision} is no fits file of this version: {error}"))
        })?);
    }
    if all.is_empty() {
        return Err(Failure::Usage(format!(
            "{name} holds no *.fits.json of the project; commit the fits to compare with them"
        )));
    }
    Ok(Version::of_fits(name, all))
}
