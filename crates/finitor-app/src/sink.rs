//! Where progress and warnings go.

use finitor_files::{NoProgress, Progress};

/// Something the user should know, though the call goes on.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Warning {
    /// What it is, in one sentence.
    pub message: String,
    /// What to do about it, where there is anything.
    pub hint: Option<String>,
}

/// Takes in progress and warnings while a call goes on.
pub trait Sink: Sync {
    /// Long work begins; the returned value receives its steps and is dropped when it is over.
    fn task(&self, words: &'static str) -> Box<dyn Progress>;

    /// A warning.
    fn warn(&self, warning: Warning);
}

/// A sink that takes no notice.
#[derive(Clone, Copy, Debug, Default)]
pub struct Silent;

impl Sink for Silent {
    fn task(&self, _: &'static str) -> Box<dyn Progress> {
        Box::new(NoProgress)
    }

    fn warn(&self, _: Warning) {}
}
