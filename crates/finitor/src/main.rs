//! The command line: arguments in, results out; the work is done in the other crates.

mod cli;
mod commands;
mod exit;
mod fitting;
mod looking;
mod new_folder;
mod output;
mod progress;
mod session;
mod starting;

use clap::Parser;
use exit::{Exit, Failure};
use std::process::ExitCode;

fn main() -> ExitCode {
    let cli = cli::Cli::parse();
    let mut out = std::io::BufWriter::new(anstream::AutoStream::auto(std::io::stdout()));
    let done = commands::run(&cli, &mut out).and_then(|exit| {
        std::io::Write::flush(&mut out)?;
        Ok(exit)
    });
    match done {
        Ok(exit) => exit.into(),
        Err(Failure::Output(error)) if error.kind() == std::io::ErrorKind::BrokenPipe => Exit::Done.into(),
        Err(failure) => {
            failure.print();
            Exit::BadInput.into()
        }
    }
}
