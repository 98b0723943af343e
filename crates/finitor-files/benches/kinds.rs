//! What a shape of each kind costs on a frame of 80 px, about as many pixels as art of finished games has a frame, beside the decode of
//! the same PNGs by the PNG crate alone: fitting it, measuring how well it agrees, and cutting it into convex pieces. One thread, from
//! memory; ratios of one run are the figures.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

mod crowd;

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::fit::{FitGoal, Fitting, Geometry, Kind, fit_shape, measure, pieces_of, selection};
use std::time::Duration;

const FRAMES: u64 = 200;
const SIDE: u32 = 80;
const FEW_POINTS: usize = 30;

/// Each kind with the goals it has, and outlines of few points.
fn recipes() -> Vec<(String, Fitting)> {
    let goals = [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance];
    let all = Kind::ALL.into_iter().flat_map(|kind| goals.map(|goal| (kind, goal)));
    let plain = all.filter(|pair| *pair != (Kind::Hull, FitGoal::Inside));
    let plain = plain.map(|(kind, goal)| (format!("{}, {goal:?}", kind.name()), Fitting { goal, ..Fitting::of(kind) }));
    let few = goals.map(|goal| {
        let fitting = Fitting { goal, max_points: Some(FEW_POINTS), ..Fitting::of(Kind::Outline) };
        (format!("outline of {FEW_POINTS} points, {goal:?}"), fitting)
    });
    plain.chain(few).collect()
}

fn kinds(c: &mut Criterion) {
    let art = crowd::figures(FRAMES, SIDE);
    let files = crowd::files(&art);
    let mut group = c.benchmark_group(format!("kinds, {SIDE} px"));
    group.throughput(Throughput::Elements(FRAMES));
    group.bench_function("decode", |b| b.iter(|| crowd::decoded(&files)));
    for (name, fitting) in recipes() {
        let fit = |art| fit_shape(&selection(art, &fitting).mask, &fitting).map_or(0, |shape| shape.point_count());
        group.bench_function(name, |b| b.iter(|| art.iter().map(fit).sum::<usize>()));
    }
    let outline = Fitting::of(Kind::Outline);
    let fitted = |art| {
        let mask = selection(art, &outline).mask;
        (fit_shape(&mask, &outline).unwrap(), mask)
    };
    let outlines: Vec<_> = art.iter().map(fitted).collect();
    group.bench_function("measuring an outline", |b| {
        b.iter(|| outlines.iter().filter_map(|(shape, mask)| measure(shape, mask)).map(|found| found.iou).sum::<f64>());
    });
    let pieces = |shape: &Geometry| pieces_of(shape, usize::MAX).len();
    group.bench_function("cutting an outline into pieces", |b| {
        b.iter(|| outlines.iter().map(|(shape, _)| pieces(shape)).sum::<usize>());
    });
    group.finish();
}

criterion_group! {
    name = benches;
    config = Criterion::default().warm_up_time(Duration::from_millis(300)).measurement_time(Duration::from_secs(1)).sample_size(10);
    targets = kinds
}
criterion_main!(benches);
