//! Frames before and after a change, side by side.

use crate::legend::{Extra, legend};
use crate::page::{Cells, EDGE, INNER_WIDTH, enlargement, headed, page};
use crate::palette::{CELL, INK, Look, QUIET_INK};
use crate::scene::{Align, Item, Panel, Placed, Scene, View, wrapped};
use finitor_core::actor::Role;
use finitor_core::art::Picture;
use finitor_core::{Point, Rect};

/// A shape on one side, cell px.
#[derive(Clone, Debug)]
pub struct DiffShape {
    /// Its role.
    pub role: Role,
    /// Its rings.
    pub rings: Vec<Vec<Point>>,
}

/// A frame.
#[derive(Clone, Debug)]
pub struct DiffCell<'a> {
    /// Which one.
    pub name: String,
    /// Its art, where it can still be seen.
    pub picture: Option<&'a Picture>,
    /// Its size, px.
    pub size: (u32, u32),
    /// Shapes that changed, old and new.
    pub shapes: [Vec<DiffShape>; 2],
    /// What changed.
    pub words: Vec<String>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct DiffSheet<'a> {
    /// Over the page.
    pub title: String,
    /// Under the title.
    pub words: String,
    /// The frames.
    pub cells: Vec<DiffCell<'a>>,
}

const GAP: f64 = 14.0;
const LABEL: f64 = 22.0;
const SIZE: f64 = 12.0;
const WORDS: f64 = 52.0;
/// Pairs beside each other, where frames are small enough.
const COLUMNS: f64 = 3.0;

/// The page: of each frame the old shapes on the left and the new ones on the right, over the same art.
pub fn diff_sheet(sheet: &DiffSheet<'_>) -> Scene {
    // Shapes may reach beyond the cell.
    let shown = sheet.cells.iter().fold(Rect::new(0.0, 0.0, 8.0, 8.0), |shown, cell| {
        let rings = cell.shapes.iter().flatten().flat_map(|shape| &shape.rings).flatten();
        let frame = Rect::new(0.0, 0.0, f64::from(cell.size.0), f64::from(cell.size.1));
        rings.fold(shown.union(frame), |shown, point| shown.union_pt(*point))
    });
    let shown = Rect::new(shown.x0.floor() - 1.0, shown.y0.floor() - 1.0, shown.x1.ceil() + 1.0, shown.y1.ceil() + 1.0);
    let columns = (sheet.cells.len() as f64).clamp(1.0, COLUMNS);
    let room = (INNER_WIDTH - (columns - 1.0) * GAP) / columns;
    let scale = enlargement(room / 2.0 - 4.0, shown.width(), 8.0);
    let enlarged = f64::from(scale);
    let (width, height) = (shown.width() * enlarged, shown.height() * enlarged);
    let pair = (2.0 * width + 4.0).max(160.0);
    let cells = Cells::new(pair, LABEL + height + WORDS, GAP);
    let mut panel = headed(&sheet.title, &sheet.words);
    for (index, cell) in sheet.cells.iter().enumerate() {
        let corner = cells.corner(index);
        let at = Point::new(corner.x, corner.y + 14.0);
        panel.over.push(Item::text(at, 14.0, Align::Start, INK, cell.name.as_str()));
        for (side, word) in ["old", "new"].into_iter().enumerate() {
            let left = corner.x + side as f64 * (width + 4.0);
            let rect = Rect::new(left, corner.y + LABEL, left + width, corner.y + LABEL + height);
            let view = View { origin: rect.origin().to_vec2() - shown.origin().to_vec2() * enlarged, scale };
            draw_side(&mut panel, cell, (&cell.shapes[side], word), rect, view);
        }
        let lines = cell.words.iter().flat_map(|words| wrapped(words, SIZE, pair));
        for (line, words) in lines.take(3).enumerate() {
            let at = Point::new(corner.x, corner.y + LABEL + height + 15.0 + line as f64 * 15.0);
            panel.over.push(Item::text(at, SIZE, Align::Start, INK, words));
        }
    }
    let bottom = cells.bottom(sheet.cells.len());
    let has = |role: &Role| sheet.cells.iter().flat_map(|cell| cell.shapes.iter().flatten()).any(|of| of.role == *role);
    let looks: Vec<(Look, String)> =
        Role::ALL.into_iter().filter(has).map(|role| (role.into(), role.name().to_string())).collect();
    panel.over.extend(legend(Point::new(EDGE, bottom + 4.0), &looks, Extra::None));
    let across = columns * pair + (columns - 1.0) * GAP;
    page(panel, across + 2.0 * EDGE, bottom + 40.0)
}

fn draw_side(panel: &mut Panel, cell: &DiffCell<'_>, (shapes, word): (&[DiffShape], &str), rect: Rect, view: View) {
    panel.under.push(Item::Fill { rect, colour: CELL });
    if let Some(picture) = cell.picture {
        let at = view.point(Point::ZERO);
        panel.art.push(Placed { picture: picture.clone(), at, scale: view.scale, mirrored: false });
    }
    for shape in shapes {
        for ring in &shape.rings {
            panel.over.push(Item::Ring { points: view.points(ring), look: shape.role.into() });
        }
    }
    let at = Point::new(rect.x0 + 5.0, rect.y0 + 15.0);
    panel.over.push(Item::text(at, SIZE, Align::Start, QUIET_INK, word));
}
