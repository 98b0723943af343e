//! Standard error: a bar while long work goes on, warnings, and notes on what was done.

use crate::cli::Global;
use anstream::eprintln;
use finitor_app::{Sink, Warning};
use finitor_files::{Progress, counted, first_few};
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::io::IsTerminal;
use std::sync::mpsc::{RecvTimeoutError, Sender, channel};
use std::sync::{Mutex, PoisonError};
use std::time::{Duration, Instant};

/// Files that are named one by one.
const MOST_FILES: usize = 20;

/// How much is said on standard error.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub(crate) enum Talk {
    /// Warnings alone.
    Quiet,
    /// Progress and notes too.
    #[default]
    Notes,
    /// And what was read, and how long it took.
    Verbose,
}

impl Talk {
    /// What the options ask for.
    pub(crate) fn of(global: &Global) -> Talk {
        match (global.quiet, global.verbose) {
            (true, _) => Talk::Quiet,
            (_, true) => Talk::Verbose,
            _ => Talk::Notes,
        }
    }
}

/// Where progress and warnings go: standard error.
#[derive(Debug, Default)]
pub(crate) struct Console {
    talk: Talk,
    warnings: Mutex<Vec<Warning>>,
}

impl Console {
    /// A console.
    pub(crate) fn new(talk: Talk) -> Console {
        Console { talk, warnings: Mutex::default() }
    }

    /// Names the files that were read, where that is asked for.
    pub(crate) fn tell_read(&self, files: impl FnOnce() -> Vec<String>) {
        if self.talk == Talk::Verbose {
            let files = files();
            let names = first_few(&files, MOST_FILES, ", ");
            eprintln!("read {}: {names}", counted(files.len(), "file"));
        }
    }

    /// A note on what was done, or what could be done next.
    pub(crate) fn note(&self, words: &str) {
        if self.talk != Talk::Quiet {
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
        Box::new(Bar::new(words, self.talk))
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

/// A progress bar that shows itself only on a terminal, only unless quiet, and only once work goes on for a second.
#[derive(Debug)]
struct Bar {
    words: &'static str,
    bar: ProgressBar,
    talk: Talk,
    begun: Instant,
    /// Ends the wait for that second when it is dropped.
    over: Option<Sender<()>>,
}

impl Bar {
    fn new(words: &'static str, talk: Talk) -> Bar {
        let bar = ProgressBar::with_draw_target(Some(0), ProgressDrawTarget::hidden()).with_message(words);
        let over = (talk != Talk::Quiet && std::io::stderr().is_terminal()).then(|| show_later(bar.clone()));
        Bar { words, bar, talk, begun: Instant::now(), over }
    }
}

/// Shows a bar after a second, unless it is over by then.
fn show_later(bar: ProgressBar) -> Sender<()> {
    let (over, is_over) = channel::<()>();
    std::thread::spawn(move || {
        if is_over.recv_timeout(Duration::from_secs(1)) != Err(RecvTimeoutError::Timeout) {
            return;
        }
        // Templates are constants that fit; a bar in another style would do as well. What has no steps spins.
        let has_steps = bar.length().is_some_and(|steps| steps > 0);
        let template =
            if has_steps { "{msg} [{bar:40}] {pos}/{len} frames, {eta} left" } else { "{spinner} {msg}, {elapsed}" };
        let style = ProgressStyle::with_template(template).unwrap_or_else(|_| ProgressStyle::default_bar());
        bar.set_style(style.progress_chars("=> "));
        bar.set_draw_target(ProgressDrawTarget::stderr());
        bar.enable_steady_tick(Duration::from_millis(200));
    });
    over
}

impl Drop for Bar {
    fn drop(&mut self) {
        self.over.take();
        self.bar.finish_and_clear();
        if self.talk == Talk::Verbose {
            let steps = match self.bar.length() {
                None | Some(0) => String::new(),
                Some(steps) => format!(", {}", counted(steps as usize, "frame")),
            };
            eprintln!("{}: {:.3} s{steps}", self.words, self.begun.elapsed().as_secs_f64());
        }
    }
}

impl Progress for Bar {
    fn expect(&self, steps: usize) {
        self.bar.inc_length(steps as u64);
    }

    fn done(&self, steps: usize) {
        self.bar.inc(steps as u64);
    }
}
