//! What lint found, as it is written.

use super::finding::{FindingResult, WarningResult};
use finitor_core::finding::Finding;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`LintResultFile`].
pub const LINT_SCHEMA: &str = "finitor.lint/2";

/// The results of a run.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct LintResultFile {
    /// [`LINT_SCHEMA`].
    pub schema: String,
    /// What should be known besides.
    pub warnings: Vec<WarningResult>,
    /// Findings, the most severe first.
    pub findings: Vec<FindingResult>,
}

impl LintResultFile {
    /// The results of a run.
    pub fn new(warnings: Vec<WarningResult>, findings: &[Finding]) -> LintResultFile {
        let findings = findings.iter().map(FindingResult::from).collect();
        LintResultFile { schema: LINT_SCHEMA.to_string(), warnings, findings }
    }
}
