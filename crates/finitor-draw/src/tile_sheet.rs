//! Every kind of tile with the shape that it fills.

use crate::palette::{CELL, INK, Look, QUIET_INK};
use crate::scene::{Align, Item, Panel, Placed, Scene, View};
use finitor_core::art::Picture;
use finitor_core::{Point, Rect};

/// A kind of tile.
#[derive(Clone, Debug)]
pub struct TileCell {
    /// Its number.
    pub number: u32,
    /// Its art, where there is any.
    pub art: Option<Picture>,
    /// What it fills, px from its top left.
    pub rings: Vec<Vec<Point>>,
    /// Whether it stops from above alone.
    pub is_one_way: bool,
    /// What it is, and how often.
    pub words: Vec<String>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct TileSheet {
    /// Over the page.
    pub title: String,
    /// Width and height of a tile, px.
    pub size: (u32, u32),
    /// The tiles, by number.
    pub cells: Vec<TileCell>,
}

const PAGE_WIDTH: f64 = 1280.0;
const EDGE: f64 = 20.0;
const GAP: f64 = 16.0;
const TITLE: f64 = 64.0;
/// A tile is shown about this wide.
const SHOWN: f64 = 128.0;
const WORDS: f64 = 60.0;

/// The page: tiles in rows, each enlarged, its shape over its art, its number and what it is below.
pub fn tile_sheet(sheet: &TileSheet) -> Scene {
    let (width, height) = (f64::from(sheet.size.0), f64::from(sheet.size.1));
    let scale = (SHOWN / width).floor().clamp(1.0, 12.0);
    let cell = ((width * scale).max(110.0), height * scale);
    let per_row = ((PAGE_WIDTH - 2.0 * EDGE + GAP) / (cell.0 + GAP)).floor().max(1.0) as usize;
    let mut panel = Panel::new(Rect::ZERO);
    panel.over.push(Item::text(Point::new(EDGE, 36.0), 20.0, Align::Start, INK, sheet.title.as_str()));
    for (index, tile) in sheet.cells.iter().enumerate() {
        let (column, row) = ((index % per_row) as f64, (index / per_row) as f64);
        let corner = Point::new(EDGE + column * (cell.0 + GAP), TITLE + row * (cell.1 + WORDS));
        let rect = Rect::new(corner.x, corner.y, corner.x + width * scale, corner.y + cell.1);
        panel.under.push(Item::Fill { rect, colour: CELL });
        let view = View { origin: corner.to_vec2(), scale: scale as u32 };
        if let Some(picture) = &tile.art {
            panel.art.push(Placed { picture: picture.clone(), at: corner, scale: scale as u32, mirrored: false });
        }
        let look = if tile.is_one_way { Look::OneWay } else { Look::Solid };
        panel.over.extend(tile.rings.iter().map(|ring| Item::Ring { points: view.points(ring), look }));
        let number = Point::new(corner.x, rect.y1 + 16.0);
        panel.over.push(Item::text(number, 14.0, Align::Start, INK, tile.number.to_string()));
        for (line, words) in tile.words.iter().enumerate() {
            let at = Point::new(corner.x + 26.0, rect.y1 + 16.0 + 16.0 * line as f64);
            panel.over.push(Item::text(at, 12.0, Align::Start, QUIET_INK, words.as_str()));
        }
    }
    let rows = sheet.cells.len().div_ceil(per_row) as f64;
    let page = Rect::new(0.0, 0.0, PAGE_WIDTH, TITLE + rows * (cell.1 + WORDS) + 8.0);
    panel.frame = page;
    Scene { width: page.width(), height: page.height(), panels: vec![panel] }
}
