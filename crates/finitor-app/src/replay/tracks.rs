//! Takes as columns: where each instance was, and how it looked, tick by tick.

use super::columns::{Bytes, Differences, Rising, Runs};
use super::poses::PoseTable;
use crate::checked_take::CheckedTake;
use crate::results::TakeResult;
use finitor_core::check::SwingSeen;
use finitor_core::take::{Sample, actor_of};
use serde::Serialize;

/// How exactly places are shown where a take writes them as exactly as it can, in steps a px.
const FINEST: f64 = 1000.0;

/// A take on the page.
#[derive(Debug, Serialize)]
pub(super) struct TakeData {
    /// The tick numbers that it has.
    ticks: Bytes,
    /// Steps a px in which places are written.
    steps_per_px: f64,
    tracks: Vec<TrackData>,
    swings: Vec<SwingData>,
    /// As `check --format json` has it.
    check: TakeResult,
}

/// An instance.
#[derive(Debug, Serialize)]
struct TrackData {
    label: String,
    /// By index.
    actor: usize,
    /// The ticks of the take on which it is there, by index.
    present: Bytes,
    x: Bytes,
    y: Bytes,
    /// Poses of its actor, by index.
    pose: Bytes,
    /// State sets, by index.
    states: Bytes,
    /// First and last ticks on which it is grounded: as the take says, else as something carries it.
    grounded: Vec<[u64; 2]>,
    /// Whether the take says so.
    grounded_is_said: bool,
}

/// A swing.
#[derive(Debug, Serialize)]
struct SwingData {
    by: String,
    animation: String,
    whole: [u64; 2],
    active: [u64; 2],
    struck: Vec<String>,
}

/// What is known of an instance while its take is read.
#[derive(Debug)]
struct Track {
    label: String,
    actor: usize,
    present: Rising,
    places: Vec<[f64; 2]>,
    pose: Runs,
    states: Runs,
    said: Vec<[u64; 2]>,
    is_said: bool,
}

/// What the takes of a page share.
#[derive(Debug)]
pub(super) struct Tables<'a> {
    pub(super) poses: PoseTable<'a>,
    pub(super) sets: StateSets,
}

/// Makes the columns of a take.
#[derive(Debug, Default)]
pub(super) struct TakeTracks {
    ticks: Rising,
    count: u64,
    tracks: Vec<Track>,
}

/// Sets of state words, each once.
#[derive(Debug)]
pub(super) struct StateSets(pub(super) Vec<Vec<String>>);

impl Default for StateSets {
    fn default() -> StateSets {
        StateSets(vec![Vec::new()])
    }
}

impl StateSets {
    fn index(&mut self, words: &[String]) -> usize {
        self.0.iter().position(|known| known == words).unwrap_or_else(|| {
            self.0.push(words.to_vec());
            self.0.len() - 1
        })
    }
}

impl TakeTracks {
    /// Takes in a tick.
    pub(super) fn see(&mut self, tick: u64, samples: &[Sample], tables: &mut Tables<'_>) {
        self.ticks.push(tick);
        for (index, sample) in samples.iter().enumerate() {
            // Instances keep their order from tick to tick as a rule.
            let place = match self.tracks.get(index) {
                Some(track) if track.label == sample.label => index,
                _ => self.place_of(sample),
            };
            let track = &mut self.tracks[place];
            track.present.push(self.count);
            track.places.push([sample.at.x, sample.at.y]);
            track.pose.push(tables.poses.index(sample) as u64);
            track.states.push(tables.sets.index(&sample.states) as u64);
            track.is_said |= sample.grounded.is_some();
            if sample.grounded == Some(true) {
                match track.said.last_mut() {
                    Some([_, last]) if *last + 1 == tick => *last = tick,
                    _ => track.said.push([tick, tick]),
                }
            }
        }
        self.count += 1;
    }

    fn place_of(&mut self, sample: &Sample) -> usize {
        self.tracks.iter().position(|track| track.label == sample.label).unwrap_or_else(|| {
            self.tracks.push(Track {
                label: sample.label.clone(),
                actor: sample.actor.0,
                present: Rising::default(),
                places: Vec::new(),
                pose: Runs::default(),
                states: Runs::default(),
                said: Vec::new(),
                is_said: false,
            });
            self.tracks.len() - 1
        })
    }

    /// The take with what its check found.
    pub(super) fn finish(self, checked: &CheckedTake) -> TakeData {
        let report = &checked.report;
        let steps_per_px = if report.written.step > 0.0 { 1.0 / report.written.step } else { FINEST };
        let tracks = self.tracks.into_iter().map(|track| {
            let column = |axis: usize| {
                let mut column = Differences::default();
                track.places.iter().for_each(|at| column.push((at[axis] * steps_per_px).round() as i64));
                column.finish()
            };
            let carried = report.footing.iter().find(|of| of.actor == track.label);
            let carried = carried.map_or(&[][..], |of| &of.spans).iter().map(|span| [span.first, span.last]);
            TrackData {
                x: column(0),
                y: column(1),
                grounded: if track.is_said { track.said } else { carried.collect() },
                grounded_is_said: track.is_said,
                label: track.label,
                actor: track.actor,
                present: track.present.finish(),
                pose: track.pose.finish(),
                states: track.states.finish(),
            }
        });
        let mut tracks: Vec<TrackData> = tracks.collect();
        tracks.sort_by(|a, b| actor_of(&a.label).cmp(actor_of(&b.label)).then(a.label.cmp(&b.label)));
        let swing = |swing: &SwingSeen| SwingData {
            by: swing.by.clone(),
            animation: swing.animation.clone(),
            whole: [swing.whole.first, swing.whole.last],
            active: [swing.active.first, swing.active.last],
            struck: swing.struck.clone(),
        };
        TakeData {
            ticks: self.ticks.finish(),
            steps_per_px,
            tracks,
            swings: report.swings.iter().map(swing).collect(),
            check: TakeResult::from(checked),
        }
    }
}
