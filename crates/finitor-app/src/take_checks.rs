//! What takes are checked against, and what a check can say nothing about.

use crate::project::OpenProject;
use crate::sink::Warning;
use crate::state_words::StateWords;
use finitor_core::actor::Actor;
use finitor_core::check::{Checker, Report};
use finitor_core::stage::Stage;
use finitor_core::take::actor_of;
use finitor_files::TakeReader;
use std::collections::BTreeSet;
use std::path::Path;

/// What takes are checked against.
#[derive(Clone, Copy)]
pub struct TakeChecks<'c> {
    /// The project.
    pub project: &'c OpenProject<'c>,
    /// The stage that they were recorded on.
    pub stage: &'c Stage,
    /// All stages of the project.
    pub stages: &'c [Stage],
    /// The project's actors with their fits.
    pub actors: &'c [Actor],
    /// Whether to count what meets what.
    pub has_pairs: bool,
    /// Whether to tell of swings, also of those that struck nobody.
    pub has_swings: bool,
    /// Whether to tell on which ticks instances were carried.
    pub has_footing: bool,
    /// Whether takes may hold any state words, and not only those that a file knows.
    pub any_state: bool,
    /// Takes of one file whose rows may be mixed; with 1 the rows of each stand together.
    pub mixed: usize,
    /// Whether takes may still be written: what is there by then is checked, up to the last whole row.
    pub are_growing: bool,
}

impl<'c> TakeChecks<'c> {
    /// Takes of one stage, of which nothing beside findings is asked; any state word will do.
    pub fn plain(
        project: &'c OpenProject<'c>,
        stage: &'c Stage,
        stages: &'c [Stage],
        actors: &'c [Actor],
    ) -> TakeChecks<'c> {
        TakeChecks {
            project,
            stage,
            stages,
            actors,
            has_pairs: false,
            has_swings: false,
            has_footing: false,
            any_state: true,
            mixed: 1,
            are_growing: false,
        }
    }

    /// A checker of one take.
    pub(crate) fn checker(&self) -> Checker<'c> {
        let checker = Checker::new(self.project.check_input(self.stage, self.actors, self.stages));
        let checker = if self.has_pairs { checker.with_pairs() } else { checker };
        let checker = if self.has_swings { checker.with_swings() } else { checker };
        if self.has_footing { checker.with_footing() } else { checker }
    }
}

/// A take's name in results.
pub fn take_name(path: &Path) -> String {
    path.file_name().map_or_else(|| path.display().to_string(), |name| name.to_string_lossy().into_owned())
}

/// Warns of a header that had to be understood.
pub(crate) fn warn_of_header(project: &OpenProject<'_>, take: &Path, reader: &TakeReader<'_>) {
    if let Some(names) = reader.header_read_as() {
        project.sink().warn(Warning {
            message: format!("{}: its columns have other names; the header is read as {names}", take_name(take)),
            hint: Some("name the columns so where the game writes them".to_string()),
        });
    }
}

/// Warns of what a take holds that a check can say nothing about.
pub(crate) fn warn(checks: TakeChecks<'_>, take: &str, words: StateWords<'_>, report: &Report) {
    let TakeChecks { project, actors, any_state, .. } = checks;
    let words = if any_state { Vec::new() } else { words.warnings(take) };
    words.into_iter().for_each(|warning| project.sink().warn(warning));
    let of = |label: &String| actors.iter().find(|actor| actor.name == actor_of(label));
    let bare = report.actors.iter().filter_map(of).filter(|actor| !actor.has_shapes());
    let bare: BTreeSet<&str> = bare.map(|actor| actor.name.as_str()).collect();
    for name in bare {
        project.sink().warn(Warning {
            message: format!("{take} has {name}, which has no shape: nothing is checked of it"),
            hint: Some(format!("add a shape to {name}'s file, such as [shape.body] with `role = \"body\"`")),
        });
    }
}
