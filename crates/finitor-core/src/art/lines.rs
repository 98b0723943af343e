//! Lines drawn between the cells of a sheet.

use super::{Background, Colour, Grid, Picture, View};

/// Lines are at most this thick, px.
pub(super) const THICKEST: u32 = 4;
/// Cells between lines are at least this long, px.
pub(super) const LEAST_CELL: u32 = 8;
/// At most this share of the pixels beside the lines is art: what fills its cells is a pattern of tiles.
const FILLED: f64 = 0.3;
/// Colours that are tried.
const MOST_TRIED: usize = 8;

/// Lines of one colour from end to end of a sheet, with equal cells between them.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct DrawnLines {
    /// The cells between them.
    pub(super) grid: Grid,
    /// What the cells' art stands on.
    pub(super) background: Background,
}

/// How lines cut an axis.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Bands {
    cell: u32,
    /// How thick the lines are between cells, before the first and after the last.
    thickness: u32,
    before: u32,
    after: u32,
}

/// The lines drawn between a sheet's cells; `None` where there are none, or what lies between them is not art with room around.
///
/// # Complexity
/// O(pixels).
pub(super) fn drawn_lines(picture: &Picture) -> Option<DrawnLines> {
    let columns = across(picture);
    let rows: Vec<Option<[u8; 4]>> = (0..picture.height()).map(|y| of_one_colour(picture.row(y))).collect();
    // The colour of a line is that of any row or column that is of one colour; those of clear ones and of the ground between the
    // cells are tried in vain.
    let mut colours: Vec<[u8; 4]> = columns.iter().chain(&rows).flatten().copied().filter(|of| of[3] > 0).collect();
    colours.sort_unstable();
    colours.dedup();
    colours.into_iter().take(MOST_TRIED).find_map(|colour| of_colour(picture, colour, [&columns, &rows]))
}

/// The colour of each column that has one alone.
fn across(picture: &Picture) -> Vec<Option<[u8; 4]>> {
    let mut rows = (0..picture.height()).map(|y| picture.row(y));
    let first = rows.next().unwrap_or(&[]);
    let mut columns: Vec<Option<[u8; 4]>> = first.iter().copied().map(Some).collect();
    for row in rows {
        columns
            .iter_mut()
            .zip(row)
            .filter(|(known, pixel)| **known != Some(**pixel))
            .for_each(|(known, _)| *known = None);
    }
    columns
}

fn of_one_colour(row: &[[u8; 4]]) -> Option<[u8; 4]> {
    let first = row.first()?;
    row.iter().all(|pixel| pixel == first).then_some(*first)
}

fn of_colour(picture: &Picture, colour: [u8; 4], [columns, rows]: [&[Option<[u8; 4]>]; 2]) -> Option<DrawnLines> {
    let [x, y] = [columns, rows].map(|axis| bands(axis, colour));
    let (x, y) = (x?, y?);
    let grid = Grid {
        cell: (x.cell, y.cell),
        before: (x.before, y.before),
        after: (x.after, y.after),
        gap: (x.thickness, y.thickness),
    };
    lined(picture, grid, colour)
}

/// What lies between lines of a colour, where that is a sheet of art with room around.
pub(super) fn lined(picture: &Picture, grid: Grid, colour: [u8; 4]) -> Option<DrawnLines> {
    let cells = grid.rects(picture.width(), picture.height());
    let cells: Vec<View<'_>> = cells.into_iter().filter_map(|cell| picture.view(cell)).collect();
    if cells.len() < 2 {
        return None;
    }
    let background = Background::of(cells.iter().flat_map(pixels));
    // What looks like lines may be the ground between pieces of art.
    let [r, g, b, _] = colour;
    if matches!(background, Background::Coloured(ground, _) if ground == Colour([r, g, b])) {
        return None;
    }
    let is_art = |pixel: &&[u8; 4]| background.shows(**pixel);
    let used = cells.iter().filter(|cell| pixels(cell).any(|pixel| is_art(&pixel))).count();
    let filled = cells.iter().flat_map(rim).filter(is_art).count();
    let beside = cells.iter().flat_map(rim).count();
    let is_sheet = used >= 2 && used * 4 >= cells.len() && filled as f64 <= FILLED * beside as f64;
    is_sheet.then_some(DrawnLines { grid, background })
}

fn pixels<'v>(cell: &'v View<'_>) -> impl Iterator<Item = &'v [u8; 4]> + Clone {
    (0..cell.height()).flat_map(|y| cell.row(y))
}

/// The pixels at the sides of a cell; those at its corners twice.
fn rim<'v>(cell: &'v View<'_>) -> impl Iterator<Item = &'v [u8; 4]> {
    let ends = [0, cell.height() - 1].into_iter().flat_map(|y| cell.row(y));
    let sides = (0..cell.height()).flat_map(|y| [cell.row(y).first(), cell.row(y).last()]).flatten();
    ends.chain(sides)
}

/// How lines of a colour cut an axis into equal cells, all between them as thick; those at its ends may differ. One cell where there is
/// none between; `None` where they do not cut it so.
fn bands(axis: &[Option<[u8; 4]>], colour: [u8; 4]) -> Option<Bands> {
    let length = axis.len() as u32;
    let is_line = |at: &u32| axis[*at as usize] == Some(colour);
    let before = (0..length).take_while(is_line).count() as u32;
    let after = (before..length).rev().take_while(is_line).count() as u32;
    let inner = before..length - after;
    let cell = inner.clone().take_while(|at| !is_line(at)).count() as u32;
    let thickness = inner.clone().skip(cell as usize).take_while(is_line).count() as u32;
    let is_thin = [before, after, thickness].into_iter().all(|thickness| thickness <= THICKEST);
    let pitch = cell + thickness;
    let are_equal = inner.clone().all(|at| is_line(&at) == ((at - before) % pitch >= cell));
    let is_whole = inner.len() as u32 % pitch.max(1) == cell % pitch.max(1);
    (is_thin && cell >= LEAST_CELL && are_equal && is_whole).then_some(Bands { cell, thickness, before, after })
}

#[cfg(test)]
mod tests {
    use super::*;

    const LINE: [u8; 4] = [255, 0, 255, 255];

    /// A sheet of 3 x 2 cells of 20 x 24 px with lines round them, a figure in the middle of each.
    fn sheet(ground: [u8; 4], figure: u32) -> Picture {
        let (width, height) = (3 * 21 + 1, 2 * 25 + 1);
        let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).map(|(x, y)| {
            let (in_x, in_y): (u32, u32) = (x % 21, y % 25);
            let is_figure = in_x.abs_diff(10) < figure && in_y.abs_diff(13) < figure;
            match in_x == 0 || in_y == 0 {
                true => LINE,
                false if is_figure => [20, 90, (x / 21 * 40) as u8, 255],
                false => ground,
            }
        });
        Picture::new(width, height, pixels.collect()).expect("as many pixels as its size")
    }

    #[test]
    fn lines_give_the_cells_between_them_on_any_ground() {
        let grid = Grid { cell: (20, 24), before: (1, 1), after: (1, 1), gap: (1, 1) };
        let clear = drawn_lines(&sheet([0; 4], 6)).expect("there are lines");
        assert_eq!(clear, DrawnLines { grid, background: Background::Transparent });
        let on_green = drawn_lines(&sheet([0, 200, 0, 255], 6)).expect("there are lines");
        assert_eq!(on_green.grid, grid);
        let share = 1.0 - 11.0 * 11.0 / 480.0;
        assert!(
            matches!(on_green.background, Background::Coloured(colour, of) if colour == Colour([0, 200, 0]) && (of - share).abs() < 1e-9)
        );
        // The same between the cells alone.
        let whole = sheet([0; 4], 6);
        let inner = |x: u32, y: u32| whole.row(y + 1)[x as usize + 1];
        let pixels = (0..49).flat_map(|y| (0..62).map(move |x| (x, y))).map(|(x, y)| inner(x, y));
        let between = Picture::new(62, 49, pixels.collect()).expect("as many pixels as its size");
        let found = drawn_lines(&between).expect("there are lines");
        assert_eq!(found.grid, Grid { before: (0, 0), after: (0, 0), ..grid });
    }

    #[test]
    fn lines_at_the_ends_may_be_thinner_than_those_between() {
        // Frames drawn round cells that touch: 1, 10, 2, 10, 2, 10, 1.
        let line = |at: u32| [0, 11].contains(&(at % 12)).then_some(LINE);
        let axis: Vec<Option<[u8; 4]>> = (0..36).map(line).collect();
        assert_eq!(bands(&axis, LINE), Some(Bands { cell: 10, thickness: 2, before: 1, after: 1 }));
        // Cells of other lengths, and lines that are as thick as what they part.
        assert_eq!(bands(&axis[..33], LINE), None);
        let thick: Vec<Option<[u8; 4]>> = (0..50).map(|at| (at % 20 >= 10).then_some(LINE)).collect();
        assert_eq!(bands(&thick, LINE), None);
        // None between: one cell, and what is all line is no cell.
        assert_eq!(bands(&axis[..12], LINE), Some(Bands { cell: 10, thickness: 0, before: 1, after: 1 }));
        assert_eq!(bands(&axis[1..11], LINE), Some(Bands { cell: 10, thickness: 0, before: 0, after: 0 }));
        assert_eq!(bands(&[Some(LINE); 3], LINE), None);
        assert_eq!(bands(&[], LINE), None);
    }

    #[test]
    fn patterns_and_single_pictures_are_no_sheets_with_lines() {
        // Panes that fill their frames.
        assert_eq!(drawn_lines(&sheet([90, 90, 120, 255], 40)), None);
        assert_eq!(drawn_lines(&sheet([0; 4], 40)), None);
        // Nothing in them: a lattice, or a ladder.
        assert_eq!(drawn_lines(&sheet([0; 4], 0)), None);
        // One frame in a frame.
        let framed = sheet([0; 4], 6);
        let pixels = (0..26).flat_map(|y| framed.row(y)[..22].to_vec()).collect();
        assert_eq!(drawn_lines(&Picture::new(22, 26, pixels).expect("as many pixels as its size")), None);
        // Art on a ground of one colour, with clear columns between.
        let ground = [40, 40, 40, 255];
        let on_ground =
            (0..40 * 80).map(|at| if (at % 20_u32).abs_diff(10) < 6 && at / 80 > 8 { LINE } else { ground });
        assert_eq!(drawn_lines(&Picture::new(80, 40, on_ground.collect()).expect("as many pixels as its size")), None);
    }
}
