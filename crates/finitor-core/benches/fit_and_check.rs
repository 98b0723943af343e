//! What a user waits for: an outline a frame, and a take tick by tick. Each stands beside a plain loop over the same
//! data, so that figures can be read as ratios of one run.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

use criterion::{BenchmarkId, Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Foot, PixelRuns, Pose, Role, Shape};
use finitor_core::art::{Mask, contours};
use finitor_core::check::{CheckInput, Checker, Settings};
use finitor_core::clearance::{Stance, passages};
use finitor_core::fit::{FitGoal, Fitting, Kind, Side, fit_shape, measure};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::stage::{Solid, Stage, TileFill, TileGrid, merged_tiles};
use finitor_core::take::Sample;
use finitor_core::{Facing, Point, Polygon, Rect, Vec2};
use std::hint::black_box;
use std::time::Duration;

/// A figure of overlapping discs with a thin pole: as much boundary for its size as a sprite has.
fn figure(side: u32) -> Mask {
    let s = f64::from(side);
    Mask::from_fn(side, side, |x, y| {
        let (x, y) = (f64::from(x) / s, f64::from(y) / s);
        let disc = |cx: f64, cy: f64, r: f64| (x - cx).hypot(y - cy) < r;
        disc(0.45, 0.25, 0.14)
            || disc(0.45, 0.55, 0.2)
            || disc(0.38, 0.85, 0.1)
            || disc(0.55, 0.85, 0.1)
            || (x - 0.75 - y * 0.1).abs() < 0.03
    })
    .filled()
}

fn fitting(c: &mut Criterion) {
    let mut group = c.benchmark_group("outline");
    for side in [32, 64, 128, 256] {
        let mask = figure(side);
        group.throughput(Throughput::Elements(u64::from(side * side)));
        group.bench_with_input(BenchmarkId::new("plain count of the pixels", side), &mask, |b, mask| {
            b.iter(|| {
                (0..i64::from(side)).map(|y| (0..i64::from(side)).filter(|&x| mask.get(x, y)).count()).sum::<usize>()
            });
        });
        group.bench_with_input(BenchmarkId::new("trace", side), &mask, |b, mask| b.iter(|| contours(black_box(mask))));
        for goal in [FitGoal::Balance, FitGoal::Cover] {
            let wanted = Fitting { goal, ..Fitting::of(Kind::Outline) };
            let name = format!("fit {goal:?}");
            group.bench_with_input(BenchmarkId::new(name, side), &mask, |b, mask| b.iter(|| fit_shape(mask, &wanted)));
        }
        let fitted = fit_shape(&mask, &Fitting::of(Kind::Outline)).unwrap();
        group.bench_with_input(BenchmarkId::new("measure", side), &mask, |b, mask| b.iter(|| measure(&fitted, mask)));
    }
    group.finish();
}

/// A body of 12 points in two pieces, with a strip under its feet, over a stage of boxes.
fn scene(solids: u32) -> (Stage, Vec<Actor>, Layers) {
    let at = |i: u32| {
        Rect::new(
            f64::from(i % 25) * 60.0,
            f64::from(i / 25) * 60.0,
            f64::from(i % 25) * 60.0 + 24.0,
            f64::from(i / 25) * 60.0 + 24.0,
        )
    };
    let solid = |i: u32| Solid {
        name: format!("box_{i}"),
        outline: Polygon::from_rect(at(i)).unwrap().into(),
        layer: LayerSet::of(0),
        mask: LayerSet::NONE,
    };
    let stage = Stage {
        name: "bench".into(),
        size: Vec2::new(1500.0, 1500.0),
        solids: (0..solids).map(solid).collect(),
        one_ways: vec![],
        zones: vec![],
        spawns: vec![],
        spots: vec![],
        sealed: vec![],
    };
    // A waist: two convex pieces.
    let corners = [
        (-6.0, -10.0),
        (6.0, -10.0),
        (10.0, -6.0),
        (10.0, -3.0),
        (5.0, 0.0),
        (10.0, 4.0),
        (10.0, 10.0),
        (-10.0, 10.0),
        (-10.0, 4.0),
        (-5.0, 0.0),
        (-10.0, -3.0),
        (-10.0, -6.0),
    ];
    let polygon = Polygon::new(corners.map(Point::from).to_vec()).unwrap();
    assert_eq!(polygon.pieces().len(), 2);
    let body = Shape {
        name: "body".into(),
        role: Role::Body,
        holes: Vec::new(),
        pieces: polygon.pieces().into(),
        polygons: vec![polygon],
        layer: LayerSet::of(1),
        mask: LayerSet::of(0),
        side: None,
        carries: Carried::default(),
    };
    let strip = Polygon::from_rect(Rect::new(-9.0, 10.0, 9.0, 12.0)).unwrap();
    let feet = Shape {
        name: "feet".into(),
        role: Role::Sensor,
        pieces: strip.pieces().into(),
        polygons: vec![strip],
        side: Some(Side::Below),
        ..body.clone()
    };
    let foot = Foot { y: 10.0, runs: vec![(-8.0, -2.0), (3.0, 8.0)] };
    let pose = Pose {
        shapes: vec![body, feet],
        anchors: vec![],
        foot: Some(foot),
        pixels: PixelRuns::default(),
        flip_drift: 0.0,
        picture: Rect::ZERO,
        ticks: 6,
    };
    let actor = Actor::new(
        "hero".into(),
        vec![DrawnAnimation { name: "run".into(), faces: Facing::Right, frames: vec![pose], stands_for: None }],
        vec![],
    );
    let layers = Layers {
        names: vec!["ground".into(), "hero".into()],
        masks: vec![LayerSet::NONE, LayerSet::of(0)],
        ..Layers::default()
    };
    (stage, vec![actor], layers)
}

/// A take of n ticks: through the lanes between the boxes; over their tops, resting on each and stepping down between
/// them; or straight through everything, as no game plays, where half of the ticks are at fault.
#[derive(Clone, Copy, Debug)]
enum Way {
    Clear,
    Touching,
    Through,
}

fn take(way: Way, ticks: u64) -> Vec<Sample> {
    let place = |tick: u64| {
        let t = tick as f64;
        match way {
            Way::Clear => Point::new(42.0, (t * 2.0) % 1180.0 + 20.0),
            // The body's foot is 10 px under its pivot: on a box's top, and down to the one below between two.
            Way::Touching => {
                let along = (t * 1.5) % 1400.0;
                let row = ((t * 1.5 / 1400.0) as u64 % 19) as f64;
                Point::new(along + 12.0, 60.0 + row * 60.0 - 10.0)
            }
            Way::Through => Point::new((t * 2.3) % 1440.0 + 20.0, (t * 0.37) % 1150.0 + 20.0),
        }
    };
    let sample = |tick: u64| Sample {
        label: "hero".into(),
        actor: ActorIndex(0),
        at: place(tick),
        facing: if (tick / 64).is_multiple_of(2) { Facing::Right } else { Facing::Left },
        animation: 0,
        frame: 0,
        states: vec![],
        flipped_art: None,
        grounded: None,
        velocity: None,
        via: Vec::new(),
    };
    (0..ticks).map(sample).collect()
}

fn checking(c: &mut Criterion) {
    const TICKS: u64 = 20_000;
    let mut group = c.benchmark_group("check");
    group.throughput(Throughput::Elements(TICKS));
    for way in [Way::Clear, Way::Touching, Way::Through] {
        for solids in [50, 500, 5000] {
            let (stage, actors, layers) = scene(solids);
            let settings = Settings::default();
            let samples = take(way, TICKS);
            let name = |what: &str| BenchmarkId::new(format!("{way:?}, {what}"), solids);
            group.bench_with_input(name("plain box tests"), &samples, |b, samples| {
                b.iter(|| {
                    let meets = |at: Point, rect: Rect| {
                        (at.x - rect.center().x).abs() < 22.0 && (at.y - rect.center().y).abs() < 22.0
                    };
                    samples
                        .iter()
                        .map(|s| stage.solids.iter().filter(|solid| meets(s.at, solid.outline.bounds)).count())
                        .sum::<usize>()
                });
            });
            group.bench_with_input(name("all rules"), &samples, |b, samples| {
                b.iter(|| {
                    let input = CheckInput::new(&stage, &actors, &layers, &settings);
                    let mut checker = Checker::new(input);
                    for (tick, sample) in samples.iter().enumerate() {
                        checker.tick(tick as u64, std::slice::from_ref(sample));
                    }
                    checker.finish()
                });
            });
        }
    }
    group.finish();
}

/// More and more instances on a tick, each with a lane and a place of its own, so that few are near each other.
fn crowd(c: &mut Criterion) {
    // The first 128 ticks of each instance cost more; 512 instances are on for 512.
    const SAMPLES: usize = 262_144;
    let (stage, actors, layers) = scene(500);
    let settings = Settings::default();
    let mut group = c.benchmark_group("crowd");
    group.sample_size(10);
    group.throughput(Throughput::Elements(SAMPLES as u64));
    for instances in [1_usize, 8, 64, 512] {
        let ticks = SAMPLES / instances;
        let sample = |instance: usize, tick: usize| {
            let (lane, place) = (instance % 24, instance / 24);
            Sample {
                label: format!("hero:{instance}"),
                actor: ActorIndex(0),
                at: Point::new(42.0 + 60.0 * lane as f64, (tick as f64 * 0.1 + 48.0 * place as f64) % 1180.0 + 20.0),
                facing: Facing::Right,
                animation: 0,
                frame: 0,
                states: vec![],
                flipped_art: None,
                grounded: None,
                velocity: None,
                via: Vec::new(),
            }
        };
        let rows: Vec<Vec<Sample>> =
            (0..ticks).map(|tick| (0..instances).map(|instance| sample(instance, tick)).collect()).collect();
        group.bench_with_input(BenchmarkId::new("all rules", instances), &rows, |b, rows| {
            b.iter(|| {
                let input = CheckInput::new(&stage, &actors, &layers, &settings);
                let mut checker = Checker::new(input);
                for (tick, samples) in rows.iter().enumerate() {
                    checker.tick(tick as u64, samples);
                }
                checker.finish()
            });
        });
    }
    group.finish();
}

/// The room of a body on stages of more and more boxes; growing stages, so that a body reaches as many of them.
fn clearance(c: &mut Criterion) {
    let mut group = c.benchmark_group("clearance");
    group.sample_size(10);
    for solids in [125_u32, 250, 500, 1000] {
        let (mut stage, actors, _) = scene(solids);
        stage.size.y = f64::from(solids) / 25.0 * 60.0;
        let stances = Stance::of(&actors[0]);
        group.throughput(Throughput::Elements(u64::from(solids)));
        group.bench_with_input(BenchmarkId::new("plain pairs of boxes", solids), &stage, |b, stage| {
            let meets = |a: Rect, b: Rect| a.x0 < b.x1 && b.x0 < a.x1 && a.y0 < b.y1 && b.y0 < a.y1;
            let count = |one: &Solid| {
                let around = one.outline.bounds.inflate(20.0, 20.0);
                stage.solids.iter().filter(|other| meets(around, other.outline.bounds)).count()
            };
            b.iter(|| stage.solids.iter().map(count).sum::<usize>());
        });
        group.bench_with_input(BenchmarkId::new("places of the pivot", solids), &stage, |b, stage| {
            b.iter(|| stances[0].space(stage));
        });
        group.bench_with_input(BenchmarkId::new("passages", solids), &stage, |b, stage| {
            b.iter(|| passages(stage, &stances, 16.0));
        });
    }
    group.finish();
}

/// Maps of tiles: hills with caves, and noise, the worst there is.
fn tiles(c: &mut Criterion) {
    let mut group = c.benchmark_group("tiles");
    group.sample_size(10);
    for side in [125_usize, 250, 500, 1000] {
        let hills = |x: usize, y: usize| {
            let (x, y) = (x as f64, y as f64);
            let ground = side as f64 * 0.4 + 9.0 * (x / 17.0).sin() + 5.0 * (x / 5.0).cos();
            let cave = (x / 7.0).sin() + (y / 6.0).cos() > 1.4;
            y > ground && !cave
        };
        let noise = |x: usize, y: usize| (x * 7919 + y * 104_729 + x * y * 31) % 100 < 55;
        let cells = |set: &dyn Fn(usize, usize) -> bool| -> Vec<Option<u16>> {
            (0..side * side).map(|cell| set(cell % side, cell / side).then_some(1)).collect()
        };
        for (name, cells) in [("hills", cells(&hills)), ("noise", cells(&noise))] {
            let fills = vec![TileFill::Nothing, TileFill::Cell];
            let grid = TileGrid { columns: side, cell: (16.0, 16.0), cells, fills };
            group.throughput(Throughput::Elements((side * side) as u64));
            group.bench_with_input(BenchmarkId::new(format!("{name}, plain count"), side), &grid, |b, grid| {
                b.iter(|| black_box(&grid.cells).iter().filter(|cell| cell.is_some()).count());
            });
            group.bench_with_input(BenchmarkId::new(format!("{name}, merged"), side), &grid, |b, grid| {
                b.iter(|| merged_tiles(grid));
            });
        }
    }
    group.finish();
}

criterion_group! {
    name = benches;
    config = Criterion::default().warm_up_time(Duration::from_millis(300)).measurement_time(Duration::from_secs(1)).sample_size(20);
    targets = fitting, checking, crowd, clearance, tiles
}
criterion_main!(benches);
