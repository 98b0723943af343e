//! Guessing the grid of a tile set from its colours.

use super::guess::{GridEvidence, GridGuess};
use super::{Grid, Picture};

/// Colours must change this many times as much at the borders of filled cells as elsewhere.
const LEAST_CONTRAST: f64 = 1.5;

/// The grid of a sheet whose cells are filled, such as a tile set: square cells of a usual size at whose borders colours
/// change most; `None` when none stands out.
pub fn guess_tiles(picture: &Picture) -> Option<GridGuess> {
    let (width, height) = (picture.width(), picture.height());
    // Colours as far as they are seen: what is transparent is all alike.
    let seen = |p: [u8; 4]| {
        [0, 1, 2, 3].map(|i| if i == 3 { u32::from(p[3]) } else { u32::from(p[i]) * u32::from(p[3]) / 255 })
    };
    let change = |a: [u8; 4], b: [u8; 4]| seen(a).iter().zip(seen(b)).map(|(a, b)| a.abs_diff(b)).sum::<u32>() as f64;
    // Mean change into each column and each row.
    let mut columns = vec![0.0; width as usize];
    let mut rows = vec![0.0; height as usize];
    for y in 0..height {
        let row = picture.row(y);
        for x in 1..row.len() {
            columns[x] += change(row[x - 1], row[x]) / f64::from(height);
        }
        if y > 0 {
            let above = picture.row(y - 1);
            rows[y as usize] += row.iter().zip(above).map(|(a, b)| change(*a, *b)).sum::<f64>() / f64::from(width);
        }
    }
    let mut best: Option<(u32, f64)> = None;
    for side in [8, 16, 24, 32, 48, 64, 96, 128] {
        if width % side != 0 || height % side != 0 || (width == side && height == side) {
            continue;
        }
        let (mut on, mut off) = ((0.0, 0_u32), (0.0, 0_u32));
        for line in [&columns, &rows] {
            for (at, change) in line.iter().enumerate().skip(1) {
                let (sum, count) = if at % side as usize == 0 { &mut on } else { &mut off };
                *sum += change;
                *count += 1;
            }
        }
        let mean = |(sum, count): (f64, u32)| sum / f64::from(count.max(1));
        let contrast = mean(on) / mean(off).max(1e-9);
        // Larger cells on the same lines stand out as much; take them only when clearly better.
        if contrast > LEAST_CONTRAST && best.is_none_or(|(_, known)| contrast > known * 1.15) {
            best = Some((side, contrast));
        }
    }
    let (side, contrast) = best?;
    Some(GridGuess { grid: Grid::plain(side, side), crossed: 1.0, evidence: GridEvidence::Edges(contrast), doubt: 0.0 })
}
