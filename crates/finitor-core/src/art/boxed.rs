//! Boxes drawn round the cells of a sheet, apart from each other.

use super::lines::{DrawnLines, LEAST_CELL, THICKEST, lined};
use super::{Grid, Picture};

/// Boxes of one size and colour on an empty ground, in rows and columns.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
struct Boxes {
    colour: [u8; 4],
    /// How thick their lines are.
    thickness: u32,
    across: Places,
    down: Places,
}

/// Where boxes lie along an axis, from outside to outside.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
struct Places {
    first: u32,
    length: u32,
    /// Between two of them.
    apart: u32,
    count: u32,
}

impl Places {
    /// From the start of one to that of the next.
    fn pitch(&self) -> u32 {
        self.length + self.apart
    }

    fn start(&self, index: u32) -> u32 {
        self.first + index * self.pitch()
    }

    /// Whether a place lies in one of them.
    fn holds(&self, at: u32) -> bool {
        at >= self.first && {
            let by = at - self.first;
            by / self.pitch() < self.count && by % self.pitch() < self.length
        }
    }

    fn all(&self) -> impl Iterator<Item = u32> + use<> {
        let places = *self;
        (0..self.count).map(move |index| places.start(index))
    }

    /// Those of a colour along a line of pixels, the first of which begins at a place.
    fn along(line: &[[u8; 4]], colour: [u8; 4], first: u32) -> Option<Places> {
        let mut starts = Vec::new();
        let mut ends = Vec::new();
        for at in first..line.len() as u32 {
            let is_drawn = |at: u32| line.get(at as usize) == Some(&colour);
            if is_drawn(at) && (at == first || !is_drawn(at - 1)) {
                starts.push(at);
            }
            if is_drawn(at) && !is_drawn(at + 1) {
                ends.push(at + 1);
            }
        }
        let length = ends.first()? - first;
        let apart = starts.get(1).map_or(0, |next| next - ends[0]);
        // A box may be missing, here or in all rows, but none may lie elsewhere.
        let room = line.len() as u32 - first + apart;
        let count = if apart == 0 { 1 } else { room / (length + apart) };
        let places = Places { first, length, apart, count };
        let is_at_one = |start: u32| (start - first).is_multiple_of(places.pitch());
        let are_even = starts.iter().zip(&ends).all(|(start, end)| is_at_one(*start) && end - start == length);
        are_even.then_some(places)
    }

    /// Those up to the last that is used.
    fn up_to(self, is_used: impl Fn(u32) -> bool) -> Places {
        let count = (0..self.count).rev().find(|index| is_used(self.start(*index))).map_or(0, |last| last + 1);
        Places { count, ..self }
    }
}

/// The boxes drawn round a sheet's cells, and what is in them; `None` where there are none, or what they hold is not art with room
/// around.
///
/// # Complexity
/// O(pixels).
pub(super) fn drawn_boxes(picture: &Picture) -> Option<DrawnLines> {
    let Boxes { colour, thickness, across, down } = boxes(picture)?;
    let inner = |places: Places| places.length.checked_sub(2 * thickness).filter(|length| *length >= LEAST_CELL);
    let end = |places: Places| places.start(places.count - 1) + places.length;
    let grid = Grid {
        cell: (inner(across)?, inner(down)?),
        before: (across.first + thickness, down.first + thickness),
        after: (picture.width() - end(across) + thickness, picture.height() - end(down) + thickness),
        gap: (across.apart + 2 * thickness, down.apart + 2 * thickness),
    };
    lined(picture, grid, colour)
}

/// The boxes, where all that is drawn lies in some.
fn boxes(picture: &Picture) -> Option<Boxes> {
    let at = |x: u32, y: u32| picture.row(y)[x as usize];
    let corner = at(0, 0);
    // The first box begins in the corner, or where the ground that the corner shows ends.
    let (x, y) = (0..picture.height())
        .find_map(|y| picture.row(y).iter().position(|pixel| *pixel != corner).map(|x| (x as u32, y)))?;
    // Where the corner shows a box, that place is in its inside or beside it, and begins none.
    [(x, y), (0, 0)].into_iter().find_map(|(x, y)| {
        let colour = at(x, y);
        let column: Vec<[u8; 4]> = (0..picture.height()).map(|y| at(x, y)).collect();
        let (across, down) = (Places::along(picture.row(y), colour, x)?, Places::along(&column, colour, y)?);
        if across.length <= 2 || down.length <= 2 {
            return None;
        }
        let ring = |left: u32, top: u32, by: u32| {
            let (right, bottom) = (left + across.length - 1 - by, top + down.length - 1 - by);
            let (left, top) = (left + by, top + by);
            (left..=right).all(|x| at(x, top) == colour && at(x, bottom) == colour)
                && (top..=bottom).all(|y| at(left, y) == colour && at(right, y) == colour)
        };
        let thickest = THICKEST.min((across.length.min(down.length) - 1) / 2);
        let thickness = (0..thickest).take_while(|by| ring(x, y, *by)).count() as u32;
        if thickness == 0 || thickness == thickest {
            return None;
        }
        holds_all(picture, [across, down], |left, top| (0..thickness).all(|by| ring(left, top, by))).then(|| {
            let is_drawn = |x: u32, y: u32| at(x, y) == colour;
            let (columns, rows) = (across, down);
            let across = columns.up_to(|x| rows.all().any(|y| is_drawn(x, y)));
            let down = rows.up_to(|y| columns.all().any(|x| is_drawn(x, y)));
            Boxes { colour, thickness, across, down }
        })
    })
}

/// Whether at each place there is a whole box or nothing, and nothing beside them.
fn holds_all(picture: &Picture, [across, down]: [Places; 2], is_box: impl Fn(u32, u32) -> bool) -> bool {
    let columns: Vec<bool> = (0..picture.width()).map(|x| across.holds(x)).collect();
    // The ground is what is first beside them.
    let mut ground = None;
    for y in 0..picture.height() {
        let is_row = down.holds(y);
        for (pixel, is_column) in picture.row(y).iter().zip(&columns) {
            if !(is_row && *is_column) && *ground.get_or_insert(*pixel) != *pixel {
                return false;
            }
        }
    }
    let is_empty = |left: u32, top: u32| {
        let rows = top..top + down.length;
        rows.flat_map(|y| &picture.row(y)[left as usize..(left + across.length) as usize])
            .all(|pixel| Some(*pixel) == ground)
    };
    down.all().all(|top| across.all().all(|left| is_box(left, top) || is_empty(left, top)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::art::{Background, Colour};

    const LINE: [u8; 4] = [0, 160, 255, 255];

    /// A sheet of boxes of 22 x 26 px with lines of some thickness, 3 px apart, a figure in each, the last of one row missing: of the
    /// first where the lines are 2 px thick.
    fn sheet(margin: u32, thickness: u32, ground: [u8; 4]) -> Picture {
        let (width, height) = (2 * margin + 3 * 22 + 2 * 3, 2 * margin + 2 * 26 + 3);
        let pixels = (0..height).flat_map(|y| (0..width).map(move |x| (x, y))).map(|(x, y)| {
            let (Some(x), Some(y)) = (x.checked_sub(margin), y.checked_sub(margin)) else { return ground };
            let (column, row, x, y) = (x / 25, y / 29, x % 25, y % 29);
            let is_line = |at: u32, length: u32| at < thickness || at + thickness >= length;
            match (x, y) {
                _ if x >= 22 || y >= 26 || column > 2 || row > 1 || (column, row) == (2, u32::from(thickness != 2)) => {
                    ground
                }
                _ if is_line(x, 22) || is_line(y, 26) => LINE,
                _ if x.abs_diff(11) < 4 + column && y.abs_diff(14) < 6 => [90, 40, 20, 255],
                _ => ground,
            }
        });
        Picture::new(width, height, pixels.collect()).expect("as many pixels as its size")
    }

    #[test]
    fn boxes_are_neither_art_nor_its_ground() {
        for (margin, thickness) in [(0, 1), (4, 1), (2, 2), (0, 3)] {
            let grid = Grid {
                cell: (22 - 2 * thickness, 26 - 2 * thickness),
                before: (margin + thickness, margin + thickness),
                after: (margin + thickness, margin + thickness),
                gap: (3 + 2 * thickness, 3 + 2 * thickness),
            };
            let clear = drawn_boxes(&sheet(margin, thickness, [0; 4])).expect("there are boxes");
            assert_eq!(clear, DrawnLines { grid, background: Background::Transparent });
            let on_green = drawn_boxes(&sheet(margin, thickness, [0, 90, 0, 255])).expect("there are boxes");
            assert_eq!(on_green.grid, grid);
            assert!(matches!(on_green.background, Background::Coloured(Colour([0, 90, 0]), _)));
        }
    }

    #[test]
    fn art_beside_the_boxes_and_boxes_that_are_art_make_none() {
        let whole = sheet(4, 1, [0; 4]);
        let changed = |change: &dyn Fn(u32, u32, [u8; 4]) -> [u8; 4]| {
            let all = (0..whole.height()).flat_map(|y| (0..whole.width()).map(move |x| (x, y)));
            let pixels = all.map(|(x, y)| change(x, y, whole.row(y)[x as usize])).collect();
            Picture::new(whole.width(), whole.height(), pixels).expect("as many pixels as its size")
        };
        assert!(drawn_boxes(&changed(&|_, _, pixel| pixel)).is_some());
        assert_eq!(drawn_boxes(&changed(&|x, y, pixel| if (x, y) == (1, 40) { LINE } else { pixel })), None);
        // A gap in the line of one box.
        assert_eq!(drawn_boxes(&changed(&|x, y, pixel| if (x, y) == (4, 40) { [0; 4] } else { pixel })), None);
        // Filled boxes: tiles.
        let is_inner = |at: u32, length: u32| at >= 4 && (1..length - 1).contains(&((at - 4) % (length + 3)));
        let filled = |x, y, pixel| if is_inner(x, 22) && is_inner(y, 26) { [90, 40, 20, 255] } else { pixel };
        assert_eq!(drawn_boxes(&changed(&filled)), None);
        // One box alone, and no picture at all.
        let one = (0..26).flat_map(|y| whole.row(y + 4)[4..26].to_vec()).collect();
        assert_eq!(drawn_boxes(&Picture::new(22, 26, one).expect("as many pixels as its size")), None);
        assert_eq!(drawn_boxes(&Picture::new(1, 1, vec![LINE]).expect("one pixel")), None);
    }
}
