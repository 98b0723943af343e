//! Bodies that lie in something still, tick by tick, as plain values: a body may be in a thing for thousands of ticks, and words
//! are made once, when it is over.

use super::checker::World;
use super::deep_words::tell;
use super::finding::{Finding, Severity};
use super::step::{Moment, Near, Step};
use super::{Cause, Rule};
use crate::geometry::{BoxTree, Overlap};

/// Something still of a stage, by its place there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Still {
    /// A solid.
    Solid(u32),
    /// A one-way platform.
    OneWay(u32),
}

/// A body deeper than the slack in something that stops it, on a tick.
#[derive(Clone, Debug)]
pub(super) struct Deep {
    /// Which instance it is, among those met.
    pub(super) track: usize,
    /// Which of the world's actors it is one of.
    pub(super) actor: usize,
    pub(super) thing: Still,
    pub(super) rule: Rule,
    pub(super) cause: Cause,
    pub(super) found: Overlap,
    /// The step that made it.
    pub(super) before: Option<Moment>,
    pub(super) now: Moment,
    /// The platform that a drop, still on, led it through first, and when that began.
    pub(super) dropped: Option<(u32, u64)>,
    /// The instance that pushed it.
    pub(super) pushed_by: Option<usize>,
}

/// One spell of a body in a thing, from its first tick to its last.
#[derive(Clone, Debug)]
pub(super) struct Spell {
    pub(super) ticks: (u64, u64),
    /// What first made it.
    pub(super) cause: Cause,
    /// The worst tick.
    pub(super) worst: Deep,
    /// The worst of those that the first cause made: what to mend depends on that.
    pub(super) mended: Deep,
}

/// All that lie in something still.
#[derive(Debug, Default)]
pub(super) struct Deeps {
    join: u64,
    /// Those that the next tick may continue; few at a time.
    open: Vec<Spell>,
    done: Vec<Spell>,
}

impl Deeps {
    /// Nothing found yet, ticks to be joined over so many.
    pub(super) fn new(join: u32) -> Deeps {
        Deeps { join: u64::from(join), ..Deeps::default() }
    }

    /// The spell of an instance in a thing that this tick would continue.
    pub(super) fn running(&self, track: usize, thing: Still, tick: u64) -> Option<&Spell> {
        let is_it =
            |spell: &&Spell| spell.ticks.1 + 1 == tick && spell.worst.track == track && spell.worst.thing == thing;
        self.open.iter().find(is_it)
    }

    /// Adds a tick.
    pub(super) fn add(&mut self, deep: Deep) {
        let tick = deep.now.tick;
        let goes_on = |spell: &&mut Spell| {
            let known = &spell.worst;
            (known.track, known.thing, known.rule) == (deep.track, deep.thing, deep.rule)
                && spell.ticks.1 + 1 + self.join >= tick
        };
        if let Some(spell) = self.open.iter_mut().find(goes_on) {
            spell.ticks.1 = tick;
            if deep.found.depth > spell.worst.found.depth {
                if deep.cause == spell.cause {
                    spell.mended = deep.clone();
                }
                spell.worst = deep;
            }
            return;
        }
        self.done.extend(self.open.extract_if(.., |spell| spell.ticks.1 + 1 + self.join < tick));
        self.open.push(Spell { ticks: (tick, tick), cause: deep.cause, mended: deep.clone(), worst: deep });
    }

    /// Those that no later tick than this can continue; they are forgotten here.
    pub(super) fn ended(&mut self, tick: u64) -> Vec<Spell> {
        self.done.extend(self.open.extract_if(.., |spell| spell.ticks.1 + 1 + self.join < tick));
        std::mem::take(&mut self.done)
    }

    /// All that are left.
    pub(super) fn finish(&mut self) -> Vec<Spell> {
        self.done.append(&mut self.open);
        std::mem::take(&mut self.done)
    }
}

impl Spell {
    /// The spell in words; `None` where its rule is switched off. `label` gives the names of instances.
    pub(super) fn finding<'a>(
        &self,
        world: &World<'_>,
        tree: &BoxTree,
        label: impl Fn(usize) -> &'a str,
    ) -> Option<Finding> {
        let severity = world.settings.severity[self.worst.rule.index()];
        if severity == Severity::Off {
            return None;
        }
        let near = Near { tree, solids: &[], one_ways: &[], zones: &[] };
        let step = |deep: &'_ Deep| -> Option<(String, String, f64)> {
            let (track, actor) = (deep.track, &world.actors[deep.actor]);
            let who = (label(track), actor, track, deep.actor);
            let step = Step::new(world, who, (deep.before.as_ref(), &deep.now), None, near, None)?;
            Some(tell(world, &step, deep, deep.pushed_by.map(&label)))
        };
        let (message, remedy, remains) = step(&self.worst)?;
        let (remedy, remains) = if self.mended.now.tick == self.worst.now.tick {
            (remedy, remains)
        } else {
            let (_, remedy, remains) = step(&self.mended)?;
            (remedy, remains)
        };
        let worst = &self.worst;
        let body = world.actors[worst.actor].pose(worst.now.animation, worst.now.frame, worst.now.facing).body()?;
        Some(super::deep_words::finding(world, self, (severity, label(worst.track), body), (message, remedy, remains)))
    }
}
