//! Scenes as PNG.

use crate::palette::PAGE;
use crate::scene::{Placed, Scene};
use crate::svg::{Parts, encoded, parts_to_svg};
use finitor_core::Rect;
use finitor_core::art::Colour;
use resvg::tiny_skia::{Pixmap, Transform};
use resvg::usvg;
use std::sync::Arc;
use thiserror::Error;

/// Most pixels of a drawn picture.
pub const MAX_PICTURE_PIXELS: f64 = 64.0 * 1024.0 * 1024.0;

const FONT: &[u8] = include_bytes!("../assets/JetBrainsMono-Regular.ttf");

/// Why a scene could not be drawn.
#[derive(Debug, Error)]
pub enum DrawError {
    /// The page is larger than [`MAX_PICTURE_PIXELS`].
    #[error("the picture would be {width} x {height} px; choose a smaller scale")]
    TooLarge {
        /// Width, px.
        width: f64,
        /// Height, px.
        height: f64,
    },
    /// The scene's own SVG was refused; a fault of this program.
    #[error("the scene could not be drawn: {0}")]
    Svg(#[from] usvg::Error),
    /// The pixels could not be written as PNG.
    #[error("the picture could not be written as PNG")]
    Png,
}

/// Pixels of a page, 8 bits each of red, green and blue.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PagePixels {
    /// Columns.
    pub width: u32,
    /// Rows.
    pub height: u32,
    /// Three bytes a pixel, row by row.
    pub rgb: Vec<u8>,
}

/// The scene as a PNG file.
///
/// # Errors
/// [`DrawError::TooLarge`] before memory is taken for it; the others are faults of this program.
pub fn to_png(scene: &Scene) -> Result<Vec<u8>, DrawError> {
    let PagePixels { width, height, rgb } = to_pixels(scene)?;
    encoded([width, height], png::ColorType::Rgb, &rgb).ok_or(DrawError::Png)
}

/// The scene as pixels.
///
/// # Errors
/// As [`to_png`].
pub fn to_pixels(scene: &Scene) -> Result<PagePixels, DrawError> {
    let (width, height) = (scene.size().x, scene.size().y);
    let sizes = width >= 1.0 && height >= 1.0 && width * height <= MAX_PICTURE_PIXELS;
    let pixmap = sizes.then(|| Pixmap::new(width as u32, height as u32)).flatten();
    let mut pixmap = pixmap.ok_or(DrawError::TooLarge { width, height })?;
    let [r, g, b] = Colour::parse(scene.theme.colour(PAGE)).map_or([0; 3], |colour| colour.0);
    pixmap.fill(resvg::tiny_skia::Color::from_rgba8(r, g, b, 255));
    let options = options();
    for (index, panel) in scene.panels.iter().enumerate() {
        let tree = |parts| usvg::Tree::from_str(&parts_to_svg(scene, parts), &options);
        // What lies over the art takes longest to read, which another thread may do that has nothing else to do.
        let under = || tree(Parts::Under(index)).map(|tree| draw(&mut pixmap, &tree));
        let (under, over) = rayon::join(under, || tree(Parts::Over(index)));
        under?;
        for placed in &panel.art {
            copy(&mut pixmap, placed, panel.frame, scene.shrink);
        }
        draw(&mut pixmap, &over?);
    }
    let rgb: Vec<u8> = pixmap.pixels().iter().flat_map(|p| [p.red(), p.green(), p.blue()]).collect();
    Ok(PagePixels { width: pixmap.width(), height: pixmap.height(), rgb })
}

fn options() -> usvg::Options<'static> {
    let mut options = usvg::Options { font_family: "JetBrains Mono".to_string(), ..usvg::Options::default() };
    let fonts = options.fontdb_mut();
    fonts.load_font_source(usvg::fontdb::Source::Binary(Arc::new(letters_alone(FONT))));
    fonts.set_monospace_family("JetBrains Mono");
    options
}

/// A font without the table that puts one glyph in place of several letters: figures and names are read letter by letter, and looking
/// for such glyphs takes longer than drawing. Its entry gets a name that nothing looks for.
fn letters_alone(font: &[u8]) -> Vec<u8> {
    /// Bytes before the list of tables, and of each entry.
    const HEAD: usize = 12;
    const ENTRY: usize = 16;
    let mut font = font.to_vec();
    let count = font.get(4..6).map_or(0, |bytes| usize::from(bytes[0]) << 8 | usize::from(bytes[1]));
    let entries = font.get_mut(HEAD..).into_iter().flat_map(|rest| rest.chunks_exact_mut(ENTRY)).take(count);
    entries.filter(|entry| entry.starts_with(b"GSUB")).for_each(|entry| entry[..4].copy_from_slice(b"none"));
    font
}

fn draw(pixmap: &mut Pixmap, tree: &usvg::Tree) {
    resvg::render(tree, Transform::identity(), &mut pixmap.as_mut());
}

/// Copies a picture, each pixel as a square, over what is there; the page is opaque, so alpha only mixes. On a page that is made
/// smaller each pixel has the colour at its middle.
fn copy(pixmap: &mut Pixmap, placed: &Placed, frame: Rect, shrink: f64) {
    let Placed { picture, at, scale, mirrored, opacity } = placed;
    let (page_width, page_height) = (pixmap.width(), pixmap.height());
    let side = f64::from(*scale) * shrink;
    let frame = Rect::new(frame.x0 * shrink, frame.y0 * shrink, frame.x1 * shrink, frame.y1 * shrink);
    let left = frame.x0.max(0.0).ceil() as i64;
    let right = (frame.x1.min(f64::from(page_width))).floor() as i64;
    let top = frame.y0.max(0.0).ceil() as i64;
    let bottom = (frame.y1.min(f64::from(page_height))).floor() as i64;
    let (x0, y0) = ((at.x * shrink).round() as i64, (at.y * shrink).round() as i64);
    let end = |from: i64, count: u32| from + (f64::from(count) * side).floor() as i64;
    let of = |place: i64, count: u32| (((place as f64 + 0.5) / side) as usize).min(count as usize - 1);
    let columns = x0.max(left)..end(x0, picture.width()).min(right);
    // The column of the picture for each of the page.
    let sources = columns.clone().map(|x| {
        let column = of(x - x0, picture.width());
        if *mirrored { picture.width() as usize - 1 - column } else { column }
    });
    let sources: Vec<usize> = sources.collect();
    let faint = std::array::from_fn::<u8, 256, _>(|alpha| (alpha as f64 * opacity).round() as u8);
    let data = pixmap.data_mut();
    for y in y0.max(top)..end(y0, picture.height()).min(bottom) {
        let row = picture.row(of(y - y0, picture.height()) as u32);
        for (x, column) in columns.clone().zip(&sources) {
            let [r, g, b, alpha] = row[*column];
            let share = u32::from(faint[usize::from(alpha)]);
            if share == 0 {
                continue;
            }
            let start = (y * i64::from(page_width) + x) as usize * 4;
            for (old, new) in data[start..start + 3].iter_mut().zip([r, g, b]) {
                *old = ((u32::from(new) * share + u32::from(*old) * (255 - share) + 127) / 255) as u8;
            }
        }
    }
}
