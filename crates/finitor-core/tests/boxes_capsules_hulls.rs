//! The simple kinds against exhaustive search and pixel counts.

mod support;

use finitor_core::Rect;
use finitor_core::art::Mask;
use finitor_core::fit::{Exact, FitError, FitGoal, Fitting, Geometry, Kind, Sides, fit_shape};
use proptest::prelude::*;
use support::{iou, masks, pixel_area};

fn fit(mask: &Mask, kind: Kind, goal: FitGoal, sides: Sides) -> Result<Geometry, FitError> {
    fit_shape(mask, &Fitting { goal, sides, ..Fitting::of(kind) })
}

/// The best IoU over all rectangles with whole-pixel sides.
fn best_box(mask: &Mask) -> f64 {
    let (width, height) = (mask.width(), mask.height());
    let mut best: f64 = 0.0;
    for (x0, y0) in (0..width).flat_map(|x| (0..height).map(move |y| (x, y))) {
        for (x1, y1) in (x0 + 1..=width).flat_map(|x| (y0 + 1..=height).map(move |y| (x, y))) {
            let inside = (y0..y1).flat_map(|y| (x0..x1).map(move |x| (x, y)));
            let shared = inside.filter(|&(x, y)| mask.get(x.into(), y.into())).count() as f64;
            let area = f64::from((x1 - x0) * (y1 - y0));
            best = best.max(shared / (mask.count() as f64 + area - shared));
        }
    }
    best
}

fn covers(geometry: &Geometry, mask: &Mask) -> bool {
    let pixels = (0..mask.height()).flat_map(|y| (0..mask.width()).map(move |x| (x, y)));
    pixels.filter(|&(x, y)| mask.get(x.into(), y.into())).all(|(x, y)| {
        let inside: f64 = geometry.polygons.iter().map(|polygon| pixel_area(polygon, x, y)).sum();
        (inside - 1.0).abs() < 1e-9
    })
}

proptest! {
    #![proptest_config(support::cases(150))]

    #[test]
    fn the_balanced_box_is_the_best_of_all(mask in masks(9)) {
        prop_assume!(!mask.is_empty());
        let found = fit(&mask, Kind::Box, FitGoal::Balance, Sides::default()).unwrap();
        prop_assert!((iou(&found.polygons, &mask) - best_box(&mask)).abs() < 1e-12);
    }

    #[test]
    fn every_covering_kind_covers(mask in masks(16)) {
        prop_assume!(!mask.is_empty());
        for kind in [Kind::Box, Kind::Capsule, Kind::Hull] {
            let found = fit(&mask, kind, FitGoal::Cover, Sides::default()).unwrap();
            prop_assert!(covers(&found, &mask), "{kind:?}: {found:?}");
        }
    }

    #[test]
    fn balance_is_never_worse_than_cover(mask in masks(16)) {
        prop_assume!(!mask.is_empty());
        for kind in [Kind::Box, Kind::Hull] {
            let score = |goal| iou(&fit(&mask, kind, goal, Sides::default()).unwrap().polygons, &mask);
            prop_assert!(score(FitGoal::Balance) >= score(FitGoal::Cover) - 1e-12, "{kind:?}");
        }
    }

    #[test]
    fn a_covering_capsule_is_the_least_of_a_fine_grid(mask in masks(8)) {
        prop_assume!(!mask.is_empty());
        let found = fit(&mask, Kind::Capsule, FitGoal::Cover, Sides::default()).unwrap();
        let Some(Exact::Capsule([x1, y1, x2, y2, r])) = found.exact else { panic!("no capsule: {found:?}") };
        let area = |spine: f64, r: f64| 2.0 * r * spine + std::f64::consts::PI * r * r;
        let reached = area((x2 - x1).hypot(y2 - y1), r);
        // Brute force: every upright and lying capsule on a quarter-pixel grid that holds all pixel corners.
        let corners: Vec<(f64, f64)> = (0..8_u32)
            .flat_map(|y| (0..8_u32).map(move |x| (x, y)))
            .filter(|&(x, y)| mask.get(x.into(), y.into()))
            .flat_map(|(x, y)| [(0, 0), (1, 0), (0, 1), (1, 1)].map(|(i, j)| (f64::from(x + i), f64::from(y + j))))
            .collect();
        let mut least = f64::INFINITY;
        for flip in [false, true] {
            let points: Vec<(f64, f64)> = corners.iter().map(|&(x, y)| if flip { (y, x) } else { (x, y) }).collect();
            for (cx, r) in (0..=32).flat_map(|c| (2..=28).map(move |r| (f64::from(c) / 4.0, f64::from(r) / 4.0))) {
                if points.iter().any(|(x, _)| (x - cx).abs() > r) {
                    continue;
                }
                let half = |x: f64| (r * r - (x - cx) * (x - cx)).sqrt();
                let top = points.iter().map(|&(x, y)| y + half(x)).fold(f64::INFINITY, f64::min);
                let bottom = points.iter().map(|&(x, y)| y - half(x)).fold(f64::NEG_INFINITY, f64::max);
                least = least.min(area((bottom - top).max(0.0), r));
            }
        }
        // The grid is coarser than the fit, so the fit may only win; a sixteenth of a pixel is its own precision.
        prop_assert!(reached <= least + 0.0625 * (2.0 * 16.0 + 8.0), "{reached} against {least}");
    }

    #[test]
    fn given_sides_stay(mask in masks(16), left in 2.0..6.0_f64, bottom in 8.0..14.0_f64) {
        let sides = Sides { left: Some(left), bottom: Some(bottom), ..Sides::default() };
        for kind in [Kind::Box, Kind::Capsule] {
            match fit(&mask, kind, FitGoal::Balance, sides) {
                Ok(found) => {
                    let bounds: Rect = found.bounds().unwrap();
                    prop_assert!((bounds.x0 - left).abs() < 1e-9 && (bounds.y1 - bottom).abs() < 1e-9, "{bounds:?}");
                }
                Err(error) => prop_assert!(matches!(error, FitError::NothingSelected | FitError::SidesCross)),
            }
        }
    }
}

#[test]
fn what_contradicts_itself_is_refused_with_the_reason() {
    let mask = Mask::from_fn(8, 8, |_, _| true);
    let crossed = Sides { left: Some(6.0), right: Some(2.0), ..Sides::default() };
    assert_eq!(fit(&mask, Kind::Box, FitGoal::Cover, crossed), Err(FitError::SidesCross));
    let fixed = Sides { bottom: Some(8.0), ..Sides::default() };
    assert_eq!(fit(&mask, Kind::Capsule, FitGoal::Cover, fixed), Err(FitError::CoverWithGivenSide));
    let nothing = Mask::from_fn(8, 8, |_, _| false);
    for kind in [Kind::Box, Kind::Capsule, Kind::Hull, Kind::Outline] {
        assert_eq!(fit(&nothing, kind, FitGoal::Balance, Sides::default()), Err(FitError::NothingSelected), "{kind:?}");
    }
}

#[test]
fn one_pixel_is_fitted_by_every_kind() {
    let pixel = Mask::from_fn(1, 1, |_, _| true);
    for (kind, goal) in [Kind::Box, Kind::Capsule, Kind::Hull, Kind::Outline]
        .into_iter()
        .flat_map(|kind| [(kind, FitGoal::Cover), (kind, FitGoal::Balance)])
    {
        let found = fit(&pixel, kind, goal, Sides::default()).unwrap();
        assert!(found.polygons[0].area() > 0.4, "{kind:?} {goal:?}: {found:?}");
        assert!(goal == FitGoal::Balance || covers(&found, &pixel), "{kind:?}");
    }
}

#[test]
fn a_disc_gets_a_circle_of_a_capsule() {
    let disc = Mask::from_fn(32, 32, |x, y| (f64::from(x) - 15.5).hypot(f64::from(y) - 15.5) <= 12.0);
    let found = fit(&disc, Kind::Capsule, FitGoal::Balance, Sides::default()).unwrap();
    assert!(iou(&found.polygons, &disc) > 0.95, "{}", iou(&found.polygons, &disc));
}
