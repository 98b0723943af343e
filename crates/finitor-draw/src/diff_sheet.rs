//! Frames before and after a change, side by side.

use crate::legend::{Extra, legend};
use crate::page::{Cells, EDGE, INNER_WIDTH, enlargement, headed, page};
use crate::palette::{CELL, INK, Look, QUIET_INK};
use crate::scene::{Align, Item, Panel, Placed, Scene, View, wrapped};
use finitor_core::actor::Role;
use finitor_core::art::Picture;
use finitor_core::{Point, Rect, Vec2};

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

/// How high a frame's two pictures are at most, page px.
const HIGH: f64 = 200.0;

/// The page: of each frame the old shapes on the left and the new ones on the right, over the same art, as large as there is room.
pub fn diff_sheet(sheet: &DiffSheet<'_>) -> Scene {
    let columns = (sheet.cells.len() as f64).clamp(1.0, COLUMNS);
    let pair = ((INNER_WIDTH - (columns - 1.0) * GAP) / columns).floor();
    let room = (pair - 4.0) / 2.0;
    let views: Vec<Shown> = sheet.cells.iter().map(|cell| Shown::new(cell, room)).collect();
    let height = views.iter().map(Shown::height).fold(40.0, f64::max);
    let cells = Cells::in_columns(pair + GAP, LABEL + height + WORDS, columns as usize);
    let mut panel = headed(&sheet.title, &sheet.words);
    for (index, (cell, shown)) in sheet.cells.iter().zip(&views).enumerate() {
        let corner = cells.corner(index);
        let at = Point::new(corner.x, corner.y + 14.0);
        panel.over.push(Item::text(at, 14.0, Align::Start, INK, cell.name.as_str()));
        for (side, word) in ["old", "new"].into_iter().enumerate() {
            let left = corner.x + side as f64 * (room + 4.0);
            let rect = Rect::new(left, corner.y + LABEL, left + room, corner.y + LABEL + height);
            draw_side(&mut panel, cell, (&cell.shapes[side], word), rect, shown.within(rect));
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

/// What is shown of a frame: all of its cell and of the shapes, px, and how much larger.
struct Shown {
    rect: Rect,
    scale: u32,
}

impl Shown {
    fn new(cell: &DiffCell<'_>, room: f64) -> Shown {
        let rings = cell.shapes.iter().flatten().flat_map(|shape| &shape.rings).flatten();
        let frame = Rect::new(0.0, 0.0, f64::from(cell.size.0), f64::from(cell.size.1));
        let all = rings.fold(frame, |all, point| all.union_pt(*point));
        let rect = Rect::new(all.x0.floor() - 1.0, all.y0.floor() - 1.0, all.x1.ceil() + 1.0, all.y1.ceil() + 1.0);
        Shown { rect, scale: enlargement(room, rect.width(), 12.0).min(enlargement(HIGH, rect.height(), 12.0)) }
    }

    fn height(&self) -> f64 {
        self.rect.height() * f64::from(self.scale)
    }

    /// In the middle of a place on the page.
    fn within(&self, place: Rect) -> View {
        let size = self.rect.size() * f64::from(self.scale);
        let corner = ((place.size() - size) / 2.0).to_vec2() + place.origin().to_vec2();
        let origin =
            Vec2::new(corner.x.round(), corner.y.round()) - self.rect.origin().to_vec2() * f64::from(self.scale);
        View { origin, scale: self.scale }
    }
}

fn draw_side(panel: &mut Panel, cell: &DiffCell<'_>, (shapes, word): (&[DiffShape], &str), rect: Rect, view: View) {
    panel.under.push(Item::Fill { rect, colour: CELL });
    if let Some(picture) = cell.picture {
        let at = view.point(Point::ZERO);
        panel.art.push(Placed { picture: picture.clone(), at, scale: view.scale, mirrored: false, opacity: 1.0 });
    }
    for shape in shapes {
        for ring in &shape.rings {
            panel.over.push(Item::Ring { points: view.points(ring), look: shape.role.into() });
        }
    }
    let at = Point::new(rect.x0 + 5.0, rect.y0 + 15.0);
    panel.over.push(Item::text(at, SIZE, Align::Start, QUIET_INK, word));
}
