//! What several oracles need: random masks and convex pieces, and areas reckoned in another way than the crate's.
#![allow(dead_code, unreachable_pub, clippy::type_complexity, reason = "each test file uses a part")]

#[path = "../dice/mod.rs"]
#[allow(clippy::duplicate_mod, reason = "the small world brings it too, and a test may want both")]
mod dice;

use dice::Dice;
use finitor_core::art::Mask;
use finitor_core::geometry::{Convex, convex_hull, ring_area};
use finitor_core::{Point, Polygon};
use proptest::prelude::*;
use proptest::test_runner::RngSeed;

/// Random cases, the same on every run. To try others: `PROPTEST_RNG_SEED=7 PROPTEST_CASES=20000 cargo test`.
pub fn cases(count: u32) -> ProptestConfig {
    let mut config = ProptestConfig { failure_persistence: None, ..ProptestConfig::default() };
    if config.rng_seed == RngSeed::Random {
        config.rng_seed = RngSeed::Fixed(20_260_101);
    }
    if std::env::var_os("PROPTEST_CASES").is_none() {
        config.cases = count;
    }
    config
}

/// Masks of all sorts: noise, blobs, lines, combs, checkerboards, rings, single pixels, full cells.
pub fn masks(most: u32) -> impl Strategy<Value = Mask> {
    let size = (1..=most, 1..=most);
    (size, 0..9_u8, any::<u64>()).prop_map(|((width, height), sort, seed)| mask(width, height, sort, seed))
}

fn mask(width: u32, height: u32, sort: u8, seed: u64) -> Mask {
    let mut dice = Dice::new(seed);
    let discs: Vec<(f64, f64, f64)> = (0..4)
        .map(|_| {
            (
                f64::from(dice.whole(0, width - 1)),
                f64::from(dice.whole(0, height - 1)),
                f64::from(dice.whole(1, width.max(3) / 3)),
            )
        })
        .collect();
    let (a, b) = (dice.whole(1, 3), dice.whole(1, 4));
    let mut noise = Dice::new(seed ^ 0x9e37_79b9);
    Mask::from_fn(width, height, |x, y| {
        let (fx, fy) = (f64::from(x) + 0.5, f64::from(y) + 0.5);
        let within = |&(cx, cy, r): &(f64, f64, f64)| (fx - cx).hypot(fy - cy) <= r;
        let chance = noise.below(100);
        match sort {
            0 => chance < 50,
            1 => chance < 80,
            2 => discs.iter().any(within),
            3 => discs.iter().any(within) ^ (chance < 6),
            4 => (y + x / a).is_multiple_of(b + 1),
            5 => y == 0 || x.is_multiple_of(b + 1),
            6 => (x + y).is_multiple_of(2),
            7 => discs.iter().any(|&(cx, cy, r)| ((fx - cx).hypot(fy - cy) - r).abs() < 1.2),
            _ => a == 1 || (x, y) == (width / 2, height / 2),
        }
    })
}

/// Convex pieces round a place, some of them slivers.
pub fn convexes() -> impl Strategy<Value = Convex> {
    let spread = prop_oneof![Just(1.0), Just(8.0), Just(40.0)];
    (proptest::collection::vec((-50..50_i32, -50..50_i32), 3..9), spread).prop_filter_map(
        "no area",
        |(points, tall)| {
            let points: Vec<Point> =
                points.iter().map(|&(x, y)| Point::new(f64::from(x) / 2.0, f64::from(y) * tall / 50.0)).collect();
            Convex::new(&Polygon::new(convex_hull(&points)).ok()?)
        },
    )
}

/// The area a polygon shares with the pixel (x, y), by clipping against its four sides one after another.
pub fn pixel_area(polygon: &Polygon, x: u32, y: u32) -> f64 {
    let (x, y) = (f64::from(x), f64::from(y));
    let mut ring = polygon.points().to_vec();
    let sides: [(fn(Point) -> f64, f64, f64); 4] =
        [(|p| p.x, x, 1.0), (|p| p.x, x + 1.0, -1.0), (|p| p.y, y, 1.0), (|p| p.y, y + 1.0, -1.0)];
    for (coordinate, limit, sign) in sides {
        let depth = |p: Point| (coordinate(p) - limit) * sign;
        let mut kept = Vec::new();
        for (i, &from) in ring.iter().enumerate() {
            let to = ring[(i + 1) % ring.len()];
            if depth(from) >= 0.0 {
                kept.push(from);
            }
            if (depth(from) > 0.0) != (depth(to) > 0.0) && depth(from) != depth(to) {
                kept.push(from.lerp(to, depth(from) / (depth(from) - depth(to))));
            }
        }
        ring = kept;
    }
    ring_area(&ring)
}

/// The area that polygons share with a mask, pixel by pixel.
pub fn shared_area(polygons: &[Polygon], mask: &Mask) -> f64 {
    let pixels = (0..mask.height()).flat_map(|y| (0..mask.width()).map(move |x| (x, y)));
    let set = pixels.filter(|&(x, y)| mask.get(x.into(), y.into()));
    set.map(|(x, y)| polygons.iter().map(|polygon| pixel_area(polygon, x, y)).sum::<f64>()).sum()
}

/// IoU reckoned pixel by pixel.
pub fn iou(polygons: &[Polygon], mask: &Mask) -> f64 {
    let shared = shared_area(polygons, mask);
    let shape: f64 = polygons.iter().map(Polygon::area).sum();
    shared / (mask.count() as f64 + shape - shared)
}
