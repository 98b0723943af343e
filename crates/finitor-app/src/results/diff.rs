//! What changed between two versions, as it is written.

use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`DiffResult`].
pub const DIFF_SCHEMA: &str = "finitor.diff/1";

/// What changed between two versions of fits, or of a check's result.
#[derive(Clone, Debug, Default, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct DiffResult {
    /// [`DIFF_SCHEMA`].
    pub schema: String,
    /// The old version, as it was named.
    pub old: String,
    /// The new version.
    pub new: String,
    /// Frames that came or went, or whose art or length changed.
    pub frames: Vec<FrameDiff>,
    /// Shapes on frames that came, went or changed.
    pub shapes: Vec<ShapeDiff>,
    /// Findings that came or went, or are worse or better.
    pub findings: Vec<FindingDiff>,
}

/// A frame that changed.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct FrameDiff {
    /// The actor.
    pub actor: String,
    /// The animation.
    pub animation: String,
    /// The frame in it.
    pub frame: usize,
    /// `added`, `gone` or `changed`.
    pub change: String,
    /// What changed: `art`, `ticks`, `pivot`, `picture`, `facing`, `anchors`.
    pub what: Vec<String>,
}

/// A shape on a frame that changed.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ShapeDiff {
    /// The actor.
    pub actor: String,
    /// The animation.
    pub animation: String,
    /// The frame in it.
    pub frame: usize,
    /// The shape.
    pub shape: String,
    /// `added`, `gone`, `moved` where its geometry changed, or `changed` where only what it means did.
    pub change: String,
    /// How far its left, top, right and bottom edges moved, px; below 0 to the left, or up.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub edges_px: Option<[f64; 4]>,
    /// Shared area over that of both together, of the old and the new geometry.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub iou: Option<f64>,
    /// Other values that changed.
    pub values: Vec<ValueDiff>,
}

/// A value that changed.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ValueDiff {
    /// `points`, `kind`, `role`, `layer`, `mask`, `part`, `group`, `factor`, `damage`, `locked`.
    pub key: String,
    /// The old value; empty where there was none.
    pub old: String,
    /// The new value; empty where there is none.
    pub new: String,
}

/// A finding that changed.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct FindingDiff {
    /// The take.
    pub take: String,
    /// `new`, `gone`, `worse` or `better`.
    pub change: String,
    /// The rule.
    pub rule: String,
    /// The severity; that of the new version where there is one.
    pub severity: String,
    /// The instance.
    pub subject: String,
    /// What it overlapped or missed.
    pub with: String,
    /// The first and the last tick; those of the new version where there is one.
    pub ticks: [u64; 2],
    /// The old figure.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub old_figure: Option<f64>,
    /// The new figure.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub new_figure: Option<f64>,
    /// What the figures count.
    pub unit: String,
    /// What happened.
    pub message: String,
}

impl DiffResult {
    /// Whether nothing changed.
    pub fn is_empty(&self) -> bool {
        self.frames.is_empty() && self.shapes.is_empty() && self.findings.is_empty()
    }
}
