//! Pixels side by side in a row.

/// A run of set pixels in one row: the rectangle [start, end] x [row, row + 1] in cell space.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Run {
    /// The row, from the top.
    pub row: u32,
    /// The first column.
    pub start: u32,
    /// The column after the last.
    pub end: u32,
}

impl Run {
    /// Pixels in it.
    pub fn len(&self) -> u32 {
        self.end - self.start
    }

    /// Whether it holds no pixel; no run of a mask is empty.
    pub fn is_empty(&self) -> bool {
        self.end == self.start
    }
}
