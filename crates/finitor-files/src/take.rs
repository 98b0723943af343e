//! Takes, read tick by tick: rows of CSV or lines of JSON, from a file or standard input.

mod ahead;
mod bad_rows;
mod cast;
mod csv_rows;
mod first_bytes;
mod following;
mod json_rows;
mod lane;
mod names;
mod row_lines;
mod several;

use crate::problem::{Problem, Problems};
use crate::toml_table::nearest;
use bad_rows::{BadRows, Wrong};
use cast::Cast;
use csv_rows::CsvRows;
use finitor_core::actor::Actor;
use finitor_core::take::{Recording, Sample};
use finitor_core::{Point, Vec2};
use first_bytes::unreadable;
pub use following::Follow;
use json_rows::JsonRows;
use lane::Lane;
pub use names::names_in_take;
pub use row_lines::{RowOf, row_lines};
use several::name_hash;
pub use several::{TakeInFile, holds_take};
use std::collections::BTreeSet;
use std::fs::File;
use std::io::{BufRead, BufReader, Read};
use std::path::{Path, PathBuf};

/// Names of other takes that are listed at most.
const MOST_LISTED: usize = 20;

/// The path that stands for standard input.
pub const STANDARD_INPUT: &str = "-";

/// The columns of CSV and the keys of JSON lines.
const COLUMNS: [&str; 14] = [
    "tick",
    "actor",
    "x",
    "y",
    "facing",
    "animation",
    "frame",
    "vx",
    "vy",
    "states",
    "flipped_art",
    "grounded",
    "via",
    "take",
];

/// What a row says, as it stands there.
#[derive(Clone, Copy, Debug)]
struct Row<'r> {
    /// Which take it is of; empty where it is not given.
    take: &'r str,
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

/// What a reader comes to next.
pub enum TakeRead<'r> {
    /// All rows of a tick, in their order.
    Tick {
        /// The take, as the column `take` has it; empty without that column.
        take: &'r str,
        /// Which tick.
        tick: u64,
        /// A sample a row.
        samples: &'r [Sample],
    },
    /// No more rows of this take follow.
    End {
        /// The take.
        take: &'r str,
    },
}

/// Reads a take, or several that share a file: rows of one after the other, or mixed. Memory does not grow with their length, but
/// with how many are open at a time.
pub struct TakeReader<'a> {
    path: PathBuf,
    rows: Rows,
    cast: Cast<'a>,
    /// The only take that is wanted of the file, where one is named.
    only: Option<String>,
    /// Others that it holds, as far as they are named where that one is not there.
    others: Vec<String>,
    /// Takes that may be open at a time.
    most_open: usize,
    open: Vec<Lane>,
    /// What was come to last.
    last: Last,
    /// Which of the open ones has no more rows.
    ending: Option<usize>,
    /// Of the names of those that have ended.
    ended: BTreeSet<u64>,
    /// Whether all rows are read.
    is_over: bool,
    /// Rows that were read.
    count: u64,
    bad_rows: BadRows,
}

impl<'a> TakeReader<'a> {
    /// Opens a take, or standard input for [`STANDARD_INPUT`], and reads its header where it has one. With `flip` y is
    /// counted up from the bottom of a stage that high. Lines of JSON are known by their first character. `FILE:TAKE` is one take of
    /// a file that holds several.
    ///
    /// # Errors
    /// The file's or the header's mistakes.
    pub fn open(path: &Path, actors: &'a [Actor], flip: Option<f64>) -> Result<TakeReader<'a>, Problems> {
        if let Some(TakeInFile { file, take }) = TakeInFile::of(path) {
            let reader = TakeReader::open(&file, actors, flip)?;
            return Ok(TakeReader { only: Some(take), ..reader });
        }
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

    /// Lets the rows of this many takes be mixed; else the rows of each stand together.
    #[must_use]
    pub fn mixed(self, most_open: usize) -> TakeReader<'a> {
        TakeReader { most_open: most_open.max(1), ..self }
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
            only: None,
            others: Vec::new(),
            most_open: 1,
            open: Vec::new(),
            last: Last::Nothing,
            ending: None,
            ended: BTreeSet::new(),
            is_over: false,
            count: 0,
            bad_rows: BadRows::default(),
        })
    }

    /// The header as it was read, where its columns have names of other recorders.
    pub fn header_read_as(&self) -> Option<&str> {
        match &self.rows {
            Rows::Csv(rows) => rows.read_as(),
            Rows::Json(_) => None,
        }
    }

    /// Reads all ticks that are left of the only take.
    ///
    /// # Errors
    /// All bad rows up to a limit; more takes than one.
    pub fn record(mut self) -> Result<Recording, Problems> {
        let mut recording = Recording::default();
        let mut name: Option<String> = None;
        while let Some(read) = self.next()? {
            let TakeRead::Tick { take, tick, samples } = read else { continue };
            if let Some(known) = name.as_ref().filter(|name| *name != take) {
                let message = format!("holds several takes: {known}, {take}");
                let hint = format!("name the one that is meant: {}:{known}", self.path.display());
                return Err(Problem::of_file(&self.path, message).with_hint(hint).into());
            }
            name.get_or_insert_with(|| take.to_string());
            recording.push(tick, samples);
        }
        Ok(recording)
    }

    /// The next tick or end of a take; `None` at the end of all. Bad rows are passed over until then.
    ///
    /// # Errors
    /// At the end, all bad rows up to a limit.
    ///
    /// # Complexity
    /// That of reading its rows, times the takes open at a time.
    #[expect(clippy::should_implement_trait, reason = "what it gives is borrowed from it")]
    pub fn next(&mut self) -> Result<Option<TakeRead<'_>>, Problems> {
        match std::mem::replace(&mut self.last, Last::Nothing) {
            Last::Tick(index) => self.open[index].move_on(),
            Last::Ended(_) | Last::Nothing => {}
        }
        loop {
            if let Some(index) = self.ending {
                return self.end(index);
            }
            let Some(row) = self.rows.next() else {
                if self.open.is_empty() {
                    return self.finish().map(|()| None);
                }
                (self.is_over, self.ending) = (true, Some(0));
                continue;
            };
            let row = match row {
                Ok(row) => row,
                Err(wrong) => {
                    self.bad(wrong);
                    continue;
                }
            };
            if self.only.as_ref().is_some_and(|only| only != row.take) {
                let is_new = self.others.last().is_none_or(|last| last != row.take);
                if is_new && self.others.len() < MOST_LISTED && self.others.iter().all(|known| known != row.take) {
                    self.others.push(row.take.to_string());
                }
                continue;
            }
            self.count += 1;
            let is_of =
                |lane: &Lane| lane.name.len() == row.take.len() && (row.take.is_empty() || lane.name == row.take);
            let known = self.open.iter().position(is_of);
            if known.is_none() && self.ended.contains(&name_hash(row.take)) {
                let message = format!("take {} goes on here after another one began", row.take);
                let hint = "keep the rows of a take together, or say how many are mixed: --mixed N".to_string();
                self.bad((message, Some(hint)));
                continue;
            }
            let index = known.unwrap_or_else(|| {
                if self.open.len() == self.most_open {
                    // The one that has been silent for longest.
                    self.ending = (0..self.open.len()).min_by_key(|index| self.open[*index].last_row);
                }
                self.open.push(Lane::new(row.take));
                self.open.len() - 1
            });
            let lane = &mut self.open[index];
            lane.last_row = self.count;
            match lane.fill(&self.cast, row) {
                Ok(()) if lane.has_all() => return Ok(self.tick(index)),
                Ok(()) => {}
                Err(wrong) => self.bad(wrong),
            }
        }
    }

    /// The tick that a take is at.
    fn tick(&mut self, index: usize) -> Option<TakeRead<'_>> {
        self.last = Last::Tick(index);
        let lane = &self.open[index];
        lane.tick().map(|(tick, samples)| TakeRead::Tick { take: &lane.name, tick, samples })
    }

    /// The last tick of a take that ends, then its end.
    fn end(&mut self, index: usize) -> Result<Option<TakeRead<'_>>, Problems> {
        if self.open[index].tick().is_some() {
            return Ok(self.tick(index));
        }
        if self.is_over && !self.bad_rows.is_empty() {
            return self.finish().map(|()| None);
        }
        let lane = self.open.remove(index);
        self.ended.insert(name_hash(&lane.name));
        self.ending = (self.is_over && !self.open.is_empty()).then_some(0);
        self.last = Last::Ended(lane.name);
        let Last::Ended(take) = &self.last else { return Ok(None) };
        Ok(Some(TakeRead::End { take }))
    }

    fn finish(&mut self) -> Result<(), Problems> {
        let problems = std::mem::take(&mut self.bad_rows).problems(&self.path);
        if let Some(only) = self.only.as_ref().filter(|_| problems.is_empty() && self.count == 0) {
            let others: Vec<&str> = self.others.iter().map(String::as_str).collect();
            let hint = match nearest(only, &others) {
                Some(near) => format!("did you mean {near}?"),
                None => format!("it holds {}", others.join(", ")),
            };
            return Err(Problem::of_file(&self.path, format!("holds no take {only}")).with_hint(hint).into());
        }
        if problems.is_empty() && self.count == 0 {
            let message = "the take has a header but no rows";
            let hint = "record a row for each actor and tick; docs/recording.md has recorders";
            return Err(Problem::of_file(&self.path, message).with_hint(hint).into());
        }
        Problems(problems).or(())
    }

    fn bad(&mut self, wrong: Wrong) {
        self.bad_rows.add(self.rows.line(), wrong);
    }
}

/// What was come to last.
enum Last {
    Nothing,
    /// A tick of one of the open takes.
    Tick(usize),
    /// The end of a take.
    Ended(String),
}

/// Where the bytes come from.
type Input = BufReader<Box<dyn Read + Send>>;
