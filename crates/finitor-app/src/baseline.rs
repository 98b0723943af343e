//! Findings that are known and not reported again.

use crate::checked_take::CheckedTake;
use crate::failure::Failure;
use crate::results::{BASELINE_SCHEMA, BaselineFile};
use finitor_core::finding::Finding;
use finitor_files::{Problem, Problems, write_atomically};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};
use std::path::Path;

/// A finding this near to a known one is that one, px.
const WITHIN: f64 = 16.0;

/// A finding that is known: by rule, instance, thing and place. The tick is only for people.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct KnownFinding {
    /// The rule's code.
    pub rule: String,
    /// The instance.
    pub subject: String,
    /// The other side.
    pub with: String,
    /// The place, world px.
    pub at: [f64; 2],
    /// The take it was found in.
    pub take: String,
    /// The tick of its worst moment.
    pub tick: u64,
    /// Why it stays, in the user's own words.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub note: Option<String>,
}

impl KnownFinding {
    fn new(take: &str, finding: &Finding) -> Option<KnownFinding> {
        let place = finding.in_take()?;
        let at = place.worst.at;
        Some(KnownFinding {
            rule: finding.rule.code().to_string(),
            subject: finding.subject.clone(),
            with: place.with.clone(),
            at: [at.x, at.y].map(|n| (n * 100.0).round() / 100.0),
            take: take.to_string(),
            tick: place.worst.tick,
            note: None,
        })
    }

    fn is(&self, finding: &Finding) -> bool {
        let Some(place) = finding.in_take() else { return false };
        let [x, y] = self.at;
        let at = place.worst.at;
        self.rule == finding.rule.code()
            && self.subject == finding.subject
            && self.with == place.with
            && (at.x - x).hypot(at.y - y) <= WITHIN
    }

    /// The finding in words.
    pub fn words(&self) -> String {
        let [x, y] = self.at;
        let KnownFinding { rule, subject, with, take, tick, .. } = self;
        format!("{rule} of {subject} with {with} at ({x:.2}, {y:.2}), {take} tick {tick}")
    }
}

/// Known findings.
#[derive(Clone, Debug, Default)]
pub struct Baseline(Vec<KnownFinding>);

/// What a baseline left of the reports.
#[derive(Clone, Debug, Default)]
pub struct BaselineOutcome {
    /// How many findings are known and not reported.
    pub hidden: usize,
    /// Known findings of these takes that are fixed.
    pub fixed: Vec<KnownFinding>,
}

impl Baseline {
    /// Reads a baseline file.
    ///
    /// # Errors
    /// When it cannot be read, or is not one.
    pub fn read(path: &Path) -> Result<Baseline, Failure> {
        let wrong = |message: String| Failure::from(Problems::from(Problem::of_file(path, message)));
        let text = std::fs::read_to_string(path).map_err(|error| wrong(format!("cannot be read: {error}")))?;
        let file: BaselineFile = serde_json::from_str(&text).map_err(|error| {
            let problem = Problem::of_file(path, format!("is not a baseline: {error}"));
            Failure::from(Problems::from(problem.with_hint("`finitor check TAKE --write-baseline FILE` writes one")))
        })?;
        if file.schema != BASELINE_SCHEMA {
            return Err(wrong(format!("has the schema \"{}\"; expected {BASELINE_SCHEMA}", file.schema)));
        }
        Ok(Baseline(file.findings))
    }

    /// Removes the known findings from the reports.
    pub fn hide(&self, takes: &mut [CheckedTake]) -> BaselineOutcome {
        let mut met = vec![false; self.0.len()];
        let mut hidden = 0;
        for take in takes.iter_mut() {
            take.report.findings.retain(|finding| {
                let mut is_known = false;
                for (met, _) in met.iter_mut().zip(&self.0).filter(|(_, known)| known.is(finding)) {
                    (*met, is_known) = (true, true);
                }
                hidden += usize::from(is_known);
                !is_known
            });
        }
        let checked = |known: &KnownFinding| takes.iter().any(|take| take.name == known.take);
        let fixed = self.0.iter().zip(met).filter(|(known, met)| !met && checked(known));
        BaselineOutcome { hidden, fixed: fixed.map(|(known, _)| known.clone()).collect() }
    }

    /// Writes all findings as known, beside those known before that are still there, or that are of other takes. How many
    /// there are.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn write(&self, path: &Path, outcome: &BaselineOutcome, takes: &[CheckedTake]) -> Result<usize, Failure> {
        let mut findings: Vec<KnownFinding> =
            self.0.iter().filter(|known| !outcome.fixed.contains(known)).cloned().collect();
        for take in takes {
            findings.extend(take.report.findings.iter().filter_map(|finding| KnownFinding::new(&take.name, finding)));
        }
        let count = findings.len();
        let text = serde_json::to_string_pretty(&BaselineFile { schema: BASELINE_SCHEMA.into(), findings })?;
        write_atomically(path, format!("{text}\n").as_bytes())?;
        Ok(count)
    }
}
