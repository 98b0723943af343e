//! What a rule for the files is: the same as one for takes, without ticks.

use super::facts::{ActorFacts, AnimationArt, CastFacts, LayerFacts, LayerSpot, StageFacts};
use crate::change::Change;
use crate::check::Settings;
use crate::finding::{Finding, Place};
use crate::rule::{Rule, Severity, Spec, Threshold};

/// A rule that files can break before any take.
pub(crate) trait StillRule {
    /// Its code, severity, unit and text.
    const SPEC: Spec;

    /// An actor file and its fits.
    fn actor(_: &ActorFacts<'_>, _: &mut Out<'_>) {}

    /// An animation with its pictures.
    fn animation(_: &AnimationArt<'_>, _: &mut Out<'_>) {}

    /// The layers of a project.
    fn layers(_: &LayerFacts<'_>, _: &mut Out<'_>) {}

    /// All actors together.
    fn cast(_: &CastFacts<'_>, _: &mut Out<'_>) {}

    /// A stage.
    fn stage(_: &StageFacts<'_>, _: &mut Out<'_>) {}
}

/// What a rule says of one place.
#[derive(Clone, Debug)]
pub(crate) struct Fault {
    /// The actor, the stage, or `layers`.
    pub(crate) subject: String,
    pub(crate) place: Place,
    pub(crate) figure: f64,
    pub(crate) message: String,
    pub(crate) fix: String,
}

/// A finding, and where the line to change is, for those about layers.
#[derive(Clone, Debug, PartialEq)]
pub struct StillFinding {
    /// The finding.
    pub finding: Finding,
    /// What it speaks of.
    pub spot: Option<LayerSpot>,
}

/// What leads from a finding into the files.
#[derive(Debug, Default)]
struct Link {
    change: Option<Change>,
    spot: Option<LayerSpot>,
}

/// Where a rule reports to.
#[derive(Debug)]
pub(crate) struct Out<'o> {
    rule: Rule,
    severity: Severity,
    settings: &'o Settings,
    found: &'o mut Vec<StillFinding>,
}

impl<'o> Out<'o> {
    /// For one rule; `None` where the project has switched it off.
    pub(crate) fn of(spec: &'static Spec, settings: &'o Settings, found: &'o mut Vec<StillFinding>) -> Option<Out<'o>> {
        let rule = Rule::of(spec);
        let severity = settings.severity(rule);
        (severity > Severity::Off).then_some(Out { rule, severity, settings, found })
    }

    /// What the project says of a threshold of this rule.
    pub(crate) fn threshold(&self, threshold: &Threshold) -> f64 {
        self.settings.get(threshold)
    }

    /// Reports a finding.
    pub(crate) fn report(&mut self, fault: Fault) {
        self.add(self.severity, fault, Link::default());
    }

    /// Reports one that a value in a file fixes, where it is one.
    pub(crate) fn report_with(&mut self, change: Option<Change>, fault: Fault) {
        self.add(self.severity, fault, Link { change, spot: None });
    }

    /// Reports one that is a note at most.
    pub(crate) fn note(&mut self, fault: Fault) {
        self.add(self.severity.min(Severity::Note), fault, Link::default());
    }

    /// Reports one about layers, whose line can be named.
    pub(crate) fn report_at(&mut self, spot: LayerSpot, fault: Fault) {
        self.report_at_with(spot, None, fault);
    }

    /// Reports one about layers that is a note at most.
    pub(crate) fn note_at(&mut self, spot: LayerSpot, fault: Fault) {
        self.add(self.severity.min(Severity::Note), fault, Link { change: None, spot: Some(spot) });
    }

    /// Reports one about layers that a value in a file fixes.
    pub(crate) fn report_at_with(&mut self, spot: LayerSpot, change: Option<Change>, fault: Fault) {
        self.add(self.severity, fault, Link { change, spot: Some(spot) });
    }

    fn add(&mut self, severity: Severity, fault: Fault, Link { change, spot }: Link) {
        let Fault { subject, place, figure, message, fix } = fault;
        let figure = (figure * 100.0).round() / 100.0;
        let finding =
            Finding { rule: self.rule, severity, subject, place, figure, message, fix, remains: None, change };
        self.found.push(StillFinding { finding, spot });
    }
}
