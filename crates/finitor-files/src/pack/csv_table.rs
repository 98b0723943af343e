//! The pack's shapes as rows for spreadsheets, which `import` reads back.

use super::number::Digits;
use super::{Number, Pack, PackShape, Ring};

/// The columns, in this order.
pub const CSV_COLUMNS: [&str; 22] = [
    "actor",
    "animation",
    "frame",
    "facing",
    "stage",
    "shape",
    "role",
    "kind",
    "layer",
    "mask",
    "part",
    "group",
    "factor",
    "damage",
    "x",
    "y",
    "w",
    "h",
    "x2",
    "y2",
    "r",
    "points",
];

/// A row a shape, frame and facing, then one a thing on a stage. Exact shapes have their numbers, others `points`: `x y` parted by
/// `;`, rings by `|`, holes behind a `/`. Layers and masks are names parted by spaces.
///
/// # Errors
/// Those of the writer.
///
/// # Complexity
/// O(points).
pub fn csv_table(pack: &Pack) -> Result<Vec<u8>, std::io::Error> {
    let mut table = Table { pack, writer: csv::Writer::from_writer(Vec::new()) };
    table.writer.write_record(CSV_COLUMNS).map_err(std::io::Error::other)?;
    for actor in &pack.actors {
        for frame in &actor.frames {
            for side in &frame.sides {
                for shape in &side.shapes {
                    let meaning = actor.meaning(&shape.shape).cloned().unwrap_or_default();
                    let number = |number: Option<Number>| number.map(|number| number.to_string()).unwrap_or_default();
                    let factor = if meaning.part.is_vital { "all".to_string() } else { number(meaning.part.factor) };
                    let [layer, mask] = [meaning.layer, meaning.mask].map(|set| table.names(set));
                    table.row(
                        [
                            Cell("actor", actor.name.clone()),
                            Cell("animation", frame.animation.clone()),
                            Cell("frame", frame.frame.to_string()),
                            Cell("facing", side.facing.clone()),
                            Cell("shape", shape.shape.clone()),
                            Cell("role", meaning.role),
                            Cell("kind", shape.kind.clone()),
                            Cell("layer", layer),
                            Cell("mask", mask),
                            Cell("part", meaning.part.part.unwrap_or_default()),
                            Cell("group", meaning.part.group.unwrap_or_default()),
                            Cell("factor", factor),
                            Cell("damage", number(meaning.damage)),
                        ],
                        &numbers(shape),
                    )?;
                }
            }
        }
    }
    for stage in &pack.stages {
        let solids = stage.solids.iter().map(|solid| ("solid", solid));
        let one_ways = stage.one_ways.iter().map(|one_way| ("one_way", &one_way.thing));
        let zones = stage.zones.iter().map(|zone| ("zone", &zone.thing));
        for (role, thing) in solids.chain(one_ways).chain(zones) {
            let [layer, mask] = [thing.layer, thing.mask].map(|set| table.names(set));
            table.row(
                [
                    Cell("stage", stage.name.clone()),
                    Cell("shape", thing.name.clone()),
                    Cell("role", role.to_string()),
                    Cell("kind", "points".to_string()),
                    Cell("layer", layer),
                    Cell("mask", mask),
                ],
                &[Cell("points", points(std::slice::from_ref(&thing.outline), &thing.holes))],
            )?;
        }
    }
    table.writer.into_inner().map_err(|error| std::io::Error::other(error.to_string()))
}

/// A column and what stands in it.
struct Cell(&'static str, String);

struct Table<'p> {
    pack: &'p Pack,
    writer: csv::Writer<Vec<u8>>,
}

impl Table<'_> {
    fn row<const N: usize>(&mut self, cells: [Cell; N], more: &[Cell]) -> Result<(), std::io::Error> {
        let of = |column: &&str| {
            let known = cells.iter().chain(more).find(|Cell(name, _)| name == column);
            known.map_or("", |Cell(_, words)| words.as_str())
        };
        self.writer.write_record(CSV_COLUMNS.iter().map(of)).map_err(std::io::Error::other)
    }

    /// The layers of a set.
    fn names(&self, set: u32) -> String {
        let all = self.pack.layers.names.iter().filter(|layer| set >> layer.bit & 1 == 1);
        all.map(|layer| layer.name.as_str()).collect::<Vec<_>>().join(" ")
    }
}

/// The numbers of a shape, by column.
fn numbers(shape: &PackShape) -> Vec<Cell> {
    let named = |names: &[&'static str], numbers: &[Number]| {
        names.iter().zip(numbers).map(|(name, number)| Cell(name, number.to_string())).collect()
    };
    match (&shape.rect, &shape.circle, &shape.capsule) {
        (Some(rect), _, _) => named(&["x", "y", "w", "h"], rect),
        (_, Some(circle), _) => named(&["x", "y", "r"], circle),
        (_, _, Some(capsule)) => named(&["x", "y", "x2", "y2", "r"], capsule),
        _ => vec![Cell("points", points(&shape.outline, &shape.holes))],
    }
}

fn points(outline: &[Ring], holes: &[Ring]) -> String {
    let (mut text, mut digits) = (String::new(), Digits::default());
    for (part, rings) in [outline, holes].into_iter().enumerate().filter(|(_, rings)| !rings.is_empty()) {
        text.push_str(if part > 0 { "/" } else { "" });
        for (index, ring) in rings.iter().enumerate() {
            text.push_str(if index > 0 { "|" } else { "" });
            for (index, at) in ring.iter().enumerate() {
                text.push_str(if index > 0 { ";" } else { "" });
                digits.push(&mut text, at.x);
                text.push(' ');
                digits.push(&mut text, at.y);
            }
        }
    }
    text
}
