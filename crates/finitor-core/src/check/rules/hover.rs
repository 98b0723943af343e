//! hover: a standing actor's art is above the ground.

use crate::check::Settings;
use crate::check::aloft::{self, AloftMemory};
use crate::check::feet::{self, HOVER, OffGround, On};
use crate::check::ledger::{Case, Ledger};
use crate::check::look::Look;
use crate::check::per_instance::PerInstance;
use crate::check::standing::Floors;
use crate::check::step::{InstanceIndex, Step};
use crate::check::take_rule::{Scene, TakeRule, Words};
use crate::check::words::px;
use crate::geometry::{Polygon, Rect, TOUCH, Vec2, cut_back, overlap_depth};
use crate::rule::{RuleText, Severity, Spec, Unit, Views};
use crate::world::OneWayIndex;

#[derive(Debug)]
pub(crate) struct Hover {
    allowed: f64,
    aloft: PerInstance<AloftMemory>,
}

impl TakeRule for Hover {
    const SPEC: Spec = Spec {
        code: "hover",
        severity: Severity::Warn,
        views: Views::Side,
        unit: Unit::Px,
        thresholds: &[HOVER],
        text: RuleText {
            means: "An actor stands, yet the lowest opaque row of its art is above the ground.",
            matters: "The feet float above the ground, most visibly in idle poses.",
            measured: "An actor stands while the sensor strip below its body (without one, the body itself within \
                       check.slack) meets something that its body detects, for 0.15 s on end at the same height \
                       without falling faster: walks bob, and hops have a top. Where it came there and stays in place it is \
                       0.33 s, as games hold everything still where a blow lands. The figure is the least upright distance \
                       from the lowest opaque row to the surface under it; of a round foot beside a corner, how far it \
                       is from lying on that. It counts beyond check.hover. One that nothing carries stands, too, where it \
                       keeps its height for 0.5 s in an animation of the ground, no more than 16 px over it (of figures over 40 px high as \
                       many more), and did not rise there.",
            fix: "Move the body's bottom up to the lowest opaque row; or end the fall at the surface; or narrow a strip that \
                  stands on what is beside the body.",
            drawing: "    o\n   /|\\\n   / \\\n  .......  <- figure\n  #######\n",
        },
    };
    const LATE: u64 = aloft::LATE + 1;
    const AFTER: &'static [&'static str] = &["facing_split", "embedded", "hanging"];
    type Seen = OffGround;

    fn new(settings: &Settings) -> Hover {
        Hover { allowed: settings.get(&HOVER), aloft: PerInstance::default() }
    }

    fn step<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, OffGround>) {
        feet::see(look, self.allowed, Vec2::new(0.0, 1.0), |standing| standing.gap, out);
        self.see_aloft(look, out);
    }

    fn calm<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, OffGround>) {
        // With nothing near it may stand on nothing.
        if !look.seat.ground.now.carries {
            self.see_aloft(look, out);
        }
    }

    fn without_body(&mut self, instance: InstanceIndex) {
        self.aloft.forget(instance);
    }

    fn words<'a>(scene: &Scene<'_, 'a>, case: &Case<'a, OffGround>) -> Words {
        let OffGround { off, passing, on } = &case.to_fix.seen;
        let step = scene.step(case.to_fix.way);
        let drawn_high = step.drawn_high();
        let animation = &step.actor.animations[step.now().animation].name;
        let below = step.now().at + Vec2::new(0.0, off.by);
        let label = scene.label(case.key.instance);
        let by = px(case.worst.figure);
        if *on == On::Air {
            let ends_there = scene.may_end_at(&step, below);
            return Words {
                message: format!("{label} stands on nothing: its art ends {by} above the ground"),
                fix: format!(
                    "End the fall at y {}, {} lower; or log what carries it there, or a state such as climb or fly.",
                    scene.y(below.y),
                    px(off.by)
                ),
                remains: if ends_there { 0.0 } else { off.by },
                end_at: ends_there.then(|| step.end_at(below)),
                change: None,
            };
        }
        let message = format!("{label} stands, but its art ends {by} above the ground");
        if let Some(fix) = narrower(scene, &step, passing) {
            return Words { message, fix, remains: 0.0, end_at: None, change: None };
        }
        let remains = lowered(scene, &step, passing, off.by);
        let is_drawn = drawn_high >= off.by - step.slack;
        let falls_on = !is_drawn && remains <= 0.0 && scene.may_end_at(&step, below);
        let fix = if is_drawn {
            let shape = &step.body.name;
            format!("Move the bottom of {shape} {} up on {animation}, to where the art ends.", px(drawn_high))
        } else {
            format!("End the fall at y {}, {} lower.", scene.y(step.now().at.y + off.by), px(off.by))
        };
        Words { message, fix, remains, end_at: falls_on.then(|| step.end_at(below)), change: None }
    }
}

impl Hover {
    fn see_aloft<'a>(&mut self, look: &Look<'_, 'a>, out: &mut Ledger<'a, OffGround>) {
        if let Some(known) = self.aloft.of(look.step.instance()).see(look) {
            feet::see_aloft(look, self.allowed, known, out);
        }
    }
}

/// The fix where the strip stands on what is only beside the body: by how much it reaches past the body there.
fn narrower(scene: &Scene<'_, '_>, step: &Step<'_>, passing: &[OneWayIndex]) -> Option<String> {
    let strip = step.pose().strip_below()?;
    let (body, reach) = (step.body.bounds(), strip.bounds());
    let things = scene.world.things_in(step.reach(step.bounds()));
    let floors = Floors { world: scene.world, near: things.all(), passing };
    let stands = |x0: f64, x1: f64| {
        let part = Rect { x0: reach.x0.max(x0), x1: reach.x1.min(x1), ..reach };
        let part = if part.width() > 0.0 { Polygon::from_rect(part).ok() } else { None };
        let pieces = part.map(|part| part.pieces()).unwrap_or_default();
        let at = step.now().at.to_vec2();
        floors.supports(step).any(|outline| overlap_depth(&pieces, at, &outline.pieces) > TOUCH)
    };
    if stands(body.x0, body.x1) {
        return None;
    }
    let (left, right) = (stands(f64::NEG_INFINITY, body.x0), stands(body.x1, f64::INFINITY));
    let by = if left { body.x0 - reach.x0 } else { reach.x1 - body.x1 };
    let is_flipped = step.actor.shown(step.now().animation, step.now().frame, step.now().facing).flipped;
    let side = if left != is_flipped { "left" } else { "right" };
    (left || right).then(|| {
        let (name, shape) = (&strip.name, &step.body.name);
        format!("Narrow {name} by {} on the {side}, as drawn: it stands on what is beside {shape}.", px(by))
    })
}

/// What is left of a gap when the actor is lowered by it, its body's bottom drawn up to the art where that is higher.
fn lowered(scene: &Scene<'_, '_>, step: &Step<'_>, passing: &[OneWayIndex], gap: f64) -> f64 {
    let at = step.now().at + Vec2::new(0.0, gap);
    let bottom = step.body.bounds().y1 - step.drawn_high().max(0.0);
    let body = cut_back(&step.body.pieces, Vec2::new(0.0, 1.0), bottom);
    let moved = step.ending_at(at);
    let things = scene.world.things_in(moved.reach(moved.bounds()));
    let floors = Floors { world: scene.world, near: things.all(), passing };
    if floors.supports(step).any(|outline| overlap_depth(&body, at.to_vec2(), &outline.pieces) > step.slack) {
        return gap;
    }
    floors.ground(&moved).standing.map_or(gap, |standing| standing.gap.by.max(0.0))
}

#[cfg(test)]
mod tests {
    use crate::testing::*;
    use crate::{Point, Polygon, Rect};

    #[test]
    fn hover_is_told_for_standing_actors_only() {
        let mut stage = stage();
        stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 200.0, 300.0)));
        stage.solids.push(slope("ramp", &[(200.0, 200.0), (260.0, 170.0), (260.0, 300.0), (200.0, 300.0)]));
        let still = |y: f64, n: usize| path(&vec![(50.0, y); n]);
        assert_eq!(
            short(&check(&stage, hero(0), &still(198.75, 11))),
            vec![found("hover", "yard", (0, 10), 1.25, "spawned")]
        );
        // The art may end 2 px above the body's bottom: the body stands, the art floats.
        let drawn_high = check(&stage, hero(2), &still(200.0, 11));
        assert_eq!(short(&drawn_high), vec![found("hover", "yard", (0, 10), 2.0, "spawned")]);
        assert!(
            drawn_high.findings[0].fix.contains("the bottom of body 2.00 px up on stand"),
            "{}",
            drawn_high.findings[0].fix
        );
        // Within the allowance, landing, and walking up a slope with the corner of the body on it.
        assert_eq!(short(&check(&stage, hero(0), &still(199.0, 11))), []);
        assert_eq!(
            short(&check(&stage, hero(0), &path(&[(50.0, 190.0), (50.0, 194.5), (50.0, 198.5), (50.0, 200.0)]))),
            []
        );
        // A round foot beside a corner lies on it lower than the ground is.
        let foot = [(-6.0, -20.0), (4.0, -20.0), (4.0, -5.0), (-1.0, 0.0), (-6.0, -5.0)];
        let mut round = hero(0);
        let body = &mut round.animations[0].frames[0][0].shapes[0];
        body.polygons = vec![Polygon::new(foot.map(Point::from).to_vec()).unwrap()];
        body.pieces = body.polygons[0].pieces().into();
        let beside = |y: f64| path(&[(-1.03, y); 11]);
        assert_eq!(short(&check(&stage, round.clone(), &beside(202.03))), []);
        assert_eq!(
            short(&check(&stage, round, &beside(200.53))),
            vec![found("hover", "yard", (0, 10), 1.5, "spawned")]
        );
        let climb: Vec<(f64, f64)> =
            (0..30).map(f64::from).map(|i| (205.0 + i, 200.0 - (205.0 + i + 4.0 - 200.0) / 2.0)).collect();
        assert_eq!(short(&check(&stage, hero(0), &path(&climb))), []);
    }

    #[test]
    fn who_stands_on_nothing_hovers_and_who_flies_rises_or_is_carried_does_not() {
        let floor = floored();
        let level = LEVEL;
        // A walk, a hop that ends some px over the floor, and a walk on.
        let take = |gap: f64, on: &'static str, rise: bool| -> Vec<Row> {
            let mut places: Vec<((f64, f64), &'static str)> =
                (0..30).map(|k| ((20.0 + 1.3 * f64::from(k), level), "stand")).collect();
            let hop = (1..20).map(|k| (k, level - 5.0 * f64::from(k) + 0.25 * f64::from(k * k)));
            let is_before = |k: i32, y: f64| if rise { k < 10 && y > level - gap } else { k <= 10 || y < level - gap };
            let heights: Vec<f64> = hop.filter(|(k, y)| is_before(*k, *y)).map(|(_, y)| y).collect();
            places.extend(heights.iter().enumerate().map(|(k, y)| ((60.0 + 0.7 * k as f64, *y), "fall")));
            places.extend((0..50).map(|k| ((75.0 + 1.3 * f64::from(k.min(20)), level - gap), on)));
            let row = |(tick, (at, shown)): (usize, ((f64, f64), &'static str))| {
                Row(tick as u64, at, crate::Facing::Right, shown, "")
            };
            places.into_iter().enumerate().map(row).collect()
        };
        let told = |rows: &[Row]| short(&check(&floor, hero_with("fall"), rows));
        for gap in [1.25, 2.5, 6.0, 15.0] {
            let rows = take(gap, "stand", false);
            let found_there = told(&rows);
            let last = rows.len() as u64 - 1;
            assert_eq!(found_there.len(), 1, "{gap}: {found_there:?}");
            let (rule, _, span, figure, _) = found_there[0].clone();
            assert_eq!((rule.as_str(), figure), ("hover", gap), "{found_there:?}");
            assert!(span.1 == last && span.0 + 52 >= last, "{gap}: {span:?} of {last}");
            // What it shows once it has hung there for long is no reason to stop.
            let mut startled = rows.clone();
            startled.iter_mut().rev().take(12).for_each(|row| row.3 = "fall");
            assert_eq!(told(&startled), found_there, "{gap}");
        }
        // In the frame of its fall, far from the ground, come there by rising, and with a state that says so.
        let none: Vec<Short> = vec![];
        assert_eq!(told(&take(6.0, "fall", false)), none);
        assert_eq!(told(&take(40.0, "stand", false)), none);
        assert_eq!(told(&take(9.0, "stand", true)), none);
        let mut hanging = take(6.0, "stand", false);
        hanging.iter_mut().skip(30).for_each(|row| row.4 = "hang");
        assert_eq!(told(&hanging), none);
    }
}
