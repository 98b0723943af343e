//! Animated pictures: each image is drawn over what the one before left.

use super::{Picture, PixelRect};

/// How an image meets what lies under it.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Blend {
    /// It replaces it, transparent pixels and all.
    Replace,
    /// It lies over it, by its alpha.
    Over,
}

/// What is left of an image once it was shown.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Disposal {
    /// All of it.
    Keep,
    /// Its rectangle is cleared to transparent.
    Clear,
    /// What was there before it.
    Restore,
}

/// The canvas of an animation, transparent at first.
///
/// # Source
/// Blending and disposal as in the W3C's Portable Network Graphics (Third Edition), 2025, and in the GIF89a
/// specification, 1990. O(pixels of the canvas) an image.
#[derive(Clone, Debug)]
pub struct Canvas {
    picture: Picture,
}

impl Canvas {
    /// A transparent canvas.
    pub fn new(width: u32, height: u32) -> Canvas {
        let pixels = vec![[0; 4]; width as usize * height as usize];
        Canvas { picture: Picture { width, height, pixels } }
    }

    /// Draws an image at a place and returns the whole canvas as it is then seen; disposal happens afterwards. What
    /// reaches past the canvas is cut off; `image` is row by row.
    pub fn show(&mut self, rect: PixelRect, image: &[[u8; 4]], blend: Blend, disposal: Disposal) -> Picture {
        let before = (disposal == Disposal::Restore).then(|| self.picture.clone());
        self.each(rect, |pixel, index| {
            let above = image.get(index).copied().unwrap_or([0; 4]);
            *pixel = match blend {
                Blend::Replace => above,
                Blend::Over => over(above, *pixel),
            };
        });
        let shown = self.picture.clone();
        match (disposal, before) {
            (Disposal::Clear, _) => self.each(rect, |pixel, _| *pixel = [0; 4]),
            (Disposal::Restore, Some(before)) => self.picture = before,
            _ => {}
        }
        shown
    }

    fn each(&mut self, rect: PixelRect, mut change: impl FnMut(&mut [u8; 4], usize)) {
        let (width, height) = (self.picture.width, self.picture.height);
        for y in 0..rect.height.min(height.saturating_sub(rect.y)) {
            for x in 0..rect.width.min(width.saturating_sub(rect.x)) {
                let index = y as usize * rect.width as usize + x as usize;
                let at = (rect.y + y) as usize * width as usize + (rect.x + x) as usize;
                change(&mut self.picture.pixels[at], index);
            }
        }
    }
}

/// One straight-alpha pixel over another, in 8 bits.
fn over(above: [u8; 4], below: [u8; 4]) -> [u8; 4] {
    match (above[3], below[3]) {
        (255, _) | (_, 0) => above,
        (0, _) => below,
        (a, b) => {
            let (a, b) = (u32::from(a), u32::from(b));
            // Both weights and their sum are in 255 * 255ths.
            let (weight, rest) = (a * 255, b * (255 - a));
            let sum = weight + rest;
            let mix = |i: usize| ((u32::from(above[i]) * weight + u32::from(below[i]) * rest + sum / 2) / sum) as u8;
            [mix(0), mix(1), mix(2), ((sum + 127) / 255) as u8]
        }
    }
}
