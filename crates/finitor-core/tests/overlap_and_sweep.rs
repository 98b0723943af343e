//! Depths and times of first touch against brute force: many directions, small steps.

mod support;

use finitor_core::Vec2;
use finitor_core::geometry::{Convex, overlap, overlap_region, ring_area, sweep};
use proptest::prelude::*;
use support::convexes;

/// The least shift that parts two pieces, over many directions: never below the true depth.
fn sampled_depth(one: &Convex, offset: Vec2, other: &Convex) -> f64 {
    let directions = (0..3600).map(|k| Vec2::from_angle(f64::from(k) * std::f64::consts::TAU / 3600.0));
    directions
        .map(|way| {
            let (_, high) = other.extent(way);
            let (low, _) = one.extent(way);
            high - (low + offset.dot(way))
        })
        .fold(f64::INFINITY, f64::min)
}

proptest! {
    #![proptest_config(support::cases(400))]

    #[test]
    fn depth_is_the_shortest_way_out(one in convexes(), other in convexes(), x in -40.0..40.0_f64, y in -40.0..40.0_f64) {
        let offset = Vec2::new(x, y);
        let sampled = sampled_depth(&one, offset, &other);
        match overlap(&one, offset, &other) {
            Some(found) => {
                prop_assert!(found.depth <= sampled + 1e-9, "{found:?} sampled {sampled}");
                // A tenth of a degree off costs at most this much of the pieces' size.
                prop_assert!(sampled - found.depth <= 0.2, "{found:?} sampled {sampled}");
                prop_assert!((found.push.hypot() - 1.0).abs() < 1e-12);
                let out = offset + found.push * (found.depth + 1e-6);
                prop_assert_eq!(overlap(&one, out, &other), None, "pushed out");
                let still = offset + found.push * (found.depth - 1e-6);
                prop_assert!(overlap(&one, still, &other).is_some() || found.depth < 2e-6, "not before");
                // What overlaps by less than rounding has a depth, but no area left to speak of.
                let solid = ring_area(one.points()).min(ring_area(other.points())) > 1e-6 && found.depth > 1e-6;
                prop_assert!(!solid || overlap_region(&one, offset, &other).is_some());
            }
            // The parting direction may lie between two of those sampled.
            None => prop_assert!(sampled <= 0.2, "apart by {sampled}"),
        }
    }

    #[test]
    fn depth_does_not_depend_on_the_order(one in convexes(), other in convexes(), x in -40.0..40.0_f64) {
        let offset = Vec2::new(x, x / 3.0);
        let (a, b) = (overlap(&one, offset, &other), overlap(&other, Vec2::ZERO - offset, &one));
        prop_assert_eq!(a.is_some(), b.is_some());
        if let (Some(a), Some(b)) = (a, b) {
            prop_assert!((a.depth - b.depth).abs() < 1e-9);
        }
    }

    #[test]
    fn sweeps_agree_with_small_steps(
        one in convexes(), other in convexes(),
        x in -80.0..80.0_f64, y in -80.0..80.0_f64, dx in -120.0..120.0_f64, dy in -120.0..120.0_f64,
    ) {
        let (offset, motion) = (Vec2::new(x, y), Vec2::new(dx, dy));
        const STEPS: u32 = 1500;
        let times = (0..=STEPS).map(|k| f64::from(k) / f64::from(STEPS));
        let depths: Vec<(f64, f64)> = times
            .filter_map(|t| overlap(&one, offset + motion * t, &other).map(|found| (t, found.depth)))
            .collect();
        let step = 1.0 / f64::from(STEPS);
        match sweep(&one, offset, motion, &other) {
            Some(found) => {
                if let (Some(first), Some(last)) = (depths.first(), depths.last()) {
                    prop_assert!((first.0 - found.enter).abs() <= step + 1e-9, "{found:?} {first:?}");
                    prop_assert!((last.0 - found.exit).abs() <= step + 1e-9, "{found:?} {last:?}");
                    let deepest = depths.iter().map(|(_, depth)| *depth).fold(0.0, f64::max);
                    prop_assert!(found.depth >= deepest - 1e-9, "{found:?} {deepest}");
                    prop_assert!(found.depth - deepest <= motion.hypot() * step, "{found:?} {deepest}");
                } else {
                    prop_assert!(found.exit - found.enter <= step, "all steps missed {found:?}");
                }
                let there = overlap(&one, offset + motion * found.deepest_time, &other);
                prop_assert!((there.map_or(0.0, |o| o.depth) - found.depth).abs() < 1e-6);
            }
            None => prop_assert!(depths.is_empty(), "{:?}", depths.first()),
        }
    }
}
