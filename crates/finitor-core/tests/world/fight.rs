//! A fight for checks: a keeper that swings a pole at a gull.

use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Part, PixelRuns, Pose, Role, Shape};
use finitor_core::art::Mask;
use finitor_core::check::{CheckInput, Checker, Report, Settings};
use finitor_core::layers::{Contact, LayerSet, Layers};
use finitor_core::take::Sample;
use finitor_core::{Facing, Point, Polygon, Rect};

pub const POLE: Rect = Rect::new(4.0, -30.0, 30.0, -22.0);
pub const HEAD: Rect = Rect::new(-6.0, -40.0, 6.0, -28.0);
pub const TORSO: Rect = Rect::new(-8.0, -28.0, 8.0, 0.0);

pub fn shape(name: &str, role: Role, rect: Rect, layer: usize, carries: Carried) -> Shape {
    let polygon = Polygon::from_rect(rect).unwrap();
    Shape {
        name: name.into(),
        role,
        holes: vec![],
        pieces: polygon.pieces().into(),
        polygons: vec![polygon],
        layer: LayerSet::of(layer),
        mask: LayerSet::of(1 - layer),
        side: None,
        carries,
    }
}

pub fn actor(name: &str, animations: Vec<(&str, Vec<Vec<Shape>>)>) -> Actor {
    let drawn = |(name, frames): (&str, Vec<Vec<Shape>>)| DrawnAnimation {
        name: name.into(),
        faces: Facing::Right,
        frames: frames.into_iter().map(|shapes| Pose { shapes, ..Pose::default() }).collect(),
        stands_for: None,
    };
    Actor::new(name.into(), animations.into_iter().map(drawn).collect(), vec![])
}

/// Keeper on layer 0 that swings: the pole is out on frames 1 and 2 of 4; gull on layer 1 with a head over a torso.
pub fn actors() -> Vec<Actor> {
    let pole = || shape("pole", Role::Hit, POLE, 0, Carried { damage: Some(10.0), ..Carried::default() });
    let part = |part: &str, factor: f64| Carried {
        part: Part { name: Some(part.into()), group: Some("upper".into()), factor: Some(factor), is_vital: false },
        ..Carried::default()
    };
    let swing = vec![vec![], vec![pole()], vec![pole()], vec![]];
    let gull = vec![
        shape("crown", Role::Hurt, HEAD, 1, part("head", 3.0)),
        shape("chest", Role::Hurt, TORSO, 1, part("torso", 1.0)),
    ];
    vec![actor("keeper", vec![("swing", swing), ("idle", vec![vec![]])]), actor("gull", vec![("glide", vec![gull])])]
}

/// Keeper's animation and frame, gull's place; the keeper stands at (0, 0) and faces as told.
pub fn run(facing: Facing, rows: &[(&str, usize, (f64, f64))]) -> Report {
    run_as(&actors(), facing, rows)
}

/// The actors with art: a box for every frame of the keeper, and one for the gull.
pub fn drawn(keeper: Rect, gull: Rect) -> Vec<Actor> {
    let mut all = actors();
    for (actor, art) in all.iter_mut().zip([keeper, gull]) {
        let at = |x: u32| f64::from(x) - 49.5;
        let right = Mask::from_fn(100, 100, |x, y| art.contains((at(x), at(y))));
        let left = Mask::from_fn(100, 100, |x, y| art.contains((0.0 - at(x), at(y))));
        for poses in actor.animations.iter_mut().flat_map(|animation| &mut animation.frames) {
            for (pose, mask) in poses.iter_mut().zip([&right, &left]) {
                pose.pixels = PixelRuns::new(&mask.runs(), Point::new(50.0, 50.0));
            }
        }
    }
    all
}

/// The same fight of other actors.
pub fn run_as(actors: &[Actor], facing: Facing, rows: &[(&str, usize, (f64, f64))]) -> Report {
    let rows: Vec<_> = rows.iter().map(|&(animation, frame, at)| (animation, frame, "glide", at)).collect();
    run_both(actors, facing, &rows)
}

/// The same, with the gull's animation.
pub fn run_both(actors: &[Actor], facing: Facing, rows: &[(&str, usize, &str, (f64, f64))]) -> Report {
    let layers = Layers {
        names: vec!["hero".into(), "foe".into()],
        masks: vec![LayerSet::of(1), LayerSet::of(0)],
        contact: Contact::Either,
        ..Layers::default()
    };
    let (stage, settings) = (super::stage(), Settings::default());
    let mut checker = Checker::new(CheckInput::new(&stage, actors, &layers, &settings)).with_swings();
    for (tick, (animation, frame, gull, at)) in rows.iter().enumerate() {
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
            animation: actors[1].find(gull).unwrap(),
            frame: 0,
            ..keeper.clone()
        };
        checker.tick(tick as u64, &[keeper, gull]);
    }
    checker.finish()
}
