//! `finitor hits`.

mod moves;
mod reach;
mod taken;

use crate::cli::{Format, HitsArgs};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{Failure, unknown};
use finitor_core::actor::Actor;
use std::io::Write;

/// Lists the hits of takes, the attacks of an actor, or at which distances these strike another.
pub(crate) fn run(
    session: &Session<'_>,
    args: &HitsArgs,
    format: Format,
    out: &mut dyn Write,
) -> Result<Exit, Failure> {
    match (&args.moves, args.reach.as_slice()) {
        (Some(actor), _) => moves::run(session, actor, format, out)?,
        (None, [attacker, target]) => reach::run(session, &reach::Pair { attacker, target }, args, format, out)?,
        _ if args.takes.is_empty() => {
            let ways = "name takes, or ask with --moves ACTOR or --reach ATTACKER TARGET before there is any";
            return Err(Failure::Usage(format!("hits of what? {ways}")));
        }
        _ => taken::run(session, args, format, out)?,
    }
    Ok(Exit::Done)
}

/// The project's actors with their fits.
fn all_actors(session: &Session<'_>) -> Result<Vec<Actor>, Failure> {
    session.fitted(&session.select(&[])?)
}

/// The actor of a name.
fn named<'a>(actors: &'a [Actor], name: &str) -> Result<&'a Actor, Failure> {
    let known: Vec<&str> = actors.iter().map(|actor| actor.name.as_str()).collect();
    actors.iter().find(|actor| actor.name == name).ok_or_else(|| unknown("actor", name, &known))
}

/// An attack, and the way its actor looks where that matters.
fn attack_title(animation: &str, shape: &str, facing: &str) -> String {
    let facing = if facing == "both" { String::new() } else { format!(", facing {facing}") };
    format!("{animation} {shape}{facing}")
}

/// The two ends of a way.
fn ends([from, to]: [f64; 2]) -> String {
    format!("{from:.2} to {to:.2}")
}
