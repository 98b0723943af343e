//! `finitor man`.

use crate::cli::{Cli, ManArgs};
use crate::exit::Exit;
use clap::CommandFactory;
use clap_mangen::Man;
use finitor_app::Failure;
use std::io::Write;

/// Writes the manual.
pub(super) fn run(args: &ManArgs, out: &mut dyn Write) -> Result<Exit, Failure> {
    let command = Cli::command().disable_help_subcommand(true);
    let Some(folder) = &args.out else {
        Man::new(command).render(&mut &mut *out)?;
        return Ok(Exit::Done);
    };
    std::fs::create_dir_all(folder)?;
    clap_mangen::generate_to(command, folder)?;
    writeln!(out, "finitor.1 and a page a command -> {}", folder.display())?;
    Ok(Exit::Done)
}
