//! Merged tiles against the tiles themselves, place by place.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::art::contours;
use finitor_core::geometry::{ring_area, turn};
use finitor_core::stage::{MergedTiles, TileFill, TileGrid, merged_tiles};
use finitor_core::{Point, Polygon};
use proptest::prelude::*;
use support::{cases, masks};

const SIDE: f64 = 16.0;

fn polygon(points: &[(f64, f64)]) -> Polygon {
    Polygon::new(points.iter().map(|&p| Point::from(p)).collect()).unwrap()
}

/// Empty, full, slopes all ways, slabs, a step, a block that touches no side, and two parts that do not meet.
fn fills() -> Vec<TileFill> {
    let shape = |points: &[(f64, f64)]| TileFill::Shape(vec![polygon(points)]);
    let s = SIDE;
    vec![
        TileFill::Nothing,
        TileFill::Cell,
        shape(&[(0.0, s), (s, 0.0), (s, s)]),
        shape(&[(0.0, 0.0), (s, s), (0.0, s)]),
        shape(&[(0.0, 0.0), (s, 0.0), (0.0, s)]),
        shape(&[(0.0, 8.0), (s, 8.0), (s, s), (0.0, s)]),
        shape(&[(0.0, 0.0), (s, 0.0), (s, 4.0), (0.0, 4.0)]),
        shape(&[(0.0, s), (0.0, 12.0), (s, 4.0), (s, s)]),
        shape(&[(0.0, 8.0), (8.0, 8.0), (8.0, 0.0), (s, 0.0), (s, s), (0.0, s)]),
        shape(&[(4.0, 4.0), (12.0, 4.0), (12.0, 12.0), (4.0, 12.0)]),
        TileFill::Shape(vec![
            polygon(&[(0.0, 0.0), (s, 0.0), (s, 3.0), (0.0, 3.0)]),
            polygon(&[(0.0, 13.0), (s, 13.0), (s, s), (0.0, s)]),
        ]),
    ]
}

fn grid(columns: usize, cells: Vec<Option<u16>>) -> TileGrid {
    TileGrid { columns, cell: (SIDE, SIDE), cells, fills: fills() }
}

fn grids(most_kind: u16) -> impl Strategy<Value = TileGrid> {
    (1..8_usize, 1..8_usize).prop_flat_map(move |(columns, rows)| {
        let cell = prop_oneof![Just(None), (0..most_kind).prop_map(Some), Just(Some(1))];
        proptest::collection::vec(cell, columns * rows).prop_map(move |cells| grid(columns, cells))
    })
}

/// Whether a tile fills a place, by the tile alone.
fn filled(grid: &TileGrid, at: Point) -> bool {
    let (column, row) = ((at.x / SIDE).floor(), (at.y / SIDE).floor());
    let rows = grid.cells.len() / grid.columns;
    if column < 0.0 || row < 0.0 || column as usize >= grid.columns || row as usize >= rows {
        return false;
    }
    let local = Point::new(at.x - column * SIDE, at.y - row * SIDE);
    match grid.cells[row as usize * grid.columns + column as usize].map(|kind| &grid.fills[usize::from(kind)]) {
        None | Some(TileFill::Nothing) => false,
        Some(TileFill::Cell) => true,
        Some(TileFill::Shape(polygons)) => polygons.iter().any(|polygon| polygon.contains(local)),
    }
}

/// How many parts there are: polygons of tiles are joined where places just across a border from each other are both filled.
fn parts(grid: &TileGrid) -> usize {
    let rows = grid.cells.len() / grid.columns;
    let whole = [polygon(&[(0.0, 0.0), (SIDE, 0.0), (SIDE, SIDE), (0.0, SIDE)])];
    let of = |cell: usize| match grid.cells[cell].map(|kind| &grid.fills[usize::from(kind)]) {
        None | Some(TileFill::Nothing) => &[][..],
        Some(TileFill::Cell) => &whole[..],
        Some(TileFill::Shape(polygons)) => &polygons[..],
    };
    let mut count = 0;
    let mut name = std::collections::BTreeMap::new();
    for (cell, index) in (0..grid.cells.len()).flat_map(|cell| (0..of(cell).len()).map(move |index| (cell, index))) {
        name.insert((cell, index), count);
        count += 1;
    }
    let mut meets = Vec::new();
    let near = 1e-6;
    for cell in 0..grid.cells.len() {
        let (column, row) = (cell % grid.columns, cell / grid.columns);
        for step in 0..128 {
            let along = (f64::from(step) + 0.5) / 8.0;
            let right = (column + 1 < grid.columns).then(|| (cell + 1, (SIDE - near, along), (near, along)));
            let below = (row + 1 < rows).then(|| (cell + grid.columns, (along, SIDE - near), (along, near)));
            for (other, here, there) in [right, below].into_iter().flatten() {
                let at = |cell: usize, place: (f64, f64)| of(cell).iter().position(|p| p.contains(place.into()));
                if let (Some(a), Some(b)) = (at(cell, here), at(other, there)) {
                    meets.push((name[&(cell, a)], name[&(other, b)]));
                }
            }
        }
    }
    // Names run down to the least of those joined.
    let mut least: Vec<usize> = (0..count).collect();
    while let Some((a, b)) = meets.iter().find(|(a, b)| least[*a] != least[*b]) {
        let (from, to) = (least[*a].max(least[*b]), least[*a].min(least[*b]));
        least.iter_mut().filter(|name| **name == from).for_each(|name| *name = to);
    }
    least.iter().enumerate().filter(|(index, name)| index == *name).count()
}

fn area(merged: &[MergedTiles]) -> f64 {
    let of = |m: &MergedTiles| m.polygon.area() - m.holes.iter().map(Polygon::area).sum::<f64>();
    merged.iter().map(of).sum()
}

fn sound(grid: &TileGrid, merged: &[MergedTiles]) -> Result<(), TestCaseError> {
    let expected: f64 = grid
        .cells
        .iter()
        .flatten()
        .map(|kind| match &grid.fills[usize::from(*kind)] {
            TileFill::Nothing => 0.0,
            TileFill::Cell => SIDE * SIDE,
            TileFill::Shape(polygons) => polygons.iter().map(Polygon::area).sum(),
        })
        .sum();
    prop_assert_eq!(area(merged), expected, "the area is that of the tiles, exactly");
    let pieces: f64 = merged.iter().flat_map(|m| &m.pieces).map(|piece| ring_area(piece.points())).sum();
    prop_assert!((pieces - expected).abs() < 1e-6, "pieces {pieces} of {expected}");
    for polygon in merged.iter().flat_map(|m| std::iter::once(&m.polygon).chain(&m.holes)) {
        let points = polygon.points();
        prop_assert!(Polygon::new(points.to_vec()).is_ok(), "simple: {polygon:?}");
        let n = points.len();
        let straight = (0..n).any(|i| turn(points[i], points[(i + 1) % n], points[(i + 2) % n]) == 0.0);
        prop_assert!(!straight, "a corner on a straight line: {polygon:?}");
    }
    // No place is lost and none is won.
    let rows = grid.cells.len() / grid.columns;
    for (x, y) in (0..grid.columns * 6).flat_map(|x| (0..rows * 6).map(move |y| (x, y))) {
        let at = Point::new(x as f64 * SIDE / 6.0 + 1.37, y as f64 * SIDE / 6.0 + 1.91);
        let inside = |m: &MergedTiles| m.polygon.contains(at) && !m.holes.iter().any(|hole| hole.contains(at));
        prop_assert_eq!(merged.iter().any(inside), filled(grid, at), "{:?}", at);
        let pieces = merged
            .iter()
            .flat_map(|m| &m.pieces)
            .filter(|piece| Polygon::new(piece.points().to_vec()).is_ok_and(|polygon| polygon.contains(at)));
        prop_assert!((pieces.count() > 0) == filled(grid, at), "pieces at {at:?}");
    }
    Ok(())
}

proptest! {
    #![proptest_config(cases(300))]

    #[test]
    fn merged_tiles_are_the_union_in_the_fewest_outlines(grid in grids(11)) {
        let merged = merged_tiles(&grid);
        sound(&grid, &merged)?;
        prop_assert_eq!(merged.len(), parts(&grid), "an outline for each part");
    }

    #[test]
    fn whole_cells_have_the_outlines_of_a_mask(mask in masks(14)) {
        let columns = mask.width() as usize;
        let cells = (0..mask.height()).flat_map(|y| (0..mask.width()).map(move |x| (x, y)));
        let cells = cells.map(|(x, y)| mask.get(x.into(), y.into()).then_some(1)).collect();
        let merged = merged_tiles(&grid(columns, cells));
        let rings = contours(&mask);
        let corners: usize = rings.iter().map(|ring| ring.corners().len()).sum();
        let found: usize = merged.iter().flat_map(|m| std::iter::once(&m.polygon).chain(&m.holes)).map(|p| p.points().len()).sum();
        prop_assert_eq!(found, corners, "no corner more than the boundary has");
        prop_assert_eq!(merged.len() + merged.iter().map(|m| m.holes.len()).sum::<usize>(), rings.len());
        prop_assert_eq!(area(&merged), mask.count() as f64 * SIDE * SIDE);
    }
}
