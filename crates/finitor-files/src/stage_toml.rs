//! Stage files.

use crate::actor_toml::check_name;
use crate::layers_toml::layer_set;
use crate::problem::Problems;
use crate::tiles_toml::{Place, Tiles, tiles};
use crate::toml_table::{At, Document, Table};
use finitor_core::fit::{Given, given_shape};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Effect, OneWay, Outline, Passes, Solid, Spawn, Stage, Zone};
use finitor_core::{Facing, Point, Polygon, Vec2};
use std::path::Path;

/// Largest width or height of a stage, px.
const MAX_SIZE: f64 = 1_000_000.0;

/// A stage file as it is read.
#[derive(Clone, Debug)]
pub struct StageFile {
    /// The stage, what its tiles fill included.
    pub stage: Stage,
    /// Its tiles, where it has any.
    pub tiles: Option<Tiles>,
}

/// Reads a stage file of the project in the folder `root`.
///
/// # Errors
/// All mistakes in it, and in the map and the picture of its tiles.
pub fn load_stage(path: &Path, root: &Path, layers: &Layers) -> Result<StageFile, Problems> {
    let doc = Document::open(path)?;
    let text = doc.text();
    let parsed = doc.parse(&text)?;
    let top = Table::top(&doc, &parsed);
    let head = top.table("stage");
    if head.is_none() && !top.has("stage") {
        top.missing_table("[stage]");
    }
    let name = head.as_ref().and_then(|table| table.required_string("name", "\"pier\""));
    if let Some(name) = &name {
        check_name(&top, name, "a stage");
    }
    let size = head.as_ref().and_then(size);
    if let Some(head) = &head {
        head.finish();
    }
    let mut names = Vec::new();
    let mut stage = Stage {
        name: name.map_or_else(String::new, |name| name.value),
        size: size.unwrap_or(Vec2::ZERO),
        solids: Vec::new(),
        one_ways: Vec::new(),
        zones: Vec::new(),
        spawns: Vec::new(),
    };
    for table in top.tables("solid") {
        stage.solids.extend(solid(&table, layers, &mut names));
    }
    for table in top.tables("one_way") {
        stage.one_ways.extend(one_way(&table, layers, &mut names));
    }
    for table in top.tables("zone") {
        stage.zones.extend(zone(&table, layers, &mut names));
    }
    for table in top.tables("spawn") {
        stage.spawns.extend(spawn(&table));
    }
    let tiles = top.table("tiles").and_then(|table| tiles(&table, layers, Place { root, path }, &mut stage));
    top.finish();
    doc.finish().or(StageFile { stage, tiles })
}

fn size(head: &Table<'_>) -> Option<Vec2> {
    if !head.has("size") {
        head.missing("size", "[640, 360]");
    }
    let found = head.numbers::<2>("size", "[640, 360]")?;
    let [width, height] = found.value;
    if (1.0..=MAX_SIZE).contains(&width) && (1.0..=MAX_SIZE).contains(&height) {
        return Some(Vec2::new(width, height));
    }
    let message = format!("`size` must lie between 1 and {MAX_SIZE} px a side, not {width} x {height}");
    head.wrong(found.span, message, None);
    None
}

/// What every thing on the stage has: a name of its own and an outline.
fn thing(table: &Table<'_>, sort: &str, names: &mut Vec<String>) -> Option<(String, Outline)> {
    let name = table.required_string("name", &format!("\"{sort}_1\""));
    let outline = outline(table);
    let name = name?;
    check_name(table, &name, &format!("a {sort}"));
    if names.contains(&name.value) {
        table.wrong(name.span, format!("\"{}\" is the name of another thing on this stage", name.value), None);
        return None;
    }
    names.push(name.value.clone());
    Some((name.value, outline?))
}

fn outline(table: &Table<'_>) -> Option<Outline> {
    let boxed = table.numbers::<4>("box", "[0, 280, 240, 80]").map(|n| At { value: Given::Box(n.value), span: n.span });
    let circle =
        table.numbers::<3>("circle", "[100, 100, 24]").map(|n| At { value: Given::Circle(n.value), span: n.span });
    let points = table.points("points").map(|points| {
        let corners = points.value.into_iter().map(|[x, y]| Point::new(x, y)).collect();
        At { value: Given::Points(corners), span: points.span }
    });
    let given: Vec<At<Given>> = [boxed, circle, points].into_iter().flatten().collect();
    match given.as_slice() {
        [only] => match given_shape(&only.value) {
            Ok(geometry) => geometry.polygons.into_iter().next().map(|polygon: Polygon| polygon.into()),
            Err(error) => {
                table.wrong(only.span.clone(), format!("this is no shape: {error}"), None);
                None
            }
        },
        [] => {
            if !["box", "circle", "points"].iter().any(|key| table.has(key)) {
                table.missing("box", "[0, 280, 240, 80]");
            }
            None
        }
        [_, second, ..] => {
            table.wrong(second.span.clone(), "give one of box, circle and points, not several", None);
            None
        }
    }
}

fn layer(table: &Table<'_>, layers: &Layers) -> LayerSet {
    match table.strings("layer", "\"ground\"") {
        Some(names) => layer_set(table, layers, &names),
        None => {
            if !table.has("layer") {
                table.missing("layer", "\"ground\"");
            }
            LayerSet::NONE
        }
    }
}

/// A mask of its own, or that of the layers it is on.
fn mask(table: &Table<'_>, layers: &Layers, layer: LayerSet) -> LayerSet {
    let own = table.strings("mask", "[\"hero\"]").map(|names| layer_set(table, layers, &names));
    own.unwrap_or_else(|| layers.default_mask(layer))
}

fn solid(table: &Table<'_>, layers: &Layers, names: &mut Vec<String>) -> Option<Solid> {
    let thing = thing(table, "solid", names);
    let layer = layer(table, layers);
    let mask = mask(table, layers, layer);
    table.finish();
    let (name, outline) = thing?;
    Some(Solid { name, outline, layer, mask })
}

fn one_way(table: &Table<'_>, layers: &Layers, names: &mut Vec<String>) -> Option<OneWay> {
    let thing = thing(table, "one_way", names);
    let layer = layer(table, layers);
    let mask = mask(table, layers, layer);
    let words = Passes::ALL.map(|way| (way.name(), way));
    let passes = table.word("passes", &words).map_or(Passes::Up, |way| way.value);
    table.finish();
    let (name, outline) = thing?;
    Some(OneWay { name, outline, layer, mask, passes })
}

fn zone(table: &Table<'_>, layers: &Layers, names: &mut Vec<String>) -> Option<Zone> {
    let thing = thing(table, "zone", names);
    if !table.has("mask") {
        table.missing("mask", "[\"hero\"]");
    }
    let mask = table.strings("mask", "[\"hero\"]").map(|names| layer_set(table, layers, &names));
    let words = Effect::ALL.map(|effect| (effect.name(), effect));
    if !table.has("effect") {
        table.missing("effect", "\"hazard\"");
    }
    let effect = table.word("effect", &words);
    table.finish();
    let (name, outline) = thing?;
    Some(Zone { name, outline, mask: mask?, effect: effect?.value })
}

fn spawn(table: &Table<'_>) -> Option<Spawn> {
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
