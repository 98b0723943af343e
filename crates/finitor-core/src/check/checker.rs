//! The one pass over a take: observe a tick, then have the rules judge it.

use super::foot_points::Stance;
use super::footing::Footing;
use super::look::Track;
use super::moment::Moment;
use super::pass::Pass;
use super::report::{Gap, OnSlopes, Report, Written};
use super::retrial::breaks_another_rule;
use super::step::{FINE, InstanceIndex, Way};
use super::swings::Swings;
use super::take_rule::{Scene, Since};
use super::tally::Tally;
use super::weight::nothing_falls;
use super::{CheckInput, View};
use crate::book;
use crate::finding::{Finding, Place};
use crate::rule::Severity;
use crate::take::{GrainFinder, InstanceGrain, RecordedTick, Recording, Sample};
use crate::world::World;
use std::collections::BTreeMap;

/// Ticks at most that are read before the first is judged.
const HELD: usize = 128;

/// Reads a take's ticks in order.
#[derive(Debug)]
pub struct Checker<'a> {
    input: CheckInput<'a>,
    world: World<'a>,
    /// Of the instances met, in the order of their indices.
    labels: Vec<String>,
    by_label: BTreeMap<String, InstanceIndex>,
    pass: Pass<'a>,
    swings: Swings,
    tally: Option<Tally<'a>>,
    grain: GrainFinder,
    /// The same of each instance.
    grains: Vec<InstanceGrain>,
    /// The first ticks, until it is known in which steps places are written.
    held: Recording,
    is_settled: bool,
    ticks: u64,
    samples: u64,
    last_tick: u64,
}

impl<'a> Checker<'a> {
    /// A checker that has seen nothing yet.
    pub fn new(input: CheckInput<'a>) -> Checker<'a> {
        Checker {
            input,
            world: World::new(input.stage),
            labels: Vec::new(),
            by_label: BTreeMap::new(),
            pass: Pass::new(&input),
            swings: Swings::default(),
            tally: None,
            grain: GrainFinder::default(),
            grains: Vec::new(),
            held: Recording::default(),
            is_settled: false,
            ticks: 0,
            samples: 0,
            last_tick: 0,
        }
    }

    /// Has all rules asked about all ticks.
    #[cfg(test)]
    pub(crate) fn ask_always(&mut self) {
        self.pass.calm_after = f64::INFINITY;
    }

    /// The same, which also counts what meets what.
    #[must_use]
    pub fn with_pairs(self) -> Checker<'a> {
        Checker { tally: Some(Tally::new(self.input.stage)), ..self }
    }

    /// The same, which also tells of swings whether or not they struck.
    #[must_use]
    pub fn with_swings(mut self) -> Checker<'a> {
        self.swings.are_reported = true;
        self
    }

    /// The same, which also tells on which ticks instances were carried.
    #[must_use]
    pub fn with_footing(mut self) -> Checker<'a> {
        self.pass.footing.are_reported = true;
        self
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
        self.last_tick = tick;
        self.samples += samples.len() as u64;
        let input = self.input;
        if let Some(tally) = &mut self.tally {
            tally.tick(&input, tick, samples);
        }
        for (index, sample) in samples.iter().enumerate() {
            let way = self.way(tick, index, sample);
            let scene = Scene { input: &input, world: &self.world, labels: &self.labels, breaks_another_rule };
            self.pass.observe(&scene, way, &sample.via);
        }
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels, breaks_another_rule };
        self.pass.judge(&scene, samples);
        if samples.len() > 1 || self.swings.are_reported {
            self.pass.judge_swings(&input, samples, &mut self.swings);
        }
        self.pass.end_tick(input.pace(), tick);
    }

    /// The way of a sample's instance, which begins here where it was not met before.
    fn way(&mut self, tick: u64, index: usize, sample: &Sample) -> Way {
        // Instances keep their order from tick to tick as a rule.
        let instance = match self.labels.get(index) {
            Some(label) if *label == sample.label => InstanceIndex(index),
            _ => self.instance_of(&sample.label),
        };
        let &Track { before, last_move, earlier_move, settled, .. } = self.pass.track(instance);
        let now = Moment::new(&self.input, tick, sample);
        let grain = self.grains[instance.0].see(sample.at, &self.grain);
        Way { instance, actor: sample.actor, before, now, last_move, earlier_move, settled, grain }
    }

    fn instance_of(&mut self, label: &str) -> InstanceIndex {
        if let Some(instance) = self.by_label.get(label) {
            return *instance;
        }
        let instance = self.pass.add_instance(self.input.stage.zones.len());
        self.labels.push(label.to_string());
        self.grains.push(InstanceGrain::default());
        self.by_label.insert(label.to_string(), instance);
        instance
    }

    /// What is known for certain after a tick, and is then forgotten: zone events, and findings that the next tick cannot
    /// continue. `None` where there is nothing.
    pub fn drain(&mut self, tick: u64) -> Option<Report> {
        let input = self.input;
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels, breaks_another_rule };
        let findings = sorted(self.pass.rules.drain(&scene, tick));
        let events = std::mem::take(&mut self.pass.zones.events);
        let hits = std::mem::take(&mut self.swings.hits);
        let is_empty = findings.is_empty() && events.is_empty() && hits.is_empty();
        let (ticks, samples) = (self.ticks, self.samples);
        (!is_empty).then(|| Report { ticks, samples, findings, events, hits, ..Report::default() })
    }

    /// Errors that have gone on for some ticks on a tick and still do, as far as they have come. They are found again, whole,
    /// when they have ended.
    pub fn lasting(&self, tick: u64, ticks: u64) -> Vec<Finding> {
        let input = self.input;
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels, breaks_another_rule };
        sorted(self.pass.rules.lasting(&scene, Since { tick, ticks, least: Severity::Error }))
    }

    /// What was found.
    pub fn finish(mut self) -> Report {
        self.settle();
        let input = self.input;
        let stays = self
            .by_label
            .iter()
            .flat_map(|(label, instance)| self.pass.track(*instance).visits.stays(&self.world, label));
        let stays = stays.collect();
        let scene = Scene { input: &input, world: &self.world, labels: &self.labels, breaks_another_rule };
        self.pass.end(&scene, self.last_tick);
        let mut findings = sorted(self.pass.rules.finish(&scene));
        follow_from_nothing_met(&mut findings);
        let gaps = self.by_label.iter().filter_map(|(label, instance)| {
            let px = self.pass.track(*instance).gap.found(input.grain, input.pace())?;
            Some(Gap { actor: label.clone(), px })
        });
        let slopes = self.by_label.iter().filter_map(|(label, instance)| {
            let Stance { by, depth } = self.pass.rules.foot_points(*instance)?;
            Some(OnSlopes { actor: label.clone(), by, px: depth })
        });
        let footing = self.by_label.iter().filter_map(|(label, instance)| {
            let spans = self.pass.footing.of(*instance).to_vec();
            (!spans.is_empty()).then(|| Footing { actor: label.clone(), spans })
        });
        let footing = footing.collect();
        let weights = self.by_label.values().map(|instance| self.pass.track(*instance).weight);
        let is_wired_wrong = findings.iter().any(means_something_else);
        let nothing_falls = input.settings.view() == View::Side && !is_wired_wrong && nothing_falls(weights);
        let written = Written { step: input.grain, gaps: gaps.collect(), slopes: slopes.collect(), nothing_falls };
        Report {
            ticks: self.ticks,
            samples: self.samples,
            written,
            footing,
            stays,
            actors: self.by_label.into_keys().collect(),
            findings,
            events: self.pass.zones.events,
            swings: self.swings.finish(),
            hits: self.swings.hits,
            pairs: self.tally.map(|tally| tally.finish(&input)).unwrap_or_default(),
        }
    }
}

/// Whether a finding says that the take means something else.
fn means_something_else(finding: &Finding) -> bool {
    finding.rule.code() == "nothing_met"
}

/// What a take says that means something else is all of one cause.
fn follow_from_nothing_met(findings: &mut [Finding]) {
    let roots: Vec<_> =
        findings.iter().filter(|finding| means_something_else(finding)).filter_map(Finding::as_root).collect();
    for finding in findings.iter_mut().filter(|finding| !means_something_else(finding)) {
        let root = roots.iter().find(|root| root.subject == finding.subject);
        if let (Place::Take(at), Some(root)) = (&mut finding.place, root) {
            at.after = Some(root.clone());
        }
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
