//! What art of a finished game has besides its forms: outlines in two tones, dithering, soft edges, a glow, and sparks that
//! fly apart from the figure.

use crate::canvas::{OUTLINE, Raster};
use crate::dice::Dice;

/// The outline where light falls on it.
const LIT_OUTLINE: [u8; 3] = [64, 58, 92];
/// The light round lamps.
const GLOW: [u8; 3] = [255, 214, 122];
const SPARK: [u8; 3] = [255, 240, 190];

/// Alpha of pixels that count as the figure's.
const OPAQUE: u8 = 255;

impl Raster {
    fn index(&self, x: i64, y: i64) -> Option<usize> {
        let inside = x >= 0 && y >= 0 && x < i64::from(self.width) && y < i64::from(self.height);
        inside.then(|| y as usize * self.width as usize + x as usize)
    }

    fn is_opaque(&self, x: i64, y: i64) -> bool {
        self.index(x, y).is_some_and(|index| self.pixels[index][3] == OPAQUE)
    }

    /// Puts another colour where `changed` gives one for a place and the pixel there; all look at the pixels as they were.
    fn recoloured(self, mut changed: impl FnMut(&Raster, i64, i64, [u8; 4]) -> Option<[u8; 4]>) -> Raster {
        let mut pixels = self.pixels.clone();
        for y in 0..i64::from(self.height) {
            for x in 0..i64::from(self.width) {
                let index = y as usize * self.width as usize + x as usize;
                pixels[index] = changed(&self, x, y, self.pixels[index]).unwrap_or(pixels[index]);
            }
        }
        Raster { pixels, ..self }
    }

    /// Lights the outline from the top left.
    pub(crate) fn with_lit_outline(self) -> Raster {
        let [r, g, b] = OUTLINE;
        self.recoloured(|art, x, y, pixel| {
            let is_lit = pixel == [r, g, b, OPAQUE] && (art.is_opaque(x + 1, y) || art.is_opaque(x, y + 1));
            let [r, g, b] = LIT_OUTLINE;
            (is_lit && !art.is_opaque(x - 1, y)).then_some([r, g, b, OPAQUE])
        })
    }

    /// Darkens every other pixel in bands between light and shade.
    pub(crate) fn dithered(self, dice: &mut Dice) -> Raster {
        let (band, slope) = (3 + dice.below(6) as i64, dice.between(-1.0, 1.0));
        self.recoloured(|_, x, y, [r, g, b, a]| {
            let along = y + (x as f64 * slope) as i64;
            let is_dark = a == OPAQUE && (x + y) % 2 == 0 && (along / band) % 2 == 0;
            let darker = |tone: u8| (u16::from(tone) * 7 / 8) as u8;
            is_dark.then(|| [darker(r), darker(g), darker(b), a])
        })
    }

    /// Blends the rim into what lies behind, as if it had been drawn larger and made small: what is beside more of the figure is
    /// less clear.
    pub(crate) fn with_soft_edges(self, dice: &mut Dice) -> Raster {
        let [r, g, b] = OUTLINE;
        self.recoloured(|art, x, y, pixel| {
            if pixel[3] == OPAQUE {
                return None;
            }
            let beside = (-1..=1).flat_map(|dy| (-1..=1).map(move |dx| (dx, dy)));
            let count = beside.filter(|(dx, dy)| art.is_opaque(x + dx, y + dy)).count();
            let alpha = (count as f64 * 26.0 + dice.between(-36.0, 36.0)).clamp(0.0, 235.0) as u8;
            (count > 0 && alpha > 12).then_some([r, g, b, alpha])
        })
    }

    /// A glow round a place, behind the figure.
    pub(crate) fn with_glow(self, (cx, cy): (f64, f64), radius: f64) -> Raster {
        self.recoloured(|_, x, y, pixel| {
            let away = ((x as f64 + 0.5 - cx).hypot(y as f64 + 0.5 - cy)) / radius;
            let [r, g, b] = GLOW;
            (pixel[3] == 0 && away < 1.0).then(|| [r, g, b, (110.0 * (1.0 - away)) as u8 + 4])
        })
    }

    /// Sparks of some pixels each, wherever they fall.
    pub(crate) fn with_sparks(self, dice: &mut Dice, count: u64) -> Raster {
        let (width, height) = (f64::from(self.width), f64::from(self.height));
        let spark = |_| {
            let radius = dice.between(0.012, 0.034) * width;
            (dice.between(0.1, 0.9) * width, dice.between(0.08, 0.7) * height, radius.max(0.8))
        };
        let sparks: Vec<(f64, f64, f64)> = (0..count).map(spark).collect();
        let [r, g, b] = SPARK;
        self.recoloured(|_, x, y, pixel| {
            let within = |&(cx, cy, radius): &(f64, f64, f64)| {
                (x as f64 + 0.5 - cx).abs() + (y as f64 + 0.5 - cy).abs() <= radius
            };
            (pixel[3] != OPAQUE && sparks.iter().any(within)).then_some([r, g, b, OPAQUE])
        })
    }
}
