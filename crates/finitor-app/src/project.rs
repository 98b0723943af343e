//! A project that is open: its actors, fits and stages, loaded when they are first wanted and kept.

use crate::failure::{Failure, unknown};
use crate::sink::{Sink, Warning};
use finitor_core::actor::Actor;
use finitor_core::check::CheckInput;
use finitor_core::stage::Stage;
use finitor_core::take::YAxis;
use finitor_files::{
    ActorFile, ActorReading, FitsFile, Problem, Problems, Project, StageFile, actor_from_fits, fits_path, holds_take,
    load_actor, load_stage, read_fits,
};
use rayon::ThreadPool;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::sync::OnceLock;

/// How a project is opened.
#[derive(Clone, Debug)]
pub struct OpenOptions {
    /// The project's folder; the nearest one from here upward when `None`.
    pub root: Option<PathBuf>,
    /// Threads to use; all cores when `None`.
    pub threads: Option<usize>,
    /// Megapixels decoded from one picture file at most.
    pub max_mpx: u32,
}

/// An actor and the fits file that it comes from.
#[derive(Clone, Debug)]
pub struct FittedFile {
    /// The actor.
    pub actor: Actor,
    /// Its fits.
    pub fits: FitsFile,
}

/// A pool of threads; all cores when `None`.
///
/// # Errors
/// When they cannot be started.
pub fn thread_pool(threads: Option<usize>) -> Result<ThreadPool, Failure> {
    let pool = rayon::ThreadPoolBuilder::new().num_threads(threads.unwrap_or(0)).build();
    pool.map_err(|error| Failure::Usage(format!("cannot start {} threads: {error}", threads.unwrap_or(0))))
}

/// A project and what was loaded of it.
pub struct OpenProject<'s> {
    /// The project file's contents.
    pub project: Project,
    /// The threads that long work runs on.
    pub pool: ThreadPool,
    options: OpenOptions,
    sink: &'s dyn Sink,
    actors: OnceLock<Vec<ActorFile>>,
    stages: OnceLock<Vec<StageFile>>,
}

impl<'s> OpenProject<'s> {
    /// Opens the project in a folder, or the nearest one.
    ///
    /// # Errors
    /// When there is none, or its file is wrong.
    pub fn open(options: &OpenOptions, sink: &'s dyn Sink) -> Result<OpenProject<'s>, Failure> {
        let root = match &options.root {
            Some(root) => root.clone(),
            None => Project::find(Path::new("."))?,
        };
        let pool = thread_pool(options.threads)?;
        let project = Project::load(&root)?;
        let (actors, stages) = (OnceLock::new(), OnceLock::new());
        let options = OpenOptions { root: Some(root), ..options.clone() };
        Ok(OpenProject { project, pool, options, sink, actors, stages })
    }

    /// The same project read again from its files.
    ///
    /// # Errors
    /// As [`OpenProject::open`].
    pub fn reopened(&self) -> Result<OpenProject<'s>, Failure> {
        OpenProject::open(&self.options, self.sink)
    }

    /// Where progress and warnings go.
    pub fn sink(&self) -> &'s dyn Sink {
        self.sink
    }

    /// All actor files, with every mistake in any of them.
    ///
    /// # Errors
    /// The mistakes; a project without actors is one.
    pub fn actor_files(&self) -> Result<&[ActorFile], Failure> {
        if let Some(known) = self.actors.get() {
            return Ok(known);
        }
        let paths: Vec<&Path> = self.project.actors.iter().map(PathBuf::as_path).collect();
        let loaded = self.load_actors(&paths)?;
        Ok(self.actors.get_or_init(|| loaded))
    }

    /// Actor files, with every mistake in any of them.
    pub(crate) fn load_actors(&self, paths: &[&Path]) -> Result<Vec<ActorFile>, Failure> {
        let Project { root, layers, tick_rate, .. } = &self.project;
        let progress = self.sink.task("reading art");
        let reading = ActorReading {
            root,
            layers,
            tick_rate: *tick_rate,
            max_mpx: self.options.max_mpx,
            progress: progress.as_ref(),
        };
        // One actor after another, each on all threads: so no more than one actor's sheets are in memory at a time.
        let read: Vec<Result<ActorFile, Problems>> =
            self.pool.install(|| paths.iter().map(|path| load_actor(path, &reading)).collect());
        drop(progress);
        let mut problems = Problems::default();
        let mut found: Vec<ActorFile> = read.into_iter().filter_map(|actor| problems.take(actor)).collect();
        for (i, actor) in found.iter().enumerate() {
            if let Some(twin) = found[..i].iter().find(|twin| twin.name == actor.name) {
                let message = format!("the actor's name \"{}\" is also that of {}", actor.name, twin.path.display());
                problems.0.push(Problem::of_file(&actor.path, message));
            }
        }
        let asks = |actor: &ActorFile| actor.shapes.iter().any(|shape| shape.height_from.is_some());
        if found.iter().any(asks) {
            let stages = self.stages()?;
            let wrong = found.iter_mut().flat_map(|actor| actor.take_heights(&stages));
            problems.0.extend(wrong.collect::<Vec<Problem>>());
        }
        problems.or(())?;
        if found.is_empty() {
            let message = "the project has no actor file; its `actors` in [project] names where they are";
            return Err(Problems::from(Problem::of_file(&root.join("finitor.toml"), message)).into());
        }
        Ok(found)
    }

    /// The named actor files, or all.
    ///
    /// # Errors
    /// As [`OpenProject::actor_files`]; also a name that no actor has.
    pub fn select(&self, names: &[String]) -> Result<Vec<&ActorFile>, Failure> {
        let all = self.actor_files()?;
        if let Some(name) = names.iter().find(|name| !all.iter().any(|actor| actor.name == **name)) {
            let known: Vec<&str> = all.iter().map(|actor| actor.name.as_str()).collect();
            return Err(unknown("actor", name, &known));
        }
        Ok(all.iter().filter(|actor| names.is_empty() || names.contains(&actor.name)).collect())
    }

    /// Actors with their fits; stale ones are a warning.
    ///
    /// # Errors
    /// Fits that are missing or wrong.
    pub fn fitted(&self, files: &[&ActorFile]) -> Result<Vec<Actor>, Failure> {
        Ok(self.fitted_files(files)?.into_iter().map(|fitted| fitted.actor).collect())
    }

    /// The same, and the fits as they are written.
    ///
    /// # Errors
    /// As [`OpenProject::fitted`].
    pub fn fitted_files(&self, files: &[&ActorFile]) -> Result<Vec<FittedFile>, Failure> {
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
                    let count = stale.shapes.len();
                    self.sink.warn(Warning {
                        message: format!(
                            "{} of {} {} older than the art or the recipe (first: {first})",
                            finitor_files::counted(count, "shape"),
                            file.name,
                            if count == 1 { "is" } else { "are" }
                        ),
                        hint: Some("run `finitor fit`".into()),
                    });
                }
                actors.push(FittedFile { actor, fits });
            }
        }
        problems.or(())?;
        Ok(actors)
    }

    /// All stage files, with every mistake in any of them.
    ///
    /// # Errors
    /// The mistakes.
    pub fn stage_files(&self) -> Result<&[StageFile], Failure> {
        if let Some(known) = self.stages.get() {
            return Ok(known);
        }
        let mut problems = Problems::default();
        let Project { root, stages, layers, .. } = &self.project;
        let read = stages.iter().filter_map(|path| problems.take(load_stage(path, root, layers)));
        let found: Vec<StageFile> = read.collect();
        problems.or(())?;
        let mut problems = Problems::default();
        for (index, file) in found.iter().enumerate() {
            let name = &file.stage.name;
            if let Some(twin) = found[..index].iter().position(|twin| twin.stage.name == *name) {
                let message = format!("the stage's name \"{name}\" is also that of {}", self.shown(&stages[twin]));
                problems.0.push(Problem::of_file(&stages[index], message));
            }
        }
        problems.or(())?;
        for file in found.iter().filter(|file| !file.unread.is_empty()) {
            let items = finitor_files::counted(file.unread.len(), "item");
            self.sink.warn(Warning {
                message: format!("{items} of {}'s drawing ignored", file.stage.name),
                hint: Some("`finitor stage` lists them".into()),
            });
        }
        Ok(self.stages.get_or_init(|| found))
    }

    /// All stages.
    ///
    /// # Errors
    /// As [`OpenProject::stage_files`].
    pub fn stages(&self) -> Result<Vec<Stage>, Failure> {
        Ok(self.stage_files()?.iter().map(|file| file.stage.clone()).collect())
    }

    /// The named stage, or the only one.
    ///
    /// # Errors
    /// A name that no stage has, several stages and no name, or none at all.
    pub fn stage<'t>(&self, stages: &'t [Stage], name: Option<&str>) -> Result<&'t Stage, Failure> {
        let known: Vec<&str> = stages.iter().map(|stage| stage.name.as_str()).collect();
        match (name, stages) {
            (Some(name), _) => {
                stages.iter().find(|stage| stage.name == name).ok_or_else(|| unknown("stage", name, &known))
            }
            (None, [only]) => Ok(only),
            (None, []) => {
                let message = "the project has no stage file; its `stages` in [project] names where they are";
                Err(Problems::from(Problem::of_file(&self.project.root.join("finitor.toml"), message)).into())
            }
            (None, _) => Err(Failure::Usage(format!("name one of the stages with --stage: {}", known.join(", ")))),
        }
    }

    /// What takes are checked against.
    pub fn check_input<'w>(&'w self, stage: &'w Stage, actors: &'w [Actor], stages: &'w [Stage]) -> CheckInput<'w> {
        let (layers, settings, y_axis) = (&self.project.layers, &self.project.settings, self.project.y_axis);
        let tick_rate = self.project.tick_rate;
        CheckInput { stages, y_axis, tick_rate, ..CheckInput::new(stage, actors, layers, settings) }
    }

    /// The stage's height where takes count y up.
    pub fn flip(&self, stage: &Stage) -> Option<f64> {
        (self.project.y_axis == YAxis::Up).then_some(stage.size.y)
    }

    /// A path as the user would type it: relative to the project where it lies inside.
    pub fn shown(&self, path: &Path) -> String {
        path.strip_prefix(&self.project.root).unwrap_or(path).display().to_string()
    }

    /// A path given on the command line, or, where there is none, below the project.
    pub fn take_path(&self, given: &Path) -> PathBuf {
        let inside = self.project.root.join(given);
        if !holds_take(given) && holds_take(&inside) { inside } else { given.to_path_buf() }
    }

    /// Every file that was read so far for the project: what to watch.
    pub fn files_read(&self) -> Vec<PathBuf> {
        let mut all = BTreeSet::from([self.project.root.join("finitor.toml")]);
        for actor in self.actors.get().into_iter().flatten() {
            all.insert(actor.path.clone());
            all.insert(fits_path(&actor.path));
            for frame in &actor.frames {
                all.insert(frame.source.file.path.clone());
                all.extend(frame.source.parts.as_ref().map(|parts| parts.path.clone()));
            }
        }
        if let Some(stages) = self.stages.get() {
            all.extend(self.project.stages.iter().cloned());
            all.extend(stages.iter().flat_map(|stage| stage.files.iter().cloned()));
        }
        all.into_iter().collect()
    }
}
