//! A small tile set for the quay: stone, planks, slopes, piles.

use crate::canvas::Raster;

const SIZE: u32 = 16;
const MORTAR: [u8; 3] = [52, 56, 82];
const STONES: [[u8; 3]; 3] = [[124, 132, 152], [104, 112, 136], [88, 96, 122]];
const LIT: [u8; 3] = [164, 172, 186];
const PLANK: [u8; 3] = [158, 112, 76];
const PLANK_SHADE: [u8; 3] = [112, 76, 60];
const PLANK_LIT: [u8; 3] = [196, 148, 104];

fn tile(colour: impl Fn(u32, u32) -> Option<[u8; 3]>) -> Raster {
    let mut raster = Raster::new(SIZE, SIZE);
    for y in 0..SIZE {
        for x in 0..SIZE {
            if let Some([r, g, b]) = colour(x, y) {
                raster.pixels[(y * SIZE + x) as usize] = [r, g, b, 255];
            }
        }
    }
    raster
}

/// Courses of stone, each row set off by half a block; `seed` varies the tones.
fn stone(x: u32, y: u32, seed: u32) -> [u8; 3] {
    let course = y / 8;
    let shifted = x + course * 4 + seed * 8;
    if y % 8 == 7 || shifted % 8 == 7 {
        MORTAR
    } else if y.is_multiple_of(8) {
        LIT
    } else {
        STONES[((shifted / 8 + course * 2 + seed) % 3) as usize]
    }
}

fn plank(x: u32, y: u32) -> [u8; 3] {
    match (x % 8, y) {
        (_, 0) => PLANK_LIT,
        (7, _) => PLANK_SHADE,
        (_, 3..) => PLANK_SHADE,
        _ => PLANK,
    }
}

/// Stone twice, quay edge, two slopes of one in two and their full one in one, planks, pile; eight tiles.
pub(crate) fn sheet() -> Raster {
    let slope = |height: fn(u32) -> u32| {
        tile(move |x, y| {
            let top = SIZE - height(x).min(SIZE);
            (y >= top).then(|| if y == top { LIT } else { stone(x, y, 0) })
        })
    };
    let cells = [
        tile(|x, y| Some(stone(x, y, 0))),
        tile(|x, y| Some(stone(x, y, 1))),
        tile(|x, y| Some(if y < 4 { plank(x, y) } else { stone(x, y, 2) })),
        slope(|x| x / 2 + 1),
        slope(|x| x / 2 + 9),
        slope(|x| x + 1),
        tile(|x, y| (y < 8).then(|| plank(x, y))),
        tile(|x, y| {
            (5..11).contains(&x).then_some(match x {
                5 => PLANK_LIT,
                9.. => PLANK_SHADE,
                _ if y % 5 == 4 => PLANK_SHADE,
                _ => PLANK,
            })
        }),
    ];
    Raster::sheet(&cells, 8)
}
