//! Every kind and fit of a shape over one frame, side by side.

use crate::page::{Cells, EDGE, HEAD, INNER_WIDTH, enlargement, headed, page};
use crate::palette::{CELL, INK, Look, QUIET_INK, RoleLook};
use crate::scene::{Align, Item, Placed, Scene, View, wrapped};
use finitor_core::art::Picture;
use finitor_core::{Point, Rect, Vec2};

/// One kind and fit.
#[derive(Clone, Debug)]
pub struct KindCell {
    /// Its rings, cell px; the pieces where it is made of pieces. Empty where there is none.
    pub rings: Vec<Vec<Point>>,
    /// Figures, or why there is none.
    pub words: Vec<String>,
}

/// A row of the page.
#[derive(Clone, Debug)]
pub struct KindRow {
    /// The fit.
    pub name: String,
    /// What it means.
    pub words: String,
    /// By kind.
    pub cells: Vec<KindCell>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct KindsSheet<'a> {
    /// Over the page.
    pub title: String,
    /// The frame.
    pub picture: &'a Picture,
    /// The kinds, from left to right.
    pub kinds: Vec<String>,
    /// The fits, from top to bottom.
    pub rows: Vec<KindRow>,
    /// Whole pixels a pixel; chosen to suit a page of 1280 px when `None`.
    pub scale: Option<u32>,
}

const GAP: f64 = 8.0;
const WORDS: f64 = 52.0;
const SIZE: f64 = 12.0;

/// The page: kinds in columns, fits in rows, figures under each.
pub fn kinds_sheet(sheet: &KindsSheet<'_>) -> Scene {
    let columns = sheet.kinds.len().max(1) as f64;
    // Round shapes reach beyond the frame.
    let frame = Rect::new(0.0, 0.0, f64::from(sheet.picture.width()), f64::from(sheet.picture.height()));
    let rings = sheet.rows.iter().flat_map(|row| &row.cells).flat_map(|cell| &cell.rings);
    let shown = rings.flatten().fold(frame, |shown, point| shown.union_pt(*point));
    let shown = Rect::new(shown.x0.floor() - 1.0, shown.y0.floor() - 1.0, shown.x1.ceil() + 1.0, shown.y1.ceil() + 1.0);
    let (width, height) = (shown.width(), shown.height());
    let room = INNER_WIDTH / columns - GAP;
    let scale = sheet.scale.unwrap_or(enlargement(room, width, 12.0));
    let (cell_width, cell_height) = (room.max(width * f64::from(scale)), height * f64::from(scale));
    let cells = Cells::in_columns(cell_width + GAP, 22.0 + cell_height + WORDS, sheet.kinds.len());
    let mut panel = headed(&sheet.title, "");
    for (column, kind) in sheet.kinds.iter().enumerate() {
        let at = Point::new(cells.corner(column).x, HEAD - 6.0);
        panel.over.push(Item::text(at, 16.0, Align::Start, INK, kind.as_str()));
    }
    for (row, of) in sheet.rows.iter().enumerate() {
        let first = row * sheet.kinds.len();
        let words = format!("{}: {}", of.name, of.words);
        let at = cells.corner(first) + Vec2::new(0.0, 15.0);
        panel.over.push(Item::text(at, 13.0, Align::Start, QUIET_INK, words));
        for (column, cell) in of.cells.iter().enumerate() {
            let corner = cells.corner(first + column) + Vec2::new(0.0, 22.0);
            let rect = Rect::new(corner.x, corner.y, corner.x + cell_width, corner.y + cell_height);
            panel.under.push(Item::Fill { rect, colour: CELL });
            let inset = ((cell_width - width * f64::from(scale)) / 2.0).floor();
            let by = Vec2::new(inset, 0.0) - shown.origin().to_vec2() * f64::from(scale);
            let view = View { origin: corner.to_vec2() + by, scale };
            let at = view.point(Point::ZERO);
            panel.art.push(Placed { picture: sheet.picture.clone(), at, scale, mirrored: false, opacity: 1.0 });
            for ring in &cell.rings {
                panel.over.push(Item::Ring { points: view.points(ring), look: Look::Role(RoleLook::Body) });
            }
            let lines = cell.words.iter().flat_map(|words| wrapped(words, SIZE, cell_width));
            for (line, words) in lines.enumerate() {
                let spot = Point::new(corner.x, rect.y1 + 14.0 + line as f64 * 15.0);
                panel.over.push(Item::text(spot, SIZE, Align::Start, INK, words));
            }
        }
    }
    let width = 2.0 * EDGE + columns * (cell_width + GAP) - GAP;
    page(panel, width, cells.bottom(sheet.rows.len() * sheet.kinds.len()) + 8.0)
}
