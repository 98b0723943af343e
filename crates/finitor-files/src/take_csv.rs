//! Takes as CSV, read tick by tick.

use crate::problem::{Problem, Problems};
use crate::toml_table::nearest;
use finitor_core::actor::Actor;
use finitor_core::take::Sample;
use finitor_core::{Facing, Point};
use std::fs::File;
use std::path::{Path, PathBuf};

/// Bad rows told at most; the rest is counted.
const MOST_TOLD: usize = 20;

/// Places lie between plus and minus this, px: farther out a coordinate's rounding would near what counts as a touch.
const FARTHEST: f64 = 1e7;

const COLUMNS: [&str; 11] =
    ["tick", "actor", "x", "y", "facing", "animation", "frame", "vx", "vy", "states", "flipped_art"];
const NEEDED: [&str; 7] = ["tick", "actor", "x", "y", "facing", "animation", "frame"];

/// Reads a take; memory does not grow with its length.
pub struct TakeReader<'a> {
    path: PathBuf,
    rows: csv::StringRecordsIntoIter<File>,
    columns: [Option<usize>; COLUMNS.len()],
    actors: &'a [Actor],
    /// Height of the stage where the take counts y up.
    flip: Option<f64>,
    ahead: Option<(u64, Sample)>,
    last: Option<u64>,
    problems: Vec<Problem>,
    bad_rows: usize,
}

impl<'a> TakeReader<'a> {
    /// Opens a take and reads its header. With `flip` y is counted up from the bottom of a stage that high.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn open(path: &Path, actors: &'a [Actor], flip: Option<f64>) -> Result<TakeReader<'a>, Problems> {
        if path.is_dir() {
            return Err(Problem::of_file(path, "is a folder; name the takes in it").into());
        }
        let file = File::open(path).map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
        let mut reader = csv::ReaderBuilder::new().trim(csv::Trim::All).flexible(true).from_reader(file);
        let header = reader.headers().map_err(|error| Problem::of_file(path, format!("line 1: {error}")))?.clone();
        let columns = columns(path, &header)?;
        Ok(TakeReader {
            path: path.to_path_buf(),
            rows: reader.into_records(),
            columns,
            actors,
            flip,
            ahead: None,
            last: None,
            problems: Vec::new(),
            bad_rows: 0,
        })
    }

    /// The samples of the next tick, in the order of their rows; `None` at the end. Bad rows are passed over until
    /// then.
    ///
    /// # Errors
    /// At the end, all bad rows up to a limit.
    pub fn next_tick(&mut self) -> Result<Option<(u64, Vec<Sample>)>, Problems> {
        let Some((tick, first)) = self.ahead.take().or_else(|| self.next_row()) else {
            return self.finish();
        };
        let mut samples = vec![first];
        while let Some((next, sample)) = self.next_row() {
            if next != tick {
                self.ahead = Some((next, sample));
                break;
            }
            if samples.iter().any(|known| known.label == sample.label) {
                let message = format!("tick {tick} has a second row for {}", sample.label);
                self.bad(&message, Some("name instances apart, such as gull:1 and gull:2"));
            } else {
                samples.push(sample);
            }
        }
        Ok(Some((tick, samples)))
    }

    fn finish(&mut self) -> Result<Option<(u64, Vec<Sample>)>, Problems> {
        let mut problems = std::mem::take(&mut self.problems);
        if self.bad_rows > MOST_TOLD {
            let more = self.bad_rows - MOST_TOLD;
            problems.push(Problem::of_file(&self.path, format!("{more} more bad rows")));
        }
        if problems.is_empty() && self.last.is_none() {
            let message = "the take has a header but no rows";
            return Err(Problem::of_file(&self.path, message).into());
        }
        Problems(problems).or(None)
    }

    fn next_row(&mut self) -> Option<(u64, Sample)> {
        loop {
            match self.rows.next()? {
                Ok(record) => match self.sample(&record) {
                    Ok((tick, _)) if self.last.is_some_and(|last| tick < last) => {
                        let message =
                            format!("tick {tick} comes after tick {}; ticks must not run back", self.last.unwrap_or(0));
                        self.bad(&message, Some("sort the rows by tick"));
                    }
                    Ok(row) => {
                        self.last = Some(row.0);
                        return Some(row);
                    }
                    Err((message, hint)) => self.bad(&message, hint.as_deref()),
                },
                Err(error) => {
                    self.bad(&format!("is no CSV row: {error}"), None);
                    if error.is_io_error() {
                        return None;
                    }
                }
            }
        }
    }

    fn bad(&mut self, message: &str, hint: Option<&str>) {
        self.bad_rows += 1;
        if self.problems.len() < MOST_TOLD {
            let line = self.rows.reader().position().line().saturating_sub(1).max(2);
            let mut problem = Problem::of_file(&self.path, format!("line {line}: {message}"));
            problem.hint = hint.map(str::to_string);
            self.problems.push(problem);
        }
    }

    fn sample(&self, record: &csv::StringRecord) -> Result<(u64, Sample), (String, Option<String>)> {
        let field = |name: &str| {
            let column = COLUMNS.iter().position(|known| *known == name).and_then(|i| self.columns[i]);
            column.and_then(|column| record.get(column))
        };
        let needed = |name: &str| match field(name) {
            Some(text) if !text.is_empty() => Ok(text),
            _ => Err((format!("the row has no {name}"), None)),
        };
        let number = |name: &str| {
            let text = needed(name)?;
            match text.parse::<f64>() {
                Ok(value) if value.abs() <= FARTHEST => Ok(value),
                _ => Err((format!("{name} is \"{text}\", a number of at most 1e7 was expected"), None)),
            }
        };
        let text = needed("tick")?;
        let tick = text
            .parse::<u64>()
            .map_err(|_| (format!("tick is \"{text}\", a whole number from 0 was expected"), None))?;
        let label = needed("actor")?;
        let (actor_index, actor) = self.actor(label)?;
        let text = needed("facing")?;
        let facing =
            Facing::parse(text).ok_or_else(|| (format!("facing is \"{text}\", right or left was expected"), None))?;
        let text = needed("animation")?;
        let animation = actor.find(text).ok_or_else(|| {
            let names: Vec<&str> = actor.animations.iter().map(|a| a.name.as_str()).collect();
            let hint = nearest(text, &names).map_or_else(
                || format!("{} has {}", actor.name, names.join(", ")),
                |near| format!("did you mean {near}?"),
            );
            (format!("{} has no animation \"{text}\"", actor.name), Some(hint))
        })?;
        let frames = actor.animations[animation].frames.len();
        let text = needed("frame")?;
        let frame = text.parse::<usize>().ok().filter(|frame| *frame < frames).ok_or_else(|| {
            let name = &actor.animations[animation].name;
            (format!("frame is \"{text}\", {name} has 0 to {}", frames - 1), None)
        })?;
        let (x, y) = (number("x")?, number("y")?);
        let states = field("states").unwrap_or("").split_whitespace().map(str::to_string).collect();
        let flipped_art = match field("flipped_art").unwrap_or("") {
            "" => None,
            "true" | "1" => Some(true),
            "false" | "0" => Some(false),
            text => return Err((format!("flipped_art is \"{text}\", true or false was expected"), None)),
        };
        let at = Point::new(x, self.flip.map_or(y, |height| height - y));
        let label = label.to_string();
        Ok((tick, Sample { label, actor: actor_index, at, facing, animation, frame, states, flipped_art }))
    }

    fn actor(&self, label: &str) -> Result<(usize, &'a Actor), (String, Option<String>)> {
        if label.contains(|c: char| c.is_control() || c.is_whitespace()) {
            return Err((format!("actor is \"{label}\", a name or name:instance was expected"), None));
        }
        let name = label.split_once(':').map_or(label, |(name, _)| name);
        let found = self.actors.iter().position(|actor| actor.name == name);
        found.map(|index| (index, &self.actors[index])).ok_or_else(|| {
            let names: Vec<&str> = self.actors.iter().map(|a| a.name.as_str()).collect();
            let hint = nearest(name, &names).map_or_else(
                || format!("the project has {}", names.join(", ")),
                |near| format!("did you mean {near}?"),
            );
            (format!("there is no actor \"{name}\""), Some(hint))
        })
    }
}

fn columns(path: &Path, header: &csv::StringRecord) -> Result<[Option<usize>; COLUMNS.len()], Problems> {
    let mut columns = [None; COLUMNS.len()];
    let mut problems = Problems::default();
    for (at, name) in header.iter().enumerate() {
        match COLUMNS.iter().position(|known| *known == name) {
            Some(index) if columns[index].is_none() => columns[index] = Some(at),
            Some(_) => problems.0.push(Problem::of_file(path, format!("line 1: column {name} stands twice"))),
            None => {
                let hint = match nearest(name, &COLUMNS) {
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
        let message = format!("line 1: there is no column {}", missing.join(", "));
        let hint = format!("the first line names the columns: {}", COLUMNS.join(","));
        problems.0.push(Problem::of_file(path, message).with_hint(hint));
    }
    problems.or(columns)
}
