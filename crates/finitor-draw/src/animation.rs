//! Pages one after another as one moving file.

use crate::raster::{DrawError, PagePixels};
use std::io::Write;

/// A file that moves.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Moving {
    /// Animated PNG: all colours.
    Apng,
    /// GIF: 256 colours a frame, times in hundredths of a second.
    Gif,
}

/// How long each page is shown.
#[derive(Clone, Copy, Debug)]
pub struct Pace {
    /// Pages a second.
    pub per_second: f64,
}

/// Pages of one size as a file that plays over and over.
///
/// # Errors
/// [`DrawError::Png`] where the encoder refuses them: a fault of this program.
pub fn animation(pages: &[PagePixels], moving: Moving, pace: Pace) -> Result<Vec<u8>, DrawError> {
    match moving {
        Moving::Apng => apng(pages, pace).map_err(|_| DrawError::Png),
        Moving::Gif => gif(pages, pace).map_err(|_| DrawError::Png),
    }
}

fn apng(pages: &[PagePixels], pace: Pace) -> Result<Vec<u8>, png::EncodingError> {
    let mut bytes = Vec::new();
    let Some(first) = pages.first() else { return Ok(bytes) };
    let mut encoder = png::Encoder::new(&mut bytes, first.width, first.height);
    encoder.set_color(png::ColorType::Rgb);
    encoder.set_depth(png::BitDepth::Eight);
    encoder.set_animated(pages.len() as u32, 0)?;
    let milliseconds = (1000.0 / pace.per_second).round().clamp(1.0, f64::from(u16::MAX)) as u16;
    encoder.set_frame_delay(milliseconds, 1000)?;
    let mut writer = encoder.write_header()?;
    pages.iter().try_for_each(|page| writer.write_image_data(&page.rgb))?;
    writer.finish()?;
    Ok(bytes)
}

fn gif(pages: &[PagePixels], pace: Pace) -> Result<Vec<u8>, gif::EncodingError> {
    /// Of 1, the best, to 30: pages have few colours.
    const SPEED: i32 = 10;
    let mut bytes = Vec::new();
    let Some(first) = pages.first() else { return Ok(bytes) };
    let size = |side: u32| u16::try_from(side).unwrap_or(u16::MAX);
    let mut encoder = gif::Encoder::new(&mut bytes, size(first.width), size(first.height), &[])?;
    encoder.set_repeat(gif::Repeat::Infinite)?;
    let mut shown = 0.0;
    for page in pages {
        // Times are whole hundredths: what one page loses the next gets.
        let until = shown + 100.0 / pace.per_second;
        let mut frame = gif::Frame::from_rgb_speed(size(page.width), size(page.height), &page.rgb, SPEED);
        frame.delay = (until.round() - f64::round(shown)).max(1.0) as u16;
        shown = until;
        encoder.write_frame(&frame)?;
    }
    encoder.get_mut().flush()?;
    drop(encoder);
    Ok(bytes)
}
