//! Rows that cannot be read, each mistake told once.

use crate::problem::Problem;
use std::path::Path;

/// What is wrong with a row, and how to mend it.
pub(super) type Wrong = (String, Option<String>);

/// Mistakes told at most; what comes after is counted.
const MOST_TOLD: usize = 20;
/// Up to this numbers with decimals hold every whole one.
const LARGEST: f64 = 9_007_199_254_740_992.0;

/// The bad rows of a take.
#[derive(Debug, Default)]
pub(super) struct BadRows {
    mistakes: Vec<Mistake>,
    /// Rows that are bad otherwise than all of these.
    more: usize,
}

/// Rows with one mistake.
#[derive(Debug)]
struct Mistake {
    /// The first of them.
    line: u64,
    more: usize,
    wrong: Wrong,
}

impl BadRows {
    pub(super) fn is_empty(&self) -> bool {
        self.mistakes.is_empty()
    }

    pub(super) fn add(&mut self, line: u64, wrong: Wrong) {
        let has_room = self.mistakes.len() < MOST_TOLD;
        match self.mistakes.iter_mut().find(|known| is_alike(&known.wrong.0, &wrong.0)) {
            Some(known) => known.more += 1,
            None if has_room => self.mistakes.push(Mistake { line, more: 0, wrong }),
            None => self.more += 1,
        }
    }

    pub(super) fn problems(self, path: &Path) -> Vec<Problem> {
        let told = self.mistakes.into_iter().map(|Mistake { line, more, wrong: (message, hint) }| {
            let lines = if more > 0 { format!("line {line} and {more} more") } else { format!("line {line}") };
            Problem { hint, ..Problem::of_file(path, format!("{lines}: {message}")) }
        });
        let rest = (self.more > 0).then(|| Problem::of_file(path, format!("{} more bad rows", self.more)));
        told.chain(rest).collect()
    }
}

/// Whether two messages are of one mistake: the same but for the numbers that are wrong.
fn is_alike(one: &str, other: &str) -> bool {
    let is_number = |part: &str| part.starts_with(|c: char| c.is_ascii_digit() || c == '-' || c == '.');
    let (mut parts, mut others) = (one.split('"'), other.split('"'));
    loop {
        match (parts.next(), others.next()) {
            (None, None) => return true,
            (Some(part), Some(other)) if part == other || (is_number(part) && is_number(other)) => {}
            _ => return false,
        }
    }
}

/// A tick that is not written as a whole number: some languages write `12.0`.
pub(super) fn odd_tick(number: Option<f64>, shown: &str) -> Result<u64, Wrong> {
    let whole = number.filter(|number| (0.0..=LARGEST).contains(number) && number.fract() == 0.0);
    whole.map(|number| number as u64).ok_or_else(|| {
        let is_time = number.is_some_and(|number| number >= 0.0 && number.fract() != 0.0);
        let hint = "write how many steps the game has taken, 0, 1, 2, not the time in seconds";
        (format!("tick is {shown}; expected a whole number from 0"), is_time.then(|| hint.to_string()))
    })
}
