//! The lamp keeper: oilskin coat and hat, beard, boots, and a long pole with the lamp on one side.

use crate::canvas::{Canvas, Material, Raster};

const CELL: i32 = 48;
/// Upper edge of the ground line; the boots' outline fills the row above it.
const GROUND: f64 = 46.0;
const SOLE: f64 = GROUND - 1.0;

const HEAD: [u8; 3] = [0xd9, 0xa0, 0x66];
const TORSO: [u8; 3] = [0x4f, 0x6d, 0x7a];
const ARM: [u8; 3] = [0xc0, 0xd6, 0xa5];
const LEGS: [u8; 3] = [0x6b, 0x4f, 0x3a];
const POLE: [u8; 3] = [0xe8, 0xc5, 0x47];

const fn material(light: [u8; 3], base: [u8; 3], shade: [u8; 3], part: [u8; 3]) -> Material {
    Material { light, base, shade, part }
}

const COAT: Material = material([247, 190, 80], [222, 150, 52], [170, 100, 46], TORSO);
const SLEEVE: Material = material([255, 208, 104], [232, 164, 60], [178, 108, 48], ARM);
const HAND: Material = material([246, 206, 168], [226, 170, 130], [180, 118, 96], ARM);
const FACE: Material = material([246, 206, 168], [232, 180, 140], [196, 136, 108], HEAD);
const BEARD: Material = material([232, 236, 240], [198, 206, 220], [146, 156, 182], HEAD);
const HAT: Material = material([255, 208, 104], [228, 156, 56], [168, 98, 46], HEAD);
const TROUSERS: Material = material([92, 112, 150], [66, 84, 124], [46, 58, 96], LEGS);
const FAR_TROUSERS: Material = material([66, 84, 124], [52, 66, 104], [40, 48, 84], LEGS);
const BOOT: Material = material([110, 96, 108], [76, 64, 84], [50, 42, 64], LEGS);
const WOOD: Material = material([192, 142, 96], [150, 102, 68], [104, 68, 52], POLE);
const IRON: Material = material([150, 164, 186], [104, 116, 144], [70, 78, 108], POLE);
const FLAME: Material = material([255, 252, 214], [255, 228, 132], [248, 178, 74], POLE);

type Spot = (f64, f64);

/// Where the joints are on one frame.
#[derive(Clone, Copy)]
struct Pose {
    hip: Spot,
    neck: Spot,
    /// Sole of the foot nearer to us, middle of the heel.
    near_foot: Spot,
    far_foot: Spot,
    hand: Spot,
    /// Angle of the pole from upright, degrees, clockwise; and how much of it is below the hand.
    pole: f64,
    below: f64,
    /// How far the coat's hem swings out behind.
    flare: f64,
}

const STAND: Pose = Pose {
    hip: (23.0, 34.0),
    neck: (23.5, 22.0),
    near_foot: (21.0, SOLE),
    far_foot: (24.5, SOLE),
    hand: (31.5, 28.0),
    pole: 4.0,
    below: 15.0,
    flare: 0.0,
};

const POLE_LENGTH: f64 = 38.0;

fn idle(frame: usize) -> Pose {
    // A slow breath: shoulders sink, the hand with them a frame later.
    let sink = [0.0, 1.0, 1.0, 0.0][frame];
    let late = [0.0, 0.0, 1.0, 1.0][frame];
    Pose {
        neck: (STAND.neck.0, STAND.neck.1 + sink),
        hand: (STAND.hand.0, STAND.hand.1 + late),
        below: STAND.below - late,
        ..STAND
    }
}

fn walk(frame: usize) -> Pose {
    // A foot stands for three frames while the body passes over it, and swings for three.
    const STRIDE: [(f64, f64); 6] = [(6.0, 0.0), (1.0, 0.0), (-4.5, 0.0), (-7.0, 2.0), (-1.0, 5.0), (5.0, 2.0)];
    const BOB: [f64; 3] = [1.0, 0.0, -0.5];
    let foot = |phase: usize, at: f64| (at + STRIDE[phase % 6].0, SOLE - STRIDE[phase % 6].1);
    let bob = BOB[frame % 3];
    Pose {
        hip: (23.0, 33.5 + bob),
        neck: (24.5, 21.5 + bob),
        near_foot: foot(frame, 21.5),
        far_foot: foot(frame + 3, 23.0),
        hand: (32.5 + [0.0, 0.5, 1.0, 0.5, 0.0, -0.5][frame], 27.5 + bob),
        pole: 7.0 + [0.0, 1.0, 2.0, 1.0, 0.0, -1.0][frame],
        below: 14.0,
        flare: [1.5, 1.0, 0.5, 1.5, 1.0, 0.5][frame],
    }
}

fn crouch(frame: usize) -> Pose {
    let down = [1.0, 0.0][frame];
    Pose {
        hip: (20.5, 39.0),
        neck: (26.0, 34.5 - down * 0.5),
        near_foot: (22.0, SOLE),
        far_foot: (17.5, SOLE),
        hand: (31.5, 39.0 - down),
        pole: 84.0,
        below: 26.5,
        flare: 1.0,
    }
}

const RISE: Pose = Pose {
    hip: (22.5, 32.0),
    neck: (24.0, 20.0),
    near_foot: (19.0, 43.0),
    far_foot: (25.5, 40.0),
    hand: (31.0, 24.0),
    pole: 12.0,
    below: 19.0,
    flare: -1.0,
};

const FALL: Pose = Pose {
    hip: (23.0, 33.0),
    neck: (23.0, 21.5),
    near_foot: (18.0, 44.0),
    far_foot: (27.0, 43.0),
    hand: (32.5, 22.0),
    pole: -6.0,
    below: 20.0,
    flare: 3.0,
};

fn swing(frame: usize) -> Pose {
    let stance = |lean: f64| Pose {
        hip: (22.0 + lean * 0.4, 34.5),
        neck: (22.5 + lean, 22.5),
        near_foot: (18.0, SOLE),
        far_foot: (26.5, SOLE),
        ..STAND
    };
    let (lean, hand, pole, below, flare) = [
        (-1.5, (25.0, 27.0), -38.0, 14.0, 0.0),
        (-0.5, (27.5, 25.5), -8.0, 18.0, 0.5),
        (2.0, (30.0, 27.0), 62.0, 23.0, 2.0),
        (2.5, (29.0, 30.0), 94.0, 24.5, 2.5),
        (1.0, (30.0, 29.5), 40.0, 18.5, 1.0),
    ][frame];
    Pose { hand, pole, below, flare, ..stance(lean) }
}

fn leg(canvas: &mut Canvas, cloth: Material, hip: Spot, foot: Spot) {
    // The knee bends forward by what the leg is too long for the way.
    let (dx, dy) = (foot.0 - hip.0, foot.1 - 2.0 - hip.1);
    let spare = (12.0 - (dx * dx + dy * dy).sqrt()).clamp(0.0, 6.0);
    let knee = (hip.0 + dx * 0.5 + spare * 0.7 + 0.5, hip.1 + dy * 0.5);
    let ankle = (foot.0, foot.1 - 3.0);
    canvas.limb(cloth, hip, knee, 2.9, 2.4);
    canvas.limb(cloth, knee, ankle, 2.4, 2.0);
    let (x, y) = foot;
    canvas.polygon(
        BOOT,
        &[(x - 2.6, y - 5.0), (x + 2.4, y - 5.0), (x + 2.6, y - 2.8), (x + 5.0, y - 1.8), (x + 5.0, y), (x - 2.6, y)],
    );
}

fn pole(canvas: &mut Canvas, pose: &Pose) {
    let (sin, cos) = pose.pole.to_radians().sin_cos();
    let along = |distance: f64| (pose.hand.0 + sin * distance, pose.hand.1 - cos * distance);
    let above = POLE_LENGTH - pose.below;
    canvas.limb(WOOD, along(-pose.below), along(above), 1.05, 1.05);
    let head = along(above);
    // The lamp hangs from the pole's end, whatever the pole's angle.
    let lamp = (head.0 + 0.5, head.1 + 3.6);
    canvas.rect(IRON, (lamp.0 - 2.6, lamp.1 - 3.2), (lamp.0 + 2.6, lamp.1 + 3.2));
    canvas.rect(FLAME, (lamp.0 - 1.6, lamp.1 - 1.8), (lamp.0 + 1.6, lamp.1 + 2.0));
    canvas.rect(IRON, (lamp.0 - 1.2, lamp.1 - 4.4), (lamp.0 + 1.2, lamp.1 - 3.0));
}

fn coat(canvas: &mut Canvas, pose: &Pose) {
    let (neck, hip) = (pose.neck, pose.hip);
    let tall = hip.1 - neck.1;
    let hem = hip.1 + if tall > 8.0 { 4.0 } else { 2.5 };
    canvas.polygon(
        COAT,
        &[
            (neck.0 - 4.6, neck.1 + 1.0),
            (neck.0 + 4.4, neck.1 + 1.0),
            (neck.0 + 5.4, neck.1 + 4.0),
            (hip.0 + 5.4, hip.1),
            (hip.0 + 6.4, hem),
            (hip.0 - 6.2 - pose.flare, hem),
            (hip.0 - 5.4, hip.1),
            (neck.0 - 5.6, neck.1 + 4.0),
        ],
    );
    if tall > 8.0 {
        let belt = hip.1 - 2.5;
        canvas.rect(BOOT_BELT, (hip.0 - 4.9, belt - 0.2), (hip.0 + 4.9, belt + 1.6));
    }
}

const BOOT_BELT: Material = material([120, 82, 60], [92, 60, 52], [66, 44, 46], TORSO);

fn head(canvas: &mut Canvas, pose: &Pose) {
    let (x, y) = (pose.neck.0 + 0.6, pose.neck.1 - 4.0);
    canvas.ellipse(FACE, (x + 0.4, y), 4.8, 5.0);
    canvas.polygon(
        BEARD,
        &[(x - 2.0, y + 1.4), (x + 5.4, y + 1.4), (x + 5.2, y + 5.0), (x + 2.6, y + 8.0), (x - 1.4, y + 5.4)],
    );
    // Sou'wester: a dome, and a brim longer behind than ahead.
    canvas.ellipse(HAT, (x, y - 3.0), 5.0, 4.6);
    canvas.polygon(
        HAT,
        &[
            (x - 8.0, y + 1.6),
            (x - 7.6, y - 0.2),
            (x - 4.0, y - 2.4),
            (x + 5.0, y - 2.6),
            (x + 7.6, y - 1.0),
            (x + 7.0, y - 0.2),
            (x - 3.6, y - 0.4),
        ],
    );
    canvas.rect(EYE, (x + 2.9, y - 0.2), (x + 4.1, y + 1.2));
}

const EYE: Material = material(OUT, OUT, OUT, HEAD);
const OUT: [u8; 3] = [40, 36, 60];

fn draw(pose: &Pose) -> (Raster, Raster) {
    let mut canvas = Canvas::new(CELL, CELL);
    let shoulder = (pose.neck.0 + 0.5, pose.neck.1 + 4.0);
    leg(&mut canvas, FAR_TROUSERS, (pose.hip.0 + 1.6, pose.hip.1), pose.far_foot);
    leg(&mut canvas, TROUSERS, (pose.hip.0 - 1.6, pose.hip.1), pose.near_foot);
    coat(&mut canvas, pose);
    head(&mut canvas, pose);
    pole(&mut canvas, pose);
    let elbow = ((shoulder.0 + pose.hand.0) / 2.0 - 0.5, (shoulder.1 + pose.hand.1) / 2.0 + 2.2);
    canvas.limb(SLEEVE, shoulder, elbow, 2.7, 2.3);
    canvas.limb(SLEEVE, elbow, pose.hand, 2.3, 2.1);
    canvas.ellipse(HAND, pose.hand, 2.1, 2.1);
    canvas.finish()
}

/// The sheet and its part map: idle 4, walk 6, crouch 2, rise, fall, swing 5, ten cells to a row.
pub(crate) fn sheets() -> (Raster, Raster) {
    let mut poses: Vec<Pose> = (0..4).map(idle).collect();
    poses.extend((0..6).map(walk));
    poses.extend((0..2).map(crouch));
    poses.extend([RISE, FALL]);
    poses.extend((0..5).map(swing));
    let (art, parts): (Vec<Raster>, Vec<Raster>) = poses.iter().map(draw).unzip();
    (Raster::sheet(&art, 10), Raster::sheet(&parts, 10))
}
