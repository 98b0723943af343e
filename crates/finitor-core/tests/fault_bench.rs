//! Faults of one rule each, planted at the end of clean play on random stages: found with the right rule, tick, cause and
//! figure, and nothing else is. Clean play has no finding at all. Recall and false alarms by rule are printed.
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    reason = "a test fails by panicking, and this one prints its tally"
)]

mod play;
mod world;

use finitor_core::stage::{Effect, Passes, Stage, Warp};
use finitor_core::{Facing, Rect, Vec2};
use play::play;
use std::collections::BTreeMap;
use world::*;

const SEEDS: u64 = 300;
const FLOOR: f64 = 280.0;
/// Walking speed, px a tick.
const WALK: f64 = 1.9;

/// Numbers from a seed, the same on every machine.
struct Random(u64);

impl Random {
    fn below(&mut self, most: u64) -> u64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 33) % most
    }

    /// A number from low to high in hundredths.
    fn between(&mut self, low: f64, high: f64) -> f64 {
        low + self.below(((high - low) * 100.0) as u64 + 1) as f64 / 100.0
    }
}

/// Walls all round, a floor, blocks and ledges that leave room to stand and jump.
fn stage_of(random: &mut Random) -> Stage {
    let mut stage = stage();
    for (name, rect) in [
        ("floor", Rect::new(0.0, FLOOR, 400.0, 300.0)),
        ("left", Rect::new(0.0, 0.0, 10.0, FLOOR)),
        ("right", Rect::new(390.0, 0.0, 400.0, FLOOR)),
        ("top", Rect::new(10.0, 0.0, 390.0, 10.0)),
    ] {
        stage.solids.push(solid(name, rect));
    }
    for index in 0..random.below(10) {
        let (x, y) = (20.0 + random.below(12) as f64 * 30.0, 60.0 + random.below(4) as f64 * 44.0);
        let right = (x + 30.0 + random.below(3) as f64 * 30.0).min(390.0);
        if random.below(2) == 0 {
            stage.one_ways.push(one_way(&format!("ledge_{index}"), Rect::new(x, y, right, y + 6.0), Passes::Up));
        } else {
            let thick = 8.0 + random.below(16) as f64;
            stage.solids.push(solid(&format!("block_{index}"), Rect::new(x, y, right, y + thick)));
        }
    }
    stage
}

fn keys_of(random: &mut Random) -> Vec<(i8, bool, bool, u8)> {
    let count = 4 + random.below(16);
    let key = |random: &mut Random| {
        (random.below(3) as i8 - 1, random.below(2) == 0, random.below(3) == 0, 4 + random.below(36) as u8)
    };
    (0..count).map(|_| key(random)).collect()
}

/// What must be found: rule, thing, tick, figure, cause.
struct Planted {
    rule: &'static str,
    with: String,
    tick: u64,
    figure: f64,
    cause: &'static str,
}

/// A stage and a take under construction.
struct Scene {
    stage: Stage,
    rows: Vec<Row>,
}

impl Scene {
    fn next(&self) -> u64 {
        self.rows.len() as u64
    }

    fn row(&mut self, at: (f64, f64), pose: &'static str, states: &'static str) {
        self.rows.push(Row(self.next(), at, Facing::Right, pose, states));
    }

    /// A new place for a scene of so many px along the floor and so high, where the play before did not come and nothing
    /// is; its left.
    fn plot(&self, random: &mut Random, wide: f64, high: f64) -> Option<f64> {
        let taken = self
            .stage
            .solids
            .iter()
            .map(|s| s.outline.bounds)
            .chain(self.stage.one_ways.iter().map(|o| o.outline.bounds));
        let taken: Vec<Rect> = taken.collect();
        let bodies: Vec<Rect> = self
            .rows
            .iter()
            .map(|row| Rect::new(row.1.0 - 20.0, row.1.1 - 30.0, row.1.0 + 20.0, row.1.1 + 8.0))
            .collect();
        (0..40).find_map(|_| {
            let left = random.between(12.0, 388.0 - wide);
            let plot = Rect::new(left, FLOOR - high, left + wide, FLOOR);
            let free = |rect: &Rect| plot.intersect(*rect).area() <= 0.0;
            (taken.iter().all(free) && bodies.iter().all(free)).then_some(left)
        })
    }
}

type Plant = fn(&mut Scene, &mut Random) -> Option<Planted>;

fn planted(scene: &Scene, rule: &'static str, with: &str, figure: f64, cause: &'static str) -> Planted {
    Planted { rule, with: with.to_string(), tick: scene.next() - 1, figure, cause }
}

fn embedded(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let (x, deep) = (scene.plot(random, 40.0, 30.0)? + 20.0, random.between(0.6, 5.0));
    scene.row((x, FLOOR), "stand", "warped");
    scene.row((x, FLOOR + deep), "stand", "");
    Some(planted(scene, "embedded", "yard/floor", deep, "moved"))
}

fn tunnelled(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 40.0, 100.0)?;
    let (thick, x) = (random.between(2.0, 12.0), left + 20.0);
    let plank = Rect::new(left, FLOOR - 60.0, left + 40.0, FLOOR - 60.0 + thick);
    scene.stage.solids.push(solid("plank", plank));
    scene.row((x, plank.y0), "stand", "warped");
    let end = plank.y1 + 20.0 + random.between(0.0, 10.0);
    scene.row((x, end), "none", "");
    scene.rows.pop();
    scene.row((x, end), "stand", "");
    // The deepest on the way, by fine steps: out upwards, downwards or to a side.
    let deepest = (0..=100_000).map(|step| {
        let foot = plank.y0 + (end - plank.y0) * f64::from(step) / 100_000.0;
        let (down, up) = (plank.y1 - (foot - 20.0), foot - plank.y0);
        down.min(up).min(x + 4.0 - plank.x0).min(plank.x1 - (x - 6.0)).max(0.0)
    });
    let deepest = deepest.fold(0.0, f64::max);
    Some(planted(scene, "tunnelled", "yard/plank", deepest, "moved"))
}

fn no_headroom(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 60.0, 40.0)?;
    let room = random.between(10.0, 19.0);
    scene.stage.solids.push(solid("roof", Rect::new(left, FLOOR - 40.0, left + 60.0, FLOOR - room)));
    scene.row((left + 30.0, FLOOR), "duck", "warped");
    scene.row((left + 30.0, FLOOR), "stand", "");
    Some(planted(scene, "no_headroom", "yard/roof", 20.0 - room, "reshaped"))
}

fn warp_blocked(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let (x, deep) = (scene.plot(random, 40.0, 30.0)? + 20.0, random.between(0.6, 8.0));
    scene.row((x, FLOOR + deep), "stand", "warped");
    Some(planted(scene, "warp_blocked", "yard/floor", deep, "warped"))
}

fn warp_bounce(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 90.0, 40.0)?;
    let mut gate = |name: &str, x: f64, to: usize| {
        let mut gate = zone(name, Rect::new(x, FLOOR - 30.0, x + 16.0, FLOOR), Effect::Warp);
        gate.warp = Some(Warp { to, landing: Vec2::ZERO, facing: None, turns_speed: false });
        scene.stage.zones.push(gate);
    };
    gate("here", left, 1);
    gate("there", left + 60.0, 0);
    let x = left + 60.0 + random.between(-2.0, 18.0);
    scene.row((x, FLOOR), "stand", "warped");
    // The body reaches 6 px behind and 4 ahead.
    let out = (x + 4.0 - (left + 60.0)).min(left + 76.0 - (x - 6.0));
    Some(planted(scene, "warp_bounce", "yard/there", out, "warped"))
}

fn flicker(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 120.0, 60.0)?;
    let (top, gap) = (FLOOR - 30.0, random.between(9.0, 14.0));
    scene.stage.solids.push(solid("near", Rect::new(left, top, left + 50.0, top + 6.0)));
    scene.stage.solids.push(solid("far", Rect::new(left + 50.0 + gap, top, left + 120.0, top + 6.0)));
    let (mut x, mut lost) = (left + 30.0, 0);
    scene.row((x, top), "stand", "warped");
    loop {
        x += WALK;
        scene.row((x, top), "stand", "");
        // The strip under the feet reaches 5 px behind and 3 ahead.
        let stands = x - 5.0 < left + 50.0 - 1e-9 || x + 3.0 > left + 50.0 + gap + 1e-9;
        if !stands {
            lost += 1;
        } else if lost > 0 {
            break;
        }
        if x > left + 100.0 {
            return None;
        }
    }
    Some(planted(scene, "flicker", "yard", f64::from(lost), "moved"))
}

fn popped(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 80.0, 60.0)?;
    let high = random.between(5.0, 20.0);
    scene.stage.solids.push(solid("crate", Rect::new(left + 40.0, FLOOR - high, left + 80.0, FLOOR)));
    scene.row((left + 34.0, FLOOR), "stand", "warped");
    scene.row((left + 36.0, FLOOR), "stand", "");
    scene.row((left + 38.0, FLOOR - high), "stand", "");
    Some(planted(scene, "popped", "yard", high, "moved"))
}

fn snagged(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 80.0, 40.0)?;
    let high = random.between(0.6, 4.0);
    scene.stage.solids.push(solid("kerb", Rect::new(left + 50.0, FLOOR - high, left + 80.0, FLOOR)));
    let mut x = left + 20.0;
    scene.row((x, FLOOR), "stand", "warped");
    while x < left + 46.0 {
        x = (x + WALK).min(left + 46.0);
        scene.row((x, FLOOR), "stand", "");
    }
    // The step that meets the edge may be a short one, and then it is the one that is stopped.
    let moved = |scene: &Scene, back: usize| {
        let last = scene.rows.len() - 1 - back;
        scene.rows[last].1.0 - scene.rows[last - 1].1.0
    };
    if moved(scene, 0) > WALK * 0.25 {
        scene.row((x, FLOOR), "stand", "");
    }
    Some(planted(scene, "snagged", "yard/kerb", high, "moved"))
}

fn drop_overrun(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 60.0, 140.0)?;
    let (top, apart) = (FLOOR - 110.0, random.between(28.0, 60.0));
    for (name, y) in [("upper", top), ("lower", top + apart)] {
        scene.stage.one_ways.push(one_way(name, Rect::new(left, y, left + 60.0, y + 4.0), Passes::Up));
    }
    let (x, mut y, mut fall) = (left + 30.0, top, 0.0);
    scene.row((x, y), "stand", "warped");
    while y <= top + apart {
        fall += 0.35;
        y += fall;
        scene.row((x, y), "stand", "drop");
    }
    Some(planted(scene, "drop_overrun", "yard/lower", apart, "moved"))
}

fn zone_skipped(scene: &mut Scene, random: &mut Random) -> Option<Planted> {
    let left = scene.plot(random, 120.0, 60.0)?;
    let wide = random.between(1.0, 6.0);
    scene.stage.zones.push(zone(
        "wire",
        Rect::new(left + 60.0, FLOOR - 60.0, left + 60.0 + wide, FLOOR),
        Effect::Event,
    ));
    let (x, step) = (left + 60.0 - 4.0 - random.between(0.0, 2.0), 10.0 + wide + 4.5);
    scene.row((x, FLOOR), "stand", "warped");
    scene.row((x + step, FLOOR), "stand", "");
    // As deep as body and wire allow, whichever way out is nearer at the middle of the way.
    Some(planted(scene, "zone_skipped", "yard/wire", (10.0 + wide) / 2.0, "moved"))
}

#[test]
fn every_planted_fault_is_found_as_it_is_and_clean_play_has_none() {
    let plants: [(&str, Plant); 10] = [
        ("embedded", embedded),
        ("tunnelled", tunnelled),
        ("no_headroom", no_headroom),
        ("warp_blocked", warp_blocked),
        ("warp_bounce", warp_bounce),
        ("flicker", flicker),
        ("popped", popped),
        ("snagged", snagged),
        ("drop_overrun", drop_overrun),
        ("zone_skipped", zone_skipped),
    ];
    let mut tally: BTreeMap<&str, (u32, u32, u32)> = plants.iter().map(|(rule, _)| (*rule, (0, 0, 0))).collect();
    let mut wrong = Vec::new();
    let mut clean = 0;
    for seed in 0..SEEDS {
        let mut random = Random(seed);
        let stage = stage_of(&mut random);
        let rows = play(&stage, &keys_of(&mut random));
        clean += rows.len();
        for (rule, found, ..) in short(&check(&stage, hero(0), &rows)) {
            wrong.push(format!("seed {seed}: {rule} with {found} in clean play"));
        }
        for (rule, plant) in &plants {
            let mut scene = Scene { stage: stage.clone(), rows: rows.clone() };
            let Some(planted) = plant(&mut scene, &mut random) else { continue };
            let of = tally.get_mut(rule).unwrap();
            of.0 += 1;
            let report = short(&check(&scene.stage, hero(0), &scene.rows));
            let is_it = |found: &(String, String, (u64, u64), f64, &str)| {
                let (name, with, ticks, figure, cause) = found;
                name == planted.rule
                    && *with == planted.with
                    && *ticks == (planted.tick, planted.tick)
                    && (figure - planted.figure).abs() <= 0.01
                    && *cause == planted.cause
            };
            of.1 += u32::from(report.iter().any(is_it));
            let others = report.iter().filter(|found| !is_it(found)).count() as u32;
            of.2 += others;
            if report.len() != 1 || others > 0 {
                let Planted { with, tick, figure, cause, .. } = planted;
                wrong
                    .push(format!("seed {seed}: {rule} with {with} at {tick}, {figure:.3}, {cause}; found {report:?}"));
            }
        }
    }
    println!("{SEEDS} seeds, {clean} ticks of clean play\nrule           planted  found  other findings");
    for (rule, (planted, found, others)) in &tally {
        println!("{rule:<14} {planted:>7}  {found:>5}  {others:>14}");
        assert!(*planted > 50, "{rule} was planted only {planted} times");
    }
    assert!(wrong.is_empty(), "{} wrong, the first: {:#?}", wrong.len(), &wrong[..wrong.len().min(8)]);
}
