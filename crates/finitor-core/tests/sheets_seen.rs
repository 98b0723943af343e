//! What is seen on sheets drawn here: grids, gaps, twins, backgrounds, and where figures stand.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod dice;

use dice::Dice;
use finitor_core::art::{Background, Cutting, Grid, LookWishes, Mask, Picture, PixelRect, cells_by_gaps, look, stance};

/// A figure for a cell: legs that stride, a trunk, a head, an arm that swings; feet `floor` px above the cell's bottom.
fn figure(x: u32, y: u32, (w, h): (u32, u32), row: u32, frame: u32, floor: u32) -> bool {
    if y + floor >= h {
        return false;
    }
    let (u, v) = ((f64::from(x) + 0.5) / f64::from(w), (f64::from(y) + 0.5) / f64::from(h - floor));
    let stride = [0.0, 0.06, 0.1, 0.05][(frame % 4) as usize];
    let lean = f64::from(row % 3) * 0.02;
    let head = ((u - 0.5 - lean) / 0.13).powi(2) + ((v - 0.22) / 0.13).powi(2) < 1.0;
    let trunk = (u - 0.5).abs() < 0.14 && (0.3..0.75).contains(&v);
    let legs = v >= 0.7 && ((u - 0.43 + stride).abs() < 0.07 || (u - 0.57 - stride).abs() < 0.07);
    let arm = (v - 0.4 - stride * f64::from(row % 2 + 1)).abs() < 0.06 && u > 0.5 && u < 0.72 + stride;
    head || trunk || legs || arm
}

fn painted(art: &Mask, colour: impl Fn(u32, u32) -> [u8; 4]) -> Picture {
    let (width, height) = (art.width(), art.height());
    let all = (0..height).flat_map(|y| (0..width).map(move |x| (x, y)));
    Picture::new(
        width,
        height,
        all.map(|(x, y)| if art.get(x.into(), y.into()) { colour(x, y) } else { [0; 4] }).collect(),
    )
    .unwrap()
}

#[test]
fn odd_cells_are_named() {
    // Six cells of 20 x 24: the second is empty, the fourth repeats the first, the fifth is its mirror image, and the
    // last reaches the right edge by 3 px.
    let cell = (20, 24);
    let shape = |x: u32, y: u32| figure(x, y, cell, 0, 1, 2);
    let art = Mask::from_fn(120, 24, |x, y| match (x / 20, x % 20) {
        (0 | 3, x) => shape(x, y),
        (1, _) => false,
        (2, x) => figure(x, y, cell, 1, 2, 2),
        (4, x) => shape(19 - x, y),
        (_, x) => figure(x, y, cell, 0, 3, 2) || (x > 12 && (10..13).contains(&y)),
    });
    let seen = look(&painted(&art, |_, y| [90, 20 + y as u8, 60, 255]), &LookWishes::default());
    assert_eq!(seen.background, Background::Transparent);
    assert_eq!(seen.cutting.grid(), Some(Grid::plain(cell.0, cell.1)));
    assert!(seen.cells[1].is_empty());
    assert_eq!(seen.rows, [vec![0, 2, 3, 4, 5]]);
    assert_eq!((seen.cells[3].same_as, seen.cells[4].same_as, seen.cells[4].mirror_of), (Some(0), None, Some(0)));
    let cut: Vec<u32> = seen.cells.iter().map(|cell| cell.cut_off()).collect();
    assert_eq!(cut, [0, 0, 0, 0, 0, 3]);
    // The same on a coloured background: told, and cut the same.
    let opaque = Picture::new(
        120,
        24,
        painted(&art, |_, _| [1, 2, 3, 255])
            .pixels()
            .iter()
            .map(|p| if p[3] == 0 { [255, 0, 255, 255] } else { *p })
            .collect(),
    );
    let on_colour = look(&opaque.unwrap(), &LookWishes::default());
    assert!(
        matches!(on_colour.background, Background::Coloured(colour, share) if colour.to_string() == "#ff00ff" && share > 0.5)
    );
    assert_eq!(on_colour.cutting.grid(), Some(Grid::plain(cell.0, cell.1)));
}

#[test]
fn a_coin_from_the_front_and_from_its_edge_is_two_frames_or_they_are_named() {
    for (side, widths) in [(24, [9.0, 1.5]), (32, [13.0, 2.0]), (48, [19.0, 3.5]), (64, [25.0, 1.5])] {
        let middle = f64::from(side) / 2.0;
        let coin = |x: u32, y: u32, wide: f64| {
            let (u, v) = (f64::from(x) + 0.5 - middle, f64::from(y) + 0.5 - middle);
            (u / wide).powi(2) + (v / widths[0]).powi(2) <= 1.0
        };
        let sheet = Mask::from_fn(2 * side, side, |x, y| coin(x % side, y, widths[(x / side) as usize]));
        let seen = look(&painted(&sheet, |_, _| [200, 160, 40, 255]), &LookWishes::default());
        let mut readings = std::iter::once(&seen.cutting).chain(&seen.others);
        assert!(readings.any(|cutting| cutting.grid() == Some(Grid::plain(side, side))), "{side}: {:?}", seen.cutting);
        // The same figures that do not keep to the middle of halves are a picture of two things.
        let shifted = Mask::from_fn(2 * side, side, |x, y| {
            let x = x + side / 5;
            x < 2 * side && coin(x % side, y, widths[(x / side) as usize])
        });
        let seen = look(&painted(&shifted, |_, _| [200, 160, 40, 255]), &LookWishes::default());
        assert_eq!((seen.cutting, seen.others.len()), (Cutting::Whole, 0), "{side}");
    }
}

#[test]
fn lines_are_neither_art_nor_its_ground_whoever_says_where_the_cells_are() {
    let (cell, line, ground) = ((20, 24), [200, 0, 90, 255], [0, 200, 0, 255]);
    let pixels = (0..26_u32).flat_map(|y| (0..64_u32).map(move |x| (x, y))).map(|(x, y)| match (x % 21, y % 25) {
        (0, _) | (_, 0) => line,
        (in_x, in_y) if figure(in_x - 1, in_y - 1, cell, 0, x / 21, 2) => [90, 60, 30, 255],
        _ => ground,
    });
    let sheet = Picture::new(64, 26, pixels.collect()).unwrap();
    let guessed = look(&sheet, &LookWishes::default());
    let grid = Grid { cell, before: (1, 1), after: (1, 1), gap: (1, 0) };
    assert_eq!(guessed.cutting.grid(), Some(grid));
    let given = look(&sheet, &LookWishes { cutting: Some(Cutting::Given(grid)), ..LookWishes::default() });
    for seen in [&guessed, &given] {
        assert!(matches!(seen.background, Background::Coloured(colour, _) if colour.to_string() == "#00c800"));
        let art = |frame: u32| (0..480).filter(|at| figure(at % 20, at / 20, cell, 0, frame, 2)).count() as u32;
        let counts: Vec<u32> = seen.cells.iter().map(|cell| cell.solid.iter().map(|run| run.len()).sum()).collect();
        assert_eq!(counts, [art(0), art(1), art(2)], "opaque pixels, cell by cell");
    }
}

#[test]
fn filled_tiles_show_their_grid_by_their_colours() {
    let tiles = |side: u32, columns: u32, rows: u32| {
        let pixel = |x: u32, y: u32| {
            let tile = (x / side + columns * (y / side)) % 7;
            let texture = if (x + y).is_multiple_of(4) { 12 } else { 0 };
            [(30 * tile + texture) as u8, (200 - 25 * tile) as u8, (tile * tile * 5) as u8, 255]
        };
        let all = (0..rows * side).flat_map(|y| (0..columns * side).map(move |x| (x, y)));
        Picture::new(columns * side, rows * side, all.map(|(x, y)| pixel(x, y)).collect()).unwrap()
    };
    for side in [8, 16, 24, 32] {
        let seen = look(&tiles(side, 5, 3), &LookWishes::default());
        assert_eq!(seen.cutting.grid(), Some(Grid::plain(side, side)), "{side} px");
    }
    // One picture without any structure is one frame.
    let smooth =
        Picture::new(64, 64, (0..64 * 64).map(|i| [(i % 64) as u8, (i / 64) as u8, 7, 255]).collect()).unwrap();
    assert_eq!(look(&smooth, &LookWishes::default()).cutting, Cutting::Whole);
}

#[test]
fn pieces_parted_by_gaps_hold_every_pixel_once_and_end_where_the_art_does() {
    let mut dice = Dice::new(11);
    for round in 0..200 {
        let (width, height) = (dice.whole(1, 60), dice.whole(1, 60));
        let rects: Vec<PixelRect> = (0..dice.below(9))
            .map(|_| {
                let (x, y) = (dice.whole(0, width - 1), dice.whole(0, height - 1));
                PixelRect { x, y, width: dice.whole(1, 12).min(width - x), height: dice.whole(1, 12).min(height - y) }
            })
            .collect();
        let inside =
            |r: &PixelRect, x: u32, y: u32| (r.x..r.x + r.width).contains(&x) && (r.y..r.y + r.height).contains(&y);
        let art = Mask::from_fn(width, height, |x, y| rects.iter().any(|r| inside(r, x, y)));
        let gap = dice.whole(1, 4);
        let cells = cells_by_gaps(&art, gap);
        for y in 0..height {
            for x in 0..width {
                let holders = cells.iter().filter(|cell| inside(cell, x, y)).count();
                let set = art.get(x.into(), y.into());
                assert!(holders <= 1 && (!set || holders == 1), "round {round}: {x}, {y} is in {holders} cells");
            }
        }
        for cell in &cells {
            let any = |xs: std::ops::Range<u32>, ys: std::ops::Range<u32>| {
                ys.into_iter().any(|y| xs.clone().any(|x| art.get(x.into(), y.into())))
            };
            let (right, bottom) = (cell.x + cell.width, cell.y + cell.height);
            assert!(any(cell.x..cell.x + 1, cell.y..bottom) && any(right - 1..right, cell.y..bottom), "round {round}");
            assert!(any(cell.x..right, cell.y..cell.y + 1) && any(cell.x..right, bottom - 1..bottom), "round {round}");
            // No band of `gap` empty rows or columns is left in it.
            let empty_rows = (cell.y..bottom).map(|y| !any(cell.x..right, y..y + 1)).collect::<Vec<_>>();
            let empty_columns = (cell.x..right).map(|x| !any(x..x + 1, cell.y..bottom)).collect::<Vec<_>>();
            for empty in [empty_rows, empty_columns] {
                assert!(!empty.windows(gap as usize).any(|band| band.iter().all(|e| *e)), "round {round}: {cell:?}");
            }
        }
    }
}

#[test]
fn a_pole_or_a_frame_in_the_air_does_not_move_the_pivot() {
    // Standing, standing with a pole to the right, in the air, crouched to the left.
    let cell = (32, 40);
    let frames: Vec<Mask> = (0..4)
        .map(|n| {
            Mask::from_fn(cell.0, cell.1, |x, y| match n {
                1 => figure(x, y, cell, 0, 0, 3) || (x > 20 && y < 20),
                2 => figure(x, y, cell, 0, 1, 7),
                _ => figure(x, y, cell, 0, n, 3),
            })
        })
        .collect();
    let runs: Vec<_> = frames.iter().map(Mask::runs).collect();
    let found = stance(&runs, cell.0).unwrap();
    assert_eq!((found.pivot.x, found.pivot.y, found.centred), (16.0, 37.0, true));
    assert_eq!(found.standing, [true, true, false, true]);
    // Far from the middle of the cell, the feet decide.
    let aside: Vec<_> = (0..3).map(|_| Mask::from_fn(40, 20, |x, y| (4..10).contains(&x) && y >= 5).runs()).collect();
    let found = stance(&aside, 40).unwrap();
    assert_eq!((found.pivot.x, found.pivot.y, found.centred), (7.0, 20.0, false));
    assert_eq!(stance(&[Vec::new(), Vec::new()], 40), None);
}
