//! Parts that are cut apart, and how high passages are, against sampling.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod support;

use finitor_core::fit::{Geometry, part_siblings};
use finitor_core::geometry::ring_area;
use finitor_core::layers::LayerSet;
use finitor_core::stage::{Solid, Stage, passage_height};
use finitor_core::{Point, Polygon, Vec2};
use proptest::prelude::*;
use support::{cases, convexes};

fn area(geometry: &Geometry) -> f64 {
    geometry.polygons.iter().map(|polygon| ring_area(polygon.points())).sum()
}

proptest! {
    #![proptest_config(cases(400))]

    #[test]
    fn siblings_share_nothing_afterwards_and_keep_to_what_they_were(
        shapes in proptest::collection::vec(convexes(), 2..5),
    ) {
        let before: Vec<Polygon> = shapes.iter().map(|c| Polygon::new(c.points().to_vec()).unwrap()).collect();
        // Of a sliver hardly a place lies inside, however it is cut.
        prop_assume!(before.iter().all(|polygon| polygon.area() > 0.1));
        let mut after: Vec<Geometry> = before.iter().map(|p| Geometry::new(vec![p.clone()], None)).collect();
        let cut = part_siblings(&mut after);
        for (i, one) in after.iter().enumerate() {
            prop_assert!(area(one) <= before[i].area() + 1e-6, "nothing is added");
            prop_assert!(cut[i] || one.polygons[0] == before[i], "what was not cut is as it was");
            for point in one.polygons[0].points() {
                // Cuts round to the last bits; nearer the middle than that every corner lies inside.
                let middle = before[i].pieces()[0].points().iter().fold(Vec2::ZERO, |sum, p| sum + p.to_vec2())
                    / before[i].pieces()[0].points().len() as f64;
                prop_assert!(before[i].contains(point.lerp(middle.to_point(), 1e-6)), "{point:?} lies outside");
            }
            for other in &after[i + 1..] {
                let (a, b) = (&one.polygons[0], &other.polygons[0]);
                let both = |p: Point| a.contains(p) && b.contains(p);
                let bounds = a.bounds().intersect(b.bounds());
                let grid = (1..30).flat_map(|x| (1..30).map(move |y| (f64::from(x) / 30.0, f64::from(y) / 30.0)));
                let shared = grid
                    .map(|(x, y)| Point::new(bounds.x0 + x * bounds.width(), bounds.y0 + y * bounds.height()))
                    .filter(|p| bounds.width() > 0.01 && bounds.height() > 0.01 && both(*p))
                    .count();
                // Places on the common edge are in both.
                prop_assert!(shared <= 30, "{shared} of 841 places are in both");
            }
        }
    }

    #[test]
    fn a_passage_is_as_high_as_its_narrowest_place(
        roof in proptest::collection::vec((0..100_i32, 0..40_i32), 3..6), floor in proptest::collection::vec((0..100_i32, 60..100_i32), 3..6),
    ) {
        let polygon = |points: &[(i32, i32)]| {
            let points: Vec<Point> = points.iter().map(|&(x, y)| Point::new(x.into(), y.into())).collect();
            Polygon::new(finitor_core::geometry::convex_hull(&points))
        };
        let (Ok(roof), Ok(floor)) = (polygon(&roof), polygon(&floor)) else { return Ok(()) };
        let solid = |name: &str, polygon: &Polygon| Solid {
            name: name.into(), outline: polygon.clone().into(), layer: LayerSet::of(0), mask: LayerSet::NONE,
        };
        let stage = Stage {
            name: "yard".into(), size: Vec2::new(100.0, 100.0),
            solids: vec![solid("roof", &roof), solid("floor", &floor)],
            one_ways: vec![], zones: vec![], spawns: vec![], spots: vec![], sealed: vec![],
        };
        // Straight down from many places under the roof.
        let span = |polygon: &Polygon, x: f64| {
            let crossing = polygon.edges().filter(|(a, b)| (a.x <= x) != (b.x <= x));
            let ys: Vec<f64> = crossing.map(|(a, b)| a.y + (b.y - a.y) * (x - a.x) / (b.x - a.x)).collect();
            ys.iter().copied().reduce(f64::min).zip(ys.iter().copied().reduce(f64::max))
        };
        let gaps = (0..4000).filter_map(|k| {
            let x = f64::from(k) / 40.0 + 0.0125;
            Some(span(&floor, x)?.0 - span(&roof, x)?.1)
        });
        match (passage_height(&stage, "roof"), gaps.reduce(f64::min)) {
            (Some(found), Some(least)) => {
                prop_assert!(found <= least + 1e-4 && found >= least - 3.0, "{found}, {least} by sampling");
            }
            (None, None) => {}
            // They share a sliver no wider than the step.
            (found, least) => prop_assert!(roof.bounds().intersect(floor.bounds()).width() < 0.1, "{found:?} {least:?}"),
        }
        prop_assert_eq!(passage_height(&stage, "flor"), None);
    }
}
