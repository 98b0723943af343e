//! What attacks reach: 20 actors with 20 attacks each against a target of 20 parts, beside plain box tests of the same pairs.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

use criterion::{BenchmarkId, Criterion, criterion_group, criterion_main};
use finitor_core::actor::{Actor, Carried, DrawnAnimation, Part, Pose, Role, Shape};
use finitor_core::geometry::convex_hull;
use finitor_core::hits::{Meeting, Settle, Stance, attacks};
use finitor_core::layers::{LayerSet, Layers};
use finitor_core::{Facing, Point, Polygon};
use std::hint::black_box;

const ACTORS: u64 = 20;
const ATTACKS: usize = 20;
const PARTS: usize = 20;

/// A hull of 12 places of chance, some 20 px wide.
fn shape(dice: &mut fastrand::Rng, role: Role, name: String) -> Shape {
    let (x, y) = (60.0 * dice.f64() - 30.0, 0.0 - 70.0 * dice.f64());
    let corners: Vec<Point> = (0..12).map(|_| Point::new(x + 20.0 * dice.f64(), y + 20.0 * dice.f64())).collect();
    let polygon = Polygon::new(convex_hull(&corners)).unwrap();
    Shape {
        role,
        holes: vec![],
        pieces: polygon.pieces().into(),
        polygons: vec![polygon],
        layer: LayerSet::of(usize::from(role == Role::Hit)),
        mask: LayerSet::of(0),
        side: None,
        carries: Carried { part: Part { name: Some(name.clone()), ..Part::default() }, ..Carried::default() },
        name,
    }
}

fn actor(seed: u64, frames: usize) -> Actor {
    let mut dice = fastrand::Rng::with_seed(seed);
    let animation = |index: usize, dice: &mut fastrand::Rng| DrawnAnimation {
        name: format!("attack_{index}"),
        faces: Facing::Right,
        frames: (0..frames)
            .map(|_| {
                let mut shapes: Vec<Shape> =
                    (0..PARTS).map(|part| shape(dice, Role::Hurt, format!("part_{part}"))).collect();
                shapes.push(shape(dice, Role::Hit, "blade".into()));
                Pose { shapes, ticks: 4, ..Pose::default() }
            })
            .collect(),
        stands_for: None,
    };
    let animations = (0..ATTACKS).map(|index| animation(index, &mut dice)).collect();
    Actor::new(format!("actor_{seed}"), animations, vec![])
}

fn meeting<'a>(attacker: &'a Actor, target: &'a Actor, layers: &'a Layers) -> Meeting<'a> {
    let stance = Stance { animation: 0, frame: 0 };
    Meeting { attacker, target, stance, lower: 0.0, layers, settle: Settle::Area }
}

fn reach(c: &mut Criterion) {
    let mut group = c.benchmark_group("reach");
    group.sample_size(10);
    let layers = Layers::default();
    for frames in [1, 2, 4] {
        let actors: Vec<Actor> = (0..ACTORS).map(|seed| actor(seed, frames)).collect();
        let target = &actors[0];
        group.bench_with_input(BenchmarkId::new("plain box tests", frames), &actors, |b, actors| {
            let hurts: Vec<_> = target.pose(0, 0, Facing::Left).shapes.iter().map(Shape::bounds).collect();
            b.iter(|| {
                let mut met = 0;
                for pose in actors.iter().flat_map(|a| &a.animations).flat_map(|a| &a.frames).flatten() {
                    let hit = pose.shapes[PARTS].bounds();
                    met += hurts.iter().filter(|hurt| hit.y0 < hurt.y1 && hurt.y0 < hit.y1).count();
                }
                black_box(met)
            });
        });
        group.bench_with_input(BenchmarkId::new("intervals by part", frames), &actors, |b, actors| {
            b.iter(|| {
                let parts = actors.iter().map(|attacker| {
                    let duel = meeting(attacker, target, &layers).duel(Facing::Right, finitor_core::hits::Way::Toward);
                    attacks(attacker).iter().map(|attack| duel.parts(attack).len()).sum::<usize>()
                });
                black_box(parts.sum::<usize>())
            });
        });
        group.bench_with_input(BenchmarkId::new("all, with what is settled", frames), &actors, |b, actors| {
            b.iter(|| {
                black_box(
                    actors.iter().map(|attacker| meeting(attacker, target, &layers).encounters().len()).sum::<usize>(),
                )
            });
        });
    }
    group.finish();
}

criterion_group!(benches, reach);
criterion_main!(benches);
