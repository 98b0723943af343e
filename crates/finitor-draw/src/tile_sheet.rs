//! Every kind of tile with the shape that it fills.

use crate::page::{Cells, enlargement, headed, page};
use crate::palette::{CELL, INK, Look, QUIET_INK};
use crate::scene::{Align, Item, Placed, Scene, View};
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

const GAP: f64 = 16.0;
/// A tile is shown about this wide.
const SHOWN: f64 = 128.0;
const WORDS: f64 = 60.0;

/// The page: tiles in rows, each enlarged, its shape over its art, its number and what it is below.
pub fn tile_sheet(sheet: &TileSheet) -> Scene {
    let (width, height) = (f64::from(sheet.size.0), f64::from(sheet.size.1));
    let scale = enlargement(SHOWN, width, 12.0);
    let (width, height) = (width * f64::from(scale), height * f64::from(scale));
    let cells = Cells::new(width.max(110.0), height + WORDS - GAP, GAP);
    let mut panel = headed(&sheet.title, "");
    for (index, tile) in sheet.cells.iter().enumerate() {
        let corner = cells.corner(index);
        let rect = Rect::new(corner.x, corner.y, corner.x + width, corner.y + height);
        panel.under.push(Item::Fill { rect, colour: CELL });
        let view = View { origin: corner.to_vec2(), scale };
        if let Some(picture) = &tile.art {
            panel.art.push(Placed { picture: picture.clone(), at: corner, scale, mirrored: false, opacity: 1.0 });
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
    page(panel, width, cells.bottom(sheet.cells.len()) + 8.0)
}
