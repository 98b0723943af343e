//! The rule book: for takes, and for what can be told before any take.

use super::Severity;
use super::rule_texts::{
    CAUGHT_RISING, EMBEDDED, HOVER, MISSING_ANCHOR, OFF_GROUND, OFF_STAGE, SHAPE_JUMP, SIBLINGS_OVERLAP, STALE_FIT,
    TUNNELLED, UNCOVERED_PART, ZONE_SKIPPED,
};
use std::fmt;

/// A rule that a take, or the art and the fits themselves, can break.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum Rule {
    /// A body lies in something that stops it.
    Embedded,
    /// A body passed through something that stops it between two ticks.
    Tunnelled,
    /// A one-way platform stopped or lifted a body that should have passed.
    CaughtRising,
    /// A standing actor's art is off the ground.
    Hover,
    /// A body left the stage and no hazard took it.
    OffStage,
    /// A body crossed a zone between two ticks.
    ZoneSkipped,
    /// A standing frame's art does not end on the pivot's line.
    OffGround,
    /// The art or a recipe is not what the shapes were made from.
    StaleFit,
    /// An anchor is not found on a frame that ought to have it.
    MissingAnchor,
    /// A shape moves much farther between two frames than the art it is fitted to.
    ShapeJump,
    /// Shapes of one rule, a part each, overlap.
    SiblingsOverlap,
    /// Opaque art is of no part.
    UncoveredPart,
}

/// What `explain` says about a rule.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct RuleText {
    /// What it means, in one sentence.
    pub means: &'static str,
    /// Why it matters.
    pub matters: &'static str,
    /// How it is measured, and what the figure is.
    pub measured: &'static str,
    /// How to mend it.
    pub mend: &'static str,
    /// A small drawing.
    pub drawing: &'static str,
}

impl Rule {
    /// All rules, in the order of the rule book.
    pub const ALL: [Rule; 12] = [
        Rule::Embedded,
        Rule::Tunnelled,
        Rule::CaughtRising,
        Rule::Hover,
        Rule::OffStage,
        Rule::ZoneSkipped,
        Rule::OffGround,
        Rule::StaleFit,
        Rule::MissingAnchor,
        Rule::ShapeJump,
        Rule::SiblingsOverlap,
        Rule::UncoveredPart,
    ];

    /// The rule's code in files and outputs.
    pub fn name(self) -> &'static str {
        match self {
            Rule::Embedded => "embedded",
            Rule::Tunnelled => "tunnelled",
            Rule::CaughtRising => "caught_rising",
            Rule::Hover => "hover",
            Rule::OffStage => "off_stage",
            Rule::ZoneSkipped => "zone_skipped",
            Rule::OffGround => "off_ground",
            Rule::StaleFit => "stale_fit",
            Rule::MissingAnchor => "missing_anchor",
            Rule::ShapeJump => "shape_jump",
            Rule::SiblingsOverlap => "siblings_overlap",
            Rule::UncoveredPart => "uncovered_part",
        }
    }

    /// Reads a rule's code.
    pub fn parse(code: &str) -> Option<Rule> {
        Rule::ALL.into_iter().find(|rule| rule.name() == code)
    }

    /// The severity unless the project says otherwise.
    pub fn default_severity(self) -> Severity {
        match self {
            Rule::Embedded | Rule::Tunnelled | Rule::CaughtRising | Rule::OffStage | Rule::ZoneSkipped => {
                Severity::Error
            }
            _ => Severity::Warn,
        }
    }

    /// Whether it is told by `lint`, before any take.
    pub fn is_static(self) -> bool {
        self >= Rule::OffGround
    }

    /// What its figure counts.
    pub fn unit(self) -> &'static str {
        match self {
            Rule::MissingAnchor => "frames",
            Rule::SiblingsOverlap => "px2",
            _ => "px",
        }
    }

    /// Its place in [`Rule::ALL`].
    pub fn index(self) -> usize {
        self as usize
    }

    /// The rule in words.
    pub fn text(self) -> RuleText {
        match self {
            Rule::Embedded => EMBEDDED,
            Rule::Tunnelled => TUNNELLED,
            Rule::CaughtRising => CAUGHT_RISING,
            Rule::Hover => HOVER,
            Rule::OffStage => OFF_STAGE,
            Rule::ZoneSkipped => ZONE_SKIPPED,
            Rule::OffGround => OFF_GROUND,
            Rule::StaleFit => STALE_FIT,
            Rule::MissingAnchor => MISSING_ANCHOR,
            Rule::ShapeJump => SHAPE_JUMP,
            Rule::SiblingsOverlap => SIBLINGS_OVERLAP,
            Rule::UncoveredPart => UNCOVERED_PART,
        }
    }
}

impl fmt::Display for Rule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}
