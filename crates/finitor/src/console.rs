//! Standard error: a bar while long work goes on, warnings, and notes on what was done.

use anstream::eprintln;
use finitor_app::{Sink, Warning};
use finitor_files::Progress;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::io::IsTerminal;
use std::sync::{Mutex, PoisonError};
use std::time::Duration;

/// Work of fewer steps is over before a bar could be read.
const LEAST_STEPS: u64 = 200;

/// Where progress and warnings go: standard error.
#[derive(Debug, Default)]
pub(crate) struct Console {
    /// Whether notes and progress are hidden; warnings are not.
    quiet: bool,
    warnings: Mutex<Vec<Warning>>,
}

impl Console {
    /// A console.
    pub(crate) fn new(quiet: bool) -> Console {
        Console { quiet, warnings: Mutex::default() }
    }

    /// A note on what was done, or what could be done next.
    pub(crate) fn note(&self, words: &str) {
        if !self.quiet {
            eprintln!("{words}");
        }
    }

    /// The warnings so far.
    pub(crate) fn warnings(&self) -> Vec<Warning> {
        self.warnings.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }
}

impl Sink for Console {
    fn task(&self, words: &'static str) -> Box<dyn Progress> {
        Box::new(Bar::new(words, self.quiet))
    }

    fn warn(&self, warning: Warning) {
        let mut known = self.warnings.lock().unwrap_or_else(PoisonError::into_inner);
        // Asking again for what is loaded warns again.
        if known.contains(&warning) {
            return;
        }
        let hint = warning.hint.as_ref().map_or_else(String::new, |hint| format!("; {hint}"));
        eprintln!("warning: {}{hint}", warning.message);
        known.push(warning);
    }
}

/// A progress bar that shows itself only on a terminal, only unless quiet, and only for long work.
#[derive(Debug)]
struct Bar {
    bar: ProgressBar,
    wanted: bool,
}

impl Bar {
    fn new(words: &'static str, quiet: bool) -> Bar {
        let bar = ProgressBar::with_draw_target(Some(0), ProgressDrawTarget::hidden()).with_message(words);
        // The template is a constant that fits; a bar in another style would do as well.
        let style = ProgressStyle::with_template("{msg} [{bar:40}] {pos}/{len} frames, {eta} left");
        bar.set_style(style.unwrap_or_else(|_| ProgressStyle::default_bar()).progress_chars("=> "));
        Bar { bar, wanted: !quiet && std::io::stderr().is_terminal() }
    }
}

impl Drop for Bar {
    fn drop(&mut self) {
        self.bar.finish_and_clear();
    }
}

impl Progress for Bar {
    fn expect(&self, steps: usize) {
        self.bar.inc_length(steps as u64);
        if self.wanted && self.bar.is_hidden() && self.bar.length().unwrap_or(0) >= LEAST_STEPS {
            self.bar.set_draw_target(ProgressDrawTarget::stderr());
            self.bar.enable_steady_tick(Duration::from_millis(200));
        }
    }

    fn done(&self, steps: usize) {
        self.bar.inc(steps as u64);
    }
}
