//! The gull: glides, dives, pecks.

use crate::canvas::{Canvas, Material, Raster};

const ANY: [u8; 3] = [0xc8, 0xd8, 0xe8];
const WHITE: Material = Material { light: [255, 255, 255], base: [232, 238, 246], shade: [180, 192, 214], part: ANY };
const GREY: Material = Material { light: [164, 176, 200], base: [124, 138, 168], shade: [88, 98, 132], part: ANY };
const TIP: Material = Material { light: [84, 88, 112], base: [58, 60, 84], shade: [42, 42, 66], part: ANY };
const BILL: Material = Material { light: [255, 206, 96], base: [240, 162, 60], shade: [196, 106, 52], part: ANY };
const EYE: Material = Material { light: [34, 32, 56], base: [34, 32, 56], shade: [34, 32, 56], part: ANY };

/// A gull with its body's middle at `at`, nose down by `pitch` degrees, wing tip `lift` px above the shoulder.
fn flying(at: (f64, f64), pitch: f64, lift: f64, swept: f64) -> Raster {
    let mut canvas = Canvas::new(32, 24);
    let (sin, cos) = pitch.to_radians().sin_cos();
    let place = |x: f64, y: f64| (at.0 + x * cos - y * sin, at.1 + x * sin + y * cos);
    let wing = |canvas: &mut Canvas, side: f64, material: Material| {
        let (root, tip) = (place(-1.0 + side, -1.0), place(-4.5 + side - swept, -1.0 - lift));
        let middle = ((root.0 + tip.0) / 2.0 + 1.6, (root.1 + tip.1) / 2.0 - 0.5);
        canvas.limb(material, root, middle, 2.3, 1.9);
        canvas.limb(material, middle, tip, 1.9, 0.9);
        canvas.limb(TIP, ((middle.0 + tip.0 * 3.0) / 4.0, (middle.1 + tip.1 * 3.0) / 4.0), tip, 1.1, 0.8);
    };
    wing(&mut canvas, 2.6, GREY);
    canvas.polygon(WHITE, &[place(-5.0, -1.4), place(-11.0, -1.8), place(-10.4, 1.6), place(-5.0, 1.4)]);
    canvas.limb(WHITE, place(-4.0, 0.2), place(3.4, 0.0), 2.6, 3.0);
    let head = place(6.6, -1.6);
    canvas.ellipse(WHITE, head, 2.8, 2.6);
    canvas.polygon(BILL, &[place(8.8, -2.4), place(12.6, -0.8), place(8.8, 0.2)]);
    let eye = place(7.4, -2.2);
    canvas.rect(EYE, (eye.0 - 0.6, eye.1 - 0.6), (eye.0 + 0.6, eye.1 + 0.6));
    wing(&mut canvas, 0.0, GREY);
    canvas.finish().0
}

/// A gull on its feet, the head lowered and stretched by `reach` (0 to 1).
fn pecking(reach: f64) -> Raster {
    let mut canvas = Canvas::new(32, 24);
    for x in [14.5, 17.5] {
        canvas.rect(BILL, (x - 0.5, 15.0), (x + 0.6, 20.0));
        canvas.rect(BILL, (x - 0.5, 18.4), (x + 2.6, 19.8));
    }
    canvas.polygon(WHITE, &[(8.0, 10.6), (3.4, 11.6), (3.6, 14.2), (9.0, 14.6)]);
    canvas.limb(WHITE, (11.0, 12.6), (18.0, 12.0), 3.2, 3.8);
    let head = (21.0 + 2.0 * reach, 6.6 + 7.6 * reach);
    canvas.limb(WHITE, (18.6, 11.0), head, 2.8, 2.2);
    canvas.ellipse(WHITE, head, 2.7, 2.6);
    let drop = 2.4 * reach;
    canvas.polygon(
        BILL,
        &[(head.0 + 1.8, head.1 - 0.9), (head.0 + 6.2, head.1 + 0.6 + drop), (head.0 + 1.6, head.1 + 1.7)],
    );
    canvas.rect(EYE, (head.0 + 0.2, head.1 - 1.2), (head.0 + 1.4, head.1));
    canvas.limb(GREY, (17.6, 11.4), (7.6, 12.6), 2.4, 1.5);
    canvas.limb(TIP, (9.0, 12.8), (5.4, 13.2), 1.3, 0.8);
    canvas.finish().0
}

/// Glide 4, dive 2, peck 3 in one row of 32 x 24 cells.
pub(crate) fn sheet() -> Raster {
    let cells = [
        flying((15.0, 13.0), 0.0, 8.0, 1.0),
        flying((15.0, 12.5), 0.0, 4.0, 3.0),
        flying((15.0, 12.0), 0.0, -3.5, 3.0),
        flying((15.0, 12.5), 0.0, 1.5, 4.0),
        flying((15.0, 12.0), 35.0, 5.0, 5.0),
        flying((15.0, 12.0), 42.0, 4.0, 6.0),
        pecking(0.0),
        pecking(0.6),
        pecking(1.0),
    ];
    Raster::sheet(&cells, 9)
}
