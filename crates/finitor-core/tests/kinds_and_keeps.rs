//! Every kind and keep on random masks: promises checked pixel by pixel, optima against coarse exhaustive search.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::art::Mask;
use finitor_core::fit::{
    Angle, Exact, FitError, FitGoal, Fitting, Geometry, Kind, Selection, Sides, fit_selection, fit_shape,
};
use finitor_core::{Facing, Point, Polygon};
use proptest::prelude::*;
use support::{cases, iou, masks, shared_area};

const GOALS: [FitGoal; 3] = [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance];
const KINDS: [Kind; 6] = [Kind::Box, Kind::Circle, Kind::Capsule, Kind::Hull, Kind::Outline, Kind::Pieces];

fn wanted(kind: u8, goal: u8, angle: Angle) -> Fitting {
    Fitting { goal: GOALS[goal as usize % 3], angle, ..Fitting::of(KINDS[kind as usize % 6]) }
}

fn angles() -> impl Strategy<Value = Angle> {
    prop_oneof![Just(Angle::Square), Just(Angle::Upright), Just(Angle::Lying), Just(Angle::Any)]
}

fn shared(geometry: &Geometry, mask: &Mask) -> f64 {
    shared_area(&geometry.polygons, mask) - shared_area(&geometry.holes, mask)
}

/// Whether a geometry keeps what it was asked to, in the mask's space.
fn goals(geometry: &Geometry, mask: &Mask, goal: FitGoal) -> Result<(), TestCaseError> {
    let (area, inside, pixels) = (geometry.area(), shared(geometry, mask), mask.count() as f64);
    match goal {
        FitGoal::Cover => prop_assert!((inside - pixels).abs() < 1e-6, "{inside} of {pixels} covered"),
        FitGoal::Inside => prop_assert!((inside - area).abs() < 1e-6, "{inside} of {area} inside"),
        FitGoal::Balance => prop_assert!(inside > 0.0),
    }
    Ok(())
}

proptest! {
    #![proptest_config(cases(200))]

    #[test]
    fn what_covers_covers_and_what_is_inside_is_inside(mask in masks(16), kind in 0..6_u8, goal in 0..3_u8, angle in angles()) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let fitting = wanted(kind, goal, angle);
        match fit_shape(&mask, &fitting) {
            Ok(found) => goals(&found, &mask, fitting.goal)?,
            Err(error) => {
                prop_assert!(matches!(error, FitError::NoSuchKeep(_)), "{error}");
                prop_assert_eq!((fitting.kind, fitting.goal), (Kind::Hull, FitGoal::Inside));
            }
        }
    }

    #[test]
    fn symmetric_shapes_equal_their_mirror_image_and_keep_their_promise(
        mask in masks(12), kind in 0..6_u8, goal in 0..3_u8, twice_pivot in -4..30_i32, odd in any::<bool>(),
    ) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let pivot = Point::new(f64::from(twice_pivot) / 2.0 + if odd { 0.3 } else { 0.0 }, 9.0);
        let fitting = Fitting { symmetric: true, ..wanted(kind, goal, Angle::Square) };
        let Ok(found) = fit_selection(&Selection::in_cell(mask.clone()), &fitting, pivot, Facing::Right) else {
            // Nothing lies on both sides, or the pair makes no sense.
            prop_assert!(fitting.goal == FitGoal::Inside || matches!(fitting.kind, Kind::Box), "{:?}", fitting);
            return Ok(());
        };
        let mirrored: Vec<Polygon> = found.geometry.polygons.iter().map(Polygon::mirrored).collect();
        let corners = |of: &[Polygon]| {
            let mut all: Vec<(u64, u64)> =
                of.iter().flat_map(Polygon::points).map(|p| ((p.x + 0.0).to_bits(), p.y.to_bits())).collect();
            all.sort_unstable();
            all
        };
        prop_assert_eq!(corners(&mirrored), corners(&found.geometry.polygons));
        goals(&found.geometry.translated(pivot.x, pivot.y), &mask, fitting.goal)?;
    }

    #[test]
    fn numbers_lie_on_the_grid_and_promises_hold(
        mask in masks(16), kind in 0..4_u8, goal in 0..3_u8, grid in prop_oneof![Just(0.5), Just(1.0), Just(2.0), Just(3.0)],
    ) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let pivot = Point::new(7.0, 12.0);
        let fitting = Fitting { snap: Some(grid), ..wanted(kind, goal, Angle::Square) };
        let found = match fit_selection(&Selection::in_cell(mask.clone()), &fitting, pivot, Facing::Right) {
            Ok(found) => found.geometry,
            Err(error) => {
                prop_assert!(matches!(error, FitError::SnapTooCoarse { .. } | FitError::NoSuchKeep(_)), "{error}");
                return Ok(());
            }
        };
        let numbers: Vec<f64> = match found.exact {
            Some(Exact::Box([x, y, w, h])) => vec![x, y, w, h],
            Some(Exact::Circle([x, y, r])) => vec![x, y, r],
            Some(Exact::Capsule([x1, y1, x2, y2, r])) => vec![x1, y1, x2, y2, r],
            None => found.polygons[0].points().iter().flat_map(|p| [p.x, p.y]).collect(),
        };
        prop_assert!(numbers.iter().all(|n| (n / grid - (n / grid).round()).abs() < 1e-9), "{numbers:?} on {grid}");
        if fitting.goal != FitGoal::Balance {
            goals(&found.translated(pivot.x, pivot.y), &mask, fitting.goal)?;
        }
    }

    #[test]
    fn the_box_inside_is_the_greatest(mask in masks(10), left in proptest::option::of(0..5_u32), width in proptest::option::of(1..6_u32)) {
        prop_assume!(!mask.is_empty());
        let sides = Sides { left: left.map(f64::from), width: width.map(f64::from), ..Sides::default() };
        let found = fit_shape(&mask, &Fitting { goal: FitGoal::Inside, sides, ..Fitting::of(Kind::Box) });
        let mut most = 0;
        for (x0, y0) in (0..mask.height()).flat_map(|y| (0..mask.width()).map(move |x| (x, y))) {
            for (x1, y1) in (y0 + 1..=mask.height()).flat_map(|y| (x0 + 1..=mask.width()).map(move |x| (x, y))) {
                let fits = left.is_none_or(|left| left == x0) && width.is_none_or(|width| width == x1 - x0);
                let full = || (y0..y1).all(|y| (x0..x1).all(|x| mask.get(x.into(), y.into())));
                if fits && full() {
                    most = most.max((x1 - x0) * (y1 - y0));
                }
            }
        }
        match found {
            Ok(found) => prop_assert!((found.area() - f64::from(most)).abs() < 1e-9, "{} of {most}", found.area()),
            Err(_) => prop_assert_eq!(most, 0),
        }
    }

    #[test]
    fn the_circle_round_all_is_the_least_and_the_one_inside_the_greatest(mask in masks(10)) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let radius = |goal| match fit_shape(&mask, &Fitting { goal, ..Fitting::of(Kind::Circle) }).unwrap().exact {
            Some(Exact::Circle(numbers)) => numbers[2],
            other => panic!("{other:?}"),
        };
        let pixels: Vec<(f64, f64)> = (0..mask.height())
            .flat_map(|y| (0..mask.width()).map(move |x| (x, y)))
            .filter(|&(x, y)| mask.get(x.into(), y.into()))
            .map(|(x, y)| (x.into(), y.into()))
            .collect();
        let (mut least, mut most): (f64, f64) = (f64::INFINITY, 0.0);
        for k in 0..=40 * 40 {
            let (x, y) = (f64::from(k % 41) / 4.0, f64::from(k / 41) / 4.0);
            let far = |&(px, py): &(f64, f64)| {
                let (dx, dy): (f64, f64) = ((px - x).abs().max((px + 1.0 - x).abs()), (py - y).abs().max((py + 1.0 - y).abs()));
                dx.hypot(dy)
            };
            least = least.min(pixels.iter().map(far).fold(0.0, f64::max));
            // The nearest unset pixel, those round the cell among them.
            let unset = (-1..=11_i32).flat_map(|row| (-1..=11_i32).map(move |column| (column, row)));
            let unset = unset.filter(|&(c, r)| !mask.get(c.into(), r.into()));
            let near = unset.map(|(c, r)| {
                let (dx, dy) = ((f64::from(c) - x).max(x - f64::from(c) - 1.0).max(0.0), (f64::from(r) - y).max(y - f64::from(r) - 1.0).max(0.0));
                dx.hypot(dy)
            });
            most = most.max(near.fold(f64::INFINITY, f64::min));
        }
        let (round, inside) = (radius(FitGoal::Cover), radius(FitGoal::Inside));
        prop_assert!(round <= least + 1e-6 && round >= least - 0.2, "round {round}, {least} on a grid");
        prop_assert!(inside >= most - 1.0 / 64.0 - 1e-9 && inside <= most + 0.2, "inside {inside}, {most} on a grid");
    }

    #[test]
    fn balanced_circles_come_near_the_best_on_a_grid(mask in masks(9)) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let found = fit_shape(&mask, &Fitting::of(Kind::Circle)).unwrap();
        let reached = iou(&found.polygons, &mask);
        let mut best: f64 = 0.0;
        for k in 0..10 * 10 * 6 {
            let (x, y, r) = (f64::from(k % 10) + 0.5, f64::from(k / 10 % 10) + 0.5, 0.6 + 0.8 * f64::from(k / 100));
            let disc = (0..24).map(|k| Point::new(x, y) + kurbo_vec(f64::from(k)) * r).collect();
            best = best.max(iou(&[Polygon::new(disc).unwrap()], &mask));
        }
        // A search from a few places may end on a lower hill of scattered pixels.
        prop_assert!(reached >= 0.75 * best - 0.01, "{reached}, {best} on a grid");
    }

    #[test]
    fn a_capsule_at_any_angle_is_no_worse_than_an_upright_or_lying_one(mask in masks(14)) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let area = |goal, angle| {
            let found = fit_shape(&mask, &Fitting { goal, angle, ..Fitting::of(Kind::Capsule) }).unwrap();
            if goal == FitGoal::Balance { iou(&found.polygons, &mask) } else { found.area() }
        };
        prop_assert!(area(FitGoal::Balance, Angle::Any) >= area(FitGoal::Balance, Angle::Square) - 1e-9);
        let exact = |angle| match fit_shape(&mask, &Fitting { goal: FitGoal::Inside, angle, ..Fitting::of(Kind::Capsule) }).unwrap().exact {
            Some(Exact::Capsule([x1, y1, x2, y2, r])) => r * (2.0 * (x2 - x1).hypot(y2 - y1) + std::f64::consts::PI * r),
            other => panic!("{other:?}"),
        };
        prop_assert!(exact(Angle::Any) >= exact(Angle::Square) - 1e-9);
        // Polygons round the curve differ by a share of their radius.
        prop_assert!(area(FitGoal::Cover, Angle::Any) <= area(FitGoal::Cover, Angle::Square) * 1.05 + 0.5);
    }
}

fn kurbo_vec(k: f64) -> finitor_core::Vec2 {
    finitor_core::Vec2::from_angle(k * std::f64::consts::TAU / 24.0)
}

#[test]
fn sizes_given_are_kept_or_refused_with_what_is_needed() {
    let mask = Mask::from_fn(20, 20, |x, y| (4..14).contains(&x) && (2..18).contains(&y));
    let fit = |kind, goal, sides| fit_shape(&mask, &Fitting { goal, sides, ..Fitting::of(kind) });
    let size = |width: f64, height: f64| Sides { width: Some(width), height: Some(height), ..Sides::default() };
    let bounds = |found: Result<Geometry, FitError>| found.unwrap().bounds().unwrap();
    let wide = bounds(fit(Kind::Box, FitGoal::Cover, size(12.0, 20.0)));
    assert_eq!((wide.width(), wide.height(), wide.center().x), (12.0, 20.0, 9.0));
    assert_eq!(fit(Kind::Box, FitGoal::Cover, size(6.0, 20.0)), Err(FitError::TooSmall { given: 6.0, needed: 10.0 }));
    let small = bounds(fit(Kind::Box, FitGoal::Inside, size(6.0, 7.0)));
    assert_eq!((small.width(), small.height()), (6.0, 7.0));
    assert_eq!(fit(Kind::Box, FitGoal::Inside, size(11.0, 7.0)), Err(FitError::NoRoomInside));
    let best = bounds(fit(Kind::Box, FitGoal::Balance, size(6.0, 30.0)));
    assert_eq!((best.width(), best.height()), (6.0, 30.0));
    let radius = |radius: f64| Sides { radius: Some(radius), ..Sides::default() };
    assert!(matches!(fit(Kind::Circle, FitGoal::Cover, radius(5.0)), Err(FitError::TooSmall { .. })));
    assert!(matches!(fit(Kind::Circle, FitGoal::Inside, radius(6.0)), Err(FitError::TooLarge { .. })));
    for kind in [Kind::Circle, Kind::Capsule] {
        let found = fit(kind, FitGoal::Balance, radius(3.0)).unwrap();
        let given = match found.exact.unwrap() {
            Exact::Circle([.., radius]) | Exact::Capsule([.., radius]) => radius,
            Exact::Box(_) => 0.0,
        };
        assert_eq!(given, 3.0, "{kind:?}");
    }
}

#[test]
fn the_simplest_kind_that_reaches_the_iou_is_chosen_and_says_why() {
    let chosen = |mask: &Mask, min_iou| {
        let fitting = Fitting { min_iou, ..Fitting::of(Kind::Auto) };
        fit_selection(&Selection::in_cell(mask.clone()), &fitting, Point::ZERO, Facing::Right).unwrap()
    };
    let square = Mask::from_fn(12, 12, |x, y| x > 1 && y > 1);
    assert_eq!(chosen(&square, 0.95).kind, Kind::Box);
    let disc = Mask::from_fn(32, 32, |x, y| (f64::from(x) - 15.5).hypot(f64::from(y) - 15.5) <= 14.0);
    let found = chosen(&disc, 0.95);
    assert_eq!(found.kind, Kind::Circle);
    assert!(found.why.as_ref().unwrap().contains("box 0."), "{:?}", found.why);
    let ell = Mask::from_fn(20, 20, |x, y| x < 5 || y > 14);
    assert_eq!(chosen(&ell, 0.9).kind, Kind::Outline);
    assert_eq!(chosen(&ell, 0.3).kind, Kind::Box);
}
