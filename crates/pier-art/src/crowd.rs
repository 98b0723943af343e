//! A crowd of harbour folk of random build, for measurements that need many figures: ropes, hooks, hats, hair in the wind,
//! bundles and oars, each drawn at any size.

use crate::canvas::{Canvas, Material, Raster};

const fn cloth(light: [u8; 3], base: [u8; 3], shade: [u8; 3]) -> Material {
    Material { light, base, shade, part: [0; 3] }
}

const CLOTHS: [Material; 5] = [
    cloth([92, 112, 150], [66, 84, 124], [46, 58, 96]),
    cloth([247, 190, 80], [222, 150, 52], [170, 100, 46]),
    cloth([246, 206, 168], [226, 170, 130], [180, 118, 96]),
    cloth([192, 142, 96], [150, 102, 68], [104, 68, 52]),
    cloth([150, 164, 186], [104, 116, 144], [70, 78, 108]),
];

/// Numbers by chance, the same for a seed (splitmix64; Steele, Lea and Flood 2014).
struct Dice(u64);

impl Dice {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * (self.next() >> 11) as f64 / (1_u64 << 53) as f64
    }

    fn below(&mut self, limit: u64) -> u64 {
        self.next() % limit
    }
}

/// Number `number` of the crowd on a cell of `side` x `side` px.
pub fn figure(number: u64, side: u32) -> Raster {
    let mut dice = Dice(number.wrapping_mul(0x51ed_2701) ^ 0x00c0_ffee);
    let mut canvas = Canvas::new(side as i32, side as i32);
    // Drawn in cells of 64, scaled: thin things get no thinner than a pixel.
    let scale = f64::from(side) / 64.0;
    let at = |x: f64, y: f64| (x * scale, y * scale);
    let thick = |r: f64| (r * scale).max(0.55);
    let cloth = |dice: &mut Dice| CLOTHS[dice.below(CLOTHS.len() as u64) as usize];
    let hip = (dice.between(28.0, 36.0), dice.between(36.0, 42.0));
    let neck = (hip.0 + dice.between(-5.0, 5.0), hip.1 - dice.between(12.0, 18.0));
    let build = dice.between(3.5, 8.0);
    // Legs, coat, arms, head.
    for way in [-1.0, 1.0] {
        let knee = (hip.0 + way * dice.between(1.0, 8.0), dice.between(46.0, 52.0));
        let foot = (knee.0 + dice.between(-5.0, 5.0), dice.between(56.0, 62.0));
        let material = cloth(&mut dice);
        canvas.limb(
            material,
            at(hip.0 + way * 2.0, hip.1),
            at(knee.0, knee.1),
            thick(build * 0.6),
            thick(build * 0.45),
        );
        canvas.limb(material, at(knee.0, knee.1), at(foot.0, foot.1), thick(build * 0.45), thick(1.6));
        canvas.limb(material, at(foot.0 - 1.5, foot.1), at(foot.0 + 4.0, foot.1), thick(1.8), thick(1.2));
    }
    let coat = cloth(&mut dice);
    canvas.limb(coat, at(neck.0, neck.1), at(hip.0, hip.1), thick(build), thick(build * dice.between(0.7, 1.2)));
    let head = (neck.0 + dice.between(-3.0, 3.0), neck.1 - dice.between(6.0, 9.0));
    for strand in 0..dice.below(6) {
        let angle = dice.between(2.2, 4.6);
        let length = dice.between(6.0, 15.0);
        let tip = (head.0 + angle.cos() * length, head.1 + strand as f64 - angle.sin().abs() * length * 0.4);
        canvas.limb(CLOTHS[3], at(head.0, head.1), at(tip.0, tip.1), thick(2.2), thick(0.5));
    }
    canvas.ellipse(
        cloth(&mut dice),
        at(head.0, head.1),
        dice.between(4.0, 6.5) * scale,
        dice.between(4.5, 7.0) * scale,
    );
    if dice.below(2) == 0 {
        let brim = dice.between(6.0, 10.0);
        let top = head.1 - dice.between(4.0, 10.0);
        let corners = [(-brim, -2.0), (brim, -3.0), (brim * 0.4, top - head.1), (-brim * 0.5, top - head.1 + 1.0)];
        let corners = corners.map(|(x, y)| at(head.0 + x, head.1 + y));
        canvas.polygon(CLOTHS[1], &corners);
    }
    for way in [-1.0, 1.0] {
        let elbow = (neck.0 + way * dice.between(5.0, 11.0), neck.1 + dice.between(2.0, 10.0));
        let hand = (elbow.0 + dice.between(-4.0, 9.0), elbow.1 + dice.between(-9.0, 8.0));
        let material = cloth(&mut dice);
        canvas.limb(material, at(neck.0 + way * 3.0, neck.1 + 2.0), at(elbow.0, elbow.1), thick(3.0), thick(2.2));
        canvas.limb(material, at(elbow.0, elbow.1), at(hand.0, hand.1), thick(2.2), thick(1.8));
        // What the hand holds: an oar, a hook, a bundle or nothing.
        let angle = dice.between(-1.4, 1.4);
        let reach = dice.between(8.0, 22.0);
        let end = (hand.0 + angle.sin() * reach, hand.1 - angle.cos() * reach);
        match dice.below(4) {
            0 => {
                canvas.limb(
                    CLOTHS[3],
                    at(hand.0 * 2.0 - end.0, hand.1 * 2.0 - end.1),
                    at(end.0, end.1),
                    thick(0.7),
                    thick(0.7),
                );
                canvas.ellipse(CLOTHS[3], at(end.0, end.1), 2.5 * scale, 4.0 * scale);
            }
            1 => canvas.limb(CLOTHS[4], at(hand.0, hand.1), at(end.0, end.1), thick(1.6), thick(0.2)),
            2 => canvas.ellipse(CLOTHS[2], at(hand.0, hand.1), 4.5 * scale, 3.5 * scale),
            _ => {}
        }
    }
    canvas.finish().0
}
