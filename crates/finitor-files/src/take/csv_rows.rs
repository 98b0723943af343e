//! Rows of CSV.

use super::bad_rows::{Wrong, odd_tick};
use super::{COLUMNS, Input, Row};
use crate::problem::{Problem, Problems};
use crate::toml_table::nearest;
use csv::StringRecord;
use finitor_core::Point;
use std::path::Path;

/// Places lie between plus and minus this, px: farther out a coordinate's rounding would near what counts as a touch.
pub(super) const FARTHEST: f64 = 1e7;

/// Columns without which no row means anything. What else is missing may be known from the actor.
const NEEDED: [&str; 4] = ["tick", "actor", "x", "y"];

/// A CSV file under reading.
pub(super) struct CsvRows {
    reader: csv::Reader<Input>,
    record: StringRecord,
    columns: [Option<usize>; COLUMNS.len()],
    /// Of the header.
    width: usize,
    /// The header as it was read, where it calls columns otherwise.
    read_as: Option<String>,
    failed: bool,
}

/// What recorders call the column that tells instances apart.
const INSTANCE: [&str; 5] = ["instance", "instance_id", "entity", "id", "uid"];

impl CsvRows {
    /// Reads the header.
    pub(super) fn open(path: &Path, input: Input) -> Result<CsvRows, Problems> {
        let mut reader = csv::ReaderBuilder::new().flexible(true).from_reader(input);
        let mut header = reader.headers().map_err(|error| header_problem(path, &error))?.clone();
        header.trim();
        let (width, read_as) = (header.len(), renamed(&header));
        if let Some(names) = &read_as {
            header = names.split(',').collect();
        }
        let columns = columns(path, &header)?;
        Ok(CsvRows { reader, record: StringRecord::new(), columns, width, read_as, failed: false })
    }

    /// The header as it was read, where columns have other names in it.
    pub(super) fn read_as(&self) -> Option<&str> {
        self.read_as.as_deref()
    }

    pub(super) fn line(&self) -> u64 {
        self.record.position().map_or_else(|| self.reader.position().line(), csv::Position::line).max(2)
    }

    pub(super) fn next(&mut self) -> Option<Result<Row<'_>, Wrong>> {
        if self.failed {
            return None;
        }
        match self.reader.read_record(&mut self.record) {
            Ok(true) => {
                // What stands behind the last comma may be nothing.
                if self.record.iter().skip(self.width).any(|field| !field.trim_ascii().is_empty()) {
                    let message = format!("the row has {} fields, and the header {}", self.record.len(), self.width);
                    let hint = "name every column in the header; a text that holds commas needs quotes round it";
                    return Some(Err((message, Some(hint.into()))));
                }
                Some(row(&self.record, &self.columns))
            }
            Ok(false) => None,
            Err(error) => {
                self.failed = error.is_io_error();
                Some(Err(row_problem(&error)))
            }
        }
    }
}

fn row<'r>(record: &'r StringRecord, columns: &[Option<usize>; COLUMNS.len()]) -> Result<Row<'r>, Wrong> {
    let [tick, actor, x, y, facing, animation, frame, vx, vy, states, flipped_art, grounded, via, take] = *columns;
    let field = |column: Option<usize>| -> &'r str { column.and_then(|at| record.get(at)).unwrap_or("").trim_ascii() };
    let needed = |column: Option<usize>, name: &str| match field(column) {
        "" => Err((format!("the row has no {name}"), None)),
        text => Ok(text),
    };
    let number = |column: Option<usize>, name: &str| {
        let text = needed(column, name)?;
        match text.parse::<f64>() {
            Ok(value) if value.abs() <= FARTHEST => Ok(value),
            _ => Err((format!("{name} is \"{text}\"; expected a number up to 1e7"), None)),
        }
    };
    let speed = |column: Option<usize>, name: &str| match field(column) {
        "" => Ok(None),
        _ => number(column, name).map(Some),
    };
    let text = needed(tick, "tick")?;
    let tick = text.parse::<u64>().or_else(|_| odd_tick(text.parse().ok(), &format!("\"{text}\"")))?;
    let truth = |column: Option<usize>, name: &str| match field(column) {
        "" => Ok(None),
        "true" | "1" => Ok(Some(true)),
        "false" | "0" => Ok(Some(false)),
        text => Err((format!("{name} is \"{text}\"; expected true or false"), None)),
    };
    Ok(Row {
        take: field(take),
        tick,
        actor: needed(actor, "actor")?,
        at: Point::new(number(x, "x")?, number(y, "y")?),
        facing: field(facing),
        animation: field(animation),
        frame: field(frame),
        states: field(states),
        flipped_art: truth(flipped_art, "flipped_art")?,
        grounded: truth(grounded, "grounded")?,
        velocity: super::velocity(speed(vx, "vx")?, speed(vy, "vy")?),
        via: field(via),
    })
}

/// What is wrong with a row that cannot be parted into fields, and what to do.
fn row_problem(error: &csv::Error) -> Wrong {
    match error.kind() {
        csv::ErrorKind::Utf8 { err, .. } => {
            (format!("field {} is not UTF-8 text", err.field() + 1), Some("save the take as UTF-8".to_string()))
        }
        _ => (format!("is no CSV row: {error}"), None),
    }
}

fn header_problem(path: &Path, error: &csv::Error) -> Problem {
    let (message, hint) = row_problem(error);
    let problem = Problem::of_file(path, format!("line 1: {message}"));
    hint.into_iter().fold(problem, Problem::with_hint)
}

/// What other recorders call the columns.
const OTHER_NAMES: [(&str, &str); 16] = [
    ("t", "tick"),
    ("frame_number", "tick"),
    ("step", "tick"),
    ("name", "actor"),
    ("id", "actor"),
    ("entity", "actor"),
    ("px", "x"),
    ("pos_x", "x"),
    ("py", "y"),
    ("pos_y", "y"),
    ("dir", "facing"),
    ("direction", "facing"),
    ("anim", "animation"),
    ("state", "states"),
    ("on_ground", "grounded"),
    ("frame_index", "frame"),
];

/// The header as it should be, where each name that is not known stands for one column, and that is not there otherwise.
fn renamed(header: &StringRecord) -> Option<String> {
    let mut names: Vec<&str> = Vec::new();
    for name in header {
        let lower = name.to_lowercase();
        let known = COLUMNS.iter().copied().find(|column| *column == lower);
        let other = OTHER_NAMES.iter().find(|(other, _)| *other == lower).map(|(_, column)| *column);
        let column = known.or(other)?;
        if names.contains(&column) {
            return None;
        }
        names.push(column);
    }
    let is_new = header.iter().zip(&names).any(|(old, new)| old != *new);
    (is_new && NEEDED.iter().all(|column| names.contains(column))).then(|| names.join(","))
}

fn columns(path: &Path, header: &StringRecord) -> Result<[Option<usize>; COLUMNS.len()], Problems> {
    let mut columns = [None; COLUMNS.len()];
    let mut problems = Problems::default();
    if !header.iter().any(|name| COLUMNS.contains(&name)) {
        let whole = header.iter().collect::<Vec<&str>>().join(",");
        let names = |by: char| whole.split(by).filter(|name| COLUMNS.contains(&name.trim())).count();
        if let Some((by, word)) = [(';', "semicolons"), ('\t', "tabs")].into_iter().find(|(by, _)| names(*by) > 1) {
            let problem = Problem::of_file(path, format!("line 1: the fields are parted by {word}, not by commas"));
            let hint = format!("write {}", whole.replace(by, ","));
            return Err(problem.with_hint(hint).into());
        }
        let problem = Problem::of_file(path, "line 1: it names no column of a take");
        let hint = format!("the first line must name the columns, such as {}", COLUMNS.join(","));
        return Err(problem.with_hint(hint).into());
    }
    for (at, name) in header.iter().enumerate() {
        match COLUMNS.iter().position(|known| *known == name) {
            Some(index) if columns[index].is_none() => columns[index] = Some(at),
            Some(_) => problems.0.push(Problem::of_file(path, format!("line 1: column {name} is there twice"))),
            None => {
                let hint = match nearest(name, &COLUMNS) {
                    _ if INSTANCE.contains(&name.to_ascii_lowercase().as_str()) => {
                        "of several of one actor each is name:instance in the column actor, such as gull:2".to_string()
                    }
                    Some(near) => format!("did you mean {near}?"),
                    None => format!("columns are {}", COLUMNS.join(",")),
                };
                problems.0.push(Problem::of_file(path, format!("line 1: unknown column \"{name}\"")).with_hint(hint));
            }
        }
    }
    let index = |name: &str| COLUMNS.iter().position(|known| *known == name);
    let missing: Vec<&str> =
        NEEDED.into_iter().filter(|name| index(name).is_none_or(|index| columns[index].is_none())).collect();
    if !missing.is_empty() {
        let noun = if missing.len() == 1 { "column" } else { "columns" };
        let message = format!("line 1: missing {noun}: {}", missing.join(", "));
        let hint = format!("the first line must name the columns, such as {}", COLUMNS.join(","));
        problems.0.push(Problem::of_file(path, message).with_hint(hint));
    }
    problems.or(columns)
}
