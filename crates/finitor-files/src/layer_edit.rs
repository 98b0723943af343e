//! Changing layers and masks in the project's files: in place, all files that need it or none.

use crate::file_change::FileChange;
use crate::layer_uses::{LayerFile, LayerUse, UseKind, layer_files, name_of, project_layer_file};
use crate::layers_toml::is_layer_name;
use crate::problem::{Problem, Problems};
use crate::project::{PROJECT_FILE, Project};
use crate::text_edit::{self, ListText, TextEdit, edited, entry_after, lines_after, renamed};
use crate::toml_table::nearest;
use crate::toml_values::Value;
use finitor_core::layers::{Layers, MAX_LAYERS};
use std::ops::Range;
use std::path::Path;
use toml::Spanned;
use toml::de::{DeTable, DeValue};

fn refused(message: impl Into<String>, hint: impl Into<String>) -> Problems {
    Problem::of_file(Path::new(PROJECT_FILE), message).with_hint(hint).into()
}

fn check_free(layers: &Layers, name: &str) -> Result<(), Problems> {
    if !is_layer_name(name) {
        return Err(refused(format!("\"{name}\" cannot name a layer"), "use letters, digits, _ and -"));
    }
    match layers.named(name) {
        Some(_) => Err(refused(format!("there is a layer or alias \"{name}\" already"), "choose another name")),
        None => Ok(()),
    }
}

fn check_known(layers: &Layers, name: &str) -> Result<(), Problems> {
    if layers.named(name).is_some() {
        return Ok(());
    }
    let aliases = layers.aliases.iter().map(|alias| &alias.name);
    let known: Vec<&str> = layers.names.iter().chain(aliases).map(String::as_str).collect();
    let hint = match nearest(name, &known) {
        Some(near) => format!("did you mean \"{near}\"?"),
        None => format!("there are {}", known.join(", ")),
    };
    Err(refused(format!("there is no layer \"{name}\""), hint))
}

/// Gives a layer or family another name in every file that uses it.
///
/// # Errors
/// A name that is not there, or one that is taken.
pub fn rename_layer(project: &Project, old: &str, new: &str) -> Result<Vec<FileChange>, Problems> {
    check_known(&project.layers, old)?;
    check_free(&project.layers, new)?;
    let changed = layer_files(project)?.into_iter().filter_map(|file| {
        let uses = file.uses.iter().filter(|found| found.name == old);
        let edit = |found: &LayerUse| match file.is_drawing {
            true => TextEdit { span: found.span.clone(), text: new.to_string() },
            false => renamed(&file.text, &found.span, new),
        };
        let edits: Vec<TextEdit> = uses.map(edit).collect();
        (!edits.is_empty()).then(|| change(&file, edits))
    });
    changed.collect()
}

/// Adds a layer; it has the next bit.
///
/// # Errors
/// A name that is taken, or no bit left.
pub fn add_layer(project: &Project, name: &str) -> Result<Vec<FileChange>, Problems> {
    check_free(&project.layers, name)?;
    if project.layers.names.len() == MAX_LAYERS {
        let hint = "put things on layers that there are, or remove one that nothing uses";
        return Err(refused(format!("{MAX_LAYERS} layers fit into a mask, and there are as many"), hint));
    }
    let file = project_layer_file(project)?;
    let parsed = parsed(&file.text)?;
    let edit = match at(&parsed, &["layers", "names"]) {
        Some(found) => push(&file.text, found, &[name.to_string()])?,
        None => match at(&parsed, &["layers"]) {
            Some(table) => vec![lines_after(&file.text, table.span().start, &[&format!("names = [\"{name}\"]")])],
            None => {
                let lines = ["", "[layers]", &format!("names = [\"{name}\"]")];
                vec![lines_after(&file.text, file.text.trim_end().len(), &lines)]
            }
        },
    };
    Ok(vec![change(&file, edit)?])
}

/// Takes a layer out that nothing uses; the layers after it move down a bit.
///
/// # Errors
/// A layer that is not there, or the places that use it.
pub fn remove_layer(project: &Project, name: &str) -> Result<Vec<FileChange>, Problems> {
    check_known(&project.layers, name)?;
    let files = layer_files(project)?;
    let all = files.iter().flat_map(|file| &file.uses).filter(|found| found.name == name);
    let (named, used): (Vec<&LayerUse>, Vec<&LayerUse>) = all.partition(|found| found.kind == UseKind::Named);
    if !used.is_empty() {
        let problems = used.into_iter().map(|found| Problem {
            path: found.path.clone(),
            place: Some(found.place.clone()),
            message: format!("layer \"{name}\" is in use: {}", found.of),
            hint: None,
        });
        return Err(Problems(problems.collect()));
    }
    let file = &files[0];
    let parsed = parsed(&file.text)?;
    let Some(list) = at(&parsed, &["layers", "names"]).filter(|_| project.layers.find(name).is_some()) else {
        let places = named.iter().map(|found| format!("line {}", found.place.line)).collect::<Vec<_>>().join(", ");
        return Err(refused(format!("\"{name}\" is an alias, defined on {places}"), "remove that line by hand"));
    };
    let list = list_text(&file.text, list);
    let gone: Vec<usize> =
        (0..list.items.len()).filter(|&i| named.iter().any(|found| found.span == list.items[i])).collect();
    Ok(vec![change(file, list.without(&gone))?])
}

/// Whose mask is to change.
enum Target<'t> {
    Layer(&'t str),
    Shape(&'t str, &'t str),
    Thing(&'t str, &'t str),
}

/// Adds layers to a mask and drops others from it: a layer's, a shape's (`keeper.body`) or that of a thing on a stage
/// (`pier/bell`). A shape without a mask of its own gets one, from that of its layer.
///
/// # Errors
/// Names that are not there, layers that the mask has already or not, and those it has by an alias.
pub fn set_mask(project: &Project, target: &str, add: &[String], drop: &[String]) -> Result<Vec<FileChange>, Problems> {
    let layers = &project.layers;
    add.iter().chain(drop).try_for_each(|name| check_known(layers, name))?;
    let target = match (target.split_once('.'), target.split_once('/')) {
        (Some((actor, shape)), _) => Target::Shape(actor, shape),
        (_, Some((stage, thing))) => Target::Thing(stage, thing),
        _ => {
            check_known(layers, target)?;
            if layers.find(target).is_none() {
                let hint = "name one of its layers; an alias has no mask of its own";
                return Err(refused(format!("\"{target}\" is an alias"), hint));
            }
            Target::Layer(target)
        }
    };
    let file = file_of(project, &target)?;
    let (mask, on) = masks(&file.text, &target)?;
    let has: Vec<String> = match mask {
        Some(names) => names,
        None => {
            let on =
                on.iter().filter_map(|name| layers.named(name)).fold(Default::default(), |set, found| found.or(set));
            layers.default_mask(on).bits().map(|bit| layers.names[bit].clone()).collect()
        }
    };
    for name in add {
        if has.contains(name) {
            return Err(refused(format!("the mask has {name} already: {}", has.join(", ")), "nothing to add"));
        }
    }
    if let Some(name) = drop.iter().find(|name| !has.contains(name)) {
        let by = has.iter().find(|alias| {
            let known = layers.aliases.iter().find(|known| known.name == **alias);
            known.zip(layers.named(name)).is_some_and(|(known, set)| known.layers.sees(set))
        });
        let message = format!("the mask does not name {name}: it has {}", has.join(", "));
        let hint = match by {
            Some(alias) => format!("it comes with the alias {alias}: remove that and add the layers that should stay"),
            None => "nothing to drop".to_string(),
        };
        return Err(refused(message, hint));
    }
    let text = without_names(&file.text, &target, drop)?;
    let wanted: Vec<String> = has.iter().filter(|name| !drop.contains(name)).chain(add).cloned().collect();
    let after = with_names(&text, &target, add, &wanted)?;
    parsed(&after)?;
    Ok(vec![FileChange { path: file.path, before: file.text.to_string(), after }])
}

fn change(file: &LayerFile, edits: Vec<TextEdit>) -> Result<FileChange, Problems> {
    let after = edited(&file.text, edits);
    if !file.is_drawing {
        parsed(&after)?;
    }
    Ok(FileChange { path: file.path.clone(), before: file.text.to_string(), after })
}

/// The file that holds the target's mask.
fn file_of(project: &Project, target: &Target<'_>) -> Result<LayerFile, Problems> {
    let (table, name) = match target {
        Target::Layer(_) => return project_layer_file(project),
        Target::Shape(actor, _) => ("actor", *actor),
        Target::Thing(stage, _) => ("stage", *stage),
    };
    let files = layer_files(project)?;
    let mut known = Vec::new();
    for file in files.into_iter().filter(|file| !file.is_drawing) {
        let parsed = parsed(&file.text)?;
        let found = at(&parsed, &[table]).and_then(name_of).map(str::to_string);
        if found.as_deref() == Some(name) {
            drop(parsed);
            return Ok(file);
        }
        known.extend(found);
    }
    Err(refused(format!("there is no {table} \"{name}\""), format!("there are: {}", known.join(", "))))
}

fn parsed(text: &str) -> Result<Spanned<DeTable<'_>>, Problems> {
    DeTable::parse(text).map_err(|error| refused(format!("is no TOML: {}", error.message()), "fix it by hand"))
}

/// The value under keys one in another.
fn at<'t>(top: &'t Spanned<DeTable<'t>>, keys: &[&str]) -> Option<&'t Value<'t>> {
    let mut table = top.get_ref();
    let (last, outer) = keys.split_last()?;
    for key in outer {
        match table.get(*key).map(Spanned::get_ref) {
            Some(DeValue::Table(inner)) => table = inner,
            _ => return None,
        }
    }
    table.get(*last)
}

fn list_text<'t>(text: &'t str, value: &Value<'_>) -> ListText<'t> {
    let items = match value.get_ref() {
        DeValue::Array(items) => items.iter().map(Spanned::span).collect(),
        _ => vec![value.span()],
    };
    ListText { text, span: value.span(), items }
}

fn push(text: &str, value: &Value<'_>, names: &[String]) -> Result<Vec<TextEdit>, Problems> {
    match value.get_ref() {
        DeValue::Array(_) => Ok(list_text(text, value).push(names)),
        DeValue::String(one) => {
            let all: Vec<String> =
                std::iter::once(one.as_ref()).chain(names.iter().map(String::as_str)).map(quoted).collect();
            Ok(vec![TextEdit { span: value.span(), text: format!("[{}]", all.join(", ")) }])
        }
        _ => Err(refused("expected a list of layers", "fix it by hand")),
    }
}

fn quoted(name: &str) -> String {
    format!("\"{name}\"")
}

/// The table that the target's mask is an entry of, where there is one.
fn home<'t>(top: &'t Spanned<DeTable<'t>>, target: &Target<'_>) -> Result<Option<&'t Value<'t>>, Problems> {
    match target {
        Target::Layer(_) => Ok(at(top, &["layers", "mask"])),
        Target::Shape(actor, shape) => at(top, &["shape", shape]).map(Some).ok_or_else(|| {
            refused(format!("actor {actor} has no [shape.{shape}]"), "shapes made by part have the mask of their rule")
        }),
        Target::Thing(stage, thing) => {
            let sorts = ["solid", "one_way", "zone"].into_iter();
            let lists = sorts.filter_map(|sort| match top.get_ref().get(sort).map(Spanned::get_ref) {
                Some(DeValue::Array(things)) => Some(things.iter()),
                _ => None,
            });
            let found = lists.flatten().find(|value| name_of(value) == Some(thing));
            found
                .map(Some)
                .ok_or_else(|| refused(format!("stage {stage} has no \"{thing}\""), "see `finitor layers --by shape`"))
        }
    }
}

/// The mask's key in its table.
fn key<'t>(target: &Target<'t>) -> &'t str {
    match target {
        Target::Layer(layer) => layer,
        _ => "mask",
    }
}

fn names(value: &Value<'_>) -> Vec<String> {
    match value.get_ref() {
        DeValue::String(one) => vec![one.to_string()],
        DeValue::Array(items) => items
            .iter()
            .filter_map(|item| match item.get_ref() {
                DeValue::String(name) => Some(name.to_string()),
                _ => None,
            })
            .collect(),
        _ => Vec::new(),
    }
}

fn entry<'t>(home: Option<&'t Value<'t>>, key: &str) -> Option<&'t Value<'t>> {
    match home.map(Spanned::get_ref) {
        Some(DeValue::Table(table)) => table.get(key),
        _ => None,
    }
}

/// The names that the mask lists, where the file gives one, and the layers that the target is on.
fn masks(text: &str, target: &Target<'_>) -> Result<(Option<Vec<String>>, Vec<String>), Problems> {
    let top = parsed(text)?;
    let home = home(&top, target)?;
    let on = entry(home, "layer").map(names).unwrap_or_default();
    let none = matches!(target, Target::Layer(_)).then(Vec::new);
    Ok((entry(home, key(target)).map(names).or(none), on))
}

/// The text with names dropped from the mask.
fn without_names(text: &str, target: &Target<'_>, drop: &[String]) -> Result<String, Problems> {
    let top = parsed(text)?;
    let home = home(&top, target)?;
    let Some(value) = entry(home, key(target)).filter(|_| !drop.is_empty()) else {
        return Ok(text.to_string());
    };
    let listed = names(value);
    let gone: Vec<usize> = (0..listed.len()).filter(|&i| drop.contains(&listed[i])).collect();
    let edits = match value.get_ref() {
        DeValue::Array(_) => list_text(text, value).without(&gone),
        _ if gone.is_empty() => Vec::new(),
        _ => vec![TextEdit { span: value.span(), text: "[]".into() }],
    };
    Ok(edited(text, edits))
}

/// The text with names added to the mask, or, where it gives none, with all that it is to have.
fn with_names(text: &str, target: &Target<'_>, add: &[String], wanted: &[String]) -> Result<String, Problems> {
    let top = parsed(text)?;
    let home = home(&top, target)?;
    if let Some(value) = entry(home, key(target)) {
        return Ok(edited(text, push(text, value, add)?));
    }
    let list: Vec<String> = wanted.iter().map(|name| quoted(name)).collect();
    let line = format!("{} = [{}]", text_edit::key(key(target)), list.join(", "));
    let edit = match home {
        Some(found) => match last_entry(found) {
            Some((key, value)) => entry_after(text, &key, &value, &line),
            None => lines_after(text, found.span().start, &[&line]),
        },
        None => {
            let after = at(&top, &["layers", "names"]).map_or(text.trim_end().len(), |names| names.span().end);
            let after = at(&top, &["layers"]).and_then(last_entry).map_or(after, |(_, value)| value.end);
            lines_after(text, after, &["", "[layers.mask]", &line])
        }
    };
    Ok(edited(text, vec![edit]))
}

/// The last entry of a table that is no table with a header of its own: key and value.
fn last_entry(table: &Value<'_>) -> Option<(Range<usize>, Range<usize>)> {
    let DeValue::Table(entries) = table.get_ref() else { return None };
    let plain = entries.iter().filter(|(_, value)| !matches!(value.get_ref(), DeValue::Table(_)));
    plain.map(|(key, value)| (key.span(), value.span())).max_by_key(|(_, value)| value.end)
}
