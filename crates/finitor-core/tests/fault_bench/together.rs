//! Faults of the hero and another actor, planted at the end of a take.

use crate::scene::*;
use crate::world::dice::Dice;
use crate::world::*;
use finitor_core::actor::{Actor, Role};
use finitor_core::finding::Finding;
use finitor_core::layers::LayerSet;
use finitor_core::{Polygon, Rect};

fn crate_at(x: f64) -> Other {
    Other { label: "crate", at: (x, FLOOR), animation: "rest", frame: 0 }
}

pub fn in_each_other(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (left, deep) = (scene.plot(dice, 80.0, 40.0)?, dice.hundredths(0.6, 4.0));
    let x = left + 20.0;
    scene.both((x - 5.0, FLOOR), ("stand", 0), "warped", crate_at(x + 12.0 - deep));
    scene.both((x, FLOOR), ("stand", 0), "", crate_at(x + 12.0 - deep));
    let share = |scene: &mut Scene, finding: &Finding| scene.rows.last_mut().unwrap().1.0 -= numbers(finding)[0];
    Some(Planted::new(scene, "crate.body", deep, "moved", share))
}

pub fn through_each_other(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let left = scene.plot(dice, 120.0, 40.0)?;
    let (x, step, back) = (left + 20.0, dice.hundredths(32.0, 38.0), dice.hundredths(0.0, 4.0));
    // Towards each other: the hero by the step, the crate by a few px.
    let from = x + 12.5;
    scene.both((x, FLOOR), ("stand", 0), "warped", crate_at(from));
    scene.both((x + step, FLOOR), ("stand", 0), "", crate_at(from - back));
    if x + step - 6.0 < from - back + 8.0 {
        return None;
    }
    // The deepest on the way, by fine steps.
    let deepest = (0..=100_000).map(|part| {
        let part = f64::from(part) / 100_000.0;
        let (hero, crate_) = (x + step * part, from - back * part);
        (hero + 4.0 - (crate_ - 8.0)).min(crate_ + 8.0 - (hero - 6.0)).clamp(0.0, 16.0)
    });
    let deepest = deepest.fold(0.0, f64::max);
    let stop_both = |scene: &mut Scene, finding: &Finding| {
        let places = numbers(finding);
        scene.rows.last_mut().unwrap().1.0 = places[0];
        if places.len() > 3 {
            scene.others.get_mut(&(scene.next() - 1)).unwrap().at.0 = places[2];
        }
    };
    Some(Planted::new(scene, "crate.body", deepest, "moved", stop_both))
}

pub fn pushed(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (left, deep) = (scene.plot(dice, 90.0, 50.0)?, dice.hundredths(0.6, 3.0));
    scene.wall(left + 60.0);
    // The crate's right side at the wall, the hero's front at its left side; both go on.
    let (hero, crate_) = (left + 60.0 - 16.0 - 4.0, left + 60.0 - 8.0);
    scene.both((hero, FLOOR), ("stand", 0), "warped", crate_at(crate_));
    scene.both((hero + deep, FLOOR), ("stand", 0), "", crate_at(crate_ + deep));
    let stop_both = |scene: &mut Scene, finding: &Finding| {
        let (last, by) = (scene.next() - 1, numbers(finding)[0]);
        scene.others.get_mut(&last).unwrap().at.0 -= by;
        scene.rows.last_mut().unwrap().1.0 -= by;
    };
    let planted = Planted::new(scene, "yard/wall", deep, "pushed", stop_both);
    Some(Planted { actor: "crate", ..planted })
}

pub fn spawned(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (left, deep) = (scene.plot(dice, 90.0, 50.0)?, dice.hundredths(0.6, 5.0));
    scene.wall(left + 60.0);
    let crate_ = left + 60.0 - 8.0 + deep;
    scene.both((left + 20.0, FLOOR), ("stand", 0), "warped", crate_at(crate_));
    let put = |scene: &mut Scene, finding: &Finding| {
        scene.others.get_mut(&(scene.next() - 1)).unwrap().at.0 -= numbers(finding)[0];
    };
    let planted = Planted::new(scene, "yard/wall", deep, "spawned", put);
    Some(Planted { actor: "crate", ..planted })
}

pub fn ghost_pair(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let (left, deep) = (scene.plot(dice, 80.0, 40.0)?, dice.hundredths(0.6, 4.0));
    scene.actors.push(Actor { name: "twin".into(), ..hero(0) });
    let twin = |x: f64| Other { label: "twin", at: (x, FLOOR), animation: "stand", frame: 0 };
    let x = left + 20.0;
    scene.both((x - 2.0, FLOOR), ("stand", 0), "warped", twin(x + 10.0));
    scene.both((x, FLOOR), ("stand", 0), "", twin(x + 10.0 - deep));
    let look = |scene: &mut Scene, finding: &Finding| {
        assert!(finding.fix.contains("Add hero (bit 2) to the mask of hero.body"), "{}", finding.fix);
        let poses = scene.actors[0].animations.iter_mut().flat_map(|a| &mut a.frames).flatten();
        for shape in poses.flat_map(|pose| &mut pose.shapes).filter(|shape| shape.name == "body") {
            shape.mask = shape.mask.or(LayerSet::of(HERO));
        }
    };
    Some(Planted::new(scene, "twin.body", deep, "moved", look))
}

/// How far the hero's arm reaches ahead of its body, px.
const ARM: f64 = 18.0;

/// Gives the hero a swing with an arm, its hit as long as the arm less some px, and adds a dummy: its art a box 16 px wide and
/// high, its hurt shape beginning this many px ahead of that.
fn swing_at_dummy(scene: &mut Scene, short: f64, ahead: f64) {
    let (torso, arm) = (Rect::new(-6.0, -20.0, 4.0, 0.0), Rect::new(4.0, -14.0, 4.0 + ARM, -8.0));
    let hit = ("hit", Role::Hit, Rect::new(4.0, -14.0, 4.0 + ARM - short, -8.0), HERO);
    let out = || hero_drawn(&[torso, arm], &[hit]);
    scene.animation("swing", vec![hero_drawn(&[torso], &[]), out(), out(), out()]);
    let dummy = drawn(
        &[Rect::new(-8.0, -16.0, 8.0, 0.0)],
        &[("hurt", Role::Hurt, Rect::new(-8.0 - ahead, -16.0, 8.0, 0.0), CRATE)],
    );
    scene.actors.push(actor("dummy", vec![("rest", vec![dummy])]));
}

fn dummy_at(x: f64) -> Other {
    Other { label: "dummy", at: (x, FLOOR), animation: "rest", frame: 0 }
}

/// Makes a shape of an actor, the last one or the hero, reach further ahead of, or less far behind, its left or right side.
fn reshape(scene: &mut Scene, actor: &str, name: &str, change: impl Fn(Rect) -> Rect) {
    let of = scene.actors.iter_mut().find(|known| known.name == actor).unwrap();
    let poses = of.animations.iter_mut().flat_map(|animation| &mut animation.frames).flatten();
    for shape in poses.flat_map(|pose| &mut pose.shapes).filter(|shape| shape.name == name) {
        let polygon = Polygon::from_rect(change(shape.bounds())).unwrap();
        (shape.pieces, shape.polygons) = (polygon.pieces().into(), vec![polygon]);
    }
}

pub fn repeat_hit(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let x = scene.plot(dice, 130.0, 40.0)? + 20.0;
    swing_at_dummy(scene, 0.0, 0.0);
    let (near, far, away) = (x + 4.0 + ARM + 5.0, x + 80.0, 1 + dice.below(6));
    scene.both((x, FLOOR), ("swing", 1), "warped", dummy_at(near));
    (0..away).for_each(|_| scene.both((x, FLOOR), ("swing", 2), "", dummy_at(far)));
    scene.both((x, FLOOR), ("swing", 3), "", dummy_at(near));
    Some(Planted::new(scene, "dummy.hurt", (away + 1) as f64, "moved", |_, _| {}))
}

pub fn phantom_hit(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let x = scene.plot(dice, 130.0, 40.0)? + 20.0;
    let ahead = f64::from(dice.whole(6, 12));
    swing_at_dummy(scene, 0.0, ahead);
    let into = dice.hundredths(0.6, ahead - 4.2);
    let at = x + 4.0 + ARM - into + 8.0 + ahead;
    scene.both((x, FLOOR), ("swing", 0), "warped", dummy_at(at));
    scene.both((x, FLOOR), ("swing", 1), "", dummy_at(at));
    let of = |scene: &Scene, actor: usize, animation: &str, frame: usize, at: f64| {
        let actor = &scene.actors[actor];
        pixels(actor.pose(actor.find(animation).unwrap(), frame, finitor_core::Facing::Right), (at, FLOOR))
    };
    let (own, theirs) = (of(scene, 0, "swing", 1, x), of(scene, 2, "rest", 0, at));
    let apart = own.iter().flat_map(|a| theirs.iter().map(move |b| (a, b))).map(|(a, b)| {
        let across = (b.x0 - a.x1).max(a.x0 - b.x1).max(0.0);
        across.hypot((b.y0 - a.y1).max(a.y0 - b.y1).max(0.0))
    });
    let apart = apart.fold(f64::INFINITY, f64::min);
    let draw_back = |scene: &mut Scene, finding: &Finding| {
        assert!(finding.fix.contains("the left edge of hurt"), "{}", finding.fix);
        let by = numbers(finding)[0];
        reshape(scene, "dummy", "hurt", |rect| Rect { x0: rect.x0 + by, ..rect });
    };
    Some(Planted::new(scene, "dummy.hurt", apart, "reshaped", draw_back))
}

pub fn missed_hit(scene: &mut Scene, dice: &mut Dice) -> Option<Planted> {
    let x = scene.plot(dice, 130.0, 40.0)? + 20.0;
    let (short, inset) = (f64::from(dice.whole(4, 8)), f64::from(dice.whole(3, 4)));
    swing_at_dummy(scene, short, -inset);
    let covered = dice.hundredths(5.5, short + inset - 0.1);
    let at = x + 4.0 + ARM - covered + 8.0;
    let first = scene.next() + 1;
    let frames: Vec<usize> = (0..2 + dice.below(4)).map(|k| (k as usize).min(3)).collect();
    for (index, frame) in frames.iter().enumerate() {
        scene.both((x, FLOOR), ("swing", *frame), if index == 0 { "warped" } else { "" }, dummy_at(at));
    }
    let last = scene.next() - 1;
    scene.both((x, FLOOR), ("stand", 0), "", dummy_at(at));
    let of = &scene.actors[0];
    let arm = pixels(of.pose(of.find("swing").unwrap(), 1, finitor_core::Facing::Right), (x, FLOOR));
    let dummy = Rect::new(at - 8.0, FLOOR - 16.0, at + 8.0, FLOOR);
    let area = arm.iter().map(|pixel| pixel.intersect(dummy).area()).sum();
    let reach = |scene: &mut Scene, finding: &Finding| {
        let by = numbers(finding)[0] + 0.02;
        reshape(scene, "hero", "hit", |rect| Rect { x1: rect.x1 + by, ..rect });
    };
    let planted = Planted::new(scene, "dummy.hurt", area, "moved", reach);
    Some(Planted { ticks: (first, last), ..planted })
}
