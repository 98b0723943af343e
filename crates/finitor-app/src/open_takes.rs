//! The takes of a file that are open while it is read, each with a checker of its own.

use crate::checked_take::CheckedTake;
use crate::state_words::StateWords;
use crate::take_checks::{TakeChecks, take_name, warn};
use finitor_core::check::Checker;
use finitor_core::finding::{Root, Span};
use finitor_core::take::Sample;
use std::path::Path;

/// A take under check.
pub(crate) struct OpenTake<'c> {
    checks: TakeChecks<'c>,
    /// As the column `take` has it.
    take: String,
    /// Its name in results.
    pub(crate) name: String,
    /// The how manieth of its file it is.
    pub(crate) number: usize,
    pub(crate) checker: Checker<'c>,
    words: StateWords<'c>,
    span: Option<Span>,
    /// What was reported of it while it goes on.
    pub(crate) reported: Vec<Root>,
}

impl<'c> OpenTake<'c> {
    fn new(checks: TakeChecks<'c>, name: String, take: &str, number: usize) -> OpenTake<'c> {
        OpenTake {
            checks,
            take: take.to_string(),
            name,
            number,
            checker: checks.checker(),
            words: StateWords::new(&checks.project.project.layers, &checks.project.project.states),
            span: None,
            reported: Vec::new(),
        }
    }

    /// Takes in a tick.
    pub(crate) fn see(&mut self, tick: u64, samples: &[Sample]) {
        self.span = Some(Span { first: self.span.map_or(tick, |span| span.first), last: tick });
        self.words.see(tick, samples);
        self.checker.tick(tick, samples);
    }

    /// What was found that was not drained before; warns of what nothing can be said about.
    pub(crate) fn finish(self, path: &Path) -> CheckedTake {
        let report = self.checker.finish();
        warn(self.checks, &self.name, self.words, &report);
        let (path, has_pairs) = (path.to_path_buf(), self.checks.has_pairs);
        CheckedTake { name: self.name, path, report, span: self.span, has_pairs }
    }
}

/// Those of one file.
pub(crate) struct OpenTakes<'c> {
    checks: TakeChecks<'c>,
    file: String,
    open: Vec<OpenTake<'c>>,
    begun: usize,
}

impl<'c> OpenTakes<'c> {
    pub(crate) fn new(checks: TakeChecks<'c>, path: &Path) -> OpenTakes<'c> {
        OpenTakes { checks, file: take_name(path), open: Vec::new(), begun: 0 }
    }

    /// The one with a name, which begins here where it is not open.
    pub(crate) fn of(&mut self, take: &str) -> &mut OpenTake<'c> {
        let index = self.open.iter().position(|open| open.take == take).unwrap_or_else(|| {
            // A file of which one take is wanted has its name already.
            let names_it = take.is_empty() || self.file.strip_suffix(take).is_some_and(|file| file.ends_with(':'));
            let name = if names_it { self.file.clone() } else { format!("{}:{take}", self.file) };
            self.open.push(OpenTake::new(self.checks, name, take, self.begun));
            self.begun += 1;
            self.open.len() - 1
        });
        &mut self.open[index]
    }

    /// Ends one.
    pub(crate) fn end(&mut self, take: &str) -> Option<OpenTake<'c>> {
        let index = self.open.iter().position(|open| open.take == take)?;
        Some(self.open.remove(index))
    }
}
