//! The matrix of layers as a picture.

use crate::page::{EDGE, INNER_WIDTH, PAGE_WIDTH, headed, page};
use crate::palette::{CELL, CELL_OTHER, FAULT, INK, Look, PAGE, QUIET_INK, RoleLook};
use crate::scene::{Align, Item, LETTER, Scene, wrapped};
use finitor_core::{Point, Rect};

/// A layer.
#[derive(Clone, Debug)]
pub struct LayerRow {
    /// Its name.
    pub name: String,
    /// Its bit.
    pub bit: usize,
    /// By layer: whether its mask has it.
    pub detects: Vec<bool>,
    /// The same without any state.
    pub without_states: Vec<bool>,
    /// The mask.
    pub mask: u32,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct LayerSheet {
    /// Over the page.
    pub title: String,
    /// Under the title.
    pub words: String,
    /// The layers, bit 0 first.
    pub rows: Vec<LayerRow>,
    /// Aliases and states, a sentence each.
    pub notes: Vec<String>,
}

const NAME: f64 = 15.0;

/// The page: rows look for columns. A full square where both detect each other, a triangle that points the way where one
/// does; what a state changed has a red frame.
pub fn layer_sheet(sheet: &LayerSheet) -> Scene {
    let count = sheet.rows.len().max(1) as f64;
    let longest = sheet.rows.iter().map(|row| row.name.chars().count()).max().unwrap_or(1) as f64;
    let names = longest * NAME * LETTER + 12.0;
    let bits = 3.0 * NAME * LETTER;
    let masks = (count.max(6.0) + 2.0 + 12.0 + 12.0) * NAME * LETTER;
    let room = INNER_WIDTH - names - bits - masks;
    let side = (room / count).floor().clamp(22.0, 64.0);
    // Names over columns stand on steps, so that long ones do not run into each other.
    let tall = longest * NAME * LETTER + 6.0 > side;
    let (left, top) = (EDGE + bits + names, if tall { 170.0 } else { 110.0 });
    let mut panel = headed(&sheet.title, &sheet.words);
    let over = &mut panel.over;
    over.push(Item::text(Point::new(EDGE, top - 10.0), 13.0, Align::Start, QUIET_INK, "detects >"));
    let matrix = Matrix { left, top, side, right: left + count * side + 16.0 };
    let right = matrix.right;
    matrix.heads(sheet, tall, over);
    for (words, offset) in [("mask", 0.0), ("hex", 12.0), ("binary", 24.0)] {
        let at = Point::new(right + offset * NAME * LETTER, top - 12.0);
        over.push(Item::text(at, 13.0, Align::Start, QUIET_INK, words));
    }
    matrix.rows(sheet, over);
    let mut y = legend(sheet, top + count * side + 34.0, over);
    let width = (right + masks).max(PAGE_WIDTH);
    for note in sheet.notes.iter().flat_map(|note| wrapped(note, 14.0, width - 2.0 * EDGE)) {
        over.push(Item::text(Point::new(EDGE, y), 14.0, Align::Start, INK, note));
        y += 20.0;
    }
    page(panel, width, y + 8.0)
}

/// Where the matrix lies on the page.
struct Matrix {
    left: f64,
    top: f64,
    /// Of a cell.
    side: f64,
    /// Where the masks are written.
    right: f64,
}

impl Matrix {
    /// The names over the columns, on steps where they are long.
    fn heads(&self, sheet: &LayerSheet, tall: bool, over: &mut Vec<Item>) {
        let Matrix { left, top, side, .. } = *self;
        for (column, row) in sheet.rows.iter().enumerate() {
            let step = if tall { (column % 4) as f64 * 20.0 } else { 0.0 };
            let at = Point::new(left + (column as f64 + 0.5) * side, top - 12.0 - step);
            over.push(Item::text(at, NAME, Align::Middle, INK, row.name.as_str()));
            if step > 0.0 {
                let (from, to) = (Point::new(at.x, at.y + 4.0), Point::new(at.x, top - 4.0));
                over.push(Item::Line { from, to, colour: CELL, width: 1.0, dash: Some((2.0, 3.0)) });
            }
        }
    }

    /// A row a layer, with its mask as numbers.
    fn rows(&self, sheet: &LayerSheet, over: &mut Vec<Item>) {
        let Matrix { left, top, side, right } = *self;
        for (index, row) in sheet.rows.iter().enumerate() {
            let y = top + index as f64 * side;
            let base = y + side / 2.0 + 5.0;
            over.push(Item::text(Point::new(EDGE, base), NAME, Align::Start, QUIET_INK, row.bit.to_string()));
            over.push(Item::text(Point::new(left - 12.0, base), NAME, Align::End, INK, row.name.as_str()));
            for (column, detects) in row.detects.iter().enumerate() {
                let at = Point::new(left + column as f64 * side, y);
                let cell = Rect::new(at.x + 1.0, at.y + 1.0, at.x + side - 1.0, at.y + side - 1.0);
                let colour = if (index + column) % 2 == 0 { CELL } else { CELL_OTHER };
                over.push(Item::Fill { rect: cell, colour: if index == column { PAGE } else { colour } });
                let back = sheet.rows[column].detects.get(index).copied().unwrap_or(false);
                over.extend(mark(cell, *detects, back));
                if row.without_states.get(column) != Some(detects) {
                    over.extend(frame(cell));
                }
            }
            let width = sheet.rows.len();
            let cells = [format!("{}", row.mask), format!("{:#x}", row.mask), format!("{:0width$b}", row.mask)];
            for (words, offset) in cells.into_iter().zip([0.0, 12.0, 24.0]) {
                over.push(Item::text(Point::new(right + offset * NAME * LETTER, base), NAME, Align::Start, INK, words));
            }
        }
    }
}

/// What the marks mean; from `y` down to the height that is returned.
fn legend(sheet: &LayerSheet, mut y: f64, over: &mut Vec<Item>) -> f64 {
    for (detects, back, words) in
        [(true, true, "both detect each other"), (true, false, "only the row detects the column")]
    {
        let cell = Rect::new(EDGE, y - 15.0, EDGE + 20.0, y + 5.0);
        over.push(Item::Fill { rect: cell, colour: CELL });
        over.extend(mark(cell, detects, back));
        over.push(Item::text(Point::new(EDGE + 30.0, y), 14.0, Align::Start, QUIET_INK, words));
        y += 26.0;
    }
    if sheet.rows.iter().any(|row| row.detects != row.without_states) {
        let cell = Rect::new(EDGE, y - 15.0, EDGE + 20.0, y + 5.0);
        over.extend(frame(cell));
        let words = "changed by the states";
        over.push(Item::text(Point::new(EDGE + 30.0, y), 14.0, Align::Start, QUIET_INK, words));
        y += 26.0;
    }
    y
}

/// The mark of a pair: told by its form, not by its colour alone.
fn mark(cell: Rect, detects: bool, back: bool) -> Option<Item> {
    if !detects {
        return None;
    }
    let inset = cell.width() * 0.28;
    let r = Rect::new(cell.x0 + inset, cell.y0 + inset, cell.x1 - inset, cell.y1 - inset);
    let corner = |x, y| Point::new(x, y);
    let (points, look) = if back {
        let square = vec![corner(r.x0, r.y0), corner(r.x1, r.y0), corner(r.x1, r.y1), corner(r.x0, r.y1)];
        (square, Look::Role(RoleLook::Body))
    } else {
        let pointing = vec![corner(r.x0, r.y0), corner(r.x1, r.center().y), corner(r.x0, r.y1)];
        (pointing, Look::Role(RoleLook::Hurt))
    };
    Some(Item::Ring { points, look })
}

fn frame(cell: Rect) -> Vec<Item> {
    let corners = [(cell.x0, cell.y0), (cell.x1, cell.y0), (cell.x1, cell.y1), (cell.x0, cell.y1)].map(Point::from);
    let side =
        |i: usize| Item::Line { from: corners[i], to: corners[(i + 1) % 4], colour: FAULT, width: 2.0, dash: None };
    (0..4).map(side).collect()
}
