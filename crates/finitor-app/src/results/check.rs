//! What a check found, as it is written.

use super::finding::{FindingResult, WarningResult};
use crate::checked_take::CheckedTake;
use finitor_core::check::{Event, FootPoints, Gap, Hit, OnSlopes, PairTally, Stay, Written};
use schemars::JsonSchema;
use serde::{Deserialize, Serialize};

/// The schema of [`CheckResult`].
pub const CHECK_SCHEMA: &str = "finitor.check/2";
/// The schema of [`StreamLine`].
pub const STREAM_SCHEMA: &str = "finitor.stream/1";

/// The results of a run, of one take or of several.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct CheckResult {
    /// [`CHECK_SCHEMA`].
    pub schema: String,
    /// The stage that the takes were recorded on.
    pub stage: String,
    /// What should be known besides, such as stale fits.
    pub warnings: Vec<WarningResult>,
    /// The takes, in the order in which they were given.
    pub takes: Vec<TakeResult>,
}

/// What one take holds.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct TakeResult {
    /// Its file.
    pub take: String,
    /// Number of ticks that have a sample.
    pub ticks: u64,
    /// The instances met.
    pub actors: Vec<String>,
    /// How it is written.
    pub written: WrittenResult,
    /// Findings by first tick.
    pub findings: Vec<FindingResult>,
    /// Zone events in their order.
    pub events: Vec<EventResult>,
    /// What each instance had to do with each zone.
    pub zones: Vec<ZoneResult>,
    /// First contacts of hits in their order.
    pub hits: Vec<HitResult>,
    /// What met what, where that was asked for.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub pairs: Option<Vec<PairResult>>,
}

/// How a take is written, as found in it.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct WrittenResult {
    /// The step in which places are written, px; 0 where they are as exact as they can be.
    pub step_px: f64,
    /// The gaps that bodies keep from the ground that they rest on.
    pub gaps: Vec<GapResult>,
    /// The figures that stand on slopes by points of their feet, where the body lies in the slope for that.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub slopes: Vec<SlopeResult>,
    /// Whether nothing falls in the take, as in a game that is seen from above, and the project does not say that it is one.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub nothing_falls: bool,
}

/// The gap that a body keeps from the ground.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct GapResult {
    /// The instance.
    pub actor: String,
    /// From its bottom to the ground, px; below 0 where it rests in the ground.
    pub gap_px: f64,
}

/// A figure that stands on slopes by points of its feet.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct SlopeResult {
    /// The instance.
    pub actor: String,
    /// `middle`: the middle of the body's bottom; `pivot`: what of it is under the pivot; `ends`: a point near each of its ends.
    pub points: String,
    /// How far they are from the ends, px.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub inset_px: Option<f64>,
    /// The deepest that the body lay in a slope for that, px.
    pub depth_px: f64,
}

/// A body entering or leaving a zone.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct EventResult {
    /// The tick.
    pub tick: u64,
    /// The zone.
    pub zone: String,
    /// The instance.
    pub actor: String,
    /// `enter` or `exit`.
    pub kind: String,
}

/// All that an instance had to do with a zone.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct ZoneResult {
    /// The zone.
    pub zone: String,
    /// `hazard`, `goal`, `event` or `warp`.
    pub effect: String,
    /// The instance.
    pub actor: String,
    /// How often it entered with an effect.
    pub entered: u64,
    /// On how many ticks it was inside.
    pub ticks: u64,
    /// The first of them.
    pub first_tick: u64,
    /// The last of them.
    pub last_tick: u64,
}

/// A hit's first contact with a target.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct HitResult {
    /// The tick.
    pub tick: u64,
    /// The instance that strikes.
    pub by: String,
    /// Its hit shape.
    pub shape: String,
    /// The instance that is struck.
    pub on: String,
    /// Its hurt shape.
    pub hurt: String,
    /// That shape's part.
    pub part: Option<String>,
    /// The part's group.
    pub group: Option<String>,
    /// What damage is multiplied by.
    pub factor: f64,
    /// Whether the part is vital: the hit is the end, whatever its damage.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub is_vital: bool,
    /// The damage dealt.
    pub damage: Option<f64>,
    /// The middle of what overlaps, world px.
    pub at: [f64; 2],
    /// How much overlaps.
    pub area_px2: f64,
}

/// How often two things met.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct PairResult {
    /// `actor.shape`.
    pub first: String,
    /// `actor.shape` or `stage/thing`.
    pub second: String,
    /// What they are.
    pub roles: [String; 2],
    /// Ticks on which they touched.
    pub met_ticks: u64,
    /// Those on which they overlapped.
    pub overlapped_ticks: u64,
    /// Those on which that had an effect.
    pub effect_ticks: u64,
    /// The first tick on which they met.
    pub first_tick: Option<u64>,
    /// Whether meeting has an effect by the masks in the files.
    pub has_effect: bool,
}

/// A line of a stream.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct StreamLine {
    /// [`STREAM_SCHEMA`].
    pub schema: String,
    /// The take.
    pub take: String,
    /// What happened.
    #[serde(flatten)]
    pub item: StreamItem,
}

/// What a line of a stream holds.
#[derive(Clone, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
#[serde(rename_all = "snake_case")]
pub enum StreamItem {
    /// A zone event.
    Event(EventResult),
    /// A hit.
    Hit(HitResult),
    /// A finding that is over.
    Finding(Box<FindingResult>),
    /// An error that goes on, as far as it has come; of a take that is followed.
    Lasting(Box<FindingResult>),
    /// A zone visited, at the take's end.
    Zone(ZoneResult),
    /// The take is over.
    End(StreamEnd),
}

/// The end of a take in a stream.
#[derive(Clone, Copy, Debug, Deserialize, PartialEq, Serialize, JsonSchema)]
pub struct StreamEnd {
    /// Number of ticks.
    pub ticks: u64,
    /// Number of samples.
    pub samples: u64,
}

impl StreamLine {
    /// A line of a take.
    pub fn new(take: &str, item: StreamItem) -> StreamLine {
        StreamLine { schema: STREAM_SCHEMA.to_string(), take: take.to_string(), item }
    }
}

impl CheckResult {
    /// The results of a run.
    pub fn new(stage: &str, warnings: Vec<WarningResult>, takes: &[CheckedTake]) -> CheckResult {
        CheckResult {
            schema: CHECK_SCHEMA.to_string(),
            stage: stage.to_string(),
            warnings,
            takes: takes.iter().map(TakeResult::from).collect(),
        }
    }
}

impl From<&CheckedTake> for TakeResult {
    fn from(take: &CheckedTake) -> TakeResult {
        let report = &take.report;
        TakeResult {
            take: take.name.clone(),
            ticks: report.ticks,
            actors: report.actors.clone(),
            written: WrittenResult::from(&report.written),
            findings: report.findings.iter().map(FindingResult::from).collect(),
            events: report.events.iter().map(EventResult::from).collect(),
            zones: report.stays.iter().map(ZoneResult::from).collect(),
            hits: report.hits.iter().map(HitResult::from).collect(),
            pairs: take.has_pairs.then(|| report.pairs.iter().map(PairResult::from).collect()),
        }
    }
}

impl From<&Written> for WrittenResult {
    fn from(written: &Written) -> WrittenResult {
        let thousandths = |px: f64| (px * 1000.0).round() / 1000.0;
        let gap = |gap: &Gap| GapResult { actor: gap.actor.clone(), gap_px: thousandths(gap.px) };
        let slope = |slope: &OnSlopes| {
            let (points, inset_px) = match slope.by {
                FootPoints::Middle => ("middle", None),
                FootPoints::Pivot => ("pivot", None),
                FootPoints::Ends(inset) => ("ends", Some(inset)),
            };
            let (actor, points) = (slope.actor.clone(), points.to_string());
            SlopeResult { actor, points, inset_px, depth_px: thousandths(slope.px) }
        };
        WrittenResult {
            step_px: written.step,
            gaps: written.gaps.iter().map(gap).collect(),
            slopes: written.slopes.iter().map(slope).collect(),
            nothing_falls: written.nothing_falls,
        }
    }
}

impl From<&Event> for EventResult {
    fn from(event: &Event) -> EventResult {
        let Event { tick, zone, actor, kind } = event.clone();
        EventResult { tick, zone, actor, kind: kind.name().to_string() }
    }
}

impl From<&Stay> for ZoneResult {
    fn from(stay: &Stay) -> ZoneResult {
        let Stay { zone, effect, actor, entered, ticks, first_tick, last_tick } = stay.clone();
        ZoneResult { zone, effect: effect.name().to_string(), actor, entered, ticks, first_tick, last_tick }
    }
}

impl From<&Hit> for HitResult {
    fn from(hit: &Hit) -> HitResult {
        let Hit { tick, by, shape, on, hurt, part, group, factor, is_vital, damage, at, area, .. } = hit.clone();
        HitResult { tick, by, shape, on, hurt, part, group, factor, is_vital, damage, at: [at.x, at.y], area_px2: area }
    }
}

impl From<&PairTally> for PairResult {
    fn from(pair: &PairTally) -> PairResult {
        PairResult {
            first: pair.first.clone(),
            second: pair.second.clone(),
            roles: [pair.roles.0.name().to_string(), pair.roles.1.name().to_string()],
            met_ticks: pair.met,
            overlapped_ticks: pair.overlapped,
            effect_ticks: pair.acted,
            first_tick: pair.first_tick,
            has_effect: pair.acts,
        }
    }
}
