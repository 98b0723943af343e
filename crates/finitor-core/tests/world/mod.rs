//! A small world for checks: layers, an actor with a box for a body, and a stage built thing by thing.
#![allow(
    dead_code,
    unreachable_pub,
    clippy::type_complexity,
    clippy::unwrap_used,
    reason = "each test file uses a part; a test fails by panicking"
)]

#[path = "../dice/mod.rs"]
pub mod dice;
pub mod fight;

use finitor_core::actor::{Actor, ActorIndex, Carried, DrawnAnimation, Foot, PixelRuns, Pose, Role, Shape};
use finitor_core::art::Mask;
use finitor_core::book;
use finitor_core::check::{CheckInput, Checker, Report, Settings};
use finitor_core::finding::{Finding, InTake};
use finitor_core::fit::Side;
use finitor_core::layers::{Contact, LayerChange, LayerSet, Layers, StateRule};
use finitor_core::stage::{Effect, OneWay, Passes, Solid, Stage, Zone};
use finitor_core::take::Sample;
use finitor_core::{Facing, Point, Polygon, Rect, Vec2};

pub const GROUND: usize = 0;
pub const LEDGE: usize = 1;
pub const HERO: usize = 2;
pub const CRATE: usize = 3;

pub fn layers() -> Layers {
    let mask = |bits: &[usize]| bits.iter().fold(LayerSet::NONE, |set, bit| set.or(LayerSet::of(*bit)));
    Layers {
        names: ["ground", "ledge", "hero", "crate"].map(String::from).to_vec(),
        masks: vec![mask(&[]), mask(&[]), mask(&[GROUND, LEDGE, CRATE]), mask(&[GROUND])],
        contact: Contact::Either,
        states: vec![StateRule {
            name: "ghost".into(),
            changes: vec![LayerChange { layer: HERO, drop: mask(&[GROUND]), ..LayerChange::default() }],
        }],
        ..Layers::default()
    }
}

pub fn shape(name: &str, role: Role, rect: Rect, layer: usize, side: Option<Side>) -> Shape {
    let polygon = Polygon::from_rect(rect).unwrap();
    let set = LayerSet::of(layer);
    Shape {
        name: name.into(),
        role,
        holes: Vec::new(),
        pieces: polygon.pieces().into(),
        polygons: vec![polygon],
        layer: set,
        mask: layers().default_mask(set),
        side,
        carries: Carried::default(),
    }
}

/// A hero 10 px wide and 20 high over its pivot, 4 px ahead and 6 behind; its art ends `lift` px above the pivot's
/// line. Animations: `stand`, `duck` (10 high) and `none` (no body).
pub fn hero(lift: u32) -> Actor {
    let pose = |top: f64| {
        let body = shape("body", Role::Body, Rect::new(-6.0, top, 4.0, 0.0), HERO, None);
        let feet = shape("feet", Role::Sensor, Rect::new(-5.0, 0.0, 3.0, 2.0), HERO, Some(Side::Below));
        let highest = (24.0 + top) as u32;
        let opaque = Mask::from_fn(20, 24, |x, y| (4..14).contains(&x) && (highest..24 - lift).contains(&y));
        Pose {
            shapes: vec![body, feet],
            anchors: vec![],
            foot: Foot::new(&opaque.runs(), Point::new(10.0, 24.0)),
            pixels: PixelRuns::new(&opaque.runs(), Point::new(10.0, 24.0)),
            flip_drift: 0.0,
            picture: Rect::new(-10.0, -24.0, 10.0, 0.0),
            ticks: 6,
        }
    };
    actor("hero", vec![("stand", vec![pose(-20.0)]), ("duck", vec![pose(-10.0)]), ("none", vec![Pose::default()])])
}

/// A hero that shows the same under another name as well.
pub fn hero_with(animation: &str) -> Actor {
    let mut hero = hero(0);
    let mut other = hero.animations[0].clone();
    other.name = animation.into();
    hero.animations.push(other);
    hero
}

/// A hero without its strip.
pub fn shot() -> Actor {
    without_strip(hero(0))
}

/// An actor of whose walking nothing speaks.
pub fn without_strip(mut actor: Actor) -> Actor {
    for pose in actor.animations.iter_mut().flat_map(|animation| &mut animation.frames).flatten() {
        pose.shapes.retain(|shape| shape.name != "feet");
    }
    actor
}

/// An actor drawn facing right.
pub fn actor(name: &str, animations: Vec<(&str, Vec<Pose>)>) -> Actor {
    let drawn = |(name, frames): (&str, Vec<Pose>)| DrawnAnimation {
        name: name.into(),
        faces: Facing::Right,
        frames,
        stands_for: None,
    };
    Actor::new(name.into(), animations.into_iter().map(drawn).collect(), vec![])
}

/// A crate, 16 px a side, that looks for the ground.
pub fn crate_actor() -> Actor {
    let body = shape("body", Role::Body, Rect::new(-8.0, -16.0, 8.0, 0.0), CRATE, None);
    let pose = Pose {
        shapes: vec![body],
        anchors: vec![],
        foot: None,
        pixels: PixelRuns::default(),
        flip_drift: 0.0,
        picture: Rect::ZERO,
        ticks: 6,
    };
    actor("crate", vec![("rest", vec![pose])])
}

pub fn stage() -> Stage {
    Stage {
        name: "yard".into(),
        size: Vec2::new(400.0, 300.0),
        solids: vec![],
        one_ways: vec![],
        zones: vec![],
        spawns: vec![],
        spots: vec![],
        sealed: vec![finitor_core::stage::Side::Bottom],
    }
}

pub fn solid(name: &str, rect: Rect) -> Solid {
    let outline = Polygon::from_rect(rect).unwrap().into();
    Solid { name: name.into(), outline, layer: LayerSet::of(GROUND), mask: LayerSet::NONE }
}

pub fn slope(name: &str, points: &[(f64, f64)]) -> Solid {
    let polygon = Polygon::new(points.iter().map(|&p| Point::from(p)).collect()).unwrap();
    Solid { name: name.into(), outline: polygon.into(), layer: LayerSet::of(GROUND), mask: LayerSet::NONE }
}

pub fn one_way(name: &str, rect: Rect, passes: Passes) -> OneWay {
    let outline = Polygon::from_rect(rect).unwrap().into();
    OneWay { name: name.into(), outline, layer: LayerSet::of(LEDGE), mask: LayerSet::NONE, passes }
}

pub fn zone(name: &str, rect: Rect, effect: Effect) -> Zone {
    let outline = Polygon::from_rect(rect).unwrap().into();
    Zone { name: name.into(), outline, mask: LayerSet::of(HERO), effect, warp: None, cooldown: 0, once: false }
}

/// A stage with a floor at y 200 and a wall on it.
pub fn with_wall() -> Stage {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, 200.0, 400.0, 300.0)));
    stage.solids.push(solid("wall", Rect::new(100.0, 100.0, 120.0, 200.0)));
    stage
}

pub const LEVEL: f64 = 200.0;

/// A stage with a floor alone.
pub fn floored() -> Stage {
    let mut stage = stage();
    stage.solids.push(solid("floor", Rect::new(0.0, LEVEL, 400.0, 300.0)));
    stage
}

/// One row of a take: tick, place, facing, animation, states.
#[derive(Clone, Debug)]
pub struct Row(pub u64, pub (f64, f64), pub Facing, pub &'static str, pub &'static str);

/// Facing right, standing, tick after tick.
pub fn path(places: &[(f64, f64)]) -> Vec<Row> {
    places.iter().enumerate().map(|(tick, &at)| Row(tick as u64, at, Facing::Right, "stand", "")).collect()
}

/// A level walk at a speed from x to x.
pub fn walk(from: f64, to: f64, speed: f64, y: f64) -> Vec<(f64, f64)> {
    let count = ((to - from) / speed) as usize;
    (0..=count).map(|step| (from + speed * step as f64, y)).collect()
}

/// Two planks that meet at x 100, the second lower by some px.
pub fn planks(step: f64) -> Stage {
    let mut stage = stage();
    stage.solids.push(solid("near", Rect::new(0.0, LEVEL, 100.0, 300.0)));
    stage.solids.push(solid("far", Rect::new(100.0, LEVEL + step, 400.0, 300.0)));
    stage
}

/// Walks from x 80 at 1.9 px a tick to a place, stands there for some ticks in an animation, and goes on or not.
pub fn walk_to(end: f64, stands: (&'static str, u64), goes_on: bool) -> Vec<Row> {
    let mut rows: Vec<Row> = Vec::new();
    let mut add = |x: f64, animation| rows.push(Row(rows.len() as u64, (x, LEVEL), Facing::Right, animation, ""));
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

/// The snags of a report that has nothing else: with what, and the figure.
pub fn snags(report: &Report) -> Vec<(String, f64)> {
    assert!(report.findings.iter().all(|f| f.rule.code() == "snagged" && f.remains == Some(0.0)), "{report:?}");
    report.findings.iter().map(|f| (at(f).with.clone(), (f.figure * 1000.0).round() / 1000.0)).collect()
}

/// Checks a take of the hero.
pub fn check(stage: &Stage, actor: Actor, rows: &[Row]) -> Report {
    check_by(stage, actor, rows, &Settings::default())
}

/// The same by other figures.
pub fn check_by(stage: &Stage, actor: Actor, rows: &[Row], settings: &Settings) -> Report {
    let actors = [actor, crate_actor()];
    let layers = layers();
    let mut checker = Checker::new(CheckInput::new(stage, &actors, &layers, settings));
    for Row(tick, at, facing, animation, states) in rows {
        checker.tick(*tick, &[sample(&actors, "hero", (*at, *facing), animation, states)]);
    }
    checker.finish()
}

/// Checks a take of the hero and a crate, tick by tick.
pub fn check_both(stage: &Stage, places: &[((f64, f64), (f64, f64))]) -> Report {
    check_pair(stage, &[hero(0), crate_actor()], places)
}

/// The same of two actors in their first animations.
pub fn check_pair(stage: &Stage, actors: &[Actor; 2], places: &[((f64, f64), (f64, f64))]) -> Report {
    let places: Vec<_> = places.iter().map(|&(one, other)| (Some(one), other)).collect();
    check_while_there(stage, actors, &places)
}

/// The same, the first of them where it is there.
pub fn check_while_there(stage: &Stage, actors: &[Actor; 2], places: &[(Option<(f64, f64)>, (f64, f64))]) -> Report {
    let (layers, settings) = (layers(), Settings::default());
    let mut checker = Checker::new(CheckInput::new(stage, actors, &layers, &settings));
    for (tick, (one, other)) in places.iter().enumerate() {
        let of = |actor: &Actor, at: (f64, f64)| {
            sample(actors, &actor.name, (at, Facing::Right), &actor.animations[0].name, "")
        };
        let first = one.map(|one| of(&actors[0], one));
        let all: Vec<Sample> = first.into_iter().chain([of(&actors[1], *other)]).collect();
        checker.tick(tick as u64, &all);
    }
    checker.finish()
}

pub fn sample(
    actors: &[Actor],
    label: &str,
    (at, facing): ((f64, f64), Facing),
    animation: &str,
    states: &str,
) -> Sample {
    let actor = actors.iter().position(|actor| actor.name == label).unwrap();
    Sample {
        label: label.into(),
        actor: ActorIndex(actor),
        at: at.into(),
        facing,
        animation: actors[actor].find(animation).unwrap(),
        frame: 0,
        states: states.split_whitespace().map(String::from).collect(),
        flipped_art: None,
        grounded: None,
        velocity: None,
        via: Vec::new(),
    }
}

/// Where in a take a finding is.
pub fn at(finding: &Finding) -> &InTake {
    finding.in_take().unwrap()
}

/// First and last tick of a finding.
pub fn span(finding: &Finding) -> (u64, u64) {
    (at(finding).ticks.first, at(finding).ticks.last)
}

/// The default figures but for one.
pub fn settings(key: &str, value: f64) -> Settings {
    let thresholds = book::thresholds();
    Settings::default().with(thresholds.iter().find(|known| known.key == key).unwrap(), value)
}

/// What [`short`] gives of a finding.
pub type Short = (String, String, (u64, u64), f64, &'static str);

/// A finding as [`short`] gives it.
pub fn found(rule: &str, with: &str, ticks: (u64, u64), depth: f64, cause: &'static str) -> Short {
    (rule.into(), with.into(), ticks, depth, cause)
}

/// The findings still shorter: rule, span, figure to a thousandth.
pub fn brief(report: &Report) -> Vec<(&'static str, (u64, u64), f64)> {
    report.findings.iter().map(|f| (f.rule.code(), span(f), (f.figure * 1000.0).round() / 1000.0)).collect()
}

/// The findings in short: rule, thing, span, depth to a thousandth, cause.
pub fn short(report: &Report) -> Vec<Short> {
    let rounded = |depth: f64| (depth * 1000.0).round() / 1000.0;
    let brief = report
        .findings
        .iter()
        .map(|f| (f.rule.code().to_string(), at(f).with.clone(), span(f), rounded(f.figure), at(f).cause.name()));
    brief.collect()
}
