//! repeat_hit: one swing struck a target twice.

use crate::check::blows::Limb;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::per_instance::PerInstance;
use crate::check::reaction::{self, Reaction};
use crate::check::step::{InstanceIndex, Way};
use crate::check::swings::{Strike, SwingEvent};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::ticks;
use crate::check::{CheckInput, Settings};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Vec2};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug, Default)]
pub(crate) struct RepeatHit {
    targets: PerInstance<Target>,
    /// The tick of the latest contact that waits for what it shows.
    waits_since: Option<u64>,
}

/// The contact before, first and last tick.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Before {
    first: u64,
    last: u64,
}

/// What strikes a target, and what it shows of that.
#[derive(Clone, Debug, Default)]
struct Target {
    struck: Vec<Struck>,
    /// The animation that a blow put it into, the last time that one did.
    reels: Option<usize>,
}

/// A target and one of those that struck it.
#[derive(Clone, Debug)]
struct Struck {
    by: InstanceIndex,
    /// What the first contact of the swing showed.
    first: Reaction,
    /// A later one, of which it is not known yet what it shows.
    again: Option<Again>,
}

#[derive(Clone, Debug)]
struct Again {
    reaction: Reaction,
    before: Before,
    striker: Way,
    target: Way,
    hit: String,
    hurt: String,
    at: Point,
}

impl TakeRule for RepeatHit {
    const SPEC: Spec = Spec {
        code: "repeat_hit",
        severity: Severity::Warn,
        views: Views::All,
        unit: Unit::Ticks,
        thresholds: &[],
        text: RuleText {
            means: "One swing struck one target, lost it, and struck it again.",
            matters: "Games that count each contact deal the damage twice, now and then.",
            measured: "A swing lasts while the animation goes on, frame by frame, without starting over. A contact ends on \
                       the first tick on which the hit overlaps no hurt shape of the target that it detects. The figure \
                       is for how many ticks they were apart. Where blows put the target into an animation, a later \
                       contact counts only if it does so again, or if the target, in it, is held still or kicked \
                       away or up within three ticks: else the game counted the first alone, and it is silent.",
            fix: "Let a swing hit each target once, or not again within the ticks given.",
            drawing: "   tick 2  --*[ ]\n   tick 3  --  [ ]\n   tick 4  --*[ ]   again\n",
        },
    };
    const LATE: u64 = reaction::LATE;
    type Seen = Before;

    fn new(_: &Settings) -> RepeatHit {
        RepeatHit::default()
    }

    fn pose<'a>(&mut self, input: &CheckInput<'a>, way: &Way, out: &mut Ledger<'a, Before>) {
        // A target that is gone shows nothing more.
        let is_late = |since: u64| (way.now.tick - since) as f64 * input.pace() > reaction::LATE as f64;
        if self.waits_since.is_some_and(is_late) {
            self.waits_since = None;
            self.tell_all(input, out);
        }
        if self.targets.get(way.instance).is_none_or(|target| target.struck.is_empty()) {
            return;
        }
        let Target { struck, reels } = self.targets.of(way.instance);
        for struck in struck {
            if !struck.first.is_over(input) {
                struck.first.see(input, way);
                *reels = struck.first.entered().or(*reels);
            }
            let Some(again) = &mut struck.again else { continue };
            again.reaction.see(input, way);
            if again.reaction.is_over(input) {
                struck.tell(input, *reels, out);
            }
        }
    }

    fn swings<'a>(&mut self, input: &CheckInput<'a>, events: &[SwingEvent<'_, 'a>], out: &mut Ledger<'a, Before>) {
        for event in events {
            if let SwingEvent::Strikes(strike) = event {
                self.strikes(input, strike, out);
            }
        }
    }

    fn finish<'a>(&mut self, scene: &Scene<'_, 'a>, _: u64, out: &mut Ledger<'a, Before>) {
        self.tell_all(scene.input, out);
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Before>) -> Words {
        let Before { first, last } = case.worst.seen;
        let With::Shape(target, _) = case.key.with else {
            return Words { message: String::new(), fix: String::new(), remains: 0.0, end_at: None, change: None };
        };
        let (hit, target) = (scene.subject(case), scene.label(target));
        let apart = ticks(case.worst.figure as u64);
        Words {
            message: format!(
                "{hit} hit {target} twice in one swing: at tick {first}, and again at tick {} after it lost {target} at \
                 tick {last}",
                case.worst.tick
            ),
            fix: format!("Let a swing hit each target once, or not again within {apart} of losing it."),
            // Of two contacts of one swing the second then does nothing.
            remains: 0.0,
            end_at: None,
            change: None,
        }
    }
}

impl RepeatHit {
    /// Reports all later contacts that may have counted.
    fn tell_all<'a>(&mut self, input: &CheckInput<'a>, out: &mut Ledger<'a, Before>) {
        for Target { struck, reels } in self.targets.iter_mut() {
            struck.iter_mut().for_each(|struck| struck.tell(input, *reels, out));
        }
    }

    fn strikes<'a>(&mut self, input: &CheckInput<'a>, strike: &Strike<'_, 'a>, out: &mut Ledger<'a, Before>) {
        /// Of a swing that lasts for longer the first contact is forgotten: ticks at 60 a second.
        const REMEMBERED: f64 = 600.0;
        let (striker, target) = (strike.striker.way, strike.target.way);
        let reaction = Reaction::new(striker, target);
        let Target { struck: all, reels } = self.targets.of(target.instance);
        *reels = reaction.entered().filter(|_| strike.before.is_none()).or(*reels);
        let at = all.iter().position(|struck| struck.by == striker.instance);
        let Some((first, last)) = strike.before else {
            if let Some(at) = at {
                all[at].tell(input, *reels, out);
            }
            let now = target.now.tick;
            let is_recent = |struck: &Struck| (now - struck.first.tick()) as f64 * input.pace() < REMEMBERED;
            all.retain(|struck| struck.by != striker.instance && (struck.again.is_some() || is_recent(struck)));
            all.push(Struck { by: striker.instance, first: reaction, again: None });
            return;
        };
        self.waits_since = Some(target.now.tick);
        let again = Again {
            reaction,
            before: Before { first, last },
            striker: *striker,
            target: *target,
            hit: strike.hit.name.clone(),
            hurt: strike.hurt.name.clone(),
            at: strike.at,
        };
        match at {
            Some(at) => {
                all[at].tell(input, *reels, out);
                all[at].again = Some(again);
            }
            None => report(input, again, out),
        }
    }
}

impl Struck {
    /// Reports a later contact, if there is one and it may have counted.
    fn tell<'a>(&mut self, input: &CheckInput<'a>, reels: Option<usize>, out: &mut Ledger<'a, Before>) {
        let reels = self.first.entered().or(reels);
        if let Some(again) = self.again.take().filter(|again| again.reaction.may_count(reels)) {
            report(input, again, out);
        }
    }
}

fn report<'a>(input: &CheckInput<'a>, again: Again, out: &mut Ledger<'a, Before>) {
    let Again { striker, target, before, at, .. } = again;
    let (hit, hurt) = (Limb::named(input, striker, &again.hit), Limb::named(input, target, &again.hurt));
    let Some((hit, hurt)) = hit.zip(hurt) else { return };
    let tick = striker.now.tick;
    let figure = (tick - before.last) as f64;
    let key = Key { instance: striker.instance, with: With::Shape(target.instance, &hurt.shape.name) };
    out.see(key, Span::at(tick), figure, || Sighting {
        tick,
        figure,
        at,
        push: Vec2::ZERO,
        cause: Cause::Moved,
        shape: &hit.shape.name,
        way: striker,
        seen: before,
    });
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::testing::fight::{actors, run, run_as, run_both};
    use crate::testing::{at, span};

    #[test]
    fn one_swing_that_strikes_twice_is_told_and_two_swings_are_not() {
        let (near, far) = ((20.0, 0.0), (60.0, 0.0));
        let twice = [("swing", 1, near), ("swing", 1, far), ("swing", 2, near), ("swing", 3, near)];
        let report = run(Facing::Right, &twice);
        let found: Vec<_> =
            report.findings.iter().map(|f| (f.rule.code(), at(f).with.as_str(), span(f), f.figure)).collect();
        assert_eq!(found, [("repeat_hit", "gull:1.chest", (2, 2), 2.0)]);
        assert_eq!(report.hits.iter().map(|hit| hit.tick).collect::<Vec<_>>(), [0, 2]);
        // Where the hit may strike again after some ticks, that is what it does, in contact or not.
        let mut actors = actors();
        for pose in actors[0].animations[0].frames.iter_mut().flatten() {
            pose.shapes.iter_mut().for_each(|shape| shape.carries.again_after = Some(2));
        }
        let long = [("swing", 1, near), ("swing", 1, near), ("swing", 2, near), ("swing", 2, far), ("swing", 3, near)];
        let report = run_as(&actors, Facing::Right, &long);
        assert_eq!((report.findings, report.hits.iter().map(|hit| hit.tick).collect::<Vec<_>>()), (vec![], vec![0, 2]));
        assert_eq!((report.swings.len(), &report.swings[0].struck[..]), (1, &["gull:1".to_string()][..]));
        assert_eq!(report.swings[0].active, crate::finding::Span { first: 0, last: 3 });
        // A new swing may strike again: the animation begins anew, or another came between.
        let anew = [("swing", 1, near), ("swing", 2, far), ("swing", 1, near)];
        assert_eq!(run(Facing::Right, &anew).findings, []);
        let between = [("swing", 1, near), ("idle", 0, near), ("swing", 2, near)];
        assert_eq!(run(Facing::Right, &between).findings, []);
    }

    #[test]
    fn a_later_contact_that_the_target_does_not_show_was_not_counted() {
        let mut actors = actors();
        let mut reel = actors[1].animations[0].clone();
        reel.name = "reel".into();
        actors[1].animations.push(reel);
        // Struck on tick 1, thrown back, and met again on tick 9, where a wall stopped it; then it goes on so for four ticks.
        let found = |held: [usize; 2], first: &str, second: &str, kick: f64| {
            let mut rows = vec![("swing", 1, "glide", (20.0, 0.0)); 2];
            rows.extend(vec![("swing", 1, first, (20.0, 0.0)); held[0]]);
            rows.extend((1..8).map(|k| ("swing", 2, first, (20.0 + 6.0 * f64::from(k), 0.0))));
            rows.push(("swing", 2, first, (36.0, 0.0)));
            rows.extend(vec![("swing", 2, first, (36.0, 0.0)); held[1]]);
            rows.extend((1..5).map(|k| ("swing", 2, second, (36.0 + kick * f64::from(k), 0.0))));
            let rest = ("idle", 0, second, (36.0 + 5.0 * kick, 0.0));
            rows.extend([rest; 4]);
            run_both(&actors, Facing::Right, &rows).findings.len()
        };
        assert_eq!(found([0, 0], "reel", "reel", 0.25), 0, "counted once");
        assert_eq!(found([6, 0], "reel", "glide", 0.25), 0, "over it");
        assert_eq!(found([6, 0], "reel", "reel", 3.0), 1, "kicked again");
        assert_eq!(found([6, 6], "reel", "reel", 0.25), 1, "held again");
        assert_eq!(found([0, 0], "glide", "glide", 0.25), 1, "it shows nothing of any blow");
    }
}
