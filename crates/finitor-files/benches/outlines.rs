//! An outline a frame, beside the decode of the same frames by the PNG crate alone. One thread, from memory; the ratio of
//! the two lines is the figure.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::art::Picture;
use finitor_core::fit::{FitGoal, Fitting, FrameArt, Kind, fit_shape, selection};
use finitor_files::encode_png;
use std::hint::black_box;
use std::time::Duration;

fn decoded(bytes: &[u8]) -> Vec<u8> {
    let mut reader = png::Decoder::new(std::io::Cursor::new(bytes)).read_info().unwrap();
    let mut pixels = vec![0; reader.output_buffer_size().unwrap()];
    reader.next_frame(&mut pixels).unwrap();
    pixels
}

fn outlines(c: &mut Criterion) {
    // Large cells make few frames, so that every size takes about as long.
    for (side, frames) in [(32, 800), (64, 400), (128, 120), (256, 40), (512, 12), (1024, 4), (2048, 2)] {
        let art: Vec<FrameArt> = (0..frames)
            .map(|number| {
                let raster = pier_art::figure(number, side);
                FrameArt { picture: Picture::new(raster.width, raster.height, raster.pixels).unwrap(), parts: None }
            })
            .collect();
        let files: Vec<Vec<u8>> = art.iter().map(|art| encode_png(&art.picture).unwrap()).collect();
        let mut group = c.benchmark_group(format!("{side} x {side} px"));
        group.throughput(Throughput::Elements(frames));
        group.bench_function("decode", |b| {
            b.iter(|| files.iter().map(|file| black_box(decoded(file)).len()).sum::<usize>());
        });
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
