//! Standing, dropping, being put somewhere: each rule with its number, what does not break it, and that its mend ends it.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod world;

use finitor_core::actor::{Actor, Foot};
use finitor_core::art::Mask;
use finitor_core::check::Report;
use finitor_core::stage::{Effect, Passes, Stage, Warp};
use finitor_core::{Facing, Point, Rect, Vec2};
use world::*;

const FLOOR: f64 = 200.0;

fn floored() -> Stage {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, FLOOR, 400.0, 300.0)));
    stage
}

fn rows(places: &[(f64, f64)]) -> Vec<Row> {
    path(places)
}

fn told(report: &Report) -> Vec<(&'static str, (u64, u64), f64)> {
    report.findings.iter().map(|f| (f.rule.code(), span(f), (f.figure * 1000.0).round() / 1000.0)).collect()
}

/// A level walk at a speed from x to x.
fn walk(from: f64, to: f64, speed: f64, y: f64) -> Vec<(f64, f64)> {
    let count = ((to - from) / speed) as usize;
    (0..=count).map(|step| (from + speed * step as f64, y)).collect()
}

/// The hero with art that ends this many px under its pivot's line.
fn sunk_hero(deep: u32) -> Actor {
    let mut actor = hero(0);
    let opaque = Mask::from_fn(20, 24 + deep, |x, y| (4..14).contains(&x) && y >= 4);
    for pose in actor.animations.iter_mut().flat_map(|animation| animation.frames.iter_mut().flatten()) {
        pose.foot = Foot::new(&opaque.runs(), Point::new(10.0, 24.0));
    }
    actor
}

#[test]
fn feet_under_level_ground_are_told_and_on_a_slope_they_are_not() {
    let stage = floored();
    let still = rows(&[(50.0, FLOOR); 11]);
    assert_eq!(told(&check(&stage, sunk_hero(3), &still)), [("sunk_feet", (0, 10), 3.0)]);
    let report = check(&stage, sunk_hero(3), &still);
    assert!(report.findings[0].fix.contains("the bottom of body 3.00 px down"), "{:?}", report.findings);
    // Within the allowance of 1 px, and with the pivot as much lower: the mend.
    assert_eq!(told(&check(&stage, sunk_hero(1), &still)), []);
    assert_eq!(told(&check(&stage, hero(0), &still)), []);
    // The body itself too deep is one fault, and not two.
    assert_eq!(told(&check(&stage, hero(0), &rows(&[(50.0, FLOOR + 4.0); 4]))), [("embedded", (0, 3), 4.0)]);
    let mut hill = floored();
    hill.solids.push(slope("hill", &[(100.0, FLOOR), (200.0, FLOOR - 50.0), (300.0, FLOOR)]));
    // Resting on the slope by its front corner, 4 px ahead of the pivot; the art's back foot hangs over lower ground.
    let on_slope = |x: f64| (x, FLOOR - (x + 4.0 - 100.0) / 2.0);
    assert_eq!(told(&check(&hill, hero(0), &rows(&[on_slope(140.0); 4]))), []);
}

#[test]
fn ground_that_comes_and_goes_is_told_with_the_ticks_that_bridge_it() {
    // Two planks with 11 px between them; the strip under the feet is 8 px long.
    let gap = |wide: f64| {
        let mut stage = stage();
        stage.solids.push(solid("near", Rect::new(0.0, FLOOR, 100.0, 206.0)));
        stage.solids.push(solid("far", Rect::new(100.0 + wide, FLOOR, 300.0, 206.0)));
        stage
    };
    let across = rows(&walk(80.13, 140.0, 1.0, FLOOR));
    let report = check(&gap(11.0), hero(0), &across);
    // In the air while the strip, from 5 px behind to 3 ahead, lies over the gap: x from 105.13 to 107.13.
    assert_eq!(told(&report), [("flicker", (28, 28), 3.0)]);
    assert!(report.findings[0].fix.contains("grounded for 3 ticks"), "{}", report.findings[0].fix);
    // A longer gap is a gap, a shorter one is bridged by the strip.
    assert_eq!(told(&check(&gap(13.0), hero(0), &across)), []);
    assert_eq!(told(&check(&gap(7.9), hero(0), &across)), []);
    // A hop is a jump, and the first two times down an edge are edges; the third within a few ticks is a slope that loses it.
    let hop = [(50.0, FLOOR), (51.0, FLOOR - 3.0), (52.0, FLOOR - 3.0), (53.0, FLOOR)];
    assert_eq!(told(&check(&floored(), hero(0), &rows(&hop))), []);
    let mut stairs = stage();
    for step in 0..4 {
        let (x, y) = (100.0 + 12.0 * f64::from(step), FLOOR + 3.0 * f64::from(step));
        stairs.solids.push(solid(
            &format!("stair_{step}"),
            Rect::new(x - 100.0 * f64::from(u8::from(step == 0)), y, x + 12.0, 300.0),
        ));
    }
    // Off the first stair at x 112 + 6, down 3 px in two ticks, and again 12 px on.
    let down = |from: f64, y: f64| [(from, y), (from + 1.0, y + 0.4), (from + 2.0, y + 3.0)];
    let once = [&[(115.0, FLOOR), (117.0, FLOOR)][..], &down(118.0, FLOOR), &[(121.0, 203.0)]].concat();
    assert_eq!(told(&check(&stairs, hero(0), &rows(&once))), []);
    let twice = [&once[..], &[(128.0, 203.0), (129.0, 203.0)], &down(130.0, 203.0), &[(133.0, 206.0)]].concat();
    assert_eq!(told(&check(&stairs, hero(0), &rows(&twice))), []);
    let thrice = [&twice[..], &[(140.0, 206.0), (141.0, 206.0)], &down(142.0, 206.0), &[(145.0, 209.0)]].concat();
    let report = check(&stairs, hero(0), &rows(&thrice));
    assert_eq!(report.findings.iter().map(|f| f.rule.code()).collect::<Vec<_>>(), ["flicker"], "{:?}", told(&report));
}

#[test]
fn a_leap_up_an_edge_is_told_beyond_the_step_and_a_walk_up_a_slope_is_not() {
    let mut stage = floored();
    stage.solids.push(solid("crate", Rect::new(100.0, FLOOR - 9.0, 160.0, FLOOR)));
    let up = [(92.0, FLOOR), (94.0, FLOOR), (96.0, FLOOR), (98.0, FLOOR - 9.0), (100.0, FLOOR - 9.0)];
    let report = check(&stage, hero(0), &rows(&up));
    assert_eq!(told(&report), [("popped", (3, 3), 9.0)]);
    assert!(report.findings[0].fix.contains("[moves] step = 9.00"), "{}", report.findings[0].fix);
    // The mend: a hero that may climb so high.
    let mut climber = hero(0);
    climber.moves.step = Some(9.0);
    assert_eq!(told(&check(&stage, climber, &rows(&up))), []);
    // A jump onto it is no leap: it is in the air before.
    let jump = [(92.0, FLOOR), (94.0, FLOOR - 8.0), (96.0, FLOOR - 14.0), (98.0, FLOOR - 12.0), (100.0, FLOOR - 9.0)];
    assert_eq!(told(&check(&stage, hero(0), &rows(&jump))), []);
    let mut hill = floored();
    hill.solids.push(slope("hill", &[(100.0, FLOOR), (200.0, FLOOR - 100.0), (200.0, FLOOR)]));
    // Up a slope of 45 degrees at 5 px a tick.
    let climb: Vec<(f64, f64)> =
        (0..12).map(|k| 100.0 + 5.0 * f64::from(k)).map(|x| (x, FLOOR - (x + 4.0 - 100.0))).collect();
    assert_eq!(told(&check(&hill, hero(0), &rows(&climb))), []);
}

#[test]
fn an_edge_that_stops_a_walk_is_told_when_it_is_low_and_a_wall_is_not() {
    let kerb = |high: f64| {
        let mut stage = floored();
        stage.solids.push(solid("kerb", Rect::new(100.0, FLOOR - high, 160.0, FLOOR)));
        stage
    };
    // The front is 4 px ahead: it meets the edge at x 96 and stays there.
    let stopped = [&walk(80.37, 94.37, 2.0, FLOOR)[..], &[(96.0, FLOOR); 4]].concat();
    let report = check(&kerb(2.0), hero(0), &rows(&stopped));
    assert_eq!(told(&report), [("snagged", (9, 9), 2.0)]);
    let whole = [&walk(80.0, 96.0, 2.0, FLOOR)[..], &[(96.0, FLOOR); 4]].concat();
    assert_eq!(told(&check(&kerb(2.0), hero(0), &rows(&whole))), [], "in whole px that may be a key let go");
    assert_eq!(at(&report.findings[0]).worst.at, Point::new(100.0, FLOOR - 2.0));
    // The mend: lifted over it and on.
    let over = [&walk(80.0, 96.0, 2.0, FLOOR)[..], &walk(98.0, 110.0, 2.0, FLOOR - 2.0)].concat();
    assert_eq!(told(&check(&kerb(2.0), hero(0), &rows(&over))), []);
    assert_eq!(told(&check(&kerb(12.0), hero(0), &rows(&stopped))), [], "a wall stops by right");
    assert_eq!(told(&check(&floored(), hero(0), &rows(&stopped))), [], "who lets go of the key stops by right");
    let away = [&walk(60.0, 80.0, 2.0, FLOOR)[..], &[(80.0, FLOOR); 3]].concat();
    assert_eq!(told(&check(&kerb(2.0), hero(0), &rows(&away))), []);
}

#[test]
fn a_warp_that_takes_back_is_told_at_once_or_when_its_cooldown_ends() {
    let gates = |cooldown: u32| {
        let mut stage = floored();
        for (name, x, to) in [("low", 100.0, 1), ("high", 200.0, 0)] {
            let mut gate = zone(name, Rect::new(x, FLOOR - 30.0, x + 16.0, FLOOR), Effect::Warp);
            gate.warp = Some(Warp { to, landing: Vec2::ZERO, facing: None, turns_velocity: false });
            gate.cooldown = cooldown;
            stage.zones.push(gate);
        }
        stage
    };
    let row = |tick: u64, x: f64, states: &'static str| Row(tick, (x, FLOOR), Facing::Right, "stand", states);
    // In at x 97, out at 208: 14 px to be clear of the left side, 14 of the right.
    let still = |leave: u64| -> Vec<Row> {
        let mut all = vec![row(0, 90.0, ""), row(1, 97.0, ""), row(2, 208.0, "warped")];
        all.extend((3..14).map(|tick| row(tick, if tick < leave { 208.0 } else { 223.0 }, "")));
        all
    };
    assert_eq!(told(&check(&gates(0), hero(0), &still(99))), [("warp_bounce", (2, 2), 12.0)]);
    assert_eq!(told(&check(&gates(8), hero(0), &still(99))), [("warp_bounce", (10, 10), 12.0)]);
    assert_eq!(told(&check(&gates(8), hero(0), &still(9))), [], "gone before the cooldown ends");
    // The mend: the landing as much further on.
    let clear = vec![row(0, 90.0, ""), row(1, 97.0, ""), row(2, 196.0, "warped"), row(3, 196.0, "")];
    assert_eq!(told(&check(&gates(0), hero(0), &clear)), []);
}

#[test]
fn a_platform_at_an_angle_stops_from_its_far_side_alone() {
    // A board that rises to the right at 45 degrees and lets pass up and to the left, at right angles to itself.
    let mut stage = stage();
    let mut board = one_way("board", Rect::new(0.0, 0.0, 1.0, 1.0), Passes::Angle(315.0));
    let polygon = finitor_core::Polygon::new(
        [(100.0, 200.0), (200.0, 100.0), (203.0, 103.0), (103.0, 203.0)].map(Point::from).to_vec(),
    );
    board.outline = polygon.unwrap().into();
    stage.one_ways.push(board);
    let way = stage.one_ways[0].passes.direction();
    assert!((way - Vec2::new(-1.0, -1.0) / 2.0_f64.sqrt()).hypot() < 1e-12);
    let along = |from: (f64, f64), by: (f64, f64), count: u32| -> Vec<Row> {
        let at = |k: u32| (from.0 + by.0 * f64::from(k), from.1 + by.1 * f64::from(k));
        rows(&(0..count).map(at).collect::<Vec<_>>())
    };
    // Through it along its pass direction, from below right: nothing. Against it, from above left: into it.
    assert_eq!(told(&check(&stage, hero(0), &along((190.0, 200.0), (-3.0, -3.0), 30))), []);
    let found = check(&stage, hero(0), &along((120.0, 130.0), (2.0, 2.0), 16));
    assert_eq!(found.findings.iter().map(|f| f.rule.code()).collect::<Vec<_>>(), ["embedded"], "{:?}", told(&found));
    // Resting on it, its lower right corner 4 px ahead on the board, is a touch.
    assert_eq!(told(&check(&stage, hero(0), &rows(&[(146.0, 150.0); 4]))), []);
}
