//! What a check of one take leaves.

use finitor_core::check::Report;
use finitor_core::finding::Span;
use std::path::PathBuf;

/// A take that was checked.
#[derive(Clone, Debug)]
pub struct CheckedTake {
    /// Its file's name.
    pub name: String,
    /// Where it is.
    pub path: PathBuf,
    /// What was found.
    pub report: Report,
    /// Its first and last tick; `None` where it is empty.
    pub span: Option<Span>,
    /// Whether pairs were counted.
    pub has_pairs: bool,
}
