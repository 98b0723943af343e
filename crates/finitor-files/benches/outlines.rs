//! An outline a frame, beside the decode of the same frames by the PNG crate alone. One thread, from memory; the ratio of
//! the two lines is the figure.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

mod crowd;

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::fit::{FitGoal, Fitting, Kind, fit_shape, selection};
use std::time::Duration;

fn outlines(c: &mut Criterion) {
    // Large cells make few frames, so that every size takes about as long.
    for (side, frames) in [(32, 800), (64, 400), (128, 120), (256, 40), (512, 12), (1024, 4), (2048, 2)] {
        let art = crowd::figures(frames, side);
        let files = crowd::files(&art);
        let mut group = c.benchmark_group(format!("{side} x {side} px"));
        group.throughput(Throughput::Elements(frames));
        group.bench_function("decode", |b| b.iter(|| crowd::decoded(&files)));
        group.bench_function("select and trace", |b| {
            let wanted = Fitting::of(Kind::Outline);
            b.iter(|| {
                art.iter().map(|art| finitor_core::art::contours(&selection(art, &wanted).mask).len()).sum::<usize>()
            });
        });
        for goal in [FitGoal::Balance, FitGoal::Cover] {
            let wanted = Fitting { goal, ..Fitting::of(Kind::Outline) };
            let fit = |art| fit_shape(&selection(art, &wanted).mask, &wanted).unwrap().point_count();
            group.bench_function(format!("outline, {goal:?}"), |b| b.iter(|| art.iter().map(fit).sum::<usize>()));
        }
        group.finish();
    }
}

criterion_group! {
    name = benches;
    config = Criterion::default().warm_up_time(Duration::from_millis(300)).measurement_time(Duration::from_secs(1)).sample_size(10);
    targets = outlines
}
criterion_main!(benches);
