//! The barrel.

use crate::canvas::{Canvas, Material, Raster};

const ANY: [u8; 3] = [0x96, 0x66, 0x44];
const STAVE: Material = Material { light: [206, 150, 98], base: [166, 112, 72], shade: [116, 74, 56], part: ANY };
const GAP: Material = Material { light: [116, 74, 56], base: [116, 74, 56], shade: [96, 60, 52], part: ANY };
const HOOP: Material = Material { light: [160, 172, 192], base: [112, 124, 150], shade: [76, 84, 112], part: ANY };

/// Half the barrel's width at a height above its foot, px.
fn half(y: f64) -> f64 {
    8.0 + 2.0 * (1.0 - ((y - 14.0) / 11.0).powi(2))
}

/// One cell of 24 x 28.
pub(crate) fn sheet() -> Raster {
    let mut canvas = Canvas::new(24, 28);
    canvas.fill(STAVE, |x, y| y > 3.0 && y < 26.0 && (x - 12.0).abs() < half(y));
    for share in [-0.45, 0.05, 0.5] {
        canvas.fill(GAP, |x, y| y > 4.0 && y < 25.0 && (x - 12.0 - share * half(y)).abs() < 0.5);
    }
    for top in [6.0, 20.0] {
        canvas.fill(HOOP, |x, y| y > top && y < top + 3.0 && (x - 12.0).abs() < half(y));
    }
    canvas.finish().0
}
