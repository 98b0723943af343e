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

/// A picture in memory: 8-bit RGBA, straight alpha, rows from the top.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Picture {
    width: u32,
    height: u32,
    pixels: Vec<[u8; 4]>,
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
        let right = rect.x.checked_add(rect.width)?;
        let bottom = rect.y.checked_add(rect.height)?;
        if right > self.width || bottom > self.height {
            return None;
        }
        let pixels = (rect.y..bottom).flat_map(|y| &self.row(y)[rect.x as usize..right as usize]).copied().collect();
        Some(Picture { width: rect.width, height: rect.height, pixels })
    }

    /// The pixels whose alpha is at least `alpha`.
    pub fn opaque(&self, alpha: u8) -> Mask {
        Mask::from_fn(self.width, self.height, |x, y| self.row(y)[x as usize][3] >= alpha)
    }

    /// The pixels of exactly one of the colours that are not wholly transparent.
    pub fn painted(&self, colours: &[Colour]) -> Mask {
        Mask::from_fn(self.width, self.height, |x, y| {
            let [r, g, b, a] = self.row(y)[x as usize];
            a > 0 && colours.contains(&Colour([r, g, b]))
        })
    }
}
