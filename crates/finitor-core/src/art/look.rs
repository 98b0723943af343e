//! What a picture shows at first sight: its background, its cells, and what is odd about them.

use super::guess::{GridGuess, guess_grid, guess_tiles};
use super::{Colour, Grid, Key, Mask, Picture, PixelRect, Run, cells_by_gaps};
use std::collections::BTreeMap;

/// How a picture's cells were told apart.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Cutting {
    /// By a grid guessed from the art.
    Guessed(GridGuess),
    /// By a grid that was given.
    Given(Grid),
    /// By the transparent gaps around the art, at least this wide.
    Gaps(u32),
    /// Not at all: one frame.
    Whole,
}

impl Cutting {
    /// The grid, where there is one.
    pub fn grid(&self) -> Option<Grid> {
        match self {
            Cutting::Guessed(guess) => Some(guess.grid),
            Cutting::Given(grid) => Some(*grid),
            Cutting::Gaps(_) | Cutting::Whole => None,
        }
    }
}

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

/// One cell.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CellLook {
    /// Where it is.
    pub rect: PixelRect,
    /// The runs of its art, cell space.
    pub runs: Vec<Run>,
    /// Art pixels on its left, top, right and bottom edge.
    pub touched: [u32; 4],
    /// The first cell with the same pixels.
    pub same_as: Option<usize>,
    /// The first cell that is its mirror image, where none is the same.
    pub mirror_of: Option<usize>,
}

impl CellLook {
    /// Whether it holds no art.
    pub fn is_empty(&self) -> bool {
        self.runs.is_empty()
    }

    /// Art pixels on the edges where art that was not cut off ends short: left, top and right. Figures stand on the
    /// bottom edge of a cell as often as not.
    pub fn cut_off(&self) -> u32 {
        self.touched[0] + self.touched[1] + self.touched[2]
    }
}

/// What a picture shows.
#[derive(Clone, Debug, PartialEq)]
pub struct SheetLook {
    /// Its size, px.
    pub size: (u32, u32),
    /// Its background.
    pub background: Background,
    /// How its cells were told apart.
    pub cutting: Cutting,
    /// Its cells in reading order; those of a grid with the empty ones.
    pub cells: Vec<CellLook>,
    /// Indices of the cells row by row, without empty ones.
    pub rows: Vec<Vec<usize>>,
}

/// What is known of a picture beforehand.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct LookWishes {
    /// The grid to cut by.
    pub grid: Option<Grid>,
    /// Cut by gaps of at least this, px.
    pub gaps: Option<u32>,
    /// What stands for transparent.
    pub key: Option<Key>,
}

/// A colour that fills less than this share of a picture without transparency is not taken for its background.
const BACKGROUND_SHARE: f64 = 0.2;

/// Looks at a picture. Without a key, a coloured background counts as transparent for the cells.
///
/// # Complexity
/// That of [`guess_grid`], and O(p log n), p pixels and n cells, for cells that are alike.
pub fn look(picture: &Picture, wishes: &LookWishes) -> SheetLook {
    let mut picture = picture.clone();
    if let Some(key) = wishes.key {
        picture.apply_key(key);
    }
    let background = background(&picture);
    if let Background::Coloured(colour, _) = background {
        picture.apply_key(Key { colour: Some(colour), tolerance: 0 });
    }
    let art = picture.opaque(1);
    let size = (picture.width(), picture.height());
    let cutting = match (wishes.gaps, wishes.grid) {
        (Some(gap), _) => Cutting::Gaps(gap),
        (None, Some(grid)) => Cutting::Given(grid),
        (None, None) => guessed(&picture, &art),
    };
    let rects = match cutting {
        Cutting::Gaps(gap) => cells_by_gaps(&art, gap),
        Cutting::Whole => vec![PixelRect { x: 0, y: 0, width: size.0, height: size.1 }],
        Cutting::Guessed(GridGuess { grid, .. }) | Cutting::Given(grid) => grid.rects(size.0, size.1),
    };
    let mut cells: Vec<CellLook> = rects.iter().map(|rect| cell_look(&art, *rect)).collect();
    mark_twins(&picture, &mut cells);
    let rows = rows(&cells);
    SheetLook { size, background, cutting, cells, rows }
}

fn background(picture: &Picture) -> Background {
    if picture.pixels().iter().any(|pixel| pixel[3] < 255) {
        return Background::Transparent;
    }
    let Some(corner) = picture.corner() else {
        return Background::None;
    };
    let alike = picture.pixels().iter().filter(|[r, g, b, _]| Colour([*r, *g, *b]) == corner).count();
    let share = alike as f64 / picture.pixels().len() as f64;
    // A picture of one colour alone is art, not background.
    if alike < picture.pixels().len() && share >= BACKGROUND_SHARE {
        Background::Coloured(corner, share)
    } else {
        Background::None
    }
}

fn guessed(picture: &Picture, art: &Mask) -> Cutting {
    // Filled cells leave no gaps to cut by, but their borders show in the colours.
    let filled = 2 * art.count() >= picture.pixels().len() as u64;
    let tiles = || filled.then(|| guess_tiles(picture)).flatten();
    if let Some(guess) = guess_grid(art).or_else(tiles) {
        return Cutting::Guessed(guess);
    }
    // No grid: several pieces of art of about one size are frames of their own, smaller ones parts of one figure.
    for gap in 1..=16 {
        let cells = cells_by_gaps(art, gap);
        if cells.len() < 3 {
            break;
        }
        let mut areas: Vec<u64> = cells.iter().map(|c| u64::from(c.width) * u64::from(c.height)).collect();
        areas.sort_unstable();
        if areas[0] * 6 >= areas[areas.len() / 2] {
            return Cutting::Gaps(gap);
        }
    }
    Cutting::Whole
}

fn cell_look(art: &Mask, rect: PixelRect) -> CellLook {
    let set = |x: u32, y: u32| art.get(i64::from(rect.x + x), i64::from(rect.y + y));
    let cell = Mask::from_fn(rect.width, rect.height, set);
    let (right, bottom) = (rect.width - 1, rect.height - 1);
    let column = |x: u32| (0..rect.height).filter(|y| set(x, *y)).count() as u32;
    let row = |y: u32| (0..rect.width).filter(|x| set(*x, y)).count() as u32;
    CellLook {
        rect,
        runs: cell.runs(),
        touched: [column(0), row(0), column(right), row(bottom)],
        same_as: None,
        mirror_of: None,
    }
}

/// Finds cells that are the same picture, or each other's mirror image.
fn mark_twins(picture: &Picture, cells: &mut [CellLook]) {
    let mut seen: BTreeMap<(u32, Vec<[u8; 4]>), usize> = BTreeMap::new();
    for (index, cell) in cells.iter_mut().enumerate().filter(|(_, cell)| !cell.is_empty()) {
        let Some(own) = picture.crop(cell.rect) else {
            continue;
        };
        let mirrored = own.mirrored();
        cell.same_as = seen.get(&(own.width(), own.pixels().to_vec())).copied();
        if cell.same_as.is_none() {
            cell.mirror_of = seen.get(&(own.width(), mirrored.pixels().to_vec())).copied();
            seen.insert((own.width(), own.pixels().to_vec()), index);
        }
    }
}

/// Cells with art, row by row: a cell belongs to the row of the one before as long as they share some height.
fn rows(cells: &[CellLook]) -> Vec<Vec<usize>> {
    let mut rows: Vec<(u32, u32, Vec<usize>)> = Vec::new();
    for (index, cell) in cells.iter().enumerate().filter(|(_, cell)| !cell.is_empty()) {
        let (top, bottom) = (cell.rect.y, cell.rect.y + cell.rect.height);
        match rows.last_mut() {
            Some((from, to, row)) if top < *to && *from < bottom => {
                (*from, *to) = ((*from).min(top), (*to).max(bottom));
                row.push(index);
            }
            _ => rows.push((top, bottom, vec![index])),
        }
    }
    rows.into_iter().map(|(.., row)| row).collect()
}
