//! A table of shapes: a row a shape and frame.

use super::{CSV_COLUMNS, Number, PackPart, PackPoint, PackShape, Ring, ShapeMeaning, ShapeRow, ShapeRows};
use crate::problem::{Problem, Problems};
use crate::toml_values::nearest;
use csv::StringRecord;
use std::path::Path;

/// Columns without which a row means nothing.
const NEEDED: [&str; 4] = ["actor", "animation", "frame", "shape"];
/// Places lie between plus and minus this.
const FARTHEST: f64 = 1e9;
/// Mistakes that are listed.
const MOST_MISTAKES: usize = 20;

/// Reads a table; columns may stand in any order, and those that are not known are passed over.
///
/// # Errors
/// All rows that cannot be read, by line.
pub(super) fn csv_rows(path: &Path, bytes: &[u8]) -> Result<ShapeRows, Problems> {
    let mut reader = csv::ReaderBuilder::new().flexible(true).trim(csv::Trim::All).from_reader(bytes);
    let header = reader.headers().map_err(|error| Problem::of_file(path, format!("is no CSV: {error}")))?.clone();
    check_header(path, &header)?;
    let mut found = ShapeRows::default();
    let mut problems = Problems::default();
    for record in reader.records() {
        if problems.0.len() >= MOST_MISTAKES {
            break;
        }
        let record = match record {
            Ok(record) => record,
            Err(error) => {
                problems.0.push(Problem::of_file(path, format!("is no CSV: {error}")));
                break;
            }
        };
        let line = record.position().map_or(0, csv::Position::line);
        let row = Row { header: &header, record: &record };
        if row.text("actor").is_none() && row.text("stage").is_some() {
            found.of_stages += 1;
            continue;
        }
        match row.shape_row(line) {
            Ok(row) => found.rows.push(row),
            Err(reason) => problems.0.push(Problem::of_file(path, format!("line {line}: {reason}"))),
        }
    }
    problems.or(found)
}

fn check_header(path: &Path, header: &StringRecord) -> Result<(), Problems> {
    if header.is_empty() {
        return Err(Problem::of_file(path, "is empty")
            .with_hint(format!("columns are {}", CSV_COLUMNS.join(",")))
            .into());
    }
    let has = |name: &str| header.iter().any(|known| known == name);
    let Some(lacks) = NEEDED.iter().find(|name| !has(name)) else { return Ok(()) };
    let unknown: Vec<&str> = header.iter().filter(|name| !CSV_COLUMNS.contains(name)).collect();
    let hint = match nearest(lacks, &unknown) {
        Some(near) => format!("is it \"{near}\"? Columns are {}", CSV_COLUMNS.join(",")),
        None => format!("columns are {}, in any order", CSV_COLUMNS.join(",")),
    };
    let message = format!("the header has no column \"{lacks}\": {}", header.iter().collect::<Vec<_>>().join(","));
    Err(Problem::of_file(path, message).with_hint(hint).into())
}

/// A row under reading.
struct Row<'r> {
    header: &'r StringRecord,
    record: &'r StringRecord,
}

impl Row<'_> {
    fn text(&self, column: &str) -> Option<&str> {
        let place = self.header.iter().position(|known| known == column)?;
        self.record.get(place).filter(|text| !text.is_empty())
    }

    fn needed(&self, column: &str) -> Result<String, String> {
        self.text(column).map(str::to_string).ok_or_else(|| format!("`{column}` is empty"))
    }

    fn number(&self, column: &str) -> Result<Option<Number>, String> {
        let Some(text) = self.text(column) else { return Ok(None) };
        let number = text.parse::<f64>().ok().filter(|number| number.abs() <= FARTHEST);
        number
            .map(|number| Some(Number(number)))
            .ok_or_else(|| format!("`{column}` must be a number; found \"{text}\""))
    }

    /// The numbers of some columns, where all are there.
    fn numbers<const N: usize>(&self, columns: [&str; N]) -> Result<Option<[Number; N]>, String> {
        let mut found = [Number(0.0); N];
        for (place, column) in columns.iter().enumerate() {
            let Some(number) = self.number(column)? else { return Ok(None) };
            found[place] = number;
        }
        Ok(Some(found))
    }

    fn shape_row(&self, line: u64) -> Result<ShapeRow, String> {
        let frame = self.needed("frame")?;
        let frame =
            frame.parse().map_err(|_| format!("`frame` must be a whole number from 0 on; found \"{frame}\""))?;
        let words = |column: &str| {
            self.text(column).map_or_else(Vec::new, |text| text.split_whitespace().map(str::to_string).collect())
        };
        let text = |column: &str| self.text(column).map(str::to_string);
        let is_vital = self.text("factor") == Some("all");
        let meaning = ShapeMeaning {
            name: self.needed("shape")?,
            role: text("role").unwrap_or_default(),
            part: PackPart {
                part: text("part"),
                group: text("group"),
                factor: if is_vital { None } else { self.number("factor")? },
                is_vital,
            },
            damage: self.number("damage")?,
            ..ShapeMeaning::default()
        };
        Ok(ShapeRow {
            place: format!("line {line}"),
            actor: self.needed("actor")?,
            animation: self.needed("animation")?,
            frame,
            facing: text("facing"),
            layers: words("layer"),
            masks: words("mask"),
            shape: self.geometry(&meaning.name)?,
            meaning,
        })
    }

    fn geometry(&self, name: &str) -> Result<PackShape, String> {
        let shape = PackShape { shape: name.to_string(), ..PackShape::default() };
        let kind = |kind: &str, shape: PackShape| Ok(PackShape { kind: kind.to_string(), ..shape });
        if let Some(text) = self.text("points") {
            let (outline, holes) = text.split_once('/').map_or((text, ""), |both| both);
            let [outline, holes] = [rings(outline)?, rings(holes)?];
            return kind("points", PackShape { outline, holes, ..shape });
        }
        if let Some([.., w, h]) = self.numbers(["x", "y", "w", "h"])? {
            if w.0 <= 0.0 || h.0 <= 0.0 {
                return Err(format!("`w` and `h` must be above 0; found {w} and {h}"));
            }
            return kind("box", PackShape { rect: self.numbers(["x", "y", "w", "h"])?, ..shape });
        }
        if let Some(r) = self.number("r")?.filter(|r| r.0 <= 0.0) {
            return Err(format!("`r` must be above 0; found {r}"));
        }
        if let Some(capsule) = self.numbers(["x", "y", "x2", "y2", "r"])? {
            return kind("capsule", PackShape { capsule: Some(capsule), ..shape });
        }
        if let Some(circle) = self.numbers(["x", "y", "r"])? {
            return kind("circle", PackShape { circle: Some(circle), ..shape });
        }
        Err("no shape: give x, y, w, h for a box; x, y, r for a circle; x, y, x2, y2, r for a capsule; or points"
            .to_string())
    }
}

/// Rings parted by `|`, points by `;`, coordinates by spaces.
fn rings(text: &str) -> Result<Vec<Ring>, String> {
    let point = |text: &str| {
        let wrong = || format!("`points` must be \"x y; x y; ...\"; found \"{}\"", text.trim());
        let number = |word: Option<&str>| {
            word.and_then(|word| word.parse::<f64>().ok()).filter(|number| number.abs() <= FARTHEST)
        };
        let mut words = text.split_whitespace();
        match (number(words.next()), number(words.next()), words.next()) {
            (Some(x), Some(y), None) => Ok(PackPoint { x, y }),
            _ => Err(wrong()),
        }
    };
    let rings = text.split('|').filter(|ring| !ring.trim().is_empty());
    rings.map(|ring| ring.split(';').filter(|at| !at.trim().is_empty()).map(point).collect()).collect()
}
