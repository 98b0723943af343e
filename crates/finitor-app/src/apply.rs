//! Fixes that are one value in one file: written, tried, and taken back where they do not help.

use crate::failure::Failure;
use crate::fitting::refit;
use crate::fix_places::FixPlaces;
use crate::project::OpenProject;
use finitor_core::finding::Finding;
use finitor_files::{FileChange, fits_path, value_place, with_value, write_changes};
use std::collections::BTreeSet;

/// A fix, and what became of it.
#[derive(Clone, Debug, PartialEq)]
pub struct AppliedFix {
    /// The finding that it is of.
    pub finding: Finding,
    /// The file, as the user would type it.
    pub file: String,
    /// The line of the key, or of its table's title.
    pub line: usize,
    /// The key.
    pub key: String,
    /// The value as it was written, where there was one.
    pub old: Option<String>,
    /// The value.
    pub new: String,
    /// The whole text before and after.
    pub change: FileChange,
    /// What became of it.
    pub outcome: ApplyOutcome,
}

/// What became of a fix.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum ApplyOutcome {
    /// It is written, and the finding is gone.
    Kept,
    /// It would be written.
    Shown,
    /// It was taken back: the finding is still there.
    NoHelp,
    /// It was taken back: it makes another finding.
    Breaks(String),
    /// It was taken back: the project does not load with it.
    Fails(String),
}

/// How fixes are applied.
#[derive(Clone, Copy)]
pub struct ApplyRequest<'a> {
    /// Whether they are only shown.
    pub dry_run: bool,
    /// What finds the findings in an open project.
    pub find: &'a dyn Fn(&OpenProject<'_>) -> Result<Vec<Finding>, Failure>,
}

/// What a finding is, whichever its figure and ticks.
type Identity = (String, String, String, String);

fn identity(finding: &Finding) -> Identity {
    let (place, with) = match finding.in_take() {
        Some(at) => (at.shape.clone(), at.with.clone()),
        None => (finding.place.name().to_string(), String::new()),
    };
    (finding.rule.code().to_string(), finding.subject.clone(), place, with)
}

/// Applies fixes one after another: each is written, actors are fitted again, and all is looked at anew. One that leaves its finding,
/// or makes another, is taken back with all that followed from it.
///
/// # Errors
/// Mistakes in the files as they are; files that cannot be written.
///
/// # Complexity
/// That of finding and of fitting what changes, for each fix.
pub fn apply_fixes(open: &OpenProject<'_>, request: ApplyRequest<'_>) -> Result<Vec<AppliedFix>, Failure> {
    let mut known = (request.find)(open)?;
    let mut tried: BTreeSet<String> = BTreeSet::new();
    let mut done = Vec::new();
    // The project as the last fix that helped has left it.
    let mut latest: Option<Box<OpenProject<'_>>> = None;
    while let Some(fix) = next(latest.as_deref().unwrap_or(open), &known, &mut tried) {
        if request.dry_run {
            done.push(fix);
            continue;
        }
        let outcome = match attempt(open, &fix, &known, request)? {
            Attempt::Helps { project, found } => {
                (latest, known) = (Some(project), found);
                ApplyOutcome::Kept
            }
            Attempt::TakenBack(outcome) => outcome,
        };
        done.push(AppliedFix { outcome, ..fix });
    }
    Ok(done)
}

/// The next fix that was not tried yet.
fn next(open: &OpenProject<'_>, known: &[Finding], tried: &mut BTreeSet<String>) -> Option<AppliedFix> {
    let places = FixPlaces::new(open);
    known.iter().find_map(|finding| {
        let change = finding.change.as_ref()?;
        let at = places.table(&change.of)?;
        // One key is tried once: two findings that want two values of it contradict each other.
        if !tried.insert(format!("{:?} {}", at, change.key)) {
            return None;
        }
        let before = std::fs::read_to_string(&at.path).ok()?;
        let place = value_place(&before, &at.table, change.key);
        let new = change.value.to_toml();
        let after = with_value(&before, &at.table, change.key, &new).filter(|after| *after != before)?;
        Some(AppliedFix {
            finding: finding.clone(),
            file: open.shown(&at.path),
            line: place.as_ref().map_or(1, |place| place.line),
            key: change.key.to_string(),
            old: place.and_then(|place| place.old),
            new,
            change: FileChange { path: at.path, before, after },
            outcome: ApplyOutcome::Shown,
        })
    })
}

/// What came of a fix that was written.
enum Attempt<'s> {
    /// Its finding is gone: the project with it, and what is found in that.
    Helps { project: Box<OpenProject<'s>>, found: Vec<Finding> },
    /// It was taken back.
    TakenBack(ApplyOutcome),
}

/// Writes a fix and looks whether it helps; puts everything back where it does not.
fn attempt<'s>(
    open: &OpenProject<'s>,
    fix: &AppliedFix,
    known: &[Finding],
    request: ApplyRequest<'_>,
) -> Result<Attempt<'s>, Failure> {
    let mut back = vec![fix.change.reversed()];
    for path in open.project.actors.iter().map(|path| fits_path(path)) {
        if let Ok(text) = std::fs::read_to_string(&path) {
            // Whatever stands there by then: should not all be put back, it is still this that stays.
            back.push(FileChange { path, before: text.clone(), after: text });
        }
    }
    write_changes(std::slice::from_ref(&fix.change))?;
    let tried = open.reopened().and_then(|project| {
        refit(&project)?;
        let found = (request.find)(&project)?;
        Ok((Box::new(project), found))
    });
    let outcome = match tried {
        Ok((project, found)) => match harm(fix, known, &found) {
            None => return Ok(Attempt::Helps { project, found }),
            Some(outcome) => outcome,
        },
        Err(failure) => ApplyOutcome::Fails(failure.to_string()),
    };
    write_changes(&back)?;
    Ok(Attempt::TakenBack(outcome))
}

/// Why a fix is no good; `None` where its finding is gone and no other came.
fn harm(fix: &AppliedFix, known: &[Finding], found: &[Finding]) -> Option<ApplyOutcome> {
    let before: Vec<Identity> = known.iter().map(identity).collect();
    if let Some(fresh) = found.iter().find(|finding| !before.contains(&identity(finding))) {
        return Some(ApplyOutcome::Breaks(format!("{}: {}", fresh.rule, fresh.message)));
    }
    let own = identity(&fix.finding);
    let count = |all: &[Finding]| all.iter().filter(|finding| identity(finding) == own).count();
    (count(found) >= count(known)).then_some(ApplyOutcome::NoHelp)
}
