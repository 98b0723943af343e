//! How the program ends.

use anstream::eprintln;
use finitor_files::Problems;
use std::io::IsTerminal;
use std::process::ExitCode;

/// The exit code of a run that came to its end.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Exit {
    /// Done, and nothing found at or above `--fail-on`.
    Done = 0,
    /// Done, and something found at or above it.
    Findings = 1,
    /// The input is wrong; nothing was written.
    BadInput = 2,
}

impl From<Exit> for ExitCode {
    fn from(exit: Exit) -> ExitCode {
        ExitCode::from(exit as u8)
    }
}

/// Why a run did not come to its end.
#[derive(Debug)]
pub(crate) enum Failure {
    /// The user's files or arguments are wrong.
    Input(Problems),
    /// An argument names nothing.
    Usage(String),
    /// Results could not be written.
    Output(std::io::Error),
}

impl From<Problems> for Failure {
    fn from(problems: Problems) -> Failure {
        Failure::Input(problems)
    }
}

impl From<std::io::Error> for Failure {
    fn from(error: std::io::Error) -> Failure {
        Failure::Output(error)
    }
}

impl From<serde_json::Error> for Failure {
    fn from(error: serde_json::Error) -> Failure {
        Failure::Output(error.into())
    }
}

impl Failure {
    /// Tells the user, on standard error.
    pub(crate) fn print(&self) {
        match self {
            Failure::Input(problems) => {
                let styled = std::io::stderr().is_terminal();
                for (index, problem) in problems.0.iter().enumerate() {
                    // Those that show their line stand apart; a list of rows stays a list.
                    let apart = if index > 0 && problem.place.is_some() { "\n" } else { "" };
                    eprintln!("{apart}{}", problem.render(styled));
                }
                if problems.0.len() > 1 {
                    eprintln!("\n{} mistakes; nothing was written", problems.0.len());
                }
            }
            Failure::Usage(message) => eprintln!("error: {message}"),
            Failure::Output(error) => eprintln!("error: results cannot be written: {error}"),
        }
    }
}
