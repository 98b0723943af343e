//! Twelve sorts of figures, drawn by rules: some walk, some float in pieces, some glow.

use super::dice::Dice;

/// The sorts, by name.
pub const SORTS: [&str; 12] =
    ["walker", "fencer", "flyer", "blob", "hound", "worm", "floater", "burst", "flame", "wheel", "cart", "icon"];

/// One frame of a figure.
#[derive(Clone, Debug)]
pub struct Frame {
    pub size: (u32, u32),
    pub alpha: Vec<u8>,
}

impl Frame {
    fn new(size: (u32, u32)) -> Frame {
        Frame { size, alpha: vec![0; (size.0 * size.1) as usize] }
    }

    /// Sets what is inside; `inside` is asked at the pixels' middles.
    fn paint(&mut self, alpha: u8, inside: impl Fn(f64, f64) -> bool) {
        for y in 0..self.size.1 {
            for x in 0..self.size.0 {
                if inside(f64::from(x) + 0.5, f64::from(y) + 0.5) {
                    let at = (y * self.size.0 + x) as usize;
                    self.alpha[at] = self.alpha[at].max(alpha);
                }
            }
        }
    }

    fn disc(&mut self, at: (f64, f64), r: f64) {
        self.paint(255, |x, y| (x - at.0).powi(2) + (y - at.1).powi(2) <= r * r);
    }

    fn oval(&mut self, at: (f64, f64), r: (f64, f64)) {
        self.paint(255, |x, y| ((x - at.0) / r.0).powi(2) + ((y - at.1) / r.1).powi(2) <= 1.0);
    }

    fn limb(&mut self, from: (f64, f64), to: (f64, f64), r: f64) {
        let way = (to.0 - from.0, to.1 - from.1);
        let length = (way.0 * way.0 + way.1 * way.1).max(1e-9);
        self.paint(255, |x, y| {
            let t = (((x - from.0) * way.0 + (y - from.1) * way.1) / length).clamp(0.0, 1.0);
            (x - from.0 - t * way.0).powi(2) + (y - from.1 - t * way.1).powi(2) <= r * r
        });
    }

    pub fn is_empty(&self) -> bool {
        self.alpha.iter().all(|alpha| *alpha == 0)
    }

    /// What is at a pixel.
    pub fn at(&self, x: u32, y: u32) -> u8 {
        self.alpha[(y * self.size.0 + x) as usize]
    }
}

/// A figure's build, and where it is in its cell.
#[derive(Clone, Copy, Debug)]
pub struct Build {
    pub sort: usize,
    pub cell: (u32, u32),
    /// Its height, and about its width, px.
    pub size: f64,
    /// Its feet, cell px.
    pub foot: (f64, f64),
    thick: f64,
}

impl Build {
    /// One that fills a share of the cell.
    pub fn new(dice: &mut Dice, sort: usize, cell: (u32, u32), share: f64) -> Build {
        let size = f64::from(cell.0.min(cell.1)) * share;
        let room = f64::from(cell.1) - size;
        let low = if dice.below(2) == 0 { 0.0 } else { room * 0.5 * dice.between(0.0, 1.0) };
        let foot = (f64::from(cell.0) / 2.0, (f64::from(cell.1) - low).round());
        Build { sort, cell, size, foot, thick: 0.8 + 0.5 * dice.between(0.0, 1.0) }
    }
}

/// What a row of frames shows.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Motion {
    Idle,
    Walk,
    Jump,
    Strike,
    Fall,
}

/// A frame of a motion, `t` from 0 to 1 through it.
pub fn draw(build: &Build, motion: Motion, t: f64, dice: &mut Dice) -> Frame {
    let mut frame = Frame::new(build.cell);
    let wave = (t * std::f64::consts::TAU).sin();
    let Build { size: s, .. } = *build;
    let bob = match motion {
        Motion::Idle => (0.03 * s * wave).round(),
        Motion::Jump => {
            let room = (build.foot.1 - s).max(0.0);
            0.0 - (room.min(0.4 * s) * (t * std::f64::consts::PI).sin()).round()
        }
        _ => 0.0,
    };
    let (fx, fy) = (build.foot.0, build.foot.1 + bob.min(0.0));
    let stride = if motion == Motion::Walk { 0.14 * s * wave } else { 0.04 * s };
    let r = build.thick;
    let lies = motion == Motion::Fall && t > 0.6;
    match SORTS[build.sort] {
        "walker" | "fencer" => {
            let tall = if lies { 0.35 * s } else { s };
            let wide = if lies { 0.42 } else { 0.13 };
            frame.disc((fx + if lies { 0.3 * s } else { 0.0 }, fy - tall + 0.13 * s), 0.12 * s * r.min(1.0));
            frame.oval((fx, fy - 0.55 * tall), (wide * s * r, 0.28 * tall));
            if !lies {
                frame.limb((fx, fy - 0.4 * s), (fx - stride, fy - 0.06 * s), 0.06 * s * r);
                frame.limb((fx, fy - 0.4 * s), (fx + stride, fy - 0.06 * s), 0.06 * s * r);
                frame.limb((fx, fy - 0.65 * s), (fx + 0.2 * s, fy - 0.5 * s - stride), 0.05 * s);
            }
            if SORTS[build.sort] == "fencer" && !lies {
                let turn = if motion == Motion::Strike { 1.2 - 2.0 * t } else { 0.9 + 0.1 * wave };
                let hand = (fx + 0.2 * s, fy - 0.5 * s);
                let reach = 0.32 * s;
                frame.limb(hand, (hand.0 + reach * turn.cos(), hand.1 - reach * turn.sin()), 0.6);
            }
        }
        "flyer" => {
            let up = fy - 0.5 * s + 0.05 * s * wave;
            frame.oval((fx, up), (0.2 * s * r.min(1.1), 0.12 * s));
            let flap = if lies { 0.3 } else { wave };
            frame.limb((fx, up), (fx - 0.3 * s, up - 0.28 * s * flap), 0.06 * s);
            frame.limb((fx, up), (fx + 0.1 * s, up - 0.3 * s * flap), 0.05 * s);
        }
        "blob" => {
            let squash = if lies { 0.5 } else { 1.0 + 0.2 * wave };
            frame.oval((fx, fy - 0.25 * s * squash), (0.4 * s / squash.max(0.85), 0.25 * s * squash));
        }
        "hound" => {
            let high = if lies { 0.2 * s } else { 0.4 * s };
            frame.limb((fx - 0.25 * s, fy - high), (fx + 0.2 * s, fy - high), 0.13 * s * r);
            frame.disc((fx + 0.33 * s, fy - high - 0.12 * s), 0.11 * s);
            frame.limb((fx - 0.3 * s, fy - high), (fx - 0.42 * s, fy - high - 0.15 * s + 0.05 * s * wave), 0.04 * s);
            if !lies {
                for (leg, sign) in [(-0.25, 1.0), (-0.15, -1.0), (0.12, 1.0), (0.22, -1.0)] {
                    frame.limb((fx + leg * s, fy - high), (fx + leg * s + sign * stride, fy - 0.04 * s), 0.05 * s);
                }
            }
        }
        "worm" => {
            for ring in 0..6 {
                let along = f64::from(ring) / 5.0 - 0.5;
                let rise = if lies { 0.0 } else { 0.06 * s * (t * std::f64::consts::TAU + along * 9.0).sin().max(0.0) };
                frame.disc((fx + along * 0.7 * s, fy - 0.1 * s - rise), 0.1 * s);
            }
        }
        "floater" => {
            // Nothing holds its parts together.
            frame.disc((fx, fy - 0.78 * s), 0.16 * s);
            frame.oval((fx, fy - 0.42 * s + bob * 0.5), (0.15 * s, 0.13 * s));
            let reach = if motion == Motion::Strike { 0.1 * s * t } else { 0.04 * s * wave };
            frame.disc((fx - 0.3 * s, fy - 0.42 * s + reach), 0.08 * s);
            frame.disc((fx + 0.3 * s + reach, fy - 0.42 * s), 0.08 * s);
            frame.oval((fx - 0.12 * s - stride, fy - 0.07 * s), (0.1 * s, 0.06 * s));
            frame.oval((fx + 0.12 * s + stride, fy - 0.07 * s), (0.1 * s, 0.06 * s));
        }
        "burst" => {
            let (cx, cy, count) = (fx, fy - 0.5 * s, 9);
            frame.disc((cx, cy), 0.25 * s * (1.0 - t) + 0.5);
            for spark in 0..count {
                let way = f64::from(spark) / f64::from(count) * std::f64::consts::TAU + 0.3;
                let out = (0.1 + 0.3 * t) * s;
                frame.disc((cx + out * way.cos(), cy + out * way.sin()), 0.09 * s * (1.1 - t));
            }
        }
        "flame" => {
            let (cx, cy) = (fx, fy - 0.4 * s);
            let lean = 0.08 * s * wave;
            frame.paint(60, |x, y| {
                ((x - cx - lean * (fy - y) / s) / (0.32 * s)).powi(2) + ((y - cy) / (0.4 * s)).powi(2) <= 1.0
            });
            frame.paint(255, |x, y| ((x - cx) / (0.2 * s)).powi(2) + ((y - cy - 0.1 * s) / (0.28 * s)).powi(2) <= 1.0);
            frame.disc((cx + 2.0 * lean, fy - 0.9 * s + 0.05 * s * wave), 0.05 * s);
        }
        "wheel" => {
            let (c, round) = ((fx, fy - 0.45 * s), 0.45 * s);
            let turn = t * std::f64::consts::FRAC_PI_2;
            frame.paint(255, |x, y| {
                let (dx, dy) = (x - c.0, y - c.1);
                let far = (dx * dx + dy * dy).sqrt();
                let spoke = (dx * turn.cos() + dy * turn.sin()).abs().min((dy * turn.cos() - dx * turn.sin()).abs());
                far <= round && (far >= 0.75 * round || spoke < 0.08 * s || far < 0.2 * round)
            });
        }
        "cart" => {
            frame.paint(255, |x, y| (x - fx).abs() < 0.47 * s && (fy - 0.4 * s..fy - 0.12 * s).contains(&y));
            frame.disc((fx - 0.28 * s, fy - 0.12 * s), 0.12 * s);
            frame.disc((fx + 0.28 * s, fy - 0.12 * s), 0.12 * s);
            frame.oval((fx, fy - 0.45 * s), (0.2 * s, 0.15 * s));
            let turn: f64 = if motion == Motion::Strike { 0.3 + t } else { 0.4 };
            let tip = (fx + 0.36 * s * turn.cos(), fy - 0.5 * s - 0.3 * s * turn.sin());
            frame.limb((fx, fy - 0.5 * s), tip, 0.04 * s);
        }
        _ => {
            // Every frame is another thing.
            let (cx, cy) = (fx, fy - 0.5 * s);
            for _ in 0..dice.whole(2, 4) {
                let at = (cx + (dice.between(0.0, 1.0) - 0.5) * 0.3 * s, cy + (dice.between(0.0, 1.0) - 0.5) * 0.3 * s);
                frame.oval(at, ((0.12 + 0.2 * dice.between(0.0, 1.0)) * s, (0.12 + 0.2 * dice.between(0.0, 1.0)) * s));
            }
        }
    }
    frame
}
