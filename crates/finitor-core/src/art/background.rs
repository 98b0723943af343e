//! What art stands on in a picture.

use super::Colour;

/// The picture's background.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Background {
    /// Some pixels are transparent.
    Transparent,
    /// No pixel is, and this share of them has the corner's colour: the art is likely to stand on it.
    Coloured(Colour, f64),
    /// No pixel is transparent, and no colour stands for the background.
    None,
}

/// A colour that fills less than this share of a picture without transparency is not taken for its background.
const BACKGROUND_SHARE: f64 = 0.2;

impl Background {
    /// That of pixels, the corner's first.
    pub(super) fn of<'p>(pixels: impl Iterator<Item = &'p [u8; 4]> + Clone) -> Background {
        if pixels.clone().any(|pixel| pixel[3] < 255) {
            return Background::Transparent;
        }
        let Some([r, g, b, _]) = pixels.clone().next() else {
            return Background::None;
        };
        let corner = Colour([*r, *g, *b]);
        let (mut count, mut alike) = (0_usize, 0_usize);
        for [r, g, b, _] in pixels {
            count += 1;
            alike += usize::from(Colour([*r, *g, *b]) == corner);
        }
        let share = alike as f64 / count as f64;
        // A picture of one colour alone is art, not background.
        if alike < count && share >= BACKGROUND_SHARE { Background::Coloured(corner, share) } else { Background::None }
    }

    /// Whether a pixel is art on it.
    pub(super) fn shows(&self, [r, g, b, alpha]: [u8; 4]) -> bool {
        match self {
            Background::Transparent => alpha > 0,
            Background::Coloured(colour, _) => Colour([r, g, b]) != *colour,
            Background::None => true,
        }
    }
}
