//! Reading pictures.

use finitor_core::art::Picture;
use png::{BitDepth, ColorType, Transformations};
use std::fs::File;
use std::io::BufReader;
use std::path::Path;

/// Largest width or height of a picture, px.
pub const MAX_SIDE: u32 = 16_384;

/// Most pixels of a picture: 256 MB once decoded.
pub const MAX_PIXELS: u64 = 64 * 1024 * 1024;

/// Most pixels of an actor's frames together: 1 GB. One cell may be many frames, so small files could ask for more.
pub(crate) const MAX_FRAME_PIXELS: u64 = 4 * MAX_PIXELS;

/// Reads a PNG of any kind as 8-bit RGBA. Its size is checked before memory is taken for it.
///
/// # Errors
/// The reason in words, without the path.
pub fn read_picture(path: &Path) -> Result<Picture, String> {
    let file = File::open(path).map_err(|error| match error.kind() {
        std::io::ErrorKind::NotFound => "there is no such file".to_string(),
        _ => format!("cannot be read: {error}"),
    })?;
    let limits = png::Limits { bytes: usize::try_from(MAX_PIXELS * 8).unwrap_or(usize::MAX) };
    let mut decoder = png::Decoder::new_with_limits(BufReader::new(file), limits);
    decoder.set_transformations(Transformations::EXPAND | Transformations::STRIP_16);
    let mut reader = decoder.read_info().map_err(|error| told(&error))?;
    let (width, height) = (reader.info().width, reader.info().height);
    if width > MAX_SIDE || height > MAX_SIDE || u64::from(width) * u64::from(height) > MAX_PIXELS {
        return Err(format!(
            "is {width} x {height} px by its header; at most {MAX_SIDE} a side and {} million px in all are read",
            MAX_PIXELS / 1_000_000
        ));
    }
    let size = reader.output_buffer_size().ok_or("is too large for this machine")?;
    let mut bytes = vec![0; size];
    let info = reader.next_frame(&mut bytes).map_err(|error| told(&error))?;
    if info.bit_depth != BitDepth::Eight {
        return Err(format!("has {:?} bits a channel after decoding, 8 were expected", info.bit_depth));
    }
    let bytes = &bytes[..info.buffer_size()];
    let pixels: Vec<[u8; 4]> = match info.color_type {
        ColorType::Grayscale => bytes.iter().map(|&v| [v, v, v, 255]).collect(),
        ColorType::GrayscaleAlpha => bytes.chunks_exact(2).map(|p| [p[0], p[0], p[0], p[1]]).collect(),
        ColorType::Rgb => bytes.chunks_exact(3).map(|p| [p[0], p[1], p[2], 255]).collect(),
        ColorType::Rgba => bytes.chunks_exact(4).map(|p| [p[0], p[1], p[2], p[3]]).collect(),
        ColorType::Indexed => return Err("has a palette that could not be resolved".to_string()),
    };
    Picture::new(width, height, pixels).ok_or_else(|| "has fewer pixels than its header says".to_string())
}

fn told(error: &png::DecodingError) -> String {
    match error {
        png::DecodingError::IoError(error) if error.kind() == std::io::ErrorKind::UnexpectedEof => {
            "ends before the picture does: the file is cut short; export it again".to_string()
        }
        png::DecodingError::LimitsExceeded => "is larger than any picture read here".to_string(),
        other => format!("is no sound PNG: {other}"),
    }
}
