//! The sample that the program carries is what this crate draws and records.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

use std::fs::{self, File};
use std::io::BufReader;
use std::path::PathBuf;

const RENEW: &str = "renew it with `cargo run -p pier-art --example write_sample`";

fn sample(path: &str) -> PathBuf {
    PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../finitor/sample").join(path)
}

#[test]
fn pictures_have_the_same_pixels() {
    for picture in pier_art::pictures() {
        let file = File::open(sample(picture.path)).unwrap_or_else(|error| panic!("{}: {error}", picture.path));
        let mut reader = png::Decoder::new(BufReader::new(file)).read_info().unwrap();
        let mut bytes = vec![0; reader.output_buffer_size().unwrap()];
        let info = reader.next_frame(&mut bytes).unwrap();
        assert_eq!((info.width, info.height), (picture.raster.width, picture.raster.height), "{}", picture.path);
        let drawn = picture.raster.pixels.as_flattened();
        let differing = drawn.chunks(4).zip(bytes.chunks(4)).filter(|(a, b)| a != b).count();
        assert_eq!(differing, 0, "{}: {differing} pixels differ; {RENEW}", picture.path);
    }
}

#[test]
fn takes_have_the_same_rows() {
    for (path, text) in [("takes/clean.csv", pier_art::clean_take()), ("takes/faults.csv", pier_art::faults_take())] {
        assert!(fs::read_to_string(sample(path)).unwrap() == text, "{path} differs; {RENEW}");
    }
}

#[test]
fn standing_frames_stand_on_the_ground_line_and_no_art_is_cut_off() {
    let keeper = pier_art::pictures().into_iter().find(|picture| picture.path == "actors/keeper.png").unwrap().raster;
    for cell in 0..19_u32 {
        let (left, top) = (cell % 10 * 48, cell / 10 * 48);
        let opaque = |x: u32, y: u32| keeper.pixels[((top + y) * keeper.width + left + x) as usize][3] > 0;
        let lowest = (0..48).rev().find(|&y| (0..48).any(|x| opaque(x, y))).unwrap();
        let in_the_air = matches!(cell, 12 | 13);
        assert!(in_the_air || lowest == 45, "cell {cell} ends at row {lowest}");
        let cut = (0..48).any(|i| opaque(i, 0) || opaque(0, i) || opaque(47, i) || opaque(i, 47));
        assert!(!cut, "cell {cell} touches its edge");
    }
}
