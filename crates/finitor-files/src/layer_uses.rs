//! Where layers are named: every place in the project's files, found without reading any art.

use crate::problem::{Place, Problem, Problems};
use crate::project::{PROJECT_FILE, Project};
use crate::tiles_toml::stage_drawing;
use crate::toml_table::Document;
use crate::toml_values::Value;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// What a layer's name does at a place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum UseKind {
    /// It is given its bit there, or a family its layers.
    Named,
    /// Something is on it.
    On,
    /// Something looks for it.
    Looked,
    /// It is the layer whose shapes are spoken of.
    Subject,
}

/// A layer's or family's name at a place.
#[derive(Clone, Debug)]
pub struct LayerUse {
    /// The file.
    pub path: PathBuf,
    /// The name.
    pub name: String,
    /// What it does there.
    pub kind: UseKind,
    /// The place in words: `the mask of [shape.body]`.
    pub words: String,
    /// The place.
    pub place: Place,
    pub(crate) span: Range<usize>,
}

/// A file that may name layers.
pub(crate) struct LayerFile {
    pub(crate) path: PathBuf,
    pub(crate) text: Arc<str>,
    pub(crate) uses: Vec<LayerUse>,
    /// Whether it is a drawing, in which names stand bare in the words of a class; else it is TOML.
    pub(crate) is_drawing: bool,
}

/// All files of a project that may name layers, the project file first.
///
/// # Errors
/// Files that cannot be read or are no TOML.
pub(crate) fn layer_files(project: &Project) -> Result<Vec<LayerFile>, Problems> {
    let head = std::iter::once((project.root.join(PROJECT_FILE), Sort::Project));
    let actors = project.actors.iter().map(|path| (path.clone(), Sort::Actor));
    let stages = project.stages.iter().map(|path| (path.clone(), Sort::Stage));
    let mut problems = Problems::default();
    let files = head.chain(actors).chain(stages).filter_map(|(path, sort)| problems.take(layer_file(&path, sort)));
    let mut files: Vec<LayerFile> = files.collect();
    let drawings = project.stages.iter().filter_map(|stage| stage_drawing(stage));
    files.extend(drawings.filter_map(|path| problems.take(drawing_file(&path))));
    problems.or(files)
}

/// The project file alone.
///
/// # Errors
/// As [`layer_files`].
pub(crate) fn project_layer_file(project: &Project) -> Result<LayerFile, Problems> {
    layer_file(&project.root.join(PROJECT_FILE), Sort::Project)
}

/// Every place at which the project's files name a layer.
///
/// # Errors
/// Files that cannot be read or are no TOML.
pub fn layer_uses(project: &Project) -> Result<Vec<LayerUse>, Problems> {
    Ok(layer_files(project)?.into_iter().flat_map(|file| file.uses).collect())
}

#[derive(Clone, Copy)]
enum Sort {
    Project,
    Actor,
    Stage,
}

fn layer_file(path: &Path, sort: Sort) -> Result<LayerFile, Problems> {
    let doc = Document::open(path)?;
    let text = doc.text();
    let parsed = doc.parse(&text)?;
    let mut walk = Walk { path, text: &text, uses: Vec::new() };
    match sort {
        Sort::Project => walk.project(parsed.get_ref()),
        Sort::Actor => {
            for (name, shape) in entries(parsed.get_ref(), "shape") {
                walk.thing(shape, &format!("[shape.{name}]"));
            }
        }
        Sort::Stage => walk.stage(parsed.get_ref()),
    }
    walk.uses.sort_by_key(|found| found.span.start);
    Ok(LayerFile { path: path.to_path_buf(), uses: walk.uses, text: Arc::clone(&text), is_drawing: false })
}

/// The words `on-NAME` and `sees-NAME` of a drawing's classes.
fn drawing_file(path: &Path) -> Result<LayerFile, Problems> {
    let text =
        std::fs::read_to_string(path).map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
    let text: Arc<str> = text.into();
    let mut walk = Walk { path, text: &text, uses: Vec::new() };
    // What is no SVG is told where the stage is read.
    if let Ok(document) = roxmltree::Document::parse(&text) {
        let classes = document.descendants().filter_map(|node| node.attribute_node("class"));
        for class in classes {
            let whole = class.range_value();
            let words = text[whole.clone()].split_ascii_whitespace();
            for word in words {
                // A word is a part of the text: its place there is where it begins.
                let start = whole.start + (word.as_ptr() as usize - text[whole.clone()].as_ptr() as usize);
                for (prefix, kind) in [("on-", UseKind::On), ("sees-", UseKind::Looked)] {
                    if let Some(name) = word.strip_prefix(prefix) {
                        walk.add(
                            name,
                            start + prefix.len()..start + word.len(),
                            kind,
                            &format!("the class word {word}"),
                        );
                    }
                }
            }
        }
    }
    Ok(LayerFile { path: path.to_path_buf(), uses: walk.uses, text: Arc::clone(&text), is_drawing: true })
}

/// The entries of a table in a table.
fn entries<'t>(table: &'t DeTable<'t>, key: &str) -> Vec<(String, &'t Value<'t>)> {
    match table.get(key).map(Spanned::get_ref) {
        Some(DeValue::Table(inner)) => inner.iter().map(|(name, value)| (name.get_ref().to_string(), value)).collect(),
        _ => Vec::new(),
    }
}

struct Walk<'w> {
    path: &'w Path,
    text: &'w Arc<str>,
    uses: Vec<LayerUse>,
}

impl Walk<'_> {
    fn add(&mut self, name: &str, span: Range<usize>, kind: UseKind, words: &str) {
        let (path, place) = (self.path.to_path_buf(), Place::new(self.text, span.clone()));
        self.uses.push(LayerUse { path, name: name.to_string(), kind, words: words.to_string(), place, span });
    }

    /// One name or a list of them.
    fn list(&mut self, value: &Value<'_>, kind: UseKind, words: &str) {
        match value.get_ref() {
            DeValue::String(name) => self.add(name, value.span(), kind, words),
            DeValue::Array(items) => items.iter().for_each(|item| {
                if let DeValue::String(name) = item.get_ref() {
                    self.add(name, item.span(), kind, words);
                }
            }),
            _ => {}
        }
    }

    /// The keys of a table, each a layer's name or a family's.
    fn keys(&mut self, table: &Value<'_>, kind: UseKind, words: &str) {
        if let DeValue::Table(table) = table.get_ref() {
            table.keys().for_each(|key| self.add(key.get_ref(), key.span(), kind, words));
        }
    }

    fn project(&mut self, top: &DeTable<'_>) {
        let Some(DeValue::Table(layers)) = top.get("layers").map(Spanned::get_ref) else {
            return;
        };
        if let Some(names) = layers.get("names") {
            self.list(names, UseKind::Named, "the names of [layers]");
        }
        if let Some(families) = layers.get("family") {
            self.keys(families, UseKind::Named, "[layers.family]");
        }
        for (family, members) in entries(layers, "family") {
            self.list(members, UseKind::Subject, &format!("the family {family}"));
        }
        if let Some(masks) = layers.get("mask") {
            self.keys(masks, UseKind::Subject, "[layers.mask]");
        }
        for (layer, mask) in entries(layers, "mask") {
            self.list(mask, UseKind::Looked, &format!("the mask of {layer} in [layers.mask]"));
        }
        for (state, changes) in entries(layers, "state") {
            let title = format!("[layers.state.{state}]");
            self.keys(changes, UseKind::Subject, &title);
            let DeValue::Table(changes) = changes.get_ref() else { continue };
            for (layer, change) in changes {
                let DeValue::Table(change) = change.get_ref() else { continue };
                for (key, names) in change {
                    let kind = if key.get_ref() == "join" { UseKind::On } else { UseKind::Looked };
                    let words = format!("`{}` of {} in {title}", key.get_ref(), layer.get_ref());
                    self.list(names, kind, &words);
                }
            }
        }
    }

    /// What has a layer and a mask.
    fn thing(&mut self, value: &Value<'_>, title: &str) {
        let DeValue::Table(table) = value.get_ref() else { return };
        if let Some(layer) = table.get("layer") {
            self.list(layer, UseKind::On, &format!("the layer of {title}"));
        }
        if let Some(mask) = table.get("mask") {
            self.list(mask, UseKind::Looked, &format!("the mask of {title}"));
        }
    }

    fn stage(&mut self, top: &DeTable<'_>) {
        for (key, title, names) in
            [("stage", "[stage]", &["border_layer"][..]), ("tiles", "[tiles]", &["layer", "one_way_layer"][..])]
        {
            for (name, value) in entries(top, key).into_iter().filter(|(name, _)| names.contains(&name.as_str())) {
                self.list(value, UseKind::On, &format!("`{name}` of {title}"));
            }
        }
        for (sort, value) in entries(top, "defaults") {
            self.thing(value, &format!("[defaults.{sort}]"));
        }
        for sort in ["solid", "one_way", "zone"] {
            let Some(DeValue::Array(things)) = top.get(sort).map(Spanned::get_ref) else { continue };
            for thing in things {
                let name = name_of(thing).unwrap_or_default();
                self.thing(thing, &format!("[[{sort}]] {name}"));
            }
        }
    }
}

/// The `name` of a thing.
pub(crate) fn name_of<'t>(thing: &'t Value<'t>) -> Option<&'t str> {
    match thing.get_ref() {
        DeValue::Table(table) => match table.get("name").map(Spanned::get_ref) {
            Some(DeValue::String(name)) => Some(name),
            _ => None,
        },
        _ => None,
    }
}
