//! Pictures as PNG.

use finitor_core::art::Picture;
use std::io;

/// The picture as an 8-bit RGBA PNG.
///
/// # Errors
/// Those of the encoder, which refuses pictures without pixels.
pub fn encode_png(picture: &Picture) -> io::Result<Vec<u8>> {
    let mut bytes = Vec::new();
    let mut encoder = png::Encoder::new(&mut bytes, picture.width(), picture.height());
    encoder.set_color(png::ColorType::Rgba);
    encoder.set_depth(png::BitDepth::Eight);
    let mut writer = encoder.write_header().map_err(io::Error::from)?;
    writer.write_image_data(picture.pixels().as_flattened()).map_err(io::Error::from)?;
    writer.finish().map_err(io::Error::from)?;
    Ok(bytes)
}
