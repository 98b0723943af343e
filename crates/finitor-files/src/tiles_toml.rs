//! `[tiles]` of a stage file: a map of tile numbers, what each number fills, merged into outlines.

mod tile_words;

use crate::images::{USUAL_MAX_MPX, read_picture};
use crate::layers_toml::layer_set;
use crate::paths::resolve;
use crate::problem::Problem;
use crate::recipe_toml::fitting;
use crate::toml_table::{At, Table};
use finitor_core::art::{Picture, PixelRect};
use finitor_core::fit::{FitGoal, Fitting, FrameArt, Kind, fit_shape, selection};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{OneWay, Outline, Passes, Solid, Stage, TILES_NAME, TileFill, TileGrid, merged_tiles};
use finitor_core::{Point, Polygon, Rect, Vec2};
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};
use tile_words::{TileWord, kind_words};

/// Cells of a map at most.
const MOST_CELLS: usize = 4_000_000;
/// Sides of a cell, px.
const SIDES: std::ops::Range<i64> = 1..4097;
/// Corners of fitted tiles this near to a border of the cell lie on it, so that neighbours are flush, px.
const FLUSH: f64 = 1.0;

/// What a tile number stands for.
#[derive(Clone, Debug, PartialEq)]
pub struct TileKind {
    /// Its number in the map and, counted by rows from 0, in the image.
    pub number: u32,
    /// What it fills, px from the cell's top left.
    pub fill: TileFill,
    /// Whether it stops from above alone.
    pub is_one_way: bool,
    /// Its word in the file, or `points`.
    pub word: &'static str,
    /// Cells of the map that have it.
    pub count: usize,
}

/// The tiles of a stage as the file gives them.
#[derive(Clone, Debug)]
pub struct Tiles {
    /// A cell's width and height, px.
    pub cell: (u32, u32),
    /// The kinds, by number.
    pub kinds: Vec<TileKind>,
    /// The picture that holds the tiles, where one is named.
    pub picture: Option<Picture>,
    /// Which tile is where.
    pub map: TileMap,
}

/// Which tile is where: rows of cells.
#[derive(Clone, Debug, PartialEq)]
pub struct TileMap {
    /// Left and top of the first cell, world px.
    pub at: Vec2,
    /// Cells in a row.
    pub columns: usize,
    /// Numbers of tiles, row by row; `None` where a cell is empty.
    pub cells: Vec<Option<u32>>,
}

/// The map's cells: rows as long as the longest.
struct Map {
    columns: usize,
    cells: Vec<Option<u32>>,
}

/// Where a stage file lies.
#[derive(Clone, Copy)]
pub(crate) struct Place<'a> {
    pub(crate) root: &'a Path,
    pub(crate) path: &'a Path,
}

/// Reads `[tiles]` and adds what its map fills to the stage: solids and one-way platforms by the name of their first cell.
pub(crate) fn tiles(table: &Table<'_>, layers: &Layers, place: Place<'_>, stage: &mut Stage) -> Option<Tiles> {
    let map = table.required_string("map", "\"pier.csv\"");
    let image = table.string("image", "\"tiles.png\"");
    if !table.has("cell") {
        table.missing("cell", "[16, 16]");
    }
    let cell = table.one_or_two("cell", SIDES, "[16, 16]");
    let at = table.numbers::<2>("at", "[0, 0]").map_or([0.0; 2], |at| at.value);
    if !table.has("layer") {
        table.missing("layer", "\"ground\"");
    }
    let layer = table.strings("layer", "\"ground\"").map(|names| layer_set(table, layers, &names)).unwrap_or_default();
    let one_way = table.strings("one_way_layer", "\"ledge\"").map(|names| layer_set(table, layers, &names));
    let recipe = art_recipe(table)?;
    let words = kind_words(table);
    table.finish();
    let (map, cell) = (map?, cell?.value);
    let picture = match image {
        Some(image) => Some(picture(table, place, &image)?),
        None => None,
    };
    let map = read_map(table, place, &map)?;
    let mut counts: BTreeMap<u32, usize> = BTreeMap::new();
    map.cells.iter().flatten().for_each(|number| *counts.entry(*number).or_default() += 1);
    let mut kinds = Vec::new();
    for (numbers, span, word) in words {
        for number in numbers {
            let fill = fill(&word, number, cell, picture.as_ref(), &recipe).map_err(|(message, hint)| {
                table.wrong(span.clone(), format!("tile {number}: {message}"), hint);
            });
            let (is_one_way, word) = (matches!(word, TileWord::OneWay), word.name());
            let count = counts.get(&number).copied().unwrap_or(0);
            kinds.push(TileKind { number, fill: fill.ok()?, is_one_way, word, count });
        }
    }
    kinds.sort_by_key(|kind| kind.number);
    let unknown = |number: &u32| !kinds.iter().any(|kind: &TileKind| kind.number == *number);
    let unknown: Vec<u32> = counts.into_keys().filter(unknown).collect();
    let first =
        map.cells.iter().enumerate().find_map(|(place, cell)| Some((place, cell.filter(|n| unknown.contains(n))?)));
    if let Some((place, number)) = first {
        let (column, row) = (place % map.columns, place / map.columns);
        let message = format!("tile {number} in column {column} of row {row} of the map has no kind");
        table.wrong(table.value_span("kinds"), message, Some(format!("add \"{number}\" = \"cell\" to [tiles.kinds]")));
        return None;
    }
    let at = Vec2::new(at[0], at[1]);
    place_solids(&map, cell, &kinds, (at, layer, layers), stage);
    place_one_ways(&map, cell, &kinds, (at, one_way.unwrap_or(layer), layers), stage);
    let Map { columns, cells } = map;
    Some(Tiles { cell, kinds, picture, map: TileMap { at, columns, cells } })
}

/// A stage file as far as it can be read: its mistakes are reported elsewhere.
fn table_of(stage: &Path) -> toml::Table {
    std::fs::read_to_string(stage).unwrap_or_default().parse().unwrap_or_default()
}

/// The drawing that a stage file names, where it names one that is there.
pub(crate) fn stage_drawing(stage: &Path) -> Option<PathBuf> {
    let drawing = stage.parent()?.join(table_of(stage).get("stage")?.get("svg")?.as_str()?);
    drawing.is_file().then_some(drawing)
}

/// The files that a stage file's things are made from beside itself, as far as it names any: map and picture of tiles, the drawing,
/// pictures that outlines are fitted to.
pub(crate) fn stage_sources(stage: &Path) -> Vec<PathBuf> {
    let parsed = table_of(stage);
    let named = |table: Option<&toml::Value>, key: &str| Some(stage.parent()?.join(table?.get(key)?.as_str()?));
    let mut all = Vec::new();
    for (table, key) in [("tiles", "map"), ("tiles", "image"), ("stage", "svg")] {
        all.extend(named(parsed.get(table), key));
    }
    let lists = ["solid", "one_way", "zone"].into_iter().filter_map(|sort| parsed.get(sort)?.as_array());
    all.extend(lists.flatten().filter_map(|thing| named(Some(thing), "art")));
    all
}

/// How a stage's art is fitted: an outline that balances, within 0.5 px, where `shape` says nothing else.
pub(crate) fn art_recipe(table: &Table<'_>) -> Option<Fitting> {
    let defaults = Fitting { goal: FitGoal::Balance, tolerance: 0.5, ..Fitting::of(Kind::Outline) };
    let Some(own) = table.table("shape") else { return Some(defaults) };
    let found = fitting(&own, defaults);
    own.finish();
    found
}

/// A picture that a stage file names.
pub(crate) fn picture(table: &Table<'_>, place: Place<'_>, image: &At<String>) -> Option<Picture> {
    let base = place.path.parent().unwrap_or(place.root);
    let read = resolve(place.root, base, &image.value).and_then(|path| read_picture(&path, USUAL_MAX_MPX));
    let wrong = |reason| table.wrong(image.span.clone(), format!("picture \"{}\": {reason}", image.value), None);
    read.map_err(wrong).ok()
}

/// Rows of numbers; a blank field, or -1, is an empty cell.
fn read_map(table: &Table<'_>, place: Place<'_>, map: &At<String>) -> Option<Map> {
    let base = place.path.parent().unwrap_or(place.root);
    let wrong = |message: String| table.wrong(map.span.clone(), message, None);
    let path = resolve(place.root, base, &map.value).map_err(wrong).ok()?;
    let text = std::fs::read_to_string(&path).map_err(|error| wrong(format!("map \"{}\": {error}", map.value))).ok()?;
    let mut rows: Vec<Vec<Option<u32>>> = Vec::new();
    for (index, line) in text.trim_end().lines().enumerate() {
        let mut row = Vec::new();
        for (column, field) in line.split(',').enumerate() {
            match field.trim() {
                "" | "-1" => row.push(None),
                word => match word.parse() {
                    Ok(number) => row.push(Some(number)),
                    Err(_) => {
                        let message = format!(
                            "line {}: field {} is \"{word}\"; expected a tile's number or a blank",
                            index + 1,
                            column + 1
                        );
                        table.note(Problem::of_file(&path, message));
                        return None;
                    }
                },
            }
        }
        rows.push(row);
    }
    if let Some(Ragged { row, fields, usual }) = ragged(&rows) {
        let message = format!("line {}: {fields} fields, and most rows have {usual}", row + 1);
        let problem = Problem::of_file(&path, message);
        table.note(problem.with_hint("write -1, or nothing between two commas, where a cell is empty"));
        return None;
    }
    let columns = rows.iter().map(Vec::len).max().unwrap_or(0);
    if columns == 0 || columns * rows.len() > MOST_CELLS {
        wrong(format!("map \"{}\" has {} x {} cells; 1 to {MOST_CELLS} were expected", map.value, columns, rows.len()));
        return None;
    }
    let cells = rows.into_iter().flat_map(|mut row| {
        row.resize(columns, None);
        row
    });
    Some(Map { columns, cells: cells.collect() })
}

/// A row that is not as long as most.
struct Ragged {
    row: usize,
    fields: usize,
    usual: usize,
}

/// The first row that is longer or shorter than most. Rows without any tile may be of any length, and one may lack the blank
/// behind a last comma that the others have, or have one that they lack.
fn ragged(rows: &[Vec<Option<u32>>]) -> Option<Ragged> {
    let mut lengths: BTreeMap<usize, usize> = BTreeMap::new();
    let filled = rows.iter().filter(|row| row.iter().any(Option::is_some));
    filled.for_each(|row| *lengths.entry(row.len()).or_default() += 1);
    let (usual, _) = lengths.into_iter().max_by_key(|(length, count)| (*count, *length))?;
    let is_blank_last = |row: &Vec<Option<u32>>| row.get(usual - 1).is_none_or(Option::is_none);
    let may_lack = rows.iter().all(is_blank_last);
    let is_odd = |row: &Vec<Option<u32>>| {
        let lacks = row.len() + 1 == usual && may_lack;
        let has_one_more = row.len() == usual + 1 && row.last() == Some(&None);
        row.len() != usual && row.iter().any(Option::is_some) && !lacks && !has_one_more
    };
    let row = rows.iter().position(is_odd)?;
    Some(Ragged { row, fields: rows[row].len(), usual })
}

type Wrong = (String, Option<String>);

fn fill(
    word: &TileWord,
    number: u32,
    (width, height): (u32, u32),
    picture: Option<&Picture>,
    recipe: &Fitting,
) -> Result<TileFill, Wrong> {
    let (w, h) = (f64::from(width), f64::from(height));
    match word {
        TileWord::Nothing => Ok(TileFill::Nothing),
        TileWord::Cell | TileWord::OneWay => Ok(TileFill::Cell),
        TileWord::Points(points) => {
            let inside = |[x, y]: &[f64; 2]| (0.0..=w).contains(x) && (0.0..=h).contains(y);
            if let Some([x, y]) = points.iter().find(|point| !inside(point)) {
                return Err((format!("[{x}, {y}] lies outside its cell of {width} x {height} px"), None));
            }
            let polygon = Polygon::new(points.iter().map(|&[x, y]| Point::new(x, y)).collect());
            polygon
                .map(|polygon| TileFill::Shape(vec![polygon]))
                .map_err(|error| (format!("not a valid shape: {error}"), None))
        }
        TileWord::Art => {
            let Some(picture) = picture else {
                return Err((
                    "\"art\" is fitted to a picture, and [tiles] has none".into(),
                    Some("add image = \"tiles.png\"".into()),
                ));
            };
            let per_row = (picture.width() / width).max(1);
            let rect = PixelRect { x: number % per_row * width, y: number / per_row * height, width, height };
            let Some(art) = picture.crop(rect) else {
                let (across, down) = (picture.width() / width, picture.height() / height);
                let hint =
                    format!("the picture has {across} x {down} of them, 0 to {}", (across * down).saturating_sub(1));
                return Err(("the picture has no such tile".into(), Some(hint)));
            };
            fitted(art, recipe)
        }
    }
}

/// The shape of a tile's art, flush with the sides of its cell where it nearly is.
fn fitted(art: Picture, recipe: &Fitting) -> Result<TileFill, Wrong> {
    let (width, height) = (art.width(), art.height());
    let (w, h) = (f64::from(width), f64::from(height));
    let selected = selection(&FrameArt { picture: art, parts: None }, recipe);
    if selected.is_empty() {
        return Ok(TileFill::Nothing);
    }
    if selected.mask.count() == u64::from(width) * u64::from(height) && selected.origin == (0, 0) {
        return Ok(TileFill::Cell);
    }
    let fitted = fit_shape(&selected.mask, recipe).map_err(|error| (error.to_string(), None))?;
    let corner = selected.corner();
    let flush = |value: f64, most: f64| {
        if value <= FLUSH {
            0.0
        } else if value >= most - FLUSH {
            most
        } else {
            value
        }
    };
    let rings = fitted.polygons.iter().map(|polygon| {
        let points = polygon.points().iter().map(|p| *p + corner);
        Polygon::new(points.map(|p| Point::new(flush(p.x, w), flush(p.y, h))).collect())
    });
    rings.collect::<Result<Vec<Polygon>, _>>().map(TileFill::Shape).map_err(|error| {
        (format!("its art cannot be made flush with its cell: {error}"), Some("give its points instead".into()))
    })
}

fn name(column: usize, row: usize) -> String {
    format!("{TILES_NAME}{column}_{row}")
}

fn free_name(stage: &Stage, wanted: String) -> String {
    let taken = |name: &String| {
        let things = stage.solids.iter().map(|s| &s.name).chain(stage.one_ways.iter().map(|o| &o.name));
        things.chain(stage.zones.iter().map(|z| &z.name)).any(|known| known == name)
    };
    let mut name = wanted.clone();
    let mut number = 1;
    while taken(&name) {
        number += 1;
        name = format!("{wanted}_{number}");
    }
    name
}

fn place_solids(
    map: &Map,
    (width, height): (u32, u32),
    kinds: &[TileKind],
    (at, layer, layers): (Vec2, LayerSet, &Layers),
    stage: &mut Stage,
) {
    let by_number: BTreeMap<u32, u16> = kinds.iter().enumerate().map(|(i, kind)| (kind.number, i as u16)).collect();
    let index = |number: &u32| by_number.get(number).copied().filter(|i| !kinds[usize::from(*i)].is_one_way);
    let grid = TileGrid {
        columns: map.columns,
        cell: (width.into(), height.into()),
        cells: map.cells.iter().map(|cell| cell.as_ref().and_then(index)).collect(),
        fills: kinds.iter().map(|kind| kind.fill.clone()).collect(),
    };
    for found in merged_tiles(&grid) {
        let polygon = found.polygon.translated(at);
        let pieces = found.pieces.iter().map(|piece| piece.translated(at)).collect();
        let holes = found.holes.iter().map(|hole| hole.translated(at)).collect();
        let outline = Outline::new(polygon, holes, pieces);
        let name = free_name(stage, name(found.first.0, found.first.1));
        stage.solids.push(Solid { name, outline, layer, mask: layers.default_mask(layer) });
    }
}

/// Rows of one-way tiles, each as one platform.
fn place_one_ways(
    map: &Map,
    (width, height): (u32, u32),
    kinds: &[TileKind],
    (at, layer, layers): (Vec2, LayerSet, &Layers),
    stage: &mut Stage,
) {
    let numbers: BTreeSet<u32> = kinds.iter().filter(|kind| kind.is_one_way).map(|kind| kind.number).collect();
    let is = |cell: &Option<u32>| cell.is_some_and(|number| numbers.contains(&number));
    for (row, cells) in map.cells.chunks(map.columns).enumerate() {
        let mut column = 0;
        while column < cells.len() {
            let length = cells[column..].iter().take_while(|cell| is(cell)).count();
            if length > 0 {
                let corner = Point::new(column as f64 * f64::from(width), row as f64 * f64::from(height)) + at;
                let size = (length as f64 * f64::from(width), f64::from(height));
                if let Ok(polygon) = Polygon::from_rect(Rect::from_origin_size(corner, size)) {
                    let name = free_name(stage, name(column, row));
                    let mask = layers.default_mask(layer);
                    stage.one_ways.push(OneWay { name, outline: polygon.into(), layer, mask, passes: Passes::Up });
                }
            }
            column += length.max(1);
        }
    }
}
