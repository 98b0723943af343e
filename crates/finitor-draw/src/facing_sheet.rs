//! An actor in both facings about one pivot line.

use crate::contact_sheet::{Art, placed};
use crate::legend::{Extra, legend};
use crate::page::{Cells, EDGE, INNER_WIDTH, enlargement, headed, page};
use crate::palette::{CELL, CELL_OTHER, FAULT, GROUND_LINE, INK, Look, PIVOT};
use crate::scene::{Align, Item, Panel, Scene, View, wrapped};
use crate::shapes::{mark_items, pose_items};
use finitor_core::actor::{Pose, Role};
use finitor_core::{Facing, Point, Rect};

/// A frame in both facings.
#[derive(Clone, Debug)]
pub struct FacingCell<'a> {
    /// Which one.
    pub name: String,
    /// Its art by [`Facing::index`].
    pub art: [Art<'a>; 2],
    /// Its poses by [`Facing::index`].
    pub poses: &'a [Pose; 2],
    /// Its figures.
    pub words: Vec<String>,
}

/// What to show.
#[derive(Clone, Debug)]
pub struct FacingSheet<'a> {
    /// Over the page.
    pub title: String,
    /// Under the title.
    pub words: String,
    /// The frames.
    pub cells: Vec<FacingCell<'a>>,
    /// Whole pixels a pixel; chosen to suit a page of 1280 px when `None`.
    pub scale: Option<u32>,
}

const GAP: f64 = 12.0;
const LABEL: f64 = 22.0;
const SIZE: f64 = 12.0;
const WORDS: f64 = 52.0;
/// Columns on a page, where frames are small enough.
const COLUMNS: f64 = 6.0;

/// The page: a column a frame, facing right above facing left, the pivots on one upright line. Where the body's sides are
/// after a turn, and were before, lines run through both; what lies between them is marked.
pub fn facing_sheet(sheet: &FacingSheet<'_>) -> Scene {
    let arts = || sheet.cells.iter().flat_map(|cell| &cell.art);
    let drift = arts().map(|art| art.drift.abs()).fold(0.0, f64::max);
    let half = arts().map(|art| art.pivot.x.max(f64::from(art.picture.width()) - art.pivot.x)).fold(1.0, f64::max);
    let half = (half + drift).ceil();
    let above = arts().map(|art| art.pivot.y).fold(1.0, f64::max).ceil();
    let below = arts().map(|art| f64::from(art.picture.height()) - art.pivot.y).fold(4.0, f64::max).ceil();
    let columns = (sheet.cells.len() as f64).clamp(1.0, COLUMNS);
    let room = (INNER_WIDTH - (columns - 1.0) * GAP) / columns;
    let scale = sheet.scale.unwrap_or(enlargement(room, 2.0 * half, 8.0));
    let enlarged = f64::from(scale);
    let (width, height) = ((2.0 * half * enlarged).max(120.0), (above + below) * enlarged);
    let cells = Cells::new(width, LABEL + 2.0 * height + 4.0 + WORDS, GAP);
    let mut panel = headed(&sheet.title, &sheet.words);
    for (index, cell) in sheet.cells.iter().enumerate() {
        let corner = cells.corner(index);
        column_of(&mut panel, cell, &Column { corner, width, height, scale, above });
    }
    let bottom = cells.bottom(sheet.cells.len());
    panel.over.extend(legend(Point::new(EDGE, bottom + 4.0), &looks(sheet), Extra::Marks));
    page(panel, width + 2.0 * EDGE, bottom + 40.0)
}

/// Where a frame's column lies on the page.
struct Column {
    corner: Point,
    width: f64,
    /// Of one of its two pictures.
    height: f64,
    /// Page px per px.
    scale: u32,
    /// Room above the pivot, px of the art.
    above: f64,
}

fn column_of(panel: &mut Panel, cell: &FacingCell<'_>, column: &Column) {
    let Column { corner, width, height, scale, above } = *column;
    let enlarged = f64::from(scale);
    panel.over.push(Item::text(Point::new(corner.x, corner.y + 14.0), 14.0, Align::Start, INK, cell.name.as_str()));
    let pivot_x = (corner.x + width / 2.0).round();
    let top = corner.y + LABEL;
    let bottom = top + 2.0 * height + 4.0;
    for (row, facing) in Facing::BOTH.into_iter().enumerate() {
        let y = top + row as f64 * (height + 4.0);
        let rect = Rect::new(corner.x, y, corner.x + width, y + height);
        panel.under.push(Item::Fill { rect, colour: CELL });
        panel.under.push(Item::Fill { rect: Rect::new(rect.x0, y, pivot_x, rect.y1), colour: CELL_OTHER });
        let pivot = Point::new(pivot_x, (y + above * enlarged).round());
        let (from, to) = (Point::new(rect.x0, pivot.y), Point::new(rect.x1, pivot.y));
        panel.under.push(Item::Line { from, to, colour: GROUND_LINE, width: 1.0, dash: Some((3.0, 3.0)) });
        let view = View { origin: pivot.to_vec2(), scale };
        panel.art.push(placed(&cell.art[facing.index()], Point::ZERO, view));
        let pose = &cell.poses[facing.index()];
        panel.over.extend(pose_items(pose, Point::ZERO, view));
        panel.over.extend(mark_items(pose, Point::ZERO, view));
        let letter = if facing == Facing::Right { "R" } else { "L" };
        panel.over.push(Item::text(Point::new(rect.x0 + 5.0, y + 15.0), SIZE, Align::Start, INK, letter));
    }
    let line = |x: f64, colour, dash| Item::Line {
        from: Point::new(x, top),
        to: Point::new(x, bottom),
        colour,
        width: 1.2,
        dash,
    };
    panel.over.push(line(pivot_x, PIVOT, None));
    let sides = |facing: Facing| {
        let bounds = cell.poses[facing.index()].body().map(finitor_core::actor::Shape::bounds)?;
        Some([bounds.x0, bounds.x1].map(|x| pivot_x + x * enlarged))
    };
    if let Some((right, left)) = sides(Facing::Right).zip(sides(Facing::Left)) {
        let colour = Look::from(Role::Body).style().colour;
        for (a, b) in right.into_iter().zip(left) {
            panel.over.extend([line(a, colour, Some((2.0, 4.0))), line(b, colour, Some((2.0, 4.0)))]);
            if (a - b).abs() > 0.5 {
                let y = top + height + 2.0;
                let (from, to) = (Point::new(a, y), Point::new(b, y));
                panel.over.push(Item::Line { from, to, colour: FAULT, width: 4.0, dash: None });
            }
        }
    }
    for (index, words) in cell.words.iter().flat_map(|words| wrapped(words, SIZE, width)).enumerate() {
        let at = Point::new(corner.x, bottom + 15.0 + index as f64 * 15.0);
        panel.over.push(Item::text(at, SIZE, Align::Start, INK, words));
    }
}

/// The roles on the page.
fn looks(sheet: &FacingSheet<'_>) -> Vec<(Look, String)> {
    let has = |role: Role| sheet.cells.iter().any(|cell| cell.poses[0].shapes.iter().any(|shape| shape.role == role));
    let roles = Role::ALL.into_iter().filter(|role| has(*role));
    roles.map(|role| (role.into(), role.name().to_string())).collect()
}
