//! `finitor fit`.

mod edit;
mod rename;
mod told;
mod why;
mod worst;

use crate::cli::{FitArgs, Format};
use crate::exit::{Exit, Failure};
use crate::fitting::{Outcome, Wishes, fit_actor};
use crate::progress::Bar;
use crate::session::Session;
use finitor_files::{ActorFile, Problems, Settlement, counted, fits_path, read_fits, settle, settlement, write_fits};
use rename::rename;
use std::io::Write;
use std::path::PathBuf;
use told::{FitResult, Row, rows, tell, write_table};

/// Fits the actors, writes their fits unless asked not to, and shows the quality of each shape.
pub(crate) fn run(session: &Session, args: &FitArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    if args.is_plain() && format == Format::Table && tell_settled(session, args, out)? {
        return Ok(Exit::Done);
    }
    let actors = session.actors(&args.actors)?;
    check_names(&actors, &args.only, "--only")?;
    check_names(&actors, args.why.as_slice(), "--why")?;
    if let Some(target) = &args.to_svg {
        return edit::write(session, &actors, target, out);
    }
    if let Some(source) = &args.from_svg {
        return edit::read(session, &actors, source, args.dry_run, out);
    }
    let mut fitted = fit(session, &actors, args)?;
    if !args.dry_run {
        for (actor, path, outcome) in &mut fitted {
            if args.only.is_empty() {
                settle(&mut outcome.fits, actor, &session.project)?;
            }
            write_fits(path, &outcome.fits)?;
        }
    }
    if let Some(shape) = &args.why {
        for (actor, _, outcome) in &fitted {
            why::tell(actor, outcome, shape, out)?;
        }
        return Ok(Exit::Done);
    }
    if let Some(most) = args.worst {
        let outcomes: Vec<(&ActorFile, &Outcome)> =
            fitted.iter().map(|(actor, _, outcome)| (*actor, outcome)).collect();
        return worst::write(&outcomes, most.into(), format, out);
    }
    let rows: Vec<Row> = fitted.iter().flat_map(|(actor, _, outcome)| rows(actor, outcome)).collect();
    match format {
        Format::Json => {
            let result = FitResult { schema: "finitor.fit/1", written: !args.dry_run, shapes: rows };
            writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        }
        Format::Table | Format::Csv => {
            for (actor, path, outcome) in &fitted {
                tell(session, actor, &session.shown(path), outcome, args.dry_run, out)?;
            }
            write_table(rows, out)?;
        }
    }
    Ok(Exit::Done)
}

/// Says that there is nothing to do, if so for all actors asked for.
fn tell_settled(session: &Session, args: &FitArgs, out: &mut dyn Write) -> Result<bool, Failure> {
    let all: Option<Vec<Settlement>> =
        session.project.actors.iter().map(|path| settlement(path, &session.project)).collect();
    let Some(all) = all.filter(|all| !all.is_empty()) else { return Ok(false) };
    if args.actors.iter().any(|name| !all.iter().any(|settled| settled.actor == *name)) {
        return Ok(false);
    }
    for Settlement { actor, path, frames, shapes } in all {
        if args.actors.is_empty() || args.actors.contains(&actor) {
            let (frames, shapes) = (counted(frames, "frame"), counted(shapes, "shape"));
            writeln!(
                out,
                "{actor}: {frames}, {shapes}, nothing to do: art and recipes of {} are unchanged",
                session.shown(&path)
            )?;
        }
    }
    out.flush()?;
    session.tell("`finitor fit --worst 5` shows the frames to look at, `--all` fits everything again");
    Ok(true)
}

/// Fits, with the path of each actor's fits.
type Fitted<'a> = Vec<(&'a ActorFile, PathBuf, Outcome)>;

fn fit<'a>(session: &Session, actors: &'a [ActorFile], args: &FitArgs) -> Result<Fitted<'a>, Failure> {
    let mut problems = Problems::default();
    let mut fitted = Vec::new();
    let mut renamed = vec![false; args.rename.len()];
    let bar = Bar::new("fitting", session.quiet);
    for actor in actors {
        let path = fits_path(&actor.path);
        let outcome = read_fits(&path).and_then(|mut old| {
            if let Some(old) = &mut old {
                rename(old, actor, &args.rename, &mut renamed)?;
            }
            let wishes = Wishes { all: args.all, only: &args.only, unlock: args.unlock, forget: &args.forget };
            session.pool.install(|| fit_actor(actor, old.as_ref(), wishes, &bar))
        });
        fitted.extend(problems.take(outcome).map(|outcome| (actor, path, outcome)));
    }
    bar.finish();
    problems.or(())?;
    if let Some((old, _)) = args.rename.iter().zip(&renamed).find(|(_, done)| !**done).map(|(names, _)| names) {
        return Err(Failure::Usage(format!("--rename: no fits of these actors have an animation \"{old}\"")));
    }
    Ok(fitted)
}

/// Refuses shapes that no actor has.
fn check_names(actors: &[ActorFile], names: &[String], option: &str) -> Result<(), Failure> {
    let shapes = || actors.iter().flat_map(|actor| &actor.shapes);
    let known = |name: &String| shapes().any(|shape| shape.name == *name || shape.siblings.as_ref() == Some(name));
    let Some(unknown) = names.iter().find(|name| !known(name)) else { return Ok(()) };
    let mut all: Vec<&str> = shapes().map(|shape| shape.name.as_str()).collect();
    all.sort_unstable();
    all.dedup();
    Err(Failure::Usage(format!("{option}: no actor here has a shape \"{unknown}\"; there are {}", all.join(", "))))
}
