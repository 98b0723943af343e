//! Why a call did not come to its end.

use finitor_files::Problems;
use finitor_files::nearest;
use std::fmt;

/// Why a call did not come to its end.
#[derive(Debug)]
pub enum Failure {
    /// The user's files are wrong.
    Input(Problems),
    /// A name or an option that was asked for is wrong.
    Usage(String),
    /// Results cannot be written: not the user's mistake.
    Write(std::io::Error),
    /// A bug of ours.
    Bug(String),
}

impl From<Problems> for Failure {
    fn from(problems: Problems) -> Failure {
        Failure::Input(problems)
    }
}

impl From<std::io::Error> for Failure {
    fn from(error: std::io::Error) -> Failure {
        Failure::Write(error)
    }
}

impl From<serde_json::Error> for Failure {
    fn from(error: serde_json::Error) -> Failure {
        Failure::Write(error.into())
    }
}

impl fmt::Display for Failure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Failure::Input(problems) => {
                let all: Vec<String> = problems.0.iter().map(ToString::to_string).collect();
                f.write_str(&all.join("\n"))
            }
            Failure::Usage(message) | Failure::Bug(message) => f.write_str(message),
            Failure::Write(error) => write!(f, "results cannot be written: {error}"),
        }
    }
}

impl std::error::Error for Failure {}

/// A name that is none of those known: what it should have named, the name, and the nearest known one.
pub fn unknown(what: &str, name: &str, known: &[&str]) -> Failure {
    let hint = match nearest(name, known) {
        Some(near) => format!("did you mean \"{near}\"?"),
        None if known.is_empty() => "there are none".to_string(),
        None => format!("known: {}", known.join(", ")),
    };
    Failure::Usage(format!("there is no {what} \"{name}\"; {hint}"))
}
