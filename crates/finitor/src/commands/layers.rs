//! `finitor layers`.

mod by_shape;
mod edit;
mod explain;
mod matrix;

pub(super) use explain::{EXPLAIN_SCHEMA, explain_schema};
pub(super) use matrix::{SCHEMA, schema};

use crate::cli::{By, Format, LayersArgs, LayersCommand};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{Failure, find_party, parties, unknown};
use std::io::Write;

/// Shows the matrix or all shapes, explains a pair, or changes the files.
pub(crate) fn run(
    session: &Session<'_>,
    args: &LayersArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    let layers = &session.project.layers;
    match &args.command {
        None => {
            check_states(session, &args.state)?;
            match args.by {
                By::Layer => matrix::show(session, args, format, out)?,
                By::Shape => by_shape::show(session, &args.state, format, out)?,
            }
        }
        Some(LayersCommand::Explain { one, other, state }) => {
            check_states(session, state)?;
            let all = parties(layers, &session.select(&[])?, &session.stages()?, state);
            let find = |address: &str| find_party(&all, address);
            explain::explain(layers, &find(one)?.party, &find(other)?.party, format, out)?;
        }
        Some(LayersCommand::Set { target, changes, dry_run }) => edit::set(session, target, changes, *dry_run, out)?,
        Some(LayersCommand::Add { name, dry_run }) => edit::add(session, name, *dry_run, out)?,
        Some(LayersCommand::Rename { old, new, dry_run }) => edit::rename(session, old, new, *dry_run, out)?,
        Some(LayersCommand::Remove { name, dry_run }) => edit::remove(session, name, *dry_run, out)?,
    }
    Ok(Exit::Done)
}

fn check_states(session: &Session<'_>, states: &[String]) -> Result<(), Failure> {
    let known: Vec<&str> = session.project.layers.states.iter().map(|rule| rule.name.as_str()).collect();
    match states.iter().find(|word| !known.contains(&word.as_str())) {
        Some(word) => Err(unknown("[state] in finitor.toml", word, &known)),
        None => Ok(()),
    }
}
