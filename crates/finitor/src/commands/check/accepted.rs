//! Faults that are known: accepted earlier, and not told again.

use crate::exit::Failure;
use finitor_core::check::{Finding, Report};
use finitor_files::{Problem, Problems, write_atomically};
use serde::{Deserialize, Serialize};
use std::path::Path;

const SCHEMA: &str = "finitor.accepted/1";

/// A finding this near to where one was accepted is the same, px.
const WITHIN: f64 = 16.0;

/// A fault that was accepted: by rule, instance, thing and place. The tick is only told.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Accepted {
    rule: String,
    actor: String,
    with: String,
    at: [f64; 2],
    /// The take it was found in.
    take: String,
    tick: u64,
    /// Why, in the user's own words.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    note: Option<String>,
}

#[derive(Deserialize, Serialize)]
#[serde(deny_unknown_fields)]
struct AcceptedFile {
    schema: String,
    accepted: Vec<Accepted>,
}

impl Accepted {
    fn is(&self, finding: &Finding) -> bool {
        let [x, y] = self.at;
        let at = finding.worst.at;
        self.rule == finding.rule.name()
            && self.actor == finding.actor
            && self.with == finding.with
            && (at.x - x).hypot(at.y - y) <= WITHIN
    }

    /// The fault in words.
    pub(super) fn words(&self) -> String {
        let [x, y] = self.at;
        format!(
            "{} of {} with {} at ({x:.2}, {y:.2}), {} tick {}",
            self.rule, self.actor, self.with, self.take, self.tick
        )
    }
}

/// Reads a file of accepted faults.
pub(super) fn read(path: &Path) -> Result<Vec<Accepted>, Failure> {
    let wrong = |message: String| Failure::from(Problems::from(Problem::of_file(path, message)));
    let text = std::fs::read_to_string(path).map_err(|error| wrong(format!("cannot be read: {error}")))?;
    let file: AcceptedFile = serde_json::from_str(&text).map_err(|error| {
        let problem = Problem::of_file(path, format!("holds no accepted findings: {error}"));
        Failure::from(Problems::from(problem.with_hint("`finitor check TAKE --write-accepted FILE` writes one")))
    })?;
    if file.schema != SCHEMA {
        return Err(wrong(format!("has the schema \"{}\", {SCHEMA} was expected", file.schema)));
    }
    Ok(file.accepted)
}

/// What accepted faults left of the reports.
#[derive(Default)]
pub(super) struct Outcome {
    /// How many findings are not told.
    pub(super) hidden: usize,
    /// Accepted faults of these takes that are there no more.
    pub(super) gone: Vec<Accepted>,
}

/// Takes the findings that were accepted out of the reports.
pub(super) fn hide(accepted: &[Accepted], reports: &mut [(String, Report)]) -> Outcome {
    let mut met = vec![false; accepted.len()];
    let mut hidden = 0;
    for (_, report) in reports.iter_mut() {
        report.findings.retain(|finding| {
            let mut known = false;
            for (met, _) in met.iter_mut().zip(accepted).filter(|(_, accepted)| accepted.is(finding)) {
                (*met, known) = (true, true);
            }
            hidden += usize::from(known);
            !known
        });
    }
    let checked = |accepted: &Accepted| reports.iter().any(|(take, _)| *take == accepted.take);
    let gone = accepted.iter().zip(met).filter(|(accepted, met)| !met && checked(accepted));
    Outcome { hidden, gone: gone.map(|(accepted, _)| accepted.clone()).collect() }
}

/// Writes all findings as accepted, beside those accepted before that are still there, or that are of other takes.
pub(super) fn write(
    path: &Path,
    before: &[Accepted],
    outcome: &Outcome,
    reports: &[(String, Report)],
) -> Result<usize, Failure> {
    let mut accepted: Vec<Accepted> = before.iter().filter(|known| !outcome.gone.contains(known)).cloned().collect();
    for (take, report) in reports {
        for finding in &report.findings {
            let at = finding.worst.at;
            accepted.push(Accepted {
                rule: finding.rule.name().to_string(),
                actor: finding.actor.clone(),
                with: finding.with.clone(),
                at: [at.x, at.y].map(|n| (n * 100.0).round() / 100.0),
                take: take.clone(),
                tick: finding.worst.tick,
                note: None,
            });
        }
    }
    let count = accepted.len();
    let text = serde_json::to_string_pretty(&AcceptedFile { schema: SCHEMA.into(), accepted })?;
    write_atomically(path, format!("{text}\n").as_bytes())?;
    Ok(count)
}
