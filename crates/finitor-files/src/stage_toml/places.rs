//! Spawns and spots of a stage file.

use crate::names::check_name;
use crate::toml_table::{At, Table};
use finitor_core::stage::{Spawn, Spot};
use finitor_core::{Facing, Point};

pub(super) fn spot(table: &Table<'_>, number: usize, names: &mut Vec<String>) -> Option<Spot> {
    let name = table.string("name", "\"lamp_post\"");
    if let Some(name) = &name {
        check_name(table, name, "a spot");
    }
    if !table.has("at") {
        table.missing("at", "[64, 280]");
    }
    let at = table.numbers::<2>("at", "[64, 280]");
    table.finish();
    let name = name.unwrap_or_else(|| At { value: format!("spot_{number}"), span: table.span.clone() });
    if names.contains(&name.value) {
        table.wrong(name.span, format!("\"{}\" is the name of another thing on this stage", name.value), None);
        return None;
    }
    names.push(name.value.clone());
    let [x, y] = at?.value;
    Some(Spot { name: name.value, at: Point::new(x, y) })
}

pub(super) fn spawn(table: &Table<'_>) -> Option<Spawn> {
    let actor = table.required_string("actor", "\"keeper\"");
    if !table.has("at") {
        table.missing("at", "[64, 280]");
    }
    let at = table.numbers::<2>("at", "[64, 280]");
    let words = Facing::BOTH.map(|facing| (facing.name(), facing));
    let facing = table.word("facing", &words).map_or(Facing::Right, |facing| facing.value);
    table.finish();
    let [x, y] = at?.value;
    Some(Spawn { actor: actor?.value, at: Point::new(x, y), facing })
}
