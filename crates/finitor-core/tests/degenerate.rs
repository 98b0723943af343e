//! Overlaps and sweeps where rounding bites: shared sides, corners that touch, no motion, slivers, places far from the origin.

mod support;

use finitor_core::geometry::{Convex, near, overlap, overlap_region, sweep, with_corners_at_most};
use finitor_core::{Point, Vec2};
use proptest::prelude::*;
use support::convexes;

/// The corner that lies farthest along a direction.
fn corner(of: &Convex, way: Vec2) -> Point {
    let along = |p: &Point| p.to_vec2().dot(way);
    of.points().iter().copied().max_by(|a, b| along(a).total_cmp(&along(b))).unwrap_or_default()
}

proptest! {
    #![proptest_config(support::cases(400))]

    #[test]
    fn pieces_that_share_a_side_touch_and_no_more(whole in convexes(), along in -30.0..30.0_f64) {
        let parts = with_corners_at_most(&whole, 3);
        for (i, one) in parts.iter().enumerate() {
            for other in &parts[i + 1..] {
                prop_assert_eq!(overlap(one, Vec2::ZERO, other), None);
                prop_assert!(near(one, Vec2::ZERO, other, 1e-6), "parts of a fan share a corner at least");
                // What is left of the area is rounding.
                let region = overlap_region(one, Vec2::ZERO, other);
                prop_assert!(region.is_none_or(|(area, _)| area < 1e-9), "{region:?}");
            }
        }
        // Along a side that two share, one slides without a fault; across it, it is as deep as it was moved, or as the part is.
        let Some([one, other]) = parts.get(..2) else { return Ok(()) };
        let shared: Vec<Point> = one.points().iter().copied().filter(|p| other.points().contains(p)).collect();
        let [a, b] = shared[..] else { return Ok(()) };
        let side = (b - a) / (b - a).hypot();
        // Only as far as rounding of the way allows.
        prop_assert!(sweep(one, Vec2::ZERO, side * along, other).is_none_or(|found| found.depth < 1e-6));
        let middle = |piece: &Convex| {
            piece.points().iter().fold(Vec2::ZERO, |sum, p| sum + p.to_vec2()) / piece.points().len() as f64
        };
        let across = Vec2::new(-side.y, side.x);
        let across = if (middle(other) - middle(one)).dot(across) > 0.0 { across } else { Vec2::ZERO - across };
        let pushed = overlap(one, across * 0.01, other).map_or(0.0, |found| found.depth);
        prop_assert!(pushed <= 0.01 + 1e-9, "{pushed}");
    }

    #[test]
    fn corners_that_touch_do_not_overlap(one in convexes(), other in convexes(), turn in 0.0..6.0_f64) {
        let way = Vec2::from_angle(turn);
        let touch = corner(&other, Vec2::ZERO - way) - corner(&one, way);
        prop_assert_eq!(overlap(&one, touch, &other), None);
        prop_assert!(near(&one, touch, &other, 1e-9));
        // Away along the way they part, towards it they may meet, and by no more than that.
        prop_assert_eq!(overlap(&one, touch - way * 0.5, &other), None);
        prop_assert!(sweep(&one, touch, Vec2::ZERO - way, &other).is_none(), "leaving is no passage");
        prop_assert!(overlap(&one, touch + way * 0.25, &other).is_none_or(|found| found.depth <= 0.25 + 1e-9));
    }

    #[test]
    fn no_motion_is_the_overlap_itself(one in convexes(), other in convexes(), x in -40.0..40.0_f64, y in -40.0..40.0_f64) {
        let offset = Vec2::new(x, y);
        let (there, swept) = (overlap(&one, offset, &other), sweep(&one, offset, Vec2::ZERO, &other));
        prop_assert_eq!(there.map(|found| found.depth), swept.map(|found| found.depth));
        prop_assert!(swept.is_none_or(|found| (found.enter, found.exit) == (0.0, 1.0)), "{swept:?}");
    }

    #[test]
    fn far_from_the_origin_verdicts_and_depths_hold(
        one in convexes(), other in convexes(),
        x in -40.0..40.0_f64, y in -40.0..40.0_f64, dx in -120.0..120.0_f64, dy in -120.0..120.0_f64,
        far in (-1_000_000..1_000_000_i32, -1_000_000..1_000_000_i32),
    ) {
        let (offset, motion) = (Vec2::new(x, y), Vec2::new(dx, dy));
        let far = Vec2::new(f64::from(far.0), f64::from(far.1));
        let moved = other.translated(far);
        let depth = |found: Option<finitor_core::geometry::Overlap>| found.map_or(0.0, |found| found.depth);
        let (here, there) = (depth(overlap(&one, offset, &other)), depth(overlap(&one, offset + far, &moved)));
        prop_assert!((here - there).abs() < 1e-7, "{here} and {there}");
        // A graze of less than a millionth of a px may be seen at one place and not at the other.
        let (here, there) = (sweep(&one, offset, motion, &other), sweep(&one, offset + far, motion, &moved));
        match (here, there) {
            (Some(a), Some(b)) => {
                prop_assert!((a.depth - b.depth).abs() < 1e-6, "{a:?} {b:?}");
                let slow = 1e-6 * (1.0 + 1.0 / a.depth);
                prop_assert!((a.enter - b.enter).abs() < slow || a.depth < 1e-3, "{a:?} {b:?}");
            }
            (Some(only), None) | (None, Some(only)) => prop_assert!(only.depth < 1e-6, "{only:?}"),
            (None, None) => {}
        }
    }

    #[test]
    fn shared_areas_agree_with_a_count_of_small_squares(one in convexes(), other in convexes(), x in -20.0..20.0_f64) {
        const PER_PX: i32 = 4;
        let offset = Vec2::new(x, x / 2.0);
        let inside = |of: &Convex, p: Point| {
            of.normals().iter().zip(of.points()).all(|(normal, on)| (p - *on).dot(*normal) <= 0.0)
        };
        let bounds = other.bounds();
        let steps = |low: f64, high: f64| (low * f64::from(PER_PX)).floor() as i32..=(high * f64::from(PER_PX)).ceil() as i32;
        let squares = steps(bounds.x0, bounds.x1).flat_map(|i| steps(bounds.y0, bounds.y1).map(move |j| (i, j)));
        let middle = |(i, j): (i32, i32)| Point::new(f64::from(i) + 0.5, f64::from(j) + 0.5).to_vec2() / f64::from(PER_PX);
        let count = squares
            .filter(|&square| {
                let p = middle(square).to_point();
                inside(&other, p) && inside(&one, p - offset)
            })
            .count();
        let counted = count as f64 / f64::from(PER_PX * PER_PX);
        let area = overlap_region(&one, offset, &other).map_or(0.0, |(area, _)| area);
        // A square is counted wrongly only where the boundary runs through it.
        let around = (bounds.width() + bounds.height()) * 2.0;
        prop_assert!((area - counted).abs() <= around / f64::from(PER_PX) + 0.5, "{area} counted {counted}");
    }
}
