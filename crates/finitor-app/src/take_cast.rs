//! The actors that takes need: those that they name.

use crate::failure::Failure;
use crate::project::OpenProject;
use finitor_core::actor::Actor;
use finitor_files::{ActorFile, declared_name, names_in_take};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

impl OpenProject<'_> {
    /// The project's actors, in its order; only those that the takes name are loaded with frames and fits, and the others have
    /// their names alone. All are loaded where a look at the takes cannot tell.
    ///
    /// # Errors
    /// Mistakes in the files of those that are loaded; fits that are missing or wrong.
    ///
    /// # Complexity
    /// That of reading the files of those that the takes name, and a look at the takes' bytes.
    pub fn actors_of_takes(&self, takes: &[PathBuf]) -> Result<Vec<Actor>, Failure> {
        // A file whose name cannot be read is loaded, to say what is wrong with it.
        let names: Vec<Option<String>> = self.project.actors.iter().map(|path| declared_name(path)).collect();
        let known: Vec<&str> = names.iter().flatten().map(String::as_str).collect();
        let mut named: BTreeSet<&str> = BTreeSet::new();
        for take in takes {
            named.extend(names_in_take(&self.take_path(take), &known));
        }
        let is_wanted = |name: &Option<String>| name.as_deref().is_none_or(|name| named.contains(name));
        let wanted: Vec<&Path> = self
            .project
            .actors
            .iter()
            .zip(&names)
            .filter(|(_, name)| is_wanted(name))
            .map(|(path, _)| path.as_path())
            .collect();
        // Nobody is named: let the reader say so, with all that the names could be.
        if wanted.is_empty() || wanted.len() == names.len() {
            return self.fitted(&self.select(&[])?);
        }
        let files = self.load_actors(&wanted)?;
        let files: Vec<&ActorFile> = files.iter().collect();
        let mut loaded = self.fitted(&files)?.into_iter();
        let bare = |name: Option<String>| Actor::new(name.unwrap_or_default(), Vec::new(), Vec::new());
        let actor = |name: Option<String>| if is_wanted(&name) { loaded.next() } else { Some(bare(name)) };
        Ok(names.clone().into_iter().filter_map(actor).collect())
    }
}
