//! What a rule is: its code, severity, unit, thresholds and the text that `explain` prints.
//!
//! A rule has one file, which holds its [`Spec`], its detection, its words and its test. The [book](crate::book) lists
//! all of them.

use std::fmt;

/// How much a finding matters.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Severity {
    /// Not reported.
    Off,
    /// Good to know.
    Note,
    /// Worth a look.
    Warn,
    /// A fault.
    Error,
}

impl Severity {
    /// All severities, as the files name them.
    pub const ALL: [Severity; 4] = [Severity::Off, Severity::Note, Severity::Warn, Severity::Error];

    /// The severity's word in the files.
    pub fn name(self) -> &'static str {
        match self {
            Severity::Off => "off",
            Severity::Note => "note",
            Severity::Warn => "warn",
            Severity::Error => "error",
        }
    }

    /// Reads a severity's word.
    pub fn parse(word: &str) -> Option<Severity> {
        Severity::ALL.into_iter().find(|severity| severity.name() == word)
    }
}

impl fmt::Display for Severity {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// The view of a game that a rule is for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Views {
    /// Any.
    All,
    /// From the side: things fall, and stand on ground.
    Side,
}

/// What a figure counts.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Unit {
    /// A length.
    Px,
    /// An area.
    Px2,
    /// A number of ticks.
    Ticks,
    /// A number of frames.
    Frames,
    /// A number of shapes.
    Shapes,
    /// A number of pairs.
    Pairs,
    /// A number of things that a mask detects.
    Matches,
    /// An angle.
    Degrees,
}

impl Unit {
    /// The unit in JSON and CSV: plain ASCII.
    pub fn name(self) -> &'static str {
        match self {
            Unit::Px => "px",
            Unit::Px2 => "px2",
            Unit::Ticks => "ticks",
            Unit::Frames => "frames",
            Unit::Shapes => "shapes",
            Unit::Pairs => "pairs",
            Unit::Matches => "matches",
            Unit::Degrees => "degrees",
        }
    }

    /// A figure for people, with its unit: `12.31 px`, `156 px²`, `1 tick`.
    pub fn shown(self, figure: f64) -> String {
        let one = |one: &'static str, many: &'static str| {
            let count = figure.round() + 0.0;
            format!("{count:.0} {}", if count == 1.0 { one } else { many })
        };
        match self {
            Unit::Px => format!("{} px", two_decimals(figure)),
            Unit::Px2 if figure.abs() >= 100.0 => format!("{figure:.0} px²"),
            Unit::Px2 => format!("{} px²", two_decimals(figure)),
            Unit::Ticks => one("tick", "ticks"),
            Unit::Frames => one("frame", "frames"),
            Unit::Shapes => one("shape", "shapes"),
            Unit::Pairs => one("pair", "pairs"),
            Unit::Matches => one("match", "matches"),
            Unit::Degrees => format!("{figure:.1}°"),
        }
    }
}

/// Two decimals, and no minus before zero.
fn two_decimals(figure: f64) -> String {
    format!("{:.2}", (figure * 100.0).round() / 100.0 + 0.0)
}

/// A number of the project file that decides from where on a rule reports.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Threshold {
    /// Its key under `[check]`.
    pub key: &'static str,
    /// What it means, in one sentence.
    pub about: &'static str,
    /// What it counts.
    pub unit: Unit,
    /// Its value when the key is absent.
    pub default: f64,
    /// The least value that makes sense.
    pub least: f64,
    /// The greatest value that makes sense; whole numbers where the unit is ticks.
    pub most: f64,
}

/// What `explain` says about a rule.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct RuleText {
    /// What happened, in one sentence.
    pub means: &'static str,
    /// Why it matters.
    pub matters: &'static str,
    /// How it is measured, and what the figure is.
    pub measured: &'static str,
    /// How to fix it.
    pub fix: &'static str,
    /// A small drawing.
    pub drawing: &'static str,
}

/// Everything about a rule but how it is detected.
#[derive(Debug)]
pub struct Spec {
    /// Its code in files and outputs.
    pub code: &'static str,
    /// Its severity when the project file says nothing.
    pub severity: Severity,
    /// The views of a game that it is for.
    pub views: Views,
    /// What its figure counts.
    pub unit: Unit,
    /// The keys under `[check]` that it reads.
    pub thresholds: &'static [Threshold],
    /// The rule in words.
    pub text: RuleText,
}

/// A rule that a take, or the files themselves, can break.
#[derive(Clone, Copy)]
pub struct Rule(&'static Spec);

impl Rule {
    /// The rule with this specification.
    pub(crate) const fn of(spec: &'static Spec) -> Rule {
        Rule(spec)
    }

    /// The rule's code in files and outputs.
    pub fn code(self) -> &'static str {
        self.0.code
    }

    /// Its severity when the project file says nothing.
    pub fn default_severity(self) -> Severity {
        self.0.severity
    }

    /// The views of a game that it is for: in another it is off, unless the project file says otherwise.
    pub fn views(self) -> Views {
        self.0.views
    }

    /// What its figure counts.
    pub fn unit(self) -> Unit {
        self.0.unit
    }

    /// The keys under `[check]` that it reads.
    pub fn thresholds(self) -> &'static [Threshold] {
        self.0.thresholds
    }

    /// The rule in words.
    pub fn text(self) -> RuleText {
        self.0.text
    }
}

impl PartialEq for Rule {
    fn eq(&self, other: &Rule) -> bool {
        self.code() == other.code()
    }
}

impl Eq for Rule {}

impl fmt::Debug for Rule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.code())
    }
}

impl fmt::Display for Rule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.code())
    }
}
