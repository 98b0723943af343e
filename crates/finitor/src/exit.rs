//! How the program ends.

use anstream::eprintln;
use finitor_app::Failure;
use std::process::ExitCode;

/// The exit code of a run.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub(crate) enum Exit {
    /// Done, and nothing found at or above `--fail-on`.
    Done = 0,
    /// Done, and something found at or above it.
    Findings = 1,
    /// The input is wrong; nothing was written.
    BadInput = 2,
    /// Not the user's mistake: results cannot be written, or a bug.
    OwnFault = 3,
}

impl From<Exit> for ExitCode {
    fn from(exit: Exit) -> ExitCode {
        ExitCode::from(exit as u8)
    }
}

/// Prints why a run did not come to its end, on standard error, and says how it ends.
pub(crate) fn report(failure: &Failure) -> Exit {
    match failure {
        Failure::Input(problems) => {
            for (index, problem) in problems.0.iter().enumerate() {
                // Those that show their line stand apart; a list of rows stays a list.
                let apart = if index > 0 && problem.place.is_some() { "\n" } else { "" };
                eprintln!("{apart}{}", problem.render());
            }
            if problems.0.len() > 1 {
                eprintln!("\n{} mistakes; nothing was written", problems.0.len());
            }
            Exit::BadInput
        }
        Failure::Usage(message) => {
            eprintln!("error: {message}");
            Exit::BadInput
        }
        Failure::Write(error) if error.kind() == std::io::ErrorKind::BrokenPipe => Exit::Done,
        Failure::Write(error) => {
            eprintln!("error: results cannot be written: {error}");
            eprintln!("help: free some space, or check that the folder can be written to, then run it again");
            Exit::OwnFault
        }
        Failure::Bug(message) => {
            eprintln!("error: this is a bug in finitor {}: {message}", crate::cli::VERSION);
            eprintln!("help: report it with the command line and the files that led to it");
            Exit::OwnFault
        }
    }
}
