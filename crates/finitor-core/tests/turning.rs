//! Turning: twice is the identity on bits, and the shape of a mirrored picture is the mirrored shape.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::actor::{Foot, Pose, Role, Shape};
use finitor_core::fit::{Angle, FitGoal, Fitting, Kind, Selection, Sides, fit_selection, measure};
use finitor_core::geometry::DEVIATION_PRECISION;
use finitor_core::layers::LayerSet;
use finitor_core::{Facing, Point, Polygon};
use proptest::prelude::*;
use support::{cases, convexes, masks};

const KINDS: [Kind; 7] = [Kind::Box, Kind::Circle, Kind::Capsule, Kind::Hull, Kind::Outline, Kind::Pieces, Kind::Auto];
const GOALS: [FitGoal; 3] = [FitGoal::Cover, FitGoal::Inside, FitGoal::Balance];

/// Every number of a pose, to the bit, with the names beside them.
fn bits(pose: &Pose) -> Vec<(String, Vec<u64>)> {
    let point = |p: &Point| [p.x.to_bits(), p.y.to_bits()];
    let shapes = pose.shapes.iter().map(|shape| {
        let rings = shape.polygons.iter().flat_map(Polygon::points);
        let pieces = shape.pieces.iter().flat_map(|piece| piece.points());
        (shape.name.clone(), rings.chain(pieces).flat_map(point).collect())
    });
    let anchors = pose.anchors.iter().map(|(name, at)| (name.clone(), point(at).to_vec()));
    let foot = pose.foot.iter().map(|foot| {
        let runs = foot.runs.iter().flat_map(|(a, b)| [a.to_bits(), b.to_bits()]);
        ("foot".to_string(), runs.chain([foot.y.to_bits()]).collect())
    });
    shapes.chain(anchors).chain(foot).collect()
}

proptest! {
    #![proptest_config(cases(400))]

    #[test]
    fn turning_twice_is_the_identity_on_bits(
        shapes in proptest::collection::vec(convexes(), 1..5), width in 1..80_u32, twice_pivot in 0..160_u32,
        lines in proptest::collection::vec((0..60_u32, 1..9_u32), 1..4), swapped in any::<bool>(),
    ) {
        let names = ["wall_left", "wall_right", "body", "head"];
        let shapes = shapes.iter().zip(names).map(|(convex, name)| {
            let polygon = Polygon::new(convex.points().to_vec()).unwrap();
            let pieces = polygon.pieces();
            let (role, layer) = (Role::Sensor, LayerSet::NONE);
            Shape { name: name.into(), role, polygons: vec![polygon], holes: vec![], pieces: pieces.into(), layer, mask: layer, side: None, carries: Default::default() }
        });
        let pivot = f64::from(twice_pivot) / 2.0;
        let runs = lines.iter().map(|&(start, length)| (f64::from(start) - pivot, f64::from(start + length) - pivot));
        let pose = Pose {
            shapes: shapes.collect(),
            anchors: vec![("lamp_left".into(), Point::new(3.25, -7.5)), ("lamp_right".into(), Point::new(-0.0 + 0.0, 2.0))],
            foot: Some(Foot { y: 0.5, runs: runs.collect() }),
            pixels: Default::default(),
            flip_drift: f64::from(width) - 2.0 * pivot,
            picture: finitor_core::Rect::ZERO, ticks: 6,
        };
        let pair = |a: &str, b: &str| (a.to_string(), b.to_string());
        let swaps = if swapped { vec![pair("wall_left", "wall_right"), pair("lamp_left", "lamp_right")] } else { vec![] };
        let turned = pose.turned(&swaps);
        prop_assert_eq!(bits(&turned.turned(&swaps)), bits(&pose));
        prop_assert!(turned.shapes.iter().flat_map(|s| &s.polygons).all(|p| p.area() > 0.0), "clockwise");
        // What is named left is where what was named right was, mirrored.
        let place = |pose: &Pose, name: &str| pose.anchors.iter().find(|(known, _)| known == name).unwrap().1;
        let other = if swapped { "lamp_right" } else { "lamp_left" };
        prop_assert_eq!(place(&turned, "lamp_left").x, 0.0 - place(&pose, other).x);
    }

    #[test]
    fn the_shape_of_a_mirrored_picture_is_the_mirrored_shape_and_as_good(
        mask in masks(16), kind in 0..7_usize, goal in 0..3_usize, twice_pivot in 0..40_u32, angle in 0..2_usize,
        side in proptest::option::of(0..16_u32),
    ) {
        let mask = mask.filled();
        prop_assume!(!mask.is_empty());
        let width = f64::from(mask.width());
        let pivot = Point::new(f64::from(twice_pivot) / 2.0, 9.0);
        let sides = Sides { left: side.filter(|_| kind < 1).map(f64::from), ..Sides::default() };
        let angle = [Angle::Square, Angle::Any][angle];
        let fitting = Fitting { goal: GOALS[goal], angle, sides, ..Fitting::of(KINDS[kind]) };
        let drawn = Selection::in_cell(mask.clone());
        let turned = Selection::in_cell(mask.mirrored());
        // In the mirrored cell the pivot and the sides are as far from the right as they were from the left.
        let other = Point::new(width - pivot.x, pivot.y);
        let right = Sides { right: sides.left.map(|left| width - left), ..Sides::default() };
        let one = fit_selection(&drawn, &fitting, pivot, Facing::Right);
        let two = fit_selection(&turned, &Fitting { sides: right, ..fitting.clone() }, other, Facing::Left);
        match (one, two) {
            (Ok(one), Ok(two)) => {
                prop_assert_eq!(&one.geometry.mirrored(), &two.geometry);
                prop_assert_eq!(one.kind, two.kind);
                let quality = |geometry: &finitor_core::fit::Geometry, mask, at: Point| {
                    measure(&geometry.translated(at.x, at.y), mask)
                };
                let (a, b) = (quality(&one.geometry, &mask, pivot), quality(&two.geometry, &mask.mirrored(), other));
                let (a, b) = (a.unwrap(), b.unwrap());
                for (x, y) in [(a.iou, b.iou), (a.covered, b.covered), (a.excess, b.excess)] {
                    prop_assert!((x - y).abs() < 1e-9, "{a:?} {b:?}");
                }
                // Found by halving, to a stated precision.
                prop_assert!((a.deviation - b.deviation).abs() <= DEVIATION_PRECISION, "{a:?} {b:?}");
            }
            (one, two) => prop_assert_eq!(one.is_err(), two.is_err()),
        }
    }
}
