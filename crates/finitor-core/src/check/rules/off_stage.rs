//! off_stage: a body left the stage and no hazard took it.

use crate::check::Settings;
use crate::check::ledger::{Case, Key, Ledger, Readings, Sighting, With};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::shots::may_be_shot;
use crate::check::step::Step;
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::{number, px};
use crate::finding::{Cause, Span};
use crate::geometry::{Point, Rect, TOUCH, Vec2};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::stage::Effect;
use crate::world::is_always_shown;

/// What is known of an instance.
#[derive(Clone, Copy, Debug, Default)]
struct Known {
    has_been_on: bool,
    has_met_hazard: bool,
    /// How it left the stage.
    exit: Option<Exit>,
    /// The box around it since it crossed a border in part.
    across: Option<Rect>,
}

/// For how long a game may let a shot fly on before it takes it away, ticks at 60 ticks a second.
const FLIES_ON: f64 = 60.0;

/// How an instance left the stage.
#[derive(Clone, Copy, Debug)]
struct Exit {
    tick: u64,
    /// The last tick on which it was there.
    last: u64,
    /// The readings by which it did so by right.
    by: Readings,
}

#[derive(Debug, Default)]
pub(crate) struct OffStage {
    known: PerInstance<Known>,
}

impl TakeRule for OffStage {
    const SPEC: Spec = Spec {
        code: "off_stage",
        severity: Severity::Error,
        views: Views::All,
        unit: Unit::Px,
        thresholds: &[],
        text: RuleText {
            means: "A body that was on the stage lies wholly past its left, right or bottom border, and no hazard zone \
                    that detects it took it on the way.",
            matters: "The actor is lost: it falls or flies for ever and the player waits.",
            measured: "Against the box (0, 0) to stage.size. The figure is the distance from the border to the body's \
                       nearest side. Leaving by the top is a jump and no fault; nor is it for a body that detects \
                       nothing to leave at a side, as no wall would hold it. What cannot walk, has stood on nothing and \
                       leaves at a side, or straight on by the bottom, is a shot: the game may take it out of the take \
                       within a second.",
            fix: "Add a hazard zone, or a solid, where the body leaves: the range is given.",
            drawing: "  stage   |\n          |   [ ] ->\n          |<->|  figure\n",
        },
    };
    const AFTER: &'static [&'static str] =
        &["tunnelled", "drop_overrun", "embedded", "no_headroom", "warp_blocked", "zone_skipped", "off_stage"];
    const IS_LASTING: bool = true;
    type Seen = Left;

    fn new(_: &Settings) -> OffStage {
        OffStage::default()
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Left>) {
        self.step(look, out);
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, Left>) {
        let step = look.step;
        let known = self.known.of(step.instance());
        let size = look.world().stage().size;
        let body = step.bounds();
        // As a rule it is on the stage, and nothing else is asked.
        if body.x0 >= 0.0 && body.x1 <= size.x && body.y1 <= size.y && !look.seat.in_hazard {
            *known = Known { has_been_on: true, ..Known::default() };
            return;
        }
        known.has_met_hazard |= look.seat.in_hazard;
        let (body, stage) = (step.bounds(), Rect::new(0.0, f64::NEG_INFINITY, size.x, size.y));
        let is_past_a_border = stage.union(body) != stage;
        let Some(off) = off(body, size) else {
            let across = known.across.filter(|_| is_past_a_border).map_or(body, |known| known.union(body));
            let has_met_hazard = look.seat.in_hazard;
            let across = is_past_a_border.then_some(across);
            *known = Known { has_been_on: true, has_met_hazard, exit: None, across };
            return;
        };
        // What detects nothing is held by no wall: it flies through them, and in and out at the sides.
        let is_free = step.now().body_mask.is_empty() && off.back.x != 0.0;
        if !known.has_been_on || known.has_met_hazard || is_free {
            return;
        }
        let tick = step.now().tick;
        let key = Key { instance: step.instance(), with: With::Stage };
        out.see(key, Span::at(tick), off.by, || {
            let middle = body.center();
            Sighting {
                tick,
                figure: off.by,
                at: Point::new(middle.x.clamp(0.0, size.x), middle.y.clamp(0.0, size.y)),
                push: off.back,
                cause: Cause::Moved,
                shape: &step.body.name,
                way: step.way,
                seen: Left { back: off.back, across: known.across.map_or(body, |known| known.union(body)) },
            }
        });
        let exit = known.exit.get_or_insert_with(|| {
            let is_shot = may_be_shot(step) && (off.back.x != 0.0 || goes_straight(step));
            Exit { tick, last: tick, by: if is_shot { Readings::IN_PASSING } else { Readings::default() } }
        });
        exit.last = tick;
        out.doubt(key, tick, exit.by);
        if (tick - exit.tick) as f64 * step.pace >= FLIES_ON {
            out.confirm(step.instance(), exit.tick);
        }
    }

    fn finish<'a>(&mut self, _: &Scene<'_, 'a>, last: u64, out: &mut Ledger<'a, Left>) {
        let exits = self.known.iter().filter_map(|(instance, known)| Some((instance, known.exit?)));
        // Whether the game would have taken away what is still there nobody knows.
        exits.filter(|(_, exit)| exit.last == last).for_each(|(instance, exit)| out.confirm(instance, exit.tick));
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, Left>) -> Words {
        let (step, Left { back, across }) = (scene.step(case.first.way), case.first.seen);
        let body = step.bounds();
        let (border, axis, from, to) = if back.y != 0.0 {
            ("bottom", "x", across.x0, across.x1)
        } else {
            (if back.x < 0.0 { "right" } else { "left" }, "y", across.y0, across.y1)
        };
        let length = step.motion().map_or(0.0, Vec2::hypot);
        let extent = if back.y != 0.0 { body.height() } else { body.width() };
        let thick = (length - extent).max(0.0).floor() + 1.0;
        let zones = scene.world.stage().zones.iter();
        let hazards = zones.filter(|zone| zone.effect == Effect::Hazard && zone.mask.sees(step.now().body_layer));
        let names: Vec<&str> = hazards.map(|zone| zone.name.as_str()).collect();
        let caught = match names.as_slice() {
            [] => "no hazard zone detects it".to_string(),
            names => format!("no hazard zone is there ({} elsewhere)", names.join(", ")),
        };
        Words {
            message: format!(
                "{} left through the {border} border at tick {}, up to {} past it; {caught}",
                scene.subject(case),
                case.first.tick,
                px(case.worst.figure)
            ),
            fix: format!(
                "Add a hazard zone or a solid along the {border} border from {axis} {} to {}, at least {thick} px thick.",
                number(from),
                number(to)
            ),
            remains: if is_always_shown(extent, thick, length) { 0.0 } else { case.first.figure },
            end_at: None,
            change: None,
        }
    }
}

/// How a body left.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Left {
    /// The way back.
    back: Vec2,
    /// The box around it from the tick on which it first crossed a border.
    across: Rect,
}

/// How far past a border a body lies wholly, and the way back.
struct Off {
    by: f64,
    back: Vec2,
}

/// Whether nothing bends its way.
fn goes_straight(step: &Step<'_>) -> bool {
    let ways = step.motion().zip(step.way.last_move);
    ways.is_some_and(|(motion, last)| (motion - last).hypot() <= 2.0 * step.grain + TOUCH)
}

fn off(body: Rect, size: Vec2) -> Option<Off> {
    let sides = [
        (body.x0 - size.x, Vec2::new(-1.0, 0.0)),
        (0.0 - body.x1, Vec2::new(1.0, 0.0)),
        (body.y0 - size.y, Vec2::new(0.0, -1.0)),
    ];
    let (by, back) = sides.into_iter().max_by(|a, b| a.0.total_cmp(&b.0))?;
    (by > 0.0).then_some(Off { by, back })
}

#[cfg(test)]
mod tests {
    use crate::Rect;
    use crate::layers::LayerSet;
    use crate::stage::Effect;
    use crate::testing::*;

    #[test]
    fn leaving_the_stage_is_a_fault_unless_a_hazard_took_it() {
        let mut bare = stage();
        let out = path(&[(380.0, 100.0), (400.0, 100.0), (410.0, 100.0), (420.0, 100.0)]);
        // The body's left side is 6 px behind the pivot: 4 and 14 px past 400.
        assert_eq!(short(&check(&bare, hero(0), &out)), vec![found("off_stage", "yard", (2, 3), 14.0, "moved")]);
        bare.zones.push(zone("water", Rect::new(390.0, 0.0, 410.0, 300.0), Effect::Hazard));
        assert_eq!(short(&check(&bare, hero(0), &out)), []);
        // A goal is no hazard, a jump over the top is no exit, and what was never on the stage cannot leave it.
        bare.zones[0].effect = Effect::Goal;
        assert_eq!(check(&bare, hero(0), &out).findings.len(), 1);
        assert_eq!(short(&check(&stage(), hero(0), &path(&[(50.0, 10.0), (50.0, -15.0), (50.0, 10.0)]))), []);
        assert_eq!(short(&check(&stage(), hero(0), &path(&[(-50.0, 100.0), (-30.0, 100.0)]))), []);
        // What goes through everything may leave at the sides, and not by the bottom.
        let ghost = || {
            let mut ghost = hero(0);
            for pose in ghost.animations.iter_mut().flat_map(|a| &mut a.frames).flatten() {
                pose.shapes.iter_mut().for_each(|shape| shape.mask = LayerSet::NONE);
            }
            ghost
        };
        assert_eq!(short(&check(&stage(), ghost(), &out)), []);
        let down = path(&[(50.0, 290.0), (50.0, 310.0), (50.0, 330.0)]);
        assert_eq!(check(&stage(), ghost(), &down).findings.len(), 1);
    }

    #[test]
    fn a_shot_may_leave_where_the_game_takes_it_away_within_a_second() {
        let shot = shot();
        let flight = |rows: u32, (x, y): (f64, f64), bend: f64| -> Vec<(f64, f64)> {
            let at = |k: u32| (300.0 + x * f64::from(k), 100.0 + (y + bend * f64::from(k)) * f64::from(k));
            (0..rows).map(at).collect()
        };
        // A crate lies still elsewhere, so that the take goes on for some ticks.
        let found = |shot: &crate::actor::Actor, ticks: usize, places: &[(f64, f64)]| {
            let rows = places.iter().copied().map(Some).chain(vec![None; ticks]);
            let both: Vec<_> = rows.map(|shot| (shot, (20.0, LEVEL))).collect();
            check_while_there(&stage(), &[shot.clone(), crate_actor()], &both).findings.len()
        };
        assert_eq!(found(&shot, 6, &flight(40, (4.0, 0.0), 0.0)), 0, "across");
        assert_eq!(found(&shot, 6, &flight(40, (4.0, 0.0), 0.03)), 0, "thrown");
        assert_eq!(found(&shot, 6, &flight(70, (0.5, 4.0), 0.0)), 0, "straight down");
        assert_eq!(found(&shot, 6, &flight(30, (0.0, 4.0), 0.3)), 1, "what falls out is lost");
        assert_eq!(found(&shot, 0, &flight(40, (4.0, 0.0), 0.0)), 1, "nobody knows whether it would go");
        assert_eq!(found(&shot, 6, &flight(120, (4.0, 0.0), 0.0)), 1, "it flies on and on");
        assert_eq!(found(&hero(0), 6, &flight(40, (4.0, 0.0), 0.0)), 1, "it can walk");
    }
}
