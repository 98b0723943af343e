//! A bar on standard error while long work goes on.

use finitor_files::Progress;
use indicatif::{ProgressBar, ProgressDrawTarget, ProgressStyle};
use std::io::IsTerminal;
use std::time::Duration;

/// Work of fewer steps is over before a bar could be read.
const LEAST_STEPS: u64 = 200;

/// A progress bar that shows itself only on a terminal, only unless quiet, and only for long work.
#[derive(Debug)]
pub(crate) struct Bar {
    bar: ProgressBar,
    wanted: bool,
}

impl Bar {
    /// A bar that is not shown yet.
    pub(crate) fn new(words: &'static str, quiet: bool) -> Bar {
        let bar = ProgressBar::with_draw_target(Some(0), ProgressDrawTarget::hidden()).with_message(words);
        // The template is a constant that fits; a bar in another style would do as well.
        let style = ProgressStyle::with_template("{msg} [{bar:40}] {pos}/{len} frames, {eta} left");
        bar.set_style(style.unwrap_or_else(|_| ProgressStyle::default_bar()).progress_chars("=> "));
        Bar { bar, wanted: !quiet && std::io::stderr().is_terminal() }
    }

    /// Takes the bar away.
    pub(crate) fn finish(&self) {
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
