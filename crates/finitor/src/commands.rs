//! The commands, a module each.

mod check;
mod demo;
mod draw;
mod explain;
mod facing;
mod fit;
mod layers;
mod lint;
mod new;
mod sheet;
mod stage;

use crate::cli::{Cli, Command, Format};
use crate::exit::{Exit, Failure};
use crate::session::Session;
use std::io::Write;

/// Runs the command, writing results to `out`.
pub(crate) fn run(cli: &Cli, out: &mut dyn Write) -> Result<Exit, Failure> {
    let format = cli.global.format;
    let has_rows = matches!(
        cli.command,
        Command::Layers(_) | Command::Facing(_) | Command::Stage(_) | Command::Lint(_) | Command::Check(_)
    );
    if format == Format::Csv && !has_rows {
        let message = "--format csv writes the rows of layers, facing, stage, lint and check; here it is table or json";
        return Err(Failure::Usage(message.into()));
    }
    let session = || Session::open(&cli.global);
    match &cli.command {
        Command::Demo(args) => demo::run(args, &cli.global, out),
        Command::Explain(args) => explain::run(args, out),
        Command::New(args) => new::run(args, &cli.global, out),
        Command::Sheet(args) => sheet::run(args, &cli.global, out),
        Command::Fit(args) => fit::run(&session()?, args, format, out),
        Command::Facing(args) => facing::run(&session()?, args, format, out),
        Command::Layers(args) => layers::run(&session()?, args, format, out),
        Command::Stage(args) => stage::run(&session()?, args, format, out),
        Command::Lint(args) => lint::run(&session()?, args, format, out),
        Command::Check(args) => check::run(&session()?, args, format, out),
        Command::Draw(args) => draw::run(&session()?, args, out),
    }
}
