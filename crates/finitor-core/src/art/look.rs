//! What a picture shows at first sight: its background, its cells, and what is odd about them.

use super::background::Board;
use super::boxed::drawn_boxes;
use super::guess::{Explained, GridEvidence, GridGuess, explained};
use super::guess_tiles::guess_tiles;
use super::heading::{Below, heading, rows_meet};
use super::lines::drawn_lines;
use super::{Background, Grid, Key, Mask, Picture, PixelRect, Run, cells_by_gaps};
use std::collections::BTreeMap;
use std::ops::Range;

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

/// One cell.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CellLook {
    /// Where it is.
    pub rect: PixelRect,
    /// The runs of its art, cell space, down to the faintest pixel.
    pub runs: Vec<Run>,
    /// Those of what is as opaque as wished for; of all art where nothing is.
    pub solid: Vec<Run>,
    /// Art pixels on its left, top, right and bottom edge.
    pub touched: [u32; 4],
    /// The first cell with the same pixels.
    pub same_as: Option<usize>,
    /// The first cell that is its mirror image, where none is the same.
    pub mirror_of: Option<usize>,
}

impl CellLook {
    fn new(rect: PixelRect, runs: Vec<Run>, solid: Vec<Run>) -> CellLook {
        let mut touched = [0; 4];
        for run in &runs {
            touched[0] += u32::from(run.start == 0);
            touched[1] += if run.row == 0 { run.len() } else { 0 };
            touched[2] += u32::from(run.end == rect.width);
            touched[3] += if run.row + 1 == rect.height { run.len() } else { 0 };
        }
        CellLook { rect, runs, solid, touched, same_as: None, mirror_of: None }
    }

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
    /// Other ways to cut it that explain the art about as well, best first.
    pub others: Vec<Cutting>,
    /// Its rows that look like words above the frames, and between rows of them.
    pub words: Vec<Range<u32>>,
    /// Its cells in reading order; those of a grid with the empty ones.
    pub cells: Vec<CellLook>,
    /// Indices of the cells row by row, without empty ones.
    pub rows: Vec<Vec<usize>>,
}

impl SheetLook {
    /// The same picture as one frame.
    pub fn as_one_frame(&self) -> SheetLook {
        let (width, height) = self.size;
        let moved = |runs: &dyn Fn(&CellLook) -> &Vec<Run>| {
            let each = self.cells.iter().flat_map(|cell| {
                let by = |run: &Run| Run {
                    row: run.row + cell.rect.y,
                    start: run.start + cell.rect.x,
                    end: run.end + cell.rect.x,
                };
                runs(cell).iter().map(by).collect::<Vec<_>>()
            });
            Mask::from_runs(width, height, each).runs()
        };
        let (runs, solid) = (moved(&|cell| &cell.runs), moved(&|cell| &cell.solid));
        let cell = CellLook::new(PixelRect { x: 0, y: 0, width, height }, runs, solid);
        let rows = if cell.is_empty() { Vec::new() } else { vec![vec![0]] };
        SheetLook { cutting: Cutting::Whole, others: vec![self.cutting], cells: vec![cell], rows, ..self.clone() }
    }

    /// Whether rows that look like words lie in a cell with art.
    pub fn is_in_cells(&self, rows: &Range<u32>) -> bool {
        self.cells.iter().any(|cell| !cell.is_empty() && rows_meet(rows, &cell.rect.rows()))
    }

    /// Whether it may as well be cut otherwise.
    pub fn is_unsure(&self) -> bool {
        !self.others.is_empty()
    }
}

/// What is known of a picture beforehand.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LookWishes {
    /// How to cut it; guessed where `None`.
    pub cutting: Option<Cutting>,
    /// What stands for transparent.
    pub key: Option<Key>,
    /// Least alpha of a pixel that a figure stands on; fainter ones are glow or shadow.
    pub alpha: u8,
}

impl Default for LookWishes {
    fn default() -> LookWishes {
        LookWishes { cutting: None, key: None, alpha: 128 }
    }
}

/// Looks at a picture. Without a key, a coloured background counts as transparent for the cells.
///
/// # Complexity
/// That of [`super::guess_grid`], and O(p log n), p pixels and n cells, for cells that are alike.
pub fn look(picture: &Picture, wishes: &LookWishes) -> SheetLook {
    let mut picture = picture.clone();
    if let Some(key) = wishes.key {
        picture.apply_key(key);
    }
    // Between lines is the ground that the art stands on, whoever says where the cells are.
    let may_have_lines = !matches!(wishes.cutting, Some(Cutting::Whole | Cutting::Gaps(_)));
    let lines = may_have_lines.then(|| drawn_lines(&picture).or_else(|| drawn_boxes(&picture))).flatten();
    let background = lines.map_or_else(|| Background::of(picture.pixels().iter()), |lines| lines.background);
    let board = (background != Background::Transparent).then(|| Board::of(&picture)).flatten();
    let background = board.map_or(background, |board| Background::Checkered(board.colours));
    if let Background::Coloured(colour, _) = background {
        picture.apply_key(Key { colour: Some(colour), tolerance: 0 });
    }
    if let Some(bare) = board.and_then(|board| board.removed_from(&picture)) {
        picture = bare;
    }
    let art = picture.opaque(1);
    let heading = heading(&art);
    let size = (picture.width(), picture.height());
    let mut has_words = heading.as_ref().is_some_and(|words| words.is_sure);
    let (cutting, others) = match (wishes.cutting, lines) {
        (Some(cutting), _) => (cutting, Vec::new()),
        (None, Some(lines)) => {
            let guess = GridGuess { grid: lines.grid, crossed: 0.0, evidence: GridEvidence::Lines, doubt: 0.0 };
            (Cutting::Guessed(guess), Vec::new())
        }
        (None, None) => {
            let with_all = explained(&art);
            match heading.as_ref().and_then(|words| Below::new(&art, words, &with_all)) {
                Some(below) => {
                    has_words = true;
                    by_grids(&below.art, &below.grids)
                }
                None => guessed(&picture, &art, with_all),
            }
        }
    };
    let rects = match cutting {
        Cutting::Gaps(gap) => cells_by_gaps(&art, gap),
        Cutting::Whole => vec![PixelRect { x: 0, y: 0, width: size.0, height: size.1 }],
        Cutting::Guessed(GridGuess { grid, .. }) | Cutting::Given(grid) => grid.rects(size.0, size.1),
    };
    let opaque = picture.opaque(wishes.alpha);
    let mut cells: Vec<CellLook> = rects.iter().map(|rect| cell_look(&art, &opaque, *rect)).collect();
    mark_twins(&picture, &mut cells);
    let rows = rows(&cells);
    SheetLook {
        size,
        background,
        cutting,
        others,
        words: heading.filter(|_| has_words).map_or_else(Vec::new, |words| words.lines),
        cells,
        rows,
    }
}

/// A grid that cuts through art and is doubted more than this comes after the pieces of art.
const CUT_DOUBT: f64 = 0.8;

fn guessed(picture: &Picture, art: &Mask, by: Explained) -> (Cutting, Vec<Cutting>) {
    // Filled cells leave no gaps to cut by, but their borders show in the colours.
    let filled = 2 * art.count() >= picture.pixels().len() as u64;
    let tiles = || filled.then(|| guess_tiles(picture)).flatten();
    let near = match by {
        Explained::ByGrids(grids) => return by_grids(art, &grids),
        Explained::AsOne(near) => near.map(Cutting::Guessed),
    };
    if let Some(guess) = tiles() {
        return (Cutting::Guessed(guess), Vec::new());
    }
    // One frame, or pieces of art without a grid: where these lie in rows and are of about one size they are frames.
    match pieces(art) {
        Some(Pieces { gap, lie_in_rows: true, .. }) => (Cutting::Gaps(gap), vec![Cutting::Whole]),
        Some(Pieces { gap, lie_in_rows: false, .. }) => (Cutting::Whole, vec![Cutting::Gaps(gap)]),
        None => (Cutting::Whole, near.into_iter().collect()),
    }
}

/// The best of grids, and what else the art may be cut by.
fn by_grids(art: &Mask, grids: &[GridGuess]) -> (Cutting, Vec<Cutting>) {
    let mut all: Vec<Cutting> = grids.iter().copied().map(Cutting::Guessed).collect();
    // Where the grid cuts through art, or holds several pieces in a cell, clean pieces in rows are as likely.
    let found = pieces(art).filter(|found| found.lie_in_rows);
    if let (Some(best), Some(Pieces { gap, count, .. })) = (grids.first(), found) {
        let cells = best.grid.rects(art.width(), art.height()).len();
        if best.crossed > 0.0 && best.doubt > CUT_DOUBT {
            all.insert(0, Cutting::Gaps(gap));
        } else if best.crossed > 0.0 || count > cells {
            all.push(Cutting::Gaps(gap));
        }
    }
    let first = if all.is_empty() { Cutting::Whole } else { all.remove(0) };
    (first, all)
}

/// Pieces of art that may be frames.
struct Pieces {
    /// The gap that parts them, px.
    gap: u32,
    count: usize,
    /// Whether three or more stand, hang or float on one line.
    lie_in_rows: bool,
}

/// Three or more pieces of art of about one size; smaller ones are parts of one figure.
fn pieces(art: &Mask) -> Option<Pieces> {
    /// The least piece has this share of the area of the middle one.
    const SHARE: u64 = 3;
    /// All pieces' boxes have this share of the picture.
    const FILLED: u64 = 6;
    for gap in 1..=16 {
        let cells = cells_by_gaps(art, gap);
        if cells.len() < 3 {
            break;
        }
        let mut areas: Vec<u64> = cells.iter().map(|c| u64::from(c.width) * u64::from(c.height)).collect();
        areas.sort_unstable();
        let total: u64 = areas.iter().sum();
        if areas[0] * SHARE >= areas[areas.len() / 2]
            && total * FILLED >= u64::from(art.width()) * u64::from(art.height())
        {
            return Some(Pieces { gap, count: cells.len(), lie_in_rows: lie_in_rows(&cells) });
        }
    }
    None
}

fn lie_in_rows(cells: &[PixelRect]) -> bool {
    let near = |a: u32, b: u32, of: &PixelRect| a.abs_diff(b) * 8 <= of.height;
    let on_line = |cell: &PixelRect| {
        let with = |other: &&PixelRect| {
            near(cell.y, other.y, cell)
                || near(cell.y + cell.height, other.y + other.height, cell)
                || near(2 * cell.y + cell.height, 2 * other.y + other.height, cell)
        };
        cells.iter().filter(with).count() >= 3
    };
    cells.iter().filter(|cell| on_line(cell)).count() * 5 >= cells.len() * 4
}

fn cell_look(art: &Mask, opaque: &Mask, rect: PixelRect) -> CellLook {
    let runs = |of: &Mask| {
        Mask::from_fn(rect.width, rect.height, |x, y| of.get(i64::from(rect.x + x), i64::from(rect.y + y))).runs()
    };
    let (all, solid) = (runs(art), runs(opaque));
    let solid = if solid.is_empty() { all.clone() } else { solid };
    CellLook::new(rect, all, solid)
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
