//! All frames of an actor in both facings, with their shapes.

use crate::legend::{Extra, legend};
use crate::palette::{CELL, CELL_OTHER, GROUND_LINE, INK, Look, QUIET_INK};
use crate::scene::{Align, Item, Panel, Placed, Scene, View};
use crate::shapes::{mark_items, pose_items};
use finitor_core::actor::{Pose, Role};
use finitor_core::art::Picture;
use finitor_core::{Facing, Point, Rect, Vec2};

/// The art of a frame as it is seen in a facing.
#[derive(Clone, Copy, Debug)]
pub struct Art<'a> {
    /// Its pixels, as drawn.
    pub picture: &'a Picture,
    /// The pivot, cell px.
    pub pivot: Point,
    /// Whether it is flipped.
    pub flipped: bool,
    /// How far right of its mirror image about the pivot it then lies, px.
    pub drift: f64,
}

/// A frame to show.
#[derive(Clone, Copy, Debug)]
pub struct SheetFrame<'a> {
    /// Its art by [`Facing::index`].
    pub art: [Art<'a>; 2],
    /// Its poses by [`Facing::index`].
    pub poses: &'a [Pose; 2],
}

/// What to show.
#[derive(Clone, Debug)]
pub struct ContactSheet<'a> {
    /// The actor's name.
    pub actor: &'a str,
    /// How the other facing comes about, in words.
    pub words: String,
    /// Animations by name.
    pub animations: Vec<(&'a str, Vec<SheetFrame<'a>>)>,
    /// Whole pixels a pixel; chosen to suit a page of 1280 px when `None`.
    pub scale: Option<u32>,
}

const PAGE_WIDTH: f64 = 1280.0;
const EDGE: f64 = 16.0;
const GAP: f64 = 6.0;
const TITLE: f64 = 64.0;
const LABEL: f64 = 24.0;
/// Room at the left of each block for the names of the facings.
const SIDE: f64 = 22.0;

/// Sizes that all cells share, page px.
struct Layout {
    scale: u32,
    cell: (f64, f64),
    pivot_y: f64,
}

/// The page: a block an animation, the right-facing frames above the left-facing ones, pivots under one another.
pub fn contact_sheet(sheet: &ContactSheet<'_>) -> Scene {
    let layout = layout(sheet);
    let mut panel = Panel::new(Rect::ZERO);
    let block_height = LABEL + 2.0 * (layout.cell.1 + GAP) + 10.0;
    // Each block goes to the first row that has room for it: short animations fill up rows of long ones.
    let mut rows: Vec<f64> = Vec::new();
    for (name, frames) in &sheet.animations {
        let width = SIDE + frames.len() as f64 * (layout.cell.0 + GAP);
        let fits = |x: &f64| x + width <= PAGE_WIDTH - EDGE;
        let row = rows.iter().position(fits).unwrap_or(rows.len());
        if row == rows.len() {
            rows.push(EDGE);
        }
        let at = Point::new(rows[row], TITLE + row as f64 * block_height);
        block(&mut panel, &layout, at, name, frames);
        rows[row] += width + 14.0;
    }
    let right = rows.iter().copied().fold(PAGE_WIDTH - EDGE, f64::max);
    let y = TITLE + rows.len() as f64 * block_height;
    let count: usize = sheet.animations.iter().map(|(_, frames)| frames.len()).sum();
    let heading = format!("{}: {count} frames, enlarged {} times", sheet.actor, layout.scale);
    panel.over.push(Item::text(Point::new(EDGE, 30.0), 20.0, Align::Start, INK, heading));
    panel.over.push(Item::text(Point::new(EDGE, 50.0), 13.0, Align::Start, QUIET_INK, sheet.words.as_str()));
    panel.over.extend(legend(Point::new(EDGE, y + 4.0), &role_looks(sheet), Extra::Marks));
    let (width, height) = (right + EDGE, y + 40.0);
    panel.frame = Rect::new(0.0, 0.0, width, height);
    Scene { width, height, panels: vec![panel] }
}

fn layout(sheet: &ContactSheet<'_>) -> Layout {
    let longest = sheet.animations.iter().map(|(_, frames)| frames.len()).max().unwrap_or(1).max(1);
    let (mut half, mut above, mut below) = (1.0_f64, 1.0_f64, 4.0_f64);
    for art in sheet.animations.iter().flat_map(|(_, frames)| frames).flat_map(|frame| &frame.art) {
        let (width, height) = (f64::from(art.picture.width()), f64::from(art.picture.height()));
        // Mirrored about the pivot, art reaches as far to the other side: cells are as wide as the wider half twice.
        half = half.max(art.pivot.x).max(width - art.pivot.x);
        above = above.max(art.pivot.y);
        below = below.max(height - art.pivot.y);
    }
    let room = (PAGE_WIDTH - 2.0 * EDGE - SIDE) / longest as f64 - GAP;
    let suiting = (room / (2.0 * half)).floor().clamp(1.0, 3.0) as u32;
    let scale = sheet.scale.unwrap_or(suiting);
    let enlarged = f64::from(scale);
    let cell = ((2.0 * half * enlarged).ceil(), ((above + below) * enlarged).ceil());
    Layout { scale, cell, pivot_y: (above * enlarged).round() }
}

fn block(panel: &mut Panel, layout: &Layout, at: Point, name: &str, frames: &[SheetFrame<'_>]) {
    panel.over.push(Item::text(Point::new(at.x + SIDE, at.y + 16.0), 15.0, Align::Start, INK, name));
    for (row, facing) in Facing::BOTH.into_iter().enumerate() {
        let top = at.y + LABEL + row as f64 * (layout.cell.1 + GAP);
        let words = if facing == Facing::Right { "R" } else { "L" };
        let spot = Point::new(at.x + 6.0, top + layout.cell.1 / 2.0);
        panel.over.push(Item::text(spot, 13.0, Align::Start, QUIET_INK, words));
        for (index, frame) in frames.iter().enumerate() {
            let left = at.x + SIDE + index as f64 * (layout.cell.0 + GAP);
            cell(panel, layout, Point::new(left, top), (frame, facing));
            if row == 0 {
                let spot = Point::new(left + layout.cell.0 - 4.0, top + 13.0);
                panel.over.push(Item::text(spot, 11.0, Align::End, INK, index.to_string()));
            }
        }
    }
}

fn cell(panel: &mut Panel, layout: &Layout, corner: Point, (frame, facing): (&SheetFrame<'_>, Facing)) {
    let (width, height) = layout.cell;
    let rect = Rect::new(corner.x, corner.y, corner.x + width, corner.y + height);
    panel.under.push(Item::Fill { rect, colour: CELL });
    let half = Rect::new(rect.x0, rect.y0, rect.center().x, rect.y1);
    panel.under.push(Item::Fill { rect: half, colour: CELL_OTHER });
    let pivot = Point::new((corner.x + width / 2.0).round(), corner.y + layout.pivot_y);
    let (from, to) = (Point::new(rect.x0, pivot.y), Point::new(rect.x1, pivot.y));
    panel.under.push(Item::Line { from, to, colour: GROUND_LINE, width: 1.0, dash: Some((3.0, 3.0)) });
    let view = View { origin: pivot.to_vec2(), scale: layout.scale };
    panel.art.push(placed(&frame.art[facing.index()], Point::ZERO, view));
    let pose = &frame.poses[facing.index()];
    panel.over.extend(pose_items(pose, Point::ZERO, view));
    panel.over.extend(mark_items(pose, Point::ZERO, view));
}

/// A frame's art with its pivot at a point of the view's space.
pub(crate) fn placed(art: &Art<'_>, at: Point, view: View) -> Placed {
    let left = if art.flipped { art.pivot.x - f64::from(art.picture.width()) + art.drift } else { 0.0 - art.pivot.x };
    let corner = at + Vec2::new(left, 0.0 - art.pivot.y);
    Placed { picture: art.picture.clone(), at: view.point(corner), scale: view.scale, mirrored: art.flipped }
}

/// The roles on the sheet, each with the names of its shapes.
fn role_looks(sheet: &ContactSheet<'_>) -> Vec<(Look, String)> {
    let poses = || sheet.animations.iter().flat_map(|(_, frames)| frames.iter().map(|f| &f.poses[0]));
    let mut looks = Vec::new();
    for role in Role::ALL {
        let mut names: Vec<&str> = Vec::new();
        for shape in poses().flat_map(|pose| &pose.shapes).filter(|shape| shape.role == role) {
            if !names.contains(&shape.name.as_str()) {
                names.push(&shape.name);
            }
        }
        let only_itself = names.iter().all(|name| *name == role.name());
        match names.as_slice() {
            [] => {}
            _ if only_itself => looks.push((role.into(), role.name().to_string())),
            _ => looks.push((role.into(), format!("{}: {}", role.name(), names.join(", ")))),
        }
    }
    looks
}
