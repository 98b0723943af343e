//! The project a command works on.

use crate::cli::Global;
use crate::exit::Failure;
use crate::progress::Bar;
use anstream::eprintln;
use finitor_core::actor::Actor;
use finitor_core::check::World;
use finitor_core::stage::Stage;
use finitor_files::{
    ActorFile, ActorReading, Problem, Problems, Project, StageFile, YAxis, actor_from_fits, fits_path, load_actor,
    load_stage, read_fits,
};
use rayon::ThreadPool;
use std::path::{Path, PathBuf};

/// The threads that the options ask for.
pub(crate) fn pool(global: &Global) -> Result<ThreadPool, Failure> {
    let threads = global.threads.map_or(0, usize::from);
    let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build();
    pool.map_err(|error| Failure::Usage(format!("no {threads} threads to be had: {error}")))
}

/// The project with the options that every command has.
pub(crate) struct Session {
    pub(crate) project: Project,
    pub(crate) quiet: bool,
    pub(crate) pool: ThreadPool,
    pub(crate) max_mpx: u32,
}

impl Session {
    /// Opens the project named by the options, or the nearest one.
    pub(crate) fn open(global: &Global) -> Result<Session, Failure> {
        let root = match &global.project {
            Some(root) => root.clone(),
            None => Project::find(Path::new("."))?,
        };
        let pool = pool(global)?;
        Ok(Session { project: Project::load(&root)?, quiet: global.quiet, pool, max_mpx: global.max_mpx })
    }

    /// A word about progress.
    pub(crate) fn tell(&self, words: &str) {
        if !self.quiet {
            eprintln!("{words}");
        }
    }

    /// The named actor files, or all; with every mistake in any of them.
    pub(crate) fn actors(&self, names: &[String]) -> Result<Vec<ActorFile>, Failure> {
        let Project { root, layers, actors, tick_rate, .. } = &self.project;
        let bar = Bar::new("reading art", self.quiet);
        let reading = ActorReading { root, layers, tick_rate: *tick_rate, max_mpx: self.max_mpx, progress: &bar };
        // One actor after another, each on all threads: so no more than one actor's sheets are held at a time.
        let read: Vec<Result<ActorFile, Problems>> =
            self.pool.install(|| actors.iter().map(|path| load_actor(path, &reading)).collect());
        bar.finish();
        let mut problems = Problems::default();
        let mut found: Vec<ActorFile> = read.into_iter().filter_map(|actor| problems.take(actor)).collect();
        for (i, actor) in found.iter().enumerate() {
            if let Some(twin) = found[..i].iter().find(|twin| twin.name == actor.name) {
                let message = format!("the actor's name \"{}\" is also that of {}", actor.name, twin.path.display());
                problems.0.push(Problem::of_file(&actor.path, message));
            }
        }
        let asks = |actor: &ActorFile| actor.shapes.iter().any(|shape| shape.height_for.is_some());
        if found.iter().any(asks) {
            let stages = self.stages()?;
            let wrong = found.iter_mut().flat_map(|actor| actor.take_heights(&stages));
            problems.0.extend(wrong.collect::<Vec<Problem>>());
        }
        problems.or(())?;
        if let Some(unknown) = names.iter().find(|name| !found.iter().any(|actor| actor.name == **name)) {
            let known: Vec<&str> = found.iter().map(|actor| actor.name.as_str()).collect();
            return Err(Failure::Usage(format!(
                "there is no actor \"{unknown}\"; the project has {}",
                known.join(", ")
            )));
        }
        found.retain(|actor| names.is_empty() || names.contains(&actor.name));
        if found.is_empty() {
            let message = "the project has no actor file; its `actors` in [project] names where they are";
            return Err(Problems::from(Problem::of_file(&self.project.root.join("finitor.toml"), message)).into());
        }
        Ok(found)
    }

    /// All actors with their fits; stale ones are told on standard error.
    pub(crate) fn fitted(&self, files: &[ActorFile]) -> Result<Vec<Actor>, Failure> {
        let mut problems = Problems::default();
        let mut actors = Vec::new();
        for file in files {
            let path = fits_path(&file.path);
            let fits = match read_fits(&path) {
                Ok(Some(fits)) => fits,
                Ok(None) => {
                    let message = format!("{} has no fits yet", file.name);
                    problems.0.push(Problem::of_file(&path, message).with_hint("run `finitor fit` first"));
                    continue;
                }
                Err(wrong) => {
                    problems.0.extend(wrong.0);
                    continue;
                }
            };
            if let Some((actor, stale)) = problems.take(actor_from_fits(file, &fits, &path)) {
                if let Some(first) = stale.shapes.first() {
                    eprintln!(
                        "warning: {} shapes of {} are older than their art or recipe (first: {first}); run `finitor fit`",
                        stale.shapes.len(),
                        file.name
                    );
                }
                actors.push(actor);
            }
        }
        problems.or(())?;
        Ok(actors)
    }

    /// All stage files, with every mistake in any of them.
    pub(crate) fn stage_files(&self) -> Result<Vec<StageFile>, Failure> {
        let mut problems = Problems::default();
        let Project { root, stages, layers, .. } = &self.project;
        let read = stages.iter().filter_map(|path| problems.take(load_stage(path, root, layers)));
        let found: Vec<StageFile> = read.collect();
        problems.or(())?;
        for file in found.iter().filter(|file| !file.unread.is_empty()) {
            let count = file.unread.len();
            self.tell(&format!(
                "note: of the drawing of {} something is not read ({count}); `finitor stage` lists it",
                file.stage.name
            ));
        }
        Ok(found)
    }

    /// All stages.
    pub(crate) fn stages(&self) -> Result<Vec<Stage>, Failure> {
        Ok(self.stage_files()?.into_iter().map(|file| file.stage).collect())
    }

    /// The named stage, or the only one.
    pub(crate) fn stage<'s>(&self, stages: &'s [Stage], name: Option<&str>) -> Result<&'s Stage, Failure> {
        let known = || stages.iter().map(|stage| stage.name.as_str()).collect::<Vec<_>>().join(", ");
        match (name, stages) {
            (Some(name), _) => stages
                .iter()
                .find(|stage| stage.name == name)
                .ok_or_else(|| Failure::Usage(format!("there is no stage \"{name}\"; the project has {}", known()))),
            (None, [only]) => Ok(only),
            (None, []) => {
                let message = "the project has no stage file; its `stages` in [project] names where they are";
                Err(Problems::from(Problem::of_file(&self.project.root.join("finitor.toml"), message)).into())
            }
            (None, _) => Err(Failure::Usage(format!("name one of the stages with --stage: {}", known()))),
        }
    }

    /// What takes are checked against.
    pub(crate) fn world<'w>(&'w self, stage: &'w Stage, actors: &'w [Actor]) -> World<'w> {
        World { stage, actors, layers: &self.project.layers, settings: &self.project.settings }
    }

    /// The stage's height where takes count y up.
    pub(crate) fn flip(&self, stage: &Stage) -> Option<f64> {
        (self.project.y_axis == YAxis::Up).then_some(stage.size.y)
    }

    /// The folder for pictures: the one given, or `pictures` in the project.
    pub(crate) fn pictures(&self, given: Option<&PathBuf>) -> PathBuf {
        given.cloned().unwrap_or_else(|| self.project.root.join("pictures"))
    }

    /// A path as the user would type it: relative to the project where it lies inside.
    pub(crate) fn shown(&self, path: &Path) -> String {
        path.strip_prefix(&self.project.root).unwrap_or(path).display().to_string()
    }

    /// A path given on the command line, or, where there is none, below the project.
    pub(crate) fn take_path(&self, given: &Path) -> PathBuf {
        let inside = self.project.root.join(given);
        if !given.exists() && inside.exists() { inside } else { given.to_path_buf() }
    }
}
