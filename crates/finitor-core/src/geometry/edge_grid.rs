//! Finding edges near a place without looking at all of them.

use super::{Point, Rect, Vec2, squared_distance};

/// From one point to another.
pub(crate) type Edge = (Point, Point);

/// Least side of a cell, px: outlines of pixel art turn every few pixels.
const LEAST_CELL: f64 = 4.0;
/// Most cells along a side, so that a grid's size is bounded whatever its edges span.
const MOST_CELLS: f64 = 1024.0;

/// Edges sorted into the cells of a square grid.
///
/// # Complexity
/// To build O(edges + cells they pass); a search looks at the cells round the place alone.
pub(crate) struct EdgeGrid {
    edges: Vec<Edge>,
    origin: Point,
    cell: f64,
    columns: usize,
    rows: usize,
    /// Where each cell's entries begin in `entries`, and the end of the last.
    starts: Vec<usize>,
    entries: Vec<usize>,
}

impl EdgeGrid {
    /// A grid of the edges; their indices are those of the list.
    pub(crate) fn new(edges: Vec<Edge>) -> EdgeGrid {
        let boxes = edges.iter().map(|&(a, b)| Rect::from_points(a, b));
        let bounds = boxes.reduce(|all, next| all.union(next)).unwrap_or(Rect::ZERO);
        let cell = (bounds.width().max(bounds.height()) / MOST_CELLS).max(LEAST_CELL);
        let count = |length: f64| (length / cell).floor() as usize + 1;
        let (columns, rows) = (count(bounds.width()), count(bounds.height()));
        let mut grid = EdgeGrid {
            edges,
            origin: bounds.origin(),
            cell,
            columns,
            rows,
            starts: vec![0; columns * rows + 1],
            entries: Vec::new(),
        };
        // First how many each cell has, then which.
        for index in 0..grid.edges.len() {
            grid.cells_of(index).for_each(|cell| grid.starts[cell + 1] += 1);
        }
        for cell in 0..columns * rows {
            grid.starts[cell + 1] += grid.starts[cell];
        }
        let mut next = grid.starts.clone();
        grid.entries = vec![0; grid.starts[columns * rows]];
        for index in 0..grid.edges.len() {
            for cell in grid.cells_of(index) {
                grid.entries[next[cell]] = index;
                next[cell] += 1;
            }
        }
        grid
    }

    /// A grid of the edges of closed rings, ring by ring.
    pub(crate) fn of_rings<'r>(rings: impl IntoIterator<Item = &'r [Point]>) -> EdgeGrid {
        EdgeGrid::new(ring_edges(rings).collect())
    }

    /// The place of a coordinate in cells, held inside the grid.
    fn place(&self, at: Point) -> (usize, usize) {
        // What is below 0 becomes 0.
        let held = |value: f64, count: usize| ((value / self.cell) as usize).min(count - 1);
        (held(at.x - self.origin.x, self.columns), held(at.y - self.origin.y, self.rows))
    }

    fn cells(&self, rect: Rect) -> impl Iterator<Item = usize> + use<> {
        let (first, last) = (self.place(Point::new(rect.x0, rect.y0)), self.place(Point::new(rect.x1, rect.y1)));
        let columns = self.columns;
        (first.1..=last.1).flat_map(move |row| (first.0..=last.0).map(move |column| row * columns + column))
    }

    /// The cells that an edge's box passes.
    fn cells_of(&self, index: usize) -> impl Iterator<Item = usize> + use<> {
        let (a, b) = self.edges[index];
        self.cells(Rect::from_points(a, b))
    }

    fn in_cell(&self, cell: usize) -> &[usize] {
        &self.entries[self.starts[cell]..self.starts[cell + 1]]
    }

    /// Indices of edges whose cells meet the rectangle's, ascending and once each: all that meet the rectangle, and
    /// some beside it.
    pub(crate) fn near(&self, rect: Rect) -> Vec<usize> {
        let mut found: Vec<usize> = Vec::new();
        self.each_near(rect, |index| found.push(index));
        found.sort_unstable();
        found.dedup();
        found
    }

    /// Whether any edge is of a sort, among all that meet the rectangle and some beside it.
    pub(crate) fn any_near(&self, rect: Rect, mut is: impl FnMut(usize) -> bool) -> bool {
        self.cells(rect).any(|cell| self.in_cell(cell).iter().any(|index| is(*index)))
    }

    /// Calls for edges whose cells meet the rectangle's, for some of them several times.
    pub(crate) fn each_near(&self, rect: Rect, mut each: impl FnMut(usize)) {
        for cell in self.cells(rect) {
            self.in_cell(cell).iter().for_each(|index| each(*index));
        }
    }

    /// The edge nearest to a point, the first of equals, with its distance; `None` when there are no edges.
    pub(crate) fn nearest(&self, point: Point) -> Option<(f64, usize)> {
        let mut best: Option<(f64, usize)> = None;
        let (column, row) = self.place(point);
        let in_own = (point - self.origin) - Vec2::new(column as f64, row as f64) * self.cell;
        let to_side = |along: f64| along.min(self.cell - along);
        let to_next = to_side(in_own.x).min(to_side(in_own.y)).max(0.0);
        for ring in 0..self.columns.max(self.rows) {
            // Whatever lies in this ring of cells or beyond is at least this far off.
            let least = if ring == 0 { 0.0 } else { (ring as f64 - 1.0) * self.cell + to_next };
            if best.is_some_and(|(distance, _)| distance < least * least) {
                break;
            }
            self.each_in_ring(column, row, ring, |index| {
                let distance = squared_distance(point, self.edges[index]);
                if best.is_none_or(|(d, i)| distance < d || (distance == d && index < i)) {
                    best = Some((distance, index));
                }
            });
        }
        best.map(|(distance, index)| (distance.sqrt(), index))
    }

    /// Calls for the edges in the cells that are `ring` steps from a cell.
    fn each_in_ring(&self, column: usize, row: usize, ring: usize, mut each: impl FnMut(usize)) {
        let (left, right) = (column.saturating_sub(ring), (column + ring).min(self.columns - 1));
        let (top, bottom) = (row.saturating_sub(ring), (row + ring).min(self.rows - 1));
        for r in top..=bottom {
            let is_level = r + ring == row || r == row + ring;
            // Of rows in between only the two ends are in the ring, where they are in the grid.
            let ends = [column.checked_sub(ring), Some(column + ring).filter(|c| *c < self.columns)];
            let (whole, ends) = if is_level { (left..right + 1, [None; 2]) } else { (0..0, ends) };
            for c in whole.chain(ends.into_iter().flatten()) {
                self.in_cell(r * self.columns + c).iter().for_each(|index| each(*index));
            }
        }
    }

    /// All edges.
    pub(crate) fn edges(&self) -> &[Edge] {
        &self.edges
    }

    /// An edge by its index.
    pub(crate) fn edge(&self, index: usize) -> Edge {
        self.edges[index]
    }
}

/// The edges of closed rings, ring by ring.
pub(super) fn ring_edges<'r>(rings: impl IntoIterator<Item = &'r [Point]>) -> impl Iterator<Item = Edge> {
    let closed = |ring: &'r [Point]| ring.iter().copied().zip(ring.iter().cycle().skip(1).copied());
    rings.into_iter().flat_map(closed)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn nearest_and_near_agree_with_looking_at_all() {
        // A spiral of short edges, and a few long ones across it.
        let turn = |k: u32| Point::ZERO + kurbo::Vec2::from_angle(f64::from(k) * 0.7) * (f64::from(k) * 0.9);
        let mut edges: Vec<Edge> = (0..120).map(|k| (turn(k), turn(k + 1))).collect();
        edges.push((Point::new(-90.0, -40.0), Point::new(100.0, 30.0)));
        let grid = EdgeGrid::new(edges.clone());
        for k in 0..400_u32 {
            let point = Point::new(f64::from(k * 37 % 300) - 150.0, f64::from(k * 91 % 260) - 130.0);
            let expected = edges.iter().map(|edge| squared_distance(point, *edge)).fold(f64::INFINITY, f64::min);
            let (found, index) = grid.nearest(point).unwrap();
            assert!((found - expected.sqrt()).abs() < 1e-12, "{point:?}: {found} {expected}");
            assert!((squared_distance(point, grid.edge(index)) - expected).abs() < 1e-9);
            let window = Rect::from_center_size(point, (9.0, 5.0));
            let near = grid.near(window);
            for (i, (a, b)) in edges.iter().enumerate() {
                let inside = window.contains(*a) || window.contains(*b);
                assert!(!inside || near.contains(&i), "edge {i} ends in {window:?}");
            }
        }
        assert_eq!(EdgeGrid::new(vec![]).nearest(Point::ZERO), None);
    }
}
