//! embedded: a body deeper than the slack in something that stops it.

use crate::change::{Change, NewValue};
use crate::check::Settings;
use crate::check::blame::{Blame, Blames};
use crate::check::contacts::{Contact, ContactState, Entry};
use crate::check::foot_points::{FootMemory, Stance, points_on_ground};
use crate::check::inside::{self, EdgeMove, Inside, WayOut, beyond, edge_move, how_it_began, left_when_kept, way_out};
use crate::check::ledger::{Case, Key, Ledger, Readings, Sighting, With};
use crate::check::look::{Look, Pair, PairState};
use crate::check::per_instance::PerInstance;
use crate::check::shots::Arrivals;
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{direction, px, shift};
use crate::finding::{Cause, EndAt, Span};
use crate::geometry::{Deepest, Overlap, Point, Vec2, overlap_region};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};

#[derive(Debug, Default)]
pub(crate) struct Embedded {
    blames: Blames,
    arrivals: Arrivals,
    feet: PerInstance<FootMemory>,
}

/// What the body is in.
#[derive(Clone, Debug)]
pub(crate) enum Seen {
    Still(Inside),
    Body { victim: Way, overlap: Overlap },
}

impl TakeRule for Embedded {
    const SPEC: Spec = Spec {
        code: "embedded",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body overlaps something that stops it by more than check.slack: a solid, a one-way platform that \
                    should have stopped it, or another body.",
            matters: "The actor sinks into walls, sticks, or is thrown out when the game resolves the overlap in one jump.",
            measured: "Each tick, the shortest translation that ends the overlap, the largest over the pairs of convex \
                       pieces. The cause is the first change within the step after which the overlap is there: the \
                       move, then the turn, then the new frame, then a state's new mask. It is pushed where another \
                       body that touches it from behind went the same way. The fix is for the tick on which it went in. What lies \
                       in a slope because the game stands the actor there by the middle or the ends of its feet is none; nor \
                       is a shot, which cannot walk and has stood on nothing, on its last two ticks before the game \
                       takes it out of the take.",
            fix: "moved: end the step at the place given. dropped: end the drop by the tick given. pushed: stop the \
                  other body earlier. turned: set `symmetric = true`, or shift the actor as it turns. reshaped: move \
                  the edge named on the frame named, or keep the old frame until there is room.",
            drawing: "    ____|####\n   |    |####\n   |  ->|#|##   depth\n   |____|_|##   |<->|\n",
        },
    };
    const AFTER: &'static [&'static str] =
        &["tunnelled", "drop_overrun", "embedded", "no_headroom", "warp_blocked", "off_stage"];
    type Seen = Seen;

    fn new(_: &Settings) -> Embedded {
        Embedded::default()
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        if let Some(since) = self.arrivals.goes_on(look.step) {
            out.confirm(look.step.instance(), since);
        }
        inside::see(look, Entry::Other, out, Seen::Still);
        for contact in look.contacts {
            let ContactState::Inside { found, entry: Entry::Other } = contact.state else { continue };
            if self.arrivals.is_in(look.step) {
                let key = Key { instance: look.step.instance(), with: With::Thing(contact.thing) };
                out.doubt(key, look.step.now().tick, Readings::IN_PASSING);
            } else {
                self.see_points(look, contact, found.overlap.depth, out);
            }
        }
    }

    fn pair<'a>(&mut self, pair: &Pair<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let PairState::Inside(Deepest { overlap, own: i, other: j }) = pair.state else { return };
        if !pair.stops {
            return;
        }
        let (one, other) = (pair.one, pair.other);
        let tick = one.now().tick;
        let Blame { first_to_blame, cause } = self.blames.of(pair, overlap.push);
        let (culprit, victim) = if first_to_blame { (one, other) } else { (other, one) };
        let push = if first_to_blame { overlap.push } else { Vec2::ZERO - overlap.push };
        let key = Key { instance: culprit.instance(), with: With::Shape(victim.instance(), &victim.body.name) };
        out.see(key, Span::at(tick), overlap.depth, || {
            let region = overlap_region(&one.body.pieces[i], one.now().at - other.now().at, &other.body.pieces[j]);
            Sighting {
                tick,
                figure: overlap.depth,
                at: region.map_or(one.now().at, |(_, middle)| middle + other.now().at.to_vec2()),
                push,
                cause,
                shape: &culprit.body.name,
                way: culprit.way,
                seen: Seen::Body { victim: victim.way, overlap: Overlap { push, ..overlap } },
            }
        });
        let is_shot = self.arrivals.is_in(culprit);
        out.doubt(key, tick, if is_shot { Readings::IN_PASSING } else { Readings::default() });
    }

    fn finish<'a>(&mut self, _: &Scene<'_, 'a>, last: u64, out: &mut Ledger<'a, Seen>) {
        self.arrivals.until(last).for_each(|known| out.confirm(known.instance, known.first));
    }

    fn spot<'a>(scene: &Scene<'_, 'a>, seen: &Sighting<'a, Seen>) -> Point {
        match &seen.seen {
            Seen::Still(inside) => inside::middle(scene, seen, inside),
            Seen::Body { .. } => seen.at,
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let step = scene.step(case.first.way);
        match &case.first.seen {
            Seen::Still(inside) => still_words(scene, case, &step, inside),
            Seen::Body { victim, overlap } => {
                let victim = scene.step(*victim);
                let fix = apart(scene, &step, &victim, *overlap);
                Words {
                    message: what(scene, case, &step),
                    fix: fix.words,
                    remains: fix.remains,
                    end_at: fix.end_at,
                    change: None,
                }
            }
        }
    }
}

impl Embedded {
    /// How an instance stands on slopes, where that is by points of its feet.
    pub(crate) fn foot_points(&self, instance: InstanceIndex) -> Option<Stance> {
        self.feet.get(instance)?.found()
    }

    /// Asks whether a body in the ground stands there by points of its feet.
    fn see_points<'a>(&mut self, look: &Look<'_, 'a>, contact: &Contact, depth: f64, out: &mut Ledger<'a, Seen>) {
        let (step, instance) = (look.step, look.step.instance());
        let on = points_on_ground(look, contact);
        let memory = self.feet.of(instance);
        memory.see(step, on, depth);
        out.doubt(Key { instance, with: With::Thing(contact.thing) }, step.now().tick, on.by);
        out.know(instance, memory.known());
    }
}

/// What happened: `keeper.body overlaps pier/quay by 3.42 px after turning left`.
fn what(scene: &Scene<'_, '_>, case: &Case<'_, Seen>, step: &Step<'_>) -> String {
    let (who, with) = (scene.subject(case), scene.name(case.key.with));
    let by = px(case.worst.figure);
    let now = step.now();
    let began = how_it_began(case);
    match (case.first.cause, step.before()) {
        (Cause::Turned, _) => format!("{who} overlaps {with} by {by}{began} after turning {}", now.facing),
        (Cause::Reshaped, Some(before)) => {
            let (old, new) = (before.frame_name(step.actor), now.frame_name(step.actor));
            format!("{who} overlaps {with} by {by}{began} after {old} changed to {new}")
        }
        (Cause::State, _) => format!("{who} overlaps {with} by {by}{began} once a state changed what stops it"),
        (Cause::Spawned, _) => format!("{who} starts {by} inside {with}{began}"),
        _ => format!("{who} overlaps {with} by {by}{began}"),
    }
}

fn still_words(scene: &Scene<'_, '_>, case: &Case<'_, Seen>, step: &Step<'_>, inside: &Inside) -> Words {
    if case.first.cause == Cause::Reshaped {
        return reshaped_words(scene, case, step, inside);
    }
    let message = what(scene, case, step);
    let out = way_out(scene, step, inside);
    let (label, shape) = (scene.label(case.key.instance), &step.body.name);
    if let Some(by) = inside.pushed_by {
        return Words { end_at: out.end_of(step), ..pushed_words(scene, case, scene.label(by), &out) };
    }
    if let Some(dropped) = inside.dropped {
        let platform = &scene.world.one_way(dropped.platform).name;
        let late = crate::check::words::ticks(step.now().tick - dropped.since);
        let message = format!("{message}, its drop through {platform} still on {late} after it got there");
        let fix = format!(
            "End the drop by tick {}, when the body is inside {platform}, or end the step at {}.",
            dropped.since + 1,
            out.words()
        );
        return Words { message, fix, remains: out.remains, end_at: out.end_of(step), change: None };
    }
    let (fix, remains) = match case.first.cause {
        Cause::Turned => {
            let bounds = step.body.bounds();
            let (right, left) = (bounds.x1, 0.0 - bounds.x0);
            let is_right = step.now().facing == crate::facing::Facing::Right;
            let (ahead, behind) = if is_right { (right, left) } else { (left, right) };
            let edge = edge_move(scene, step, inside);
            let fix = format!(
                "Shift {label} {} when it turns, or set `symmetric = true` on {shape}: it reaches {} ahead and {} behind.",
                out.moved(),
                px(ahead),
                px(behind)
            );
            (fix, beyond(edge.remains, step.slack).min(out.remains))
        }
        Cause::State => {
            (format!("Keep the state until the body is clear, or shift {label} {}.", out.moved()), out.remains)
        }
        Cause::Spawned => (format!("Move the spawn {}.", out.moved()), out.remains),
        Cause::Moved | Cause::Warped | Cause::Pushed | Cause::Reshaped => {
            (format!("End the step at {}.", out.words()), out.remains)
        }
    };
    let is_turned = case.first.cause == Cause::Turned;
    let change = is_turned.then(|| Change::shape(&step.actor.name, shape, "symmetric", NewValue::Yes));
    Words { message, fix, remains, end_at: out.end_of(step), change }
}

fn reshaped_words(scene: &Scene<'_, '_>, case: &Case<'_, Seen>, step: &Step<'_>, inside: &Inside) -> Words {
    let EdgeMove { edge, by, remains, is_part } = edge_move(scene, step, inside);
    let (shape, now) = (&step.body.name, step.now().frame_name(step.actor));
    let old = step.before().map_or_else(|| "the old frame".to_string(), |old| old.frame_name(step.actor));
    let kept = left_when_kept(scene, step, inside, case.first.figure);
    // No cut takes away more than what sticks out.
    let (fix, remains) = match is_part {
        true => (
            format!("Keep {old} until there is room, or move the {edge} edge of {shape} {by} on {now}, as drawn."),
            remains.min(kept),
        ),
        false => (format!("Keep {old} until there is room."), kept),
    };
    Words { message: what(scene, case, step), fix, remains: beyond(remains, step.slack), end_at: None, change: None }
}

fn pushed_words(scene: &Scene<'_, '_>, case: &Case<'_, Seen>, by: &str, out: &WayOut) -> Words {
    let (label, with) = (scene.label(case.key.instance), scene.name(case.key.with));
    let (deepest, began) = (px(case.worst.figure), how_it_began(case));
    let message = format!("{by} pushed {} {deepest} into {with}{began}", scene.subject(case));
    let fix = format!("Stop {by} {} earlier, with {label} at {}.", px(case.first.figure), out.words());
    Words { message, fix, remains: out.remains, end_at: None, change: None }
}

/// What parts two bodies, and what is left then.
struct Apart {
    words: String,
    remains: f64,
    end_at: Option<EndAt>,
}

fn apart(scene: &Scene<'_, '_>, culprit: &Step<'_>, victim: &Step<'_>, overlap: Overlap) -> Apart {
    let Overlap { depth, push } = overlap;
    let by = push * depth;
    // Whichever of them has the room.
    let depth_at = |step: &Step<'_>, at: Point| match scene.may_end_at(step, at) {
        true => scene.world.depth(step.meeting(), at),
        false => depth,
    };
    let held = depth_at(culprit, culprit.now().at + by);
    let pushed = depth_at(victim, victim.now().at - by);
    let (first, second) = (scene.label(culprit.instance()), scene.label(victim.instance()));
    let hold = match direction(push) {
        Some(word) => format!("Stop {first} {} further {word}", px(depth)),
        None => format!("Stop {first} {}", shift(push, depth)),
    };
    let shove = format!("ush {second} {}", shift(Vec2::ZERO - push, depth));
    let words = match (held <= culprit.slack, pushed <= victim.slack) {
        (true, true) => format!("{hold}, or p{shove}."),
        (false, true) => format!("P{shove}: {first} has no room to give way."),
        (true, false) => format!("{hold}: {second} has no room to give way."),
        (false, false) => format!("{hold}: neither has room to give way."),
    };
    let end_at = (held <= culprit.slack).then(|| culprit.end_at(culprit.now().at + by));
    Apart { words, remains: beyond(held.min(pushed), culprit.slack), end_at }
}

#[cfg(test)]
mod tests {
    use crate::Facing;
    use crate::testing::*;

    #[test]
    fn resting_and_touching_are_no_faults() {
        let stage = with_wall();
        // On the floor, against the wall, and half a pixel in it: touch, touch, slack.
        let report = check(&stage, hero(0), &path(&[(50.0, 200.0), (96.0, 200.0), (96.5, 200.0), (96.5, 200.5)]));
        assert_eq!(short(&report), []);
    }

    #[test]
    fn moved_turned_reshaped_state_spawned_and_warped_are_told_apart() {
        let stage = with_wall();
        let (r, l) = (Facing::Right, Facing::Left);
        let run = |rows: &[Row]| short(&check(&stage, hero(0), rows));
        let wall = |ticks, depth, cause| vec![found("embedded", "yard/wall", ticks, depth, cause)];

        // 4 px ahead: at 98.25 it is 2.25 px in.
        let moved = [
            Row(0, (94.0, 200.0), r, "stand", ""),
            Row(1, (98.25, 200.0), r, "stand", ""),
            Row(2, (96.0, 200.0), r, "stand", ""),
        ];
        assert_eq!(run(&moved), wall((1, 1), 2.25, "moved"));

        // Touching ahead; turned, the 6 px behind are 2 px too many.
        let turned = [
            Row(4, (96.0, 200.0), r, "stand", ""),
            Row(5, (96.0, 200.0), l, "stand", ""),
            Row(6, (96.0, 200.0), l, "stand", ""),
        ];
        assert_eq!(run(&turned), wall((5, 6), 2.0, "turned"));

        // A move that ends 0.25 px in, within the slack, and a turn that adds 2 px: the turn made it.
        let both = [Row(0, (92.0, 200.0), r, "stand", ""), Row(1, (96.25, 200.0), l, "stand", "")];
        assert_eq!(run(&both), wall((1, 1), 2.25, "turned"));

        // Ghosts pass the wall; solid again inside of it.
        let state = [Row(0, (110.0, 150.0), r, "stand", "ghost"), Row(1, (110.0, 150.0), r, "stand", "")];
        assert_eq!(run(&state), wall((1, 1), 14.0, "state"));
        assert_eq!(run(&[Row(0, (97.0, 200.0), r, "stand", "")]), wall((0, 0), 1.0, "spawned"));
    }

    #[test]
    fn the_place_named_by_the_fix_is_clear() {
        let stage = with_wall();
        // Into the corner of floor and wall at once: one push does not clear both.
        let report = check(&stage, hero(0), &path(&[(90.0, 195.0), (98.0, 203.0)]));
        assert_eq!(report.findings.len(), 2);
        for finding in &report.findings {
            assert!(finding.fix.contains("at (96.00, 200.00)"), "{}", finding.fix);
        }
        assert_eq!(short(&check(&stage, hero(0), &path(&[(90.0, 195.0), (96.0, 200.0)]))), []);
    }

    #[test]
    fn two_bodies_stop_each_other_and_the_mover_is_named() {
        let stage = with_wall();
        // The crate's left side is 8 px before its pivot; the hero ends 3 px in it.
        let walked = check_both(&stage, &[((20.0, 200.0), (40.0, 200.0)), ((31.0, 200.0), (40.0, 200.0))]);
        assert_eq!(short(&walked), vec![found("embedded", "crate.body", (1, 1), 3.0, "moved")]);
        assert_eq!(walked.findings[0].subject, "hero");
        let pushed = check_both(&stage, &[((20.0, 200.0), (40.0, 200.0)), ((20.0, 200.0), (29.0, 200.0))]);
        assert_eq!(short(&pushed), vec![found("embedded", "hero.body", (1, 1), 3.0, "moved")]);
        assert_eq!(pushed.findings[0].subject, "crate");
    }

    #[test]
    fn frames_without_a_body_break_nothing() {
        let stage = with_wall();
        let r = Facing::Right;
        let rows = [
            Row(0, (90.0, 200.0), r, "stand", ""),
            Row(1, (110.0, 150.0), r, "none", ""),
            Row(2, (98.0, 200.0), r, "stand", ""),
        ];
        assert_eq!(
            short(&check(&stage, hero(0), &rows)),
            vec![found("embedded", "yard/wall", (2, 2), 2.0, "reshaped")]
        );
    }
}
