//! Which findings are asked for.

use crate::checked_take::CheckedTake;
use crate::failure::{Failure, unknown};
use finitor_core::actor::Actor;
use finitor_core::book;
use finitor_core::check::Report;
use finitor_core::finding::{Finding, Span};
use finitor_core::rule::Rule;
use finitor_core::take::actor_of;

/// What to report: everything by default.
#[derive(Clone, Debug, Default)]
pub struct Filter {
    rules: Vec<Rule>,
    actors: Vec<String>,
    ticks: Option<Span>,
}

impl Filter {
    /// Reads rule codes, actors (or instances such as `gull:1`), and a span of ticks; what is empty leaves all.
    ///
    /// # Errors
    /// A code that no take breaks, or an actor that the project does not have, with the nearest that is known.
    pub fn new(rules: &[String], actors: &[String], ticks: Option<Span>, known: &[Actor]) -> Result<Filter, Failure> {
        let codes: Vec<&str> = book::take_rules().map(Rule::code).collect();
        let rule = |code: &String| {
            let found = book::take_rules().find(|rule| rule.code() == code);
            found.ok_or_else(|| unknown("take rule", code, &codes))
        };
        let names: Vec<&str> = known.iter().map(|actor| actor.name.as_str()).collect();
        let is_known = |name: &str| names.contains(&actor_of(name));
        if let Some(name) = actors.iter().find(|name| !is_known(name)) {
            return Err(unknown("actor", name, &names));
        }
        let rules = rules.iter().map(rule).collect::<Result<Vec<Rule>, Failure>>()?;
        Ok(Filter { rules, actors: actors.to_vec(), ticks })
    }

    /// Refuses actors and ticks that no take holds: a report on nothing is no clean bill.
    ///
    /// # Errors
    /// The actor or the ticks, with what the takes hold.
    pub fn expect_matches(&self, takes: &[CheckedTake]) -> Result<(), Failure> {
        let labels: Vec<&str> = takes.iter().flat_map(|take| take.report.actors.iter().map(String::as_str)).collect();
        let is_there = |wanted: &str| labels.iter().any(|label| is_named(wanted, label));
        if let Some(name) = self.actors.iter().find(|name| !is_there(name)) {
            return Err(unknown("actor in these takes", name, &labels));
        }
        let Some(span) = self.ticks else { return Ok(()) };
        if takes.iter().any(|take| take.span.is_some_and(|own| own.meets(span))) {
            return Ok(());
        }
        let spans = takes.iter().filter_map(|take| Some((take, take.span?)));
        let spans: Vec<String> =
            spans.map(|(take, span)| format!("{} has {} to {}", take.name, span.first, span.last)).collect();
        Err(Failure::Usage(format!("no take has ticks {} to {}; {}", span.first, span.last, spans.join(", "))))
    }

    /// Whether an instance is one of those asked for, by its label or the name of its actor.
    pub fn names(&self, label: &str) -> bool {
        let instance = label.split('.').next().unwrap_or(label);
        self.actors.is_empty() || self.actors.iter().any(|wanted| is_named(wanted, instance))
    }

    fn spans(&self, span: Span) -> bool {
        self.ticks.is_none_or(|wanted| wanted.meets(span))
    }

    fn wants(&self, finding: &Finding) -> bool {
        let Some(place) = finding.in_take() else { return false };
        (self.rules.is_empty() || self.rules.contains(&finding.rule))
            // A finding between two bodies is of both.
            && (self.names(&finding.subject) || (place.with.contains('.') && self.names(&place.with)))
            && self.spans(place.ticks)
    }

    /// Leaves out what is not asked for.
    pub fn retain(&self, report: &mut Report) {
        report.findings.retain(|finding| self.wants(finding));
        report.hits.retain(|hit| (self.names(&hit.by) || self.names(&hit.on)) && self.spans(Span::at(hit.tick)));
        report.stays.retain(|stay| {
            self.names(&stay.actor) && self.spans(Span { first: stay.first_tick, last: stay.last_tick })
        });
        report.events.retain(|event| self.names(&event.actor) && self.spans(Span::at(event.tick)));
    }
}

/// Whether an instance's label is the one wanted, or of the actor wanted.
fn is_named(wanted: &str, label: &str) -> bool {
    wanted == label || actor_of(label) == wanted
}
