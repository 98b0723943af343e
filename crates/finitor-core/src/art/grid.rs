//! Sheets of equal cells.

use super::PixelRect;

/// Where the cells of a sheet lie. Cells count from 0, row by row from the top, left to right; each pair of numbers is
/// across and down.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Grid {
    /// Size of a cell, px, at least 1 each way.
    pub cell: (u32, u32),
    /// Free room before the first cell: left, top.
    pub before: (u32, u32),
    /// Free room after the last: right, bottom.
    pub after: (u32, u32),
    /// Room between two cells.
    pub gap: (u32, u32),
}

impl Grid {
    /// Cells side by side with no room around or between them.
    pub fn plain(width: u32, height: u32) -> Grid {
        Grid { cell: (width, height), before: (0, 0), after: (0, 0), gap: (0, 0) }
    }

    /// From the start of a cell to that of the next, across and down.
    pub fn pitch(&self) -> (u32, u32) {
        (self.cell.0 + self.gap.0, self.cell.1 + self.gap.1)
    }

    /// The top left of a cell by its index, in a sheet of this many columns.
    pub(super) fn corner(&self, columns: u32, index: u32) -> (u32, u32) {
        let (row, column) = (index / columns, index % columns);
        (self.before.0 + column * self.pitch().0, self.before.1 + row * self.pitch().1)
    }

    /// Columns and rows of whole cells in a sheet of a size.
    pub fn cells_in(&self, width: u32, height: u32) -> (u32, u32) {
        let fit = |length: u32, before: u32, after: u32, cell: u32, gap: u32| {
            // One cell takes its size and a gap; the last needs no gap, which the extra one makes up for.
            let room = (u64::from(length) + u64::from(gap)).saturating_sub(u64::from(before) + u64::from(after));
            (room / (u64::from(cell) + u64::from(gap)).max(1)) as u32
        };
        (
            fit(width, self.before.0, self.after.0, self.cell.0, self.gap.0),
            fit(height, self.before.1, self.after.1, self.cell.1, self.gap.1),
        )
    }

    /// All cells of a sheet of a size, in order. Row by row.
    pub fn rects(&self, width: u32, height: u32) -> Vec<PixelRect> {
        let (columns, rows) = self.cells_in(width, height);
        let rect = |index: u32| {
            let (x, y) = self.corner(columns, index);
            PixelRect { x, y, width: self.cell.0, height: self.cell.1 }
        };
        (0..columns * rows).map(rect).collect()
    }
}
