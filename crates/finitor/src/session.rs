//! The project a command works on, and where its notes go.

use crate::cli::Global;
use crate::console::Console;
use finitor_app::results::WarningResult;
use finitor_app::{Drawing, Failure, OpenOptions, OpenProject};
use rayon::prelude::*;
use std::io::Write;
use std::ops::Deref;
use std::path::PathBuf;

/// An open project with the console.
pub(crate) struct Session<'c> {
    open: OpenProject<'c>,
    console: &'c Console,
}

impl<'c> Session<'c> {
    /// Opens the project named by the options, or the nearest one.
    pub(crate) fn open(global: &Global, console: &'c Console) -> Result<Session<'c>, Failure> {
        let threads = global.threads.map(usize::from);
        let options = OpenOptions { root: global.project.clone(), threads, max_mpx: global.max_mpx };
        Ok(Session { open: OpenProject::open(&options, console)?, console })
    }

    /// A note on what was done, or what could be done next; hidden by `--quiet`.
    pub(crate) fn note(&self, words: &str) {
        self.console.note(words);
    }

    /// The warnings so far, for JSON.
    pub(crate) fn warnings(&self) -> Vec<WarningResult> {
        self.console.warnings().iter().map(WarningResult::from).collect()
    }

    /// The folder for pictures: the one given, or `pictures` in the project.
    pub(crate) fn pictures(&self, given: Option<&PathBuf>) -> PathBuf {
        given.cloned().unwrap_or_else(|| self.project.root.join("pictures"))
    }

    /// Writes drawings, a thread each, and names the files.
    pub(crate) fn save_all(&self, drawings: &[Drawing], out: &mut dyn Write) -> Result<(), Failure> {
        let progress = self.sink().task("drawing");
        let written: Vec<Result<(), Failure>> =
            self.open.pool.install(|| drawings.par_iter().map(Drawing::write).collect());
        drop(progress);
        written.into_iter().collect::<Result<(), Failure>>()?;
        drawings.iter().try_for_each(|drawing| self.name(drawing, out))
    }

    /// Writes a drawing as PNG and SVG, and names the files.
    pub(crate) fn save(&self, drawing: &Drawing, out: &mut dyn Write) -> Result<(), Failure> {
        drawing.write()?;
        self.name(drawing, out)
    }

    fn name(&self, drawing: &Drawing, out: &mut dyn Write) -> Result<(), Failure> {
        let size = drawing.scene.size();
        let smaller = if drawing.scene.shrink < 1.0 { ", made smaller" } else { "" };
        writeln!(out, "{} and .svg, {} x {} px{smaller}", self.shown(&drawing.png_path()), size.x, size.y)?;
        Ok(())
    }
}

impl<'c> Deref for Session<'c> {
    type Target = OpenProject<'c>;

    fn deref(&self) -> &OpenProject<'c> {
        &self.open
    }
}

impl Drop for Session<'_> {
    fn drop(&mut self) {
        self.console.tell_read(|| self.open.files_read().iter().map(|path| self.open.shown(path)).collect());
    }
}
