//! What art stands on in a picture.

use super::{Colour, Picture};

/// The picture's background.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Background {
    /// Some pixels are transparent.
    Transparent,
    /// No pixel is, and this share of them has the corner's colour: the art is likely to stand on it.
    Coloured(Colour, f64),
    /// No pixel is, and squares of two colours, as on a chess board, are painted where it should be: programs show transparent pixels
    /// so.
    Checkered([Colour; 2]),
    /// No pixel is transparent, and no colour stands for the background.
    None,
}

/// A colour that fills less than this share of a picture without transparency is not taken for its background.
const BACKGROUND_SHARE: f64 = 0.2;
/// Sides of the squares of a painted chess board, px.
const SQUARES: std::ops::RangeInclusive<u32> = 4..=32;

/// Squares of two colours, as on a chess board, from a picture's corner on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct Board {
    side: u32,
    pub(super) colours: [Colour; 2],
}

impl Board {
    /// The board that a picture without any transparent pixel stands on; `None` where there is none.
    pub(super) fn of(picture: &Picture) -> Option<Board> {
        let colour = |x: u32, y: u32| {
            let [r, g, b, _] = picture.row(y)[x as usize];
            Colour([r, g, b])
        };
        let first = colour(0, 0);
        let side = (1..picture.width()).find(|x| colour(*x, 0) != first).filter(|side| SQUARES.contains(side))?;
        let board = Board { side, colours: [first, colour(side, 0)] };
        let (mut counts, mut strange) = ([0_usize; 2], 0_usize);
        for (y, x) in (0..picture.height()).flat_map(|y| (0..picture.width()).map(move |x| (y, x))) {
            let (shown, due) = (colour(x, y), board.at(x, y));
            match board.colours.iter().position(|known| *known == shown) {
                Some(index) if board.colours[index] == due => counts[index] += 1,
                Some(_) => strange += 1,
                None => {}
            }
        }
        // Art may have one of the colours too, but not in as many places.
        let all = picture.pixels().len() as f64;
        let is_even = counts[0].min(counts[1]) * 2 >= counts[0].max(counts[1]);
        let is_board = (counts[0] + counts[1]) as f64 >= BACKGROUND_SHARE * all && strange * 8 <= counts[0] + counts[1];
        (is_even && is_board).then_some(board)
    }

    /// The colour of a place.
    fn at(&self, x: u32, y: u32) -> Colour {
        self.colours[((x / self.side + y / self.side) % 2) as usize]
    }

    /// The picture with transparent pixels wherever the board shows.
    pub(super) fn removed_from(&self, picture: &Picture) -> Option<Picture> {
        let places = (0..picture.height()).flat_map(|y| (0..picture.width()).map(move |x| (x, y)));
        let pixels = picture.pixels().iter().zip(places).map(|(pixel, (x, y))| {
            let [r, g, b, _] = *pixel;
            if Colour([r, g, b]) == self.at(x, y) { [0; 4] } else { *pixel }
        });
        Picture::new(picture.width(), picture.height(), pixels.collect())
    }
}

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
            Background::Checkered(colours) => !colours.contains(&Colour([r, g, b])),
            Background::None => true,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn picture(of: impl Fn(u32, u32) -> [u8; 3]) -> Picture {
        let places = (0..60_u32).flat_map(|y| (0..90_u32).map(move |x| (x, y)));
        let pixels = places.map(|(x, y)| of(x, y)).map(|[r, g, b]| [r, g, b, 255]).collect();
        Picture::new(90, 60, pixels).expect("as many pixels as its size")
    }

    #[test]
    fn a_painted_chess_board_is_seen_and_taken_away_and_nothing_else_is() {
        let is_art = |x: u32, y: u32| (x % 30).abs_diff(15) < 7 && (y % 30).abs_diff(18) < 10;
        for side in [4, 7, 8, 16] {
            let board = |x: u32, y: u32| if (x / side + y / side).is_multiple_of(2) { [255; 3] } else { [204; 3] };
            let painted = picture(|x, y| if is_art(x, y) { [90, (x % 9) as u8, 30] } else { board(x, y) });
            let found = Board::of(&painted).expect("there is a board");
            assert_eq!(found, Board { side, colours: [Colour([255; 3]), Colour([204; 3])] });
            let left = found.removed_from(&painted).expect("as many pixels as before");
            let is_left = |x: u32, y: u32| left.row(y)[x as usize][3] > 0;
            assert!((0..60).all(|y| (0..90).all(|x| is_left(x, y) == is_art(x, y))), "squares of {side} px");
        }
        // One colour, stripes, and tiles in more colours than two.
        assert_eq!(Board::of(&picture(|_, _| [255; 3])), None);
        assert_eq!(Board::of(&picture(|x, _| if (x / 8).is_multiple_of(2) { [255; 3] } else { [204; 3] })), None);
        assert_eq!(Board::of(&picture(|x, y| [(x / 8 % 3 * 60) as u8, (y / 8 % 3 * 60) as u8, 0])), None);
        assert_eq!(Board::of(&picture(|x, y| if is_art(x, y) { [9; 3] } else { [255; 3] })), None);
    }
}
