//! Which of two bodies in each other is to blame, and why.

use super::look::{Pair, cause_between};
use super::step::{InstanceIndex, Step};
use crate::actor::Shape;
use crate::finding::Cause;
use crate::geometry::{Vec2, overlap_depth};

/// Who is to blame for two bodies in each other, and why.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Blame {
    pub(crate) first_to_blame: bool,
    pub(crate) cause: Cause,
}

/// Two bodies in each other, from tick to tick: who is to blame stays who was at first.
#[derive(Clone, Copy, Debug)]
struct Known {
    one: InstanceIndex,
    other: InstanceIndex,
    last: u64,
    blame: Blame,
}

/// What is known of all that are in each other.
#[derive(Clone, Debug, Default)]
pub(crate) struct Blames(Vec<Known>);

impl Blames {
    /// The blame for a pair on a tick, with the way that parts its first from its second: as on the tick before, where they were in
    /// each other then.
    pub(crate) fn of(&mut self, pair: &Pair<'_, '_>, push: Vec2) -> Blame {
        let (one, other) = (pair.one, pair.other);
        let tick = one.now().tick;
        self.0.retain(|known| known.last + 1 >= tick);
        let is_it = |known: &&mut Known| (known.one, known.other) == (one.instance(), other.instance());
        if let Some(known) = self.0.iter_mut().find(is_it) {
            known.last = tick;
            return known.blame;
        }
        let first_to_blame = is_first_to_blame(one, other, push);
        let (culprit, victim) = if first_to_blame { (one, other) } else { (other, one) };
        let blame = Blame { first_to_blame, cause: cause_between(culprit, victim) };
        self.0.push(Known { one: one.instance(), other: other.instance(), last: tick, blame });
        blame
    }
}

/// Whether the first of two is to blame: the one whose new shape alone made it; the one that moved further towards the other; or, if
/// neither did, the one that turned, changed its frame or appeared; the first in doubt.
fn is_first_to_blame(one: &Step<'_>, other: &Step<'_>, push: Vec2) -> bool {
    match (is_by_shape(one, other), is_by_shape(other, one)) {
        (true, false) => return true,
        (false, true) => return false,
        _ => {}
    }
    let towards = |step: &Step<'_>, way: Vec2| step.motion().map_or(0.0, |motion| -motion.dot(way));
    let (first, second) = (towards(one, push), towards(other, Vec2::ZERO - push));
    if first.max(second) > 0.0 {
        return first >= second;
    }
    let changed = |step: &Step<'_>| {
        let now = step.now();
        step.before().is_none_or(|before| {
            !step.is_swept
                || before.facing != now.facing
                || (before.animation, before.frame) != (now.animation, now.frame)
        })
    };
    changed(one) || !changed(other)
}

/// Whether two bodies would be clear of each other had one of them kept its shape.
fn is_by_shape(of: &Step<'_>, other: &Step<'_>) -> bool {
    let kept = |old: &Shape| {
        old.pieces != of.body.pieces
            && overlap_depth(&old.pieces, of.now().at - other.now().at, &other.body.pieces) <= of.slack
    };
    of.old_body.is_some_and(kept)
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::check::{CheckInput, Checker, Settings};
    use crate::testing::{at, crate_actor, hero, layers, sample, stage};

    #[test]
    fn who_stands_up_into_another_is_to_blame_though_that_one_moves() {
        let (stage, layers, settings) = (stage(), layers(), Settings::default());
        let actors = [hero(0), crate_actor()];
        let mut checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
        // A crate that comes down over a hero that ducks; the hero stands up before it has got to him.
        for (tick, (animation, y)) in
            [("duck", 175.0), ("duck", 178.0), ("stand", 181.0), ("duck", 184.0)].into_iter().enumerate()
        {
            let hero = sample(&actors, "hero", ((100.0, 200.0), Facing::Right), animation, "");
            let falls = sample(&actors, "crate", ((100.0, y), Facing::Right), &actors[1].animations[0].name, "");
            checker.tick(tick as u64, &[hero, falls]);
        }
        let report = checker.finish();
        let told: Vec<_> = report
            .findings
            .iter()
            .map(|f| (f.rule.code(), f.subject.as_str(), at(f).with.as_str(), f.figure))
            .collect();
        assert_eq!(told, [("embedded", "hero", "crate.body", 1.0)]);
        assert!(
            report.findings[0].message.ends_with("after duck 0 changed to stand 0"),
            "{}",
            report.findings[0].message
        );
    }
}
