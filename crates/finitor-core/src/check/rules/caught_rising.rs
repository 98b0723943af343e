//! caught_rising: a one-way platform stopped or lifted a body that should have passed.

use crate::actor::Shape;
use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Sighting, With};
use crate::check::look::Look;
use crate::check::pause::{self, Rest, Rests};
use crate::check::per_instance::PerInstance;
use crate::check::step::{InstanceIndex, Step, Way};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Stretch, TOUCH, Vec2, extent_along, overlap_depth};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::OneWay;
use crate::world::{OneWayIndex, Thing, shared_across};

#[derive(Debug, Default)]
pub(crate) struct CaughtRising {
    /// What may have caught each instance a tick ago.
    pending: PerInstance<Vec<Pending>>,
}

/// A platform that may have caught a body, which the tick after shows.
#[derive(Clone, Debug)]
struct Pending {
    platform: OneWayIndex,
    caught: Caught,
    measures: Measures,
    way: Way,
    /// How long it has stayed in place since.
    rests: Rests,
}

impl Pending {
    /// Whether the body is held there one tick later: what was only slowed by gravity, or has just begun a jump, goes on.
    fn is_held(&self, look: &Look<'_, '_>) -> bool {
        let step = look.step;
        let Some(now) = measure(step, look.world().one_way(self.platform)) else {
            // It is past the platform's end, and did not rise on.
            let leading = extent_along(&step.body.polygons, step.now().at.to_vec2(), self.measures.way).1;
            let is_stop = matches!(self.caught, Caught::Stopped { .. }) && !step.now().is_dropping;
            return is_stop && leading <= self.measures.leading + step.touch();
        };
        if now.shared <= step.touch() && self.measures.shared <= step.touch() {
            return false;
        }
        // Rounding keeps the order of places: what is written further on has gone on.
        let gap = step.near() - step.grain;
        match self.caught {
            Caught::Stopped { .. } => now.leading <= self.measures.leading + TOUCH,
            Caught::Lifted { .. } => {
                let is_on_top = (now.trailing - now.far).abs() <= step.near() + step.slack;
                is_on_top && now.trailing <= self.measures.trailing + gap
            }
        }
    }
}

/// An actor that walks up an edge no higher than its step is not lifted.
fn stepped_up(look: &Look<'_, '_>, of: &Measures) -> bool {
    let own = look.step.actor.moves.step_height();
    look.seat.ground.was_carried && of.far - of.old_trailing <= own + look.step.rough()
}

fn report<'a>(look: &Look<'_, 'a>, pending: &Pending, out: &mut Ledger<'a, Seen>) {
    let Pending { platform, caught, ref measures, way: of, .. } = *pending;
    let Some(then) = Step::new(look.input(), of) else { return };
    let key = Key { instance: of.instance, with: With::Thing(Thing::OneWay(platform)) };
    let (figure, along) = match caught {
        Caught::Stopped { lost } => (lost, measures.near),
        Caught::Lifted { below } => (below, measures.far),
    };
    out.see(key, Span::at(of.now.tick), figure, || {
        let Measures { way, middle, .. } = *measures;
        let across = look.world().one_way(platform).passes.across();
        Sighting {
            tick: of.now.tick,
            figure,
            at: Point::ZERO + way * along + across * middle,
            push: way,
            cause: Cause::Moved,
            shape: &then.body.name,
            way: of,
            seen: Seen { platform, caught },
        }
    });
}

/// What the platform did to the body.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Seen {
    platform: OneWayIndex,
    caught: Caught,
}

impl TakeRule for CaughtRising {
    const SPEC: Spec = Spec {
        code: "caught_rising",
        severity: Severity::Error,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A one-way platform stopped or lifted a body that moved along its pass direction, or that came in \
                    from the side.",
            matters: "Jumps through the platform end at its underside, or snap the actor to the top.",
            measured: "Stopped: the body ends a step with its leading side at the platform's near side, or a shoulder at the \
                       platform's end, having lost more \
                       than 1 px a tick of its speed, and goes no further on the next, or after a pause of the game of up to 0.33 s, nor dashes \
                       along it; the figure is the speed lost. Lifted: the body ends a step on \
                       top and stays there, was not wholly past the platform before it, and moved more than 1 px further than \
                       its speed explains; the figure is how far it was still below the top before.",
            fix: "Let the platform stop a body only if it lay wholly on the far side on the tick before and does not \
                  move along the pass direction.",
            drawing: "     ^ pass\n  ===|=======\n    [ ]   stopped here on the way up\n",
        },
    };
    const LATE: u64 = pause::LATE + 1;
    const AFTER: &'static [&'static str] = &["embedded", "tunnelled", "no_headroom"];
    type Seen = Seen;

    fn new(_: &Settings) -> CaughtRising {
        CaughtRising::default()
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.pending.forget(instance);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Seen>) {
        let step = look.step;
        let pending = std::mem::take(self.pending.of(step.instance()));
        if step.motion().is_some() {
            for known in &pending {
                let mut rests = known.rests;
                let is_stop = matches!(known.caught, Caught::Stopped { .. });
                if is_stop && rests.see(step) == Rest::Paused {
                    self.pending.of(step.instance()).push(Pending { rests, ..known.clone() });
                } else if known.is_held(look) {
                    report(look, known, out);
                }
            }
        }
        for contact in look.contacts {
            let Thing::OneWay(platform) = contact.thing else { continue };
            if contact.was_inside {
                continue;
            }
            let one_way = look.world().one_way(platform);
            // As a rule it goes on as before, and nothing is measured.
            if !changes_speed(step, one_way.passes.direction()) {
                continue;
            }
            let Some(measures) = measure(step, one_way) else { continue };
            if came_back(look, &measures) {
                continue;
            }
            let Some(caught) = caught(&measures, step, one_way) else { continue };
            // Another body may have stopped it, or lifted it.
            let by = if matches!(caught, Caught::Stopped { .. }) { 1.0 } else { -1.0 };
            if look.is_held_by_body(measures.way * by) {
                continue;
            }
            // What was stopped a tick ago has stopped.
            if pending.iter().any(|known| known.platform == platform) {
                continue;
            }
            if matches!(caught, Caught::Lifted { .. }) && stepped_up(look, &measures) {
                continue;
            }
            self.pending.of(step.instance()).push(Pending {
                platform,
                caught,
                measures,
                way: step.way,
                rests: Rests::default(),
            });
        }
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Seen>) -> Words {
        let step = scene.step(case.to_fix.way);
        let platform = scene.world.one_way(case.to_fix.seen.platform);
        let with = scene.name(case.key.with);
        let label = scene.label(case.key.instance);
        let message = match case.worst.seen.caught {
            Caught::Stopped { lost } => {
                format!("One-way {with} stopped {label} on the way up: {} of the step are lost", px(lost))
            }
            Caught::Lifted { below } => {
                format!("{label} was lifted onto one-way {with}: it was {} short of the top", px(below))
            }
        };
        let Some(measures) = measure(&step, platform) else {
            return Words {
                message,
                fix: format!("Let {label} pass {with}."),
                remains: 0.0,
                end_at: None,
                change: None,
            };
        };
        let Measures { way, old_trailing, far, moved, speed, .. } = measures;
        // Had it gone on at its speed.
        let expected = step.ending_at(step.now().at - way * (moved - speed));
        let is_right = scene.may_end_at(&step, expected.now().at);
        let is_gone = is_right
            && measure(&expected, platform).is_none_or(|passed| caught(&passed, &expected, platform).is_none());
        let fix = match case.to_fix.seen.caught {
            Caught::Stopped { .. } => format!(
                "Ignore {with} until the body has cleared its top; {} were missing one tick earlier.",
                px(far - old_trailing)
            ),
            Caught::Lifted { below } => format!(
                "Ignore {with} until the body has cleared its top; {} were missing. Without the lift {label} is at {}.",
                px(below),
                scene.place(expected.now().at)
            ),
        };
        Words {
            message,
            fix,
            remains: if is_gone { 0.0 } else { case.to_fix.figure },
            end_at: is_gone.then(|| step.end_at(expected.now().at)),
            change: None,
        }
    }
}

/// A step against a platform, measured along its pass direction.
#[derive(Clone, Debug)]
struct Measures {
    way: Vec2,
    /// The body's trailing and leading ends before and now.
    old_trailing: f64,
    old_leading: f64,
    trailing: f64,
    leading: f64,
    /// The platform's near and far side.
    near: f64,
    far: f64,
    moved: f64,
    speed: f64,
    /// Middle of what body and platform share across the direction, and how much that is.
    middle: f64,
    shared: f64,
}

/// Whether the take says that the body was wholly past the platform on its way, and came back.
fn came_back(look: &Look<'_, '_>, of: &Measures) -> bool {
    let polygons = look.step.old_body.map_or(&look.step.body.polygons, |old| &old.polygons);
    let ends = look.via().iter().map(|at| extent_along(polygons, at.to_vec2(), of.way).0);
    ends.fold(f64::NEG_INFINITY, f64::max) >= of.far - look.step.touch()
}

/// What the platform did to the body.
#[derive(Clone, Copy, Debug)]
enum Caught {
    /// It stopped it: how much of its speed is lost.
    Stopped { lost: f64 },
    /// It lifted it: how far it was from the far side.
    Lifted { below: f64 },
}

/// Whether a step is so much longer or shorter along a way than the one before as what is stopped or lifted is.
fn changes_speed(step: &Step<'_>, way: Vec2) -> bool {
    let motions = step.motion().zip(step.way.last_move);
    motions.is_some_and(|(motion, last)| (motion - last).dot(way).abs() > step.jolt() + step.grain - TOUCH)
}

fn caught(of: &Measures, step: &Step<'_>, platform: &OneWay) -> Option<Caught> {
    // Both speeds are rounded.
    let (jolt, near) = (step.jolt() + step.grain, step.near());
    let lost = of.speed - of.moved;
    let room = near.max(step.slack);
    let meets_side = (of.leading - of.near).abs() <= room && of.old_leading <= of.near + near;
    // The shoulder of a round body may meet its end.
    let arrived = || meets_side || meets_end(step, platform, of.way * room);
    // Who dashes along a platform holds its height.
    let dashes = step.motion().is_some_and(|motion| (motion - of.way * of.moved).hypot() > step.run());
    if of.speed > jolt && lost > jolt && !dashes && arrived() {
        return Some(Caught::Stopped { lost });
    }
    let below = of.far - of.old_trailing;
    let is_on_top = (of.trailing - of.far).abs() <= near;
    let lifted = below > step.rough() && is_on_top && of.moved > of.speed.max(0.0) + jolt;
    lifted.then_some(Caught::Lifted { below })
}

/// Whether the body, clear of a platform before and now, meets it a little further on.
fn meets_end(step: &Step<'_>, platform: &OneWay, on: Vec2) -> bool {
    let others = &platform.outline.pieces;
    let (Some(before), Some(old)) = (step.before(), step.old_body) else { return false };
    let depth = |shape: &Shape, at: Point| overlap_depth(&shape.pieces, at.to_vec2(), others);
    let now = step.now().at;
    depth(old, before.at) <= step.touch() && depth(step.body, now) <= step.touch() && depth(step.body, now + on) > TOUCH
}

fn measure(step: &Step<'_>, platform: &OneWay) -> Option<Measures> {
    let (before, old, motion, last) = (step.before()?, step.old_body?, step.motion()?, step.way.last_move?);
    if step.now().is_dropping {
        return None;
    }
    let way = platform.passes.direction();
    let Stretch { left: low, right: high } = shared_across(platform, step.body, step.now().at);
    if high - low <= TOUCH {
        return None;
    }
    let outline = std::slice::from_ref(&platform.outline.polygon);
    let at = step.now().at.to_vec2();
    let (near, far) = extent_along(outline, Vec2::ZERO, way);
    let (trailing, leading) = extent_along(&step.body.polygons, at, way);
    let (old_trailing, old_leading) = extent_along(&old.polygons, before.at.to_vec2(), way);
    Some(Measures {
        way,
        old_trailing,
        old_leading,
        trailing,
        leading,
        near,
        far,
        moved: motion.dot(way),
        speed: last.dot(way),
        middle: f64::midpoint(low, high),
        shared: high - low,
    })
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::stage::Passes;
    use crate::testing::*;

    #[test]
    fn caught_rising_tells_stopped_from_lifted_and_from_the_top_of_a_jump() {
        let mut stage = stage();
        stage.one_ways.push(one_way("ledge", Rect::new(0.0, 100.0, 200.0, 106.0), Passes::Up));
        // Rising 5 px a tick; stopped with the head at the underside, 106, after 2 px: 3 px lost.
        let stopped = path(&[(50.0, 138.0), (50.0, 133.0), (50.0, 128.0), (50.0, 126.0), (50.0, 126.4), (50.0, 127.2)]);
        let stopped_at = [(50.0, 138.0), (50.0, 133.0), (50.0, 128.0)];
        assert_eq!(
            short(&check(&stage, hero(0), &stopped)),
            vec![found("caught_rising", "yard/ledge", (3, 3), 3.0, "moved")]
        );
        // Held there for some ticks with all else, it rises on: no platform stopped it.
        let paused =
            |then: &[(f64, f64)]| check(&stage, hero(0), &path(&[&stopped_at, &[(50.0, 126.0); 6][..], then].concat()));
        assert_eq!(short(&paused(&[(50.0, 121.0), (50.0, 116.0), (50.0, 111.0)])), []);
        assert_eq!(short(&paused(&[(50.0, 126.4), (50.0, 127.2)])).len(), 1);
        // Ending a jump right under it takes less than a pixel of speed each tick.
        let top = path(&[(50.0, 127.6), (50.0, 126.7), (50.0, 126.15), (50.0, 126.0), (50.0, 126.2)]);
        assert_eq!(short(&check(&stage, hero(0), &top)), []);
        // In from the side, 4 px below the top, then put on it.
        let lifted =
            path(&[(212.0, 104.0), (209.0, 104.0), (206.0, 104.0), (203.0, 104.0), (202.0, 100.0), (200.0, 100.0)]);
        assert_eq!(
            short(&check(&stage, hero(0), &lifted)),
            vec![found("caught_rising", "yard/ledge", (4, 4), 4.0, "moved")]
        );
    }
}
