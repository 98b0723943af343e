//! The one pass over a take.

use super::art::art_in_wall;
use super::bodies;
use super::bounds::{self, Whereabouts};
use super::deep::{Deep, Deeps, Spell};
use super::feet::{feet, with_cause};
use super::finding::{Event, Finding, Severity, Stay};
use super::footing::Footing;
use super::ground::{self, Ground, Standing};
use super::hits::{Blows, Hit};
use super::ledger::{Fault, Ledger};
use super::one_way::{self, Passing};
use super::split::facing_split;
use super::step::{Moment, Near, Step};
use super::tally::{PairTally, Tally};
use super::zones::{self, Visits};
use super::{Rule, stops};
use crate::actor::Actor;
use crate::geometry::{BoxTree, Rect, Vec2};
use crate::layers::Layers;
use crate::stage::{Outline, Stage};
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
    /// Ground that is had again within so many ticks, without a jump, ought not to have been lost.
    pub flicker: u32,
    /// Opaque pixels inside of a solid that are no fault, px2.
    pub art_in_wall: f64,
    /// How far apart the art may be where a hit strikes, px.
    pub phantom_hit: f64,
    /// How much the art of a hit may cover a target that it does not strike, px2.
    pub missed_hit: f64,
    /// Faults between the same two with no more ticks between them than this are one finding.
    pub join: u32,
    /// Severity by rule, in the order of [`Rule::ALL`].
    pub severity: [Severity; Rule::ALL.len()],
}

impl Default for Settings {
    fn default() -> Settings {
        Settings {
            slack: 0.5,
            hover: 1.0,
            teleport: 160.0,
            flicker: 4,
            art_in_wall: 64.0,
            phantom_hit: 4.0,
            missed_hit: 32.0,
            join: 2,
            severity: Rule::ALL.map(Rule::default_severity),
        }
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
    /// What each instance had to do with each zone that it was in, by instance and in the order of the zones.
    pub stays: Vec<Stay>,
    /// First contacts of hits, in the order in which they happened.
    pub hits: Vec<Hit>,
    /// What met what, where that was asked for.
    pub pairs: Vec<PairTally>,
}

/// What is known of one instance.
#[derive(Debug)]
struct Track {
    label: String,
    before: Option<Moment>,
    last_move: Option<Vec2>,
    passing: Passing,
    zones: Visits,
    standing: Option<Standing>,
    footing: Footing,
    /// One-way platforms that the drop under way let it through, by their places, and since when.
    dropped: Vec<(u32, u64)>,
    been_on: bool,
    met_hazard: bool,
}

/// The stage's things in trees, by sort.
#[derive(Debug)]
struct Trees {
    solids: BoxTree,
    one_ways: BoxTree,
    zones: BoxTree,
}

/// One instance on a tick.
#[derive(Debug)]
struct Moving {
    track: usize,
    before: Option<Moment>,
    last_move: Option<Vec2>,
    now: Moment,
    /// The box around the body's way; none without a body.
    swept: Rect,
    /// Where the things near it end in the lists of the tick: those of the one before it end where its own begin.
    near_end: [usize; 3],
}

/// Lists of a tick, kept so that none is made for each.
#[derive(Debug, Default)]
struct Lists {
    moving: Vec<Moving>,
    near: [Vec<u32>; 3],
    motions: Vec<Option<Vec2>>,
    boxes: Vec<(Rect, usize)>,
    deeps: Vec<Deep>,
    faults: Vec<Fault>,
}

/// Reads a take's ticks in order.
#[derive(Debug)]
pub struct Checker<'a> {
    world: World<'a>,
    trees: Trees,
    tracks: Vec<Track>,
    /// The place of each label's track.
    places: BTreeMap<String, usize>,
    lists: Lists,
    ledger: Ledger,
    deeps: Deeps,
    events: Vec<Event>,
    blows: Blows,
    tally: Option<Tally<'a>>,
    ticks: u64,
    samples: u64,
}

impl<'a> Checker<'a> {
    /// A checker that has seen nothing yet.
    pub fn new(world: World<'a>) -> Checker<'a> {
        let boxes = |outline: &Outline| outline.bounds;
        let stage = world.stage;
        let trees = Trees {
            solids: BoxTree::new(stage.solids.iter().map(|solid| boxes(&solid.outline))),
            one_ways: BoxTree::new(stage.one_ways.iter().map(|one_way| boxes(&one_way.outline))),
            zones: BoxTree::new(stage.zones.iter().map(|zone| boxes(&zone.outline))),
        };
        Checker {
            world,
            trees,
            tracks: Vec::new(),
            places: BTreeMap::new(),
            lists: Lists::default(),
            ledger: Ledger::new(world.settings.join),
            deeps: Deeps::new(world.settings.join),
            events: Vec::new(),
            blows: Blows::default(),
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
    /// O(k (log k + log s + n) + p), k samples, s things on the stage, n of them near, p pairs of instances that share a stretch of
    /// x. Where nothing is wrong, no memory is asked for.
    pub fn tick(&mut self, tick: u64, samples: &[Sample]) {
        self.ticks += 1;
        self.samples += samples.len() as u64;
        let world = self.world;
        if let Some(tally) = &mut self.tally {
            tally.tick(&world, tick, samples);
        }
        // Taken out, so that steps may look into the lists while tracks change.
        let mut lists = std::mem::take(&mut self.lists);
        self.gather(tick, samples, &mut lists);
        let Lists { moving, near, motions, boxes, deeps, faults } = &mut lists;
        let step_of = |index: usize| step(&world, samples, moving, (&self.trees.solids, near), index);
        for (index, (sample, of)) in samples.iter().zip(moving.iter()).enumerate() {
            if of.now.is_split {
                faults.extend(facing_split(&world, sample, (of.before.as_ref(), &of.now), &self.ledger));
            }
            let track = &mut self.tracks[of.track];
            let step = step_of(index);
            match &step {
                Some(step) => track.step(&world, step, (&self.ledger, &self.deeps), (deeps, faults), &mut self.events),
                None => track.without_body(),
            }
            motions.push(step.and_then(|step| step.motion()));
        }
        if samples.len() > 1 {
            bodies::pairs(&world, step_of, boxes, (samples.len(), &self.ledger), (deeps, faults));
            self.blows.tick(&world, tick, samples, faults);
        }
        deeps.drain(..).for_each(|deep| self.deeps.add(deep));
        for fault in faults.drain(..) {
            self.ledger.add(world.settings.severity[fault.rule.index()], fault);
        }
        self.take_misses();
        for (of, motion) in moving.drain(..).zip(motions.drain(..)) {
            let track = &mut self.tracks[of.track];
            (track.before, track.last_move) = (Some(of.now), motion);
        }
        near.iter_mut().for_each(Vec::clear);
        self.lists = lists;
    }

    /// Finds each sample's track and what is near it.
    fn gather(&mut self, tick: u64, samples: &[Sample], lists: &mut Lists) {
        let world = self.world;
        for (index, sample) in samples.iter().enumerate() {
            // Instances keep their order from tick to tick as a rule.
            let track = match self.tracks.get(index) {
                Some(track) if track.label == sample.label => index,
                _ => self.track_of(&sample.label),
            };
            let now = Moment::new(&world, tick, sample);
            let Track { before, last_move, .. } = &self.tracks[track];
            let mut of = Moving {
                track,
                before: before.clone(),
                last_move: *last_move,
                now,
                swept: Rect::ZERO,
                near_end: [0; 3],
            };
            let actor = &world.actors[sample.actor];
            let (who, moments) = ((sample.label.as_str(), actor, track, sample.actor), (of.before.as_ref(), &of.now));
            let nowhere = Near { tree: &self.trees.solids, solids: &[], one_ways: &[], zones: &[] };
            if let Some(step) = Step::new(&world, who, moments, of.last_move, nowhere, None) {
                let (swept, reach) = (step.swept_box, step.reach());
                of.swept = swept;
                self.trees.solids.find(reach, &mut lists.near[0]);
                self.trees.one_ways.find(reach, &mut lists.near[1]);
                self.trees.zones.find(reach, &mut lists.near[2]);
            }
            of.near_end = [lists.near[0].len(), lists.near[1].len(), lists.near[2].len()];
            lists.moving.push(of);
        }
    }

    /// The place of an instance's track, which begins here where it was not met before.
    fn track_of(&mut self, label: &str) -> usize {
        if let Some(place) = self.places.get(label) {
            return *place;
        }
        let stage = self.world.stage;
        self.tracks.push(Track {
            label: label.to_string(),
            before: None,
            last_move: None,
            passing: Passing::default(),
            zones: Visits::new(stage.zones.len()),
            standing: None,
            footing: Footing::default(),
            dropped: Vec::new(),
            been_on: false,
            met_hazard: false,
        });
        self.places.insert(label.to_string(), self.tracks.len() - 1);
        self.tracks.len() - 1
    }

    /// What is known for certain after a tick, and is then forgotten: zone events, and findings that the next tick cannot
    /// continue. `None` where there is nothing.
    pub fn drain(&mut self, tick: u64) -> Option<Report> {
        let mut findings = self.ledger.ended(tick);
        let over = self.deeps.ended(tick);
        findings.extend(over.iter().filter_map(|spell| self.in_words(spell)));
        sort(&mut findings);
        let events = std::mem::take(&mut self.events);
        let hits = std::mem::take(&mut self.blows.hits);
        (!(findings.is_empty() && events.is_empty() && hits.is_empty())).then(|| Report {
            ticks: self.ticks,
            samples: self.samples,
            actors: Vec::new(),
            findings,
            events,
            stays: Vec::new(),
            hits,
            pairs: Vec::new(),
        })
    }

    fn in_words(&self, spell: &Spell) -> Option<Finding> {
        spell.finding(&self.world, &self.trees.solids, |track| &self.tracks[track].label)
    }

    fn take_misses(&mut self) {
        for (fault, ticks) in self.blows.missed.drain(..) {
            self.ledger.add_over(self.world.settings.severity[fault.rule.index()], fault, ticks);
        }
    }

    /// What was found.
    pub fn finish(mut self) -> Report {
        let stays = self.places.iter().flat_map(|(label, place)| self.tracks[*place].zones.stays(&self.world, label));
        let stays = stays.collect();
        self.blows.end();
        self.take_misses();
        let deep = self.deeps.finish();
        let mut findings: Vec<Finding> = deep.iter().filter_map(|spell| self.in_words(spell)).collect();
        findings.extend(self.ledger.finish());
        sort(&mut findings);
        Report {
            ticks: self.ticks,
            samples: self.samples,
            stays,
            actors: self.places.into_keys().collect(),
            findings,
            events: self.events,
            hits: self.blows.hits,
            pairs: self.tally.map(|tally| tally.finish(&self.world)).unwrap_or_default(),
        }
    }
}

/// By first tick, then rule, actor and thing.
fn sort(findings: &mut [Finding]) {
    findings.sort_by(|a, b| (a.ticks.0, a.rule, &a.actor, &a.with).cmp(&(b.ticks.0, b.rule, &b.actor, &b.with)));
}

/// The step of a sample; `None` when its frame has no body.
fn step<'s>(
    world: &World<'s>,
    samples: &'s [Sample],
    moving: &'s [Moving],
    (tree, near): (&'s BoxTree, &'s [Vec<u32>; 3]),
    index: usize,
) -> Option<Step<'s>> {
    let (sample, of) = (&samples[index], &moving[index]);
    let begin = index.checked_sub(1).map_or([0; 3], |before| moving[before].near_end);
    let list = |sort: usize| &near[sort][begin[sort]..of.near_end[sort]];
    let near = Near { tree, solids: list(0), one_ways: list(1), zones: list(2) };
    let actor = &world.actors[sample.actor];
    let who = (sample.label.as_str(), actor, of.track, sample.actor);
    Step::new(world, who, (of.before.as_ref(), &of.now), of.last_move, near, Some(of.swept))
}

impl Track {
    fn step(
        &mut self,
        world: &World<'_>,
        step: &Step<'_>,
        (ledger, known): (&Ledger, &Deeps),
        (deeps, faults): (&mut Vec<Deep>, &mut Vec<Fault>),
        events: &mut Vec<Event>,
    ) {
        let begin = deeps.len();
        stops::solids(world, step, known, deeps, faults);
        deeps[begin..].iter_mut().for_each(|deep| deep.dropped = self.dropped.first().copied());
        art_in_wall(world, step, ledger, faults);
        one_way::one_ways(world, step, &mut self.passing, known, deeps, faults);
        // Faults are large: where there is none, none is moved.
        if let Some(fault) = one_way::drop_overrun(world, step, &self.passing, &mut self.dropped) {
            faults.push(fault);
        }
        let news = zones::zones(world, step, &mut self.zones, faults);
        events.extend(news.events);
        self.met_hazard |= news.in_hazard;
        let Ground { carries, standing } = ground::ground(world, step, &self.passing);
        let standing = standing.map(|standing| with_cause(world, step, self.standing, standing));
        if let Some((before, now)) = self.standing.zip(standing) {
            feet(world, step, (&self.passing, ledger), (before, now), faults);
        }
        self.footing.step(world, step, &self.passing, carries, faults);
        self.standing = standing;
        match bounds::whereabouts(world, step) {
            Whereabouts::On => {
                self.been_on = true;
                self.met_hazard = news.in_hazard;
            }
            Whereabouts::Off { by, back } if self.been_on && !self.met_hazard => {
                faults.push(bounds::off_stage(world, step, ledger, by, back));
            }
            Whereabouts::Off { .. } => {}
        }
    }

    /// A frame without a body neither touches nor passes anything.
    fn without_body(&mut self) {
        self.passing.clear();
        self.standing = None;
        self.footing = Footing::default();
        self.dropped.clear();
    }
}
