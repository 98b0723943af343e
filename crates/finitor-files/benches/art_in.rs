//! What a user waits for when art changes: 2,000 frames of 64 x 64 px cut, hashed and looked at, beside a plain decode of
//! the same files by the PNG crate alone. Both on one thread; the ratio of the two lines is the figure.
#![allow(missing_docs, clippy::unwrap_used, reason = "a benchmark")]

use criterion::{Criterion, Throughput, criterion_group, criterion_main};
use finitor_core::art::{Grid, Picture};
use finitor_core::layers::Layers;
use finitor_files::{ActorReading, NoProgress, USUAL_MAX_MPX, art_hash, encode_png, load_actor, read_picture};
use std::fs::File;
use std::hint::black_box;
use std::io::BufReader;
use std::path::{Path, PathBuf};
use std::time::Duration;

const FRAMES: u32 = 2000;
const SIDE: u32 = 64;

/// A shaded figure of its own for each number, as varied within as pixel art is.
fn pixel(number: u32, x: u32, y: u32) -> [u8; 4] {
    let (u, v) = (f64::from(x) / f64::from(SIDE), f64::from(y) / f64::from(SIDE));
    let sway = f64::from(number % 17) * 0.01;
    let disc = |cx: f64, cy: f64, r: f64| (u - cx - sway).hypot(v - cy) < r;
    let pole = (u - 0.75 - v * 0.1 + sway).abs() < 0.03;
    if !(disc(0.45, 0.25, 0.14) || disc(0.45, 0.55, 0.2) || disc(0.38, 0.85, 0.1) || disc(0.55, 0.85, 0.1) || pole) {
        return [0; 4];
    }
    let tone = ((x / 3 + y / 4 + number) % 5) as u8;
    let dither = if (x + y).is_multiple_of(3) { 9 } else { 0 };
    [90 + tone * 30 + dither, 60 + tone * 20, 120 - tone * 15 + dither, 255]
}

fn picture(width: u32, height: u32, pixel: impl Fn(u32, u32) -> [u8; 4]) -> Vec<u8> {
    let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).map(|(x, y)| pixel(x, y)).collect();
    encode_png(&Picture::new(width, height, pixels).unwrap()).unwrap()
}

/// A folder of frames, one file each, and the same frames on sheets of 10 x 10 cells.
fn write_art(folder: &Path) -> (Vec<PathBuf>, Vec<PathBuf>) {
    let mut frames = Vec::new();
    let mut sheets = Vec::new();
    for number in 0..FRAMES {
        frames.push(folder.join(format!("walk_{number}.png")));
        std::fs::write(frames.last().unwrap(), picture(SIDE, SIDE, |x, y| pixel(number, x, y))).unwrap();
    }
    for sheet in 0..FRAMES / 100 {
        sheets.push(folder.join(format!("sheet_{sheet}.png")));
        let at = |x: u32, y: u32| pixel(sheet * 100 + y / SIDE * 10 + x / SIDE, x % SIDE, y % SIDE);
        std::fs::write(sheets.last().unwrap(), picture(10 * SIDE, 10 * SIDE, at)).unwrap();
    }
    let actor = "[actor]\nname = \"it\"\npivot = [32, 64]\n[animation.walk]\nfiles = \"walk_*.png\"\n";
    std::fs::write(folder.join("files.toml"), actor).unwrap();
    let mut actor = "[actor]\nname = \"it\"\npivot = [32, 64]\n".to_string();
    for sheet in 0..FRAMES / 100 {
        actor += &format!("[[sheet]]\nname = \"s{sheet}\"\nimage = \"sheet_{sheet}.png\"\ncell = [64, 64]\n");
        actor += &format!("[animation.a{sheet}]\nsheet = \"s{sheet}\"\ncells = \"0-99\"\n");
    }
    std::fs::write(folder.join("sheets.toml"), actor).unwrap();
    (frames, sheets)
}

/// Every pixel of the files, decoded and nothing more.
fn plain(files: &[PathBuf]) -> usize {
    files
        .iter()
        .map(|path| {
            let mut reader = png::Decoder::new(BufReader::new(File::open(path).unwrap())).read_info().unwrap();
            let mut bytes = vec![0; reader.output_buffer_size().unwrap()];
            reader.next_frame(&mut bytes).unwrap();
            black_box(&bytes).len()
        })
        .sum()
}

/// The same files decoded here, cut into cells and each cell hashed.
fn cut_and_hashed(files: &[PathBuf], grid: Grid) -> usize {
    let hash = |path: &PathBuf| {
        let picture = read_picture(path, USUAL_MAX_MPX).unwrap();
        let cells = grid.rects(picture.width(), picture.height());
        cells.iter().map(|cell| black_box(art_hash(picture.view(*cell).unwrap(), None)).len()).sum::<usize>()
    };
    files.iter().map(hash).sum()
}

fn art_in(c: &mut Criterion) {
    let folder = tempfile::tempdir().unwrap();
    let (frames, sheets) = write_art(folder.path());
    let layers = Layers::default();
    let root = folder.path();
    let reading =
        ActorReading { root, layers: &layers, tick_rate: 60.0, max_mpx: USUAL_MAX_MPX, progress: &NoProgress };
    let one_thread = rayon::ThreadPoolBuilder::new().num_threads(1).build().unwrap();
    let load = |actor: &str| {
        let frames = one_thread.install(|| load_actor(&root.join(actor), &reading)).unwrap().frames.len();
        assert_eq!(frames, FRAMES as usize);
        frames
    };
    let mut group = c.benchmark_group("2000 frames of 64 x 64 px");
    group.sample_size(10).measurement_time(Duration::from_secs(8)).throughput(Throughput::Elements(FRAMES.into()));
    group.bench_function("files: plain decode", |b| b.iter(|| plain(&frames)));
    let grid = Grid::plain(SIDE, SIDE);
    group.bench_function("files: cut, hashed", |b| b.iter(|| cut_and_hashed(&frames, grid)));
    group.bench_function("files: actor file read, all frames looked at", |b| b.iter(|| load("files.toml")));
    group.bench_function("sheets: plain decode", |b| b.iter(|| plain(&sheets)));
    group.bench_function("sheets: cut, hashed", |b| b.iter(|| cut_and_hashed(&sheets, grid)));
    group.bench_function("sheets: actor file read, all frames looked at", |b| b.iter(|| load("sheets.toml")));
    group.finish();
}

criterion_group!(benches, art_in);
criterion_main!(benches);
