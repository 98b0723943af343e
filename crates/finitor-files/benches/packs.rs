//! What a game loads, of 11,000 frames in both facings: each format beside plain JSON of the same values.
#![allow(missing_docs, reason = "a benchmark")]

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_files::pack::{
    Art, Layout, Number, Origin, PACK_SCHEMA, Pack, PackActor, PackAnimation, PackFrame, PackLayers, PackPoint,
    PackShape, PackSide, Ring, ShapeMeaning, Space, UpAxis, c_header, csv_table, lua_table, pack_svg, rust_module,
    to_cbor, to_json,
};
use std::collections::BTreeMap;
use std::hint::black_box;

const FRAMES: usize = 11_000;
/// Corners of an outline, and of its convex pieces.
const CORNERS: usize = 26;
const PIECES: usize = 5;

fn ring(corners: usize, seed: usize) -> Ring {
    let corner = |index: usize| {
        let (sine, cosine) = (index as f64 / corners as f64 * std::f64::consts::TAU).sin_cos();
        let far = 20.0 + (seed * 7 + index * 3) as f64 % 5.0 / 3.0;
        PackPoint { x: far * cosine, y: far * sine }
    };
    (0..corners).map(corner).collect()
}

fn side(facing: &str, seed: usize) -> PackSide {
    let outline = PackShape {
        shape: "figure".into(),
        kind: "outline".into(),
        outline: vec![ring(CORNERS, seed)],
        pieces: (0..PIECES).map(|piece| ring(7, seed + piece)).collect(),
        ..PackShape::default()
    };
    let body = PackShape {
        shape: "body".into(),
        kind: "box".into(),
        rect: Some([-8.0, -40.0, 16.0, 40.0].map(Number)),
        outline: vec![ring(4, 1)],
        pieces: vec![ring(4, 1)],
        ..PackShape::default()
    };
    let art = Art {
        image: "figure.png".into(),
        image_number: 0,
        rect: [0, 0, 72, 72],
        flipped: facing == "left",
        pivot: PackPoint { x: 36.0, y: 70.0 },
    };
    PackSide { facing: facing.into(), art, anchors: BTreeMap::new(), shapes: vec![body, outline] }
}

fn pack() -> Pack {
    let frame = |index: usize| PackFrame {
        animation: "all".into(),
        frame: index,
        ticks: 6,
        sides: vec![side("right", index), side("left", index + 1)],
    };
    let meaning = |name: &str, role: &str| ShapeMeaning {
        name: name.into(),
        role: role.into(),
        layer: 4,
        mask: 3,
        ..ShapeMeaning::default()
    };
    let animation =
        PackAnimation { name: "all".into(), faces: "right".into(), stands_for: None, first: 0, count: FRAMES };
    let actor = PackActor {
        name: "crowd".into(),
        shapes: vec![meaning("body", "body"), meaning("figure", "hurt")],
        attacks: vec![],
        animations: vec![animation],
        frames: (0..FRAMES).map(frame).collect(),
    };
    Pack {
        schema: PACK_SCHEMA.into(),
        project: "pier".into(),
        tick_rate: Number(60.0),
        space: Space::OWN,
        layers: PackLayers::default(),
        actors: vec![actor],
        stages: vec![],
    }
}

fn formats(criterion: &mut Criterion) {
    let pack = pack();
    let plain = serde_json::to_vec(&pack).map_or(0, |bytes| bytes.len());
    let mut group = criterion.benchmark_group("11,000 frames");
    group.sample_size(10).throughput(Throughput::Bytes(plain as u64));
    group.bench_function("plain JSON", |bench| {
        bench.iter(|| black_box(serde_json::to_vec(&pack).map(|text| text.len()).ok()))
    });
    group.bench_function("json, lines", |bench| {
        bench.iter(|| black_box(to_json(&pack, Layout::Lines).map(|text| text.len()).ok()))
    });
    group.bench_function("cbor", |bench| bench.iter(|| black_box(to_cbor(&pack).map(|bytes| bytes.len()).ok())));
    group.bench_function("csv", |bench| bench.iter(|| black_box(csv_table(&pack).map(|bytes| bytes.len()).ok())));
    group.bench_function("svg", |bench| bench.iter(|| black_box(pack_svg(&pack).len())));
    group.bench_function("c", |bench| bench.iter(|| black_box(c_header(&pack).len())));
    group.bench_function("rust", |bench| bench.iter(|| black_box(rust_module(&pack).len())));
    group.bench_function("lua", |bench| {
        bench.iter(|| black_box(lua_table(&pack, Layout::Lines).map(|text| text.len()).ok()))
    });
    let up = Space { y: UpAxis::Up, fixed: Some(8), origin: Origin::Cell, ..Space::OWN };
    group.bench_function("another space", |bench| bench.iter(|| black_box(pack.clone().in_space(up).actors.len())));
    group.finish();
}

criterion_group!(benches, formats);
criterion_main!(benches);
