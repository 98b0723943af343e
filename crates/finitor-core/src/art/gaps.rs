//! Cells found by the art itself: what transparent rows and columns part.

use super::summed::SummedArea;
use super::{Mask, PixelRect};

/// The smallest rectangles around the pieces of art that transparent rows and columns part.
///
/// The sheet is parted at every band of at least `gap` empty rows, each part at every band of at least `gap` empty
/// columns, each of those at empty rows again, until nothing parts any more. The order is that of reading: from the
/// top, and within a band of rows from the left. Every set pixel is in exactly one rectangle; each rectangle has a set
/// pixel on each of its four sides. A `gap` of 0 means 1.
///
/// # Complexity
/// O(pixels + cells * (width + height)).
///
/// # Source
/// Recursive X-Y cuts: George Nagy and Sharad Seth, "Hierarchical representation of optically scanned documents", ICPR
/// 1984.
pub fn cells_by_gaps(art: &Mask, gap: u32) -> Vec<PixelRect> {
    let sums = SummedArea::new(art);
    let whole = PixelRect { x: 0, y: 0, width: art.width(), height: art.height() };
    let mut cells = Vec::new();
    // A stack, last in first out, holds what is still to be parted; the flags say which ways are known not to part.
    let mut open = vec![(whole, Way::Rows, false)];
    while let Some((rect, way, tried)) = open.pop() {
        let parts = parted(&sums, rect, way, gap.max(1));
        match parts.as_slice() {
            [] => {}
            [only] if tried && *only == rect => cells.push(rect),
            [only] => open.push((*only, way.other(), *only == rect)),
            several => open.extend(several.iter().rev().map(|part| (*part, way.other(), false))),
        }
    }
    cells
}

/// How a rectangle is parted.
#[derive(Clone, Copy)]
pub(super) enum Way {
    Rows,
    Columns,
}

impl Way {
    fn other(self) -> Way {
        match self {
            Way::Rows => Way::Columns,
            Way::Columns => Way::Rows,
        }
    }
}

/// The parts of a rectangle that hold art, parted one way and trimmed that way.
pub(super) fn parted(sums: &SummedArea, rect: PixelRect, way: Way, gap: u32) -> Vec<PixelRect> {
    let slice = |start: u32, end: u32| match way {
        Way::Rows => PixelRect { y: rect.y + start, height: end - start, ..rect },
        Way::Columns => PixelRect { x: rect.x + start, width: end - start, ..rect },
    };
    let length = match way {
        Way::Rows => rect.height,
        Way::Columns => rect.width,
    };
    let mut parts: Vec<(u32, u32)> = Vec::new();
    for at in (0..length).filter(|at| sums.count(slice(*at, at + 1)) > 0) {
        match parts.last_mut() {
            Some((_, end)) if at - *end < gap => *end = at + 1,
            _ => parts.push((at, at + 1)),
        }
    }
    parts.into_iter().map(|(start, end)| slice(start, end)).collect()
}
