//! Which findings are asked for.

use crate::cli::CheckArgs;
use crate::exit::Failure;
use finitor_core::actor::Actor;
use finitor_core::check::{Report, Rule};

/// What `--rule`, `--actor` and `--ticks` leave.
pub(super) struct Wanted<'a> {
    rules: Vec<Rule>,
    actors: &'a [String],
    ticks: Option<(u64, u64)>,
}

impl<'a> Wanted<'a> {
    /// Reads the options.
    pub(super) fn new(args: &'a CheckArgs, actors: &[Actor]) -> Result<Wanted<'a>, Failure> {
        let rule = |code: &String| {
            let found = Rule::parse(code).filter(|rule| !rule.is_static());
            found.ok_or_else(|| {
                let all = Rule::ALL.iter().filter(|rule| !rule.is_static());
                let known: Vec<&str> = all.map(|rule| rule.name()).collect();
                Failure::Usage(format!("--rule: takes break no rule \"{code}\"; they are {}", known.join(", ")))
            })
        };
        let known = |name: &str| actors.iter().any(|actor| actor.name == name.split(':').next().unwrap_or(name));
        if let Some(unknown) = args.actor.iter().find(|name| !known(name)) {
            let names: Vec<&str> = actors.iter().map(|actor| actor.name.as_str()).collect();
            return Err(Failure::Usage(format!(
                "--actor: there is no \"{unknown}\"; the project has {}",
                names.join(", ")
            )));
        }
        let rules = args.rule.iter().map(rule).collect::<Result<Vec<Rule>, Failure>>()?;
        Ok(Wanted { rules, actors: &args.actor, ticks: args.ticks })
    }

    /// Whether an instance is one of those asked for, by its label or the name of its actor.
    pub(super) fn names(&self, label: &str) -> bool {
        let name = label.split([':', '.']).next().unwrap_or(label);
        self.actors.is_empty() || self.actors.iter().any(|wanted| wanted == label || wanted == name)
    }

    fn spans(&self, first: u64, last: u64) -> bool {
        self.ticks.is_none_or(|(from, to)| first <= to && from <= last)
    }

    /// Leaves out what is not asked for. A finding between two bodies is of both.
    pub(super) fn retain(&self, report: &mut Report) {
        report.findings.retain(|finding| {
            (self.rules.is_empty() || self.rules.contains(&finding.rule))
                && (self.names(&finding.actor) || (finding.with.contains('.') && self.names(&finding.with)))
                && self.spans(finding.ticks.0, finding.ticks.1)
        });
        report.hits.retain(|hit| (self.names(&hit.by) || self.names(&hit.on)) && self.spans(hit.tick, hit.tick));
        report.stays.retain(|stay| self.names(&stay.actor) && self.spans(stay.first_tick, stay.last_tick));
        report.events.retain(|event| self.names(&event.actor) && self.spans(event.tick, event.tick));
    }
}
