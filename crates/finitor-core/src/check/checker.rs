//! The one pass over a take: observe a tick, then have the rules judge it.

use super::look::{Ends, Look, Meeting, Pair, Seat, TickSeen, Track, meetings};
use super::report::Report;
use super::rules::TakeRules;
use super::standing::{Floors, GroundSeen, with_cause};
use super::step::{FINE, InstanceIndex, Moment, Step, Way};
use super::swings::{Fighter, Swings};
use super::take_rule::Scene;
use super::tally::Tally;
use super::visits::{Visitor, Visits, ZonesSeen};
use super::{CheckInput, contacts, drops, feet};
use crate::book;
use crate::finding::Finding;
use crate::geometry::Rect;
use crate::take::{GrainFinder, RecordedTick, Recording, Sample};
use crate::world::{Near, NearThings, World};
use std::collections::BTreeMap;

/// Ticks at most that are read before the first is judged.
const HELD: usize = 128;

/// Lists of a tick, kept so that none is made for each.
#[derive(Debug, Default)]
struct Lists<'a> {
    seats: Vec<Seat<'a>>,
    near: NearThings,
    contacts: Vec<contacts::Contact>,
    meetings: Vec<Meeting>,
    boxes: Vec<(Rect, usize)>,
}

/// Reads a take's ticks in order.
#[derive(Debug)]
pub struct Checker<'a> {
    input: CheckInput<'a>,
    world: World<'a>,
    /// What is known of each instance; as many as labels.
    tracks: Vec<Track>,
    labels: Vec<String>,
    by_label: BTreeMap<String, InstanceIndex>,
    lists: Lists<'a>,
    zones: ZonesSeen,
    swings: Swings,
    rules: TakeRules<'a>,
    tally: Option<Tally<'a>>,
    grain: GrainFinder,
    /// The first ticks, until it is known in which steps places are written.
    held: Recording,
    is_settled: bool,
    /// From where on art off the ground counts, px.
    hover: f64,
    ticks: u64,
    samples: u64,
}

impl<'a> Checker<'a> {
    /// A checker that has seen nothing yet.
    pub fn new(input: CheckInput<'a>) -> Checker<'a> {
        Checker {
            input,
            world: World::new(input.stage),
            tracks: Vec::new(),
            labels: Vec::new(),
            by_label: BTreeMap::new(),
            lists: Lists::default(),
            zones: ZonesSeen::default(),
            swings: Swings::default(),
            rules: TakeRules::new(input.settings),
            tally: None,
            grain: GrainFinder::default(),
            held: Recording::default(),
            is_settled: false,
            hover: input.settings.get(&feet::HOVER),
            ticks: 0,
            samples: 0,
        }
    }

    /// The same, which also counts what meets what.
    #[must_use]
    pub fn with_pairs(self) -> Checker<'a> {
        Checker { tally: Some(Tally::new(self.input.stage)), ..self }
    }

    /// Takes in all samples of one tick. Ticks must ascend, and an instance have one sample a tick; readers of takes
    /// see to both.
    ///
    /// # Complexity
    /// O(k (log k + log s + n) + p), k samples, s things on the stage, n of them near, p pairs of instances that share a stretch of
    /// x. Where nothing is wrong, no memory is asked for.
    pub fn tick(&mut self, tick: u64, samples: &[Sample]) {
        samples.iter().for_each(|sample| self.grain.see(sample.at));
        self.input.grain = self.grain.grain();
        if self.is_settled {
            self.judge_tick(tick, samples);
            return;
        }
        self.held.push(tick, samples);
        if self.input.grain <= FINE || self.held.ticks().len() >= HELD {
            self.settle();
        }
    }

    /// Judges the first ticks, now that it is known in which steps places are written.
    fn settle(&mut self) {
        self.is_settled = true;
        let held = std::mem::take(&mut self.held);
        for RecordedTick { tick, samples } in held.ticks() {
            self.judge_tick(tick, samples);
        }
    }

    fn judge_tick(&mut self, tick: u64, samples: &[Sample]) {
        self.ticks += 1;
        self.samples += samples.len() as u64;
        let input = self.input;
        if let Some(tally) = &mut self.tally {
            tally.tick(&input, tick, samples);
        }
        // Taken out, so that looks may borrow the lists while rules change.
        let mut lists = std::mem::take(&mut self.lists);
        self.zones.contacts.clear();
        for (index, sample) in samples.iter().enumerate() {
            let way = self.way(tick, index, sample);
            self.observe(way, &mut lists);
        }
        if samples.len() > 1 {
            meetings(&input, &lists.seats, &mut lists.boxes, &mut lists.meetings);
        }
        let seen = TickSeen {
            input: &input,
            world: &self.world,
            tracks: &self.tracks,
            seats: &lists.seats,
            near: &lists.near,
            contacts: &lists.contacts,
            zones: &self.zones.contacts,
            meetings: &lists.meetings,
        };
        judge(&mut self.rules, &seen);
        if samples.len() > 1 {
            let fighters = samples.iter().zip(&lists.seats).map(|(sample, seat)| Fighter { way: seat.way, sample });
            let mut events = Vec::new();
            self.swings.observe(&input, fighters, &mut events);
            if !events.is_empty() {
                self.rules.swings(&input, &events);
            }
        }
        for seat in &lists.seats {
            self.tracks[seat.way.instance.0].move_on(seat);
        }
        lists.seats.clear();
        lists.near.clear();
        lists.contacts.clear();
        lists.meetings.clear();
        self.lists = lists;
    }

    /// The way of a sample's instance, which begins here where it was not met before.
    fn way(&mut self, tick: u64, index: usize, sample: &Sample) -> Way {
        // Instances keep their order from tick to tick as a rule.
        let instance = match self.labels.get(index) {
            Some(label) if *label == sample.label => InstanceIndex(index),
            _ => self.instance_of(&sample.label),
        };
        let Track { before, last_move, earlier_move, .. } = self.tracks[instance.0];
        let now = Moment::new(&self.input, tick, sample);
        Way { instance, actor: sample.actor, before, now, last_move, earlier_move }
    }

    fn instance_of(&mut self, label: &str) -> InstanceIndex {
        if let Some(instance) = self.by_label.get(label) {
            return *instance;
        }
        let instance = InstanceIndex(self.tracks.len());
        self.tracks.push(Track::new(self.input.stage.zones.len()));
        self.labels.push(label.to_string());
        self.by_label.insert(label.to_string(), instance);
        instance
    }

    /// Finds what is near a way and what that is to it.
    fn observe(&mut self, way: Way, lists: &mut Lists<'a>) {
        let mut seat = Seat {
            way,
            step: Step::new(&self.input, way),
            swept: None,
            motion: None,
            ends: Ends::default(),
            ground: GroundSeen::default(),
            drop: drops::DropSeen::default(),
            in_hazard: false,
        };
        let track = &mut self.tracks[way.instance.0];
        match &seat.step {
            Some(step) => {
                let swept = step.swept_box();
                (seat.swept, seat.motion) = (Some(swept), step.motion());
                let begin = (lists.near.solids.len(), lists.near.one_ways.len(), lists.near.zones.len());
                self.world.find(step.reach(swept), &mut lists.near);
                let near = Near {
                    solids: &lists.near.solids[begin.0..],
                    one_ways: &lists.near.one_ways[begin.1..],
                    zones: &lists.near.zones[begin.2..],
                };
                track.contacts.observe(&self.world, step, near, swept, &mut lists.contacts);
                seat.drop = track.drops.observe(&self.world, step, near, track.contacts.passing());
                let visitor = Visitor { step, near, swept, label: &self.labels[way.instance.0] };
                seat.in_hazard = track.visits.observe(&self.world, &visitor, &mut self.zones);
                let floors = Floors { world: &self.world, near, passing: track.contacts.passing() };
                let mut now = floors.ground(step);
                now.standing = now.standing.map(|now| with_cause(step, track.standing, now, self.hover));
                seat.ground = GroundSeen { now, stood: track.standing, was_carried: track.is_carried };
            }
            None => track.without_body(),
        }
        seat.ends = Ends {
            solids: lists.near.solids.len(),
            one_ways: lists.near.one_ways.len(),
            near_zones: lists.near.zones.len(),
            contacts: lists.contacts.len(),
            zones: self.zones.contacts.len(),
        };
        lists.seats.push(seat);
    }

    /// What is known for certain after a tick, and is then forgotten: zone events, and findings that the next tick cannot
    /// continue. `None` where there is nothing.
    pub fn drain(&mut self, tick: u64) -> Option<Report> {
        let input = self.input;
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels };
        let findings = sorted(self.rules.drain(&scene, tick));
        let events = std::mem::take(&mut self.zones.events);
        let hits = std::mem::take(&mut self.swings.hits);
        let is_empty = findings.is_empty() && events.is_empty() && hits.is_empty();
        let (ticks, samples) = (self.ticks, self.samples);
        (!is_empty).then(|| Report { ticks, samples, findings, events, hits, ..Report::default() })
    }

    /// What was found.
    pub fn finish(mut self) -> Report {
        self.settle();
        let input = self.input;
        let stays =
            self.by_label.iter().flat_map(|(label, instance)| self.tracks[instance.0].visits.stays(&self.world, label));
        let stays = stays.collect();
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels };
        let findings = sorted(self.rules.finish(&scene));
        Report {
            ticks: self.ticks,
            samples: self.samples,
            stays,
            actors: self.by_label.into_keys().collect(),
            findings,
            events: self.zones.events,
            hits: self.swings.hits,
            pairs: self.tally.map(|tally| tally.finish(&input)).unwrap_or_default(),
        }
    }
}

/// Has the rules look at all that was seen of a tick.
fn judge<'a>(rules: &mut TakeRules<'a>, seen: &TickSeen<'_, 'a>) {
    for (index, seat) in seen.seats.iter().enumerate() {
        rules.pose(seen.input, &seat.way);
        let look: Option<Look<'_, 'a>> = seen.look(index);
        match look {
            Some(look) => rules.step(&look),
            None => rules.without_body(seat.way.instance),
        }
    }
    for pair in seen.meetings.iter().filter_map(|meeting| Pair::new(seen, meeting)) {
        rules.pair(&pair);
    }
}

impl Track {
    fn new(zones: usize) -> Track {
        Track {
            before: None,
            last_move: None,
            earlier_move: None,
            contacts: contacts::ContactMemory::default(),
            visits: Visits::new(zones),
            drops: drops::DropMemory::default(),
            standing: None,
            is_carried: false,
        }
    }

    /// A frame without a body neither touches nor passes anything.
    fn without_body(&mut self) {
        self.contacts.without_body();
        self.drops.clear();
        self.standing = None;
        self.is_carried = false;
    }

    /// The tick is over.
    fn move_on(&mut self, seat: &Seat<'_>) {
        self.earlier_move = self.last_move;
        (self.before, self.last_move) = (Some(seat.way.now), seat.motion);
        (self.standing, self.is_carried) = (seat.ground.now.standing, seat.ground.now.carries);
    }
}

/// By first tick, then rule, actor and thing.
fn sorted(findings: Vec<Finding>) -> Vec<Finding> {
    let mut keyed: Vec<_> = findings
        .into_iter()
        .map(|finding| {
            let (first, with) = finding.in_take().map_or((0, String::new()), |at| (at.ticks.first, at.with.clone()));
            ((first, book::position(finding.rule), finding.subject.clone(), with), finding)
        })
        .collect();
    keyed.sort_by(|a, b| a.0.cmp(&b.0));
    keyed.into_iter().map(|(_, finding)| finding).collect()
}
