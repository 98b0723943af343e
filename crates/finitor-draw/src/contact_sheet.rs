//! All frames of an actor in both facings, with their shapes.

use crate::aids::Aids;
use crate::legend::{Extra, legend};
use crate::page::{EDGE, HEAD, INNER_WIDTH, PAGE_WIDTH, enlargement, headed, page};
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
    /// Lines and figures.
    pub aids: Aids,
}

/// Pages are at most this high, px, so that anything opens them.
pub(crate) const MOST_HIGH: f64 = 4096.0;
/// Room at the foot for the legend.
const FOOT: f64 = 40.0;
/// Pixels are enlarged this many times at most, unless somebody asks for more.
const MOST_ENLARGED: f64 = 3.0;
/// Cells up to this width are enlarged even where an animation then takes several rows, page px.
const SMALL: f64 = 112.0;
const GAP: f64 = 6.0;
const LABEL: f64 = 24.0;
/// Room at the left of each block for the names of the facings.
const SIDE: f64 = 22.0;

/// Sizes that all cells share, page px.
struct Layout {
    scale: u32,
    cell: (f64, f64),
    pivot_y: f64,
    aids: Aids,
}

impl Layout {
    /// From one row of blocks to the next.
    fn block_height(&self) -> f64 {
        LABEL + 2.0 * (self.cell.1 + GAP) + 10.0
    }

    /// Rows that a page has room for.
    fn per_page(&self) -> usize {
        ((MOST_HIGH - HEAD - FOOT) / self.block_height()).floor().max(1.0) as usize
    }
}

/// Frames of an animation that stand in one row.
struct Block<'s, 'a> {
    name: String,
    frames: &'s [SheetFrame<'a>],
    /// The number of the first.
    first: usize,
}

/// Animations in blocks; one that is wider than the page goes on in a row of its own.
fn blocks<'s, 'a>(sheet: &'s ContactSheet<'a>, layout: &Layout) -> Vec<Block<'s, 'a>> {
    let most = ((INNER_WIDTH - SIDE + GAP) / (layout.cell.0 + GAP)).floor().max(1.0) as usize;
    let of = |(name, frames): &'s (&'a str, Vec<SheetFrame<'a>>)| {
        let name = *name;
        frames.chunks(most).enumerate().map(move |(index, frames)| {
            let first = index * most;
            let name = if index == 0 { name.to_string() } else { format!("{name} from {first} on") };
            Block { name, frames, first }
        })
    };
    sheet.animations.iter().flat_map(of).collect()
}

/// The pages: a block an animation, the right-facing frames above the left-facing ones, pivots under one another. A page is
/// as high as its rows, and at most `MOST_HIGH` unless a single row is higher.
pub fn contact_sheet(sheet: &ContactSheet<'_>) -> Vec<Scene> {
    let layout = layout(sheet);
    let rows = rows(sheet, &layout);
    let pages = rows.len().div_ceil(layout.per_page()).max(1);
    // Pages of about one height are drawn in about one time, each by a thread of its own.
    let per_page = rows.len().div_ceil(pages);
    let count: usize = sheet.animations.iter().map(|(_, frames)| frames.len()).sum();
    let heading = format!("{}: {count} frames, enlarged {} times", sheet.actor, layout.scale);
    let looks = role_looks(sheet);
    let page_of = |number: usize| {
        let heading = if pages > 1 { format!("{heading}; page {} of {pages}", number + 1) } else { heading.clone() };
        let mut panel = headed(&heading, &sheet.words);
        let own = rows.iter().skip(number * per_page).take(per_page);
        let (mut right, mut y) = (0.0_f64, HEAD);
        for row in own {
            for (x, of) in row {
                block(&mut panel, &layout, Point::new(*x, y), of);
                right = right.max(x + block_width(&layout, of) - GAP);
            }
            y += layout.block_height();
        }
        panel.over.extend(legend(Point::new(EDGE, y + 4.0), &looks, Extra::Marks));
        page(panel, right + EDGE, y + FOOT)
    };
    (0..pages).map(page_of).collect()
}

fn block_width(layout: &Layout, of: &Block<'_, '_>) -> f64 {
    SIDE + of.frames.len() as f64 * (layout.cell.0 + GAP)
}

/// The blocks in rows, each with its left side. Each goes to the first row that has room for it: short animations fill up
/// rows of long ones.
fn rows<'s, 'a>(sheet: &'s ContactSheet<'a>, layout: &Layout) -> Vec<Vec<(f64, Block<'s, 'a>)>> {
    /// Rows that are looked at for room: the last ones.
    const OPEN: usize = 8;
    let mut rows: Vec<Vec<(f64, Block<'s, 'a>)>> = Vec::new();
    let mut ends: Vec<f64> = Vec::new();
    for of in blocks(sheet, layout) {
        let width = block_width(layout, &of);
        let first = ends.len().saturating_sub(OPEN);
        let row = (first..ends.len()).find(|row| ends[*row] + width <= PAGE_WIDTH - EDGE + GAP);
        let row = row.unwrap_or_else(|| {
            ends.push(EDGE);
            rows.push(Vec::new());
            ends.len() - 1
        });
        rows[row].push((ends[row], of));
        ends[row] += width + 14.0;
    }
    rows
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
    let at = |scale: u32| {
        let enlarged = f64::from(scale);
        let cell = ((2.0 * half * enlarged).ceil(), ((above + below) * enlarged).ceil());
        Layout { scale, cell, pivot_y: (above * enlarged).round(), aids: sheet.aids }
    };
    if let Some(scale) = sheet.scale {
        return at(scale);
    }
    let room = (INNER_WIDTH - SIDE) / longest as f64 - GAP;
    let in_one_row = enlargement(room, 2.0 * half, MOST_ENLARGED);
    // Shapes hide art of a few pixels: it is rather shown in several rows, as long as one page has room for them.
    let larger = (in_one_row + 1..=MOST_ENLARGED as u32).rev().map(at);
    let mut larger = larger.filter(|layout| layout.cell.0 <= SMALL && rows(sheet, layout).len() <= layout.per_page());
    larger.next().unwrap_or_else(|| at(in_one_row))
}

fn block(panel: &mut Panel, layout: &Layout, at: Point, block: &Block<'_, '_>) {
    let Block { name, frames, first } = block;
    panel.over.push(Item::text(Point::new(at.x + SIDE, at.y + 16.0), 15.0, Align::Start, INK, name.as_str()));
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
                panel.over.push(Item::text(spot, 11.0, Align::End, INK, (first + index).to_string()));
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
    panel.under.extend(layout.aids.items(view, rect));
    panel.art.push(placed(&frame.art[facing.index()], Point::ZERO, view));
    let pose = &frame.poses[facing.index()];
    panel.over.extend(pose_items(pose, Point::ZERO, view));
    panel.over.extend(mark_items(pose, Point::ZERO, view));
    panel.over.extend(layout.aids.corners(pose, view));
}

/// A frame's art with its pivot at a point of the view's space.
pub(crate) fn placed(art: &Art<'_>, at: Point, view: View) -> Placed {
    let left = if art.flipped { art.pivot.x - f64::from(art.picture.width()) + art.drift } else { 0.0 - art.pivot.x };
    let corner = at + Vec2::new(left, 0.0 - art.pivot.y);
    Placed {
        picture: art.picture.clone(),
        at: view.point(corner),
        scale: view.scale,
        mirrored: art.flipped,
        opacity: 1.0,
    }
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn small_art_is_enlarged_over_several_rows_as_long_as_a_page_has_room() {
        let enlarged = |side: u32, length: usize| {
            let picture = Picture::new(side, side, vec![[0, 0, 0, 255]; (side * side) as usize]).expect("its size");
            let poses = [Pose::default(), Pose::default()];
            let middle = f64::from(side) / 2.0;
            let art = Art { picture: &picture, pivot: Point::new(middle, middle), flipped: false, drift: 0.0 };
            let frames = vec![SheetFrame { art: [art; 2], poses: &poses }; length];
            let animations = vec![("spin", frames)];
            let aids = Aids::default();
            let pages =
                contact_sheet(&ContactSheet { actor: "coin", words: String::new(), animations, scale: None, aids });
            (pages[0].panels[0].art[0].scale, pages.len())
        };
        assert_eq!(enlarged(32, 8), (3, 1), "in one row");
        assert_eq!(enlarged(32, 64), (3, 1), "in six rows of 12");
        assert_eq!(enlarged(64, 64), (1, 1), "large enough to be seen");
        assert_eq!(enlarged(32, 300), (2, 1), "three times it would take two pages");
        assert_eq!(enlarged(32, 4000), (1, 4), "in as few pages as can be");
    }

    #[test]
    fn long_animations_go_on_in_rows_of_their_own_and_every_frame_is_on_the_page_once() {
        let picture = Picture::new(64, 48, vec![[0, 0, 0, 255]; 64 * 48]).expect("as many pixels as its size");
        let poses = [Pose::default(), Pose::default()];
        let art = Art { picture: &picture, pivot: Point::new(20.0, 48.0), flipped: false, drift: 0.0 };
        let frames = |count: usize| vec![SheetFrame { art: [art; 2], poses: &poses }; count];
        for (lengths, scale) in
            [([3, 5], None), ([70, 9], None), ([200, 1], None), ([2000, 1], None), ([4, 4], Some(30))]
        {
            let animations = vec![("walk", frames(lengths[0])), ("idle", frames(lengths[1]))];
            let pages = contact_sheet(&ContactSheet {
                actor: "keeper",
                words: String::new(),
                animations,
                scale,
                aids: Aids::default(),
            });
            let mut count = 0;
            for scene in &pages {
                let places: Vec<Point> = scene.panels[0].art.iter().map(|placed| placed.at).collect();
                count += places.len();
                let mut apart = places.clone();
                apart.sort_by(|a, b| a.x.total_cmp(&b.x).then(a.y.total_cmp(&b.y)));
                apart.dedup();
                assert_eq!(apart.len(), places.len(), "no two frames in one place");
                // Wider than the page is only a single cell that is so large, and higher a single row.
                assert!(scene.width <= PAGE_WIDTH || scale.is_some(), "{} px wide", scene.width);
                assert!(scene.height <= MOST_HIGH || scale.is_some(), "{} px high", scene.height);
                assert!(places.iter().all(|at| at.x < scene.width && at.y < scene.height));
            }
            assert_eq!(count, 2 * (lengths[0] + lengths[1]));
        }
    }
}
