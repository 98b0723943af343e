//! A check's result as JSON.

use finitor_core::check::{Event, Finding, Hit, PairTally, Report, Stay};
use finitor_core::stage::Stage;
use serde::Serialize;
use std::io::Write;

#[derive(Serialize)]
struct CheckOut<'a> {
    schema: &'static str,
    take: &'a str,
    stage: &'a str,
    ticks: u64,
    actors: &'a [String],
    findings: Vec<FindingOut<'a>>,
    events: Vec<EventOut<'a>>,
    zones: Vec<StayOut<'a>>,
    hits: Vec<HitOut<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    pairs: Option<Vec<PairOut<'a>>>,
}

#[derive(Serialize)]
struct PairOut<'a> {
    first: &'a str,
    second: &'a str,
    roles: [&'static str; 2],
    met: u64,
    overlapped: u64,
    acted: u64,
    first_tick: Option<u64>,
    acts: bool,
}

#[derive(Serialize)]
struct FindingOut<'a> {
    rule: &'static str,
    severity: &'static str,
    actor: &'a str,
    shape: &'a str,
    with: &'a str,
    ticks: [u64; 2],
    worst: WorstOut,
    cause: &'static str,
    message: &'a str,
    remedy: &'a str,
    /// The figure that is left once the remedy is applied.
    remains: Option<f64>,
}

#[derive(Serialize)]
struct WorstOut {
    tick: u64,
    depth: f64,
    at: [f64; 2],
    push: [f64; 2],
}

#[derive(Serialize)]
struct EventOut<'a> {
    tick: u64,
    zone: &'a str,
    actor: &'a str,
    kind: &'static str,
}

#[derive(Serialize)]
struct StayOut<'a> {
    zone: &'a str,
    effect: &'static str,
    actor: &'a str,
    entered: u64,
    ticks: u64,
    first_tick: u64,
    last_tick: u64,
}

fn stay(of: &Stay) -> StayOut<'_> {
    let Stay { entered, ticks, first_tick, last_tick, .. } = *of;
    StayOut { zone: &of.zone, effect: of.effect.name(), actor: &of.actor, entered, ticks, first_tick, last_tick }
}

/// A stay as a JSON value.
pub(crate) fn stay_value(of: &Stay) -> serde_json::Result<serde_json::Value> {
    serde_json::to_value(stay(of))
}

/// Writes the result of one take as an object, of several as a list of objects.
pub(crate) fn write(
    stage: &Stage,
    reports: &[(String, Report)],
    pairs: bool,
    out: &mut dyn Write,
) -> std::io::Result<()> {
    let results: Vec<CheckOut<'_>> = reports
        .iter()
        .map(|(take, report)| CheckOut {
            schema: "finitor.check/1",
            take,
            stage: &stage.name,
            ticks: report.ticks,
            actors: &report.actors,
            findings: report.findings.iter().map(finding).collect(),
            events: report.events.iter().map(event).collect(),
            zones: report.stays.iter().map(stay).collect(),
            hits: report.hits.iter().map(hit).collect(),
            pairs: pairs.then(|| report.pairs.iter().map(pair).collect()),
        })
        .collect();
    let text = match results.as_slice() {
        [one] => serde_json::to_string_pretty(one)?,
        several => serde_json::to_string_pretty(several)?,
    };
    writeln!(out, "{text}")
}

#[derive(Serialize)]
struct HitOut<'a> {
    tick: u64,
    by: &'a str,
    shape: &'a str,
    on: &'a str,
    hurt: &'a str,
    part: Option<&'a str>,
    group: Option<&'a str>,
    factor: f64,
    damage: Option<f64>,
    at: [f64; 2],
    area: f64,
}

fn hit(hit: &Hit) -> HitOut<'_> {
    HitOut {
        tick: hit.tick,
        by: &hit.by,
        shape: &hit.shape,
        on: &hit.on,
        hurt: &hit.hurt,
        part: hit.part.as_deref(),
        group: hit.group.as_deref(),
        factor: hit.factor,
        damage: hit.damage,
        at: [hit.at.x, hit.at.y],
        area: hit.area,
    }
}

/// A hit as a JSON value.
pub(crate) fn hit_value(of: &Hit) -> serde_json::Result<serde_json::Value> {
    serde_json::to_value(hit(of))
}

/// A finding as a JSON value.
pub(crate) fn finding_value(of: &Finding) -> serde_json::Result<serde_json::Value> {
    serde_json::to_value(finding(of))
}

/// An event as a JSON value.
pub(crate) fn event_value(of: &Event) -> serde_json::Result<serde_json::Value> {
    serde_json::to_value(event(of))
}

fn finding(finding: &Finding) -> FindingOut<'_> {
    let Finding { worst, ticks, .. } = finding;
    FindingOut {
        rule: finding.rule.name(),
        severity: finding.severity.name(),
        actor: &finding.actor,
        shape: &finding.shape,
        with: &finding.with,
        ticks: [ticks.0, ticks.1],
        worst: WorstOut {
            tick: worst.tick,
            depth: worst.depth,
            at: [worst.at.x, worst.at.y],
            // 0 + -0 is 0: no minus before a zero.
            push: [worst.push.x + 0.0, worst.push.y + 0.0],
        },
        cause: finding.cause.name(),
        message: &finding.message,
        remedy: &finding.remedy,
        remains: finding.remains,
    }
}

fn event(event: &Event) -> EventOut<'_> {
    EventOut { tick: event.tick, zone: &event.zone, actor: &event.actor, kind: event.kind.name() }
}

fn pair(pair: &PairTally) -> PairOut<'_> {
    PairOut {
        first: &pair.first,
        second: &pair.second,
        roles: [pair.roles.0.name(), pair.roles.1.name()],
        met: pair.met,
        overlapped: pair.overlapped,
        acted: pair.acted,
        first_tick: pair.first_tick,
        acts: pair.acts,
    }
}
