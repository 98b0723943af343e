//! A stage, a take under construction and what is planted in it.

use crate::world::dice::Dice;
use crate::world::*;
use finitor_core::actor::{Actor, ActorIndex, Carried, Foot, PixelRuns, Pose, Role, Shape};
use finitor_core::art::Mask;
use finitor_core::check::{CheckInput, Checker, Report, Settings};
use finitor_core::finding::Finding;
use finitor_core::layers::LayerSet;
use finitor_core::stage::{Passes, Stage};
use finitor_core::take::Sample;
use finitor_core::{Facing, Point, Polygon, Rect};
use std::collections::BTreeMap;

pub const FLOOR: f64 = 280.0;
/// Walking speed, px a tick.
pub const WALK: f64 = 1.9;
/// What a seed moves art by: the cells that it is drawn in, and the pivot in them.
const CELL: (u32, u32) = (64, 64);
pub const PIVOT: Point = Point::new(32.0, 44.0);

/// Walls all round, a floor, blocks and ledges that leave room to stand and jump.
pub fn stage_of(dice: &mut Dice) -> Stage {
    let mut stage = stage();
    for (name, rect) in [
        ("floor", Rect::new(0.0, FLOOR, 400.0, 300.0)),
        ("left", Rect::new(0.0, 0.0, 10.0, FLOOR)),
        ("right", Rect::new(390.0, 0.0, 400.0, FLOOR)),
        ("top", Rect::new(10.0, 0.0, 390.0, 10.0)),
    ] {
        stage.solids.push(solid(name, rect));
    }
    for index in 0..dice.below(10) {
        let (x, y) = (20.0 + dice.below(12) as f64 * 30.0, 60.0 + dice.below(4) as f64 * 44.0);
        let right = (x + 30.0 + dice.below(3) as f64 * 30.0).min(390.0);
        if dice.below(2) == 0 {
            stage.one_ways.push(one_way(&format!("ledge_{index}"), Rect::new(x, y, right, y + 6.0), Passes::Up));
        } else {
            let thick = 8.0 + dice.below(16) as f64;
            stage.solids.push(solid(&format!("block_{index}"), Rect::new(x, y, right, y + thick)));
        }
    }
    stage
}

pub fn keys_of(dice: &mut Dice) -> Vec<(i8, bool, bool, u8)> {
    let count = 4 + dice.below(16);
    let key =
        |dice: &mut Dice| (dice.below(3) as i8 - 1, dice.below(2) == 0, dice.below(3) == 0, 4 + dice.below(36) as u8);
    (0..count).map(|_| key(dice)).collect()
}

/// A row of another actor: which of the actors, where, which frame.
#[derive(Clone, Debug)]
pub struct Other {
    pub label: &'static str,
    pub at: (f64, f64),
    pub animation: &'static str,
    pub frame: usize,
}

/// A stage and a take under construction.
#[derive(Clone, Debug)]
pub struct Scene {
    pub stage: Stage,
    /// The hero first.
    pub actors: Vec<Actor>,
    pub rows: Vec<Row>,
    /// The hero's frame, where it is not the first.
    pub frames: BTreeMap<u64, usize>,
    pub others: BTreeMap<u64, Other>,
    /// Ticks on which the game draws the picture flipped.
    pub flipped: Vec<u64>,
}

impl Scene {
    pub fn new(stage: Stage, rows: Vec<Row>) -> Scene {
        let (frames, others) = (BTreeMap::new(), BTreeMap::new());
        Scene { stage, actors: vec![hero(0), crate_actor()], rows, frames, others, flipped: vec![] }
    }

    pub fn next(&self) -> u64 {
        self.rows.len() as u64
    }

    pub fn row(&mut self, at: (f64, f64), pose: &'static str, states: &'static str) {
        self.rows.push(Row(self.next(), at, Facing::Right, pose, states));
    }

    /// A row of the hero and one of another actor.
    pub fn both(&mut self, at: (f64, f64), (pose, frame): (&'static str, usize), states: &'static str, other: Other) {
        self.frames.insert(self.next(), frame);
        self.others.insert(self.next(), other);
        self.row(at, pose, states);
    }

    /// Gives the hero an animation.
    pub fn animation(&mut self, name: &str, frames: Vec<Pose>) {
        let of = actor("hero", vec![(name, frames)]);
        self.actors[0].animations.extend(of.animations);
    }

    /// A new place for a scene this wide and high on the floor, where the play before did not come and nothing
    /// is; its left.
    pub fn plot(&self, dice: &mut Dice, wide: f64, high: f64) -> Option<f64> {
        let solids = self.stage.solids.iter().map(|s| s.outline.bounds);
        let taken: Vec<Rect> = solids.chain(self.stage.one_ways.iter().map(|o| o.outline.bounds)).collect();
        let around = |at: (f64, f64)| Rect::new(at.0 - 20.0, at.1 - 30.0, at.0 + 20.0, at.1 + 8.0);
        let bodies: Vec<Rect> = self.rows.iter().map(|row| around(row.1)).collect();
        (0..40).find_map(|_| {
            let left = dice.hundredths(12.0, 388.0 - wide).round();
            let plot = Rect::new(left, FLOOR - high, left + wide, FLOOR);
            let free = |rect: &Rect| plot.intersect(*rect).area() <= 0.0;
            (taken.iter().all(free) && bodies.iter().all(free)).then_some(left)
        })
    }

    /// A wall 40 px high on the floor.
    pub fn wall(&mut self, left: f64) -> Rect {
        let wall = Rect::new(left, FLOOR - 40.0, left + 20.0, FLOOR);
        self.stage.solids.push(solid("wall", wall));
        wall
    }

    pub fn check(&self) -> Report {
        let (layers, settings) = (layers(), Settings::default());
        let input = CheckInput::new(&self.stage, &self.actors, &layers, &settings);
        let mut checker = Checker::new(input);
        for Row(tick, at, facing, animation, states) in &self.rows {
            let sample = |label: &str, at: (f64, f64), animation: &str, frame: usize| {
                let name = label.split(':').next().unwrap();
                let actor = self.actors.iter().position(|actor| actor.name == name).unwrap();
                Sample {
                    label: label.into(),
                    actor: ActorIndex(actor),
                    at: at.into(),
                    facing: Facing::Right,
                    animation: self.actors[actor].find(animation).unwrap(),
                    frame,
                    states: vec![],
                    flipped_art: None,
                    grounded: None,
                    velocity: None,
                    via: Vec::new(),
                }
            };
            let hero = sample("hero", *at, animation, self.frames.get(tick).copied().unwrap_or(0));
            let states = states.split_whitespace().map(String::from).collect();
            let flipped_art = self.flipped.contains(tick).then_some(true);
            let mut samples = vec![Sample { facing: *facing, states, flipped_art, ..hero }];
            let others = self.others.get(tick).into_iter();
            samples.extend(others.map(|other| sample(other.label, other.at, other.animation, other.frame)));
            checker.tick(*tick, &samples);
        }
        checker.finish()
    }
}

/// What must be found: rule, actor, thing, span, figure, cause.
#[derive(Debug)]
pub struct Planted {
    pub actor: &'static str,
    pub with: String,
    pub ticks: (u64, u64),
    pub figure: f64,
    pub cause: &'static str,
    /// Makes the scene as the finding's fix says.
    pub mend: fn(&mut Scene, &Finding),
}

impl Planted {
    /// A fault of the hero on the last tick.
    pub fn new(scene: &Scene, with: &str, figure: f64, cause: &'static str, mend: fn(&mut Scene, &Finding)) -> Planted {
        let last = scene.next() - 1;
        Planted { actor: "hero", with: with.into(), ticks: (last, last), figure, cause, mend }
    }

    /// The same, and the hero stays there for some ticks, so that the fault is known.
    pub fn and_stays(self, scene: &mut Scene, ticks: usize) -> Option<Planted> {
        let Row(_, at, _, animation, _) = *scene.rows.last().unwrap();
        (0..ticks).for_each(|_| scene.row(at, animation, ""));
        Some(self)
    }
}

/// The numbers in a fix, in their order.
pub fn numbers(finding: &Finding) -> Vec<f64> {
    let words = finding.fix.split(|c: char| !(c.is_ascii_digit() || c == '.' || c == '-'));
    words.filter_map(|word| word.trim_end_matches('.').parse().ok()).collect()
}

/// The hero's last row at the place that the fix names.
pub fn put_at_place(scene: &mut Scene, finding: &Finding) {
    let (_, place) = finding.fix.split_once('(').unwrap();
    let (place, _) = place.split_once(')').unwrap();
    let (x, y) = place.split_once(", ").unwrap();
    let place = (x.parse().unwrap(), y.parse().unwrap());
    last_places(scene).for_each(|at| *at = place);
}

/// The places of the hero since it has been where it is at the end.
pub fn last_places(scene: &mut Scene) -> impl Iterator<Item = &mut (f64, f64)> {
    let last = scene.rows.last().unwrap().1;
    scene.rows.iter_mut().rev().take_while(move |row| row.1 == last).map(|row| &mut row.1)
}

/// A frame of the hero with other art, shapes besides its body and feet, all as rectangles in local space.
pub fn drawn(art: &[Rect], shapes: &[(&str, Role, Rect, usize)]) -> Pose {
    let boxes: Vec<Rect> = art.iter().map(|rect| *rect + PIVOT.to_vec2()).collect();
    let opaque = Mask::from_fn(CELL.0, CELL.1, |x, y| {
        let middle = Point::new(f64::from(x) + 0.5, f64::from(y) + 0.5);
        boxes.iter().any(|rect| rect.contains(middle))
    });
    let extra = shapes.iter().map(|(name, role, rect, layer)| {
        let polygon = Polygon::from_rect(*rect).unwrap();
        let set = LayerSet::of(*layer);
        Shape {
            name: (*name).into(),
            role: *role,
            holes: vec![],
            pieces: polygon.pieces().into(),
            polygons: vec![polygon],
            layer: set,
            mask: layers().default_mask(set),
            side: None,
            carries: Carried::default(),
        }
    });
    Pose {
        shapes: extra.collect(),
        foot: Foot::new(&opaque.runs(), PIVOT),
        pixels: PixelRuns::new(&opaque.runs(), PIVOT),
        ..Pose::default()
    }
}

/// The same with the hero's body and feet.
pub fn hero_drawn(art: &[Rect], shapes: &[(&str, Role, Rect, usize)]) -> Pose {
    let hero = hero(0);
    let mut pose = drawn(art, shapes);
    let own = hero.pose(0, 0, Facing::Right).shapes.clone();
    pose.shapes.splice(0..0, own);
    pose
}

/// The opaque pixels of a frame, a unit square each, with the pivot at a place.
pub fn pixels(pose: &Pose, at: (f64, f64)) -> Vec<Rect> {
    let squares = pose.pixels.runs().iter().flat_map(|run| {
        (0..run.width() as u32).map(|x| Rect::new(run.x0 + f64::from(x), run.y0, run.x0 + f64::from(x) + 1.0, run.y1))
    });
    squares.map(|square| square + Point::from(at).to_vec2()).collect()
}
