//! The command line: arguments in, results out; the work is done in the other crates.
#![allow(rustdoc::broken_intra_doc_links, reason = "help texts name tables of TOML in brackets")]

mod cli;
mod commands;
mod console;
mod exit;
mod output;
mod renamed;
mod session;

use clap::Parser;
use cli::Colour;
use exit::report;
use std::process::ExitCode;

fn main() -> ExitCode {
    let cli = match cli::Cli::try_parse() {
        Ok(cli) => cli,
        Err(error) => match renamed::option_of(&error) {
            Some(failure) => return report(&failure).into(),
            None => error.exit(),
        },
    };
    match cli.global.color {
        Colour::Auto => {}
        Colour::Always => anstream::ColorChoice::Always.write_global(),
        Colour::Never => anstream::ColorChoice::Never.write_global(),
    }
    let mut out = std::io::BufWriter::new(anstream::AutoStream::auto(std::io::stdout()));
    let done = commands::run(&cli, &mut out).and_then(|exit| {
        std::io::Write::flush(&mut out)?;
        Ok(exit)
    });
    done.unwrap_or_else(|failure| report(&failure)).into()
}
