//! `finitor fit`.

mod edit;
mod rename;
mod summary;
mod why;
mod worst;

use crate::cli::{FitArgs, Format};
use crate::exit::Exit;
use crate::session::Session;
use finitor_app::{Failure, FitRequest, Outcome, Warning, fit_actor, shape_findings, unknown};
use finitor_core::rule::Severity;
use finitor_files::{
    ActorFile, Problems, Settlement, actor_from_fits, counted, fits_path, match_frames, read_fits, settle, settlement,
};
use rename::rename;
use std::io::Write;
use std::path::PathBuf;
use summary::{FitResult, Row, rows, write_summary, write_table};

/// The schema of what it writes as JSON.
pub(super) const SCHEMA: &str = "finitor.fit/1";

/// What it writes as JSON.
pub(super) fn schema() -> schemars::Schema {
    crate::output::json_schema::schema_of::<FitResult>()
}

/// Fits the actors, writes their fits unless asked not to, and shows the quality of each shape.
pub(crate) fn run(session: &Session<'_>, args: &FitArgs, format: Format, out: &mut dyn Write) -> Result<Exit, Failure> {
    if args.is_plain() && format == Format::Table && tell_settled(session, args, out)? {
        return Ok(Exit::Done);
    }
    let actors = session.select(&args.actors)?;
    check_names(&actors, &args.only)?;
    check_names(&actors, args.why.as_slice())?;
    check_animations(&actors, &args.discard_edits)?;
    if args.check {
        return check_stale(session, &actors, out);
    }
    if let Some(target) = &args.to_svg {
        return edit::write(session, &actors, target, out);
    }
    if let Some(source) = &args.from_svg {
        return edit::read(session, &actors, source, args.dry_run, out);
    }
    let mut fitted = fit(session, &actors, args)?;
    if !args.dry_run {
        for (actor, path, outcome) in &mut fitted {
            let fits = &mut outcome.fits;
            // What was asked for in part may not be all that there is to do.
            let text = session.pool.install(|| match args.only.is_empty() {
                true => settle(fits, actor, &session.project),
                false => fits.text(),
            })?;
            text.write(path)?;
        }
    }
    if let Some(name) = &args.why {
        for (actor, _, outcome) in &fitted {
            for shape in own_names(actor, std::slice::from_ref(name)) {
                why::explain(actor, outcome, &shape, out)?;
            }
        }
        return Ok(Exit::Done);
    }
    if let Some(most) = args.worst {
        let outcomes: Vec<(&ActorFile, &Outcome)> =
            fitted.iter().map(|(actor, _, outcome)| (*actor, outcome)).collect();
        return worst::write(&outcomes, most.into(), format, out);
    }
    fitted.iter().for_each(|(actor, _, outcome)| tell_unshaped(session, actor, outcome));
    let rows: Vec<Row> = fitted.iter().flat_map(|(actor, _, outcome)| rows(actor, outcome)).collect();
    match format {
        Format::Json => {
            let result = FitResult { schema: SCHEMA, written: !args.dry_run, shapes: rows };
            writeln!(out, "{}", serde_json::to_string_pretty(&result)?)?;
        }
        Format::Table | Format::Csv => {
            for (actor, path, outcome) in &fitted {
                write_summary(session, actor, &session.shown(path), outcome, args.dry_run, out)?;
            }
            write_table(rows, out)?;
        }
    }
    Ok(Exit::Done)
}

/// Warns of frames that nothing can meet.
fn tell_unshaped(session: &Session<'_>, file: &ActorFile, outcome: &Outcome) {
    let found = shape_findings(session, file, &outcome.fits);
    for finding in found.into_iter().filter(|finding| finding.severity >= Severity::Warn) {
        session.sink().warn(Warning { message: finding.message, hint: Some(finding.fix) });
    }
}

/// Says that there is nothing to do, if so for all actors asked for.
fn tell_settled(session: &Session<'_>, args: &FitArgs, out: &mut dyn Write) -> Result<bool, Failure> {
    let project = &session.project;
    let all = || project.actors.iter().map(|path| settlement(path, project)).collect();
    let all: Option<Vec<Settlement>> = session.pool.install(all);
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
    session.note("`finitor fit --worst 5` shows the frames to look at, `--all` fits everything again");
    Ok(true)
}

/// Fits, with the path of each actor's fits.
type Fitted<'a> = Vec<(&'a ActorFile, PathBuf, Outcome)>;

fn fit<'a>(session: &Session<'_>, actors: &'a [&'a ActorFile], args: &FitArgs) -> Result<Fitted<'a>, Failure> {
    let mut problems = Problems::default();
    let mut fitted = Vec::new();
    let mut renamed = vec![false; args.rename.len()];
    let progress = session.sink().task("fitting");
    for &actor in actors {
        let shapes = own_names(actor, &args.only);
        if shapes.is_empty() && !args.only.is_empty() {
            continue;
        }
        let path = fits_path(&actor.path);
        let outcome = read_fits(&path).and_then(|mut old| {
            if let Some(old) = &mut old {
                rename(old, actor, &args.rename, &mut renamed)?;
            }
            let request = FitRequest {
                all: args.all,
                only: &shapes,
                unlock: args.unlock,
                everywhere: args.everywhere,
                discard_edits: &args.discard_edits,
            };
            session.pool.install(|| fit_actor(actor, old.as_ref(), request, progress.as_ref()))
        });
        fitted.extend(problems.take(outcome).map(|outcome| (actor, path, outcome)));
    }
    drop(progress);
    problems.or(())?;
    if let Some((old, _)) = args.rename.iter().zip(&renamed).find(|(_, done)| !**done).map(|(names, _)| names) {
        return Err(Failure::Usage(format!("--rename: no fits of these actors have an animation \"{old}\"")));
    }
    Ok(fitted)
}

/// The shapes that are meant of an actor: `body` is one of any actor, `keeper.body` of that one.
fn own_names(actor: &ActorFile, names: &[String]) -> Vec<String> {
    let of_this = |name: &String| match name.split_once('.') {
        Some((owner, shape)) => (owner == actor.name).then(|| shape.to_string()),
        None => Some(name.clone()),
    };
    names.iter().filter_map(of_this).collect()
}

/// Refuses shapes that no actor has.
fn check_names(actors: &[&ActorFile], names: &[String]) -> Result<(), Failure> {
    let has = |actor: &ActorFile, name: &String| {
        actor.shapes.iter().any(|shape| shape.name == *name || shape.siblings.as_ref() == Some(name))
    };
    let is_known = |name: &String| {
        let one = std::slice::from_ref(name);
        actors.iter().any(|actor| own_names(actor, one).iter().any(|shape| has(actor, shape)))
    };
    let Some(name) = names.iter().find(|name| !is_known(name)) else { return Ok(()) };
    let shapes = actors.iter().flat_map(|actor| actor.shapes.iter().map(move |shape| (actor, &shape.name)));
    let mut all: Vec<String> = match name.contains('.') {
        true => shapes.map(|(actor, shape)| format!("{}.{shape}", actor.name)).collect(),
        false => shapes.map(|(_, shape)| shape.clone()).collect(),
    };
    all.sort_unstable();
    all.dedup();
    let all: Vec<&str> = all.iter().map(String::as_str).collect();
    Err(unknown("shape", name, &all))
}

/// Refuses animations that neither the files nor the fits have.
fn check_animations(actors: &[&ActorFile], names: &[String]) -> Result<(), Failure> {
    let mut known: Vec<String> = Vec::new();
    for actor in actors {
        known.extend(actor.animations.iter().map(|animation| animation.name.clone()));
        let fits = read_fits(&fits_path(&actor.path))?;
        known.extend(fits.into_iter().flat_map(|fits| fits.frames).map(|frame| frame.animation));
    }
    known.sort_unstable();
    known.dedup();
    let Some(name) = names.iter().find(|name| !known.contains(name)) else { return Ok(()) };
    let known: Vec<&str> = known.iter().map(String::as_str).collect();
    Err(unknown("animation", name, &known))
}

/// Names the actors whose fits are stale; fits nothing.
fn check_stale(session: &Session<'_>, actors: &[&ActorFile], out: &mut dyn Write) -> Result<Exit, Failure> {
    let mut is_stale = false;
    for actor in actors {
        let path = fits_path(&actor.path);
        let shown = session.shown(&path);
        let state = match read_fits(&path)? {
            None => Some("there are none yet".to_string()),
            Some(fits) => {
                let changes = match_frames(actor, &fits).changes;
                let stale = actor_from_fits(actor, &fits, &path)?.1.shapes.len();
                match (changes.len(), stale) {
                    (0, 0) => None,
                    (0, shapes) => Some(format!("{} changed their recipe or art", counted(shapes, "shape"))),
                    (animations, _) => Some(format!("{} changed their art", counted(animations, "animation"))),
                }
            }
        };
        match state {
            None => writeln!(out, "{}: {shown} is up to date", actor.name)?,
            Some(why) => {
                is_stale = true;
                writeln!(out, "{}: {shown} is stale: {why}; run `finitor fit {}`", actor.name, actor.name)?;
            }
        }
    }
    Ok(if is_stale { Exit::Findings } else { Exit::Done })
}
