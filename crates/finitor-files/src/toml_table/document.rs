//! A TOML file under reading, with the mistakes found so far.

use crate::problem::{Place, Problem, Problems, shown};
use std::cell::RefCell;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use toml::Spanned;
use toml::de::DeTable;

/// One file under reading, with the mistakes found so far.
pub(crate) struct Document {
    pub(crate) path: PathBuf,
    text: Arc<str>,
    problems: RefCell<Vec<Problem>>,
}

impl Document {
    /// Reads a file's text.
    pub(crate) fn open(path: &Path) -> Result<Document, Problems> {
        let bytes = std::fs::read(path).map_err(|error| Problem::of_file(path, format!("cannot be read: {error}")))?;
        let text = String::from_utf8(bytes).map_err(|error| {
            let at = error.utf8_error().valid_up_to();
            Problem::of_file(path, format!("is not UTF-8 text (byte {at}); save it as UTF-8"))
        })?;
        Ok(Document { path: path.to_path_buf(), text: text.into(), problems: RefCell::default() })
    }

    /// The text, for [`Document::parse`].
    pub(crate) fn text(&self) -> Arc<str> {
        Arc::clone(&self.text)
    }

    /// Parses the text.
    ///
    /// # Errors
    /// The first mistake of syntax; what a broken line was meant to say is not guessed at.
    pub(crate) fn parse<'t>(&self, text: &'t str) -> Result<Spanned<DeTable<'t>>, Problems> {
        let (table, errors) = DeTable::parse_recoverable(text);
        // One slip draws many: only the first is where it is.
        let first = errors.into_iter().min_by_key(|error| error.span().map(|span| span.start));
        let problems = first.into_iter().map(|error| Problem {
            path: self.path.clone(),
            place: Some(Place::new(&self.text, error.span().unwrap_or(0..0))),
            message: format!("this is not valid TOML: {}", error.message()),
            hint: None,
        });
        Problems(problems.collect()).or(table)
    }

    /// Notes a mistake.
    pub(crate) fn wrong(&self, span: Range<usize>, message: impl Into<String>, hint: Option<String>) {
        self.problems.borrow_mut().push(Problem {
            path: self.path.clone(),
            place: Some(Place::new(&self.text, span)),
            message: shown(&message.into()),
            hint,
        });
    }

    pub(super) fn place(&self, span: Range<usize>) -> Place {
        Place::new(&self.text, span)
    }

    /// Takes over a mistake of another file that this one names.
    pub(crate) fn note(&self, problem: Problem) {
        self.problems.borrow_mut().push(problem);
    }

    /// Whether anything was wrong so far.
    pub(crate) fn is_sound(&self) -> bool {
        self.problems.borrow().is_empty()
    }

    /// How many mistakes there are so far.
    pub(crate) fn mistakes(&self) -> usize {
        self.problems.borrow().len()
    }

    /// All mistakes by place.
    pub(crate) fn finish(self) -> Problems {
        let mut problems = self.problems.into_inner();
        problems.sort_by_key(|problem| problem.place.as_ref().map(|place| (place.line, place.column)));
        // What several things take over from one place is wrong once.
        problems.dedup();
        Problems(problems)
    }
}
