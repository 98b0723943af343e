//! Decoded pictures as plain values.

use super::Mask;
use std::fmt;

/// A colour without alpha.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub struct Colour(pub [u8; 3]);

impl Colour {
    /// Reads `#rrggbb`; `None` for anything else.
    pub fn parse(text: &str) -> Option<Colour> {
        let digits = text.strip_prefix('#')?;
        if digits.len() != 6 || !digits.bytes().all(|b| b.is_ascii_hexdigit()) {
            return None;
        }
        let value = u32::from_str_radix(digits, 16).ok()?;
        let [_, r, g, b] = value.to_be_bytes();
        Some(Colour([r, g, b]))
    }
}

impl fmt::Display for Colour {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let [r, g, b] = self.0;
        write!(f, "#{r:02x}{g:02x}{b:02x}")
    }
}

/// A rectangle of whole pixels, in cell or sheet space.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct PixelRect {
    /// Left column.
    pub x: u32,
    /// Top row.
    pub y: u32,
    /// Columns.
    pub width: u32,
    /// Rows.
    pub height: u32,
}

impl PixelRect {
    /// From its top row to the one after its last.
    pub fn rows(&self) -> std::ops::Range<u32> {
        self.y..self.y + self.height
    }
}

/// A picture in memory: 8-bit RGBA, straight alpha, rows from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    pub(super) width: u32,
    pub(super) height: u32,
    pub(super) pixels: Vec<[u8; 4]>,
}

/// A colour that stands for transparent, in pictures without alpha.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Key {
    /// The colour; that of the top left pixel where `None`.
    pub colour: Option<Colour>,
    /// Largest difference of any channel, 0 to 255, at which a colour still counts as the key.
    pub tolerance: u8,
}

impl Picture {
    /// A picture from its pixels, row by row; `None` when their number is not `width * height`.
    pub fn new(width: u32, height: u32, pixels: Vec<[u8; 4]>) -> Option<Picture> {
        let expected = usize::try_from(u64::from(width) * u64::from(height)).ok()?;
        (pixels.len() == expected).then_some(Picture { width, height, pixels })
    }

    /// Columns.
    pub fn width(&self) -> u32 {
        self.width
    }

    /// Rows.
    pub fn height(&self) -> u32 {
        self.height
    }

    /// All pixels, row by row.
    pub fn pixels(&self) -> &[[u8; 4]] {
        &self.pixels
    }

    /// One row of pixels, left to right.
    ///
    /// # Panics
    /// When `y` is not below the height.
    pub fn row(&self, y: u32) -> &[[u8; 4]] {
        let start = y as usize * self.width as usize;
        &self.pixels[start..start + self.width as usize]
    }

    /// The part inside `rect`, or `None` when the rectangle reaches past the picture.
    pub fn crop(&self, rect: PixelRect) -> Option<Picture> {
        self.view(rect).map(|view| view.to_picture())
    }

    /// Makes every pixel of the key's colour wholly transparent.
    ///
    /// # Complexity
    /// O(pixels).
    pub fn apply_key(&mut self, key: Key) {
        let Some(colour) = key.colour.or_else(|| self.corner()) else {
            return;
        };
        for pixel in &mut self.pixels {
            let near = (0..3).all(|i| pixel[i].abs_diff(colour.0[i]) <= key.tolerance);
            if near {
                *pixel = [0; 4];
            }
        }
    }

    /// The colour of the top left pixel; `None` for a picture without pixels.
    pub fn corner(&self) -> Option<Colour> {
        self.pixels.first().map(|[r, g, b, _]| Colour([*r, *g, *b]))
    }

    /// The picture turned over, left to right.
    #[must_use]
    pub fn mirrored(&self) -> Picture {
        let pixels = (0..self.height).flat_map(|y| self.row(y).iter().rev()).copied().collect();
        Picture { pixels, ..*self }
    }

    /// The pixels whose alpha is at least `alpha`.
    pub fn opaque(&self, alpha: u8) -> Mask {
        self.whole().opaque(alpha)
    }

    /// The pixels of exactly one of the colours that are not wholly transparent.
    pub fn painted(&self, colours: &[Colour]) -> Mask {
        Mask::from_fn(self.width, self.height, |x, y| {
            let [r, g, b, a] = self.row(y)[x as usize];
            a > 0 && colours.contains(&Colour([r, g, b]))
        })
    }
}
