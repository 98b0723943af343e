//! Tiles merged into outlines, so that no seam is left where they are flush.

mod kind;
mod links;

pub use kind::TileFill;

use crate::fit::{Geometry, pieces_of};
use crate::geometry::{Convex, Point, Polygon, Vec2, ring_area};
use kind::{BOTTOM, Kind, LEFT, RIGHT, TOP, cut, meet, minus};
use links::rings;
use std::collections::HashMap;

/// A map of tiles.
#[derive(Clone, Debug)]
pub struct TileGrid {
    /// Cells in a row.
    pub columns: usize,
    /// A cell's width and height, px.
    pub cell: (f64, f64),
    /// Row by row, an index into the fills; a cell with none is empty.
    pub cells: Vec<Option<u16>>,
    /// What each kind fills.
    pub fills: Vec<TileFill>,
}

/// Flush tiles as one outline, px from the map's top left.
#[derive(Clone, Debug, PartialEq)]
pub struct MergedTiles {
    /// The outline, with no corner on a straight line.
    pub polygon: Polygon,
    /// Holes in it.
    pub holes: Vec<Polygon>,
    /// Convex pieces that tile it.
    pub pieces: Vec<Convex>,
    /// Column and row of its first cell, row by row.
    pub first: (usize, usize),
}

/// Outlines with fewer corners than this are cut into the fewest pieces; larger ones along their tiles.
const FEW_CORNERS: usize = 24;

/// The union of all tiles: an outline for what is joined by sides of some length; tiles that touch only at a corner are apart.
/// Exact: borders between tiles are cancelled by comparing the same numbers, so the area is the sum of the tiles' to the bit
/// where those are.
///
/// # Complexity
/// O(cells + corners), and the pieces of outlines with few corners.
pub fn merged_tiles(grid: &TileGrid) -> Vec<MergedTiles> {
    let kinds: Vec<Kind> = grid.fills.iter().map(|fill| Kind::new(fill, grid.cell)).collect();
    let mut merge = Merge::new(grid, &kinds);
    merge.borders();
    merge.insides();
    merge.outlines()
}

/// An edge of the union, what is filled to its right, and one of the cells that it is of.
#[derive(Clone, Copy, Debug)]
struct Edge {
    from: Point,
    to: Point,
    cell: usize,
    /// Whether it is of a wholly filled cell, and so may be made longer.
    is_cell: bool,
}

struct Merge<'g> {
    grid: &'g TileGrid,
    kinds: &'g [Kind],
    rows: usize,
    edges: Vec<Edge>,
    /// Cells joined so far: a forest, each pointing towards its root.
    joined: Vec<usize>,
}

/// The stretches of a side that a tile fills.
fn side(kind: Option<&Kind>, which: usize) -> &[(f64, f64)] {
    kind.map_or(&[][..], |kind| &kind.sides[which][..])
}

/// The corners of its outline on that side.
fn places(kind: Option<&Kind>, which: usize) -> &[f64] {
    kind.map_or(&[][..], |kind| &kind.corners[which][..])
}

impl<'g> Merge<'g> {
    fn new(grid: &'g TileGrid, kinds: &'g [Kind]) -> Merge<'g> {
        let rows = grid.cells.len().checked_div(grid.columns).unwrap_or(0);
        Merge { grid, kinds, rows, edges: Vec::new(), joined: (0..grid.cells.len()).collect() }
    }

    fn kind(&self, column: usize, row: usize) -> Option<&'g Kind> {
        let inside = column < self.grid.columns && row < self.rows;
        let index = inside.then(|| self.grid.cells[row * self.grid.columns + column]).flatten()?;
        self.kinds.get(usize::from(index))
    }

    /// Whether an edge may run on past a corner of the lattice: no tile there fills its cell only in part, and so might touch
    /// the edge at that corner.
    fn is_plain(&self, column: usize, row: usize) -> bool {
        let around = [(0, 0), (1, 0), (0, 1), (1, 1)].into_iter();
        let mut cells = around.filter_map(|(dx, dy)| self.kind(column.checked_sub(dx)?, row.checked_sub(dy)?));
        !cells.any(|kind| kind.is_part)
    }

    fn corner(&self, column: usize, row: usize) -> Point {
        Point::new(column as f64 * self.grid.cell.0, row as f64 * self.grid.cell.1)
    }

    fn root(&mut self, cell: usize) -> usize {
        let mut at = cell;
        while self.joined[at] != at {
            self.joined[at] = self.joined[self.joined[at]];
            at = self.joined[at];
        }
        at
    }

    /// The lower number leads, so that roots do not hang on the order of joining.
    fn join(&mut self, one: usize, other: usize) {
        let (a, b) = (self.root(one), self.root(other));
        self.joined[a.max(b)] = a.min(b);
    }

    /// Edges along the borders of cells, where one side is filled and the other is not.
    fn borders(&mut self) {
        // The open edge of each column line that runs down, and the one that runs up.
        let mut upright: Vec<[Option<usize>; 2]> = vec![[None; 2]; self.grid.columns + 1];
        for row in 0..=self.rows {
            self.level_borders(row);
            if row == self.rows {
                break;
            }
            self.upright_borders(row, &mut upright);
        }
    }

    /// The borders between a row and the one above.
    fn level_borders(&mut self, row: usize) {
        let mut level: [Option<usize>; 2] = [None; 2];
        for column in 0..self.grid.columns {
            let (below, above) = (self.kind(column, row), row.checked_sub(1).and_then(|row| self.kind(column, row)));
            let (lower, upper) = (side(below, TOP), side(above, BOTTOM));
            let at = self.corner(column, row);
            let cell = row * self.grid.columns + column;
            if !lower.is_empty() && !upper.is_empty() && meet(lower, upper) {
                self.join(cell, cell - self.grid.columns);
            }
            if lower != upper {
                let along = |x: f64| at + Vec2::new(x, 0.0);
                let places = [places(below, TOP), places(above, BOTTOM)];
                let plain = self.is_plain(column, row);
                let is_cell = |kind: Option<&Kind>| kind.is_some_and(|kind| kind.is_cell);
                for (a, b) in cut(minus(lower, upper), places) {
                    let edge = Edge { from: along(a), to: along(b), cell, is_cell: is_cell(below) };
                    self.add(edge, plain && a == 0.0, &mut level[0]);
                }
                for (a, b) in cut(minus(upper, lower), places) {
                    // Runs to the left: it grows at its start.
                    let cell = cell - self.grid.columns;
                    let edge = Edge { from: along(b), to: along(a), cell, is_cell: is_cell(above) };
                    self.add(edge, plain && a == 0.0, &mut level[1]);
                }
            }
        }
    }

    /// The borders between the cells of a row.
    fn upright_borders(&mut self, row: usize, upright: &mut [[Option<usize>; 2]]) {
        for (column, open) in upright.iter_mut().enumerate() {
            let (right, left) = (self.kind(column, row), column.checked_sub(1).and_then(|c| self.kind(c, row)));
            let (one, other) = (side(right, LEFT), side(left, RIGHT));
            let at = self.corner(column, row);
            let cell = row * self.grid.columns + column;
            if !one.is_empty() && !other.is_empty() && meet(one, other) {
                self.join(cell, cell - 1);
            }
            if one != other {
                let along = |y: f64| at + Vec2::new(0.0, y);
                let places = [places(right, LEFT), places(left, RIGHT)];
                let plain = self.is_plain(column, row);
                let is_cell = |kind: Option<&Kind>| kind.is_some_and(|kind| kind.is_cell);
                for (a, b) in cut(minus(other, one), places) {
                    let edge = Edge { from: along(a), to: along(b), cell: cell - 1, is_cell: is_cell(left) };
                    self.add(edge, plain && a == 0.0, &mut open[0]);
                }
                for (a, b) in cut(minus(one, other), places) {
                    let edge = Edge { from: along(b), to: along(a), cell, is_cell: is_cell(right) };
                    self.add(edge, plain && a == 0.0, &mut open[1]);
                }
            }
        }
    }

    /// Adds an edge, or makes the open one longer by it, at whichever end they meet.
    fn add(&mut self, edge: Edge, goes_on: bool, open: &mut Option<usize>) {
        if let Some(index) = *open
            && goes_on
            && edge.is_cell
            && self.edges[index].is_cell
        {
            let known = &mut self.edges[index];
            if known.to == edge.from {
                known.to = edge.to;
                return;
            }
            if known.from == edge.to {
                known.from = edge.from;
                return;
            }
        }
        *open = Some(self.edges.len());
        self.edges.push(edge);
    }

    /// Edges within cells.
    fn insides(&mut self) {
        for row in 0..self.rows {
            for column in 0..self.grid.columns {
                let Some(kind) = self.kind(column, row).filter(|kind| !kind.inside.is_empty()) else { continue };
                let (by, cell) = (self.corner(column, row).to_vec2(), row * self.grid.columns + column);
                let moved = kind.inside.iter().map(|&(a, b)| Edge { from: a + by, to: b + by, cell, is_cell: false });
                self.edges.extend(moved);
            }
        }
    }

    /// Links edges into rings, and sorts these by what is joined.
    fn outlines(mut self) -> Vec<MergedTiles> {
        let rings = rings(&self.edges);
        let mut groups: HashMap<usize, (Rings, Rings)> = HashMap::new();
        for (ring, cell) in rings {
            let group = groups.entry(self.root(cell)).or_default();
            if ring_area(&ring) > 0.0 { group.0.push(ring) } else { group.1.push(ring) }
        }
        let mut roots: Vec<usize> = groups.keys().copied().collect();
        roots.sort_unstable();
        let mut pieces = self.pieces();
        let mut merged = Vec::new();
        for root in roots {
            let (outer, inner) = groups.remove(&root).unwrap_or_default();
            let outer: Vec<Polygon> = outer.into_iter().filter_map(Polygon::from_simple).collect();
            let mut holes: Vec<Polygon> = inner
                .into_iter()
                .map(|mut ring| {
                    ring.reverse();
                    ring
                })
                .filter_map(Polygon::from_simple)
                .collect();
            let first = (root % self.grid.columns, root / self.grid.columns);
            let mut all = pieces.remove(&root).unwrap_or_default();
            let alone = outer.len() == 1;
            for polygon in outer {
                // A cell may hold parts that do not meet: as a rule one outline has all the holes and pieces.
                let within = |p: Point| alone || polygon.contains(p);
                let (own, rest) = holes.into_iter().partition(|hole: &Polygon| within(hole.points()[0]));
                holes = rest;
                let (mine, others) = all.into_iter().partition(|piece: &Convex| within(piece.middle()));
                all = others;
                let (own, mut mine): (Vec<Polygon>, Vec<Convex>) = (own, mine);
                let corners = polygon.points().len() + own.iter().map(|hole| hole.points().len()).sum::<usize>();
                if corners <= FEW_CORNERS {
                    let whole = Geometry { polygons: vec![polygon.clone()], holes: own.clone(), exact: None };
                    mine = pieces_of(&whole, usize::MAX);
                }
                merged.push(MergedTiles { polygon, holes: own, pieces: mine, first });
            }
        }
        merged
    }

    /// Convex pieces along the tiles, by root: rows of filled cells, those of one width above each other together, and the
    /// pieces of shapes.
    fn pieces(&mut self) -> HashMap<usize, Vec<Convex>> {
        let mut pieces: HashMap<usize, Vec<Convex>> = HashMap::new();
        // Rectangles that reach down to the row before: first and last column, first row.
        let mut open: Vec<(usize, usize, usize)> = Vec::new();
        for row in 0..=self.rows {
            let mut runs: Vec<(usize, usize)> = Vec::new();
            let mut column = 0;
            while row < self.rows && column < self.grid.columns {
                let start = column;
                while self.kind(column, row).is_some_and(|kind| kind.is_cell) {
                    column += 1;
                }
                if column > start {
                    runs.push((start, column));
                } else {
                    if let Some(kind) = self.kind(column, row).filter(|kind| !kind.pieces.is_empty()) {
                        let by = self.corner(column, row).to_vec2();
                        let moved = kind.pieces.iter().filter_map(|piece| {
                            let ring = piece.points().iter().map(|p| *p + by).collect();
                            Convex::new(&Polygon::from_simple(ring)?)
                        });
                        let moved: Vec<Convex> = moved.collect();
                        let root = self.root(row * self.grid.columns + column);
                        pieces.entry(root).or_default().extend(moved);
                    }
                    column += 1;
                }
            }
            let mut still = Vec::with_capacity(runs.len());
            let mut before = open.into_iter().peekable();
            let mut close = |merge: &mut Merge<'_>, (from, to, top): (usize, usize, usize)| {
                let (a, b) = (merge.corner(from, top), merge.corner(to, row));
                let corners = vec![a, Point::new(b.x, a.y), b, Point::new(a.x, b.y)];
                let root = merge.root(top * merge.grid.columns + from);
                pieces.entry(root).or_default().push(Convex::from_clockwise(corners));
            };
            for (from, to) in runs {
                while let Some(done) = before.next_if(|known| known.0 < from) {
                    close(self, done);
                }
                match before.next_if(|known| (known.0, known.1) == (from, to)) {
                    Some(known) => still.push(known),
                    None => still.push((from, to, row)),
                }
            }
            before.for_each(|done| close(self, done));
            open = still;
        }
        pieces
    }
}

type Rings = Vec<Vec<Point>>;
