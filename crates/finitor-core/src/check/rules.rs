//! The rule book: for takes, and for what can be told before any take.

use super::Severity;
use super::footing_rule_texts::{
    DROP_OVERRUN, FLICKER, NO_HEADROOM, POPPED, SNAGGED, SUNK_FEET, WARP_BLOCKED, WARP_BOUNCE,
};
use super::hit_rule_texts::{ART_IN_WALL, MISSED_HIT, PHANTOM_HIT, REPEAT_HIT};
use super::layer_rule_texts::{
    BLIND_SENSOR, EMPTY_ZONE, GHOST_PAIR, IDLE_HIT, ONE_SIDED, SELF_SENSE, UNSEEN_LAYER, UNSTOPPED_BODY, UNUSED_LAYER,
};
use super::rule_texts::{
    CAUGHT_RISING, EMBEDDED, FACING_SPLIT, FLIP_DRIFT, HOVER, LOPSIDED, MISSING_ANCHOR, MISSING_TURNED, OFF_GROUND,
    OFF_STAGE, SHAPE_JUMP, SIBLINGS_OVERLAP, STALE_FIT, TUNNELLED, UNCOVERED_PART, ZONE_SKIPPED,
};
use super::stage_rule_texts::{
    CRAMPED_PLATFORM, LANDING_BOUNCES, LANDING_INSIDE, LEAKY_BOTTOM, LOW_STEP, OVERLAPPING_SOLIDS, SEAM, SLIVER,
    STEEP_SLOPE, THIN_ZONE, TIGHT_PASSAGE,
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
    /// Two bodies overlap, and nothing stops them.
    GhostPair,
    /// The picture turned and the shapes did not, or the other way round.
    FacingSplit,
    /// A taller body came back under a ceiling.
    NoHeadroom,
    /// A warp put a body into what stops it.
    WarpBlocked,
    /// A warp put a body where a warp takes it again.
    WarpBounce,
    /// A standing actor's art is under the ground.
    SunkFeet,
    /// The ground is lost and had again within a few ticks.
    Flicker,
    /// A standing body is much higher a tick later.
    Popped,
    /// One drop led through more platforms than one.
    DropOverrun,
    /// An edge stopped a body that it would step up.
    Snagged,
    /// One swing struck a target twice.
    RepeatHit,
    /// Art is inside a solid that the body keeps clear of.
    ArtInWall,
    /// Shapes struck where the art does not meet.
    PhantomHit,
    /// The art met and no shape struck.
    MissedHit,
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
    /// A sensor's mask finds its own actor.
    SelfSense,
    /// A sensor can find nothing.
    BlindSensor,
    /// Nothing looks for a layer that something is on.
    UnseenLayer,
    /// Of two bodies one asks in vain.
    OneSided,
    /// A layer or family that nothing uses.
    UnusedLayer,
    /// A zone that nobody can enter.
    EmptyZone,
    /// A hit that can strike nobody.
    IdleHit,
    /// A body that nothing stops.
    UnstoppedBody,
    /// Turning moves the sides of a body.
    Lopsided,
    /// Art and shapes flip about different axes.
    FlipDrift,
    /// Frames drawn for the other side are missing.
    MissingTurned,
    /// Two solids of a stage overlap.
    OverlappingSolids,
    /// A body can fall out of a stage and meet no hazard.
    LeakyBottom,
    /// A warp puts an actor into a solid.
    LandingInside,
    /// A warp puts an actor where a warp takes it again.
    LandingBounces,
    /// A slope of the floor is steeper than an actor walks.
    SteepSlope,
    /// An edge of the floor is lower than an actor steps.
    LowStep,
    /// Two solids nearly touch, or meet in a floor.
    Seam,
    /// A thing of the stage is thinner than a px.
    Sliver,
    /// Over a one-way platform a body has too little room.
    CrampedPlatform,
    /// A body just fits a passage, or just does not.
    TightPassage,
    /// A body can pass a zone between two ticks.
    ThinZone,
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
    pub const ALL: [Rule; 48] = [
        Rule::Embedded,
        Rule::Tunnelled,
        Rule::CaughtRising,
        Rule::Hover,
        Rule::OffStage,
        Rule::ZoneSkipped,
        Rule::GhostPair,
        Rule::FacingSplit,
        Rule::NoHeadroom,
        Rule::WarpBlocked,
        Rule::WarpBounce,
        Rule::SunkFeet,
        Rule::Flicker,
        Rule::Popped,
        Rule::DropOverrun,
        Rule::Snagged,
        Rule::RepeatHit,
        Rule::ArtInWall,
        Rule::PhantomHit,
        Rule::MissedHit,
        Rule::OffGround,
        Rule::StaleFit,
        Rule::MissingAnchor,
        Rule::ShapeJump,
        Rule::SiblingsOverlap,
        Rule::UncoveredPart,
        Rule::SelfSense,
        Rule::BlindSensor,
        Rule::UnseenLayer,
        Rule::OneSided,
        Rule::UnusedLayer,
        Rule::EmptyZone,
        Rule::IdleHit,
        Rule::UnstoppedBody,
        Rule::Lopsided,
        Rule::FlipDrift,
        Rule::MissingTurned,
        Rule::OverlappingSolids,
        Rule::LeakyBottom,
        Rule::LandingInside,
        Rule::LandingBounces,
        Rule::SteepSlope,
        Rule::LowStep,
        Rule::Seam,
        Rule::Sliver,
        Rule::CrampedPlatform,
        Rule::TightPassage,
        Rule::ThinZone,
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
            Rule::GhostPair => "ghost_pair",
            Rule::FacingSplit => "facing_split",
            Rule::NoHeadroom => "no_headroom",
            Rule::WarpBlocked => "warp_blocked",
            Rule::WarpBounce => "warp_bounce",
            Rule::SunkFeet => "sunk_feet",
            Rule::Flicker => "flicker",
            Rule::Popped => "popped",
            Rule::DropOverrun => "drop_overrun",
            Rule::Snagged => "snagged",
            Rule::RepeatHit => "repeat_hit",
            Rule::ArtInWall => "art_in_wall",
            Rule::PhantomHit => "phantom_hit",
            Rule::MissedHit => "missed_hit",
            Rule::OffGround => "off_ground",
            Rule::StaleFit => "stale_fit",
            Rule::MissingAnchor => "missing_anchor",
            Rule::ShapeJump => "shape_jump",
            Rule::SiblingsOverlap => "siblings_overlap",
            Rule::UncoveredPart => "uncovered_part",
            Rule::SelfSense => "self_sense",
            Rule::BlindSensor => "blind_sensor",
            Rule::UnseenLayer => "unseen_layer",
            Rule::OneSided => "one_sided",
            Rule::UnusedLayer => "unused_layer",
            Rule::EmptyZone => "empty_zone",
            Rule::IdleHit => "idle_hit",
            Rule::UnstoppedBody => "unstopped_body",
            Rule::Lopsided => "lopsided",
            Rule::FlipDrift => "flip_drift",
            Rule::MissingTurned => "missing_turned",
            Rule::OverlappingSolids => "overlapping_solids",
            Rule::LeakyBottom => "leaky_bottom",
            Rule::LandingInside => "landing_inside",
            Rule::LandingBounces => "landing_bounces",
            Rule::SteepSlope => "steep_slope",
            Rule::LowStep => "low_step",
            Rule::Seam => "seam",
            Rule::Sliver => "sliver",
            Rule::CrampedPlatform => "cramped_platform",
            Rule::TightPassage => "tight_passage",
            Rule::ThinZone => "thin_zone",
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
            Rule::FacingSplit | Rule::NoHeadroom | Rule::WarpBlocked | Rule::WarpBounce => Severity::Error,
            Rule::GhostPair | Rule::UnusedLayer | Rule::Lopsided => Severity::Note,
            Rule::ArtInWall | Rule::MissedHit | Rule::SteepSlope | Rule::LowStep | Rule::TightPassage => Severity::Note,
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
            Rule::MissingAnchor | Rule::MissingTurned => "frames",
            Rule::SiblingsOverlap | Rule::OverlappingSolids | Rule::ArtInWall | Rule::MissedHit => "px2",
            Rule::SelfSense | Rule::UnseenLayer => "shapes",
            Rule::OneSided => "pairs",
            Rule::BlindSensor | Rule::UnusedLayer | Rule::EmptyZone | Rule::IdleHit | Rule::UnstoppedBody => "matches",
            Rule::SteepSlope => "degrees",
            Rule::Flicker | Rule::RepeatHit => "ticks",
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
            Rule::GhostPair => GHOST_PAIR,
            Rule::FacingSplit => FACING_SPLIT,
            Rule::NoHeadroom => NO_HEADROOM,
            Rule::WarpBlocked => WARP_BLOCKED,
            Rule::WarpBounce => WARP_BOUNCE,
            Rule::SunkFeet => SUNK_FEET,
            Rule::Flicker => FLICKER,
            Rule::Popped => POPPED,
            Rule::DropOverrun => DROP_OVERRUN,
            Rule::Snagged => SNAGGED,
            Rule::RepeatHit => REPEAT_HIT,
            Rule::ArtInWall => ART_IN_WALL,
            Rule::PhantomHit => PHANTOM_HIT,
            Rule::MissedHit => MISSED_HIT,
            Rule::OffGround => OFF_GROUND,
            Rule::StaleFit => STALE_FIT,
            Rule::MissingAnchor => MISSING_ANCHOR,
            Rule::ShapeJump => SHAPE_JUMP,
            Rule::SiblingsOverlap => SIBLINGS_OVERLAP,
            Rule::UncoveredPart => UNCOVERED_PART,
            Rule::SelfSense => SELF_SENSE,
            Rule::BlindSensor => BLIND_SENSOR,
            Rule::UnseenLayer => UNSEEN_LAYER,
            Rule::OneSided => ONE_SIDED,
            Rule::UnusedLayer => UNUSED_LAYER,
            Rule::EmptyZone => EMPTY_ZONE,
            Rule::IdleHit => IDLE_HIT,
            Rule::UnstoppedBody => UNSTOPPED_BODY,
            Rule::Lopsided => LOPSIDED,
            Rule::FlipDrift => FLIP_DRIFT,
            Rule::MissingTurned => MISSING_TURNED,
            Rule::OverlappingSolids => OVERLAPPING_SOLIDS,
            Rule::LeakyBottom => LEAKY_BOTTOM,
            Rule::LandingInside => LANDING_INSIDE,
            Rule::LandingBounces => LANDING_BOUNCES,
            Rule::SteepSlope => STEEP_SLOPE,
            Rule::LowStep => LOW_STEP,
            Rule::Seam => SEAM,
            Rule::Sliver => SLIVER,
            Rule::CrampedPlatform => CRAMPED_PLATFORM,
            Rule::TightPassage => TIGHT_PASSAGE,
            Rule::ThinZone => THIN_ZONE,
        }
    }
}

impl fmt::Display for Rule {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}
