//! The actors that takes need: those that they name.

use crate::failure::Failure;
use crate::project::{FittedFile, OpenProject};
use finitor_core::actor::Actor;
use finitor_files::{ActorFile, FitsFile, declared_name, names_in_take};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

/// An actor's files.
#[derive(Clone, Debug)]
pub struct CastMember {
    /// Its actor file.
    pub file: ActorFile,
    /// Its fits.
    pub fits: FitsFile,
}

/// The project's actors, in its order; those that nobody wants have their names alone.
#[derive(Clone, Debug)]
pub struct TakeCast {
    /// As samples name them by index.
    pub actors: Vec<Actor>,
    /// The files of those that are loaded.
    pub members: Vec<Option<CastMember>>,
}

impl OpenProject<'_> {
    /// All of the project's actors with their files.
    ///
    /// # Errors
    /// As [`OpenProject::fitted`].
    pub fn whole_cast(&self) -> Result<TakeCast, Failure> {
        let files = self.select(&[])?;
        let fitted = self.fitted_files(&files)?;
        let (mut actors, mut members) = (Vec::new(), Vec::new());
        for (file, FittedFile { actor, fits }) in files.into_iter().zip(fitted) {
            actors.push(actor);
            members.push(Some(CastMember { file: file.clone(), fits }));
        }
        Ok(TakeCast { actors, members })
    }

    /// The project's actors, in its order; only those that the takes name are loaded with frames and fits, and the others have
    /// their names alone. All are loaded where a look at the takes cannot tell.
    ///
    /// # Errors
    /// Mistakes in the files of those that are loaded; fits that are missing or wrong.
    ///
    /// # Complexity
    /// That of reading the files of those that the takes name, and a look at the takes' bytes.
    pub fn actors_of_takes(&self, takes: &[PathBuf]) -> Result<Vec<Actor>, Failure> {
        Ok(self.cast_of_takes(takes)?.actors)
    }

    /// The same, with the files of those that are loaded.
    ///
    /// # Errors
    /// As [`OpenProject::actors_of_takes`].
    pub fn cast_of_takes(&self, takes: &[PathBuf]) -> Result<TakeCast, Failure> {
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
            return self.whole_cast();
        }
        let files = self.load_actors(&wanted)?;
        let fitted = self.fitted_files(&files.iter().collect::<Vec<&ActorFile>>())?;
        let mut loaded = files.into_iter().zip(fitted);
        let (mut actors, mut members) = (Vec::new(), Vec::new());
        for name in &names {
            let member = if is_wanted(name) { loaded.next() } else { None };
            let (actor, member) = match member {
                Some((file, FittedFile { actor, fits })) => (actor, Some(CastMember { file, fits })),
                None => (Actor::new(name.clone().unwrap_or_default(), Vec::new(), Vec::new()), None),
            };
            actors.push(actor);
            members.push(member);
        }
        Ok(TakeCast { actors, members })
    }
}
