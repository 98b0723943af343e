//! Which finding follows from which: one fault often leads to others, and only the first is to be mended.

use super::ledger::{RootCase, With};
use super::step::InstanceIndex;
use crate::rule::{Rule, Severity};

/// A fault leads to others for as long, in ticks of a game with 60 a second, after its last tick.
const AFTERMATH: f64 = 9.0;

/// A body that has stood nowhere since is lost by a fault for as long, in the same ticks.
const LOST: f64 = 600.0;

/// A case as far as it matters to what follows from what.
#[derive(Clone, Debug)]
pub(crate) struct Begun<'a> {
    pub(crate) case: RootCase<'a>,
    pub(crate) severity: Severity,
    /// The rules that may have led to it, likeliest first.
    pub(crate) after: &'static [&'static str],
    /// Whether it follows however long ago that was, until the instance is settled.
    pub(crate) is_lasting: bool,
    pub(crate) last: u64,
    /// The figure on its first tick.
    pub(crate) figure: f64,
    /// The last tick before it on which the instance was settled: stood, clear of everything, or was put somewhere.
    pub(crate) settled: Option<u64>,
    /// What it follows from, known once the tick on which it began is over.
    pub(crate) root: Option<RootCase<'a>>,
}

/// The cases of the last ticks.
#[derive(Clone, Debug, Default)]
pub(crate) struct Aftermath<'a> {
    lately: Vec<Begun<'a>>,
    /// From here on in the list they began on this tick.
    fresh: usize,
    window: u64,
}

impl<'a> Aftermath<'a> {
    /// Forgets what nothing can follow from any more. `pace` is that of [`super::CheckInput::pace`]; `settled` says when an
    /// instance last was.
    pub(crate) fn begin_tick(&mut self, tick: u64, pace: f64, settled: impl Fn(InstanceIndex) -> Option<u64>) {
        self.window = (AFTERMATH / pace).ceil() as u64;
        let lost = (LOST / pace).ceil() as u64;
        let mut index = 0;
        while let Some(begun) = self.lately.get(index) {
            let instance = begun.case.key.instance;
            // A body may be lost long after; what began last says why.
            let is_newest = || self.lately[index + 1..].iter().all(|later| later.case.key.instance != instance);
            let is_lost = || begun.last + lost >= tick && settled(instance).is_none_or(|settled| settled <= begun.last);
            if begun.last + self.window >= tick || (is_newest() && is_lost()) {
                index += 1;
            } else {
                self.lately.remove(index);
            }
        }
        self.fresh = self.lately.len();
    }

    /// Whether there is any case that another one may follow from.
    pub(crate) fn is_empty(&self) -> bool {
        self.lately.is_empty()
    }

    /// The cases of one rule that began lately.
    pub(crate) fn of(&mut self, rule: Rule) -> impl Iterator<Item = &mut Begun<'a>> {
        self.lately.iter_mut().filter(move |begun| begun.case.rule == rule)
    }

    /// A case that began on this tick.
    pub(crate) fn add(&mut self, begun: Begun<'a>) {
        self.lately.push(begun);
    }

    /// The root of a case that began on this tick.
    pub(crate) fn root_of(&self, case: RootCase<'a>) -> Option<RootCase<'a>> {
        self.lately[self.fresh..].iter().find(|begun| begun.case == case)?.root
    }

    /// Finds what the cases that began on this tick follow from.
    pub(crate) fn resolve(&mut self) {
        let parents: Vec<Option<usize>> = (self.fresh..self.lately.len()).map(|index| self.parent(index)).collect();
        for index in self.fresh..self.lately.len() {
            let mut at = index;
            // Cases of one tick may follow from each other; no more steps than there are such cases.
            for _ in self.fresh..self.lately.len() {
                let Some(parent) = at.checked_sub(self.fresh).and_then(|fresh| parents[fresh]) else { break };
                at = parent;
            }
            if at != index {
                let root = &self.lately[at];
                let root = root.root.unwrap_or(root.case);
                self.lately[index].root = Some(root);
            }
        }
    }

    /// What a case follows from: of all that may have led to it the one that began last, and of these the likeliest.
    fn parent(&self, index: usize) -> Option<usize> {
        let begun = &self.lately[index];
        let known = self.lately.iter().enumerate().filter(|(other, _)| *other != index);
        let led = known.filter_map(|(other, root)| {
            let rank = self.rank(begun, root)?;
            let is_earlier = root.case.first < begun.case.first || self.is_first(root, begun, other < index);
            is_earlier.then_some(Led { other, first: root.case.first, rank })
        });
        led.max_by(|a, b| a.first.cmp(&b.first).then(b.rank.cmp(&a.rank))).map(|led| led.other)
    }

    /// Whether of two cases that began at once the first led to the second.
    fn is_first(&self, root: &Begun<'_>, begun: &Begun<'_>, is_listed_first: bool) -> bool {
        match (self.rank(begun, root), self.rank(root, begun)) {
            (Some(one), Some(other)) if one != other => one < other,
            (Some(_), Some(_)) => root.figure > begun.figure || (root.figure == begun.figure && is_listed_first),
            (one, _) => one.is_some(),
        }
    }

    /// How likely one case led to another, 0 most; `None` where it cannot have.
    fn rank(&self, begun: &Begun<'_>, root: &Begun<'_>) -> Option<usize> {
        let rank = begun.after.iter().position(|code| *code == root.case.rule.code())?;
        let instance = begun.case.key.instance;
        let is_of_it = root.case.key.instance == instance
            || matches!(root.case.key.with, With::Shape(other, _) if other == instance);
        let is_near = begun.is_lasting || begun.case.first <= root.last + self.window;
        let was_settled = begun.settled.is_some_and(|settled| settled > root.last);
        let is_after = root.case.first <= begun.case.first && is_near && !was_settled;
        // What is worse than its cause stands for itself.
        (is_of_it && is_after && root.severity >= begun.severity).then_some(rank)
    }
}

/// A case that may have led to another.
struct Led {
    other: usize,
    first: u64,
    rank: usize,
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::book;
    use crate::check::Report;
    use crate::check::ledger::Key;
    use crate::check::rules::SPECS;
    use crate::stage::Stage;
    use crate::testing::{Row, at, check, hero, path, solid, stage};
    use crate::{Facing, Rect};

    fn begun(code: &str, first: u64, last: u64, after: &'static [&'static str]) -> Begun<'static> {
        let key = Key { instance: InstanceIndex(0), with: With::Stage };
        let case = RootCase { rule: book::find(code).unwrap(), key, first };
        let severity = Severity::Error;
        Begun { case, severity, after, is_lasting: false, last, figure: 1.0, settled: None, root: None }
    }

    fn roots(all: &[Begun<'static>]) -> Vec<Option<u64>> {
        let mut aftermath = Aftermath::default();
        let mut found = Vec::new();
        for tick in 0..200 {
            aftermath.begin_tick(tick, 1.0, |_| None);
            let fresh: Vec<&Begun<'_>> = all.iter().filter(|begun| begun.case.first == tick).collect();
            fresh.iter().for_each(|begun| aftermath.add((*begun).clone()));
            aftermath.resolve();
            found.extend(fresh.iter().map(|begun| aftermath.root_of(begun.case).map(|root| root.first)));
        }
        found
    }

    #[test]
    fn the_root_of_a_chain_is_its_first_and_time_and_ground_end_it() {
        let chain = [
            begun("tunnelled", 10, 10, &["embedded"]),
            begun("embedded", 15, 40, &["tunnelled"]),
            begun("art_in_wall", 30, 50, &["embedded"]),
        ];
        assert_eq!(roots(&chain), [None, Some(10), Some(10)]);
        let late = [begun("tunnelled", 10, 10, &[]), begun("embedded", 20, 40, &["tunnelled"])];
        assert_eq!(roots(&late), [None, None], "ten ticks later is no aftermath");
        let lost = Begun { is_lasting: true, ..begun("off_stage", 90, 99, &["tunnelled"]) };
        assert_eq!(roots(&[begun("tunnelled", 10, 10, &[]), lost.clone()]), [None, Some(10)]);
        let stood = Begun { settled: Some(50), ..lost };
        assert_eq!(roots(&[begun("tunnelled", 10, 10, &[]), stood]), [None, None], "it stood in between");
    }

    #[test]
    fn of_two_at_once_the_likelier_or_the_deeper_led_and_a_worse_one_stands_for_itself() {
        let both = [
            begun("embedded", 10, 12, &["tunnelled", "embedded"]),
            begun("tunnelled", 10, 10, &["off_stage", "embedded"]),
        ];
        assert_eq!(roots(&both), [Some(10), None]);
        let deep = Begun { figure: 2.0, ..begun("embedded", 10, 12, &["embedded"]) };
        let shallow = begun("embedded", 10, 12, &["embedded"]);
        let mut other = deep.clone();
        other.case.key.with = With::Picture;
        assert_eq!(roots(&[shallow, other]), [Some(10), None]);
        let note = Begun { severity: Severity::Note, ..begun("popped", 10, 10, &[]) };
        assert_eq!(roots(&[note, begun("embedded", 11, 12, &["popped"])]), [None, None]);
    }

    #[test]
    fn rules_name_only_rules() {
        for (spec, after) in SPECS.iter().zip(crate::check::rules::AFTER) {
            let unknown: Vec<_> = after.iter().filter(|code| book::find(code).is_none()).collect();
            assert!(unknown.is_empty(), "{}: {unknown:?}", spec.code);
        }
    }

    /// Rule, first tick, and the rule that it follows from.
    fn chain(report: &Report) -> Vec<(&str, u64, Option<&str>)> {
        report
            .findings
            .iter()
            .map(|finding| {
                let place = at(finding);
                (finding.rule.code(), place.ticks.first, place.after.as_ref().map(|root| root.rule.code()))
            })
            .collect()
    }

    fn yard() -> Stage {
        let mut yard = stage();
        yard.solids.push(solid("floor", Rect::new(0.0, 200.0, 200.0, 210.0)));
        yard.solids.push(solid("wall", Rect::new(120.0, 140.0, 140.0, 200.0)));
        yard
    }

    #[test]
    fn who_fell_through_is_off_the_stage_for_that_and_who_stood_in_between_is_not() {
        let mut fall = path(&[(50.0, 150.0), (50.0, 190.0)]);
        fall.extend((2..8).map(|tick| Row(tick, (50.0, 190.0 + 45.0 * (tick - 1) as f64), Facing::Right, "stand", "")));
        assert_eq!(
            chain(&check(&yard(), hero(0), &fall)),
            [("tunnelled", 2, None), ("off_stage", 4, Some("tunnelled"))]
        );
        let mut cellar = yard();
        cellar.solids.push(solid("cellar", Rect::new(0.0, 260.0, 100.0, 280.0)));
        let mut rows = path(&[(50.0, 150.0), (50.0, 190.0), (50.0, 235.0), (50.0, 260.0), (50.0, 260.0)]);
        // It walks off the cellar's edge.
        rows.extend((5..30).map(|tick| Row(tick, (50.0 + 4.0 * (tick - 4) as f64, 260.0), Facing::Right, "stand", "")));
        rows.extend(
            (30..36).map(|tick| Row(tick, (154.0, 260.0 + 12.0 * (tick - 29) as f64), Facing::Right, "stand", "")),
        );
        assert_eq!(chain(&check(&cellar, hero(0), &rows)), [("tunnelled", 2, None), ("off_stage", 35, None)]);
    }

    #[test]
    fn art_in_the_wall_that_a_body_went_into_follows_and_so_does_being_thrown_out() {
        let mut rows = path(&[(100.0, 200.0), (108.0, 200.0), (112.0, 200.0), (121.0, 200.0), (121.0, 200.0)]);
        // Thrown out upwards, onto the wall.
        rows.extend((5..9).map(|tick| Row(tick, (121.0, 140.0), Facing::Right, "stand", "")));
        let found = check(&yard(), hero(0), &rows);
        assert_eq!(chain(&found)[0], ("embedded", 3, None));
        assert!(chain(&found)[1..].iter().all(|found| found.2 == Some("embedded")), "{:?}", chain(&found));
    }
}
