//! The figure of a new project, drawn here: a dock hand of 24 x 32 px who stands and walks.

use finitor_core::art::Picture;

/// Size of a cell, px.
pub(super) const CELL: (u32, u32) = (24, 32);
/// Cells of standing, in the first row, and of walking, in the second.
pub(super) const FRAMES: [u32; 2] = [2, 4];

const OUTLINE: [u8; 4] = [0x2b, 0x2d, 0x42, 255];
const CAP: [u8; 4] = [0xc4, 0x4d, 0x3f, 255];
const SKIN: [u8; 4] = [0xe8, 0xb7, 0x8a, 255];
const COAT: [u8; 4] = [0x3f, 0x6f, 0x8f, 255];
const COAT_SHADE: [u8; 4] = [0x2f, 0x54, 0x70, 255];
const TROUSERS: [u8; 4] = [0x5c, 0x50, 0x47, 255];
const BOOTS: [u8; 4] = [0x38, 0x30, 0x2c, 255];

/// One frame under the brush.
struct Brush {
    pixels: Vec<[u8; 4]>,
}

impl Brush {
    fn bar(&mut self, colour: [u8; 4], (x, y): (i32, i32), (width, height): (i32, i32)) {
        for row in y..y + height {
            for column in x..x + width {
                let inside = (0..CELL.0 as i32).contains(&column) && (0..CELL.1 as i32).contains(&row);
                if inside {
                    self.pixels[(row * CELL.0 as i32 + column) as usize] = colour;
                }
            }
        }
    }

    /// Dark pixels all around what is drawn.
    fn outline(&mut self) {
        let drawn = self.pixels.clone();
        let (width, height) = (CELL.0 as i32, CELL.1 as i32);
        let set = |x: i32, y: i32| {
            (0..width).contains(&x) && (0..height).contains(&y) && drawn[(y * width + x) as usize][3] > 0
        };
        for y in 0..height {
            for x in 0..width {
                let beside = set(x - 1, y) || set(x + 1, y) || set(x, y - 1) || set(x, y + 1);
                if !set(x, y) && beside {
                    self.pixels[(y * width + x) as usize] = OUTLINE;
                }
            }
        }
    }
}

/// A frame: how far the feet are apart, how much the upper body is raised.
fn frame(stride: i32, lift: i32) -> Brush {
    let mut brush = Brush { pixels: vec![[0; 4]; (CELL.0 * CELL.1) as usize] };
    let top = 5 - lift;
    // The far leg, the near leg; the boots stand on the last row but one, where the outline ends them.
    for (x, colour) in [(10 - stride, COAT_SHADE), (12 + stride, TROUSERS)] {
        brush.bar(colour, (x, top + 16), (3, 27 - top - 16));
        brush.bar(BOOTS, (x, 27), (4, 3));
    }
    brush.bar(COAT, (8, top + 8), (8, 10));
    brush.bar(COAT_SHADE, (8, top + 8), (2, 10));
    brush.bar(COAT_SHADE, (11 - stride, top + 9), (3, 7));
    brush.bar(SKIN, (11 - stride, top + 15), (3, 2));
    brush.bar(SKIN, (9, top + 2), (7, 6));
    brush.bar(CAP, (8, top), (8, 3));
    brush.bar(CAP, (15, top + 2), (3, 1));
    brush.bar(OUTLINE, (14, top + 4), (1, 2));
    brush.outline();
    brush
}

/// The sheet: two frames of standing above four of walking.
pub(super) fn sheet() -> Option<Picture> {
    let rows = [vec![frame(0, 0), frame(0, 1)], vec![frame(3, 0), frame(1, 1), frame(-2, 0), frame(1, 1)]];
    let (width, height) = (CELL.0 * FRAMES[1], CELL.1 * 2);
    let mut pixels = vec![[0; 4]; (width * height) as usize];
    for (row, frames) in rows.iter().enumerate() {
        for (column, brush) in frames.iter().enumerate() {
            for (index, pixel) in brush.pixels.iter().enumerate() {
                let x = column * CELL.0 as usize + index % CELL.0 as usize;
                let y = row * CELL.1 as usize + index / CELL.0 as usize;
                pixels[y * width as usize + x] = *pixel;
            }
        }
    }
    Picture::new(width, height, pixels)
}
