//! The one pass over a take.

use super::bodies;
use super::bounds::{self, Whereabouts};
use super::finding::{Event, Finding, Severity};
use super::ground::{self, Standing};
use super::ledger::{Fault, Ledger};
use super::one_way::{self, Passing};
use super::split::facing_split;
use super::step::{Moment, Step};
use super::tally::{PairTally, Tally};
use super::zones::{self, Visit};
use super::{Rule, stops};
use crate::actor::Actor;
use crate::geometry::Vec2;
use crate::layers::Layers;
use crate::stage::Stage;
use crate::take::Sample;
use std::collections::BTreeMap;

/// The project's figures for checks.
#[derive(Clone, Debug, PartialEq)]
pub struct Settings {
    /// Overlap that is no fault, px.
    pub slack: f64,
    /// How far a standing actor's art may be off the ground, px.
    pub hover: f64,
    /// A longer step than this is a warp and not swept, px.
    pub teleport: f64,
    /// Severity by rule, in the order of [`Rule::ALL`].
    pub severity: [Severity; Rule::ALL.len()],
}

impl Default for Settings {
    fn default() -> Settings {
        Settings { slack: 0.5, hover: 1.0, teleport: 160.0, severity: Rule::ALL.map(Rule::default_severity) }
    }
}

/// What a take is checked against.
#[derive(Clone, Copy, Debug)]
pub struct World<'a> {
    /// The still world.
    pub stage: &'a Stage,
    /// The actors; samples name them by index.
    pub actors: &'a [Actor],
    /// Layers and masks.
    pub layers: &'a Layers,
    /// The figures.
    pub settings: &'a Settings,
}

/// What a take holds.
#[derive(Clone, Debug, PartialEq)]
pub struct Report {
    /// Number of ticks that have a sample.
    pub ticks: u64,
    /// Number of samples.
    pub samples: u64,
    /// The actor instances met, in the order of their labels.
    pub actors: Vec<String>,
    /// Findings by first tick, then rule, actor and thing.
    pub findings: Vec<Finding>,
    /// Zone events in the order in which they happened.
    pub events: Vec<Event>,
    /// What met what, where that was asked for.
    pub pairs: Vec<PairTally>,
}

/// What is known of one instance.
#[derive(Debug)]
struct Track {
    before: Option<Moment>,
    last_move: Option<Vec2>,
    passing: Vec<Passing>,
    zones: Vec<Visit>,
    standing: Option<Standing>,
    been_on: bool,
    met_hazard: bool,
}

/// Reads a take's ticks in order.
#[derive(Debug)]
pub struct Checker<'a> {
    world: World<'a>,
    tracks: BTreeMap<String, Track>,
    ledger: Ledger,
    events: Vec<Event>,
    tally: Option<Tally<'a>>,
    ticks: u64,
    samples: u64,
}

impl<'a> Checker<'a> {
    /// A checker that has seen nothing yet.
    pub fn new(world: World<'a>) -> Checker<'a> {
        Checker {
            world,
            tracks: BTreeMap::new(),
            ledger: Ledger::default(),
            events: Vec::new(),
            tally: None,
            ticks: 0,
            samples: 0,
        }
    }

    /// The same, which also counts what meets what.
    #[must_use]
    pub fn with_pairs(self) -> Checker<'a> {
        Checker { tally: Some(Tally::new(self.world.stage)), ..self }
    }

    /// Takes in all samples of one tick. Ticks must ascend, and an instance have one sample a tick; readers of takes
    /// see to both.
    ///
    /// # Complexity
    /// O(k s + k2), k samples, s things on the stage; a box test decides for most.
    pub fn tick(&mut self, tick: u64, samples: &[Sample]) {
        self.ticks += 1;
        self.samples += samples.len() as u64;
        let world = self.world;
        if let Some(tally) = &mut self.tally {
            tally.tick(&world, tick, samples);
        }
        let moments: Vec<Moment> = samples.iter().map(|sample| Moment::new(&world, tick, sample)).collect();
        let befores: Vec<(Option<Moment>, Option<Vec2>)> = samples
            .iter()
            .map(|sample| self.tracks.get(&sample.label).map_or((None, None), |t| (t.before.clone(), t.last_move)))
            .collect();
        let mut faults = Vec::new();
        let mut steps = Vec::with_capacity(samples.len());
        for ((sample, now), (before, last_move)) in samples.iter().zip(&moments).zip(&befores) {
            let actor = &world.actors[sample.actor];
            faults.extend(facing_split(&world, sample, (before.as_ref(), now), &self.ledger));
            let track = track_of(&mut self.tracks, world.stage, &sample.label);
            let step = Step::new(&world, &sample.label, actor, (before.as_ref(), now), *last_move);
            if let Some(step) = step {
                track.step(&world, &step, &self.ledger, &mut faults, &mut self.events);
                steps.push(step);
            } else {
                track.without_body();
            }
        }
        bodies::pairs(&world, &steps, &self.ledger, &mut faults);
        for fault in faults {
            self.ledger.add(world.settings.severity[fault.rule.index()], fault);
        }
        let motions: Vec<Option<Vec2>> = samples
            .iter()
            .map(|sample| steps.iter().find(|step| step.label == sample.label).and_then(Step::motion))
            .collect();
        for ((sample, now), motion) in samples.iter().zip(&moments).zip(motions) {
            let track = track_of(&mut self.tracks, world.stage, &sample.label);
            track.before = Some(now.clone());
            track.last_move = motion;
        }
    }

    /// What was found.
    pub fn finish(self) -> Report {
        Report {
            ticks: self.ticks,
            samples: self.samples,
            actors: self.tracks.into_keys().collect(),
            findings: self.ledger.finish(),
            events: self.events,
            pairs: self.tally.map(|tally| tally.finish(&self.world)).unwrap_or_default(),
        }
    }
}

fn track_of<'t>(tracks: &'t mut BTreeMap<String, Track>, stage: &Stage, label: &str) -> &'t mut Track {
    if !tracks.contains_key(label) {
        let track = Track {
            before: None,
            last_move: None,
            passing: vec![Passing::default(); stage.one_ways.len()],
            zones: vec![Visit::default(); stage.zones.len()],
            standing: None,
            been_on: false,
            met_hazard: false,
        };
        tracks.insert(label.to_string(), track);
    }
    tracks.get_mut(label).expect("it was put in above if it was not there")
}

impl Track {
    fn step(
        &mut self,
        world: &World<'_>,
        step: &Step<'_>,
        ledger: &Ledger,
        faults: &mut Vec<Fault>,
        events: &mut Vec<Event>,
    ) {
        stops::solids(world, step, faults);
        one_way::one_ways(world, step, &mut self.passing, ledger, faults);
        let news = zones::zones(world, step, &mut self.zones, faults);
        events.extend(news.events);
        self.met_hazard |= news.in_hazard;
        let standing = ground::standing(world, step);
        faults.extend(ground::hover(world, step, self.standing, standing).into_iter().flatten());
        self.standing = standing;
        match bounds::whereabouts(world, step) {
            Whereabouts::On => {
                self.been_on = true;
                self.met_hazard = news.in_hazard;
            }
            Whereabouts::Off { by, back } if self.been_on && !self.met_hazard => {
                faults.push(bounds::off_stage(world, step, by, back));
            }
            Whereabouts::Off { .. } => {}
        }
    }

    /// A frame without a body neither touches nor passes anything.
    fn without_body(&mut self) {
        self.passing.fill(Passing::No);
        self.standing = None;
    }
}
