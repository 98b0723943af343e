//! The project file, and the files it names.

use crate::layers_toml::layers;
use crate::problem::{Problem, Problems};
use crate::shape_toml::settle;
use crate::toml_table::{Document, Table};
use finitor_core::book;
use finitor_core::check::{Settings, View};
use finitor_core::layers::Layers;
use finitor_core::rule::{Severity, Unit};
use finitor_core::take::YAxis;
use std::path::{Path, PathBuf};

/// Name of the project file.
pub(crate) const PROJECT_FILE: &str = "finitor.toml";

/// A project as its file describes it.
#[derive(Clone, Debug)]
pub struct Project {
    /// The folder of the project file.
    pub root: PathBuf,
    /// Its name.
    pub name: String,
    /// Ticks a second.
    pub tick_rate: f64,
    /// The way y counts in takes and exports.
    pub y_axis: YAxis,
    /// Pixels per exported length unit.
    pub unit: f64,
    /// Layers and masks.
    pub layers: Layers,
    /// Figures for checks.
    pub settings: Settings,
    /// State words of takes that the game uses and no rule of the project names.
    pub states: Vec<String>,
    /// Actor files, sorted.
    pub actors: Vec<PathBuf>,
    /// Stage files, sorted.
    pub stages: Vec<PathBuf>,
}

impl Project {
    /// The nearest folder with a project file, from `start` upward.
    ///
    /// # Errors
    /// A [`Problem`] when there is none.
    pub fn find(start: &Path) -> Result<PathBuf, Problems> {
        let whole = start.canonicalize().unwrap_or_else(|_| start.to_path_buf());
        let found = whole.ancestors().find(|folder| folder.join(PROJECT_FILE).is_file());
        // Keep the path as given where the project is right here, so that messages stay short.
        match found {
            Some(folder) if folder == whole => Ok(start.to_path_buf()),
            Some(folder) => Ok(folder.to_path_buf()),
            None => Err(Problem::of_file(start, format!("no {PROJECT_FILE} here or in any folder above"))
                .with_hint("run `finitor new DIR` for a project of your own or `finitor demo DIR` for the sample, or name one with --project")
                .into()),
        }
    }

    /// Reads the project file in a folder.
    ///
    /// # Errors
    /// All mistakes in it.
    pub fn load(root: &Path) -> Result<Project, Problems> {
        let path = root.join(PROJECT_FILE);
        if !path.is_file() {
            return Err(Problem::of_file(root, format!("there is no {PROJECT_FILE} in this folder"))
                .with_hint("run `finitor new DIR` for a project of your own, or `finitor demo DIR` for the sample")
                .into());
        }
        let doc = Document::open(&path)?;
        let text = doc.text();
        let parsed = doc.parse(&text)?;
        let top = Table::top(&doc, &parsed);
        let head = top.table("project");
        if head.is_none() {
            top.missing_table("[project]");
        }
        let name = head.as_ref().and_then(|t| t.required_string("name", "\"pier\""));
        let tick_rate = head.as_ref().and_then(|t| t.number_from("tick_rate", 1.0, "60"));
        let y_axis = head.as_ref().and_then(|t| t.word("y_axis", &[("down", YAxis::Down), ("up", YAxis::Up)]));
        let view = head.as_ref().and_then(|t| t.word("view", &[("side", View::Side), ("top_down", View::TopDown)]));
        let unit = head.as_ref().and_then(|t| t.number_from("unit", 1e-6, "1.0"));
        let actors = files(&doc, head.as_ref(), root, "actors", "[\"actors/*.toml\"]");
        let stages = files(&doc, head.as_ref(), root, "stages", "[\"stages/*.toml\"]");
        if let Some(head) = &head {
            head.finish();
        }
        let layers = top.table("layers").map(|table| layers(&table)).unwrap_or_default();
        let mut settings = top.table("check").map(|table| settings(&table)).unwrap_or_default();
        settings.set_view(view.map_or(View::Side, |view| view.value));
        let states = top.table("states").map(|table| known_states(&table)).unwrap_or_default();
        top.finish();
        let project = Project {
            root: root.to_path_buf(),
            name: name.map_or_else(String::new, |name| name.value),
            tick_rate: tick_rate.map_or(60.0, |rate| rate.value),
            y_axis: y_axis.map_or(YAxis::Down, |axis| axis.value),
            unit: unit.map_or(1.0, |unit| unit.value),
            layers,
            settings,
            states,
            actors,
            stages,
        };
        doc.finish().or(project)
    }
}

/// `[states]`.
fn known_states(table: &Table<'_>) -> Vec<String> {
    let known = table.strings("known", "[\"attack\", \"hurt\"]").unwrap_or_default();
    table.finish();
    known.into_iter().map(|word| word.value).collect()
}

fn files(doc: &Document, head: Option<&Table<'_>>, root: &Path, key: &'static str, example: &str) -> Vec<PathBuf> {
    let Some(patterns) = head.and_then(|table| table.strings(key, example)) else {
        return Vec::new();
    };
    let mut found = Vec::new();
    for pattern in patterns {
        let path = match crate::paths::resolve(root, root, &pattern.value) {
            Ok(path) => path,
            Err(reason) => {
                doc.wrong(pattern.span, reason, None);
                continue;
            }
        };
        // The root's own name may hold characters that mean something in a pattern.
        let rooted =
            Path::new(&glob::Pattern::escape(&root.to_string_lossy())).join(path.strip_prefix(root).unwrap_or(&path));
        match glob::glob(&rooted.to_string_lossy()) {
            Ok(paths) => {
                let before = found.len();
                for path in paths.filter_map(Result::ok) {
                    match std::fs::metadata(&path) {
                        Ok(is) if is.is_file() => found.push(path),
                        Ok(_) => {}
                        // A link that leads nowhere, or round in a circle.
                        Err(error) => {
                            let name = path.strip_prefix(root).unwrap_or(&path).display().to_string();
                            doc.wrong(pattern.span.clone(), format!("\"{name}\" cannot be read: {error}"), None);
                        }
                    }
                }
                if found.len() == before && !pattern.value.contains(['*', '?', '[']) {
                    doc.wrong(pattern.span, format!("there is no file \"{}\"", pattern.value), None);
                }
            }
            Err(error) => doc.wrong(pattern.span, format!("no file pattern: {error}"), None),
        }
    }
    found.sort();
    found.dedup();
    found
}

/// The keys under `[check]` are those that the rules name.
fn settings(table: &Table<'_>) -> Settings {
    let mut settings = Settings::default();
    for threshold in book::thresholds() {
        let key = threshold.key;
        let example = threshold.default.to_string();
        let value = match threshold.unit {
            Unit::Ticks => {
                let range = threshold.least as i64..threshold.most as i64 + 1;
                table.integer(key, range, &example).map(|found| found.value as f64)
            }
            _ => table.number_from(key, threshold.least, &example).map(|found| found.value),
        };
        if let Some(value) = value {
            settings.set(&threshold, value);
        }
    }
    if let Some(settle) = settle(table) {
        settings.set_settle(settle);
    }
    let words = Severity::ALL.map(|severity| (severity.name(), severity));
    if let Some(rules) = table.table("rules") {
        for rule in book::rules() {
            if let Some(severity) = rules.word(rule.code(), &words) {
                settings.set_severity(rule, severity.value);
            }
        }
        rules.finish();
    }
    table.finish();
    settings
}
