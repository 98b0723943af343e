//! What all sheets share: the page's size and heading, and cells in rows. Page px.

use crate::palette::{INK, QUIET_INK};
use crate::scene::{Align, Item, Panel, Scene, wrapped};
use finitor_core::{Point, Rect};

/// How wide a page is, unless what is on it is wider.
pub(crate) const PAGE_WIDTH: f64 = 1280.0;
/// What stays free at its sides.
pub(crate) const EDGE: f64 = 16.0;
/// From its top to what is on it.
pub(crate) const HEAD: f64 = 64.0;
/// Between its sides.
pub(crate) const INNER_WIDTH: f64 = PAGE_WIDTH - 2.0 * EDGE;

/// A panel with a title, and a line of words under it.
pub(crate) fn headed(title: &str, words: &str) -> Panel {
    let mut panel = Panel::new(Rect::ZERO);
    panel.over.push(Item::text(Point::new(EDGE, 30.0), 20.0, Align::Start, INK, title));
    let line = wrapped(words, 13.0, INNER_WIDTH).into_iter().next();
    panel.over.extend(line.map(|line| Item::text(Point::new(EDGE, 51.0), 13.0, Align::Start, QUIET_INK, line)));
    panel
}

/// The page that a panel fills down to a height, at least as wide as a page is.
pub(crate) fn page(mut panel: Panel, width: f64, height: f64) -> Scene {
    let width = width.max(PAGE_WIDTH);
    panel.frame = Rect::new(0.0, 0.0, width, height);
    Scene::new(panel.frame, vec![panel])
}

/// How many times pixels are enlarged so that something so wide fits into some room.
pub(crate) fn enlargement(room: f64, width: f64, most: f64) -> u32 {
    (room / width).floor().clamp(1.0, most) as u32
}

/// Cells of one size in rows, as many in each as the page has room for.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Cells {
    width: f64,
    height: f64,
    per_row: usize,
}

impl Cells {
    /// Cells of a size, what stays free between them included.
    pub(crate) fn new(width: f64, height: f64, gap: f64) -> Cells {
        let per_row = ((INNER_WIDTH + gap) / (width + gap)).floor().max(1.0) as usize;
        Cells { width: width + gap, height: height + gap, per_row }
    }

    /// The same in a number of columns.
    pub(crate) fn in_columns(width: f64, height: f64, per_row: usize) -> Cells {
        Cells { width, height, per_row: per_row.max(1) }
    }

    /// The top left corner of one.
    pub(crate) fn corner(&self, index: usize) -> Point {
        let (column, row) = ((index % self.per_row) as f64, (index / self.per_row) as f64);
        Point::new(EDGE + column * self.width, HEAD + row * self.height)
    }

    /// Where the last of them ends.
    pub(crate) fn bottom(&self, count: usize) -> f64 {
        HEAD + count.div_ceil(self.per_row) as f64 * self.height
    }
}
