//! What is wrong with an input: place, reason, mend.

use annotate_snippets::renderer::DecorStyle;
use annotate_snippets::{AnnotationKind, Level, Renderer, Snippet};
use std::fmt;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// A place in a text file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Place {
    /// Line, from 1.
    pub line: usize,
    /// Column in characters, from 1.
    pub column: usize,
    span: Range<usize>,
    text: Arc<str>,
}

impl Place {
    /// The place of a byte range of a text.
    pub fn new(text: &Arc<str>, span: Range<usize>) -> Place {
        let start = span.start.min(text.len());
        let before = &text[..start];
        let line_start = before.rfind('\n').map_or(0, |at| at + 1);
        Place {
            line: before.matches('\n').count() + 1,
            column: before[line_start..].chars().count() + 1,
            span: start..span.end.clamp(start, text.len()),
            text: Arc::clone(text),
        }
    }
}

/// The words with control characters made visible: text from a file must not steer the terminal that shows it.
pub(crate) fn shown(words: &str) -> String {
    words.chars().map(|c| if c.is_control() { '\u{fffd}' } else { c }).collect()
}

/// One mistake.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Problem {
    /// The file.
    pub path: PathBuf,
    /// Where in it; `None` for the file as a whole.
    pub place: Option<Place>,
    /// What is wrong; expected and what.
    pub message: String,
    /// How to mend it.
    pub hint: Option<String>,
}

impl Problem {
    /// A mistake of a whole file.
    pub fn of_file(path: &Path, message: impl Into<String>) -> Problem {
        Problem { path: path.to_path_buf(), place: None, message: shown(&message.into()), hint: None }
    }

    /// The same with a mend.
    #[must_use]
    pub fn with_hint(mut self, hint: impl Into<String>) -> Problem {
        self.hint = Some(hint.into());
        self
    }

    /// The path as one would type it: without the `./` of a project that was found right here.
    fn shown_path(&self) -> &Path {
        match self.path.strip_prefix(".") {
            Ok(inside) if !inside.as_os_str().is_empty() => inside,
            _ => &self.path,
        }
    }

    /// The mistake with its line, coloured by ANSI codes, which whoever prints it may strip.
    pub fn render(&self) -> String {
        let Some(place) = &self.place else {
            return format!("error: {self}");
        };
        let path = self.shown_path().display().to_string();
        let snippet = Snippet::source(place.text.as_ref())
            .path(path)
            .annotation(AnnotationKind::Primary.span(place.span.clone()));
        let mut group = Level::ERROR.primary_title(self.message.as_str()).element(snippet);
        if let Some(hint) = &self.hint {
            group = group.element(Level::HELP.message(hint.as_str()));
        }
        Renderer::styled().decor_style(DecorStyle::Ascii).render(&[group]).to_string()
    }
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}", self.shown_path().display())?;
        if let Some(place) = &self.place {
            write!(f, ":{}:{}", place.line, place.column)?;
        }
        write!(f, ": {}", self.message)?;
        match &self.hint {
            Some(hint) => write!(f, "\n  help: {hint}"),
            None => Ok(()),
        }
    }
}

/// Mistakes, in the order of their places; at least one where it is an error.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Problems(pub Vec<Problem>);

impl Problems {
    /// `value` when there is no mistake.
    ///
    /// # Errors
    /// The mistakes, when there are any.
    pub fn or<T>(self, value: T) -> Result<T, Problems> {
        if self.0.is_empty() { Ok(value) } else { Err(self) }
    }

    /// Takes over the mistakes of a failed part and goes on without it.
    pub fn take<T>(&mut self, result: Result<T, Problems>) -> Option<T> {
        match result {
            Ok(value) => Some(value),
            Err(problems) => {
                self.0.extend(problems.0);
                None
            }
        }
    }
}

impl From<Problem> for Problems {
    fn from(problem: Problem) -> Problems {
        Problems(vec![problem])
    }
}

impl fmt::Display for Problems {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (i, problem) in self.0.iter().enumerate() {
            if i > 0 {
                writeln!(f)?;
            }
            write!(f, "{problem}")?;
        }
        Ok(())
    }
}

impl std::error::Error for Problems {}
