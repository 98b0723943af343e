//! Noise is the enemy, on slopes too: a hero that walks, turns, stops and jumps on hills, one solid or many that meet, breaks no
//! rule; nor does it far from the origin.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;
mod world;

use finitor_core::stage::Stage;
use finitor_core::{Facing, Vec2};
use proptest::prelude::*;
use world::*;

const KNOT: f64 = 30.0;
const KNOTS: usize = 14;

/// Heights of the ground at knots 30 px apart, no steeper than 40 degrees.
fn hills() -> impl Strategy<Value = Vec<f64>> {
    proptest::collection::vec(-25..=25_i32, KNOTS).prop_map(|rises| {
        let mut y: f64 = 220.0;
        let next = |rise: i32| {
            y = (y + f64::from(rise)).clamp(150.0, 270.0);
            y
        };
        rises.into_iter().map(next).collect()
    })
}

fn surface(hills: &[f64], x: f64) -> f64 {
    let at = (x / KNOT).clamp(0.0, (KNOTS - 1) as f64 - 1e-9);
    let (index, share) = (at.floor() as usize, at.fract());
    hills[index] + (hills[index + 1] - hills[index]) * share
}

/// The ground as one solid, or as one a slope.
fn stage_of(hills: &[f64], parted: bool, shift: Vec2) -> Stage {
    let mut stage = stage();
    stage.size += shift;
    let at = |(x, y): (f64, f64)| (x + shift.x, y + shift.y);
    let knots: Vec<(f64, f64)> = hills.iter().enumerate().map(|(i, y)| (i as f64 * KNOT, *y)).collect();
    let parts: Vec<&[(f64, f64)]> = if parted { knots.windows(2).collect() } else { vec![&knots] };
    for (index, part) in parts.into_iter().enumerate() {
        let (first, last) = (part[0].0, part[part.len() - 1].0);
        let ring: Vec<(f64, f64)> = part.iter().copied().chain([(last, 300.0), (first, 300.0)]).map(at).collect();
        stage.solids.push(slope(&format!("hill_{index}"), &ring));
    }
    stage
}

/// Walks, turns, stands and jumps, hardly or high, on the ground, held exactly on it.
fn walk(hills: &[f64], keys: &[(i8, Option<f64>, u8)], shift: Vec2) -> Vec<Row> {
    let (mut x, mut facing, mut rows): (f64, Facing, Vec<Row>) = (200.0, Facing::Right, Vec::new());
    let (mut air, mut fall): (Option<f64>, f64) = (None, 0.0);
    for &(way, jump, length) in keys {
        for tick in 0..length {
            facing = match way {
                1 => Facing::Right,
                -1 => Facing::Left,
                _ => facing,
            };
            x = (x + f64::from(way) * 1.9).clamp(20.0, 360.0);
            let (back, front) = if facing == Facing::Right { (6.0, 4.0) } else { (4.0, 6.0) };
            // The highest ground under the body: at its corners or at a knot between them.
            let knots = (0..KNOTS).map(|k| k as f64 * KNOT).filter(|k| *k > x - back && *k < x + front);
            let ground = knots.chain([x - back, x + front]).map(|x| surface(hills, x)).fold(f64::INFINITY, f64::min);
            if let Some(speed) = jump.filter(|_| tick == 0 && air.is_none()) {
                (air, fall) = (Some(ground), 0.0 - speed);
            }
            air = air.map(|y| y + fall).filter(|y| *y < ground);
            fall += 0.35;
            let y = air.unwrap_or(ground);
            rows.push(Row(rows.len() as u64, (x + shift.x, y + shift.y), facing, "stand", ""));
        }
    }
    rows
}

proptest! {
    #![proptest_config(support::cases(400))]

    #[test]
    fn clean_play_on_hills_has_no_finding(
        hills in hills(),
        parted in any::<bool>(),
        keys in proptest::collection::vec((-1..=1_i8, proptest::option::of(2.5..7.0_f64), 2..30_u8), 4..24),
        far in any::<bool>(),
        // Games log places in full, in hundredths, or in whole px.
        per_px in prop_oneof![Just(0.0), Just(100.0), Just(1.0)],
    ) {
        let shift = if far { Vec2::new(1_048_576.0, 524_288.0) } else { Vec2::ZERO };
        let stage = stage_of(&hills, parted, shift);
        let mut rows = walk(&hills, &keys, shift);
        for row in rows.iter_mut().filter(|_| per_px > 0.0) {
            row.1 = ((row.1.0 * per_px).round() / per_px, (row.1.1 * per_px).round() / per_px);
        }
        // Whole px are up to 0.64 px off on a slope, more than the usual slack.
        let slack = if per_px == 1.0 { 1.0 } else { 0.5 };
        let report = check_by(&stage, hero(0), &rows, &settings("slack", slack));
        prop_assert!(report.findings.is_empty(), "{:?} {:?}", short(&report), &report.findings[0]);
    }
}
