//! Findings in the forms that build servers and code reviews read.

mod junit;
mod markdown;
mod sarif;

use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::fix_places::FixPlaces;
use crate::project::OpenProject;
use finitor_core::finding::Finding;
use finitor_files::{RowOf, row_lines};
use std::path::{Path, PathBuf};

/// The form of a report.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ReportKind {
    /// SARIF 2.1.0 (OASIS): findings with file and line, for code hosts and editors.
    Sarif,
    /// JUnit XML: a test case a rule and take, for build servers.
    Junit,
    /// Markdown, for people: comments on changes, wikis.
    Markdown,
}

/// Findings that belong together: of a take, or of the project's files.
#[derive(Clone, Debug)]
pub struct Reported<'f> {
    /// The take, or `files`.
    pub name: String,
    /// The take's file; `None` for the project's files.
    pub take: Option<PathBuf>,
    /// The stage of the take.
    pub stage: Option<String>,
    /// The findings.
    pub findings: &'f [Finding],
}

impl<'f> Reported<'f> {
    /// What takes on a stage hold.
    pub fn takes(takes: &'f [CheckedTake], stage: &str) -> Vec<Reported<'f>> {
        let of = |take: &'f CheckedTake| Reported {
            name: take.name.clone(),
            take: Some(take.path.clone()),
            stage: Some(stage.to_string()),
            findings: &take.report.findings,
        };
        takes.iter().map(of).collect()
    }

    /// What lint found.
    pub fn files(findings: &'f [Finding]) -> Vec<Reported<'f>> {
        vec![Reported { name: "files".to_string(), take: None, stage: None, findings }]
    }
}

/// A report's text.
///
/// # Errors
/// Those of the encoders.
///
/// # Complexity
/// O(findings), and one pass over each take that has findings.
pub fn report(open: &OpenProject<'_>, kind: ReportKind, groups: &[Reported<'_>]) -> Result<String, Failure> {
    let lines = Lines { open, places: FixPlaces::new(open) };
    match kind {
        ReportKind::Sarif => sarif::sarif(&lines, groups),
        ReportKind::Junit => junit::junit(&lines, groups),
        ReportKind::Markdown => Ok(markdown::markdown(&lines, groups)),
    }
}

/// A line of a file as reports name it.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
struct Line {
    /// From the project's folder, with `/` between folders.
    uri: String,
    /// From 1.
    line: usize,
}

/// Where findings are in the files.
struct Lines<'l> {
    open: &'l OpenProject<'l>,
    places: FixPlaces<'l>,
}

impl Lines<'_> {
    fn uri(&self, path: &Path) -> String {
        let root = &self.open.project.root;
        let inside = path.strip_prefix(root).map(Path::to_path_buf);
        // Takes may be named from elsewhere.
        let whole = || path.canonicalize().ok()?.strip_prefix(root.canonicalize().ok()?).ok().map(Path::to_path_buf);
        let path = inside.ok().or_else(whole).unwrap_or_else(|| path.to_path_buf());
        path.components().map(|part| part.as_os_str().to_string_lossy()).collect::<Vec<_>>().join("/")
    }

    /// Of each finding the line to look at: in the files, else the row of the take at its worst moment.
    fn of_group(&self, group: &Reported<'_>) -> Vec<Line> {
        let row_of =
            |finding: &Finding| Some(RowOf { tick: finding.in_take()?.worst.tick, actor: finding.subject.clone() });
        let rows = group.take.as_ref().map(|take| row_lines(take, &group.findings.iter().filter_map(row_of).collect()));
        let row = |finding: &Finding| rows.as_ref()?.get(&row_of(finding)?).copied();
        let line = |finding: &Finding| match self.places.line(finding) {
            Some(found) => Line { uri: self.uri(&found.path), line: found.line },
            None => match &group.take {
                Some(take) => Line { uri: self.uri(take), line: row(finding).unwrap_or(1) },
                None => Line { uri: "finitor.toml".to_string(), line: 1 },
            },
        };
        group.findings.iter().map(line).collect()
    }

    /// Lines that go with a finding.
    fn beside(&self, group: &Reported<'_>, finding: &Finding) -> Vec<Line> {
        let all = self.places.lines_beside(finding, group.stage.as_deref().unwrap_or_default());
        all.into_iter().map(|at| Line { uri: self.uri(&at.path), line: at.line }).collect()
    }
}

/// A finding's place in words: `keeper.body with pier/wall, ticks 112 to 118`, `keeper walk 2`.
fn place(finding: &Finding) -> String {
    match finding.in_take() {
        Some(at) => {
            let shape = if at.shape.is_empty() { String::new() } else { format!(".{}", at.shape) };
            let with = if at.with.is_empty() { String::new() } else { format!(" with {}", at.with) };
            let ticks = match (at.ticks.first, at.ticks.last) {
                (first, last) if first == last => format!("tick {first}"),
                (first, last) => format!("ticks {first} to {last}"),
            };
            format!("{}{shape}{with}, {ticks}", finding.subject)
        }
        None => format!("{} {}", finding.subject, finding.place.name()),
    }
}
