//! A take along its ticks.

use super::Drawing;
use super::take::{TakePicture, picture_name};
use finitor_core::check::{Event, EventKind};
use finitor_core::finding::{Finding, Span};
use finitor_core::rule::Severity;
use finitor_core::take::RecordedTick;
use finitor_draw::{LaneLook, TimeLane, TimeMark, TimelineSheet, timeline_sheet};
use std::collections::BTreeMap;
use std::path::Path;

impl TakePicture<'_> {
    /// Findings by severity, and what everyone did, over the ticks of the take.
    pub fn timeline(&self, folder: &Path) -> Drawing {
        let report = &self.take.report;
        let span = self.take.span.unwrap_or(Span::at(0));
        let mut lanes: Vec<TimeLane> =
            [(Severity::Error, "errors"), (Severity::Warn, "warnings"), (Severity::Note, "notes")]
                .into_iter()
                .map(|(severity, name)| self.findings(severity, name))
                .collect();
        for label in &report.actors {
            lanes.push(self.animations(label));
            let footing = report.footing.iter().filter(|footing| footing.actor == *label).flat_map(|of| &of.spans);
            let marks: Vec<TimeMark> = footing.map(|span| TimeMark { ticks: *span, words: String::new() }).collect();
            if !marks.is_empty() {
                lanes.push(TimeLane { name: format!("{label} on ground"), marks, look: LaneLook::Plain });
            }
        }
        let swings = report
            .swings
            .iter()
            .map(|swing| TimeMark { ticks: swing.active, words: format!("{} {}", swing.by, swing.animation) });
        lanes.push(TimeLane { name: "active hits".into(), marks: swings.collect(), look: LaneLook::Plain });
        lanes.push(TimeLane { name: "zones".into(), marks: zones(&report.events, span), look: LaneLook::Plain });
        lanes.retain(|lane| !lane.marks.is_empty());
        let name = picture_name(self.take);
        let (first, last) = (self.tick_words(span.first), self.tick_words(span.last));
        let scene = timeline_sheet(&TimelineSheet {
            title: format!("{name} on {}", self.stage.name),
            words: format!("{first} to {last}"),
            span,
            lanes,
        });
        Drawing { stem: folder.join(format!("{}-{name}-timeline", self.stage.name)), scene }
    }

    fn findings(&self, severity: Severity, name: &str) -> TimeLane {
        let roots = self.take.report.roots();
        let own = roots.iter().map(|root| root.finding).filter(|finding| finding.severity == severity);
        let mark = |finding: &Finding| {
            Some(TimeMark { ticks: finding.in_take()?.ticks, words: finding.rule.code().to_string() })
        };
        TimeLane { name: name.to_string(), marks: own.filter_map(mark).collect(), look: LaneLook::Fault }
    }

    /// What an instance showed, each animation as long as it lasted.
    fn animations(&self, label: &str) -> TimeLane {
        let mut marks: Vec<TimeMark> = Vec::new();
        for RecordedTick { tick, samples } in self.recording.ticks() {
            let Some(sample) = samples.iter().find(|sample| sample.label == label) else { continue };
            let name = &self.actors[sample.actor.0].animations[sample.animation].name;
            match marks.last_mut() {
                Some(mark) if mark.words == *name && mark.ticks.last + 1 == tick => mark.ticks.last = tick,
                _ => marks.push(TimeMark { ticks: Span::at(tick), words: name.clone() }),
            }
        }
        TimeLane { name: label.to_string(), marks, look: LaneLook::Plain }
    }
}

/// From enter to exit, or to the end of the take.
fn zones(events: &[Event], span: Span) -> Vec<TimeMark> {
    let mut open: BTreeMap<(&str, &str), u64> = BTreeMap::new();
    let mut marks = Vec::new();
    let mark = |(zone, actor): (&str, &str), ticks| TimeMark { ticks, words: format!("{actor} in {zone}") };
    for event in events {
        let key = (event.zone.as_str(), event.actor.as_str());
        match event.kind {
            EventKind::Enter => drop(open.insert(key, event.tick)),
            EventKind::Exit => {
                if let Some(first) = open.remove(&key) {
                    marks.push(mark(key, Span { first, last: event.tick.saturating_sub(1).max(first) }));
                }
            }
        }
    }
    marks.extend(open.into_iter().map(|(key, first)| mark(key, Span { first, last: span.last })));
    marks.sort_by_key(|mark| mark.ticks);
    marks
}
