//! The rules for takes, a file each.
//!
//! A rule is in the program by its line in the list below, and in the book's order. Everything else about it (code,
//! severity, unit, thresholds, text, detection, words, test) is in its file.

use super::CheckInput;
use super::aftermath::Aftermath;
use super::foot_points::Stance;
use super::ledger::Told;
use super::look::{Look, Pair, Track};
use super::settings::Settings;
use super::step::{InstanceIndex, Way};
use super::swings::SwingEvent;
use super::take_rule::{Runner, Scene, Since, TakeRule};
use crate::finding::Finding;
use crate::rule::{Severity, Spec};

mod art_in_wall;
mod caught_rising;
mod drop_overrun;
mod embedded;
mod facing_split;
mod flicker;
mod ghost_pair;
mod hanging;
mod hover;
mod midair_stop;
mod missed_hit;
mod no_headroom;
mod nothing_met;
mod off_stage;
mod phantom_hit;
mod popped;
mod repeat_hit;
mod skipped_ticks;
mod snagged;
mod stuck_frame;
mod sunk_feet;
mod tunnelled;
mod warp_blocked;
mod warp_bounce;
mod zone_skipped;

/// Makes the book of take rules: their specifications, and one runner for each.
macro_rules! take_rules {
    ($($name:ident: $rule:ty),* $(,)?) => {
        /// The specifications, in the book's order.
        pub(crate) static SPECS: &[&Spec] = &[$(&<$rule as TakeRule>::SPEC),*];

        /// What each of them may follow from, in the same order.
        #[cfg(test)]
        pub(crate) static AFTER: &[&[&str]] = &[$(<$rule as TakeRule>::AFTER),*];

        /// All rules with their cases.
        #[derive(Debug)]
        pub(crate) struct TakeRules<'a> {
            aftermath: Aftermath<'a>,
            $($name: Runner<'a, $rule>),*
        }

        impl<'a> TakeRules<'a> {
            /// The rules before a take of a game with this [`CheckInput::pace`].
            pub(crate) fn new(settings: &Settings, pace: f64) -> TakeRules<'a> {
                TakeRules { aftermath: Aftermath::default(), $($name: Runner::new(&<$rule as TakeRule>::SPEC, settings, pace)),* }
            }

            /// An instance on a tick, with or without a body.
            pub(crate) fn pose(&mut self, input: &CheckInput<'a>, way: &Way) {
                $(self.$name.pose(input, way);)*
            }

            /// An instance with a body on a tick.
            pub(crate) fn step(&mut self, look: &Look<'_, 'a>) {
                $(self.$name.step(look);)*
            }

            /// An instance with a body on a tick to which nothing has happened for long.
            pub(crate) fn calm(&mut self, look: &Look<'_, 'a>) {
                $(self.$name.calm(look);)*
            }

            /// Whether no rule tells of an instance at a tick or later.
            pub(crate) fn is_silent(&self, instance: InstanceIndex, since: u64) -> bool {
                true $(&& self.$name.is_silent(instance, since))*
            }

            /// An instance without a body on a tick.
            pub(crate) fn without_body(&mut self, instance: InstanceIndex) {
                $(self.$name.without_body(instance);)*
            }

            /// Two bodies that are in each other or went through each other.
            pub(crate) fn pair(&mut self, pair: &Pair<'_, 'a>) {
                $(self.$name.pair(pair);)*
            }

            /// What swings did on a tick.
            pub(crate) fn swings(&mut self, input: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>]) {
                $(self.$name.swings(input, events);)*
            }

            /// Finds what the cases that began on this tick follow from.
            pub(crate) fn link(&mut self, pace: f64, tracks: &[Track], tick: u64) {
                let has_fresh = false $(|| self.$name.has_fresh())*;
                if !has_fresh {
                    return;
                }
                self.go_on();
                self.aftermath.begin_tick(tick, pace, |instance| tracks[instance.0].settled);
                $(self.$name.begin(&mut self.aftermath);)*
                self.aftermath.resolve();
                $(self.$name.follow(&self.aftermath);)*
            }

            /// Says until when the cases go on that began lately.
            fn go_on(&mut self) {
                if !self.aftermath.is_empty() {
                    $(self.$name.go_on(&mut self.aftermath);)*
                }
            }

            /// The take is over.
            pub(crate) fn end(&mut self, scene: &Scene<'_, 'a>, tracks: &[Track], tick: u64) {
                $(self.$name.end(scene, tick);)*
                self.link(scene.input.pace(), tracks, tick);
            }

            /// The faults from a tick on that matter as much.
            pub(crate) fn told(&self, from: u64, least: Severity) -> Vec<Told<'a>> {
                let mut told = Vec::new();
                $(self.$name.told(from, least, &mut told);)*
                told
            }

            /// Findings that no later tick can continue.
            pub(crate) fn drain(&mut self, scene: &Scene<'_, 'a>, tick: u64) -> Vec<Finding> {
                let mut findings = Vec::new();
                self.go_on();
                $(self.$name.drain(scene, tick, &mut findings);)*
                findings
            }

            /// Findings that matter as much, have gone on for some ticks and still do.
            pub(crate) fn lasting(&self, scene: &Scene<'_, 'a>, since: Since) -> Vec<Finding> {
                let mut findings = Vec::new();
                $(self.$name.lasting(scene, since, &mut findings);)*
                findings
            }

            /// All findings that are left.
            pub(crate) fn finish(&mut self, scene: &Scene<'_, 'a>) -> Vec<Finding> {
                let mut findings = Vec::new();
                $(self.$name.finish(scene, &mut findings);)*
                findings
            }
        }
    };
}

impl TakeRules<'_> {
    /// How an instance stands on slopes, where that is by points of its feet.
    pub(crate) fn foot_points(&self, instance: InstanceIndex) -> Option<Stance> {
        self.embedded.rule().foot_points(instance)
    }
}

take_rules! {
    embedded: embedded::Embedded,
    tunnelled: tunnelled::Tunnelled,
    caught_rising: caught_rising::CaughtRising,
    hover: hover::Hover,
    off_stage: off_stage::OffStage,
    zone_skipped: zone_skipped::ZoneSkipped,
    ghost_pair: ghost_pair::GhostPair,
    facing_split: facing_split::FacingSplit,
    no_headroom: no_headroom::NoHeadroom,
    warp_blocked: warp_blocked::WarpBlocked,
    warp_bounce: warp_bounce::WarpBounce,
    sunk_feet: sunk_feet::SunkFeet,
    flicker: flicker::Flicker,
    popped: popped::Popped,
    drop_overrun: drop_overrun::DropOverrun,
    snagged: snagged::Snagged,
    midair_stop: midair_stop::MidairStop,
    hanging: hanging::Hanging,
    repeat_hit: repeat_hit::RepeatHit,
    art_in_wall: art_in_wall::ArtInWall,
    phantom_hit: phantom_hit::PhantomHit,
    missed_hit: missed_hit::MissedHit,
    nothing_met: nothing_met::NothingMet,
    skipped_ticks: skipped_ticks::SkippedTicks,
    stuck_frame: stuck_frame::StuckFrame,
}
