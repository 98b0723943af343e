//! Takes, read tick by tick: rows of CSV or lines of JSON, from a file or standard input.

mod cast;
mod csv_rows;
mod following;
mod json_rows;

use crate::problem::{Problem, Problems};
use cast::Cast;
use csv_rows::CsvRows;
use finitor_core::actor::{Actor, ActorIndex};
use finitor_core::take::{Recording, Sample};
use finitor_core::{Facing, Point, Vec2};
pub use following::Follow;
use following::Following;
use json_rows::JsonRows;
use std::fs::File;
use std::io::{BufRead, BufReader, Read};
use std::path::{Path, PathBuf};

/// Bad rows told at most; the rest is counted.
const MOST_TOLD: usize = 20;

/// The path that stands for standard input.
pub const STANDARD_INPUT: &str = "-";

/// The columns of CSV and the keys of JSON lines.
const COLUMNS: [&str; 13] =
    ["tick", "actor", "x", "y", "facing", "animation", "frame", "vx", "vy", "states", "flipped_art", "grounded", "via"];

/// What a row says, as it stands there.
#[derive(Clone, Copy, Debug)]
struct Row<'r> {
    tick: u64,
    actor: &'r str,
    at: Point,
    /// Empty where it is not given, as are the next two.
    facing: &'r str,
    animation: &'r str,
    frame: &'r str,
    /// Words parted by spaces.
    states: &'r str,
    flipped_art: Option<bool>,
    grounded: Option<bool>,
    velocity: Option<Vec2>,
    /// Places parted by semicolons, `x y`.
    via: &'r str,
}

/// A velocity, of which a row may leave out the side that is 0.
fn velocity(x: Option<f64>, y: Option<f64>) -> Option<Vec2> {
    (x.is_some() || y.is_some()).then(|| Vec2::new(x.unwrap_or(0.0), y.unwrap_or(0.0)))
}

/// A mistake in a row, and its mend.
type Wrong = (String, Option<String>);

/// Where rows come from.
enum Rows {
    Csv(CsvRows),
    Json(JsonRows),
}

impl Rows {
    fn next(&mut self) -> Option<Result<Row<'_>, Wrong>> {
        match self {
            Rows::Csv(rows) => rows.next(),
            Rows::Json(rows) => rows.next(),
        }
    }

    /// The line of the row read last.
    fn line(&self) -> u64 {
        match self {
            Rows::Csv(rows) => rows.line(),
            Rows::Json(rows) => rows.line(),
        }
    }
}

/// Samples that are filled anew for each tick.
#[derive(Default)]
struct Slots {
    samples: Vec<Sample>,
    used: usize,
    /// Whether all instances so far are those of the last tick that was held here, in their order: no two are the same then.
    as_before: bool,
}

impl Slots {
    /// A new tick begins.
    fn reset(&mut self) {
        // What was not used is of an older tick.
        self.samples[self.used..].iter_mut().for_each(|sample| sample.label.clear());
        (self.used, self.as_before) = (0, true);
    }
}

/// Reads a take; memory does not grow with its length.
pub struct TakeReader<'a> {
    path: PathBuf,
    rows: Rows,
    cast: Cast<'a>,
    /// Those of the tick told last, and of the one after it as far as it is read.
    now: Slots,
    next: Slots,
    next_tick: Option<u64>,
    /// Whether any row was read.
    begun: bool,
    problems: Vec<Problem>,
    bad_rows: usize,
}

impl<'a> TakeReader<'a> {
    /// Opens a take, or standard input for [`STANDARD_INPUT`], and reads its header where it has one. With `flip` y is
    /// counted up from the bottom of a stage that high. Lines of JSON are known by their first character.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn open(path: &Path, actors: &'a [Actor], flip: Option<f64>) -> Result<TakeReader<'a>, Problems> {
        let input: Box<dyn Read + Send> = if path == Path::new(STANDARD_INPUT) {
            Box::new(std::io::stdin())
        } else if path.is_dir() {
            return Err(Problem::of_file(path, "is a folder; name the takes in it").into());
        } else {
            let file = File::open(path).map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
            Box::new(file)
        };
        TakeReader::of(path, input, actors, flip)
    }

    /// Opens a take that is still being written: reading waits for more until it is stopped or the file is cut back.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn follow(
        path: &Path,
        actors: &'a [Actor],
        flip: Option<f64>,
        follow: &Follow,
    ) -> Result<TakeReader<'a>, Problems> {
        let file = Following::open(path, follow);
        let file = file.map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
        TakeReader::of(path, Box::new(file), actors, flip)
    }

    fn of(
        path: &Path,
        input: Box<dyn Read + Send>,
        actors: &'a [Actor],
        flip: Option<f64>,
    ) -> Result<TakeReader<'a>, Problems> {
        let mut input: Input = BufReader::with_capacity(1 << 16, input);
        let begins =
            input.fill_buf().map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?.trim_ascii();
        if let Some(problem) = unreadable(path, begins) {
            return Err(problem.into());
        }
        let rows = match begins.first() {
            Some(b'{') => Rows::Json(JsonRows::new(input)),
            _ => Rows::Csv(CsvRows::open(path, input)?),
        };
        Ok(TakeReader {
            path: path.to_path_buf(),
            rows,
            cast: Cast::new(actors, flip),
            now: Slots::default(),
            next: Slots::default(),
            next_tick: None,
            begun: false,
            problems: Vec::new(),
            bad_rows: 0,
        })
    }

    /// Reads all ticks that are left.
    ///
    /// # Errors
    /// All bad rows up to a limit.
    pub fn record(mut self) -> Result<Recording, Problems> {
        let mut recording = Recording::default();
        while let Some((tick, samples)) = self.next_tick()? {
            recording.push(tick, samples);
        }
        Ok(recording)
    }

    /// The samples of the next tick, in the order of their rows; `None` at the end. Bad rows are passed over until
    /// then.
    ///
    /// # Errors
    /// At the end, all bad rows up to a limit.
    pub fn next_tick(&mut self) -> Result<Option<(u64, &[Sample])>, Problems> {
        std::mem::swap(&mut self.now, &mut self.next);
        self.next.reset();
        let mut tick = self.next_tick.take();
        while self.next_tick.is_none() {
            let Some(row) = self.rows.next() else { break };
            let row = match row {
                Ok(row) => row,
                Err((message, hint)) => {
                    self.bad(message, hint);
                    continue;
                }
            };
            if let Some(last) = tick.filter(|last| row.tick < *last) {
                let message = format!("tick {} comes after tick {last}; ticks must not run back", row.tick);
                self.bad(message, Some("sort the rows by tick".into()));
                continue;
            }
            let is_next = tick.is_some_and(|tick| row.tick > tick);
            let slots = if is_next { &mut self.next } else { &mut self.now };
            if tick.is_none() {
                slots.reset();
            }
            if slots.samples.len() == slots.used {
                slots.samples.push(unset());
            }
            slots.as_before &= slots.samples[slots.used].label == row.actor;
            let as_before = slots.as_before;
            let own_tick = row.tick;
            // A slot held the same instance on another tick as a rule, which spares looking it up.
            let (before, slot) = slots.samples[..=slots.used].split_at_mut(slots.used);
            match self.cast.fill(row, &mut slot[0]) {
                Ok(()) if !as_before && before.iter().any(|known| known.label == slot[0].label) => {
                    let message = format!("tick {own_tick} has a second row for {}", slot[0].label);
                    self.bad(message, Some("name instances apart, such as gull:1 and gull:2".into()));
                }
                Ok(()) => {
                    slots.used += 1;
                    self.begun = true;
                    if is_next { self.next_tick = Some(own_tick) } else { tick = Some(own_tick) }
                }
                Err((message, hint)) => self.bad(message, hint),
            }
        }
        match tick {
            Some(tick) => Ok(Some((tick, &self.now.samples[..self.now.used]))),
            None => self.finish().map(|()| None),
        }
    }

    fn finish(&mut self) -> Result<(), Problems> {
        let mut problems = std::mem::take(&mut self.problems);
        if self.bad_rows > MOST_TOLD {
            let more = self.bad_rows - MOST_TOLD;
            problems.push(Problem::of_file(&self.path, format!("{more} more bad rows")));
        }
        if problems.is_empty() && !self.begun {
            let message = "the take has a header but no rows";
            let hint = "record a row for each actor and tick; docs/recording.md has recorders";
            return Err(Problem::of_file(&self.path, message).with_hint(hint).into());
        }
        Problems(problems).or(())
    }

    fn bad(&mut self, message: String, hint: Option<String>) {
        self.bad_rows += 1;
        if self.problems.len() < MOST_TOLD {
            let mut problem = Problem::of_file(&self.path, format!("line {}: {message}", self.rows.line()));
            problem.hint = hint;
            self.problems.push(problem);
        }
    }
}

/// Where the bytes come from.
/// What is no take by its first bytes.
fn unreadable(path: &Path, begins: &[u8]) -> Option<Problem> {
    let (message, hint) = match begins {
        [] => ("the take is empty", format!("the first line names the columns, such as {}", COLUMNS[..7].join(","))),
        [0xff, 0xfe, ..] | [0xfe, 0xff, ..] | [0, ..] | [_, 0, ..] => {
            ("is UTF-16 text or no text at all", "save the take as UTF-8".to_string())
        }
        [b'[', ..] => {
            let hint = "write one object a line, without the brackets and the commas between them".to_string();
            ("is one JSON list; a take is lines of JSON", hint)
        }
        _ => return None,
    };
    Some(Problem::of_file(path, message).with_hint(hint))
}

type Input = BufReader<Box<dyn Read + Send>>;

/// A sample before its first row.
fn unset() -> Sample {
    Sample {
        label: String::new(),
        actor: ActorIndex(0),
        at: Point::ZERO,
        facing: Facing::Right,
        animation: 0,
        frame: 0,
        states: Vec::new(),
        flipped_art: None,
        grounded: None,
        velocity: None,
        via: Vec::new(),
    }
}
