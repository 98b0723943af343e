//! The project's figures for checks.

use crate::hits::Settle;
use crate::rule::{Rule, Severity, Threshold, Unit, Views};
use std::collections::BTreeMap;

/// Overlap that is no fault.
pub const SLACK: Threshold = Threshold {
    key: "slack",
    about: "Overlap up to this is no fault; games that log whole px want 1.",
    unit: Unit::Px,
    default: 0.5,
    least: 0.0,
    most: 1e7,
};

/// From where on a step is a warp.
pub const TELEPORT: Threshold = Threshold {
    key: "teleport",
    about: "A longer step than this is a warp and not swept; of figures over 40 px as much longer as they are higher.",
    unit: Unit::Px,
    default: 160.0,
    least: 1.0,
    most: 1e7,
};

/// How far apart faults are one finding.
pub const MERGE_GAP: Threshold = Threshold {
    key: "merge_gap",
    about: "Faults between the same two things with no more ticks between them than this are one finding.",
    unit: Unit::Ticks,
    default: 2.0,
    least: 0.0,
    most: 999.0,
};

/// The figures that all rules share. Those of one rule are in its [`Spec`](crate::rule::Spec).
pub const SHARED: [Threshold; 3] = [SLACK, TELEPORT, MERGE_GAP];

/// How a game is seen.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum View {
    /// From the side: things fall, and stand on ground.
    #[default]
    Side,
    /// From above: y is a way to go like x. What is up in the picture lies further back, and art is drawn in front of it.
    TopDown,
}

/// The project's figures for checks: what is not set is at its default.
#[derive(Clone, Debug, PartialEq)]
pub struct Settings {
    figures: BTreeMap<&'static str, f64>,
    /// Those that are asked for on every tick.
    slack: f64,
    teleport: Option<f64>,
    severities: BTreeMap<&'static str, Severity>,
    settle: Settle,
    view: View,
}

impl Default for Settings {
    fn default() -> Settings {
        let (figures, severities) = (BTreeMap::new(), BTreeMap::new());
        let (settle, view) = (Settle::default(), View::default());
        Settings { figures, slack: SLACK.default, teleport: None, severities, settle, view }
    }
}

impl Settings {
    /// A figure of the project.
    pub fn get(&self, threshold: &Threshold) -> f64 {
        self.figures.get(threshold.key).copied().unwrap_or(threshold.default)
    }

    /// Sets a figure.
    pub fn set(&mut self, threshold: &Threshold, value: f64) {
        self.figures.insert(threshold.key, value);
        (self.slack, self.teleport) = (self.get(&SLACK), self.figures.get(TELEPORT.key).copied());
    }

    /// The same with a figure set.
    #[must_use]
    pub fn with(mut self, threshold: &Threshold, value: f64) -> Settings {
        self.set(threshold, value);
        self
    }

    /// Overlap that is no fault, px.
    pub fn slack(&self) -> f64 {
        self.slack
    }

    /// A longer step than this is a warp and not swept, px.
    pub fn teleport(&self) -> f64 {
        self.teleport_of(1.0)
    }

    /// The same where figures are `size` times as large as small ones: what is not set is as much longer.
    pub(crate) fn teleport_of(&self, size: f64) -> f64 {
        self.teleport.unwrap_or(TELEPORT.default * size)
    }

    /// How it is settled which part a hit strikes, where neither the hit nor the target says so.
    pub fn settle(&self) -> Settle {
        self.settle
    }

    /// Sets how that is settled.
    pub fn set_settle(&mut self, settle: Settle) {
        self.settle = settle;
    }

    /// How the game is seen.
    pub fn view(&self) -> View {
        self.view
    }

    /// Sets how the game is seen.
    pub fn set_view(&mut self, view: View) {
        self.view = view;
    }

    /// The severity of a rule in this project: off where the rule is for another view and the project does not set it.
    pub fn severity(&self, rule: Rule) -> Severity {
        let is_seen = self.view == View::Side || rule.views() == Views::All;
        let usual = if is_seen { rule.default_severity() } else { Severity::Off };
        self.severities.get(rule.code()).copied().unwrap_or(usual)
    }

    /// Sets the severity of a rule.
    pub fn set_severity(&mut self, rule: Rule, severity: Severity) {
        self.severities.insert(rule.code(), severity);
    }
}
