//! The commands, a module each.

mod check;
mod completions;
mod demo;
mod diff;
mod draw;
mod editor_schemas;
mod explain;
mod export;
mod facing;
mod fit;
mod hits;
mod import;
mod layers;
mod lint;
mod man;
mod new;
mod new_folder;
mod replay;
mod schema;
mod sheet;
mod stage;
mod watch;

use crate::cli::{Cli, Command, Format};
use crate::console::{Console, Talk};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::Failure;
use std::io::Write;

/// Runs the command, writing results to `out`.
pub(crate) fn run(cli: &Cli, out: &mut dyn Write) -> Result<Exit, Failure> {
    let format = cli.global.format;
    refuse_format(&cli.command, format)?;
    let console = Console::new(Talk::of(&cli.global));
    let session = || Session::open(&cli.global, &console);
    match &cli.command {
        Command::Demo(args) => demo::run(args, &cli.global, &console, out),
        Command::Explain(args) => explain::run(args, out),
        Command::Completions(args) => completions::run(args, out),
        Command::Man(args) => man::run(args, out),
        Command::Schema(args) => schema::run(args, out),
        Command::New(args) => new::run(args, &cli.global, out),
        Command::Sheet(args) => sheet::run(args, &cli.global, &console, out),
        Command::Fit(args) => fit::run(&session()?, args, format, out),
        Command::Facing(args) => facing::run(&session()?, args, format, out),
        Command::Layers(args) => layers::run(&session()?, args, format, out),
        Command::Stage(args) => stage::run(&session()?, args, format, out),
        Command::Lint(args) => lint::run(&session()?, args, format, out),
        Command::Check(args) => check::run(&session()?, args, format, out),
        Command::Report(args) => replay::run(&session()?, args, out),
        Command::Watch(args) => watch::run(&cli.global, &console, args, out),
        Command::Hits(args) => hits::run(&session()?, args, format, out),
        Command::Export(args) => export::run(&session()?, args, out),
        Command::Diff(args) => diff::run(&session()?, args, format, out),
        Command::Import(args) => import::run(&session()?, args, out),
        Command::Draw(args) => draw::run(&session()?, args, out),
    }
}

/// Refuses a format that a command does not write.
fn refuse_format(command: &Command, format: Format) -> Result<(), Failure> {
    const ROWS: &[Format] = &[Format::Table, Format::Json, Format::Csv];
    const JSON: &[Format] = &[Format::Table, Format::Json];
    const WORDS: &[Format] = &[Format::Table];
    let (name, known) = match command {
        Command::Layers(args) if args.command.as_ref().is_some_and(|command| command.is_edit()) => ("layers", WORDS),
        Command::Layers(args) if args.command.is_some() => ("layers explain", JSON),
        Command::Layers(_) => ("layers", ROWS),
        Command::Facing(_) => ("facing", ROWS),
        Command::Stage(_) => ("stage", ROWS),
        Command::Lint(_) => ("lint", ROWS),
        Command::Check(_) => ("check", ROWS),
        Command::Hits(_) => ("hits", ROWS),
        Command::Fit(args) if args.why.is_some() || args.to_svg.is_some() || args.from_svg.is_some() => ("fit", WORDS),
        Command::Fit(_) => ("fit", JSON),
        Command::Sheet(_) => ("sheet", JSON),
        Command::Demo(_) => ("demo", WORDS),
        Command::New(_) => ("new", WORDS),
        Command::Draw(_) => ("draw", WORDS),
        Command::Export(_) => ("export", WORDS),
        Command::Diff(_) => ("diff", ROWS),
        Command::Import(_) => ("import", WORDS),
        Command::Report(_) => ("report", WORDS),
        Command::Watch(_) => ("watch", WORDS),
        Command::Explain(_) => ("explain", WORDS),
        Command::Completions(_) => ("completions", WORDS),
        Command::Man(_) => ("man", WORDS),
        Command::Schema(_) => ("schema", WORDS),
    };
    if known.contains(&format) {
        return Ok(());
    }
    let words: Vec<&str> = known.iter().map(|format| format.name()).collect();
    let format = format.name();
    Err(Failure::Usage(format!("`finitor {name}` has no {format} output; it has {}", words.join(", "))))
}
