//! The rules for files, a file each.
//!
//! A rule is in the program by its line in the list below, and in the book's order.

use super::facts::{ActorFacts, AnimationArt, CastFacts, LayerFacts, StageFacts};
use super::still_rule::{Out, StillFinding, StillRule};
use crate::check::Settings;
use crate::rule::Spec;

mod active_frames;
mod blind_sensor;
mod cramped_platform;
mod cut_figures;
mod deep_strip;
mod empty_frame;
mod empty_zone;
mod flip_drift;
mod flush_strip;
mod idle_hit;
mod landing_bounces;
mod landing_inside;
mod leaky_bottom;
mod lone_edit;
mod lopsided;
mod lost_spawn;
mod low_step;
mod missing_anchor;
mod missing_turned;
mod no_factor;
mod no_shape;
mod off_ground;
mod one_sided;
mod outside_cell;
mod overlapping_solids;
mod seam;
mod self_sense;
mod shape_jump;
mod short_reach;
mod siblings_overlap;
mod sliver;
mod stale_fit;
mod steep_slope;
mod sweep_gap;
mod thin_zone;
mod tight_passage;
mod uncovered_art;
mod uncovered_part;
mod unlisted_part;
mod unseen_layer;
mod unstopped_body;
mod unused_layer;
mod wide_strip;

/// Makes the book of rules for files: their specifications, and one function a sort of facts that asks all of them.
macro_rules! still_rules {
    ($($rule:ty),* $(,)?) => {
        /// The specifications, in the book's order.
        pub(crate) static SPECS: &[&Spec] = &[$(&<$rule as StillRule>::SPEC),*];

        /// What is wrong with an actor's files and fits.
        pub fn lint_actor(facts: &ActorFacts<'_>, settings: &Settings) -> Vec<StillFinding> {
            let mut found = Vec::new();
            $(if let Some(mut out) = Out::of(&<$rule as StillRule>::SPEC, settings, &mut found) {
                <$rule>::actor(facts, &mut out);
            })*
            found
        }

        /// What is wrong with the shapes of an animation, against its pictures.
        pub fn lint_animation(facts: &AnimationArt<'_>, settings: &Settings) -> Vec<StillFinding> {
            let mut found = Vec::new();
            $(if let Some(mut out) = Out::of(&<$rule as StillRule>::SPEC, settings, &mut found) {
                <$rule>::animation(facts, &mut out);
            })*
            found
        }

        /// What is wrong with layers and masks.
        ///
        /// # Complexity
        /// O(p2), p parties.
        pub fn lint_layers(facts: &LayerFacts<'_>, settings: &Settings) -> Vec<StillFinding> {
            let mut found = Vec::new();
            $(if let Some(mut out) = Out::of(&<$rule as StillRule>::SPEC, settings, &mut found) {
                <$rule>::layers(facts, &mut out);
            })*
            found
        }

        /// What is wrong between the actors of a project.
        ///
        /// # Complexity
        /// That of what all attacks reach against all actors.
        pub fn lint_cast(facts: &CastFacts<'_>, settings: &Settings) -> Vec<StillFinding> {
            let mut found = Vec::new();
            $(if let Some(mut out) = Out::of(&<$rule as StillRule>::SPEC, settings, &mut found) {
                <$rule>::cast(facts, &mut out);
            })*
            found
        }

        /// What is wrong with a stage, for the actors of the project.
        ///
        /// # Complexity
        /// O(solids2) box tests, and that of [`crate::world::Space::new`] a body and a landing.
        pub fn lint_stage(facts: &StageFacts<'_>, settings: &Settings) -> Vec<StillFinding> {
            let mut found = Vec::new();
            $(if let Some(mut out) = Out::of(&<$rule as StillRule>::SPEC, settings, &mut found) {
                <$rule>::stage(facts, &mut out);
            })*
            found
        }
    };
}

still_rules! {
    no_shape::NoShape,
    empty_frame::EmptyFrame,
    cut_figures::CutFigures,
    outside_cell::OutsideCell,
    off_ground::OffGround,
    stale_fit::StaleFit,
    missing_anchor::MissingAnchor,
    shape_jump::ShapeJump,
    lone_edit::LoneEdit,
    siblings_overlap::SiblingsOverlap,
    uncovered_part::UncoveredPart,
    uncovered_art::UncoveredArt,
    self_sense::SelfSense,
    blind_sensor::BlindSensor,
    unseen_layer::UnseenLayer,
    one_sided::OneSided,
    unused_layer::UnusedLayer,
    empty_zone::EmptyZone,
    idle_hit::IdleHit,
    no_factor::NoFactor,
    unlisted_part::UnlistedPart,
    active_frames::ActiveFrames,
    short_reach::ShortReach,
    sweep_gap::SweepGap,
    unstopped_body::UnstoppedBody,
    wide_strip::WideStrip,
    flush_strip::FlushStrip,
    deep_strip::DeepStrip,
    lopsided::Lopsided,
    flip_drift::FlipDrift,
    missing_turned::MissingTurned,
    overlapping_solids::OverlappingSolids,
    leaky_bottom::LeakyBottom,
    lost_spawn::LostSpawn,
    landing_inside::LandingInside,
    landing_bounces::LandingBounces,
    steep_slope::SteepSlope,
    low_step::LowStep,
    seam::Seam,
    sliver::Sliver,
    cramped_platform::CrampedPlatform,
    tight_passage::TightPassage,
    thin_zone::ThinZone,
}
