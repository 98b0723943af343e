//! Stops at joints of a flat floor and by thin parts of a body, on their own and against stops that are right.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod world;

use finitor_core::actor::Actor;
use finitor_core::check::Report;
use finitor_core::stage::Stage;
use finitor_core::{Facing, Point, Polygon, Rect};
use world::*;

const FLOOR: f64 = 200.0;

fn planks(step: f64) -> Stage {
    let mut stage = stage();
    stage.solids.push(solid("near", Rect::new(0.0, FLOOR, 100.0, 300.0)));
    stage.solids.push(solid("far", Rect::new(100.0, FLOOR + step, 400.0, 300.0)));
    stage
}

/// Walks from x 80 at 1.9 px a tick to a place, stands there for some ticks in an animation, and goes on or not.
fn walk_to(end: f64, stands: (&'static str, u64), goes_on: bool) -> Vec<Row> {
    let mut rows: Vec<Row> = Vec::new();
    let mut add = |x: f64, animation| rows.push(Row(rows.len() as u64, (x, FLOOR), Facing::Right, animation, ""));
    let mut x: f64 = 80.0;
    while x < end {
        add(x, "stand");
        x = (x + 1.9).min(end);
    }
    add(end, "stand");
    (0..stands.1).for_each(|_| add(end, stands.0));
    if goes_on {
        (1..10).for_each(|k| add(end + 1.9 * f64::from(k), "stand"));
    }
    rows
}

fn snags(report: &Report) -> Vec<(String, f64)> {
    assert!(report.findings.iter().all(|f| f.rule.code() == "snagged" && f.remains == Some(0.0)), "{report:?}");
    report.findings.iter().map(|f| (at(f).with.clone(), (f.figure * 1000.0).round() / 1000.0)).collect()
}

#[test]
fn a_stop_at_a_joint_of_level_floor_is_told_while_the_actor_still_walks() {
    // The front is 4 px ahead of the pivot: at the joint with the pivot at 96. It gets there with 0.8 px of a step of 1.9,
    // and stops wholly on the next.
    for (there, goes_on) in [(3, true), (3, false), (1, true)] {
        let report = check(&planks(0.0), hero(0), &walk_to(96.0, ("stand", there), goes_on));
        assert_eq!(snags(&report), [("yard/far".to_string(), 1.9)], "{there} {goes_on} {:?}", short(&report));
        let found = &report.findings[0];
        assert_eq!((at(found).worst.at, at(found).worst.tick), (Point::new(100.0, FLOOR), 10), "{found:?}");
        assert!(found.fix.contains("Merge the two solids"), "{}", found.fix);
    }
    // Stops elsewhere, walks on without one, and a stop that the actor wants are none.
    let silent = [
        (planks(0.0), walk_to(95.9, ("stand", 3), true)),
        (planks(0.0), walk_to(140.0, ("stand", 3), false)),
        (planks(0.0), walk_to(96.0, ("duck", 3), true)),
        (planks(3.0), walk_to(96.0, ("stand", 3), false)),
    ];
    for (stage, rows) in silent {
        assert_eq!(snags(&check(&stage, hero(0), &rows)), []);
    }
    // One floor instead of two: the mend.
    let mut merged = stage();
    merged.solids.push(solid("floor", Rect::new(0.0, FLOOR, 400.0, 300.0)));
    assert_eq!(snags(&check(&merged, hero(0), &walk_to(96.0, ("stand", 3), true))), []);
}

/// A hero whose body has a rod of this many px over its head, 12 px out in front.
fn with_rod(thick: f64) -> Actor {
    let mut actor = hero(0);
    let rod = Polygon::from_rect(Rect::new(0.0, -22.0 - thick, 16.0, -22.0)).unwrap();
    for pose in actor.animations.iter_mut().flat_map(|a| &mut a.frames).flatten() {
        if let Some(body) = pose.shapes.iter_mut().find(|shape| shape.name == "body") {
            body.pieces.extend(rod.pieces());
            body.polygons.push(rod.clone());
        }
    }
    actor
}

#[test]
fn a_stop_by_a_thin_part_of_the_body_is_told_and_one_by_a_wall_is_not() {
    // A beam at the height of the rod alone, 16 px ahead of the pivot; or a wall as high as the whole body, met by the rod
    // first, or one behind the beam that stops the rest as well.
    let beam = |rects: &[Rect]| {
        let mut stage = planks(0.0);
        rects.iter().for_each(|rect| stage.solids.push(solid("beam", *rect)));
        stage
    };
    let high = [Rect::new(120.0, FLOOR - 40.0, 140.0, FLOOR - 21.0)];
    let wall = [Rect::new(120.0, FLOOR - 60.0, 140.0, FLOOR)];
    let rows = walk_to(104.0, ("stand", 3), false);
    let report = check(&beam(&high), with_rod(2.0), &rows);
    assert_eq!(snags(&report), [("yard/beam".to_string(), 2.0)], "{:?}", short(&report));
    assert!(report.findings[0].fix.contains("`min_thickness = 3` on body"), "{}", report.findings[0].fix);
    // What would have stopped the rest 12 px on stops the rod by right; so does a rod that is no thin part.
    assert_eq!(snags(&check(&beam(&wall), with_rod(2.0), &rows)), []);
    assert_eq!(snags(&check(&beam(&wall), hero(0), &walk_to(116.0, ("stand", 3), false))), []);
    assert_eq!(snags(&check(&beam(&high), with_rod(5.0), &rows)), []);
}
