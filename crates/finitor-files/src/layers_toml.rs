//! `[layers]` of the project file, and lists of layers in all files.

use crate::toml_table::{At, Table, nearest};
use finitor_core::layers::{Alias, Contact, LayerChange, LayerSet, Layers, MAX_LAYERS, StateRule};

/// Reads `[layers]`.
pub(crate) fn layers(table: &Table<'_>) -> Layers {
    let mut layers = Layers::default();
    match table.strings("names", "[\"ground\", \"hero\"]") {
        Some(names) => {
            for (bit, name) in names.iter().enumerate() {
                if bit == MAX_LAYERS {
                    let message = format!("{} layers are named; {MAX_LAYERS} fit into a mask", names.len());
                    table.wrong(name.span.clone(), message, Some("drop the layers from here on".into()));
                    break;
                }
                check_layer_name(table, name, "a layer");
                if layers.find(&name.value).is_some() {
                    table.wrong(name.span.clone(), format!("layer `{}` is named twice", name.value), None);
                }
                layers.names.push(name.value.clone());
            }
        }
        None if !table.has("names") => table.missing("names", "[\"ground\", \"hero\"]"),
        None => {}
    }
    layers.masks = vec![LayerSet::NONE; layers.names.len()];
    aliases(table, &mut layers);
    let contact = table.word("contact", &[("either", Contact::Either), ("both", Contact::Both)]);
    layers.contact = contact.map_or(Contact::Either, |contact| contact.value);
    for (looker, seen) in table.string_lists("mask", "hero = [\"ground\"]") {
        let bit = layer_bit(table, &layers, &looker);
        let mask = layer_set(table, &layers, &seen);
        if let Some(bit) = bit {
            layers.masks[bit] = mask;
        }
    }
    for (name, state) in table.named("state") {
        let rule = StateRule { name: name.value, changes: changes(&state, &layers) };
        layers.states.push(rule);
    }
    table.finish();
    layers
}

/// Aliases may hold aliases that stand above them.
fn aliases(table: &Table<'_>, layers: &mut Layers) {
    let all = table.string_lists("alias", "blockers = [\"ground\", \"crate\"]");
    let names: Vec<String> = all.iter().map(|(name, _)| name.value.clone()).collect();
    for (name, members) in all {
        check_layer_name(table, &name, "an alias");
        let is_unknown_yet =
            |member: &At<String>| names.contains(&member.value) && layers.named(&member.value).is_none();
        let (unknown_yet, members): (Vec<_>, Vec<_>) = members.into_iter().partition(is_unknown_yet);
        for member in &unknown_yet {
            let (what, hint) = match member.value == name.value {
                true => ("holds itself", "name the layers and earlier aliases that it stands for"),
                false => (
                    "stands below this one",
                    "move that alias above this one; two that hold each other stand for nothing",
                ),
            };
            table.wrong(member.span.clone(), format!("the alias `{}` {what}", member.value), Some(hint.to_string()));
        }
        let set = layer_set(table, layers, &members);
        if layers.find(&name.value).is_some() {
            let hint = "give the alias a name of its own, or a list could mean either".to_string();
            table.wrong(name.span.clone(), format!("`{}` is a layer's name already", name.value), Some(hint));
        } else {
            if members.is_empty() && unknown_yet.is_empty() {
                table.wrong(name.span.clone(), format!("the alias `{}` has no layer", name.value), None);
            }
            // Lists that use it are not wrong as well.
            layers.aliases.push(Alias { name: name.value, layers: set });
        }
    }
}

fn changes(state: &Table<'_>, layers: &Layers) -> Vec<LayerChange> {
    let mut changes = Vec::new();
    for (index, layer) in layers.names.iter().enumerate() {
        let Some(change) = state.lookup(layer) else {
            continue;
        };
        let set = |key| {
            let names = change.strings(key, "[\"crate\"]");
            names.map(|names| layer_set(&change, layers, &names)).unwrap_or_default()
        };
        let (add, drop, join, leave) = (set("add"), set("drop"), set("join"), set("leave"));
        change.finish();
        changes.push(LayerChange { layer: index, add, drop, join, leave });
    }
    state.finish_names("layer", &layers.names);
    changes
}

/// Whether a word can name a layer or family: it must do so as a bare key, and in `+name` and `-name`.
pub(crate) fn is_layer_name(name: &str) -> bool {
    let plain = |c: char| c.is_alphanumeric() || c == '_' || c == '-';
    !name.is_empty() && name.chars().all(plain) && !name.starts_with('-')
}

fn check_layer_name(table: &Table<'_>, name: &At<String>, what: &str) {
    if !is_layer_name(&name.value) {
        let hint = "use letters, digits, _ and -".to_string();
        table.wrong(name.span.clone(), format!("\"{}\" cannot name {what}", name.value), Some(hint));
    }
}

/// The bit of a named layer; a mistake is noted when there is none.
fn layer_bit(table: &Table<'_>, layers: &Layers, name: &At<String>) -> Option<usize> {
    let bit = layers.find(&name.value);
    if bit.is_none() {
        unknown(table, layers, name, false);
    }
    bit
}

fn unknown(table: &Table<'_>, layers: &Layers, name: &At<String>, or_alias: bool) {
    let aliases = layers.aliases.iter().filter(|_| or_alias).map(|alias| &alias.name);
    let known: Vec<&str> = layers.names.iter().chain(aliases).map(String::as_str).collect();
    let hint = match nearest(&name.value, &known) {
        Some(near) => format!("did you mean \"{near}\"?"),
        None => format!("known layers: {}", known.join(", ")),
    };
    table.wrong(name.span.clone(), format!("unknown layer \"{}\"", name.value), Some(hint));
}

/// The set of named layers and aliases.
pub(crate) fn layer_set(table: &Table<'_>, layers: &Layers, names: &[At<String>]) -> LayerSet {
    names.iter().fold(LayerSet::NONE, |set, name| match layers.named(&name.value) {
        Some(found) => set.or(found),
        None => {
            unknown(table, layers, name, true);
            set
        }
    })
}
