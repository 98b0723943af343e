//! tunnelled: a body went through what stops it between two ticks.

use crate::check::Settings;
use crate::check::contacts::ContactState;
use crate::check::crossing::Crossing;
use crate::check::inside::beyond;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::{Look, Pair, PairState};
use crate::check::step::{Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{number, px};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Vec2, overlap_depth};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::world::{Body, Path, Thing, Through};

#[derive(Debug)]
pub(crate) struct Tunnelled;

/// What the body went through.
#[derive(Clone, Debug)]
pub(crate) enum Seen {
    Still {
        thing: Thing,
        crossing: Crossing,
    },
    /// Another body; the passage is of the first of the two against the second.
    Body {
        other: Way,
        through: Through,
        is_first: bool,
    },
}

impl TakeRule for Tunnelled {
    const SPEC: Spec = Spec {
        code: "tunnelled",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "Between two ticks a body passed through something that stops it, and neither tick shows an overlap.",
            matters: "The actor falls through thin floors or dashes through walls, but only at some speeds and places.",
            measured: "The old shape is swept straight from the old place to the new one, exactly; two bodies are swept \
                       by their motion against each other. It counts when the body gets deeper than check.slack on the \
                       way and also when the step is taken axis by axis, in either order: games that move so go round \
                       corners that the straight line cuts. Where the take tells the way (via) that one is swept. The figure is the greatest depth on the way.",
            fix: "Sweep the motion and stop at the first touch given, keep steps under the length given, or thicken \
                  what was passed.",
            drawing: "   [ ]  tick 76\n    |\n  ==|=========   no tick shows it\n    v\n   [ ]  tick 77\n",
        },
    };
    const AFTER: &'static [&'static str] =
        &["drop_overrun", "tunnelled", "embedded", "no_headroom", "warp_blocked", "off_stage"];
    type Seen = Seen;

    fn new(_: &Settings) -> Tunnelled {
        Tunnelled
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        for contact in look.contacts {
            let ContactState::Through(crossing) = contact.state else { continue };
            let (step, thing) = (look.step, contact.thing);
            let key = Key { instance: step.instance(), with: With::Thing(thing) };
            let seen = Seen::Still { thing, crossing };
            out.see(key, Span::at(step.now().tick), crossing.through.depth, || crossing.sighting(step, seen));
        }
    }

    fn pair<'a>(&mut self, pair: &Pair<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let PairState::Through(through) = pair.state else { return };
        let (one, other) = (pair.one, pair.other);
        let (Some(own), Some(theirs)) = (one.motion(), other.motion()) else { return };
        let is_first = own.hypot2() >= theirs.hypot2();
        let (culprit, victim) = if is_first { (one, other) } else { (other, one) };
        let push = if is_first { through.push } else { Vec2::ZERO - through.push };
        let key = Key { instance: culprit.instance(), with: With::Shape(victim.instance(), &victim.body.name) };
        let other_before = other.before().map_or(other.now().at, |before| before.at);
        out.see(key, Span::at(one.now().tick), through.depth, || Sighting {
            tick: one.now().tick,
            figure: through.depth,
            at: through.at + other_before.to_vec2() + theirs * f64::midpoint(through.enter, through.exit),
            push,
            cause: Cause::Moved,
            shape: &culprit.body.name,
            way: culprit.way,
            seen: Seen::Body { other: victim.way, through, is_first },
        });
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let step = scene.step(case.worst.way);
        match &case.worst.seen {
            Seen::Still { thing, crossing } => still_words(scene, case, &step, *thing, crossing),
            Seen::Body { other, through, is_first } => {
                let other = scene.step(*other);
                let (first, second) = if *is_first { (&step, &other) } else { (&other, &step) };
                body_words(scene, case, [first, second], through)
            }
        }
    }
}

fn still_words(
    scene: &Scene<'_, '_>,
    case: &Case<'_, Seen>,
    step: &Step<'_>,
    thing: Thing,
    crossing: &Crossing,
) -> Words {
    let world = scene.world;
    let body = step.old_body.unwrap_or(step.body);
    let Crossing { through, from, motion } = *crossing;
    let path = Path { pieces: &body.pieces, from, motion };
    let length = motion.hypot();
    // Whatever else stops it first, it is stopped there.
    let obstacles = world.obstacles_in(step.reach(step.swept_box()), step.now().body_mask, world.pieces(thing));
    let passages = obstacles.into_iter().filter_map(|pieces| path.through(pieces));
    let enter = passages.filter(|p| p.depth > step.slack).map(|p| p.enter).fold(through.enter, f64::min);
    let touch = from + motion * enter;
    let held = world.deepest(Body::new(body, step.now().body_mask), touch, world.pieces(thing));
    let shown = path.share_deeper(world.pieces(thing), step.slack);
    let left = beyond(held.map_or(0.0, |found| found.depth), step.slack);
    let stops = left == 0.0 && scene.may_end_at(step, touch);
    let short = format!("eep steps under {}", px(shown * length));
    Words {
        message: format!(
            "{} passed through {} within one step of {} (overlap up to {})",
            scene.subject(case),
            scene.name(case.key.with),
            px(length),
            px(through.depth)
        ),
        fix: match stops {
            true => format!(
                "Stop the step at {}, {} % of the way, or k{short}.",
                scene.place(touch),
                (enter * 100.0).round()
            ),
            false => format!("K{short}."),
        },
        remains: left,
        end_at: stops.then(|| step.end_at(touch)),
        change: None,
    }
}

/// Where a step began, and its motion.
fn way_of(step: &Step<'_>) -> (Point, Vec2) {
    (step.before().map_or(step.now().at, |before| before.at), step.motion().unwrap_or(Vec2::ZERO))
}

fn body_words(scene: &Scene<'_, '_>, case: &Case<'_, Seen>, [one, other]: [&Step<'_>; 2], through: &Through) -> Words {
    let ((before, own), (other_before, theirs)) = (way_of(one), way_of(other));
    let motion = own - theirs;
    let touch = |step: Vec2, start: Point| scene.place(start + step * through.enter);
    let part = (through.enter * 100.0).round();
    let fix = if theirs == Vec2::ZERO || own == Vec2::ZERO {
        let (step, start) = if own.hypot2() >= theirs.hypot2() { (own, before) } else { (theirs, other_before) };
        format!("Stop the step at {}, {part} % of the way.", touch(step, start))
    } else {
        let (first, second) = (touch(own, before), touch(theirs, other_before));
        let (one, other) = (scene.label(one.instance()), scene.label(other.instance()));
        format!("Stop {one} at {first} and {other} at {second}, {part} % of the way.")
    };
    // With both held at that time nothing of them overlaps.
    let (old, other_old) = (one.old_body.unwrap_or(one.body), other.old_body.unwrap_or(other.body));
    let at = before - other_before + motion * through.enter;
    let held = overlap_depth(&old.pieces, at, &other_old.pieces);
    Words {
        message: format!(
            "{} and {} passed through each other within one step of {} px against each other (overlap up to {})",
            scene.subject(case),
            scene.name(case.key.with),
            number(motion.hypot()),
            px(through.depth)
        ),
        fix,
        remains: beyond(held, one.slack),
        end_at: None,
        change: None,
    }
}

#[cfg(test)]
mod tests {
    use crate::testing::*;
    use crate::{Facing, Rect};

    #[test]
    fn tunnelling_needs_a_crossing_that_no_tick_and_no_way_round_explains() {
        let mut stage = stage();
        stage.solids.push(solid("plank", Rect::new(0.0, 100.0, 200.0, 104.0)));
        // From 6 px above to 10 px below in one step of 40 px; deepest with half of 20 + 4 px.
        let fall = path(&[(50.0, 94.0), (50.0, 134.0)]);
        let report = check(&stage, hero(0), &fall);
        assert_eq!(short(&report), vec![found("tunnelled", "yard/plank", (1, 1), 12.0, "moved")]);
        // First touch after 6 of 40 px; 24 px of way lie inside, 23 of them deeper than the slack.
        assert!(report.findings[0].fix.contains("at (50.00, 100.00), 15 % of the way"), "{}", report.findings[0].fix);
        assert!(report.findings[0].fix.contains("under 23.00 px"), "{}", report.findings[0].fix);

        // Past the plank's end, up and over: the straight line cuts the corner, going up first does not.
        let over = path(&[(207.0, 120.0), (200.0, 98.0)]);
        assert_eq!(short(&check(&stage, hero(0), &over)), []);
        // A warp, a gap in the ticks, or a step longer than `teleport` is no straight way.
        let (r, s) = (Facing::Right, "stand");
        let warp = [Row(0, (50.0, 94.0), r, s, ""), Row(1, (50.0, 134.0), r, s, "warped")];
        let gap = [Row(0, (50.0, 94.0), r, s, ""), Row(2, (50.0, 134.0), r, s, "")];
        let far = [Row(0, (50.0, 30.0), r, s, ""), Row(1, (50.0, 230.0), r, s, "")];
        for rows in [warp, gap, far] {
            assert_eq!(short(&check(&stage, hero(0), &rows)), [], "{rows:?}");
        }
    }
}
