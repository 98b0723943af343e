//! A baseline as it is written.

use crate::baseline::KnownFinding;
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`BaselineFile`].
pub const BASELINE_SCHEMA: &str = "finitor.baseline/1";

/// Findings that are known and not reported again.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
#[serde(deny_unknown_fields)]
pub struct BaselineFile {
    /// [`BASELINE_SCHEMA`].
    pub schema: String,
    /// The findings.
    pub findings: Vec<KnownFinding>,
}
