//! Convex pieces against an exhaustive search over all sets of cuts.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::art::contours;
use finitor_core::fit::{Fitting, Kind, Tidying, fit_shape, pieces_of};
use finitor_core::geometry::{
    Convex, convex_pieces, on_segment, quick_convex_pieces, ring_area, segments_cross, turn, with_corners_at_most,
};
use finitor_core::{Point, Polygon};
use proptest::prelude::*;
use support::{cases, masks};

/// Polygons of few corners: star-shaped round a point, and outlines of small masks.
fn polygons() -> impl Strategy<Value = Polygon> {
    let star = proptest::collection::vec((1..9_u32, 0..3_u32), 4..10).prop_filter_map("not simple", |spokes| {
        let n = spokes.len() as f64;
        let point = |(k, (reach, twist)): (usize, &(u32, u32))| {
            let angle = (k as f64 + f64::from(*twist) * 0.3) * std::f64::consts::TAU / n;
            Point::new((angle.cos() * f64::from(*reach)).round(), (angle.sin() * f64::from(*reach)).round())
        };
        Polygon::new(spokes.iter().enumerate().map(point).collect()).ok()
    });
    let outline = masks(6).prop_filter_map("too many corners", |mask| {
        let rings = contours(&mask.filled());
        rings.first().and_then(|ring| ring.polygon().ok()).filter(|ring| ring.points().len() <= 12)
    });
    prop_oneof![star, outline]
}

/// The fewest pieces by trying every set of cuts that do not cross.
fn exhaustive(ring: &[usize], points: &[Point]) -> usize {
    let n = ring.len();
    let at = |i: usize| points[ring[i % n]];
    let reflex = (0..n).find(|&i| turn(at(i + n - 1), at(i), at(i + 1)) < 0.0);
    let Some(corner) = reflex else { return 1 };
    // Some cut must end at this corner.
    let others = (0..n).filter(|&i| i != corner && i != (corner + 1) % n && i != (corner + n - 1) % n);
    let cut = |other: usize| {
        let (a, b) = (at(corner), at(other));
        let clear = (0..n).all(|k| {
            let (c, d) = (at(k), at(k + 1));
            let touches = [c, d].into_iter().any(|p| p != a && p != b && on_segment(p, a, b));
            !touches && !segments_cross(a, b, c, d)
        });
        let whole = Polygon::new((0..n).map(at).collect()).ok()?;
        if !clear || !whole.contains(a.midpoint(b)) || (0..n).any(|k| on_segment(a.midpoint(b), at(k), at(k + 1))) {
            return None;
        }
        let part = |from: usize, to: usize| -> Vec<usize> {
            let length = (to + n - from) % n;
            (0..=length).map(|k| ring[(from + k) % n]).collect()
        };
        Some(exhaustive(&part(corner, other), points) + exhaustive(&part(other, corner), points))
    };
    others.filter_map(cut).min().unwrap()
}

fn check(polygon: &Polygon, pieces: &[Convex]) -> Result<(), TestCaseError> {
    let area: f64 = pieces.iter().map(|piece| ring_area(piece.points())).sum();
    prop_assert!((area - polygon.area()).abs() < 1e-9 * polygon.area(), "{area} {}", polygon.area());
    for piece in pieces {
        let again = Polygon::new(piece.points().to_vec()).unwrap();
        prop_assert!(again.is_convex() && again.points().len() == piece.points().len(), "{piece:?}");
        prop_assert!(piece.points().iter().all(|p| polygon.points().contains(p)), "a point was added: {piece:?}");
    }
    Ok(())
}

proptest! {
    #![proptest_config(cases(600))]

    #[test]
    fn no_set_of_cuts_makes_fewer_pieces(polygon in polygons()) {
        let pieces = convex_pieces(&polygon);
        check(&polygon, &pieces)?;
        let all: Vec<usize> = (0..polygon.points().len()).collect();
        prop_assert_eq!(pieces.len(), exhaustive(&all, polygon.points()), "{:?}", polygon);
        check(&polygon, &quick_convex_pieces(&polygon))?;
        prop_assert!(quick_convex_pieces(&polygon).len() <= 4 * pieces.len());
    }

    #[test]
    fn pieces_with_many_corners_are_cut_into_as_few_as_can_be(polygon in polygons(), most in 3..6_usize) {
        for piece in convex_pieces(&polygon) {
            let corners = piece.points().len();
            let parts = with_corners_at_most(&piece, most);
            prop_assert_eq!(parts.len(), (corners - 2).div_ceil(most - 2));
            prop_assert!(parts.iter().all(|part| part.points().len() <= most));
            check(&Polygon::new(piece.points().to_vec()).unwrap(), &parts)?;
        }
    }

    #[test]
    fn pieces_leave_the_holes_free(mask in masks(14), tolerance in 0.0..1.5_f64) {
        prop_assume!(!mask.is_empty());
        let tidying = Tidying { min_hole: 0, ..Tidying::default() };
        let fitted = fit_shape(&mask, &Fitting { tolerance, tidying, ..Fitting::of(Kind::Outline) }).unwrap();
        let area: f64 = pieces_of(&fitted, 8).iter().map(|piece| ring_area(piece.points())).sum();
        prop_assert!((area - fitted.area()).abs() < 1e-6, "{area} {}", fitted.area());
    }
}
