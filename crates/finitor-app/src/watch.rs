//! A project that is looked at again whenever its files change: what is stale is fitted, takes are checked, and what that changed is
//! said.

mod fits;

use crate::checked_take::CheckedTake;
use crate::checking::check_takes;
use crate::diff::checks;
use crate::failure::Failure;
use crate::filter::Filter;
use crate::fitting::{Refitted, refitted};
use crate::project::{OpenOptions, OpenProject};
use crate::replay::{Replay, ReplayRequest, replay};
use crate::results::{CheckResult, FindingDiff, SummaryResult};
use crate::sink::Sink;
use crate::take_cast::{CastMember, TakeCast};
use crate::take_checks::TakeChecks;
use finitor_core::finding::Span;
use finitor_core::stage::Stage;
use finitor_draw::{MadePage, Renewal};
use finitor_files::{Project, TakeInFile, actor_from_fits, fits_path, read_fits};
pub use fits::FitNews;
use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

/// What is watched.
#[derive(Clone, Debug)]
pub struct WatchRequest {
    /// The takes; none to watch the fits alone.
    pub takes: Vec<PathBuf>,
    /// The stage that they were recorded on; the only one where it is not named.
    pub stage: Option<String>,
    /// Rules, actors and ticks of the findings to report; all where they are empty.
    pub rules: Vec<String>,
    /// Actors, or instances of them.
    pub actors: Vec<String>,
    /// From a tick to a tick.
    pub ticks: Option<Span>,
    /// Takes of one file whose rows may be mixed.
    pub mixed: usize,
    /// Whether takes may still be written.
    pub are_growing: bool,
    /// Whether to make the page that plays the takes, and how it renews itself.
    pub page: Option<Renewal>,
}

/// What changed since the last look that went well.
#[derive(Clone, Debug, Default)]
pub struct WatchNews {
    /// Shapes that were fitted anew.
    pub fits: Vec<FitNews>,
    /// Actors whose shapes changed.
    pub actors: BTreeSet<String>,
    /// Findings that came or went, or are worse or better.
    pub findings: Vec<FindingDiff>,
    /// What the takes hold now; `None` without takes.
    pub summary: Option<SummaryResult>,
    /// The page, where that is wanted.
    pub page: Option<MadePage>,
}

/// A project that is watched.
pub struct Watch<'s> {
    options: OpenOptions,
    sink: &'s dyn Sink,
    request: WatchRequest,
    /// As it was when it was last read without a mistake.
    loaded: Option<Loaded<'s>>,
    /// What the takes held at the last look that went well.
    found: Option<CheckResult>,
    /// Whether the last look found a mistake.
    has_failed: bool,
    /// The bytes of fits files as they were written here: these writes are no changes.
    written: BTreeMap<PathBuf, Vec<u8>>,
}

struct Loaded<'s> {
    project: OpenProject<'s>,
    cast: TakeCast,
    stages: Vec<Stage>,
}

/// What a look at the takes gave.
struct Checked {
    page: Option<MadePage>,
    takes: Vec<CheckedTake>,
}

impl<'s> Watch<'s> {
    /// A project that was not looked at yet.
    pub fn new(options: OpenOptions, sink: &'s dyn Sink, request: WatchRequest) -> Watch<'s> {
        Watch { options, sink, request, loaded: None, found: None, has_failed: false, written: BTreeMap::new() }
    }

    /// Looks at all, or, where only takes changed, at these: fits what is stale, writes the fits, and checks the takes. Where something
    /// is wrong the last good state stays, and the next look compares with that.
    ///
    /// # Errors
    /// Mistakes in the files.
    ///
    /// # Complexity
    /// That of reading the project, of fitting what changed, and of the checks.
    pub fn look(&mut self, changed: &[PathBuf]) -> Result<WatchNews, Failure> {
        let looked = self.try_look(changed);
        self.has_failed = looked.is_err();
        looked
    }

    fn try_look(&mut self, changed: &[PathBuf]) -> Result<WatchNews, Failure> {
        let only_takes = !changed.is_empty() && !self.has_failed && changed.iter().all(|path| self.is_take(path));
        let mut news = WatchNews::default();
        if !only_takes || self.loaded.is_none() {
            let loaded = self.load()?;
            if let Some(before) = &self.loaded {
                news.fits = fits::news(&before.cast, &loaded.cast);
            }
            news.actors = news.fits.iter().map(|of| of.actor.clone()).collect();
            self.loaded = Some(loaded);
        }
        let Some(loaded) = &self.loaded else { return Ok(news) };
        let Some(Checked { page, takes }) = self.check(loaded)? else { return Ok(news) };
        let stage = loaded.project.stage(&loaded.stages, self.request.stage.as_deref())?;
        let found = CheckResult::new(&stage.name, Vec::new(), &takes);
        if let Some(before) = &self.found {
            news.findings = checks::findings(before, &found);
        }
        news.summary = Some(SummaryResult::new(&takes));
        news.page = page;
        self.found = Some(found);
        Ok(news)
    }

    /// Reads the project, fits what is stale and writes that.
    fn load(&mut self) -> Result<Loaded<'s>, Failure> {
        let project = OpenProject::open(&self.options, self.sink)?;
        let mut cast = TakeCast { actors: Vec::new(), members: Vec::new() };
        let mut changed = Vec::new();
        for file in project.actor_files()? {
            let path = fits_path(&file.path);
            let old = read_fits(&path)?;
            let Refitted { fits, text } = refitted(&project, file, old.as_ref())?;
            if old.as_ref() != Some(&fits) {
                changed.push((path.clone(), text));
            }
            cast.actors.push(actor_from_fits(file, &fits, &path)?.0);
            cast.members.push(Some(CastMember { file: file.clone(), fits }));
        }
        for (path, text) in changed {
            text.write(&path)?;
            self.written.insert(absolute(&path), text.bytes);
        }
        let stages = project.stages()?;
        Ok(Loaded { project, cast, stages })
    }

    /// Checks the takes, and makes the page where one is wanted.
    fn check(&self, loaded: &Loaded<'_>) -> Result<Option<Checked>, Failure> {
        let WatchRequest { rules, actors, ticks, mixed, are_growing, page, .. } = &self.request;
        let Loaded { project, cast, stages } = loaded;
        let begun = |take: &&PathBuf| !are_growing || has_rows(&project.take_path(take));
        let takes: Vec<PathBuf> = self.request.takes.iter().filter(begun).cloned().collect();
        if takes.is_empty() {
            return Ok(None);
        }
        let stage = project.stage(stages, self.request.stage.as_deref())?;
        let filter = Filter::new(rules, actors, *ticks, &cast.actors)?;
        let plain = TakeChecks::plain(project, stage, stages, &cast.actors);
        let checks = TakeChecks { mixed: *mixed, are_growing: *are_growing, ..plain };
        if let Some(renewal) = *page {
            let request = ReplayRequest { checks, cast, takes: &takes, filter: Some(&filter), renewal };
            let Replay { page, takes } = replay(&request)?;
            return Ok(Some(Checked { page: Some(page), takes }));
        }
        let mut takes: Vec<CheckedTake> = check_takes(checks, &takes)?;
        takes.iter_mut().for_each(|take| filter.retain(&mut take.report));
        Ok(Some(Checked { page: None, takes }))
    }

    /// Whether a path is one of the takes.
    fn is_take(&self, path: &Path) -> bool {
        self.takes().contains(path)
    }

    fn takes(&self) -> BTreeSet<PathBuf> {
        let take = |take: &PathBuf| {
            let path = match &self.loaded {
                Some(loaded) => loaded.project.take_path(take),
                None => take.clone(),
            };
            let file = TakeInFile::of(&path).map_or(path, |of| of.file);
            absolute(&file)
        };
        self.request.takes.iter().map(take).collect()
    }

    /// The project, as it was when it was last read without a mistake.
    pub fn project(&self) -> Option<&OpenProject<'s>> {
        self.loaded.as_ref().map(|loaded| &loaded.project)
    }

    /// The actors with their files, as they were then.
    pub fn cast(&self) -> Option<&TakeCast> {
        self.loaded.as_ref().map(|loaded| &loaded.cast)
    }

    /// The changed files that are to be looked at: those that belong to the project, takes, and those that may have come to belong to
    /// it; but for what was written here.
    pub fn concerned(&self, changed: &[PathBuf]) -> Vec<PathBuf> {
        let (files, takes) = (self.files(), self.takes());
        let all: BTreeSet<&PathBuf> = changed.iter().collect();
        let is_meant = |path: &&PathBuf| {
            files.contains(*path)
                || takes.contains(*path)
                || (self.may_belong(path) && !self.written.contains_key(*path))
        };
        all.into_iter().filter(is_meant).filter(|path| !self.is_as_written(path)).cloned().collect()
    }

    /// Whether a file holds what was written here.
    fn is_as_written(&self, path: &Path) -> bool {
        self.written.get(path).is_some_and(|written| std::fs::read(path).ok().as_ref() == Some(written))
    }

    /// Whether a file that was not read lies and is called as if the project could read it: a new actor, or a frame that was missing.
    fn may_belong(&self, path: &Path) -> bool {
        /// What files of a project end in.
        const ENDINGS: [&str; 3] = ["toml", "png", "gif"];
        /// And what may be missing, where something is.
        const MISSING: [&str; 3] = ["svg", "csv", "json"];
        let name = path.file_name().and_then(|name| name.to_str()).unwrap_or_default();
        if name.starts_with('.') || name.ends_with('~') {
            return false;
        }
        let is_drawn_here = self.loaded.as_ref().is_some_and(|loaded| {
            let root = absolute(&loaded.project.project.root);
            path.starts_with(root.join("pictures"))
        });
        let ending = path.extension().and_then(|ending| ending.to_str()).unwrap_or_default();
        (ENDINGS.contains(&ending) || (self.has_failed && MISSING.contains(&ending))) && !is_drawn_here
    }

    /// All files that were read.
    fn files(&self) -> BTreeSet<PathBuf> {
        let read = self.loaded.iter().flat_map(|loaded| loaded.project.files_read());
        let mut all: BTreeSet<PathBuf> = read.map(|path| absolute(&path)).collect();
        all.extend(self.takes());
        all
    }

    /// The folders to watch: those of all files that were read and of the takes, and the project's own. A file that is replaced is
    /// another one, so folders are watched and not files.
    pub fn folders(&self) -> BTreeSet<PathBuf> {
        let mut all: BTreeSet<PathBuf> =
            self.files().iter().filter_map(|path| path.parent()).map(Path::to_path_buf).collect();
        let root = self.options.root.clone().or_else(|| Project::find(Path::new(".")).ok());
        if let Some(root) = root {
            let root = absolute(&root);
            if self.loaded.is_none() {
                add_folders(&root, 0, &mut all);
            }
            all.insert(root);
        }
        all.retain(|folder| folder.is_dir());
        all
    }
}

/// A path as the system tells of it.
fn absolute(path: &Path) -> PathBuf {
    std::path::absolute(path).map_or_else(|_| path.to_path_buf(), |path| path.components().collect())
}

/// Whether there is a whole line in a file.
fn has_rows(path: &Path) -> bool {
    let file = TakeInFile::of(path).map_or_else(|| path.to_path_buf(), |of| of.file);
    std::fs::read(file).is_ok_and(|bytes| bytes.contains(&b'\n'))
}

/// The folders below one, for a project that cannot be read yet.
fn add_folders(folder: &Path, depth: usize, all: &mut BTreeSet<PathBuf>) {
    const MOST_DEPTH: usize = 3;
    const MOST: usize = 200;
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        let is_hidden = entry.file_name().to_string_lossy().starts_with('.');
        if entry.path().is_dir() && !is_hidden && depth < MOST_DEPTH && all.len() < MOST {
            all.insert(entry.path());
            add_folders(&entry.path(), depth + 1, all);
        }
    }
}
