//! Made-up figures and their PNGs, and the plain decode that everything stands beside.

use finitor_core::art::Picture;
use finitor_core::fit::FrameArt;
use finitor_files::encode_png;
use std::hint::black_box;

/// The first figures of the crowd on cells of `side` px.
pub(crate) fn figures(frames: u64, side: u32) -> Vec<FrameArt> {
    let figure = |number| {
        let raster = pier_art::figure(number, side);
        FrameArt { picture: Picture::new(raster.width, raster.height, raster.pixels).unwrap(), parts: None }
    };
    (0..frames).map(figure).collect()
}

/// Each as a PNG.
pub(crate) fn files(art: &[FrameArt]) -> Vec<Vec<u8>> {
    art.iter().map(|art| encode_png(&art.picture).unwrap()).collect()
}

/// All of them decoded by the PNG crate alone; how many bytes that gave.
pub(crate) fn decoded(files: &[Vec<u8>]) -> usize {
    let decoded = |file: &Vec<u8>| {
        let mut reader = png::Decoder::new(std::io::Cursor::new(file)).read_info().unwrap();
        let mut pixels = vec![0; reader.output_buffer_size().unwrap()];
        reader.next_frame(&mut pixels).unwrap();
        black_box(pixels).len()
    };
    files.iter().map(decoded).sum()
}
