//! Stage files.

mod outline;
mod places;
mod reading;
mod set_piece;

use crate::layers_toml::layer_set;
use crate::names::check_name;
use crate::paths::resolve;
use crate::problem::Problems;
use crate::stage_svg::{DrawnDefaults, read_stage_svg};
use crate::tiles_toml::{Place, Tiles, stage_sources, tiles};
use crate::toml_table::{At, Document, Table, nearest};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Effect, OneWay, Outline, Side, Solid, Stage, Warp, Zone};
use finitor_core::{Facing, Polygon, Rect, Vec2};
use outline::things;
use places::{spawn, spot};
use reading::Reading;
use std::path::{Path, PathBuf};

/// Largest width or height of a stage, px.
const MAX_SIZE: f64 = 1_000_000.0;

/// A stage file as it is read.
#[derive(Clone, Debug)]
pub struct StageFile {
    /// The stage, what its tiles fill included.
    pub stage: Stage,
    /// Its tiles, where it has any.
    pub tiles: Option<Tiles>,
    /// What is not read of its drawing, in words with its line.
    pub unread: Vec<String>,
    /// The files that its things are made from, beside the stage file.
    pub files: Vec<PathBuf>,
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
    let borders = head.as_ref().map(|head| borders(head, layers)).unwrap_or_default();
    let place = Place { root, path };
    let drawing = head.as_ref().and_then(|head| drawing(head, place));
    let sealed = head.as_ref().map_or_else(|| vec![Side::Bottom], sealed);
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
        spots: Vec::new(),
        sealed,
    };
    let unread = read_things(&top, drawing, Reader { doc: &doc, layers, place }, &mut stage, &mut names);
    stage.solids.extend(borders.into_iter().filter_map(|(side, layer)| {
        let (name, outline) = border(side, stage.size, &names)?;
        Some(Solid { name, outline, layer, mask: layers.default_mask(layer) })
    }));
    for table in top.tables("spawn") {
        stage.spawns.extend(spawn(&table));
    }
    for (number, table) in top.tables("spot").iter().enumerate() {
        stage.spots.extend(spot(table, number + 1, &mut names));
    }
    let tiles = top.table("tiles").and_then(|table| tiles(&table, layers, place, &mut stage));
    top.finish();
    let files = stage_sources(path);
    doc.finish().or(StageFile { stage, tiles, unread, files })
}

/// What things are read with.
#[derive(Clone, Copy)]
struct Reader<'r> {
    doc: &'r Document,
    layers: &'r Layers,
    place: Place<'r>,
}

/// The tables of `[defaults]`.
struct Defaults<'t> {
    solid: Option<Table<'t>>,
    one_way: Option<Table<'t>>,
    zone: Option<Table<'t>>,
}

impl<'t> Defaults<'t> {
    fn new(top: &'t Table<'t>) -> Defaults<'t> {
        let defaults = top.table("defaults");
        let of = |sort: &'static str| defaults.as_ref().and_then(|table| table.table(sort));
        let found = Defaults { solid: of("solid"), one_way: of("one_way"), zone: of("zone") };
        if let Some(defaults) = &defaults {
            defaults.finish();
        }
        found
    }

    /// The same for things of a drawing.
    fn of_drawing(&self, reader: Reader<'_>) -> [DrawnDefaults; 3] {
        let Reader { layers, place, .. } = reader;
        [&self.solid, &self.one_way, &self.zone].map(|table| {
            let of = table.as_ref().map(|table| Reading { table, defaults: None, layers, place });
            of.map(|of| of.for_drawing()).unwrap_or_default()
        })
    }

    /// Keys that no thing has asked for are known all the same; any others are mistakes.
    fn finish(&self) {
        let known = [
            (&self.solid, &["layer", "mask"][..]),
            (&self.one_way, &["layer", "mask", "passes"][..]),
            (&self.zone, &["mask", "effect"][..]),
        ];
        for (table, keys) in known {
            table.iter().for_each(|table| table.note_known(keys));
            table.iter().for_each(Table::finish);
        }
    }
}

/// Reads solids, platforms and zones of the file and of its drawing, and the drawing's spawns and spots. What of the drawing is not
/// read.
fn read_things(
    top: &Table<'_>,
    drawing: Option<(PathBuf, f64)>,
    reader: Reader<'_>,
    stage: &mut Stage,
    names: &mut Vec<String>,
) -> Vec<String> {
    let Reader { doc, layers, place } = reader;
    let defaults = Defaults::new(top);
    for (number, table) in top.tables("solid").iter().enumerate() {
        let of = Reading { table, defaults: defaults.solid.as_ref(), layers, place };
        stage.solids.extend(solids(of, number + 1, names));
    }
    for (number, table) in top.tables("one_way").iter().enumerate() {
        let of = Reading { table, defaults: defaults.one_way.as_ref(), layers, place };
        stage.one_ways.extend(one_ways(of, number + 1, names));
    }
    let mut leading = Vec::new();
    for (number, table) in top.tables("zone").iter().enumerate() {
        let of = Reading { table, defaults: defaults.zone.as_ref(), layers, place };
        leading.extend(zones(of, number + 1, names));
    }
    let mut drawn = drawing.and_then(|(svg, tolerance)| {
        let read = read_stage_svg(&svg, tolerance, layers, &defaults.of_drawing(reader), names);
        read.map_err(|wrong| wrong.0.into_iter().for_each(|problem| doc.note(problem))).ok().map(|read| (svg, read))
    });
    let mut unread = Vec::new();
    let mut leading_drawn = Vec::new();
    if let Some((_, drawn)) = &mut drawn {
        stage.solids.append(&mut drawn.solids);
        stage.one_ways.append(&mut drawn.one_ways);
        stage.spawns.append(&mut drawn.spawns);
        stage.spots.append(&mut drawn.spots);
        unread.append(&mut drawn.unread);
        leading_drawn.append(&mut drawn.zones);
    }
    let all = leading.iter().map(|(zone, _)| zone).chain(leading_drawn.iter().map(|(zone, _)| zone));
    let known: Vec<String> = all.map(|zone| zone.name.clone()).collect();
    stage.zones =
        lead(&known, leading, |to: At<String>, message, hint| top.wrong(to.span, message, Some(hint)), |to| &to.value);
    if let Some((svg, drawn)) = &drawn {
        let leading =
            leading_drawn.into_iter().map(|(zone, leading)| (zone, leading.map(|(to, at, warp)| ((to, at), warp))));
        let wrong = |(_, at): (String, usize), message: String, hint: String| {
            doc.note(drawn.problem(svg, at, message).with_hint(hint))
        };
        stage.zones.extend(lead(&known, leading.collect(), wrong, |(to, _)| to));
    }
    defaults.finish();
    unread
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
    let message = format!("`size` must be from 1 to {MAX_SIZE} px a side; found {width} x {height}");
    head.wrong(found.span, message, None);
    None
}

/// How thick borders are, px: thicker than any step is long.
const BORDER: f64 = 1000.0;

/// Sides of the stage that are closed, with the layer they are on.
fn borders(head: &Table<'_>, layers: &Layers) -> Vec<(Side, LayerSet)> {
    let Some(sides) = head.strings("borders", "[\"left\", \"right\", \"top\"]") else {
        return Vec::new();
    };
    if !head.has("border_layer") {
        head.missing("border_layer", "\"ground\"");
    }
    let layer = head.strings("border_layer", "\"ground\"").map(|names| layer_set(head, layers, &names));
    sides.iter().filter_map(|word| side(head, word)).map(|side| (side, layer.unwrap_or_default())).collect()
}

/// Curves of drawings are followed to this unless told otherwise, px.
const USUAL_TOLERANCE: f64 = 0.25;

/// The drawing that a stage names, and how near curves in it are followed.
fn drawing(head: &Table<'_>, place: Place<'_>) -> Option<(PathBuf, f64)> {
    let tolerance = head.number_from("svg_tolerance", 0.001, "0.25");
    let svg = head.string("svg", "\"pier.svg\"");
    if let (Some(tolerance), None) = (&tolerance, &svg) {
        let hint = Some("add svg = \"pier.svg\"".to_string());
        head.wrong(tolerance.span.clone(), "`svg_tolerance` goes with `svg`", hint);
    }
    let svg = svg?;
    let base = place.path.parent().unwrap_or(place.root);
    match resolve(place.root, base, &svg.value) {
        Ok(path) if path.is_file() => Some((path, tolerance.map_or(USUAL_TOLERANCE, |tolerance| tolerance.value))),
        Ok(_) => {
            let hint = Some("`finitor stage --to-svg` writes one to start from".to_string());
            head.wrong(svg.span, format!("there is no file \"{}\" beside this one", svg.value), hint);
            None
        }
        Err(reason) => {
            head.wrong(svg.span, reason, None);
            None
        }
    }
}

/// A word for a side, told where it is none.
fn side(head: &Table<'_>, word: &At<String>) -> Option<Side> {
    let found = Side::ALL.into_iter().find(|side| side.name() == word.value);
    if found.is_none() {
        let hint = nearest(&word.value, &Side::ALL.map(Side::name)).map(|near| format!("did you mean \"{near}\"?"));
        let message = format!("\"{}\" is no side of a stage: left, right, top or bottom", word.value);
        head.wrong(word.span.clone(), message, hint);
    }
    found
}

/// Sides by which nobody may leave unseen: the bottom unless others are given.
fn sealed(head: &Table<'_>) -> Vec<Side> {
    let Some(words) = head.strings("sealed", "[\"bottom\", \"left\"]") else { return vec![Side::Bottom] };
    let mut sides: Vec<Side> = words.iter().filter_map(|word| side(head, word)).collect();
    sides.sort_unstable();
    sides.dedup();
    sides
}

/// A solid outside of a side, as long as the stage and its corners.
fn border(side: Side, size: Vec2, names: &[String]) -> Option<(String, Outline)> {
    let (low, wide, high) = (0.0 - BORDER, size.x + BORDER, size.y + BORDER);
    let rect = match side {
        Side::Left => Rect::new(low, low, 0.0, high),
        Side::Right => Rect::new(size.x, low, wide, high),
        Side::Top => Rect::new(low, low, wide, 0.0),
        Side::Bottom => Rect::new(low, size.y, wide, high),
    };
    let name = format!("border_{}", side.name());
    let name = if names.contains(&name) { format!("{name}_2") } else { name };
    Polygon::from_rect(rect).ok().map(|polygon| (name, polygon.into()))
}

fn solids(of: Reading<'_>, number: usize, names: &mut Vec<String>) -> Vec<Solid> {
    let things = things(of.table, ("solid", number), of.place, names);
    let layer = of.layer();
    let mask = of.mask(layer);
    of.table.finish();
    things.into_iter().map(|(name, outline)| Solid { name, outline, layer, mask }).collect()
}

fn one_ways(of: Reading<'_>, number: usize, names: &mut Vec<String>) -> Vec<OneWay> {
    let things = things(of.table, ("one_way", number), of.place, names);
    let layer = of.layer();
    let mask = of.mask(layer);
    let passes = of.passes();
    of.table.finish();
    things.into_iter().map(|(name, outline)| OneWay { name, outline, layer, mask, passes }).collect()
}

fn zones(of: Reading<'_>, number: usize, names: &mut Vec<String>) -> Vec<(Zone, Option<Leading>)> {
    let things = things(of.table, ("zone", number), of.place, names);
    if !of.has("mask") {
        of.table.missing("mask", "[\"hero\"]");
    }
    let mask = of.set("mask", "[\"hero\"]");
    if !of.has("effect") {
        of.table
            .missing("effect", "\"event\"` for what the game does itself, or `\"hazard\"`, `\"goal\"` or `\"warp\"");
    }
    let effect = of.word("effect", &Effect::ALL.map(|effect| (effect.name(), effect)));
    let warp = warp(of.table, effect == Some(Effect::Warp));
    let cooldown = of.table.integer("cooldown", 0..100_000, "60").map_or(0, |ticks| ticks.value as u32);
    let once = of.table.boolean("once").is_some_and(|once| once.value);
    of.table.finish();
    let (Some(mask), Some(effect)) = (mask, effect) else {
        return Vec::new();
    };
    let zone = |(name, outline)| (Zone { name, outline, mask, effect, warp: None, cooldown, once }, warp.clone());
    things.into_iter().map(zone).collect()
}

/// A warp before the zone that it leads to is known.
type Leading = (At<String>, Warp);

/// Reads what goes with `effect = "warp"`, and nothing else does.
fn warp(table: &Table<'_>, is_warp: bool) -> Option<Leading> {
    if is_warp && !table.has("to") {
        table.missing("to", "\"culvert_high\"");
    }
    let to = table.string("to", "\"culvert_high\"");
    let landing = table.numbers::<2>("landing", "[24, 0]").map_or([0.0; 2], |landing| landing.value);
    let sides = Facing::BOTH.map(|facing| (facing.name(), facing));
    let facing = table.word("landing_facing", &sides).map(|facing| facing.value);
    let turns_velocity = table.boolean("turns_velocity").is_some_and(|turns| turns.value);
    for key in
        ["to", "landing", "landing_facing", "turns_velocity"].into_iter().filter(|key| !is_warp && table.has(key))
    {
        let hint = Some("add effect = \"warp\", or take it out".to_string());
        table.wrong(table.value_span(key), format!("`{key}` goes with effect = \"warp\""), hint);
    }
    let warp = Warp { to: 0, landing: Vec2::new(landing[0], landing[1]), facing, turns_velocity };
    Some((to.filter(|_| is_warp)?, warp))
}

/// The zones, with the warps' destinations looked up among the names of all zones.
fn lead<T>(
    names: &[String],
    zones: Vec<(Zone, Option<(T, Warp)>)>,
    wrong: impl Fn(T, String, String),
    name: impl Fn(&T) -> &String,
) -> Vec<Zone> {
    let found = zones.into_iter().map(|(zone, leading)| {
        let Some((to, warp)) = leading else { return zone };
        let sought = name(&to).clone();
        match names.iter().position(|name| *name == sought) {
            Some(place) => Zone { warp: Some(Warp { to: place, ..warp }), ..zone },
            None => {
                let known: Vec<&str> = names.iter().map(String::as_str).collect();
                let hint = match nearest(&sought, &known) {
                    Some(near) => format!("did you mean \"{near}\"?"),
                    None => format!("zones are {}", known.join(", ")),
                };
                wrong(to, format!("there is no zone \"{sought}\" to land at"), hint);
                zone
            }
        }
    });
    found.collect()
}
