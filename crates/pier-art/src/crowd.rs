//! A crowd of harbour folk of random build, for measurements that need many figures: ropes, hooks, hats, hair in the wind,
//! bundles, oars, life rings and torn hems, each drawn at any size and finished as a game's art is: two tones of outline, dithering,
//! and by chance soft edges, a lamp's glow and sparks. At 80 px some 210 corners of boundary a figure, about as many as art of finished
//! games has on cells of that size.

use crate::canvas::{Canvas, Material, Raster};
use crate::dice::Dice;

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

/// Number `number` of the crowd on a cell of `side` x `side` px.
pub fn figure(number: u64, side: u32) -> Raster {
    let mut dice = Dice(number.wrapping_mul(0x51ed_2701) ^ 0x00c0_ffee);
    let mut canvas = Canvas::new(side as i32, side as i32);
    // Drawn in cells of 64, scaled until they fill theirs: thin things get no thinner than a pixel.
    const WIDER: f64 = 1.25;
    const TALLER: f64 = 1.06;
    let scale = f64::from(side) / 64.0;
    let at = |x: f64, y: f64| ((32.0 + (x - 32.0) * WIDER) * scale, (63.0 + (y - 63.0) * TALLER) * scale);
    let thick = |r: f64| (r * TALLER * scale).max(0.55);
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
    // A belt of rope whose end flies, by chance.
    if dice.below(2) == 1 {
        let end = (hip.0 + dice.between(-20.0, 20.0), hip.1 + dice.between(-12.0, 10.0));
        canvas.limb(CLOTHS[3], at(hip.0, hip.1 - 2.0), at(end.0, end.1), thick(1.4), thick(0.6));
        canvas.ellipse(CLOTHS[3], at(end.0, end.1), dice.between(1.0, 2.4) * scale, dice.between(1.0, 2.4) * scale);
    }
    // A torn hem.
    let teeth = dice.below(2) * dice.below(6);
    for tooth in 0..teeth {
        let x = hip.0 + build * (2.0 * (tooth as f64 + 0.5) / teeth as f64 - 1.0) * 1.2;
        let tip = (x + dice.between(-1.5, 1.5), hip.1 + dice.between(4.0, 10.0));
        canvas.limb(coat, at(x, hip.1), at(tip.0, tip.1), thick(build / teeth as f64), thick(0.5));
    }
    let head = (neck.0 + dice.between(-3.0, 3.0), neck.1 - dice.between(6.0, 9.0));
    for strand in 0..dice.below(4) {
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
        // What the hand holds: an oar, a hook, a bundle, a life ring or nothing.
        let angle = dice.between(-1.4, 1.4);
        let reach = dice.between(8.0, 22.0);
        let end = (hand.0 + angle.sin() * reach, hand.1 - angle.cos() * reach);
        match dice.below(5) {
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
            3 => {
                let (middle, outer) = ((hand.0 + way * 5.0, hand.1 + 3.0), dice.between(5.0, 7.0));
                let (cx, cy) = at(middle.0, middle.1);
                let inner = outer * dice.between(0.45, 0.6) * scale;
                canvas.fill(CLOTHS[2], |x, y| {
                    let away = (x - cx).hypot(y - cy);
                    away <= outer * scale && away > inner
                });
            }
            _ => {}
        }
    }
    let lamp = at(hip.0 + dice.between(-14.0, 14.0), neck.1 + dice.between(-6.0, 12.0));
    let mut art = canvas.finish().0.with_lit_outline().dithered(&mut dice);
    if dice.below(4) != 0 {
        art = art.with_soft_edges(&mut dice);
    }
    let sparks = if dice.below(4) == 0 { 1 + dice.below(4) } else { 0 };
    art = art.with_sparks(&mut dice, sparks);
    if dice.below(5) == 0 { art.with_glow(lamp, dice.between(7.0, 12.0) * scale) } else { art }
}
