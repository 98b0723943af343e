//! What a rule for takes is, and how one runs.

use super::aftermath::{Aftermath, Begun};
use super::ledger::{Case, Key, Ledger, RootCase, Sighting, Told, With};
use super::look::{Look, Pair};
use super::moment::Moment;
use super::settings::MERGE_GAP;
use super::step::{InstanceIndex, Step, Way};
use super::swings::SwingEvent;
use super::words::number;
use super::{CheckInput, Settings};
use crate::change::Change;
use crate::finding::{Cause, EndAt, Finding, InTake, Place, Root, Worst};
use crate::geometry::{Point, Vec2};
use crate::rule::{Rule, Severity, Spec};
use crate::take::YAxis;
use crate::world::World;

/// A rule that a take can break. It sees what was observed on a tick and keeps what it needs from tick to tick; words are
/// made once, when a case is over.
pub(crate) trait TakeRule {
    /// Its code, severity, unit, thresholds and text.
    const SPEC: Spec;
    /// By how many ticks it may be late to report; in games of more than 60 ticks a second by as many more.
    const LATE: u64 = 0;
    /// The rules whose faults may lead to one of this rule, likeliest first.
    const AFTER: &'static [&'static str] = &[];
    /// Whether that may have been long ago, as long as the instance has stood nowhere since.
    const IS_LASTING: bool = false;
    /// What its words need, besides what every [`super::ledger::Sighting`] has.
    type Seen: Clone + std::fmt::Debug;

    /// The rule before a take, with the project's figures.
    fn new(settings: &Settings) -> Self;

    /// An instance on a tick, with or without a body.
    fn pose<'a>(&mut self, _input: &CheckInput<'a>, _way: &Way, _out: &mut Ledger<'a, Self::Seen>) {}

    /// An instance with a body on a tick.
    fn step<'a>(&mut self, _look: &Look<'_, 'a>, _out: &mut Ledger<'a, Self::Seen>) {}

    /// An instance with a body on a tick to which nothing has happened for long: it stays where it was, or nothing is near. Rules that
    /// count such ticks say so.
    fn calm<'a>(&mut self, _look: &Look<'_, 'a>, _out: &mut Ledger<'a, Self::Seen>) {}

    /// An instance whose frame has no body on a tick.
    fn without_body(&mut self, _instance: InstanceIndex) {}

    /// Two bodies whose boxes meet within a step.
    fn pair<'a>(&mut self, _pair: &Pair<'_, 'a>, _out: &mut Ledger<'a, Self::Seen>) {}

    /// What swings did on a tick.
    fn swings<'a>(
        &mut self,
        _input: &CheckInput<'a>,
        _events: &[SwingEvent<'_, 'a>],
        _out: &mut Ledger<'a, Self::Seen>,
    ) {
    }

    /// The take is over; its last tick was this one.
    fn finish<'a>(&mut self, _scene: &Scene<'_, 'a>, _last: u64, _out: &mut Ledger<'a, Self::Seen>) {}

    /// Where a fault is; asked for once the worst is known.
    fn spot<'a>(_scene: &Scene<'_, 'a>, seen: &Sighting<'a, Self::Seen>) -> Point {
        seen.at
    }

    /// The case in words.
    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Self::Seen>) -> Words;
}

/// What is said of a case.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Words {
    /// What happened.
    pub(crate) message: String,
    /// What to change.
    pub(crate) fix: String,
    /// The figure that is left once the fix was applied in memory.
    pub(crate) remains: f64,
    /// Where the step that went wrong is to end, if the fix is that.
    pub(crate) end_at: Option<EndAt>,
    /// The one value in one file that fixes it, if the fix is such.
    pub(crate) change: Option<Change>,
}

/// All that words may ask about.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Scene<'t, 'a> {
    pub(crate) input: &'t CheckInput<'a>,
    pub(crate) world: &'t World<'a>,
    /// The labels of the instances met.
    pub(crate) labels: &'t [String],
    /// Asks all rules about a step that ends otherwise.
    pub(crate) breaks_another_rule: Retrial,
}

/// Whether a step that ends otherwise than it did breaks a rule that it did not break as it was.
pub(crate) type Retrial = for<'s, 't, 'a> fn(&'s Scene<'t, 'a>, Way, Moment) -> bool;

impl<'a> Scene<'_, 'a> {
    /// A place as the take counts it.
    pub(crate) fn place(&self, at: Point) -> String {
        format!("({}, {})", number(at.x), self.y(at.y))
    }

    /// A y as the take counts it.
    pub(crate) fn y(&self, y: f64) -> String {
        match self.input.y_axis {
            YAxis::Down => number(y),
            YAxis::Up => number(self.input.stage.size.y - y),
        }
    }

    /// The name of an instance.
    pub(crate) fn label(&self, instance: InstanceIndex) -> &str {
        &self.labels[instance.0]
    }

    /// The step that a sighting is of.
    ///
    /// # Panics
    /// When the frame has no body; rules that look at steps see only those that have one.
    pub(crate) fn step(&self, way: Way) -> Step<'a> {
        Step::new(self.input, way).expect("a step was seen, so the frame has a body")
    }

    /// Whether a step breaks no other rule if it ends elsewhere.
    pub(crate) fn may_end_at(&self, step: &Step<'_>, at: Point) -> bool {
        self.may_end_as(step, Moment { at, ..*step.now() })
    }

    /// Whether a step may end at a place, and the body is clear there.
    pub(crate) fn has_room_at(&self, step: &Step<'_>, at: Point) -> bool {
        self.world.depth(step.meeting(), at) <= step.slack && self.may_end_at(step, at)
    }

    /// Whether a step breaks no other rule if it ends otherwise.
    pub(crate) fn may_end_as(&self, step: &Step<'_>, end: Moment) -> bool {
        !(self.breaks_another_rule)(self, step.way, end)
    }

    /// Whether a step breaks no other rule with the frame of the tick before.
    pub(crate) fn may_keep_frame(&self, step: &Step<'_>) -> bool {
        let keep = |before: &Moment| {
            let (animation, frame, body_layer, body_mask) =
                (before.animation, before.frame, before.body_layer, before.body_mask);
            self.may_end_as(step, Moment { animation, frame, body_layer, body_mask, ..*step.now() })
        };
        step.before().is_none_or(keep)
    }

    /// The name of the other side of a fault.
    pub(crate) fn name(&self, with: With<'_>) -> String {
        let stage = &self.input.stage.name;
        match with {
            With::Thing(thing) => self.world.full_name(thing),
            With::Zone(zone) => format!("{stage}/{}", self.world.zone(zone).name),
            With::Stage => stage.clone(),
            With::Picture => "its picture".to_string(),
            With::Shape(instance, shape) => format!("{}.{shape}", self.label(instance)),
        }
    }

    /// A case from which another one follows.
    fn root(&self, root: RootCase<'_>) -> Root {
        let RootCase { rule, key, first } = root;
        Root { rule, subject: self.label(key.instance).to_string(), with: self.name(key.with), first }
    }

    /// What is seen of an instance over the whole take, from a first way on.
    pub(crate) fn of_take<S>(&self, first: Way, figure: f64, seen: S) -> Sighting<'a, S> {
        Sighting {
            tick: first.now.tick,
            figure,
            at: first.now.at,
            push: Vec2::ZERO,
            cause: Cause::Moved,
            shape: &self.step(first).body.name,
            way: first,
            seen,
        }
    }

    /// `actor.shape` of a case.
    pub(crate) fn subject<S>(&self, case: &Case<'_, S>) -> String {
        format!("{}.{}", self.label(case.key.instance), case.worst.shape)
    }
}

/// A rule with its cases and its severity in this project.
#[derive(Debug)]
pub(crate) struct Runner<'a, R: TakeRule> {
    rule: R,
    cases: Ledger<'a, R::Seen>,
    of: Rule,
    severity: Severity,
}

impl<'a, R: TakeRule> Runner<'a, R> {
    /// The rule before a take.
    pub(crate) fn new(spec: &'static Spec, settings: &Settings, pace: f64) -> Runner<'a, R> {
        let of = Rule::of(spec);
        let late = (R::LATE as f64 / pace.min(1.0)).ceil() as u64;
        let cases = Ledger::new(settings.get(&MERGE_GAP) as u64, late);
        Runner { rule: R::new(settings), cases, of, severity: settings.severity(of) }
    }

    fn is_on(&self) -> bool {
        self.severity > Severity::Off
    }

    pub(crate) fn pose(&mut self, input: &CheckInput<'a>, way: &Way) {
        if self.is_on() {
            self.rule.pose(input, way, &mut self.cases);
        }
    }

    pub(crate) fn step(&mut self, look: &Look<'_, 'a>) {
        if self.is_on() {
            self.rule.step(look, &mut self.cases);
        }
    }

    pub(crate) fn calm(&mut self, look: &Look<'_, 'a>) {
        if self.is_on() {
            self.rule.calm(look, &mut self.cases);
        }
    }

    /// Whether no case of an instance goes on at a tick or later.
    pub(crate) fn is_silent(&self, instance: InstanceIndex, since: u64) -> bool {
        self.cases.is_silent(instance, since)
    }

    pub(crate) fn without_body(&mut self, instance: InstanceIndex) {
        self.rule.without_body(instance);
    }

    pub(crate) fn pair(&mut self, pair: &Pair<'_, 'a>) {
        if self.is_on() {
            self.rule.pair(pair, &mut self.cases);
        }
    }

    pub(crate) fn swings(&mut self, input: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>]) {
        if self.is_on() {
            self.rule.swings(input, events, &mut self.cases);
        }
    }

    /// What the rule knows.
    pub(crate) fn rule(&self) -> &R {
        &self.rule
    }

    /// Whether a case began on this tick.
    pub(crate) fn has_fresh(&self) -> bool {
        self.cases.has_fresh()
    }

    /// Says until when the cases go on that began lately.
    pub(crate) fn go_on(&self, aftermath: &mut Aftermath<'a>) {
        for begun in aftermath.of(self.of) {
            begun.last = self.cases.last_of(begun.case.key, begun.case.first).unwrap_or(begun.last);
        }
    }

    /// Tells of the cases that began on this tick.
    pub(crate) fn begin(&mut self, aftermath: &mut Aftermath<'a>) {
        let (rule, severity) = (self.of, self.severity);
        // What may be right leads to nothing.
        for case in self.cases.fresh().into_iter().filter(|case| !case.is_doubted()) {
            aftermath.add(Begun {
                case: RootCase { rule, key: case.key, first: case.ticks.first },
                severity,
                after: R::AFTER,
                is_lasting: R::IS_LASTING,
                last: case.ticks.last,
                figure: case.first.figure,
                settled: case.first.way.settled,
                root: None,
            });
        }
    }

    /// Learns what the cases that began on this tick follow from.
    pub(crate) fn follow(&mut self, aftermath: &Aftermath<'a>) {
        let rule = self.of;
        self.cases.follow(|key, first| aftermath.root_of(RootCase { rule, key, first }));
    }

    /// Adds the faults from a tick on, where they matter as much.
    pub(crate) fn told(&self, from: u64, least: Severity, told: &mut Vec<Told<'a>>) {
        if self.severity >= least {
            let cases = self.cases.all().filter(|case| case.ticks.last >= from);
            told.extend(cases.map(|case| Told { rule: self.of, key: case.key }));
        }
    }

    /// Adds what no later tick can continue.
    pub(crate) fn drain(&mut self, scene: &Scene<'_, 'a>, tick: u64, findings: &mut Vec<Finding>) {
        let cases = self.cases.ended(tick);
        findings.extend(cases.iter().map(|case| self.finding(scene, case)));
    }

    /// Adds what matters as much, has gone on for some ticks and still does.
    pub(crate) fn lasting(&self, scene: &Scene<'_, 'a>, since: Since, findings: &mut Vec<Finding>) {
        let Since { tick, ticks, least } = since;
        if self.severity >= least {
            // Rules that look ahead are some ticks late.
            let goes_on = |case: &&Case<'a, R::Seen>| {
                case.ticks.last + LATE >= tick && case.ticks.first + ticks <= tick && !case.is_doubted()
            };
            findings.extend(self.cases.all().filter(goes_on).map(|case| self.finding(scene, case)));
        }
    }

    /// The take is over.
    pub(crate) fn end(&mut self, scene: &Scene<'_, 'a>, tick: u64) {
        if self.is_on() {
            self.rule.finish(scene, tick, &mut self.cases);
        }
    }

    /// Adds all that is left.
    pub(crate) fn finish(&mut self, scene: &Scene<'_, 'a>, findings: &mut Vec<Finding>) {
        let cases = self.cases.finish();
        findings.extend(cases.iter().map(|case| self.finding(scene, case)));
    }

    fn finding(&self, scene: &Scene<'_, 'a>, case: &Case<'a, R::Seen>) -> Finding {
        let Words { message, fix, remains, end_at, change } = R::words(scene, case);
        let Key { instance, with } = case.key;
        let worst = Worst { tick: case.worst.tick, at: R::spot(scene, &case.worst), push: case.worst.push };
        Finding {
            rule: self.of,
            severity: self.severity,
            subject: scene.label(instance).to_string(),
            place: Place::Take(InTake {
                shape: case.worst.shape.to_string(),
                with: scene.name(with),
                ticks: case.ticks,
                worst,
                cause: case.first.cause,
                after: case.after.map(|root| scene.root(root)),
                end_at,
            }),
            figure: case.worst.figure,
            message,
            fix,
            remains: Some(remains),
            change,
        }
    }
}

/// A case may have come this many ticks less far than the take, and still go on.
const LATE: u64 = 6;

/// Which findings are asked for that go on: those on a tick that began some ticks before.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Since {
    pub(crate) tick: u64,
    pub(crate) ticks: u64,
    pub(crate) least: Severity,
}
