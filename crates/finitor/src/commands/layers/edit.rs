//! `layers set`, `add`, `rename` and `remove`: changes of the files, in place.

use crate::output::difference::write_difference;
use crate::session::Session;
use finitor_app::Failure;
use finitor_core::layers::LayerSet;
use finitor_files::{FileChange, Project, add_layer, remove_layer, rename_layer, set_mask, write_changes};
use std::io::Write;

/// `layers set hero +crate -ledge`.
pub(super) fn set(
    session: &Session<'_>,
    target: &str,
    changes: &[String],
    dry_run: bool,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let (mut add, mut drop) = (Vec::new(), Vec::new());
    // What follows the target may begin with a dash, so options there come along with the changes.
    let dry_run = dry_run || changes.iter().any(|change| change == "--dry-run");
    for change in changes.iter().filter(|change| *change != "--dry-run") {
        if change.starts_with("--") {
            let message = format!("put {change} before `layers`: what follows the target are changes, and --dry-run");
            return Err(Failure::Usage(message));
        }
        match (change.strip_prefix('+'), change.strip_prefix('-')) {
            (Some(name), _) if !name.is_empty() && !add.contains(&name.to_string()) => add.push(name.to_string()),
            (_, Some(name)) if !name.is_empty() && !drop.contains(&name.to_string()) => drop.push(name.to_string()),
            _ => {
                let message =
                    format!("\"{change}\" is no change, or stands twice; write +LAYER to add and -LAYER to drop");
                return Err(Failure::Usage(message));
            }
        }
    }
    if let Some(both) = add.iter().find(|name| drop.contains(name)) {
        return Err(Failure::Usage(format!("{both} is both added and dropped")));
    }
    let changes = set_mask(&session.project, target, &add, &drop)?;
    finish(session, &changes, dry_run, &format!("the mask of {target}"), out)?;
    let layers = &session.project.layers;
    if let Some(bit) = layers.find(target) {
        let set =
            |names: &[String]| names.iter().filter_map(|name| layers.named(name)).fold(LayerSet::NONE, LayerSet::or);
        let was = layers.masks[bit];
        let now = if dry_run { was.without(set(&drop)).or(set(&add)) } else { reread(session)?.layers.masks[bit] };
        writeln!(
            out,
            "mask {} {} {}: {}",
            was.0,
            if dry_run { "would be" } else { "is now" },
            now.0,
            layers.describe(now)
        )?;
    }
    Ok(())
}

/// `layers add NAME`.
pub(super) fn add(session: &Session<'_>, name: &str, dry_run: bool, out: &mut dyn Write) -> Result<(), Failure> {
    let changes = add_layer(&session.project, name)?;
    finish(session, &changes, dry_run, &format!("layer {name}, bit {}", session.project.layers.names.len()), out)
}

/// `layers rename OLD NEW`.
pub(super) fn rename(
    session: &Session<'_>,
    old: &str,
    new: &str,
    dry_run: bool,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    let changes = rename_layer(&session.project, old, new)?;
    finish(session, &changes, dry_run, &format!("{old}, now {new}"), out)
}

/// `layers remove NAME`.
pub(super) fn remove(session: &Session<'_>, name: &str, dry_run: bool, out: &mut dyn Write) -> Result<(), Failure> {
    let changes = remove_layer(&session.project, name)?;
    finish(session, &changes, dry_run, &format!("{name}, gone"), out)?;
    let names = &session.project.layers.names;
    if let Some(bit) = names.iter().position(|known| known == name)
        && bit + 1 < names.len()
    {
        let moved = names[bit + 1..].join(", ");
        writeln!(out, "bits moved down by one: {moved}; run `finitor fit`, and export again what the game loads")?;
    }
    Ok(())
}

fn reread(session: &Session<'_>) -> Result<Project, Failure> {
    Ok(Project::load(&session.project.root)?)
}

fn finish(
    session: &Session<'_>,
    changes: &[FileChange],
    dry_run: bool,
    what: &str,
    out: &mut dyn Write,
) -> Result<(), Failure> {
    if !dry_run {
        write_changes(changes)?;
    }
    let files: Vec<String> = changes.iter().map(|change| session.shown(&change.path)).collect();
    let verb = if dry_run { "would change" } else { "changed" };
    writeln!(out, "{verb} {}: {what}", files.join(", "))?;
    for (change, name) in changes.iter().zip(&files) {
        write_difference(change, name, out)?;
    }
    if !dry_run {
        // Nothing that was sound may be broken by a change.
        reread(session)?;
    }
    Ok(())
}
