//! Where layers are named: every place in the project's files, found without reading any art.

use crate::problem::{Place, Problem, Problems};
use crate::project::{PROJECT_FILE, Project};
use crate::tiles_toml::stage_drawing;
use crate::toml_table::Document;
use crate::toml_values::Value;
use std::fmt;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

/// What a layer's name does at a place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum UseKind {
    /// It is given its bit there, or an alias its layers.
    Named,
    /// Something is on it.
    On,
    /// Something looks for it.
    Looked,
    /// It is the layer whose shapes are spoken of.
    Subject,
}

/// Where a layer's name stands.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum UseOf {
    /// `names` of `[layers]`.
    LayerNames,
    /// A key of `[layers.alias]`.
    Aliases,
    /// The layers of an alias.
    AliasMembers(String),
    /// A key of `[layers.mask]`.
    ProjectMasks,
    /// The mask of a layer in `[layers.mask]`.
    MaskOfLayer(String),
    /// A key of `[layers.state.NAME]`.
    State(String),
    /// What a state changes of a layer: the key, the layer, the state.
    StateChange {
        /// `add`, `drop`, `join` or `leave`.
        key: String,
        /// The layer.
        layer: String,
        /// The state.
        state: String,
    },
    /// The layer of a shape or a thing.
    LayerOf(UseOwner),
    /// The mask of a shape or a thing.
    MaskOf(UseOwner),
    /// A key of a table of a stage file.
    StageKey {
        /// The table.
        table: String,
        /// The key.
        key: String,
    },
    /// A word of a class in a drawing.
    ClassWord(String),
}

/// What has a layer and a mask.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum UseOwner {
    /// `[shape.NAME]`.
    Shape(String),
    /// `[defaults.SORT]`.
    Default(String),
    /// `[[SORT]]` with a name.
    Thing {
        /// `solid`, `one_way` or `zone`.
        sort: String,
        /// Its name; empty without one.
        name: String,
    },
}

impl fmt::Display for UseOwner {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            UseOwner::Shape(name) => write!(f, "[shape.{name}]"),
            UseOwner::Default(sort) => write!(f, "[defaults.{sort}]"),
            UseOwner::Thing { sort, name } => write!(f, "[[{sort}]] {name}"),
        }
    }
}

impl fmt::Display for UseOf {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            UseOf::LayerNames => f.write_str("the names of [layers]"),
            UseOf::Aliases => f.write_str("[layers.alias]"),
            UseOf::AliasMembers(alias) => write!(f, "the alias {alias}"),
            UseOf::ProjectMasks => f.write_str("[layers.mask]"),
            UseOf::MaskOfLayer(layer) => write!(f, "the mask of {layer} in [layers.mask]"),
            UseOf::State(state) => write!(f, "[layers.state.{state}]"),
            UseOf::StateChange { key, layer, state } => write!(f, "`{key}` of {layer} in [layers.state.{state}]"),
            UseOf::LayerOf(owner) => write!(f, "the layer of {owner}"),
            UseOf::MaskOf(owner) => write!(f, "the mask of {owner}"),
            UseOf::StageKey { table, key } => write!(f, "`{key}` of {table}"),
            UseOf::ClassWord(word) => write!(f, "the class word {word}"),
        }
    }
}

/// A layer's or alias's name at a place.
#[derive(Clone, Debug)]
pub struct LayerUse {
    /// The file.
    pub path: PathBuf,
    /// The name.
    pub name: String,
    /// What it does there.
    pub kind: UseKind,
    /// Where it stands.
    pub of: UseOf,
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
                walk.thing(shape, &UseOwner::Shape(name));
            }
        }
        Sort::Stage => walk.stage(parsed.get_ref()),
    }
    walk.uses.sort_by_key(|found| found.span.start);
    Ok(LayerFile { path: path.to_path_buf(), uses: walk.uses, text: Arc::clone(&text), is_drawing: false })
}

/// The words `on-NAME` and `detects-NAME` of a drawing's classes.
fn drawing_file(path: &Path) -> Result<LayerFile, Problems> {
    let text =
        std::fs::read_to_string(path).map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
    let text: Arc<str> = text.into();
    let mut walk = Walk { path, text: &text, uses: Vec::new() };
    // What is not SVG is reported where the stage is read.
    if let Ok(document) = roxmltree::Document::parse(&text) {
        let classes = document.descendants().filter_map(|node| node.attribute_node("class"));
        for class in classes {
            let whole = class.range_value();
            let words = text[whole.clone()].split_ascii_whitespace();
            for word in words {
                // A word is a part of the text: its place there is where it begins.
                let start = whole.start + (word.as_ptr() as usize - text[whole.clone()].as_ptr() as usize);
                for (prefix, kind) in [("on-", UseKind::On), ("detects-", UseKind::Looked)] {
                    if let Some(name) = word.strip_prefix(prefix) {
                        walk.add(
                            name,
                            start + prefix.len()..start + word.len(),
                            kind,
                            &UseOf::ClassWord(word.to_string()),
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
    fn add(&mut self, name: &str, span: Range<usize>, kind: UseKind, of: &UseOf) {
        let (path, place) = (self.path.to_path_buf(), Place::new(self.text, span.clone()));
        self.uses.push(LayerUse { path, name: name.to_string(), kind, of: of.clone(), place, span });
    }

    /// One name or a list of them.
    fn list(&mut self, value: &Value<'_>, kind: UseKind, of: &UseOf) {
        match value.get_ref() {
            DeValue::String(name) => self.add(name, value.span(), kind, of),
            DeValue::Array(items) => items.iter().for_each(|item| {
                if let DeValue::String(name) = item.get_ref() {
                    self.add(name, item.span(), kind, of);
                }
            }),
            _ => {}
        }
    }

    /// The keys of a table, each a layer's name or an alias's.
    fn keys(&mut self, table: &Value<'_>, kind: UseKind, of: &UseOf) {
        if let DeValue::Table(table) = table.get_ref() {
            table.keys().for_each(|key| self.add(key.get_ref(), key.span(), kind, of));
        }
    }

    fn project(&mut self, top: &DeTable<'_>) {
        let Some(DeValue::Table(layers)) = top.get("layers").map(Spanned::get_ref) else {
            return;
        };
        if let Some(names) = layers.get("names") {
            self.list(names, UseKind::Named, &UseOf::LayerNames);
        }
        if let Some(aliases) = layers.get("alias") {
            self.keys(aliases, UseKind::Named, &UseOf::Aliases);
        }
        for (alias, members) in entries(layers, "alias") {
            self.list(members, UseKind::Subject, &UseOf::AliasMembers(alias));
        }
        if let Some(masks) = layers.get("mask") {
            self.keys(masks, UseKind::Subject, &UseOf::ProjectMasks);
        }
        for (layer, mask) in entries(layers, "mask") {
            self.list(mask, UseKind::Looked, &UseOf::MaskOfLayer(layer));
        }
        for (state, changes) in entries(layers, "state") {
            self.keys(changes, UseKind::Subject, &UseOf::State(state.clone()));
            let DeValue::Table(changes) = changes.get_ref() else { continue };
            for (layer, change) in changes {
                let DeValue::Table(change) = change.get_ref() else { continue };
                for (key, names) in change {
                    let kind = if key.get_ref() == "join" { UseKind::On } else { UseKind::Looked };
                    let (key, layer) = (key.get_ref().to_string(), layer.get_ref().to_string());
                    self.list(names, kind, &UseOf::StateChange { key, layer, state: state.clone() });
                }
            }
        }
    }

    /// What has a layer and a mask.
    fn thing(&mut self, value: &Value<'_>, owner: &UseOwner) {
        let DeValue::Table(table) = value.get_ref() else { return };
        if let Some(layer) = table.get("layer") {
            self.list(layer, UseKind::On, &UseOf::LayerOf(owner.clone()));
        }
        if let Some(mask) = table.get("mask") {
            self.list(mask, UseKind::Looked, &UseOf::MaskOf(owner.clone()));
        }
    }

    fn stage(&mut self, top: &DeTable<'_>) {
        for (key, title, names) in
            [("stage", "[stage]", &["border_layer"][..]), ("tiles", "[tiles]", &["layer", "one_way_layer"][..])]
        {
            for (name, value) in entries(top, key).into_iter().filter(|(name, _)| names.contains(&name.as_str())) {
                self.list(value, UseKind::On, &UseOf::StageKey { table: title.to_string(), key: name });
            }
        }
        for (sort, value) in entries(top, "defaults") {
            self.thing(value, &UseOwner::Default(sort));
        }
        for sort in ["solid", "one_way", "zone"] {
            let Some(DeValue::Array(things)) = top.get(sort).map(Spanned::get_ref) else { continue };
            for thing in things {
                let name = name_of(thing).unwrap_or_default();
                self.thing(thing, &UseOwner::Thing { sort: sort.to_string(), name: name.to_string() });
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
