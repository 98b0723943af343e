//! Counts of set pixels in any rectangle, at once.

use super::{Mask, PixelRect};

/// The summed-area table of a mask.
///
/// # Source
/// Franklin C. Crow, "Summed-area tables for texture mapping", SIGGRAPH 1984. O(pixels) to build and to hold, O(1) a
/// rectangle.
pub(crate) struct SummedArea {
    stride: usize,
    rows: usize,
    sums: Vec<u32>,
}

impl SummedArea {
    pub(crate) fn new(mask: &Mask) -> SummedArea {
        let stride = mask.width() as usize + 1;
        let mut sums = vec![0; stride * (mask.height() as usize + 1)];
        for y in 0..mask.height() as usize {
            let mut row = 0;
            for (x, set) in mask.row(y as u32).enumerate() {
                row += u32::from(set);
                sums[(y + 1) * stride + x + 1] = sums[y * stride + x + 1] + row;
            }
        }
        SummedArea { stride, rows: mask.height() as usize, sums }
    }

    /// Set pixels left of a column and above a row, of all of them beyond the last.
    #[inline]
    pub(crate) fn before(&self, column: usize, row: usize) -> u32 {
        self.sums[row.min(self.rows) * self.stride + column.min(self.stride - 1)]
    }

    /// Set pixels in a rectangle inside the mask.
    pub(crate) fn count(&self, rect: PixelRect) -> u32 {
        let at = |x: u32, y: u32| self.sums[y as usize * self.stride + x as usize];
        let (right, bottom) = (rect.x + rect.width, rect.y + rect.height);
        at(right, bottom) + at(rect.x, rect.y) - at(rect.x, bottom) - at(right, rect.y)
    }
}
