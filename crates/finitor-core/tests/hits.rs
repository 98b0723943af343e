//! Hits against hurt shapes: parts, areas and swings by an independent reckoning.
#![allow(clippy::unwrap_used, reason = "a test fails by panicking")]

mod world;

use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Pose, Role, Shape};
use finitor_core::check::{CheckInput, Checker, Report, Settings};
use finitor_core::layers::{Contact, LayerSet, Layers};
use finitor_core::take::Sample;
use finitor_core::{Facing, Polygon, Rect};

const POLE: Rect = Rect::new(4.0, -30.0, 30.0, -22.0);
const HEAD: Rect = Rect::new(-6.0, -40.0, 6.0, -28.0);
const TORSO: Rect = Rect::new(-8.0, -28.0, 8.0, 0.0);

fn shape(name: &str, role: Role, rect: Rect, layer: usize, carries: Carried) -> Shape {
    let polygon = Polygon::from_rect(rect).unwrap();
    Shape {
        name: name.into(),
        role,
        holes: vec![],
        pieces: polygon.pieces(),
        polygons: vec![polygon],
        layer: LayerSet::of(layer),
        mask: LayerSet::of(1 - layer),
        side: None,
        carries,
    }
}

fn actor(name: &str, animations: Vec<(&str, Vec<Vec<Shape>>)>) -> Actor {
    let drawn = |(name, frames): (&str, Vec<Vec<Shape>>)| DrawnAnimation {
        name: name.into(),
        faces: Facing::Right,
        frames: frames.into_iter().map(|shapes| Pose { shapes, ..Pose::default() }).collect(),
        stands_for: None,
    };
    Actor::new(name.into(), animations.into_iter().map(drawn).collect(), vec![])
}

/// Keeper on layer 0 that swings: the pole is out on frames 1 and 2 of 4; gull on layer 1 with a head over a torso.
fn actors() -> Vec<Actor> {
    let pole = || shape("pole", Role::Hit, POLE, 0, Carried { damage: Some(10.0), ..Carried::default() });
    let part = |part: &str, factor: f64| Carried {
        part: Some(part.into()),
        group: Some("upper".into()),
        factor: Some(factor),
        damage: None,
    };
    let swing = vec![vec![], vec![pole()], vec![pole()], vec![]];
    let gull = vec![
        shape("crown", Role::Hurt, HEAD, 1, part("head", 3.0)),
        shape("chest", Role::Hurt, TORSO, 1, part("torso", 1.0)),
    ];
    vec![actor("keeper", vec![("swing", swing), ("idle", vec![vec![]])]), actor("gull", vec![("glide", vec![gull])])]
}

/// Keeper's animation and frame, gull's place; the keeper stands at (0, 0) and faces as told.
fn run(facing: Facing, rows: &[(&str, usize, (f64, f64))]) -> Report {
    let actors = actors();
    let layers = Layers {
        names: vec!["hero".into(), "foe".into()],
        masks: vec![LayerSet::of(1), LayerSet::of(0)],
        contact: Contact::Either,
        ..Layers::default()
    };
    let (stage, settings) = (world::stage(), Settings::default());
    let mut checker = Checker::new(CheckInput::new(&stage, &actors, &layers, &settings));
    for (tick, (animation, frame, at)) in rows.iter().enumerate() {
        let keeper = Sample {
            label: "keeper".into(),
            actor: ActorIndex(0),
            at: (0.0, 0.0).into(),
            facing,
            animation: actors[0].find(animation).unwrap(),
            frame: *frame,
            states: vec![],
            flipped_art: None,
            grounded: None,
            velocity: None,
            via: Vec::new(),
        };
        let gull = Sample {
            label: "gull:1".into(),
            actor: ActorIndex(1),
            at: (*at).into(),
            animation: 0,
            frame: 0,
            ..keeper.clone()
        };
        checker.tick(tick as u64, &[keeper, gull]);
    }
    checker.finish()
}

/// The area two boxes share and its middle, counted in sixteenths of a px2.
fn counted(one: Rect, other: Rect) -> (f64, (f64, f64)) {
    let (mut count, mut sum) = (0.0, (0.0, 0.0));
    for i in -400..400 {
        for j in -400..400 {
            let (x, y) = (f64::from(i) / 4.0 + 0.125, f64::from(j) / 4.0 + 0.125);
            if one.contains((x, y)) && other.contains((x, y)) {
                count += 1.0;
                sum = (sum.0 + x, sum.1 + y);
            }
        }
    }
    (count / 16.0, (sum.0 / count, sum.1 / count))
}

#[test]
fn a_hit_is_told_once_with_the_part_that_it_meets_most() {
    for facing in Facing::BOTH {
        let side = if facing == Facing::Right { 1.0 } else { -1.0 };
        // The head's lower 2 px and the torso's upper 6 px lie in the pole: more of the torso.
        let rows = [("swing", 0), ("swing", 1), ("swing", 2), ("swing", 3)].map(|(a, f)| (a, f, (20.5 * side, 0.0)));
        let report = run(facing, &rows);
        assert_eq!(report.hits.len(), 1, "{:?}", report.hits);
        let hit = &report.hits[0];
        let pole = if facing == Facing::Right { POLE } else { Rect::new(-POLE.x1, POLE.y0, -POLE.x0, POLE.y1) };
        let torso = TORSO + finitor_core::Vec2::new(20.5 * side, 0.0);
        let (area, middle) = counted(pole, torso);
        assert_eq!((hit.tick, hit.by.as_str(), hit.on.as_str(), hit.shape.as_str()), (1, "keeper", "gull:1", "pole"));
        assert_eq!((hit.part.as_deref(), hit.group.as_deref(), hit.damage), (Some("torso"), Some("upper"), Some(10.0)));
        assert!(
            (hit.area - area).abs() < 1e-9 && (hit.at.x - middle.0).abs() < 1e-9 && (hit.at.y - middle.1).abs() < 1e-9,
            "{hit:?}"
        );
        assert_eq!(report.findings, []);
        // 8 px lower the head is in the pole and the torso is not.
        let low = rows.map(|(a, f, (x, _))| (a, f, (x, 8.0)));
        let hit = &run(facing, &low).hits[0];
        assert_eq!((hit.part.as_deref(), hit.factor, hit.damage), (Some("head"), 3.0, Some(30.0)));
    }
    // A touch is no hit, nor is anything that the mask does not look for.
    let touch = [("swing", 1, (38.0, 0.0)), ("swing", 2, (38.0, 0.0))];
    assert_eq!(run(Facing::Right, &touch).hits, []);
}

#[test]
fn one_swing_that_strikes_twice_is_told_and_two_swings_are_not() {
    let (near, far) = ((20.0, 0.0), (60.0, 0.0));
    let twice = [("swing", 1, near), ("swing", 1, far), ("swing", 2, near), ("swing", 3, near)];
    let report = run(Facing::Right, &twice);
    let found: Vec<_> =
        report.findings.iter().map(|f| (f.rule.code(), world::at(f).with.as_str(), world::span(f), f.figure)).collect();
    assert_eq!(found, [("repeat_hit", "gull:1.chest", (2, 2), 2.0)]);
    assert_eq!(report.hits.iter().map(|hit| hit.tick).collect::<Vec<_>>(), [0, 2]);
    // A new swing may strike again: the animation begins anew, or another came between.
    let anew = [("swing", 1, near), ("swing", 2, far), ("swing", 1, near)];
    assert_eq!(run(Facing::Right, &anew).findings, []);
    let between = [("swing", 1, near), ("idle", 0, near), ("swing", 2, near)];
    assert_eq!(run(Facing::Right, &between).findings, []);
}
