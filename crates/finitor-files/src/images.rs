//! Reading pictures: PNG of any kind, animated PNG and GIF, as 8-bit RGBA.

use finitor_core::art::{Blend, Canvas, Disposal, Picture, PixelRect};
use png::{BitDepth, BlendOp, ColorType, DisposeOp, Transformations};
use std::fs::File;
use std::io::{BufRead, BufReader};
use std::num::NonZeroU64;
use std::path::Path;

/// Largest width or height of a picture, px.
pub const MAX_SIDE: u32 = 16_384;

/// Million pixels decoded from one file, all its images together, unless the user says otherwise: 256 MB.
pub const USUAL_MAX_MPX: u32 = 64;

/// Most images of an animated file.
const MAX_IMAGES: u32 = 10_000;

/// Seconds that an image lasts whose file states no delay, as most viewers show it.
const USUAL_DELAY: f64 = 0.1;

const CUT_SHORT: &str = "ends before the picture does: the file is cut short; export it again";

/// One image of a file as it is seen, blended over what the ones before left.
#[derive(Clone, Debug, PartialEq)]
pub struct Image {
    /// Its pixels.
    pub picture: Picture,
    /// How long it lasts, seconds; 0 in a still picture.
    pub delay: f64,
}

/// A file's images and how they were written.
#[derive(Clone, Debug, PartialEq)]
pub struct Images {
    /// The images, at least one, all of one size.
    pub images: Vec<Image>,
    /// How the file holds its pixels, in words: `8-bit palette PNG`.
    pub written_as: String,
}

/// Reads all images of a file; a still picture has one. Sizes are checked before memory is taken for them; no more than
/// `max_mpx` million pixels are decoded.
///
/// # Errors
/// The reason in words, without the path.
pub fn read_images(path: &Path, max_mpx: u32) -> Result<Images, String> {
    let mut reader = open(path)?;
    match sort_of(&mut reader)? {
        Sort::Png => read_png(reader, Budget { max_mpx }),
        Sort::Gif => read_gif(reader, Budget { max_mpx }),
    }
}

/// Reads the size of a file's images from its header, and checks it as [`read_images`] does.
///
/// # Errors
/// The reason in words, without the path.
pub(crate) fn read_size(path: &Path, max_mpx: u32) -> Result<(u32, u32), String> {
    let (mut reader, budget) = (open(path)?, Budget { max_mpx });
    let size = match sort_of(&mut reader)? {
        Sort::Png => {
            let mut decoder = png::Decoder::new(reader);
            let header = decoder.read_header_info().map_err(|error| png_error(&error))?;
            (header.width, header.height)
        }
        Sort::Gif => {
            let decoder = gif::DecodeOptions::new().read_info(reader).map_err(gif_told)?;
            (decoder.width().into(), decoder.height().into())
        }
    };
    budget.check(size.0, size.1, 1)?;
    Ok(size)
}

fn open(path: &Path) -> Result<BufReader<File>, String> {
    let file = File::open(path).map_err(|error| match error.kind() {
        std::io::ErrorKind::NotFound => "there is no such file".to_string(),
        _ => format!("cannot be read: {error}"),
    })?;
    Ok(BufReader::new(file))
}

enum Sort {
    Png,
    Gif,
}

/// What a file is by its first bytes, which stay unread.
fn sort_of(reader: &mut BufReader<File>) -> Result<Sort, String> {
    let start = reader.fill_buf().map_err(|error| match error.kind() {
        std::io::ErrorKind::IsADirectory => "is a folder; name a picture".to_string(),
        _ => format!("cannot be read: {error}"),
    })?;
    match start {
        [] => Err("is empty: the export broke off; export it again".to_string()),
        [b'G', b'I', b'F', b'8', ..] => Ok(Sort::Gif),
        [0x89, b'P', b'N', b'G', ..] => Ok(Sort::Png),
        _ => Err("is neither a PNG nor a GIF by its first bytes; export it as one of them".to_string()),
    }
}

/// Reads the first image of a file.
///
/// # Errors
/// The reason in words, without the path.
pub fn read_picture(path: &Path, max_mpx: u32) -> Result<Picture, String> {
    let first = read_images(path, max_mpx)?.images.into_iter().next();
    first.map(|image| image.picture).ok_or_else(|| "holds no image".to_string())
}

/// How much may be decoded.
#[derive(Clone, Copy)]
struct Budget {
    max_mpx: u32,
}

impl Budget {
    fn pixels(self) -> u64 {
        u64::from(self.max_mpx) * 1_000_000
    }

    /// Refuses what is larger than a picture may be.
    fn check(self, width: u32, height: u32, images: u64) -> Result<(), String> {
        if width == 0 || height == 0 {
            return Err(format!("is {width} x {height} px by its header: it holds no pixel"));
        }
        if width > MAX_SIDE || height > MAX_SIDE {
            return Err(format!("is {width} x {height} px by its header; at most {MAX_SIDE} px a side are read"));
        }
        let pixels = u64::from(width) * u64::from(height) * images;
        if pixels > self.pixels() {
            let each = if images > 1 {
                format!("{images} images of {width} x {height} px")
            } else {
                format!("{width} x {height} px")
            };
            return Err(format!(
                "is {each}, {} million px in all; at most {} million are read from one file (--max-mpx {} reads it)",
                pixels.div_ceil(1_000_000),
                self.max_mpx,
                pixels.div_ceil(1_000_000)
            ));
        }
        Ok(())
    }
}

fn read_png(file: BufReader<File>, budget: Budget) -> Result<Images, String> {
    let limits = png::Limits { bytes: usize::try_from(budget.pixels() * 8).unwrap_or(usize::MAX) };
    let mut decoder = png::Decoder::new_with_limits(file, limits);
    decoder.set_transformations(Transformations::EXPAND | Transformations::STRIP_16);
    // Texts and colour profiles say nothing about shapes, and compressed they could hold anything.
    decoder.set_ignore_text_chunk(true);
    decoder.set_ignore_iccp_chunk(true);
    let header = decoder.read_header_info().map_err(|error| png_error(&error))?;
    budget.check(header.width, header.height, 1)?;
    let mut reader = decoder.read_info().map_err(|error| png_error(&error))?;
    let info = reader.info();
    let (width, height) = (info.width, info.height);
    let count = info.animation_control().map_or(1, |animation| animation.num_frames);
    if count > MAX_IMAGES {
        return Err(format!("is an animation of {count} images by its header; at most {MAX_IMAGES} are read"));
    }
    budget.check(width, height, count.into())?;
    let animated = info.animation_control().is_some();
    let written_as = written_as(info);
    if !animated && reader.output_color_type() == (ColorType::Rgba, BitDepth::Eight) {
        // The usual sort is decoded to where it is to be.
        let mut pixels = vec![[0; 4]; width as usize * height as usize];
        reader.next_frame(pixels.as_flattened_mut()).map_err(|error| png_error(&error))?;
        let picture = Picture::new(width, height, pixels).ok_or("has fewer pixels than its header says")?;
        return Ok(Images { images: vec![Image { picture, delay: 0.0 }], written_as });
    }
    let size = reader.output_buffer_size().ok_or("is too large for this machine")?;
    let mut bytes = vec![0; size];
    let mut canvas = Canvas::new(width, height);
    let mut images = Vec::new();
    // The first image may be one for viewers that know no animation; then no frame control comes before it.
    let shown_alone = animated && reader.info().frame_control.is_none();
    if shown_alone {
        reader.next_frame(&mut bytes).map_err(|error| png_error(&error))?;
    }
    while images.len() < count as usize {
        let decoded = reader.next_frame(&mut bytes).map_err(|error| png_error(&error))?;
        let pixels = rgba(&reader, &bytes, &decoded)?;
        let control = reader.info().frame_control.filter(|_| animated);
        let whole = PixelRect { x: 0, y: 0, width, height };
        let Some(control) = control else {
            let picture = Picture::new(width, height, pixels).ok_or("has fewer pixels than its header says")?;
            images.push(Image { picture, delay: 0.0 });
            continue;
        };
        let Placing { rect, blend, disposal, delay } = Placing::new(&control, whole, images.is_empty());
        images.push(Image { picture: canvas.show(rect, &pixels, blend, disposal), delay });
    }
    Ok(Images { images, written_as })
}

/// How a PNG holds its pixels: `8-bit RGBA PNG`.
fn written_as(info: &png::Info<'_>) -> String {
    let kind = match info.color_type {
        ColorType::Indexed => "palette",
        ColorType::Grayscale => "grey",
        ColorType::GrayscaleAlpha => "grey and alpha",
        ColorType::Rgb => "RGB",
        ColorType::Rgba => "RGBA",
    };
    let interlaced = if info.interlaced { ", interlaced" } else { "" };
    let name = if info.animation_control().is_some() { "animated PNG" } else { "PNG" };
    format!("{}-bit {kind} {name}{interlaced}", info.bit_depth as u8)
}

/// Where an image of an animation goes, and for how long.
struct Placing {
    rect: PixelRect,
    blend: Blend,
    disposal: Disposal,
    /// Seconds.
    delay: f64,
}

impl Placing {
    fn new(control: &png::FrameControl, whole: PixelRect, is_first: bool) -> Placing {
        let rect = PixelRect { x: control.x_offset, y: control.y_offset, width: control.width, height: control.height };
        let blend = match control.blend_op {
            BlendOp::Source => Blend::Replace,
            BlendOp::Over => Blend::Over,
        };
        let disposal = match control.dispose_op {
            DisposeOp::None => Disposal::Keep,
            DisposeOp::Background => Disposal::Clear,
            // There is nothing before the first image to go back to.
            DisposeOp::Previous if is_first => Disposal::Clear,
            DisposeOp::Previous => Disposal::Restore,
        };
        let rect = if rect.width == 0 || rect.height == 0 { whole } else { rect };
        let parts = if control.delay_den == 0 { 100 } else { control.delay_den };
        let delay = f64::from(control.delay_num) / f64::from(parts);
        Placing { rect, blend, disposal, delay: if delay == 0.0 { USUAL_DELAY } else { delay } }
    }
}

/// The pixels of an image just decoded, row by row.
fn rgba(
    reader: &png::Reader<BufReader<File>>,
    bytes: &[u8],
    decoded: &png::OutputInfo,
) -> Result<Vec<[u8; 4]>, String> {
    if decoded.bit_depth != BitDepth::Eight {
        return Err(format!("has {:?} bits a channel after decoding, 8 were expected", decoded.bit_depth));
    }
    // Interlaced parts of an animation are laid out as wide as the whole canvas.
    let stride = match reader.info().interlaced {
        true => reader.output_line_size(reader.info().width).ok_or("is too large for this machine")?,
        false => decoded.line_size,
    };
    let rows = bytes.chunks(stride).take(decoded.height as usize).map(|row| &row[..decoded.line_size.min(row.len())]);
    let mut pixels = Vec::with_capacity(decoded.width as usize * decoded.height as usize);
    for row in rows {
        match decoded.color_type {
            ColorType::Grayscale => pixels.extend(row.iter().map(|&v| [v, v, v, 255])),
            ColorType::GrayscaleAlpha => pixels.extend(row.chunks_exact(2).map(|p| [p[0], p[0], p[0], p[1]])),
            ColorType::Rgb => pixels.extend(row.chunks_exact(3).map(|p| [p[0], p[1], p[2], 255])),
            ColorType::Rgba => pixels.extend(row.chunks_exact(4).map(|p| [p[0], p[1], p[2], p[3]])),
            ColorType::Indexed => return Err("has a palette that could not be resolved".to_string()),
        }
    }
    Ok(pixels)
}

fn png_error(error: &png::DecodingError) -> String {
    match error {
        png::DecodingError::IoError(error) if error.kind() == std::io::ErrorKind::UnexpectedEof => {
            CUT_SHORT.to_string()
        }
        png::DecodingError::LimitsExceeded => "is larger than any picture read here".to_string(),
        other => format!("is no sound PNG: {other}"),
    }
}

fn read_gif(file: BufReader<File>, budget: Budget) -> Result<Images, String> {
    let mut options = gif::DecodeOptions::new();
    options.set_color_output(gif::ColorOutput::RGBA);
    if let Some(bytes) = NonZeroU64::new(budget.pixels() * 4) {
        options.set_memory_limit(gif::MemoryLimit::Bytes(bytes));
    }
    let mut decoder = options.read_info(file).map_err(gif_told)?;
    let (width, height) = (u32::from(decoder.width()), u32::from(decoder.height()));
    budget.check(width, height, 1)?;
    let mut canvas = Canvas::new(width, height);
    let mut images: Vec<Image> = Vec::new();
    while let Some(frame) = decoder.read_next_frame().map_err(gif_told)? {
        let count = images.len() as u64 + 1;
        if count > MAX_IMAGES.into() {
            return Err(format!("holds more than {MAX_IMAGES} images; no more are read"));
        }
        // The format does not say beforehand how many images come.
        budget.check(width, height, count)?;
        let rect = PixelRect {
            x: frame.left.into(),
            y: frame.top.into(),
            width: frame.width.into(),
            height: frame.height.into(),
        };
        let disposal = match frame.dispose {
            gif::DisposalMethod::Any | gif::DisposalMethod::Keep => Disposal::Keep,
            gif::DisposalMethod::Background => Disposal::Clear,
            gif::DisposalMethod::Previous => Disposal::Restore,
        };
        let delay = if frame.delay == 0 { USUAL_DELAY } else { f64::from(frame.delay) / 100.0 };
        let (pixels, _) = frame.buffer.as_chunks::<4>();
        images.push(Image { picture: canvas.show(rect, pixels, Blend::Over, disposal), delay });
    }
    match images.as_mut_slice() {
        [] => return Err("is a GIF without any image".to_string()),
        [still] => still.delay = 0.0,
        _ => {}
    }
    let name = if images.len() > 1 { "animated GIF" } else { "GIF" };
    Ok(Images { images, written_as: format!("8-bit palette {name}") })
}

fn gif_told(error: gif::DecodingError) -> String {
    match error {
        gif::DecodingError::UnexpectedEof => CUT_SHORT.to_string(),
        gif::DecodingError::Io(error) if error.kind() == std::io::ErrorKind::UnexpectedEof => CUT_SHORT.to_string(),
        other => format!("is no sound GIF: {other}"),
    }
}
