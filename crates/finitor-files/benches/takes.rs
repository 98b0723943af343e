//! Takes read row by row, beside a copy of the file's bytes: ratios of one run.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::Facing;
use finitor_core::actor::{Actor, DrawnAnimation, Pose};
use finitor_files::{TakeRead, TakeReader};
use std::hint::black_box;
use std::time::Duration;

const ROWS: u32 = 200_000;

fn actor() -> Actor {
    let drawn = |name: &str, frames: usize| DrawnAnimation {
        name: name.into(),
        faces: Facing::Right,
        frames: vec![Pose::default(); frames],
        stands_for: None,
    };
    Actor::new("keeper".into(), vec![drawn("idle", 4), drawn("walk", 6)], vec![])
}

fn reading(c: &mut Criterion) {
    let folder = tempfile::tempdir().unwrap();
    let actors = [actor()];
    let place = |tick: u32| (60.0 + f64::from(tick % 220) * 0.375, 200.0 - f64::from(tick % 7) * 0.25);
    let csv: String = (0..ROWS)
        .map(|tick| {
            let (x, y) = place(tick);
            format!("{tick},keeper,{x},{y},right,walk,{},1.5,0,\n", tick / 6 % 6)
        })
        .collect();
    let csv = format!("tick,actor,x,y,facing,animation,frame,vx,vy,states\n{csv}");
    let json: String = (0..ROWS)
        .map(|tick| {
            let (x, y) = place(tick);
            format!(
                "{{\"tick\":{tick},\"actor\":\"keeper\",\"x\":{x},\"y\":{y},\"facing\":\"right\",\"animation\":\"walk\",\"frame\":{}}}\n",
                tick / 6 % 6
            )
        })
        .collect();
    for (name, text) in [("take.csv", csv), ("take.jsonl", json)] {
        let path = folder.path().join(name);
        std::fs::write(&path, &text).unwrap();
        let mut group = c.benchmark_group(name);
        group.throughput(Throughput::Bytes(text.len() as u64));
        group.bench_function("copy of the bytes", |b| b.iter(|| black_box(text.as_bytes().to_vec())));
        group.bench_function("read", |b| {
            b.iter(|| {
                let mut reader = TakeReader::open(&path, &actors, None).unwrap();
                let mut count = 0;
                while let Some(read) = reader.next().unwrap() {
                    if let TakeRead::Tick { samples, .. } = read {
                        count += samples.len();
                    }
                }
                assert_eq!(count, ROWS as usize);
            });
        });
        group.finish();
    }
}

criterion_group! {
    name = benches;
    config = Criterion::default().warm_up_time(Duration::from_millis(300)).measurement_time(Duration::from_secs(2)).sample_size(10);
    targets = reading
}
criterion_main!(benches);
