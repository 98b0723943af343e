//! `finitor completions`.

use crate::cli::{Cli, CompletionsArgs};
use crate::exit::Exit;
use clap::CommandFactory;
use finitor_app::Failure;
use std::io::Write;

/// Writes what a shell reads to complete commands, options and their values.
pub(super) fn run(args: &CompletionsArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let mut words = Vec::new();
    clap_complete::generate(args.shell, &mut Cli::command(), "finitor", &mut words);
    out.write_all(&words)?;
    Ok(Exit::Done)
}
