//! A TOML file under reading, with the mistakes found so far.

use crate::problem::{Place, Problem, Problems, shown};
use std::cell::RefCell;
use std::ops::Range;
use std::path::{Path, PathBuf};
use std::sync::Arc;
use toml::Spanned;
use toml::de::DeTable;

/// What a line that is no TOML was most likely meant to be: slips of those who mostly write other formats.
fn slip(text: &str, at: usize) -> Option<String> {
    let at = (0..=at.min(text.len())).rev().find(|at| text.is_char_boundary(*at))?;
    let start = text[..at].rfind('\n').map_or(0, |at| at + 1);
    let line = text[start..].lines().next()?;
    let code = line.split('#').next()?.trim();
    let quoted =
        |word: &str| !word.is_empty() && word.chars().all(|c| c.is_alphanumeric() || c == '_' || c == '-' || c == '.');
    if code.starts_with('{') || code.starts_with('}') {
        return Some("a table is opened by its name in brackets, [check], and each key has a line of its own".into());
    }
    if let Some((key, value)) = code.split_once('=') {
        let (key, value) = (key.trim(), value.trim());
        if let Some(value) = value.strip_suffix([';', ',']) {
            return Some(format!("nothing stands behind a value: `{key} = {}`", value.trim()));
        }
        let decimals = value.split_once(',').filter(|(a, b)| a.parse::<i64>().is_ok() && b.parse::<u64>().is_ok());
        if let Some((whole, part)) = decimals {
            return Some(format!("decimals have a point: `{key} = {whole}.{part}`"));
        }
        if value.starts_with('"') && !value[1..].contains('"') {
            return Some(format!("close the quotes: `{key} = {value}\"`"));
        }
        return (quoted(value) && value.parse::<f64>().is_err())
            .then(|| format!("words need quotes: `{key} = \"{value}\"`"));
    }
    let (key, value) = code.split_once(':')?;
    quoted(key.trim().trim_matches('"'))
        .then(|| format!("keys have a = behind them: `{} = {}`", key.trim(), value.trim()))
}

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
        let is_twice = |error: &toml::de::Error| error.message().contains("duplicate key");
        let problems = first.into_iter().map(|error| Problem {
            path: self.path.clone(),
            place: Some(Place::new(&self.text, error.span().unwrap_or(0..0))),
            message: format!("this is not valid TOML: {}", error.message()),
            hint: match is_twice(&error) {
                true => Some("it stands above already; keep one of the two".into()),
                false => slip(&self.text, error.span().map_or(0, |span| span.start)),
            },
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
