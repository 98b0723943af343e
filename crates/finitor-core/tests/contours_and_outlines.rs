//! Contours, outlines and their promises on random masks, against counting pixels.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod dice;
mod support;
#[path = "support/usual.rs"]
mod usual;

use dice::Dice;
use finitor_core::art::{Mask, contours};
use finitor_core::fit::{FitError, FitGoal, Fitting, Kind, Tidying, fit_shape, measure};
use finitor_core::geometry::{DEVIATION_PRECISION, deviation, segments_cross};
use finitor_core::{Point, Polygon};
use proptest::prelude::*;
use support::{iou, masks, pixel_area, shared_area};

fn boundaries_apart(one: &[Polygon], other: &[Polygon]) -> f64 {
    let one: Vec<&[Point]> = one.iter().map(Polygon::points).collect();
    let other: Vec<&[Point]> = other.iter().map(Polygon::points).collect();
    deviation(&one, &other)
}

fn outline(mask: &Mask, tolerance: f64, goal: FitGoal) -> Vec<Polygon> {
    let fitting = Fitting { goal, tolerance, ..Fitting::of(Kind::Outline) };
    fit_shape(mask, &fitting).expect("a mask that is not empty has an outline").polygons
}

proptest! {
    #![proptest_config(support::cases(400))]

    #[test]
    fn contours_hold_exactly_the_pixels(mask in masks(24)) {
        let rings = contours(&mask);
        let area: i64 = rings.iter().map(|ring| ring.area()).sum();
        prop_assert_eq!(area, mask.count() as i64);
        for ring in &rings {
            let corners = ring.corners();
            for (i, a) in corners.iter().enumerate() {
                let b = corners[(i + 1) % corners.len()];
                prop_assert!((a.x == b.x) != (a.y == b.y), "every edge runs along the lattice: {a:?} {b:?}");
            }
        }
    }

    #[test]
    fn filled_masks_have_simple_contours_and_no_holes(mask in masks(24)) {
        let filled = mask.filled();
        for ring in contours(&filled) {
            prop_assert!(ring.area() > 0);
            let polygon = ring.polygon();
            prop_assert!(polygon.is_ok(), "{polygon:?}");
            prop_assert_eq!(polygon.unwrap().points().len(), ring.corners().len());
        }
        prop_assert_eq!(filled.filled(), filled.clone());
        let grown = (0..24).all(|y| (0..24).all(|x| !mask.get(x, y) || filled.get(x, y)));
        prop_assert!(grown, "filling never takes a pixel away");
    }

    #[test]
    fn covering_outlines_contain_every_pixel_square(mask in masks(20), tolerance in 0.0..3.0_f64) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let polygons = outline(&mask, tolerance, FitGoal::Cover);
        for (x, y) in (0..20).flat_map(|y| (0..20).map(move |x| (x, y))).filter(|&(x, y)| mask.get(x.into(), y.into())) {
            let inside: f64 = polygons.iter().map(|polygon| pixel_area(polygon, x, y)).sum();
            prop_assert!((inside - 1.0).abs() < 1e-9, "pixel {x} {y} has {inside} inside");
        }
        let traced: Vec<Polygon> = contours(&mask).iter().map(|ring| ring.polygon().unwrap()).collect();
        if polygons.len() == traced.len() {
            prop_assert!(boundaries_apart(&polygons, &traced) <= tolerance + DEVIATION_PRECISION + 1e-9);
        }
    }

    #[test]
    fn balanced_outlines_stay_within_the_tolerance_both_ways(mask in masks(20), tolerance in 0.0..3.0_f64) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let polygons = outline(&mask, tolerance, FitGoal::Balance);
        let traced: Vec<Polygon> = contours(&mask).iter().map(|ring| ring.polygon().unwrap()).collect();
        if polygons.len() == traced.len() {
            let found = boundaries_apart(&polygons, &traced);
            prop_assert!(found <= tolerance + DEVIATION_PRECISION + 1e-9, "{found} > {tolerance}");
        }
    }

    #[test]
    fn islands_never_cross_and_areas_are_exact(mask in masks(20), tolerance in 0.0..3.0_f64, cover in any::<bool>()) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let goal = if cover { FitGoal::Cover } else { FitGoal::Balance };
        let polygons = outline(&mask, tolerance, goal);
        for (i, one) in polygons.iter().enumerate() {
            prop_assert!(one.area() > 0.0, "clockwise");
            for other in &polygons[i + 1..] {
                for (a, b) in one.edges() {
                    prop_assert!(other.edges().all(|(c, d)| !segments_cross(a, b, c, d)));
                }
            }
        }
        let fitting = Fitting { goal, tolerance, ..Fitting::of(Kind::Outline) };
        let quality = measure(&fit_shape(&mask, &fitting).unwrap(), &mask).unwrap();
        prop_assert!((quality.iou - iou(&polygons, &mask)).abs() < 1e-9);
        let shared = shared_area(&polygons, &mask);
        let shape: f64 = polygons.iter().map(Polygon::area).sum();
        prop_assert!((quality.excess - (shape - shared)).abs() < 1e-6);
        prop_assert!((quality.covered - shared / mask.count() as f64).abs() < 1e-9);
    }

    #[test]
    // At larger tolerances thin masks may lose a shortcut to a crossing that another choice would have kept.
    fn one_island_never_takes_more_corners_than_the_usual_way(mask in masks(24), tolerance in 0.5..1.2_f64) {
        let rings = contours(&mask.filled());
        if rings.len() != 1 {
            return Ok(());
        }
        let found = outline(&mask.filled(), tolerance, FitGoal::Balance)[0].points().len();
        let usual = usual::simplified(&rings[0].points(), tolerance);
        // The usual way may cross itself, end in a line or be off in area by more than is promised; there is nothing to
        // compare with then.
        let own = rings[0].area() as f64;
        let near = |simple: &Polygon| (simple.area() - own).abs() <= f64::max(0.02 * own, 1.0);
        if let Ok(simple) = Polygon::new(usual.clone()) && simple.points().len() == usual.len() && near(&simple) {
            prop_assert!(found <= usual.len(), "{found} corners, {} the usual way", usual.len());
        }
    }

    #[test]
    fn nothing_of_an_outline_inside_lies_outside(mask in masks(20), tolerance in 0.0..3.0_f64, holes in any::<bool>()) {
        let mask = if holes { mask } else { mask.filled() };
        prop_assume!(!mask.is_empty());
        let tidying = Tidying { min_hole: if holes { 0 } else { u64::MAX }, ..Tidying::default() };
        let fitting = Fitting { goal: FitGoal::Inside, tolerance, tidying, ..Fitting::of(Kind::Outline) };
        let found = fit_shape(&mask, &fitting).unwrap();
        let shared = shared_area(&found.polygons, &mask) - shared_area(&found.holes, &mask);
        prop_assert!((found.area() - shared).abs() < 1e-6, "{} of {} inside", shared, found.area());
    }

    #[test]
    fn holes_that_are_kept_stay_free_and_covered_pixels_covered(mask in masks(18), tolerance in 0.0..2.5_f64) {
        prop_assume!(!mask.is_empty());
        let goal = |goal| {
            let tidying = Tidying { min_hole: 0, ..Tidying::default() };
            fit_shape(&mask, &Fitting { goal, tolerance, tidying, ..Fitting::of(Kind::Outline) }).unwrap()
        };
        let covering = goal(FitGoal::Cover);
        let shared = shared_area(&covering.polygons, &mask) - shared_area(&covering.holes, &mask);
        prop_assert!((shared - mask.count() as f64).abs() < 1e-6, "{shared} of {}", mask.count());
        let balanced = goal(FitGoal::Balance);
        let (area, own) = (balanced.area(), mask.count() as f64);
        prop_assert!((area - own).abs() <= f64::max(0.02 * outer_area(&mask), 1.0) + 1e-9, "{area} {own}");
    }

    #[test]
    fn no_more_corners_than_asked_for(mask in masks(20), most in 3..24_usize, cover in any::<bool>()) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let goal = if cover { FitGoal::Cover } else { FitGoal::Balance };
        let fitting = Fitting { goal, max_points: Some(most), ..Fitting::of(Kind::Outline) };
        match fit_shape(&mask, &fitting) {
            Ok(found) => {
                prop_assert!(found.point_count() <= most, "{} of {most}", found.point_count());
                let shared = shared_area(&found.polygons, &mask);
                prop_assert!(!cover || (shared - mask.count() as f64).abs() < 1e-6, "{shared} of {}", mask.count());
            }
            Err(error) => prop_assert!(matches!(error, FitError::TooFewPoints { .. }) && most < 4, "{error}"),
        }
    }
}

#[test]
fn few_corners_are_kept_to_on_noise_and_so_is_the_goal() {
    for (seed, share) in [(1, 40), (2, 65), (3, 80), (4, 90)] {
        let mut dice = Dice::new(seed);
        let mut pixels = (0..64 * 64).map(|_| dice.below(100) < share);
        let mask = Mask::from_fn(64, 64, |_, _| pixels.next().unwrap());
        for (goal, mask) in [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance]
            .into_iter()
            .flat_map(|goal| [(goal, mask.clone()), (goal, mask.filled())])
        {
            let fitting = Fitting { goal, max_points: Some(30), ..Fitting::of(Kind::Outline) };
            let found = match fit_shape(&mask, &fitting) {
                // What lies inside cannot fill holes.
                Err(FitError::TooFewPoints { .. }) if goal == FitGoal::Inside => continue,
                found => found.unwrap(),
            };
            assert!(found.point_count() <= 30, "{goal:?} {share}: {}", found.point_count());
            let shared = shared_area(&found.polygons, &mask) - shared_area(&found.holes, &mask);
            let is_kept = match goal {
                FitGoal::Cover => (shared - mask.count() as f64).abs() < 1e-6,
                FitGoal::Inside => (shared - found.area()).abs() < 1e-6,
                FitGoal::Balance => shared > 0.3 * found.area(),
            };
            assert!(is_kept, "{goal:?} {share}: {shared} of {} in {}", mask.count(), found.area());
        }
    }
}

/// The areas of all rings of a boundary, holes counted too: what an outline may be off by is a share of it.
fn outer_area(mask: &Mask) -> f64 {
    contours(mask).iter().map(|ring| ring.area().abs() as f64).sum()
}

#[test]
fn corner_touching_pixels_are_apart() {
    let two = Mask::from_fn(2, 2, |x, y| x == y);
    assert_eq!(contours(&two).len(), 2);
    assert_eq!(two.filled(), two);
    // A ring of pixels closed only by a corner still encloses: its hole is filled, and its contour is simple.
    let ring = Mask::from_fn(3, 3, |x, y| !matches!((x, y), (1, 1) | (2, 2)) && (x, y) != (2, 0));
    assert_eq!(contours(&ring.filled()).len(), 1);
    assert!(contours(&ring.filled())[0].polygon().is_ok());
}

#[test]
fn a_pixel_a_row_and_a_full_cell_have_the_outlines_one_would_draw() {
    let count = |mask: &Mask, goal| outline(mask, 1.0, goal).iter().map(|p| p.points().len()).sum::<usize>();
    let full = Mask::from_fn(16, 12, |_, _| true);
    assert_eq!(count(&full, FitGoal::Cover), 4);
    assert_eq!(count(&Mask::from_fn(9, 1, |_, _| true), FitGoal::Cover), 4);
    assert_eq!(count(&Mask::from_fn(1, 1, |_, _| true), FitGoal::Cover), 4);
    // A staircase of one in one is a straight line to within a pixel.
    let stairs = Mask::from_fn(16, 16, |x, y| y >= 15 - x);
    assert_eq!(count(&stairs, FitGoal::Balance), 3);
}

#[test]
fn three_pixels_round_a_corner_get_three_corners_not_two() {
    // Two corners would do for the distance asked, but enclose nothing.
    let bend = Mask::from_fn(2, 2, |x, y| x + y < 2);
    assert_eq!(outline(&bend, 1.9, FitGoal::Balance)[0].points().len(), 3);
}

#[test]
fn a_shortcut_does_not_run_into_an_island_that_touches_at_a_corner() {
    // The bar's shortcut over its notch would pass the lone pixel's corner and cover half of the pixel twice.
    let rows = ["#.......", "##......", "..#.....", ".####...", "######.."];
    let mask = Mask::from_fn(8, 5, |x, y| rows[y as usize].as_bytes()[x as usize] == b'#').filled();
    for tolerance in [0.5, 1.0, 1.5, 2.0, 2.5] {
        let polygons = outline(&mask, tolerance, FitGoal::Cover);
        let shape: f64 = polygons.iter().map(Polygon::area).sum();
        for (x, y) in (0..5).flat_map(|y| (0..8).map(move |x| (x, y))).filter(|&(x, y)| mask.get(x.into(), y.into())) {
            let inside: f64 = polygons.iter().map(|polygon| pixel_area(polygon, x, y)).sum();
            assert!((inside - 1.0).abs() < 1e-9, "{tolerance}: pixel {x} {y} has {inside} inside, shape {shape}");
        }
    }
}
